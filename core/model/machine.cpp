#include "core/model/machine.h"

#include "core/model/visitor.h"

namespace fulmox {

void Site::describe(FieldVisitor& v) {
    v.quantity(
        gravity, {.key = "gravity",
                     .label = "Gravity",
                     .unit = "m/s²",
                     .range = {0, 100},
                     .typical = {9.7, 9.9},
                     .help = "Standard acceleration of gravity 9.80665 m/s²; local values differ by up to 0.3 %.",
                     .source = "CGPM 1901; ISO 80000-3",
                     .symbol = "g",
                     .serves = need::force});
    v.quantity(ambient, {.key = "ambient",
                            .label = "Ambient temperature",
                            .unit = "°C",
                            .range = {-60, 120},
                            .typical = {0, 45},
                            .help = "Air at the motor in service. Motors are rated at 40 °C.",
                            .source = "IEC 60034-1",
                            .symbol = "θ_amb",
                            .serves = need::surroundings});
    v.quantity(altitude, {.key = "altitude",
                             .label = "Altitude",
                             .unit = "m",
                             .range = {-500, 6000},
                             .typical = {-500, 3000},
                             .help = "Above 1000 m the permitted temperature rise falls by 1 % per 100 m.",
                             .source = "IEC 60034-1",
                             .symbol = "h",
                             .serves = need::surroundings});
}

void Machine::describe(FieldVisitor& v) {
    v.text(name, {"name", "Machine", "Name of the machine, as it stands on the drawing."});
    v.text(notes, {"notes", "Notes", "Anything worth knowing later.", true});
    v.text(currency, {"currency", "Currency", "Of every price, as in EUR or USD. Nothing is converted."});
    v.choice(unit_system,
        {"unit_system", "Units", unit_systems, "Units in which results are shown. What you type keeps its own unit."});
    v.group(site, {"site", "Site"});
    v.list(policies, {"policies", "Policies", "policy", "Rules of acceptance; each axis names one.", 100});
    v.list(materials, {"materials", "Materials", "material", "Densities that bodies name.", 500});
    v.list(motors, {"motors", "Own motors", "motor", "Motors of this project that stand in no catalogue.", 1000});
    v.list(axes, {"axes", "Axes", "axis", "", 200});
}

} // namespace fulmox

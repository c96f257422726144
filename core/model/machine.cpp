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

void Surroundings::describe(FieldVisitor& v) {
    v.flag(dust, {"dust", "Dust or chips", "Motors want a protection class for it; brushes and open encoders suffer."});
    v.flag(vacuum, {"vacuum", "Vacuum", "No air carries heat away, grease gasses out, brushes wear in hours."});
    v.flag(clean_room, {"clean_room", "Clean room", "Nothing may shed particles: no brushes, sealed bearings."});
    v.flag(explosive_gas,
        {"explosive_gas", "Explosive gas or dust", "Certified equipment only; no motor is explosion-proof by itself."});
    v.flag(sterilising, {"sterilising", "Steam or wash-down", "Heat and moisture: sealed, rated for the cycles."});
    v.flag(vibration, {"vibration", "Vibration", "Brushes bounce, encoders and connectors suffer."});
    v.flag(battery, {"battery", "Runs on a battery", "A current that flows at rest empties it."});
    v.choice(tuning, {.key = "tuning",
                         .label = "Tuning",
                         .options = skills,
                         .help = "Who sets the control loops of a servo axis by axis.",
                         .optional = true,
                         .serves = need::record});
    v.choice(pulses, {.key = "pulses",
                         .label = "Controller gives",
                         .options = sources,
                         .help = "A controller that stalls for 10 ms costs an open-loop stepper its steps.",
                         .optional = true,
                         .serves = need::record});
    v.choice(budget, {.key = "budget",
                         .label = "Budget",
                         .options = budgets,
                         .help = "For motor and drive of an axis.",
                         .optional = true,
                         .serves = need::record});
}

double Operation::seconds_per_year() const {
    return hours_per_day.given() && days_per_year.given() ? 3600 * hours_per_day.si * days_per_year.si
                                                          : std::numeric_limits<double>::quiet_NaN();
}

void Operation::describe(FieldVisitor& v) {
    const auto optional = [](const char* key, const char* label, const char* unit, double most, const char* help,
                              const IfEmpty& if_empty) {
        return optional_quantity(key, label, unit, most, help, if_empty, "", need::energy);
    };
    v.quantity(hours_per_day, optional("hours_per_day", "Hours a day", "1", 24, "In which the machine runs its cycles.",
                                  left_empty::not_asked("no yearly figures")));
    v.quantity(days_per_year, optional("days_per_year", "Days a year", "1", 366, "On which it runs.",
                                  left_empty::not_asked("no yearly figures")));
    v.quantity(tariff, optional("tariff", "Tariff per kWh", "1", 1e6, "In the currency of the project.",
                           left_empty::not_asked("no costs")));
    v.quantity(supply_efficiency, optional("supply_efficiency", "Supply efficiency", "%", 100,
                                      "From the mains to the bus.", left_empty::stands_in("100 %", 100)));
}

void Machine::describe(FieldVisitor& v) {
    v.text(name, {"name", "Machine", "Name of the machine, as it stands on the drawing."});
    v.text(notes, {"notes", "Notes", "Anything worth knowing later.", true});
    v.text(currency, {"currency", "Currency", "Of every price, as in EUR or USD. Nothing is converted."});
    v.choice(unit_system,
        {"unit_system", "Units", unit_systems, "Units in which results are shown. What you type keeps its own unit."});
    v.group(site, {"site", "Site"});
    v.group(surroundings, {"surroundings", "Surroundings", "", false, need::record});
    v.group(operation, {"operation", "Operation", "", false, need::energy});
    v.list(policies, {"policies", "Policies", "policy", "Rules of acceptance; each axis names one.", 100});
    v.list(materials, {"materials", "Materials", "material", "Densities that bodies name.", 500});
    const auto own = [&](auto& list, const char* key, const char* label, const char* item) {
        v.list(list, {key, label, item, "Of this project; they stand in no catalogue.", 1000});
    };
    own(motors, "motors", "Own motors", "motor");
    own(gearheads, "gearheads", "Own gearheads", "gearhead");
    own(couplings, "couplings", "Own couplings", "coupling");
    own(brakes, "brakes", "Own brakes", "brake");
    own(drives, "drives", "Own drives", "drive");
    own(supplies, "supplies", "Own supplies", "supply");
    v.list(axes, {"axes", "Axes", "axis", "", 200});
}

} // namespace fulmox

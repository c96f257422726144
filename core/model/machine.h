// The machine as the user describes it: plain structs, each with the one description of its fields.
#pragma once

#include "core/model/axis.h"
#include "core/model/policy.h"
#include "core/model/shared_list.h"

#include <string>
#include <vector>

namespace fulmox {

/// Where the machine stands.
struct Site {
    Quantity<Kind::acceleration> gravity{"9.80665 m/s²"};
    Quantity<Kind::temperature> ambient{"25 °C"};
    Quantity<Kind::length> altitude{"0 m"};
    Extra extra;

    bool operator==(const Site&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(
            s.gravity, {.key = "gravity",
                           .label = "Gravity",
                           .unit = "m/s²",
                           .range = {0, 100},
                           .typical = {9.7, 9.9},
                           .help = "Standard acceleration of gravity 9.80665 m/s²; local values differ by up to 0.3 %.",
                           .source = "CGPM 1901; ISO 80000-3",
                           .symbol = "g",
                           .serves = need::force});
        v.quantity(s.ambient, {.key = "ambient",
                                  .label = "Ambient temperature",
                                  .unit = "°C",
                                  .range = {-60, 120},
                                  .typical = {0, 45},
                                  .help = "Air at the motor in service. Motors are rated at 40 °C.",
                                  .source = "IEC 60034-1",
                                  .symbol = "θ_amb",
                                  .serves = need::surroundings});
        v.quantity(s.altitude, {.key = "altitude",
                                   .label = "Altitude",
                                   .unit = "m",
                                   .range = {-500, 6000},
                                   .typical = {-500, 3000},
                                   .help = "Above 1000 m the permitted temperature rise falls by 1 % per 100 m.",
                                   .source = "IEC 60034-1",
                                   .symbol = "h",
                                   .serves = need::surroundings});
    }
};

/// The whole project.
struct Machine {
    std::string name;
    std::string notes;
    UnitSystem unit_system = UnitSystem::si;
    Site site;
    std::vector<Policy> policies = shipped_policies();
    std::vector<Material> materials = shipped_materials();
    std::vector<Motor> motors; ///< the project's own, typed by hand
    SharedList<Axis> axes;
    Extra extra;

    bool operator==(const Machine&) const = default;

    static constexpr Option unit_systems[] = {{"si", "SI"}, {"inch_pound", "Inch-pound"}, {"mixed", "Mixed"}};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "Machine", "Name of the machine, as it stands on the drawing."});
        v.text(s.notes, {"notes", "Notes", "Anything worth knowing later.", true});
        v.choice(s.unit_system, {"unit_system", "Units", unit_systems,
                                    "Units in which results are shown. What you type keeps its own unit."});
        v.group(s.site, {"site", "Site"});
        v.list(s.policies, {"policies", "Policies", "policy", "Rules of acceptance; each axis names one.", 100});
        v.list(s.materials, {"materials", "Materials", "material", "Densities that bodies name.", 500});
        v.list(s.motors, {"motors", "Own motors", "motor", "Motors of this project that stand in no catalogue.", 1000});
        v.list(s.axes, {"axes", "Axes", "axis", "", 200});
    }
};

} // namespace fulmox

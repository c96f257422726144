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

    void describe(FieldVisitor& v);
};

/// The whole project.
struct Machine {
    std::string name;
    std::string notes;
    std::string currency; ///< of prices, "EUR"; empty: not said
    UnitSystem unit_system = UnitSystem::si;
    Site site;
    std::vector<Policy> policies = shipped_policies();
    std::vector<Material> materials = shipped_materials();
    std::vector<Motor> motors; ///< the project's own, typed by hand
    SharedList<Axis> axes;
    Extra extra;

    bool operator==(const Machine&) const = default;

    static constexpr Option unit_systems[] = {{"si", "SI"}, {"inch_pound", "Inch-pound"}, {"mixed", "Mixed"}};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

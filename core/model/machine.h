// The machine as the user describes it: plain structs, each with the one description of its fields.
#pragma once

#include "core/model/axis.h"
#include "core/model/policy.h"
#include "core/model/shared_list.h"
#include "core/model/supply.h"

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

enum class TuningSkill { none, some, expert };
enum class PulseSource { none, real_time, jittery };
enum class Budget { low, middle, open };

/// What surrounds the machine and what is at hand, asked once for all axes.
struct Surroundings {
    bool dust = false, vacuum = false, clean_room = false, explosive_gas = false, sterilising = false,
         vibration = false, battery = false;
    TuningSkill tuning = TuningSkill::some;
    PulseSource pulses = PulseSource::real_time;
    Budget budget = Budget::middle;
    Extra extra;

    bool operator==(const Surroundings&) const = default;

    static constexpr Option skills[] = {{"none", "nobody tunes"}, {"some", "some"}, {"expert", "an expert"}};
    static constexpr Option sources[] = {
        {"none", "no pulses"}, {"real_time", "real-time pulses"}, {"jittery", "pulses that stall"}};
    static constexpr Option budgets[] = {{"low", "low"}, {"middle", "middle"}, {"open", "open"}};

    void describe(FieldVisitor& v);
};

/// How long it runs and what the energy costs.
struct Operation {
    Quantity<Kind::number> hours_per_day;
    Quantity<Kind::number> days_per_year;
    Quantity<Kind::number> tariff; ///< in the project's currency, a kWh
    Quantity<Kind::number> supply_efficiency;
    Extra extra;

    bool operator==(const Operation&) const = default;
    /// s a year; NaN where not both are given.
    double seconds_per_year() const;

    void describe(FieldVisitor& v);
};

/// Parts of every kind, as a catalogue or a project has them.
struct PartLists {
    std::vector<Motor> motors;
    std::vector<Stage> gearheads;
    std::vector<Coupling> couplings;
    std::vector<Brake> brakes;
    std::vector<Drive> drives;
    std::vector<Supply> supplies;

    bool operator==(const PartLists&) const = default;
};

/// The whole project; its part lists are those of its own, which stand in no catalogue.
struct Machine : PartLists {
    std::string name;
    std::string notes;
    std::string currency; ///< of prices, "EUR"; empty: not specified
    UnitSystem unit_system = UnitSystem::si;
    Site site;
    Surroundings surroundings;
    Operation operation;
    std::vector<Policy> policies = shipped_policies();
    std::vector<Material> materials = shipped_materials();
    SharedList<Axis> axes;
    Extra extra;

    bool operator==(const Machine&) const = default;

    static constexpr Option unit_systems[] = {{"si", "SI"}, {"inch_pound", "Inch-pound"}, {"mixed", "Mixed"}};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

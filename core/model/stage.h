// A transmission stage between the motor and the mechanism.
#pragma once

#include "core/model/field.h"

namespace fulmox {

enum class StageKind { gearhead, belt, gears };

struct Stage {
    std::string name;
    StageKind kind = StageKind::gearhead;
    Quantity<Kind::number> ratio;
    Quantity<Kind::inertia> inertia;
    Quantity<Kind::number> efficiency{"0.95"};
    Quantity<Kind::number> efficiency_back;
    // of its sheet: torques at the output, speeds at the input
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::number> exponent; ///< of its fatigue; not given: 3
    Quantity<Kind::torque> peak_torque;
    Quantity<Kind::torque> emergency_torque;
    Quantity<Kind::angular_speed> nominal_speed;
    Quantity<Kind::angular_speed> top_speed;
    Quantity<Kind::time> life; ///< at rated torque and nominal speed
    Extra extra;
    bool operator==(const Stage&) const = default;

    static constexpr Option kinds[] = {
        {"gearhead", "Gearhead"}, {"belt", "Belt or chain reduction"}, {"gears", "Gear pair"}};

    /// Its sheet gives something the cycle is held against.
    bool has_sheet() const {
        return rated_torque.given() || peak_torque.given() || emergency_torque.given() || nominal_speed.given() ||
               top_speed.given();
    }

    void describe(FieldVisitor& v);
};

} // namespace fulmox

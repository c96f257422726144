// Rack and pinion, belt and chain, linear motor, free form: the load travels along a line.
#pragma once

#include "core/model/field.h"
#include "core/model/mechanisms/losses.h"

namespace fulmox {

enum class Teeth { straight, helical };

/// The pinion turns, the carriage or the rack travels.
struct RackPinion {
    static constexpr const char* kind_key = "rack";
    static constexpr const char* kind_label = "Rack and pinion";
    Teeth cut = Teeth::straight;
    Quantity<Kind::number> teeth;
    Quantity<Kind::length> module;
    Quantity<Kind::angle> helix{"19.5283 deg"};
    Quantity<Kind::inertia> pinion_inertia;
    Losses losses;
    Extra extra;
    bool operator==(const RackPinion&) const = default;

    static constexpr Option cuts[] = {{"straight", "straight"}, {"helical", "helical"}};
    static constexpr Motion motion{false, false, false,
        Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::counterweight};

    void describe(FieldVisitor& v);
};

enum class Loop { timing_belt, chain };
enum class MotorSeat { fixed, rides };

/// The carriage is fixed to the loop.
struct BeltDrive {
    static constexpr const char* kind_key = "belt";
    static constexpr const char* kind_label = "Timing belt or chain";
    Loop loop = Loop::timing_belt;
    MotorSeat motor_seat = MotorSeat::fixed;
    Quantity<Kind::number> teeth;
    Quantity<Kind::length> pitch;
    Quantity<Kind::inertia> pulley_inertia;
    Quantity<Kind::number> idlers{"1"};
    Quantity<Kind::inertia> idler_inertia;
    Quantity<Kind::length> idler_diameter;
    Quantity<Kind::mass> belt_mass;
    Quantity<Kind::mass> riding_mass;
    Losses losses;
    Extra extra;
    bool operator==(const BeltDrive&) const = default;

    static constexpr Option loops[] = {{"timing_belt", "timing belt"}, {"chain", "chain"}};
    static constexpr Option seats[] = {{"fixed", "stands fixed"}, {"rides", "rides on the carriage"}};
    static constexpr Motion motion{false, false, false,
        Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::counterweight};

    void describe(FieldVisitor& v);
};

/// Force instead of torque; the moving coil or magnet belongs to the carriage.
struct LinearMotor {
    static constexpr const char* kind_key = "linear_motor";
    static constexpr const char* kind_label = "Direct linear drive";
    Extra extra;
    bool operator==(const LinearMotor&) const = default;

    static constexpr Motion motion{false, true, false,
        Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::counterweight};

    void describe(FieldVisitor& v);
};

enum class FreeMotion { linear, rotary };

/// Given radius, inertia, friction and torque.
struct FreeForm {
    static constexpr const char* kind_key = "free";
    static constexpr const char* kind_label = "Free form";
    FreeMotion moves = FreeMotion::linear;
    Quantity<Kind::length> travel;
    Quantity<Kind::inertia> inertia;
    Quantity<Kind::torque> friction_torque;
    Quantity<Kind::torque> constant_torque;
    Losses losses;
    Extra extra;
    bool operator==(const FreeForm&) const = default;

    static constexpr Option kinds[] = {{"linear", "along a line"}, {"rotary", "about the shaft"}};

    void describe(FieldVisitor& v);
};

enum class DemandAt { shaft, screw };

/// A demand that was calculated or measured elsewhere: the cycle's process forces are the whole of it, acceleration of
/// the load included. What the motor's rotor takes comes on top.
struct GivenDemand {
    static constexpr const char* kind_key = "demand";
    static constexpr const char* kind_label = "Demand from elsewhere";
    DemandAt at = DemandAt::shaft;
    Quantity<Kind::length> lead;
    Quantity<Kind::inertia> inertia; ///< in the demand already; for the ratio to the rotor
    Losses losses{Quantity<Kind::number>("1"), {}, {}, {}};
    Extra extra;
    bool operator==(const GivenDemand&) const = default;

    static constexpr Option places[] = {{"shaft", "at a shaft"}, {"screw", "at a screw"}};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

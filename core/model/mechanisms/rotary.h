// Tables, arms, cranks and fans: the shaft turns through an angle.
#pragma once

#include "core/model/field.h"
#include "core/model/mechanisms/losses.h"

namespace fulmox {

/// Bodies ride on the table; the axis may be tilted.
struct RotaryTable {
    static constexpr const char* kind_key = "table";
    static constexpr const char* kind_label = "Rotary or index table, spindle";
    Quantity<Kind::inertia> table_inertia;
    Quantity<Kind::angle> tilt;
    Quantity<Kind::angle> horizontal_at;
    Quantity<Kind::length> payload_radius;
    Quantity<Kind::torque> friction_torque;
    Losses losses;
    Extra extra;
    bool operator==(const RotaryTable&) const = default;

    static constexpr Motion motion{true, false, false, Motion::payload | Motion::start};

    void describe(FieldVisitor& v);
};

/// Pivot axis level; gravity torque m g r cos(θ − θ_h).
struct Arm {
    static constexpr const char* kind_key = "arm";
    static constexpr const char* kind_label = "Arm swinging in gravity";
    Quantity<Kind::inertia> arm_inertia;
    Quantity<Kind::mass> arm_mass;
    Quantity<Kind::length> arm_centre;
    Quantity<Kind::length> payload_radius;
    Quantity<Kind::angle> horizontal_at;
    Quantity<Kind::torque> friction_torque;
    Losses losses;
    Extra extra;
    bool operator==(const Arm&) const = default;

    static constexpr Motion motion{true, false, false, Motion::payload | Motion::start};

    void describe(FieldVisitor& v);
};

/// x = c cos θ + √(l² − c² sin² θ); at 0 the slider is furthest out.
struct SliderCrank {
    static constexpr const char* kind_key = "slider_crank";
    static constexpr const char* kind_label = "Slider-crank";
    Quantity<Kind::length> crank;
    Quantity<Kind::length> rod;
    Quantity<Kind::inertia> crank_inertia;
    Losses losses;
    Extra extra;
    bool operator==(const SliderCrank&) const = default;

    static constexpr Motion motion{
        true, false, true, Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::start};

    void describe(FieldVisitor& v);
};

/// x = c sin θ.
struct ScotchYoke {
    static constexpr const char* kind_key = "scotch_yoke";
    static constexpr const char* kind_label = "Scotch yoke";
    Quantity<Kind::length> crank;
    Quantity<Kind::inertia> crank_inertia;
    Losses losses;
    Extra extra;
    bool operator==(const ScotchYoke&) const = default;

    static constexpr Motion motion{
        true, false, true, Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::start};

    void describe(FieldVisitor& v);
};

/// Load torque T_ref (ω/ω_ref)², against the motion.
struct Fan {
    static constexpr const char* kind_key = "fan";
    static constexpr const char* kind_label = "Fan, pump or mixer";
    Quantity<Kind::inertia> rotor_inertia;
    Quantity<Kind::torque> reference_torque;
    Quantity<Kind::angular_speed> reference_speed;
    Losses losses;
    Extra extra;
    bool operator==(const Fan&) const = default;

    static constexpr Motion motion{true, false, false, 0};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

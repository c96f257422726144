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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.table_inertia, {.key = "table_inertia",
                                        .label = "Table inertia",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e10},
                                        .help = "Of the table itself; or describe it as a body on the shaft.",
                                        .required = false,
                                        .if_empty = "none, or as a body",
                                        .symbol = "J_t",
                                        .serves = need::inertia});
        v.quantity(s.tilt, {.key = "tilt",
                               .label = "Tilt of the axis",
                               .unit = "deg",
                               .range = {0, 180},
                               .help = "From the vertical. A tilted table with an eccentric load swings in gravity.",
                               .required = false,
                               .if_empty = "0, axis vertical",
                               .symbol = "δ",
                               .serves = need::force});
        v.quantity(s.horizontal_at, {.key = "horizontal_at",
                                        .label = "Level at",
                                        .unit = "deg",
                                        .range = {-360, 360},
                                        .help = "Angle of the table at which a body at offset angle 0 stands level "
                                                "with the axis on a tilted table: where gravity pulls hardest.",
                                        .required = false,
                                        .if_empty = "0",
                                        .rare = true,
                                        .symbol = "θ_h",
                                        .serves = need::force});
        v.quantity(s.payload_radius, {.key = "payload_radius",
                                         .label = "Radius of the payload",
                                         .unit = "mm",
                                         .range = {0, 1e5},
                                         .help = "Distance of the payload from the axis; it adds m r².",
                                         .required = false,
                                         .if_empty = "on the axis",
                                         .symbol = "r_p",
                                         .serves = need::inertia});
        v.quantity(s.friction_torque,
            {.key = "friction_torque",
                .label = "Friction torque",
                .unit = "N·m",
                .range = {0, 1e7},
                .help = "Of the table bearing under load, against the motion; passes the efficiency.",
                .required = false,
                .if_empty = "none",
                .symbol = "T_f",
                .serves = need::force});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.arm_inertia, {.key = "arm_inertia",
                                      .label = "Arm inertia",
                                      .unit = "kg·cm²",
                                      .range = {0, 1e12},
                                      .help = "Of the arm itself about its pivot.",
                                      .required = false,
                                      .if_empty = "m (2 r)²/3, a rod",
                                      .symbol = "J_a",
                                      .serves = need::inertia});
        v.quantity(s.arm_mass, {.key = "arm_mass",
                                   .label = "Arm mass",
                                   .unit = "kg",
                                   .range = {0, 1e6},
                                   .help = "Of the arm itself.",
                                   .required = false,
                                   .if_empty = "none, or as bodies",
                                   .symbol = "m_a",
                                   .serves = need::inertia});
        v.quantity(s.arm_centre, {.key = "arm_centre",
                                     .label = "Arm centre of mass",
                                     .unit = "mm",
                                     .range = {0, 1e5},
                                     .help = "Distance from the pivot.",
                                     .required = false,
                                     .if_empty = "in the pivot",
                                     .symbol = "r_a",
                                     .serves = need::inertia});
        v.quantity(s.payload_radius, {.key = "payload_radius",
                                         .label = "Reach to the payload",
                                         .unit = "mm",
                                         .range = {0, 1e5},
                                         .help = "From the pivot to the centre of the payload.",
                                         .symbol = "r_p",
                                         .serves = need::inertia});
        v.quantity(s.horizontal_at, {.key = "horizontal_at",
                                        .label = "Level at",
                                        .unit = "deg",
                                        .range = {-360, 360},
                                        .help = "Angle of the axis at which the arm stands level.",
                                        .required = false,
                                        .if_empty = "0",
                                        .symbol = "θ_h",
                                        .serves = need::force});
        v.quantity(s.friction_torque, {.key = "friction_torque",
                                          .label = "Friction torque",
                                          .unit = "N·m",
                                          .range = {0, 1e7},
                                          .help = "Of the joint under load, against the motion; passes the efficiency.",
                                          .required = false,
                                          .if_empty = "none",
                                          .symbol = "T_f",
                                          .serves = need::force});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.crank, {.key = "crank",
                                .label = "Crank radius",
                                .unit = "mm",
                                .range = {0, 1e4, true},
                                .help = "Half the stroke.",
                                .symbol = "c",
                                .serves = need::travel});
        v.quantity(
            s.rod, {.key = "rod",
                       .label = "Rod length",
                       .unit = "mm",
                       .range = {0, 1e5, true},
                       .help = "Between its pins; longer than the crank. Share its mass between crank and slider.",
                       .symbol = "l",
                       .serves = need::travel});
        v.quantity(s.crank_inertia, {.key = "crank_inertia",
                                        .label = "Crank inertia",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e10},
                                        .help = "Of crank, disc and shaft about the axis.",
                                        .required = false,
                                        .if_empty = "none, or as a body",
                                        .symbol = "J_c",
                                        .serves = need::inertia});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.crank, {.key = "crank",
                                .label = "Crank radius",
                                .unit = "mm",
                                .range = {0, 1e4, true},
                                .help = "Half the stroke.",
                                .symbol = "c",
                                .serves = need::travel});
        v.quantity(s.crank_inertia, {.key = "crank_inertia",
                                        .label = "Crank inertia",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e10},
                                        .help = "Of crank, disc and shaft about the axis.",
                                        .required = false,
                                        .if_empty = "none, or as a body",
                                        .symbol = "J_c",
                                        .serves = need::inertia});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.rotor_inertia, {.key = "rotor_inertia",
                                        .label = "Impeller inertia",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e10},
                                        .help = "With the fluid that turns along; or describe it as bodies.",
                                        .required = false,
                                        .if_empty = "none, or as bodies",
                                        .symbol = "J_i",
                                        .serves = need::inertia});
        v.quantity(s.reference_torque, {.key = "reference_torque",
                                           .label = "Load torque",
                                           .unit = "N·m",
                                           .range = {0, 1e7},
                                           .help = "At the reference speed; falls with its square.",
                                           .symbol = "T_ref",
                                           .serves = need::force});
        v.quantity(s.reference_speed, {.key = "reference_speed",
                                          .label = "Reference speed",
                                          .unit = "rpm",
                                          .range = {0, 1e6, true},
                                          .help = "Where the load torque is known.",
                                          .symbol = "n_ref",
                                          .serves = need::force});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

} // namespace fulmox

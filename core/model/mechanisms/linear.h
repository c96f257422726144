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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.choice(s.cut, {"cut", "Teeth", cuts, "Helical teeth make the pitch circle larger by 1/cos β.", true});
        v.quantity(s.teeth, {.key = "teeth",
                                .label = "Teeth of the pinion",
                                .unit = "1",
                                .range = {3, 1000},
                                .help = "Number of teeth.",
                                .symbol = "z",
                                .serves = need::travel});
        v.quantity(s.module, {.key = "module",
                                 .label = "Module",
                                 .unit = "mm",
                                 .range = {0, 100, true},
                                 .typical = {0.2, 25},
                                 .help = "Normal module m_n of helical teeth.",
                                 .symbol = "m",
                                 .serves = need::travel});
        v.quantity(s.helix,
            {.key = "helix",
                .label = "Helix angle",
                .unit = "deg",
                .range = {0, 60},
                .help = "On the pitch cylinder. 19.5283° makes the travel per turn of a normal module a round number.",
                .symbol = "β",
                .when = "cut=helical",
                .serves = need::travel});
        v.quantity(s.pinion_inertia, {.key = "pinion_inertia",
                                         .label = "Pinion inertia",
                                         .unit = "kg·cm²",
                                         .range = {0, 1e8},
                                         .help = "Or leave empty and describe the pinion as a body on the shaft.",
                                         .required = false,
                                         .if_empty = "none, or as a body",
                                         .symbol = "J_p",
                                         .serves = need::inertia});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

enum class Loop { timing_belt, chain };
enum class MotorSeat { fixed, rides };

/// The carriage hangs on the loop.
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.choice(s.loop, {"loop", "Loop", loops, "For the drawing; both run on z × pitch per turn.", true});
        v.choice(s.motor_seat, {"motor_seat", "Motor", seats, "A motor that rides is part of the moving mass.", true});
        v.quantity(s.teeth, {.key = "teeth",
                                .label = "Teeth of the pulley",
                                .unit = "1",
                                .range = {3, 1000},
                                .help = "Of the driving pulley or sprocket.",
                                .symbol = "z",
                                .serves = need::travel});
        v.quantity(s.pitch, {.key = "pitch",
                                .label = "Pitch",
                                .unit = "mm",
                                .range = {0, 500, true},
                                .typical = {1, 60},
                                .help = "Of the belt or chain.",
                                .symbol = "p",
                                .serves = need::travel});
        v.quantity(s.pulley_inertia, {.key = "pulley_inertia",
                                         .label = "Driving pulley inertia",
                                         .unit = "kg·cm²",
                                         .range = {0, 1e8},
                                         .help = "Or leave empty and describe it as a body on the shaft.",
                                         .required = false,
                                         .if_empty = "none, or as a body",
                                         .symbol = "J_1",
                                         .serves = need::inertia});
        v.quantity(s.idlers, {.key = "idlers",
                                 .label = "Idlers",
                                 .unit = "1",
                                 .range = {0, 100},
                                 .help = "How many further pulleys the loop turns.",
                                 .symbol = "n_2",
                                 .serves = need::inertia});
        v.quantity(s.idler_inertia, {.key = "idler_inertia",
                                        .label = "Inertia of one idler",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e8},
                                        .help = "Each turns faster than the driver where it is smaller.",
                                        .required = false,
                                        .if_empty = "none",
                                        .symbol = "J_2",
                                        .serves = need::inertia});
        v.quantity(s.idler_diameter, {.key = "idler_diameter",
                                         .label = "Idler diameter",
                                         .unit = "mm",
                                         .range = {0, 1e4, true},
                                         .help = "Pitch diameter.",
                                         .required = false,
                                         .if_empty = "as the driving pulley",
                                         .symbol = "d_2",
                                         .serves = need::inertia});
        v.quantity(s.belt_mass,
            {.key = "belt_mass",
                .label = "Mass of the belt",
                .unit = "kg",
                .range = {0, 1e5},
                .help = "The whole loop where it runs; for a motor that rides the belt stands and this is 0.",
                .required = false,
                .if_empty = "none",
                .symbol = "m_b",
                .serves = need::inertia});
        v.quantity(s.riding_mass, {.key = "riding_mass",
                                      .label = "Motor and gearhead",
                                      .unit = "kg",
                                      .range = {0, 1e5},
                                      .help = "Mass that rides with the carriage.",
                                      .required = false,
                                      .if_empty = "of the chosen motor",
                                      .symbol = "m_r",
                                      .when = "motor_seat=rides",
                                      .serves = need::inertia});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

/// Force instead of torque; the moving coil or magnet belongs to the carriage.
struct LinearMotor {
    static constexpr const char* kind_key = "linear_motor";
    static constexpr const char* kind_label = "Direct linear drive";
    Extra extra;
    bool operator==(const LinearMotor&) const = default;

    static constexpr Motion motion{false, true, false,
        Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::counterweight};

    template <class Self, class V> static void describe(Self& s, V& v) {
        static_cast<void>(s);
        static_cast<void>(v);
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.choice(s.moves,
            {"moves", "Load moves", kinds, "Along a line by a travel per turn, or as the shaft itself.", true});
        v.quantity(s.travel, {.key = "travel",
                                 .label = "Travel per turn",
                                 .unit = "mm",
                                 .range = {0, 1e5, true},
                                 .help = "Of the load for one turn of the input shaft.",
                                 .symbol = "p",
                                 .when = "moves=linear",
                                 .serves = need::travel});
        v.quantity(s.inertia, {.key = "inertia",
                                  .label = "Inertia at the shaft",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e10},
                                  .help = "Everything that is not given as mass or body.",
                                  .required = false,
                                  .if_empty = "none",
                                  .symbol = "J",
                                  .serves = need::inertia});
        v.quantity(s.friction_torque, {.key = "friction_torque",
                                          .label = "Friction torque",
                                          .unit = "N·m",
                                          .range = {0, 1e7},
                                          .help = "At the load, against the motion; passes the efficiency.",
                                          .required = false,
                                          .if_empty = "none",
                                          .symbol = "T_f",
                                          .serves = need::force});
        v.quantity(
            s.constant_torque, {.key = "constant_torque",
                                   .label = "Constant torque",
                                   .unit = "N·m",
                                   .range = {-1e7, 1e7},
                                   .help = "At the load in the positive direction: a weight on a drum, a spring.",
                                   .required = false,
                                   .if_empty = "none",
                                   .symbol = "T_0",
                                   .serves = need::force});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

} // namespace fulmox

// Screws.
#pragma once

#include "core/model/field.h"

namespace fulmox {

enum class Thread { ball, trapezoidal, roller };
enum class ScrewTurns { screw, nut };
enum class EndFixity { fixed_free, supported_supported, fixed_supported, fixed_fixed };

/// Ball, trapezoidal or planetary roller screw; the screw turns, or the nut does and travels with the carriage.
struct Screw {
    static constexpr const char* kind_key = "screw";
    static constexpr const char* kind_label = "Screw";

    Thread thread = Thread::ball;
    ScrewTurns turns = ScrewTurns::screw;
    Quantity<Kind::inertia> nut_inertia;
    Quantity<Kind::length> lead;
    Quantity<Kind::number> starts;
    Quantity<Kind::length> pitch;
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> root_diameter;
    Quantity<Kind::length> pitch_diameter;
    Quantity<Kind::length> length;
    EndFixity fixity = EndFixity::fixed_supported;
    Quantity<Kind::length> free_length;
    Quantity<Kind::length> loaded_length;
    Quantity<Kind::number> efficiency;
    Quantity<Kind::number> efficiency_back;
    Quantity<Kind::number> thread_friction{"0.005"};
    Quantity<Kind::angle> flank_half_angle{"15 deg"};
    Quantity<Kind::number> collar_friction;
    Quantity<Kind::length> collar_diameter;
    Quantity<Kind::force> nut_preload;
    Quantity<Kind::torque> preload_drag;
    Quantity<Kind::torque> bearing_drag;
    Quantity<Kind::speed> speed_value;
    Quantity<Kind::density> density{"7850 kg/m³"};
    Quantity<Kind::pressure> elastic_modulus{"206 GPa"};
    Extra extra;

    bool operator==(const Screw&) const = default;

    static constexpr Option threads[] = {
        {"ball", "Ball screw"}, {"trapezoidal", "Trapezoidal or Acme"}, {"roller", "Planetary roller"}};
    static constexpr Option turning[] = {{"screw", "the screw turns"}, {"nut", "the nut turns"}};
    static constexpr Motion motion{false, false, false,
        Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::counterweight};
    static constexpr Option fixities[] = {{"fixed_free", "fixed – free"},
        {"supported_supported", "supported – supported"}, {"fixed_supported", "fixed – supported"},
        {"fixed_fixed", "fixed – fixed"}};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.choice(s.thread, {"thread", "Screw", threads,
                               "Rolling or sliding contact; decides how efficiency is computed when it is not given."});
        v.choice(s.turns, {"turns", "Turning part", turning,
                              "Where the nut turns the screw stands: its inertia does not count, critical speed does "
                              "not bind.",
                              true});
        v.quantity(s.nut_inertia, {.key = "nut_inertia",
                                      .label = "Nut and pulley inertia",
                                      .unit = "kg·cm²",
                                      .range = {0, 1e8},
                                      .help = "Of the turning nut with its pulley.",
                                      .required = false,
                                      .if_empty = "none, or as a body",
                                      .symbol = "J_n",
                                      .when = "turns=nut",
                                      .serves = need::inertia});
        v.quantity(s.lead, {.key = "lead",
                               .label = "Lead",
                               .unit = "mm",
                               .range = {0, 1000, true},
                               .typical = {0.5, 100},
                               .help = "Travel per turn = pitch × starts. Not the pitch of a multi-start screw.",
                               .symbol = "l",
                               .serves = need::travel});
        v.quantity(s.starts, {.key = "starts",
                                 .label = "Starts",
                                 .unit = "1",
                                 .range = {1, 100},
                                 .typical = {1, 12},
                                 .help = "Threads that run beside one another; lead = pitch × starts.",
                                 .required = false,
                                 .if_empty = "from the pitch",
                                 .symbol = "n_s",
                                 .when = "thread=trapezoidal",
                                 .serves = need::thread});
        v.quantity(
            s.pitch, {.key = "pitch",
                         .label = "Pitch",
                         .unit = "mm",
                         .range = {0, 1000, true},
                         .typical = {0.5, 50},
                         .help = "From thread to thread; the lead over the starts. Tr24×20 P5 has a pitch of 5 mm "
                                 "and four starts.",
                         .source = "ISO 2904",
                         .required = false,
                         .if_empty = "from the starts",
                         .symbol = "P",
                         .when = "thread=trapezoidal",
                         .serves = need::thread});
        v.quantity(s.diameter, {.key = "diameter",
                                   .label = "Outer diameter",
                                   .unit = "mm",
                                   .range = {0, 1000, true},
                                   .typical = {2, 200},
                                   .help = "Nominal diameter of the screw, not the radius.",
                                   .symbol = "d",
                                   .serves = need::inertia | need::thread | need::ball_return});
        v.quantity(s.root_diameter,
            {.key = "root_diameter",
                .label = "Root diameter",
                .unit = "mm",
                .range = {0, 1000, true},
                .help = "Critical speed and buckling are reckoned on it; inertia on the mean of outer and root.",
                .required = false,
                .if_empty = "not judged",
                .symbol = "d_r",
                .serves = need::inertia | need::thread | need::bending | need::buckling});
        v.quantity(s.pitch_diameter,
            {.key = "pitch_diameter",
                .label = "Pitch diameter",
                .unit = "mm",
                .range = {0, 1000, true},
                .help =
                    "Where thread and nut meet. If empty: outer less half a pitch on a trapezoidal thread, the mean of "
                    "outer and root on a ball screw.",
                .source = "ISO 2904",
                .required = false,
                .if_empty = "from the thread",
                .rare = true,
                .symbol = "d_m",
                .serves = need::thread});
        v.quantity(s.length, {.key = "length",
                                 .label = "Screw length",
                                 .unit = "mm",
                                 .range = {0, 30000, true},
                                 .help = "Whole length with journals.",
                                 .symbol = "L",
                                 .serves = need::inertia | need::bending | need::buckling});
        v.choice(
            s.fixity, {"fixity", "End bearings", fixities, "How the ends are held against bending. Motor side first."});
        v.quantity(s.free_length, {.key = "free_length",
                                      .label = "Unsupported length",
                                      .unit = "mm",
                                      .range = {0, 30000, true},
                                      .help = "Longest free length between bearings, for the critical speed.",
                                      .required = false,
                                      .if_empty = "screw length",
                                      .symbol = "L_f",
                                      .serves = need::bending | need::buckling});
        v.quantity(s.loaded_length, {.key = "loaded_length",
                                        .label = "Loaded length",
                                        .unit = "mm",
                                        .range = {0, 30000, true},
                                        .help = "Fixed bearing to nut at the far end, for buckling.",
                                        .required = false,
                                        .if_empty = "unsupported length",
                                        .rare = true,
                                        .symbol = "L_b",
                                        .serves = need::buckling});
        v.quantity(s.efficiency, {.key = "efficiency",
                                     .label = "Efficiency, driving",
                                     .unit = "1",
                                     .range = {0, 1, true},
                                     .help = "Of the thread, turning into thrust. If empty, from lead angle and "
                                             "thread friction.",
                                     .required = false,
                                     .if_empty = "from the thread",
                                     .symbol = "η_f",
                                     .decides = true,
                                     .serves = need::losses});
        v.quantity(
            s.efficiency_back, {.key = "efficiency_back",
                                   .label = "Efficiency, back",
                                   .unit = "1",
                                   .range = {-5, 1},
                                   .help = "Thrust into turning. Zero or negative: self-locking. If empty, 2 − 1/η "
                                           "where η is given, else from lead angle and friction.",
                                   .required = false,
                                   .if_empty = "from η or the thread",
                                   .rare = true,
                                   .symbol = "η_b",
                                   .serves = need::losses});
        v.quantity(s.thread_friction, {.key = "thread_friction",
                                          .label = "Thread friction",
                                          .unit = "1",
                                          .range = {0, 1},
                                          .typical = {0.003, 0.3},
                                          .help = "Ball screw 0.003–0.01, steel on bronze 0.08–0.15.",
                                          .source = "common practice, no source",
                                          .rare = true,
                                          .symbol = "μ_t",
                                          .when = "thread!=roller&!efficiency",
                                          .serves = need::thread});
        v.quantity(s.flank_half_angle, {.key = "flank_half_angle",
                                           .label = "Flank half angle",
                                           .unit = "deg",
                                           .range = {0, 45},
                                           .typical = {0, 30},
                                           .help = "Trapezoidal 15°, Acme 14.5°, square 0°.",
                                           .source = "ISO 2904; ASME B1.5",
                                           .rare = true,
                                           .symbol = "α_t",
                                           .when = "thread=trapezoidal&!efficiency",
                                           .serves = need::thread});
        v.quantity(
            s.collar_friction, {.key = "collar_friction",
                                   .label = "Collar friction",
                                   .unit = "1",
                                   .range = {0, 1},
                                   .help = "Sliding thrust collar; none where a rolling bearing carries the thrust.",
                                   .required = false,
                                   .if_empty = "none",
                                   .rare = true,
                                   .symbol = "μ_c",
                                   .when = "thread=trapezoidal&!efficiency",
                                   .serves = need::thread});
        v.quantity(s.collar_diameter, {.key = "collar_diameter",
                                          .label = "Collar diameter",
                                          .unit = "mm",
                                          .range = {0, 1000, true},
                                          .help = "Mean diameter of the rubbing collar.",
                                          .required = false,
                                          .if_empty = "no collar",
                                          .rare = true,
                                          .symbol = "d_c",
                                          .when = "thread=trapezoidal&!efficiency",
                                          .serves = need::thread});
        v.quantity(s.nut_preload, {.key = "nut_preload",
                                      .label = "Nut preload",
                                      .unit = "N",
                                      .range = {0, 1e6},
                                      .help = "Used for the drag torque where that is not given.",
                                      .required = false,
                                      .if_empty = "none",
                                      .rare = true,
                                      .symbol = "F_p",
                                      .serves = need::losses});
        v.quantity(s.preload_drag, {.key = "preload_drag",
                                       .label = "Nut drag torque",
                                       .unit = "N·m",
                                       .range = {0, 1e4},
                                       .help = "Drag of the preloaded nut at the screw, against the motion.",
                                       .source = "else 0.05 (tan λ)^-1/2 F_p l/2π: JIS B 1192, from memory",
                                       .required = false,
                                       .if_empty = "from the nut preload",
                                       .symbol = "T_p",
                                       .serves = need::losses});
        v.quantity(s.bearing_drag, {.key = "bearing_drag",
                                       .label = "Bearing drag torque",
                                       .unit = "N·m",
                                       .range = {0, 1e4},
                                       .help = "Both support bearings with seals, at the screw.",
                                       .required = false,
                                       .if_empty = "none",
                                       .symbol = "T_b",
                                       .serves = need::losses});
        v.quantity(
            s.speed_value, {.key = "speed_value",
                               .label = "Permitted d × n",
                               .unit = "mm/min",
                               .range = {0, 1e6, true},
                               .typical = {50000, 200000},
                               .help = "Diameter × speed the nut's ball return allows: 70 000–150 000 mm/min by maker.",
                               .source = "common practice, no source",
                               .required = false,
                               .if_empty = "not judged",
                               .rare = true,
                               .symbol = "dn",
                               .serves = need::ball_return});
        v.quantity(s.density, {.key = "density",
                                  .label = "Screw density",
                                  .unit = "kg/m³",
                                  .range = {0, 30000, true},
                                  .typical = {1000, 9000},
                                  .help = "Steel 7850 kg/m³.",
                                  .source = "handbook value",
                                  .rare = true,
                                  .symbol = "ρ",
                                  .serves = need::inertia | need::bending});
        v.quantity(s.elastic_modulus, {.key = "elastic_modulus",
                                          .label = "Elastic modulus",
                                          .unit = "GPa",
                                          .range = {0, 1000, true},
                                          .typical = {50, 250},
                                          .help = "Steel 206 GPa.",
                                          .source = "handbook value",
                                          .rare = true,
                                          .symbol = "E",
                                          .serves = need::bending | need::buckling});
    }
};

/// Pitch of a sliding thread, m: as given, else lead/starts; NaN where neither is known.
inline double thread_pitch(const Screw& s) { return s.pitch.given() ? s.pitch.si : s.lead.si / s.starts.si; }

/// Pitch diameter, m: as given; else of a sliding thread the outer diameter less half a pitch (ISO 2904), NaN where the
/// pitch is not known; else the mean of outer and root, or the outer where no root is given.
inline double pitch_diameter(const Screw& s) {
    if (s.pitch_diameter.given()) return s.pitch_diameter.si;
    if (s.thread == Thread::trapezoidal) return s.diameter.si - thread_pitch(s) / 2;
    return s.root_diameter.given() ? (s.diameter.si + s.root_diameter.si) / 2 : s.diameter.si;
}

} // namespace fulmox

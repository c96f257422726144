#include "core/model/mechanisms/screw.h"

#include "core/model/visitor.h"

namespace fulmox {

void Screw::describe(FieldVisitor& v) {
    v.choice(thread, {"thread", "Screw", threads,
                         "Rolling or sliding contact; decides how efficiency is computed when it is not given."});
    v.choice(turns, {"turns", "Turning part", turning,
                        "Where the nut turns the screw stands: its inertia does not count, critical speed does "
                        "not bind.",
                        true});
    v.quantity(nut_inertia, {.key = "nut_inertia",
                                .label = "Nut and pulley inertia",
                                .unit = "kg·cm²",
                                .range = {0, 1e8},
                                .help = "Of the turning nut with its pulley.",
                                .required = false,
                                .if_empty = left_empty::zero("none, or as a body"),
                                .symbol = "J_n",
                                .applies = turns == ScrewTurns::nut,
                                .serves = need::inertia});
    v.quantity(lead, {.key = "lead",
                         .label = "Lead",
                         .unit = "mm",
                         .range = {0, 1000, true},
                         .typical = {0.5, 100},
                         .help = "Travel per turn = pitch × starts. Not the pitch of a multi-start screw.",
                         .symbol = "l",
                         .serves = need::travel});
    v.quantity(starts, {.key = "starts",
                           .label = "Starts",
                           .unit = "1",
                           .range = {1, 100},
                           .typical = {1, 12},
                           .help = "Threads that run beside one another; lead = pitch × starts.",
                           .required = false,
                           .if_empty = left_empty::stands_in("from the pitch"),
                           .symbol = "n_s",
                           .applies = thread == Thread::trapezoidal,
                           .serves = need::thread});
    v.quantity(pitch, {.key = "pitch",
                          .label = "Pitch",
                          .unit = "mm",
                          .range = {0, 1000, true},
                          .typical = {0.5, 50},
                          .help = "From thread to thread; the lead over the starts. Tr24×20 P5 has a pitch of 5 mm "
                                  "and four starts.",
                          .source = "ISO 2904",
                          .required = false,
                          .if_empty = left_empty::stands_in("from the starts"),
                          .symbol = "P",
                          .applies = thread == Thread::trapezoidal,
                          .serves = need::thread});
    v.quantity(diameter, {.key = "diameter",
                             .label = "Outer diameter",
                             .unit = "mm",
                             .range = {0, 1000, true},
                             .typical = {2, 200},
                             .help = "Nominal diameter of the screw, not the radius.",
                             .symbol = "d",
                             .serves = need::inertia | need::thread | need::ball_return});
    v.quantity(root_diameter,
        {.key = "root_diameter",
            .label = "Root diameter",
            .unit = "mm",
            .range = {0, 1000, true},
            .help = "Critical speed and buckling are calculated with it; inertia on the mean of outer and root.",
            .required = false,
            .if_empty = left_empty::unknown("not known"),
            .symbol = "d_r",
            .serves = need::inertia | need::thread | need::bending | need::buckling});
    v.quantity(pitch_diameter,
        {.key = "pitch_diameter",
            .label = "Pitch diameter",
            .unit = "mm",
            .range = {0, 1000, true},
            .help = "Where thread and nut meet. If empty: outer less half a pitch on a trapezoidal thread, the mean of "
                    "outer and root on a ball screw.",
            .source = "ISO 2904",
            .required = false,
            .if_empty = left_empty::stands_in("from the thread"),
            .rare = true,
            .symbol = "d_m",
            .serves = need::thread});
    v.quantity(length, {.key = "length",
                           .label = "Screw length",
                           .unit = "mm",
                           .range = {0, 30000, true},
                           .help = "Whole length with journals.",
                           .symbol = "L",
                           .serves = need::inertia | need::bending | need::buckling});
    v.choice(fixity, {"fixity", "End bearings", fixities, "How the ends are held against bending. Motor side first."});
    v.quantity(free_length, {.key = "free_length",
                                .label = "Unsupported length",
                                .unit = "mm",
                                .range = {0, 30000, true},
                                .help = "Longest free length between bearings, for the critical speed.",
                                .required = false,
                                .if_empty = left_empty::stands_in("screw length"),
                                .symbol = "L_f",
                                .serves = need::bending | need::buckling});
    v.quantity(loaded_length, {.key = "loaded_length",
                                  .label = "Loaded length",
                                  .unit = "mm",
                                  .range = {0, 30000, true},
                                  .help = "Fixed bearing to nut at the far end, for buckling.",
                                  .required = false,
                                  .if_empty = left_empty::stands_in("unsupported length"),
                                  .rare = true,
                                  .symbol = "L_b",
                                  .serves = need::buckling});
    v.quantity(efficiency, {.key = "efficiency",
                               .label = "Efficiency, driving",
                               .unit = "1",
                               .range = {0, 1, true},
                               .help = "Of the thread, turning into thrust. If empty, from lead angle and "
                                       "thread friction.",
                               .required = false,
                               .if_empty = left_empty::stands_in("from the thread"),
                               .symbol = "η_f",
                               .serves = need::losses});
    v.quantity(efficiency_back, {.key = "efficiency_back",
                                    .label = "Efficiency, back",
                                    .unit = "1",
                                    .range = {-5, 1},
                                    .help = "Thrust into turning. Zero or negative: self-locking. If empty, 2 − 1/η "
                                            "where η is given, else from lead angle and friction.",
                                    .required = false,
                                    .if_empty = left_empty::stands_in("from η or the thread"),
                                    .rare = true,
                                    .symbol = "η_b",
                                    .serves = need::losses});
    v.quantity(thread_friction, {.key = "thread_friction",
                                    .label = "Thread friction",
                                    .unit = "1",
                                    .range = {0, 1},
                                    .typical = thread == Thread::trapezoidal ? Range{0.03, 0.3} : Range{0.002, 0.02},
                                    .help = "Ball screw 0.003–0.01, steel on bronze 0.08–0.15.",
                                    .source = "common practice, no source",
                                    .rare = true,
                                    .symbol = "μ_t",
                                    .applies = thread != Thread::roller && !efficiency.given(),
                                    .serves = need::thread});
    v.quantity(flank_half_angle, {.key = "flank_half_angle",
                                     .label = "Flank half angle",
                                     .unit = "deg",
                                     .range = {0, 45},
                                     .typical = {0, 30},
                                     .help = "Trapezoidal 15°, Acme 14.5°, square 0°.",
                                     .source = "ISO 2904; ASME B1.5",
                                     .rare = true,
                                     .symbol = "α_t",
                                     .applies = thread == Thread::trapezoidal && !efficiency.given(),
                                     .serves = need::thread});
    v.quantity(collar_friction, {.key = "collar_friction",
                                    .label = "Collar friction",
                                    .unit = "1",
                                    .range = {0, 1},
                                    .help = "Sliding thrust collar; none where a rolling bearing carries the thrust.",
                                    .required = false,
                                    .if_empty = left_empty::zero("none"),
                                    .rare = true,
                                    .symbol = "μ_c",
                                    .applies = thread == Thread::trapezoidal && !efficiency.given(),
                                    .serves = need::thread});
    v.quantity(collar_diameter, {.key = "collar_diameter",
                                    .label = "Collar diameter",
                                    .unit = "mm",
                                    .range = {0, 1000, true},
                                    .help = "Mean diameter of the rubbing collar.",
                                    .required = false,
                                    .if_empty = left_empty::zero("no collar"),
                                    .rare = true,
                                    .symbol = "d_c",
                                    .applies = thread == Thread::trapezoidal && !efficiency.given(),
                                    .serves = need::thread});
    v.quantity(nut_preload, {.key = "nut_preload",
                                .label = "Nut preload",
                                .unit = "N",
                                .range = {0, 1e6},
                                .help = "Used for the drag torque where that is not given.",
                                .required = false,
                                .if_empty = left_empty::zero("none"),
                                .rare = true,
                                .symbol = "F_p",
                                .serves = need::losses});
    v.quantity(preload_drag, {.key = "preload_drag",
                                 .label = "Nut drag torque",
                                 .unit = "N·m",
                                 .range = {0, 1e4},
                                 .help = "Drag of the preloaded nut at the screw, against the motion.",
                                 .source = "else 0.05 (tan λ)^-1/2 F_p l/2π: JIS B 1192, from memory",
                                 .required = false,
                                 .if_empty = left_empty::stands_in("from the nut preload"),
                                 .symbol = "T_p",
                                 .serves = need::losses});
    v.quantity(bearing_drag, {.key = "bearing_drag",
                                 .label = "Bearing drag torque",
                                 .unit = "N·m",
                                 .range = {0, 1e4},
                                 .help = "Both support bearings with seals, at the screw.",
                                 .required = false,
                                 .if_empty = left_empty::zero("none"),
                                 .symbol = "T_b",
                                 .serves = need::losses});
    v.quantity(
        speed_value, {.key = "speed_value",
                         .label = "Permitted d × n",
                         .unit = "mm/min",
                         .range = {0, 1e6, true},
                         .typical = {50000, 200000},
                         .help = "Diameter × speed the nut's ball return allows: 70 000–150 000 mm/min by maker.",
                         .source = "common practice, no source",
                         .required = false,
                         .if_empty = left_empty::not_asked("not judged"),
                         .rare = true,
                         .symbol = "dn",
                         .serves = need::ball_return});
    v.quantity(density, {.key = "density",
                            .label = "Screw density",
                            .unit = "kg/m³",
                            .range = {0, 30000, true},
                            .typical = {1000, 9000},
                            .help = "Steel 7850 kg/m³.",
                            .source = "handbook value",
                            .rare = true,
                            .symbol = "ρ",
                            .serves = need::inertia | need::bending});
    v.quantity(elastic_modulus, {.key = "elastic_modulus",
                                    .label = "Elastic modulus",
                                    .unit = "GPa",
                                    .range = {0, 1000, true},
                                    .typical = {50, 250},
                                    .help = "Steel 206 GPa.",
                                    .source = "handbook value",
                                    .rare = true,
                                    .symbol = "E",
                                    .serves = need::bending | need::buckling | need::stiffness});
    const auto rare = [](QuantitySpec spec) {
        spec.rare = true;
        return spec;
    };
    QuantitySpec shear = rare(optional_quantity("shear_modulus", "Shear modulus", "GPa", 1000,
        "For its torsion. Steel 79 GPa.", left_empty::stands_in("E/2.6"), "G", need::stiffness));
    shear.source = "steel, Poisson's ratio 0.3";
    shear.typical = {20, 100};
    v.quantity(shear_modulus, shear);
    v.quantity(nut_stiffness, rare(optional_quantity("nut_stiffness", "Nut stiffness", "N/µm", 1e6,
                                  "Axial, under preload; of ball screws some 200 to 1000 N/µm.",
                                  left_empty::unknown("rigid"), "k_n", need::stiffness)));
    v.quantity(bearing_stiffness,
        rare(optional_quantity("bearing_stiffness", "Bearing stiffness", "N/µm", 1e6,
            "Axial, of the bearing that fixes the screw.", left_empty::unknown("rigid"), "k_b", need::stiffness)));
    QuantitySpec error = rare(optional_quantity("lead_error", "Lead error, 300 mm", "µm", 10000,
        "± over 300 mm of travel; grows with a longer stroke. An accuracy class gives the whole band: half of it.",
        left_empty::unknown("not known"), "e_300", need::precision));
    error.source = "ISO 3408-3, from memory";
    error.range.open_min = false;
    v.quantity(lead_error, error);
    QuantitySpec warm = rare(optional_quantity("temperature_rise", "Screw temperature rise", "K", 200,
        "Than the guide or the scale; steel grows 11.7 µm a metre for each K.", left_empty::zero("not counted"), "Δθ",
        need::precision));
    warm.range.open_min = false;
    v.quantity(temperature_rise, warm);
    v.choice(growth_from,
        {.key = "growth_from",
            .label = "Growth counts from",
            .options = growths,
            .help = "A machine referenced cold feels all of the screw from its fixed bearing to the nut at the "
                    "far end; one referenced again once it is warm feels its stroke alone.",
            .optional = true,
            .applies = temperature_rise.given(),
            .serves = need::precision});
    const auto rated = [&](const char* key, const char* label, const char* help, const char* symbol) {
        return rare(optional_quantity(
            key, label, "N", 1e9, help, left_empty::not_asked("not judged"), symbol, need::screw_life));
    };
    v.quantity(dynamic_rating,
        rated("dynamic_rating", "Dynamic load rating", "C of the nut's sheet, for a million turns.", "C"));
    v.quantity(
        static_rating, rated("static_rating", "Static load rating", "C_0a of the nut's sheet, for a moment.", "C_0a"));
    QuantitySpec asked = rare(optional_quantity("life_asked", "Life asked", "h", 1e7, "How long it shall last.",
        left_empty::not_asked("not judged"), "L_h", need::screw_life));
    v.quantity(life_asked, asked);
    QuantitySpec yields = rare(optional_quantity("yield_strength", "Yield strength", "MPa", 5000,
        "A stocky screw yields before it buckles: Johnson's parabola.", left_empty::unknown("not known"), "R_e",
        need::buckling));
    yields.source = "Johnson's parabola";
    v.quantity(yield_strength, yields);
    v.group(ends, {"ends", "Screw ends", "Seats, threads, grooves and journals of its ends.", true, need::record});
    nut_body.turns = turns == ScrewTurns::nut;
    v.group(nut_body, {.key = "nut_body",
                          .label = "Turning nut",
                          .help = "What sits on the nut's outside.",
                          .serves = need::record,
                          .sparse = true});
    v.list(spectrum, {"spectrum", "Load spectrum", "load", "In place of the cycle, for the life of the screw.", 1000,
                         need::screw_life});
}

void LoadShare::describe(FieldVisitor& v) {
    QuantitySpec s =
        optional_quantity("force", "Force", "N", 1e9, "Along the screw.", IfEmpty{}, "F", need::screw_life);
    s.required = true;
    s.range.open_min = false;
    v.quantity(force, s);
    s = optional_quantity(
        "speed", "Speed", "rpm", 1e6, "Of the screw, or of a turning nut.", IfEmpty{}, "n", need::screw_life);
    s.required = true;
    s.range.open_min = false;
    v.quantity(speed, s);
    s = optional_quantity(
        "share", "Share of time", "%", 100, "Of all loads together 100 %.", IfEmpty{}, "t", need::screw_life);
    s.required = true;
    v.quantity(share, s);
}

} // namespace fulmox

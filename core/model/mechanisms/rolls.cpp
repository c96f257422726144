#include "core/model/mechanisms/rolls.h"

#include "core/model/visitor.h"

namespace fulmox {

void Conveyor::describe(FieldVisitor& v) {
    v.quantity(pulley_diameter, {.key = "pulley_diameter",
                                    .label = "Drive pulley diameter",
                                    .unit = "mm",
                                    .range = {0, 1e4, true},
                                    .help = "Of the pulley; the belt runs half its thickness further out.",
                                    .symbol = "d",
                                    .serves = need::travel});
    v.quantity(belt_thickness, {.key = "belt_thickness",
                                   .label = "Belt thickness",
                                   .unit = "mm",
                                   .range = {0, 1000},
                                   .help = "Items move at the radius plus half of it.",
                                   .required = false,
                                   .if_empty = left_empty::zero("0"),
                                   .symbol = "t",
                                   .serves = need::travel});
    v.quantity(belt_mass, {.key = "belt_mass",
                              .label = "Mass of the belt",
                              .unit = "kg",
                              .range = {0, 1e6},
                              .help = "The whole loop; its weight is balanced on an incline.",
                              .required = false,
                              .if_empty = left_empty::zero("none"),
                              .symbol = "m_b",
                              .serves = need::inertia});
    v.quantity(belt_drag, {.key = "belt_drag",
                              .label = "Drag of the belt",
                              .unit = "N",
                              .range = {0, 1e6},
                              .help = "Of the empty belt on its bed, scrapers and seals, against the motion.",
                              .required = false,
                              .if_empty = left_empty::zero("none"),
                              .symbol = "F_b",
                              .serves = need::force});
    v.quantity(pulley_inertia, {.key = "pulley_inertia",
                                   .label = "Inertia of one pulley",
                                   .unit = "kg·cm²",
                                   .range = {0, 1e10},
                                   .help = "Drive and tail pulley alike, of the same diameter.",
                                   .required = false,
                                   .if_empty = left_empty::zero("none"),
                                   .symbol = "J_1",
                                   .serves = need::inertia});
    v.quantity(pulleys, {.key = "pulleys",
                            .label = "Further pulleys",
                            .unit = "1",
                            .range = {0, 100},
                            .help = "Of the same kind as the drive pulley.",
                            .rare = true,
                            .symbol = "n_1",
                            .serves = need::inertia});
    v.quantity(rollers, {.key = "rollers",
                            .label = "Carrying rollers",
                            .unit = "1",
                            .range = {0, 10000},
                            .help = "Rollers under the belt.",
                            .symbol = "n_2",
                            .serves = need::inertia});
    v.quantity(roller_inertia, {.key = "roller_inertia",
                                   .label = "Inertia of one roller",
                                   .unit = "kg·cm²",
                                   .range = {0, 1e10},
                                   .help = "About its own axis.",
                                   .required = false,
                                   .if_empty = left_empty::zero("none"),
                                   .symbol = "J_2",
                                   .serves = need::inertia});
    v.quantity(roller_diameter, {.key = "roller_diameter",
                                    .label = "Roller diameter",
                                    .unit = "mm",
                                    .range = {0, 1e4, true},
                                    .help = "Rollers turn at belt speed over their radius plus half the belt.",
                                    .required = false,
                                    .if_empty = left_empty::stands_in("as the pulley"),
                                    .symbol = "d_2",
                                    .serves = need::inertia});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void FeedRolls::describe(FieldVisitor& v) {
    v.quantity(roll_diameter, {.key = "roll_diameter",
                                  .label = "Roll diameter",
                                  .unit = "mm",
                                  .range = {0, 1e4, true},
                                  .help = "Of the driven roll.",
                                  .symbol = "d",
                                  .serves = need::travel});
    v.quantity(roll_inertia, {.key = "roll_inertia",
                                 .label = "Roll inertia",
                                 .unit = "kg·cm²",
                                 .range = {0, 1e10},
                                 .help = "Of the driven roll with its journals.",
                                 .required = false,
                                 .if_empty = left_empty::zero("none, or as a body"),
                                 .symbol = "J_1",
                                 .serves = need::inertia});
    v.quantity(follower_diameter, {.key = "follower_diameter",
                                      .label = "Follower diameter",
                                      .unit = "mm",
                                      .range = {0, 1e4, true},
                                      .help = "Of the roll that is pressed on.",
                                      .required = false,
                                      .if_empty = left_empty::stands_in("as the driven roll"),
                                      .symbol = "d_2",
                                      .serves = need::inertia});
    v.quantity(follower_inertia, {.key = "follower_inertia",
                                     .label = "Follower inertia",
                                     .unit = "kg·cm²",
                                     .range = {0, 1e10},
                                     .help = "Turns at the same surface speed.",
                                     .required = false,
                                     .if_empty = left_empty::zero("none"),
                                     .symbol = "J_2",
                                     .serves = need::inertia});
    v.quantity(tension, {.key = "tension",
                            .label = "Web tension",
                            .unit = "N",
                            .range = {-1e6, 1e6},
                            .help = "What the web pulls against the feed, less what pulls with it. Stays on at rest.",
                            .required = false,
                            .if_empty = left_empty::zero("none"),
                            .symbol = "F_w",
                            .serves = need::force});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void Winder::describe(FieldVisitor& v) {
    v.choice(
        winds, {"winds", "Roll", kinds, "Web speed is positive both ways; an unwinder is pulled and brakes.", true});
    v.quantity(core_diameter, {.key = "core_diameter",
                                  .label = "Core diameter",
                                  .unit = "mm",
                                  .range = {0, 1e4, true},
                                  .help = "Outer diameter of the empty core.",
                                  .symbol = "D_c",
                                  .serves = need::travel | need::inertia});
    v.quantity(roll_diameter, {.key = "roll_diameter",
                                  .label = "Full roll diameter",
                                  .unit = "mm",
                                  .range = {0, 1e5, true},
                                  .help = "Larger than the core.",
                                  .symbol = "D",
                                  .serves = need::travel | need::inertia});
    v.quantity(web_thickness, {.key = "web_thickness",
                                  .label = "Web thickness",
                                  .unit = "mm",
                                  .range = {0, 1000, true},
                                  .help = "R² = R_core² + s h/π for a web length s.",
                                  .symbol = "h",
                                  .serves = need::travel | need::inertia});
    v.quantity(web_width, {.key = "web_width",
                              .label = "Web width",
                              .unit = "mm",
                              .range = {0, 1e5, true},
                              .help = "Width of the roll.",
                              .symbol = "w",
                              .serves = need::inertia});
    v.quantity(web_density, {.key = "web_density",
                                .label = "Web density",
                                .unit = "kg/m³",
                                .range = {0, 30000, true},
                                .typical = {20, 9000},
                                .help = "Of the wound web, air between the layers included.",
                                .symbol = "ρ",
                                .serves = need::inertia});
    v.quantity(core_inertia, {.key = "core_inertia",
                                 .label = "Core inertia",
                                 .unit = "kg·cm²",
                                 .range = {0, 1e10},
                                 .help = "Core, chuck and shaft.",
                                 .required = false,
                                 .if_empty = left_empty::zero("none, or as a body"),
                                 .symbol = "J_c",
                                 .serves = need::inertia});
    v.quantity(tension, {.key = "tension",
                            .label = "Web tension",
                            .unit = "N",
                            .range = {0, 1e7},
                            .help = "Stays on at rest.",
                            .symbol = "F_w",
                            .serves = need::force});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void Hoist::describe(FieldVisitor& v) {
    v.quantity(drum_diameter, {.key = "drum_diameter",
                                  .label = "Drum diameter",
                                  .unit = "mm",
                                  .range = {0, 1e5, true},
                                  .help = "To the middle of the rope.",
                                  .symbol = "D",
                                  .serves = need::travel});
    v.quantity(falls, {.key = "falls",
                          .label = "Falls of rope",
                          .unit = "1",
                          .range = {1, 32},
                          .help = "The load moves at rope speed over the falls.",
                          .symbol = "n",
                          .serves = need::travel});
    v.quantity(drum_inertia, {.key = "drum_inertia",
                                 .label = "Drum inertia",
                                 .unit = "kg·cm²",
                                 .range = {0, 1e10},
                                 .help = "With the rope on it.",
                                 .required = false,
                                 .if_empty = left_empty::zero("none, or as a body"),
                                 .symbol = "J_d",
                                 .serves = need::inertia});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

} // namespace fulmox

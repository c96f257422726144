// Conveyor, rolls, winder, hoist: something runs over a roll.
#pragma once

#include "core/model/field.h"
#include "core/model/mechanisms/losses.h"

namespace fulmox {

/// Belt on a slider bed or rollers; the payload is what lies on it.
struct Conveyor {
    static constexpr const char* kind_key = "conveyor";
    static constexpr const char* kind_label = "Conveyor";
    Quantity<Kind::length> pulley_diameter;
    Quantity<Kind::length> belt_thickness;
    Quantity<Kind::mass> belt_mass;
    Quantity<Kind::force> belt_drag;
    Quantity<Kind::inertia> pulley_inertia;
    Quantity<Kind::number> pulleys{"1"};
    Quantity<Kind::number> rollers{"0"};
    Quantity<Kind::inertia> roller_inertia;
    Quantity<Kind::length> roller_diameter;
    Losses losses;
    Extra extra;
    bool operator==(const Conveyor&) const = default;

    static constexpr Motion motion{false, false, false, Motion::guides | Motion::inclination | Motion::payload};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.pulley_diameter, {.key = "pulley_diameter",
                                          .label = "Drive pulley diameter",
                                          .unit = "mm",
                                          .range = {0, 1e4, true},
                                          .help = "Of the pulley; the belt runs half its thickness further out.",
                                          .symbol = "d",
                                          .serves = need::travel});
        v.quantity(s.belt_thickness, {.key = "belt_thickness",
                                         .label = "Belt thickness",
                                         .unit = "mm",
                                         .range = {0, 1000},
                                         .help = "Items move at the radius plus half of it.",
                                         .required = false,
                                         .if_empty = "0",
                                         .symbol = "t",
                                         .serves = need::travel});
        v.quantity(s.belt_mass, {.key = "belt_mass",
                                    .label = "Mass of the belt",
                                    .unit = "kg",
                                    .range = {0, 1e6},
                                    .help = "The whole loop; its weight is balanced on an incline.",
                                    .required = false,
                                    .if_empty = "none",
                                    .symbol = "m_b",
                                    .serves = need::inertia});
        v.quantity(s.belt_drag, {.key = "belt_drag",
                                    .label = "Drag of the belt",
                                    .unit = "N",
                                    .range = {0, 1e6},
                                    .help = "Of the empty belt on its bed, scrapers and seals, against the motion.",
                                    .required = false,
                                    .if_empty = "none",
                                    .symbol = "F_b",
                                    .serves = need::force});
        v.quantity(s.pulley_inertia, {.key = "pulley_inertia",
                                         .label = "Inertia of one pulley",
                                         .unit = "kg·cm²",
                                         .range = {0, 1e10},
                                         .help = "Drive and tail pulley alike, of the same diameter.",
                                         .required = false,
                                         .if_empty = "none",
                                         .symbol = "J_1",
                                         .serves = need::inertia});
        v.quantity(s.pulleys, {.key = "pulleys",
                                  .label = "Further pulleys",
                                  .unit = "1",
                                  .range = {0, 100},
                                  .help = "Of the same kind as the drive pulley.",
                                  .rare = true,
                                  .symbol = "n_1",
                                  .serves = need::inertia});
        v.quantity(s.rollers, {.key = "rollers",
                                  .label = "Carrying rollers",
                                  .unit = "1",
                                  .range = {0, 10000},
                                  .help = "Rollers under the belt.",
                                  .symbol = "n_2",
                                  .serves = need::inertia});
        v.quantity(s.roller_inertia, {.key = "roller_inertia",
                                         .label = "Inertia of one roller",
                                         .unit = "kg·cm²",
                                         .range = {0, 1e10},
                                         .help = "About its own axis.",
                                         .required = false,
                                         .if_empty = "none",
                                         .symbol = "J_2",
                                         .serves = need::inertia});
        v.quantity(s.roller_diameter, {.key = "roller_diameter",
                                          .label = "Roller diameter",
                                          .unit = "mm",
                                          .range = {0, 1e4, true},
                                          .help = "Rollers turn at belt speed over their radius plus half the belt.",
                                          .required = false,
                                          .if_empty = "as the pulley",
                                          .symbol = "d_2",
                                          .serves = need::inertia});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

/// Driven roll and follower; the payload is the strip that is accelerated.
struct FeedRolls {
    static constexpr const char* kind_key = "feed_rolls";
    static constexpr const char* kind_label = "Feed or nip rolls";
    Quantity<Kind::length> roll_diameter;
    Quantity<Kind::inertia> roll_inertia;
    Quantity<Kind::length> follower_diameter;
    Quantity<Kind::inertia> follower_inertia;
    Quantity<Kind::force> tension;
    Losses losses;
    Extra extra;
    bool operator==(const FeedRolls&) const = default;

    static constexpr Motion motion{false, false, false, Motion::guides | Motion::payload};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.roll_diameter, {.key = "roll_diameter",
                                        .label = "Roll diameter",
                                        .unit = "mm",
                                        .range = {0, 1e4, true},
                                        .help = "Of the driven roll.",
                                        .symbol = "d",
                                        .serves = need::travel});
        v.quantity(s.roll_inertia, {.key = "roll_inertia",
                                       .label = "Roll inertia",
                                       .unit = "kg·cm²",
                                       .range = {0, 1e10},
                                       .help = "Of the driven roll with its journals.",
                                       .required = false,
                                       .if_empty = "none, or as a body",
                                       .symbol = "J_1",
                                       .serves = need::inertia});
        v.quantity(s.follower_diameter, {.key = "follower_diameter",
                                            .label = "Follower diameter",
                                            .unit = "mm",
                                            .range = {0, 1e4, true},
                                            .help = "Of the roll that is pressed on.",
                                            .required = false,
                                            .if_empty = "as the driven roll",
                                            .symbol = "d_2",
                                            .serves = need::inertia});
        v.quantity(s.follower_inertia, {.key = "follower_inertia",
                                           .label = "Follower inertia",
                                           .unit = "kg·cm²",
                                           .range = {0, 1e10},
                                           .help = "Turns at the same surface speed.",
                                           .required = false,
                                           .if_empty = "none",
                                           .symbol = "J_2",
                                           .serves = need::inertia});
        v.quantity(
            s.tension, {.key = "tension",
                           .label = "Web tension",
                           .unit = "N",
                           .range = {-1e6, 1e6},
                           .help = "What the web pulls against the feed, less what pulls with it. Stays on at rest.",
                           .required = false,
                           .if_empty = "none",
                           .symbol = "F_w",
                           .serves = need::force});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

enum class WindsTo { winds, unwinds };

/// The cycle is that of the web; the roll turns at web speed over its radius. Judged from empty to full.
struct Winder {
    static constexpr const char* kind_key = "winder";
    static constexpr const char* kind_label = "Winder or unwinder";
    WindsTo winds = WindsTo::winds;
    Quantity<Kind::length> core_diameter;
    Quantity<Kind::length> roll_diameter;
    Quantity<Kind::length> web_thickness;
    Quantity<Kind::length> web_width;
    Quantity<Kind::density> web_density{"1000 kg/m³"};
    Quantity<Kind::inertia> core_inertia;
    Quantity<Kind::force> tension;
    Losses losses;
    Extra extra;
    bool operator==(const Winder&) const = default;

    static constexpr Option kinds[] = {{"winds", "winds up"}, {"unwinds", "unwinds"}};
    static constexpr Motion motion{false, false, false, 0};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.choice(s.winds,
            {"winds", "Roll", kinds, "Web speed is positive both ways; an unwinder is pulled and brakes.", true});
        v.quantity(s.core_diameter, {.key = "core_diameter",
                                        .label = "Core diameter",
                                        .unit = "mm",
                                        .range = {0, 1e4, true},
                                        .help = "Outer diameter of the empty core.",
                                        .symbol = "D_c",
                                        .serves = need::travel | need::inertia});
        v.quantity(s.roll_diameter, {.key = "roll_diameter",
                                        .label = "Full roll diameter",
                                        .unit = "mm",
                                        .range = {0, 1e5, true},
                                        .help = "Larger than the core.",
                                        .symbol = "D",
                                        .serves = need::travel | need::inertia});
        v.quantity(s.web_thickness, {.key = "web_thickness",
                                        .label = "Web thickness",
                                        .unit = "mm",
                                        .range = {0, 1000, true},
                                        .help = "R² = R_core² + s h/π for a web length s.",
                                        .symbol = "h",
                                        .serves = need::travel | need::inertia});
        v.quantity(s.web_width, {.key = "web_width",
                                    .label = "Web width",
                                    .unit = "mm",
                                    .range = {0, 1e5, true},
                                    .help = "Width of the roll.",
                                    .symbol = "w",
                                    .serves = need::inertia});
        v.quantity(s.web_density, {.key = "web_density",
                                      .label = "Web density",
                                      .unit = "kg/m³",
                                      .range = {0, 30000, true},
                                      .typical = {20, 9000},
                                      .help = "Of the wound web, air between the layers included.",
                                      .symbol = "ρ",
                                      .serves = need::inertia});
        v.quantity(s.core_inertia, {.key = "core_inertia",
                                       .label = "Core inertia",
                                       .unit = "kg·cm²",
                                       .range = {0, 1e10},
                                       .help = "Core, chuck and shaft.",
                                       .required = false,
                                       .if_empty = "none, or as a body",
                                       .symbol = "J_c",
                                       .serves = need::inertia});
        v.quantity(s.tension, {.key = "tension",
                                  .label = "Web tension",
                                  .unit = "N",
                                  .range = {0, 1e7},
                                  .help = "Stays on at rest.",
                                  .symbol = "F_w",
                                  .serves = need::force});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

/// Lifts straight up; the counterweight is rigged to move at the speed of the load.
struct Hoist {
    static constexpr const char* kind_key = "hoist";
    static constexpr const char* kind_label = "Hoist";
    Quantity<Kind::length> drum_diameter;
    Quantity<Kind::number> falls{"1"};
    Quantity<Kind::inertia> drum_inertia;
    Losses losses;
    Extra extra;
    bool operator==(const Hoist&) const = default;

    static constexpr Motion motion{
        false, false, false, Motion::carriage | Motion::guides | Motion::payload | Motion::counterweight};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.drum_diameter, {.key = "drum_diameter",
                                        .label = "Drum diameter",
                                        .unit = "mm",
                                        .range = {0, 1e5, true},
                                        .help = "To the middle of the rope.",
                                        .symbol = "D",
                                        .serves = need::travel});
        v.quantity(s.falls, {.key = "falls",
                                .label = "Falls of rope",
                                .unit = "1",
                                .range = {1, 32},
                                .help = "The load moves at rope speed over the falls.",
                                .symbol = "n",
                                .serves = need::travel});
        v.quantity(s.drum_inertia, {.key = "drum_inertia",
                                       .label = "Drum inertia",
                                       .unit = "kg·cm²",
                                       .range = {0, 1e10},
                                       .help = "With the rope on it.",
                                       .required = false,
                                       .if_empty = "none, or as a body",
                                       .symbol = "J_d",
                                       .serves = need::inertia});
        v.group(s.losses, {"losses", "Losses", "", false, need::losses});
    }
};

} // namespace fulmox

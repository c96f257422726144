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

    void describe(FieldVisitor& v);
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

    void describe(FieldVisitor& v);
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

    void describe(FieldVisitor& v);
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

    void describe(FieldVisitor& v);
};

} // namespace fulmox

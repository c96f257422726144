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
    Extra extra;
    bool operator==(const Stage&) const = default;

    static constexpr Option kinds[] = {
        {"gearhead", "Gearhead"}, {"belt", "Belt or chain reduction"}, {"gears", "Gear pair"}};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

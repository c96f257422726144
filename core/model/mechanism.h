// Mechanisms. When adding one: a struct with its description in core/model/mechanisms, its kinematics in core/load, a
// schematic in app/schematic, its tests, and one entry in `Mechanism` below.
#pragma once

#include "core/model/mechanisms/linear.h"
#include "core/model/mechanisms/rolls.h"
#include "core/model/mechanisms/rotary.h"
#include "core/model/mechanisms/screw.h"

#include <variant>

namespace fulmox {

using Mechanism = std::variant<Screw, RackPinion, BeltDrive, RotaryTable, Conveyor, FeedRolls, Winder, Hoist, Arm,
    SliderCrank, ScotchYoke, Fan, LinearMotor, FreeForm, GivenDemand>;

/// How an axis with this mechanism moves, and which fields of the load it has.
inline Motion motion_of(const Mechanism& m) {
    Motion motion = std::visit(
        [](const auto& held) {
            using T = std::decay_t<decltype(held)>;
            if constexpr (std::is_same_v<T, FreeForm>)
                return held.moves == FreeMotion::rotary ? Motion{true, false, false, 0}
                                                        : Motion{false, false, false,
                                                              Motion::carriage | Motion::guides | Motion::inclination |
                                                                  Motion::payload | Motion::counterweight};
            else if constexpr (std::is_same_v<T, GivenDemand>)
                return Motion{held.at == DemandAt::shaft, false, false, 0};
            else
                return T::motion;
        },
        m);
    if (!motion.direct) motion.has |= Motion::shaft;
    return motion;
}

} // namespace fulmox

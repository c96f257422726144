// What the cycle asks of each stage between motor and mechanism, at its output shaft.
//
// Seen from the output of a stage, what lies beyond is an axis without it and without what stands before it: the same
// sweep tells its torques and speeds. At rest a stage carries what hangs from it, whoever holds.
#pragma once

#include "core/demand/demand.h"

#include <vector>

namespace fulmox {

/// Of one stage; N·m at its output shaft, rad/s at its input.
struct StageUse {
    std::size_t stage = 0;   ///< place among the axis' stages, from the motor
    double equivalent = 0;   ///< (∫|ω||T|^q dt / ∫|ω| dt)^(1/q) over the cycle; 0 where it never moves
    double exponent = 3;     ///< q
    double worn = 0;         ///< ∫|ω||T|^q dt, rad (N·m)^q; infinite beyond the range of numbers
    double turned = 0;       ///< ∫|ω| dt of the output, rad
    double rms = 0;          ///< over the whole cycle, dwell included; a dwell in which a brake holds counts as none
    double peak = 0;         ///< the largest, breakaway and standstill included
    double emergency = 0;    ///< of the emergency stop; 0 where none is given
    bool stops = false;      ///< one is asked for
    double mean_speed = 0;   ///< mean |ω| over the cycle
    double moving_speed = 0; ///< the same over the time it moves
    double peak_speed = 0;
};

/// The load as the output shaft of a stage sees it.
LoadModel beyond_stage(const LoadModel& load, std::size_t stage);

/// The stages of the axis under this load, or those alone for which `wanted` says yes.
std::vector<StageUse> stage_uses(const LoadModel& load, const Trajectory& motion, const Axis& axis,
    const std::function<bool(const Stage&)>& wanted = {});

} // namespace fulmox

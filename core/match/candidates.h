// Motors judged on an axis, one beside the other.
#pragma once

#include "core/match/limit.h"
#include "core/model/machine.h"

#include <functional>
#include <string>
#include <vector>

namespace fulmox {

/// What the axis would say of one motor. NaN: cannot be said.
struct Candidate {
    double ratio = 0;    ///< load inertia over rotor inertia
    double speed = 0;    ///< top speed used of allowed
    double peak = 0;     ///< peak torque used of the curve
    double heat = 0;     ///< continuous heat used of allowed, loss method
    double tightest = 0; ///< of all limits, used of allowed
    LimitState state = LimitState::cannot_say;
    std::string limit; ///< the tightest
    Text reason;       ///< of it
};

/// One for each motor, in their order, on all cores; the axis' own motor does not matter. `go_on` is asked between two
/// motors, on any thread; where it says no the rest is left out and the outcome is empty. `done` is told the share that
/// is judged, on any thread.
std::vector<Candidate> judge_motors(const Machine& machine, std::size_t axis, const std::vector<const Motor*>& motors,
    const std::function<bool()>& go_on = {}, const std::function<void(double)>& done = {});

} // namespace fulmox

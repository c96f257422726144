// What an axis would ask of its motor over the ratio of one of its stages.
#pragma once

#include "core/match/limit.h"
#include "core/model/machine.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// At one ratio of the stage; SI, NaN: cannot be said.
struct RatioPoint {
    double ratio = 0;         ///< of the stage
    double motor_speed = 0;   ///< largest, rad/s
    double peak_torque = 0;   ///< at the motor's shaft, N·m
    double rms_torque = 0;    ///< N·m
    double inertia_ratio = 0; ///< load over rotor
    double speed = 0;         ///< used of allowed
    double peak = 0;          ///< peak torque, used of the curve
    double heat = 0;          ///< continuous, used of allowed
    double power = 0;         ///< mean, from the mains, W
    double precision = 0;     ///< ± at the load by the sum that is judged, m or rad
    LimitState state = LimitState::cannot_say;
    double tightest = 0; ///< of all limits, used of allowed
    std::string limit;   ///< its label
    Text waits;          ///< where the torques cannot be said: for what; empty elsewhere
    /// The largest share of the motor: of speed, peak torque and heat; NaN where none can be said.
    double motor_share() const;
};

struct RatioCurve {
    std::vector<RatioPoint> points; ///< by rising ratio, logarithmically even
    double present = 0;             ///< the ratio as it is; NaN: there is no such stage
    std::optional<RatioPoint> best; ///< where the largest share of the motor is least
    double speed_limit = 0;         ///< beyond it the motor is too fast; NaN: not within the curve, or not known
};

/// The axis with this ratio at the stage (at the end of the stages: one more), whose sheet stays as it is.
RatioPoint at_ratio(const Machine& machine, std::size_t axis, std::size_t stage, double ratio);

/// From `low` to `high`, on all cores; both greater than 0. Empty where `go_on` says no.
RatioCurve ratio_curve(const Machine& machine, std::size_t axis, std::size_t stage, double low, double high,
    std::size_t points, const std::function<bool()>& go_on = {});

} // namespace fulmox

// One function per limit. When adding one: a function here, one entry in `judge_all`, its key in the documentation of
// the JSON output (a test compares), and its test.
#pragma once

#include "core/match/assess.h"

namespace fulmox {

/// What is known of the axis when its limits are judged. Pointers are null where the data is missing or wrong.
struct Known {
    const Trajectory* motion = nullptr;
    const InertiaStatement* inertia = nullptr;
    const Demand* demand = nullptr;
    const MotorUse* motor = nullptr;
};

/// Everything a limit may look at.
struct LimitInput {
    const Machine& machine;
    const Axis& axis;
    const Policy& policy;
    Known so_far;
    bool workings;
};

/// The torque of an instant as the sum of its causes.
WorkingLine sum_of_causes(const ShaftPoint& p);

/// The RMS torque from the heat of each segment, reckoned from the samples of the spans.
Working rms_sum(const Demand& d, std::size_t segments);

/// All limits that apply to this axis, in working order.
std::vector<Limit> judge_all(const LimitInput& in);

} // namespace fulmox

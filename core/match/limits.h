// One function per limit. When adding one: a function here, one entry in `judge_all`, its key in the documentation of
// the JSON output (a test compares), and its test.
#pragma once

#include "core/match/assess.h"

namespace fulmox {

/// Everything a limit may look at. Pointers are null where the data is missing or wrong.
struct LimitInput {
    const Machine& machine;
    const Axis& axis;
    const Policy& policy;
    const Assessment& so_far;
    bool workings;
};

/// All limits that apply to this axis, in working order.
std::vector<Limit> judge_all(const LimitInput& in);

} // namespace fulmox

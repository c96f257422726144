// How far an input may go before a limit is reached.
#pragma once

#include "core/match/assess.h"

#include <functional>
#include <string>
#include <vector>

namespace fulmox {

/// One input that can be moved, and how far.
struct Headroom {
    std::string key;   ///< "payload"
    std::string label; ///< "payload"
    std::string text;  ///< "+14 kg payload", "0.06 s less move time"
    double factor = 1; ///< of the input at which the limit's share is reached
};

/// Moves each main input (payload, carriage, move time, stroke, acceleration limits, lead, guide friction, emergency
/// stop time) alone until used = share × allowed of the limit `key`, by root finding on the whole assessment. Inputs
/// that cannot reach it within a factor of 20 either way are left out. Nothing is returned for limits that cannot be
/// said.
/// `go_on` is asked between two assessments; told no, it returns what it has.
std::vector<Headroom> headroom(
    const Machine& machine, std::size_t axis, const std::string& limit_key, const std::function<bool()>& go_on = {});

} // namespace fulmox

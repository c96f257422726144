// Which kind of motor: the questions, most of them answered by the axis itself, and what practice says to each answer.
// Every score is the sum of reasons that are shown; what would change the advice is found by changing one answer.
// Source: common practice, no source.
#pragma once

#include "core/match/assess.h"

#include <string>
#include <vector>

namespace fulmox {

/// A question and what is known to it.
struct KindQuestion {
    std::string key;    ///< "top_speed", "lost_step_hurts", …
    std::string words;  ///< "Speed of the motor"
    std::string answer; ///< "4800 rpm"; empty: not known
    std::string field;  ///< pointer of the field that answers it; empty: the axis does
};

struct KindReason {
    int weight = 0; ///< of either sign
    std::string words;
};

/// One kind, with all that speaks for and against it.
struct KindAdvice {
    std::string key; ///< "stepper_open_loop", "stepper_closed_loop", "sine_servo", "block", "brushed"
    std::string label;
    int score = 0;
    bool excluded = false; ///< by what surrounds it, whatever the score
    std::vector<KindReason> reasons;
};

struct KindChoice {
    std::string missing; ///< what speed and torque wait for; they then count for nothing
    std::vector<KindQuestion> questions;
    std::vector<KindAdvice> kinds;         ///< best first, excluded ones last
    std::vector<std::string> would_change; ///< "If nobody tuned it: Stepper, open loop"
};

/// Nothing but a linear motor drives a direct linear axis: then `kinds` is empty.
KindChoice which_kind(const Machine& machine, const Axis& axis, const Assessment& a, const std::string& path);

} // namespace fulmox

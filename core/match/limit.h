// Limits: what an axis is judged on.
#pragma once

#include "core/model/working.h"
#include "core/quantity/text.h"

#include <string>
#include <vector>

namespace fulmox {

enum class LimitState { fits, tight, over, cannot_say };
const char* state_key(LimitState s);   ///< "fits"
const char* state_words(LimitState s); ///< "cannot say"

struct Limit {
    std::string key; ///< stable, documented in docs/formats
    std::string label;
    Kind kind = Kind::number;
    double used = 0;    ///< SI
    double allowed = 0; ///< SI
    double share = 1;   ///< of the policy: tight above share × allowed
    LimitState state = LimitState::cannot_say;
    Text reason; ///< one sentence: why this state
    Text remedy; ///< what would bring it back, empty where it fits
    std::string source;
    Working working;

    /// used/allowed; infinite where nothing is allowed, NaN where it cannot be said.
    double utilisation() const;
};

/// Sets the state from used, allowed and share. NaN in either gives cannot_say.
void judge(Limit& l);

/// What is used of what is allowed, in words: "86 %", "> max." where nothing is allowed, "–" where it cannot be said.
std::string use_text(double utilisation);

struct LimitCount {
    int fits = 0, tight = 0, over = 0, cannot_say = 0;
};
LimitCount count(const std::vector<Limit>& limits);

/// Tightest first by what is shown, used of allowed, within each state; what cannot be said comes after what is tight.
std::vector<std::size_t> by_tightness(const std::vector<Limit>& limits);

} // namespace fulmox

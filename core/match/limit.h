// Limits: what an axis is judged on.
#pragma once

#include "core/model/need.h"
#include "core/model/problem.h"
#include "core/model/working.h"
#include "core/quantity/text.h"

#include <limits>
#include <optional>
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
    need::Bits needs = 0;           ///< what it needs on this axis
    std::vector<Missing> missing;   ///< which values are missing where it cannot be said
    std::vector<Missing> waits_for; ///< fields of the project (whole pointers) without which it cannot be said
    bool accepted = false;          ///< it cannot be said, and all that is missing is accepted
    bool yes_or_no = false;         ///< as bores that are there or are not: a share of what is allowed tells nothing

    /// used/allowed; infinite where nothing is allowed, NaN where it cannot be said.
    double utilisation() const;
};

/// One thing of a verdict that could be exceeded. Where something is missing `used` and `allowed` are what is known so
/// far, NaN or too favourable: it may be over by them, it cannot fit.
struct Clause {
    double used = std::numeric_limits<double>::quiet_NaN();
    double allowed = std::numeric_limits<double>::quiet_NaN();
    std::vector<Missing> missing{};

    bool known() const { return missing.empty() && used == used && allowed == allowed; }
    /// used/allowed; infinite where nothing is allowed, NaN where a number is missing.
    double use() const;
};

/// The one conjunction of the program: over by the worst clause that is over, else unknown where a clause is, else the
/// worst clause counts. Its place; nothing where it cannot be said or there are no clauses. What is missing of all
/// clauses goes into `missing`, each once.
std::optional<std::size_t> worst_of(const std::vector<Clause>& clauses, std::vector<Missing>& missing);

/// Sets the state from used, allowed and share. NaN in either gives cannot_say.
void judge(Limit& l);

/// What is used of what is allowed, in words: "86 %", "> max." where nothing is allowed, "–" where it cannot be said.
std::string use_text(double utilisation);

/// Use of a limit in per cent; empty where it cannot be said or is yes or no.
std::string use_text(const Limit& limit);

struct LimitCount {
    int fits = 0, tight = 0, over = 0, cannot_say = 0;
    int accepted = 0; ///< of those that cannot be said
};
LimitCount count(const std::vector<Limit>& limits);

/// Tightest first by what is shown, used of allowed, within each state; what cannot be said comes after what is tight.
std::vector<std::size_t> by_tightness(const std::vector<Limit>& limits);

/// The limit that decides about a whole: over by the tightest that is over; else what cannot be said and is not
/// accepted; else the tightest. Accepted unknowns decide nothing, unless there is nothing else. Nothing of no limits.
std::optional<std::size_t> deciding(const std::vector<Limit>& limits);

} // namespace fulmox

#include "core/match/limit.h"

#include "core/quantity/format.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

namespace fulmox {

const char* state_key(LimitState s) {
    static constexpr std::array names{"fits", "tight", "over", "cannot_say"};
    return names.at(static_cast<std::size_t>(s));
}

const char* state_words(LimitState s) { return s == LimitState::cannot_say ? "cannot say" : state_key(s); }

double Limit::utilisation() const {
    if (std::isnan(used) || std::isnan(allowed) || state == LimitState::cannot_say)
        return std::numeric_limits<double>::quiet_NaN();
    if (used == 0) return 0;
    return allowed > 0 ? used / allowed : std::numeric_limits<double>::infinity();
}

std::string use_text(double utilisation) {
    return std::isnan(utilisation)   ? "–"
           : std::isinf(utilisation) ? "> max."
                                     : format_number(100 * utilisation, 3) + " %";
}

double Clause::use() const {
    if (std::isnan(used) || std::isnan(allowed)) return std::numeric_limits<double>::quiet_NaN();
    if (used == 0) return 0;
    return allowed > 0 ? used / allowed : std::numeric_limits<double>::infinity();
}

namespace {
// a last-bit difference must not turn a limit that is met exactly
constexpr double slack = 1 + 1e-12;
} // namespace

std::optional<std::size_t> worst_of(const std::vector<Clause>& clauses, std::vector<Missing>& missing) {
    missing.clear();
    std::optional<std::size_t> over, worst;
    const auto more = [&](std::optional<std::size_t>& most, std::size_t i) {
        if (!most || clauses[i].use() > clauses[*most].use()) most = i;
    };
    bool unknown = false;
    for (std::size_t i = 0; i < clauses.size(); ++i) {
        const Clause& c = clauses[i];
        if (c.used > c.allowed * slack) more(over, i);
        if (c.known()) {
            more(worst, i);
            continue;
        }
        unknown = true;
        for (const Missing& m : c.missing)
            if (std::find(missing.begin(), missing.end(), m) == missing.end()) missing.push_back(m);
    }
    if (over) {
        missing.clear();
        return over;
    }
    return unknown ? std::nullopt : worst;
}

void judge(Limit& l) {
    if (std::isnan(l.used) || std::isnan(l.allowed) || std::isnan(l.share)) {
        l.state = LimitState::cannot_say;
        return;
    }
    if (l.used > l.allowed * slack)
        l.state = LimitState::over;
    else if (l.used > l.allowed * l.share * slack)
        l.state = LimitState::tight;
    else
        l.state = LimitState::fits;
}

LimitCount count(const std::vector<Limit>& limits) {
    LimitCount c;
    for (const Limit& l : limits) {
        switch (l.state) {
        case LimitState::fits:
            ++c.fits;
            break;
        case LimitState::tight:
            ++c.tight;
            break;
        case LimitState::over:
            ++c.over;
            break;
        case LimitState::cannot_say:
            ++c.cannot_say;
            c.accepted += l.accepted;
            break;
        }
    }
    return c;
}

std::string use_text(const Limit& l) {
    return l.state == LimitState::cannot_say || l.yes_or_no ? std::string() : use_text(l.utilisation());
}

namespace {

// What orders limits of one state: of a yes there is nothing to come near to.
double nearness(const Limit& l) {
    return l.state == LimitState::cannot_say || (l.state != LimitState::over && l.yes_or_no) ? 0 : l.utilisation();
}

} // namespace

std::vector<std::size_t> by_tightness(const std::vector<Limit>& limits) {
    std::vector<std::size_t> order(limits.size());
    std::iota(order.begin(), order.end(), 0);
    const auto rank = [&](std::size_t i) {
        const Limit& l = limits[i];
        const int group = l.state == LimitState::over         ? 0
                          : l.state == LimitState::tight      ? 1
                          : l.state == LimitState::cannot_say ? 2
                                                              : 3;
        return std::pair(group, -nearness(l));
    };
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return rank(a) < rank(b); });
    return order;
}

std::optional<std::size_t> deciding(const std::vector<Limit>& limits) {
    std::optional<std::size_t> out;
    const auto rank = [&](std::size_t i) {
        const Limit& l = limits[i];
        const bool unknown = l.state == LimitState::cannot_say;
        const int group = l.state == LimitState::over    ? 4
                          : unknown                      ? (l.accepted ? 0 : 3)
                          : l.state == LimitState::tight ? 2
                                                         : 1;
        return std::pair(group, nearness(l));
    };
    for (std::size_t i = 0; i < limits.size(); ++i)
        if (!out || rank(i) > rank(*out)) out = i;
    return out;
}

} // namespace fulmox

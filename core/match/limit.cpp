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

void judge(Limit& l) {
    if (std::isnan(l.used) || std::isnan(l.allowed) || std::isnan(l.share)) {
        l.state = LimitState::cannot_say;
        return;
    }
    // a last-bit difference must not turn a limit that is met exactly
    constexpr double slack = 1 + 1e-12;
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
            break;
        }
    }
    return c;
}

std::vector<std::size_t> by_tightness(const std::vector<Limit>& limits) {
    std::vector<std::size_t> order(limits.size());
    std::iota(order.begin(), order.end(), 0);
    const auto rank = [&](std::size_t i) {
        const Limit& l = limits[i];
        const int group = l.state == LimitState::over         ? 0
                          : l.state == LimitState::tight      ? 1
                          : l.state == LimitState::cannot_say ? 2
                                                              : 3;
        const double u = l.state == LimitState::cannot_say ? 0 : l.utilisation();
        return std::pair(group, -u);
    };
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return rank(a) < rank(b); });
    return order;
}

} // namespace fulmox

#include "core/demand/stays.h"

#include "core/demand/span_polynomial.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

std::vector<Stay> stays_between(const Demand& d, double low, double high) {
    std::vector<Stay> out;
    const auto add = [&](double from, double lasts) {
        if (!(lasts > 0)) return;
        if (!out.empty() && from - (out.back().from + out.back().lasts) < 1e-9 * d.cycle_time)
            out.back().lasts = from + lasts - out.back().from;
        else
            out.push_back({from, lasts});
    };
    const auto inside = [&](double w) { return std::abs(w) > low && std::abs(w) < high; };
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        const SpanSamples& e = d.samples[k];
        const double lasts = s.lasting();
        const auto& at = span_nodes().at;
        double slow = std::abs(e.speed[0]), fast = slow;
        for (const double w : e.speed) slow = std::min(slow, std::abs(w)), fast = std::max(fast, std::abs(w));
        if (s.times > 1) { // constant speed
            if (inside(e.speed[0])) add(s.first_turn, s.times * s.turn);
            continue;
        }
        if (fast <= low || slow >= high) continue;
        const SpanPolynomial speed(e.speed);
        std::vector<double> edges{0, 1};
        for (const double level : {low, high, -low, -high})
            for (std::size_t i = 1; i < span_node_count; ++i)
                if ((e.speed[i - 1] - level) * (e.speed[i] - level) < 0)
                    edges.push_back(speed.crossing(level, at[i - 1], at[i], e.speed[i - 1], e.speed[i]));
        std::sort(edges.begin(), edges.end());
        for (std::size_t i = 1; i < edges.size(); ++i)
            if (inside(speed((edges[i - 1] + edges[i]) / 2)))
                add(s.start + edges[i - 1] * lasts, (edges[i] - edges[i - 1]) * lasts);
    }
    // turns that are alike come span by span: each with the whole time of its turns
    std::sort(out.begin(), out.end(), [](const Stay& a, const Stay& b) { return a.from < b.from; });
    std::vector<Stay> one;
    for (const Stay& s : out)
        if (!one.empty() && s.from <= one.back().from + one.back().lasts + 1e-9 * d.cycle_time)
            one.back().lasts = std::max(one.back().lasts, s.from + s.lasts - one.back().from);
        else
            one.push_back(s);
    const double end = d.cycle_time;
    if (one.size() > 1 && one.front().from < 1e-9 * end &&
        std::abs(one.back().from + one.back().lasts - end) < 1e-9 * end) {
        one.back().lasts += one.front().lasts;
        one.erase(one.begin());
    }
    return one;
}

} // namespace fulmox

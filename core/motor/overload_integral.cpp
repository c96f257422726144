#include "core/motor/overload_integral.h"

#include "core/demand/span_polynomial.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>

namespace fulmox {

namespace {

// What a stretch of time does to an integral s that it finds: it leaves max(s + net, left), and on the way there are
// max(s + rise, most) at the most. Stretches put together are such a stretch again.
struct Stretch {
    double net = 0, left = 0, rise = 0, most = 0;

    static Stretch of(double x) { return {x, std::max(0.0, x), std::max(0.0, x), std::max(0.0, x)}; }
    Stretch then(const Stretch& b) const {
        return {net + b.net, std::max(left + b.net, b.left), std::max(rise, net + b.rise),
            std::max({most, left + b.rise, b.most})};
    }
    Stretch times(double n) const {
        Stretch out = *this, power = *this;
        for (double more = n - 1; more >= 1; more = std::floor(more / 2)) {
            if (std::fmod(more, 2) >= 1) out = out.then(power);
            power = power.then(power);
        }
        return out;
    }
    double after(double s) const { return std::max(s + net, left); }
    double reached(double s) const { return std::max(s + rise, most); }
};

// One span: its parts over which the current stays above or below what runs continuously.
struct Parts {
    std::array<double, span_node_count + 1> u{};
    std::array<double, span_node_count> filled{};
    std::size_t count = 0;

    Parts(const std::array<double, span_node_count>& beyond, double duration) {
        const SignEdges edges = sign_edges(beyond, range_of(beyond));
        const SpanPolynomial f(beyond);
        for (std::size_t i = 0; i < edges.count; ++i) u[i] = edges.u[i];
        count = edges.count - 1;
        if (count == 1) {
            for (std::size_t i = 0; i < span_node_count; ++i)
                filled[0] += span_nodes().weight[i] * beyond[i] * duration;
            return;
        }
        for (std::size_t i = 0; i < count; ++i) filled[i] = duration * integral(f, u[i], u[i + 1]);
    }
    Stretch whole() const {
        Stretch out;
        for (std::size_t i = 0; i < count; ++i) out = out.then(Stretch::of(filled[i]));
        return out;
    }
};

} // namespace

std::array<double, span_node_count> current_squared(const MotorUse& use, std::size_t span) {
    std::array<double, span_node_count> out = use.copper[span];
    const double loss = use.can.model->loss_per_square(true);
    if (!(loss > 0)) return out;
    // what is kept of a brushed motor has the drop of its brushes in it: R i² + U i
    const double drop = use.can.model->numbers().brush_drop;
    for (double& each : out) {
        const double i = (std::sqrt(drop * drop + 4 * loss * each) - drop) / (2 * loss);
        each = drop > 0 ? i * i : each / loss;
    }
    return out;
}

OverloadIntegral overload_integral(const Demand& d, const MotorUse& use, const Drive& drive) {
    const MotorConditions& c = use.can.model->conditions();
    OverloadIntegral out;
    out.continuous = c.drive_continuous;
    const double square = c.drive_continuous * c.drive_continuous;
    out.budget = drive.peak_time.given() && std::isfinite(c.drive_peak)
                     ? (c.drive_peak * c.drive_peak - square) * drive.peak_time.si
                     : no_number;
    std::vector<Stretch> spans;
    spans.reserve(d.spans.size());
    Stretch cycle;
    const auto beyond = [&](std::size_t k) {
        std::array<double, span_node_count> at = current_squared(use, k);
        for (double& each : at) each -= square;
        return at;
    };
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        spans.push_back(Parts(beyond(k), d.spans[k].duration).whole().times(d.spans[k].times));
        cycle = cycle.then(spans.back());
    }
    out.net = cycle.net;
    out.first_cycle = cycle.reached(0);
    out.greatest = cycle.net > 0 ? infinite : std::max(out.first_cycle, cycle.reached(cycle.after(0)));
    out.trips = out.greatest > out.budget;
    if (!out.trips) return out;
    // the first cycle that reaches the budget, and in it the span, the turn and the instant
    double found = 0;
    out.trip_cycle = 1;
    if (!(cycle.reached(0) > out.budget)) {
        const double second = cycle.after(0);
        const double more =
            cycle.net > 0 ? std::max(0.0, std::ceil((out.budget - second - cycle.rise) / cycle.net)) : 0;
        out.trip_cycle = 2 + more;
        found = second + more * cycle.net;
        if (cycle.net > 0 && !(cycle.reached(found) > out.budget)) { // by rounding
            found += cycle.net;
            ++out.trip_cycle;
        }
    }
    for (std::size_t k = 0; k < spans.size(); ++k) {
        if (!(spans[k].reached(found) > out.budget)) {
            found = spans[k].after(found);
            continue;
        }
        const Span& s = d.spans[k];
        const std::array<double, span_node_count> f = beyond(k);
        const Parts parts(f, s.duration);
        const Stretch turn = parts.whole();
        double turns = 0;
        for (; turns + 1 < s.times && !(turn.reached(found) > out.budget); ++turns) found = turn.after(found);
        const SpanPolynomial between(f);
        for (std::size_t i = 0; i < parts.count; ++i) {
            const double missing = out.budget - found;
            if (!(parts.filled[i] > missing)) {
                found = Stretch::of(parts.filled[i]).after(found);
                continue;
            }
            const auto left = [&](double u) { return s.duration * integral(between, parts.u[i], u) - missing; };
            double u = parts.u[i + 1];
            if (missing > 0) {
                std::uintmax_t most = 100;
                const auto [a, b] = boost::math::tools::toms748_solve(left, parts.u[i], parts.u[i + 1], -missing,
                    left(parts.u[i + 1]), boost::math::tools::eps_tolerance<double>(45), most);
                u = (a + b) / 2;
            } else {
                u = parts.u[i];
            }
            out.trip_time = s.start + s.duration * (turns + u);
            return out;
        }
        out.trip_time = s.start + s.lasting();
        return out;
    }
    return out;
}

} // namespace fulmox

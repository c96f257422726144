#include "core/demand/closed_form.h"

#include "core/demand/sweep.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

double cross(const HullPoint& o, const HullPoint& a, const HullPoint& b) {
    return (a.torque - o.torque) * (b.acceleration - o.acceleration) -
           (a.acceleration - o.acceleration) * (b.torque - o.torque);
}

// Andrew's monotone chain.
std::vector<HullPoint> convex_hull(std::vector<HullPoint> p) {
    const auto less = [](const HullPoint& a, const HullPoint& b) {
        return a.torque < b.torque || (a.torque == b.torque && a.acceleration < b.acceleration);
    };
    const auto same = [](const HullPoint& a, const HullPoint& b) {
        return a.torque == b.torque && a.acceleration == b.acceleration;
    };
    std::sort(p.begin(), p.end(), less);
    p.erase(std::unique(p.begin(), p.end(), same), p.end());
    if (p.size() < 3) return p;
    std::vector<HullPoint> hull;
    const auto chain = [&](auto from, auto to, std::size_t base) {
        for (auto it = from; it != to; ++it) {
            while (hull.size() >= base + 2 && cross(hull[hull.size() - 2], hull.back(), *it) <= 0) hull.pop_back();
            hull.push_back(*it);
        }
        hull.pop_back();
    };
    chain(p.begin(), p.end(), 0);
    chain(p.rbegin(), p.rend(), hull.size());
    return hull;
}

std::array<double, 3> factors(double forward, double backward) { return {1 / forward, backward, 1}; }

QuadraticSums combined(const ClosedForm& f, double forward, double backward) {
    const auto k = factors(forward, backward);
    QuadraticSums s;
    for (std::size_t r = 0; r < k.size(); ++r) {
        s.a += k[r] * k[r] * f.sums[r].a;
        s.b += k[r] * f.sums[r].b;
        s.c += f.sums[r].c;
    }
    return s;
}

} // namespace

ClosedForm closed_form(const Demand& d) {
    ClosedForm out;
    out.peak_speed = d.mechanism_peak_speed;
    const SpanNodes& nodes = span_nodes();
    for (std::size_t index = 0; index < d.spans.size(); ++index) {
        const Span& s = d.spans[index];
        if (s.regime == Regime::braked || s.duration <= 0) continue;
        const SpanSamples& e = d.samples[index];
        const double power = e.mechanism_torque[4] * s.direction;
        const std::size_t r = s.direction == 0 ? 2 : power >= 0 ? 0 : 1;
        QuadraticSums& sums = out.sums[r];
        // where torque is linear in acceleration the extremes of acceleration tell the hull
        const bool straight =
            !d.load.position_dependent() && d.load.fan == 0 && (s.piece.uniform() || d.load.viscous == 0);
        const auto [low, high] = std::minmax_element(e.mechanism_acceleration.begin(), e.mechanism_acceleration.end());
        for (const auto* extreme : {&*low, &*high}) {
            const auto i = static_cast<std::size_t>(extreme - e.mechanism_acceleration.data());
            out.hulls[r].push_back({e.mechanism_torque[i], *extreme});
        }
        if (s.piece.uniform() && straight)
            for (const std::size_t i : {std::size_t{0}, std::size_t{8}})
                out.hulls[r].push_back({e.mechanism_torque[i], e.mechanism_acceleration[i]});
        // a curved path is followed more closely than the quadrature needs
        for (std::size_t i = 1; !straight && i < nodes.at.size(); ++i) {
            const double middle = (nodes.at[i - 1] + nodes.at[i]) / 2;
            const ShaftState between = evaluate(d.load, s, s.start + middle * s.duration);
            out.hulls[r].push_back({between.mechanism_torque, between.mechanism_acceleration});
        }
        for (std::size_t i = 0; i < nodes.at.size(); ++i) {
            const double w = nodes.weight[i] * s.duration / d.cycle_time;
            const double torque = e.mechanism_torque[i], acceleration = e.mechanism_acceleration[i];
            sums.a += w * torque * torque;
            sums.b += w * torque * acceleration;
            sums.c += w * acceleration * acceleration;
            if (!straight) out.hulls[r].push_back({torque, acceleration});
        }
    }
    for (auto& h : out.hulls) h = convex_hull(std::move(h));
    return out;
}

double ClosedForm::rms_torque(double ratio, double inertia, double forward, double backward) const {
    const QuadraticSums s = combined(*this, forward, backward);
    const double ji = inertia * ratio;
    return std::sqrt(std::max(0.0, s.a / (ratio * ratio) + 2 * s.b * inertia + s.c * ji * ji));
}

double ClosedForm::peak_torque(double ratio, double inertia, double forward, double backward) const {
    const auto k = factors(forward, backward);
    double most = 0;
    for (std::size_t r = 0; r < k.size(); ++r)
        for (const HullPoint& p : hulls[r])
            most = std::max(most, std::abs(k[r] * p.torque / ratio + inertia * ratio * p.acceleration));
    return most;
}

double ClosedForm::best_ratio(double inertia, double forward, double backward) const {
    const QuadraticSums s = combined(*this, forward, backward);
    return s.c > 0 && inertia > 0 ? std::pow(s.a / (s.c * inertia * inertia), 0.25) : 0;
}

double ClosedForm::least_rms(double inertia, double forward, double backward) const {
    const QuadraticSums s = combined(*this, forward, backward);
    return std::sqrt(std::max(0.0, 2 * inertia * (s.b + std::sqrt(s.a * s.c))));
}

} // namespace fulmox

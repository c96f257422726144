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
    for (const Span& s : d.spans) {
        if (s.regime == Regime::braked || s.duration <= 0) continue;
        const ShaftState middle = evaluate(d.load, s, s.start + s.duration / 2);
        const double power = middle.mechanism_torque * s.direction;
        const std::size_t r = s.direction == 0 ? 2 : power >= 0 ? 0 : 1;
        QuadraticSums& sums = out.sums[r];
        for (std::size_t i = 0; i < nodes.at.size(); ++i) {
            const ShaftState e = evaluate(d.load, s, s.start + nodes.at[i] * s.duration);
            const double w = nodes.weight[i] * s.duration / d.cycle_time;
            sums.a += w * e.mechanism_torque * e.mechanism_torque;
            sums.b += w * e.mechanism_torque * e.mechanism_acceleration;
            sums.c += w * e.mechanism_acceleration * e.mechanism_acceleration;
            out.hulls[r].push_back({e.mechanism_torque, e.mechanism_acceleration});
        }
        // a curved path needs more points than the quadrature; a straight one only its ends
        const bool curved = !s.piece.uniform() || d.load.position_dependent();
        constexpr int extra = 12;
        for (int i = 1; curved && i < extra; ++i) {
            const ShaftState e = evaluate(d.load, s, s.start + s.duration * i / extra);
            out.hulls[r].push_back({e.mechanism_torque, e.mechanism_acceleration});
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

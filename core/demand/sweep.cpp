#include "core/demand/sweep.h"

#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <numbers>
#include <utility>
#include <vector>

namespace fulmox {

namespace {

double sign(double x) { return x > 0 ? 1 : x < 0 ? -1 : 0; }

SpanNodes make_nodes() {
    using Gauss = boost::math::quadrature::gauss<double, 7>;
    SpanNodes n{};
    n.at[0] = 0;
    n.at[8] = 1;
    for (std::size_t i = 0; i < 4; ++i) {
        const double x = Gauss::abscissa()[i];
        const double w = Gauss::weights()[i] / 2;
        n.at[4 + i] = (1 + x) / 2;
        n.at[4 - i] = (1 - x) / 2;
        n.weight[4 + i] = n.weight[4 - i] = w;
    }
    return n;
}

template <class F> double root(F&& f, double a, double b, double fa, double fb) {
    std::uintmax_t most = 60;
    const auto [lo, hi] =
        boost::math::tools::toms748_solve(f, a, b, fa, fb, boost::math::tools::eps_tolerance<double>(50), most);
    return (lo + hi) / 2;
}

// Instants in (from, to) where f changes sign, found between eight probes.
template <class F> void add_roots(std::vector<double>& out, double from, double to, F&& f) {
    constexpr int probes = 8;
    double t0 = from;
    double f0 = f(from);
    for (int i = 1; i <= probes; ++i) {
        const double t1 = from + (to - from) * i / probes;
        const double f1 = f(t1);
        if (f0 * f1 < 0) out.push_back(root(f, t0, t1, f0, f1));
        t0 = t1;
        if (f1 != 0) f0 = f1;
    }
}

} // namespace

const SpanNodes& span_nodes() {
    static const SpanNodes nodes = make_nodes();
    return nodes;
}

void Sweep::cut(const Span& whole) {
    const double from = whole.start;
    const double to = whole.start + whole.duration;
    if (whole.regime == Regime::braked || whole.piece.at_rest()) {
        Span s = whole;
        s.direction = s.load_direction = 0;
        if (s.regime != Regime::braked) s.regime = Regime::standstill;
        SpanStates states;
        states.fill(evaluate(m_, s, from));
        sink_(s, states);
        return;
    }
    const auto velocity = [&](double t) { return whole.piece.velocity(t - whole.piece.start); };
    std::vector<double> edges{from};
    // laws do not reverse inside a piece, but ramps through zero and traces do
    const double v0 = velocity(from), v1 = velocity(to);
    const bool may_reverse = whole.piece.uniform() ? v0 * v1 < 0 : !whole.piece.one_way;
    if (may_reverse) add_roots(edges, from, to, velocity);
    if (m_.position_dependent() && m_.path != LoadModel::Path::winder) {
        // so much of a turn to a span that the quadrature keeps 1e-9, and cuts at the dead centres of a crank
        const double most = m_.path == LoadModel::Path::crank  ? std::numbers::pi / 6
                            : m_.path == LoadModel::Path::yoke ? std::numbers::pi / 4
                                                               : std::numbers::pi / 2;
        const double angle =
            std::abs(whole.piece.position(to - whole.piece.start) - whole.piece.position(from - whole.piece.start));
        const int parts = 1 + static_cast<int>(std::min(angle / most, 1e5));
        for (int i = 1; i < parts; ++i) edges.push_back(from + (to - from) * i / parts);
        if (m_.path != LoadModel::Path::straight) {
            std::sort(edges.begin(), edges.end());
            edges.push_back(to);
            std::vector<double> more;
            for (std::size_t i = 1; i < edges.size(); ++i)
                add_roots(more, edges[i - 1], edges[i],
                    [&](double t) { return path_at(m_, whole.piece.position(t - whole.piece.start)).first; });
            edges.pop_back();
            edges.insert(edges.end(), more.begin(), more.end());
        }
    } else if (m_.fan != 0 && !whole.piece.uniform()) {
        edges.push_back((from + to) / 2);
    }
    std::sort(edges.begin(), edges.end());
    edges.push_back(to);
    // a root within rounding of a border is no change: a move that ends at rest may end at -1e-17 m/s
    const double least = 1e-12 * whole.duration;
    double last = from;
    for (std::size_t i = 1; i < edges.size(); ++i) {
        const bool final = i + 1 == edges.size();
        if (!final && (edges[i] - last <= least || to - edges[i] <= least)) continue;
        directed(whole, last, edges[i]);
        last = edges[i];
    }
}

void Sweep::directed(Span s, double from, double to) {
    s.start = from;
    s.duration = to - from;
    const double middle = (from + to) / 2 - s.piece.start;
    const double v = s.piece.velocity(middle);
    s.direction = sign(v) * (m_.path == LoadModel::Path::straight ? sign(m_.radius) : 1);
    s.load_direction = sign(v * (m_.path == LoadModel::Path::crank || m_.path == LoadModel::Path::yoke
                                        ? path_at(m_, s.piece.position(middle)).first
                                        : 1.0));
    s.regime = Regime::motoring;
    settle(s, 0);
}

namespace {

double mix(double a, double b, double k) { return a + (b - a) * k; }

ShaftState mix(const ShaftState& a, const ShaftState& b, double k) {
    ShaftState s;
    s.speed = mix(a.speed, b.speed, k);
    s.acceleration = mix(a.acceleration, b.acceleration, k);
    s.torque = mix(a.torque, b.torque, k);
    for (std::size_t i = 0; i < s.part.size(); ++i) s.part[i] = mix(a.part[i], b.part[i], k);
    s.load_force = mix(a.load_force, b.load_force, k);
    s.load_speed = mix(a.load_speed, b.load_speed, k);
    s.mechanism_torque = mix(a.mechanism_torque, b.mechanism_torque, k);
    s.mechanism_speed = mix(a.mechanism_speed, b.mechanism_speed, k);
    s.mechanism_acceleration = mix(a.mechanism_acceleration, b.mechanism_acceleration, k);
    s.coupling_torque = mix(a.coupling_torque, b.coupling_torque, k);
    return s;
}

} // namespace

// Under constant acceleration and with nothing that depends on position, everything is linear in time between switches.
void Sweep::settle_affine(const Span& s, int depth) {
    Switches first, last;
    const ShaftState from = evaluate(m_, s, s.start, &first);
    const ShaftState to = evaluate(m_, s, s.start + s.duration, &last);
    const double least = 1e-11 * std::max(s.piece.duration, s.duration);
    for (std::size_t k = 0; k < first.count && depth < 24; ++k) {
        const double f0 = first.value[k], f1 = last.value[k];
        if (f0 * f1 >= 0) continue;
        const double length = s.duration * f0 / (f0 - f1);
        if (length <= least || s.duration - length <= least) continue;
        Span a = s, b = s;
        a.duration = length;
        b.start = s.start + length;
        b.duration = s.duration - length;
        settle_affine(a, depth + 1);
        settle_affine(b, depth + 1);
        return;
    }
    SpanStates states;
    const SpanNodes& nodes = span_nodes();
    for (std::size_t i = 0; i < states.size(); ++i) states[i] = mix(from, to, nodes.at[i]);
    Span done = s;
    done.regime = states[4].load_force * s.load_direction >= 0 ? Regime::motoring : Regime::generating;
    sink_(done, states);
}

void Sweep::settle(Span s, int depth) {
    if (s.piece.uniform() && m_.fan == 0 && !m_.position_dependent()) return settle_affine(s, 0);
    const SpanNodes& nodes = span_nodes();
    SpanStates states;
    std::array<double, 24> last{};    // last value that is not zero, so that a zero at a node hides no change of sign
    std::array<double, 24> last_at{}; // and when it was
    const double least = 1e-11 * std::max(s.piece.duration, s.duration);
    for (std::size_t i = 0; i < states.size(); ++i) {
        Switches now;
        const double t = s.start + nodes.at[i] * s.duration;
        states[i] = evaluate(m_, s, t, &now);
        for (std::size_t k = 0; k < now.count; ++k) {
            if (now.value[k] == 0) continue;
            const double f0 = std::exchange(last[k], now.value[k]);
            const double t0 = std::exchange(last_at[k], t);
            if (f0 * now.value[k] >= 0 || depth >= 24) continue;
            const auto f = [&](double at) {
                Switches w;
                evaluate(m_, s, at, &w);
                return w.value[k];
            };
            const double at = root(f, t0, t, f0, now.value[k]);
            if (at - s.start <= least || s.start + s.duration - at <= least) continue;
            Span first = s;
            first.duration = at - s.start;
            Span second = s;
            second.start = at;
            second.duration = s.start + s.duration - at;
            settle(first, depth + 1);
            settle(second, depth + 1);
            return;
        }
    }
    s.regime = states[4].load_force * s.load_direction >= 0 ? Regime::motoring : Regime::generating;
    sink_(s, states);
}

} // namespace fulmox

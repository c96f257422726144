#include "core/demand/sweep.h"

#include "core/demand/span_polynomial.h"
#include "core/model/field.h"
#include "core/motion/extremes.h"

#include <algorithm>
#include <boost/math/special_functions/legendre.hpp>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

using std::numbers::pi;

namespace {

template <class F> double sign_change(F&& f, double a, double b, double fa, double fb) {
    std::uintmax_t most = 60;
    const auto [lo, hi] =
        boost::math::tools::toms748_solve(f, a, b, fa, fb, boost::math::tools::eps_tolerance<double>(50), most);
    return (lo + hi) / 2;
}

// The inner nodes are the zeros of P₇', which lie between those of P₇; the weight of each is 2/(n (n − 1) P₇²).
SpanNodes make_nodes() {
    constexpr int order = static_cast<int>(span_node_count) - 1;
    const std::vector<double> zeros = boost::math::legendre_p_zeros<double>(order); // from 0 on
    const auto slope = [](double x) { return boost::math::legendre_p_prime(order, x); };
    SpanNodes n{};
    const auto put = [&](std::size_t i, double x) {
        const double p = boost::math::legendre_p(order, x);
        const std::size_t other = span_node_count - 1 - i;
        n.at[i] = (1 + x) / 2;
        n.at[other] = (1 - x) / 2;
        n.weight[i] = n.weight[other] = 1 / (span_node_count * order * p * p);
    };
    for (std::size_t k = 1; k < zeros.size(); ++k)
        put(span_node_count / 2 + k - 1,
            sign_change(slope, zeros[k - 1], zeros[k], slope(zeros[k - 1]), slope(zeros[k])));
    put(span_node_count - 1, 1);
    return n;
}

} // namespace

const SpanNodes& span_nodes() {
    static const SpanNodes nodes = make_nodes();
    return nodes;
}

Sweep::Sweep(const LoadModel& m, Sink sink, std::function<void(const Span&)> start, double rest)
    : m_(m), sink_(std::move(sink)), start_(std::move(start)), rest_(rest) {
    crank_ = m.path == LoadModel::Path::crank || m.path == LoadModel::Path::yoke;
    // so much of a turn to a span that the quadrature keeps 1e-9; a short rod brings in the higher harmonics
    if (m.path == LoadModel::Path::crank)
        widest_ = m.crank < 0.35 * m.rod ? pi / 4 : m.crank < 0.6 * m.rod ? pi / 6 : pi / 12;
    else if (m.path == LoadModel::Path::yoke)
        widest_ = pi / 3;
    else if (m.path == LoadModel::Path::straight && m.position_dependent())
        widest_ = pi / 2;
}

// The radius of a roll changes so little over a span that the quadrature keeps 1e-12: its square by half at the most.
void Sweep::add_places(const Span& whole, std::vector<double>& edges) const {
    const Piece& p = whole.piece;
    const auto squared = [&](double t) {
        return std::pow(m_.roll_radius(m_.web_start + m_.web_sign * p.position(t - p.start)), 2);
    };
    const std::size_t n = edges.size();
    for (std::size_t i = 1; i < n; ++i) {
        const double a = squared(edges[i - 1]), b = squared(edges[i]);
        const int parts = static_cast<int>(std::ceil(std::abs(std::log(b / a)) / std::log(1.5)));
        const double from = edges[i - 1], to = edges[i];
        for (int k = 1; k < parts; ++k) {
            const double level = a * std::pow(b / a, static_cast<double>(k) / parts);
            edges.push_back(sign_change([&](double t) { return squared(t) - level; }, from, to, a - level, b - level));
        }
    }
    std::sort(edges.begin(), edges.end());
}

// Between two edges the shaft does not reverse, so that it passes each dead centre once.
void Sweep::add_dead_centres(const Span& whole, std::vector<double>& edges) const {
    const Piece& p = whole.piece;
    const double first = m_.path == LoadModel::Path::yoke ? pi / 2 : 0;
    const std::size_t n = edges.size();
    for (std::size_t i = 1; i < n; ++i) {
        const double t0 = edges[i - 1] - p.start, t1 = edges[i] - p.start;
        const double q0 = p.position(t0), q1 = p.position(t1);
        // a move that ends in a dead centre passes it by rounding at the most
        constexpr double hair = 1e-9;
        const double low = std::min(q0, q1) + hair, high = std::max(q0, q1) - hair;
        double centre = first + std::ceil((low - first) / pi) * pi;
        for (; centre < high; centre += pi)
            if (centre > low && (q0 - centre) * (q1 - centre) < 0)
                edges.push_back(p.start + sign_change([&](double t) { return p.position(t) - centre; }, t0, t1,
                                              q0 - centre, q1 - centre));
    }
    std::sort(edges.begin(), edges.end());
}

// Where friction that is credited begins or ceases to hold alone what pushes: the torque of the motor has a kink there.
void Sweep::add_grips(const Span& whole, std::vector<double>& edges) const {
    const double q = whole.piece.position(0), from = edges.front(), to = edges.back();
    const auto torque = [&](double t, bool credit) {
        return holding_torque(m_, q, whole.payload, whole.process_at(t), credit, whole.friction_factor);
    };
    const double first = torque(from, false), last = torque(to, false);
    if (first * last < 0) edges.insert(edges.begin() + 1, from + (to - from) * first / (first - last));
    const auto held = [&](double t) { return torque(t, true) == 0; };
    const std::size_t n = edges.size();
    for (std::size_t i = 1; i < n; ++i) {
        double a = edges[i - 1], b = edges[i];
        const bool before = held(a);
        if (before == held(b)) continue;
        for (int k = 0; k < 60; ++k) {
            const double middle = (a + b) / 2;
            (held(middle) == before ? a : b) = middle;
        }
        edges.push_back((a + b) / 2);
    }
    std::sort(edges.begin(), edges.end());
}

void Sweep::cut(const Span& whole) {
    const Piece& p = whole.piece;
    if (whole.regime == Regime::braked || p.at_rest()) {
        Span s = whole;
        s.direction = s.load_direction = 0;
        SpanStates states;
        if (s.regime != Regime::braked) s.regime = Regime::standstill;
        edges_.assign({whole.start, whole.start + whole.duration});
        if (m_.credit_friction_at_rest && whole.process_rate != 0) add_grips(whole, edges_);
        for (std::size_t i = 1; i < edges_.size(); ++i) {
            s.start = edges_[i - 1];
            s.duration = edges_[i] - edges_[i - 1];
            evaluate_nodes(m_, s, states);
            sink_(s, states);
        }
        return;
    }
    if (widest_ > 0 && p.uniform() && p.c[2] == 0 && whole.times == 1 && whole.process_rate == 0) {
        // at constant speed each turn is like the one before it
        const double turn = 2 * pi / std::abs(p.c[1]), turns = std::floor(whole.duration / turn);
        if (turns >= 3) {
            Span part = whole;
            part.first_turn = whole.start;
            part.duration = part.turn = turn;
            part.times = turns;
            cut(part);
            part = whole;
            part.start += turns * turn;
            part.duration = whole.start + whole.duration - part.start;
            if (part.duration > 1e-12 * whole.duration) cut(part);
            return;
        }
    }
    const double from = whole.start, to = whole.start + whole.duration;
    const auto velocity = [&](double t) { return p.velocity(t - p.start); };
    std::vector<double>& edges = edges_;
    edges.assign({from, to});
    // laws do not reverse inside a piece, but ramps through zero and traces do
    if (!p.one_way) {
        for (const double tau : extremes(p, no_bound, no_bound, no_bound, 1e-4 * rest_).reversals)
            edges.push_back(p.start + tau);
        std::sort(edges.begin(), edges.end());
    }
    if (m_.path == LoadModel::Path::winder) add_places(whole, edges);
    if (crank_) add_dead_centres(whole, edges);
    if (widest_ > 0) {
        const double fastest =
            std::max({std::abs(velocity(from)), std::abs(velocity(to)), std::abs(velocity((from + to) / 2))});
        const int parts = 1 + static_cast<int>(std::min(fastest * whole.duration / widest_, 1e6));
        for (int i = 1; i < parts; ++i) edges.push_back(from + (to - from) * i / parts);
        std::sort(edges.begin(), edges.end());
    } else if (m_.fan != 0 && !p.uniform()) {
        edges.push_back((from + to) / 2);
        std::sort(edges.begin(), edges.end());
    }
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

void Sweep::directed(const Span& whole, double from, double to) {
    Span s = whole;
    s.start = from;
    s.duration = to - from;
    const double middle = (from + to) / 2 - s.piece.start;
    const double v = s.piece.velocity(middle);
    s.direction = sign(v) * (m_.path == LoadModel::Path::straight ? sign(m_.radius) : 1);
    s.load_direction = sign(crank_ ? v * path_at(m_, s.piece.position(middle)).first : v);
    s.regime = Regime::motoring;
    // a crawl that only comes to rest has nothing to break loose
    const double begins = std::abs(s.piece.velocity(from - s.piece.start));
    if (start_ && begins <= rest_ && std::abs(v) >= begins) start_(s);
    settle(s, 0);
}

// Cuts where the first quantity that changes its sign does so, and looks into the parts again: those after it have a
// kink there.
void Sweep::settle(Span& s, int depth) {
    SpanStates states;
    evaluate_nodes(m_, s, states);
    // under constant acceleration and with nothing that depends on position everything is linear between switches;
    // elsewhere a cut is good to 1e-7, which the quadrature feels as its square, since torque has a kink there and no
    // jump
    const bool linear = s.piece.uniform() && m_.fan == 0 && !m_.position_dependent();
    const double least = (linear ? 1e-11 : 1e-6) * s.piece.duration / s.duration;
    const int deepest = static_cast<int>(states.deciding_count) + 1;
    for (std::size_t k = 0; k < states.deciding_count && depth < deepest; ++k) {
        const auto& f = states.deciding[k];
        SignEdges edges;
        if (!linear)
            edges = sign_edges(f, range_of(f));
        else if (f.front() * f.back() < 0)
            edges = {{0, f.front() / (f.front() - f.back()), 1}, 3};
        std::array<double, span_node_count> cuts;
        std::size_t count = 0;
        for (std::size_t i = 1; i + 1 < edges.count; ++i) {
            const double u = edges.u[i];
            if (u > least && u < 1 - least && (count == 0 || u - cuts[count - 1] > least)) cuts[count++] = u;
        }
        if (count == 0) continue;
        const double start = s.start, duration = s.duration;
        for (std::size_t i = 0; i <= count; ++i) {
            const double from = i == 0 ? 0 : cuts[i - 1], to = i == count ? 1 : cuts[i];
            s.start = start + from * duration;
            s.duration = i == count ? start + duration - s.start : (to - from) * duration;
            settle(s, depth + 1);
        }
        return;
    }
    s.regime = states.load_force[span_node_count / 2] * s.load_direction >= 0 ? Regime::motoring : Regime::generating;
    sink_(s, states);
}

} // namespace fulmox

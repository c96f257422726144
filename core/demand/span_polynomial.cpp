#include "core/demand/span_polynomial.h"

#include <Eigen/Dense>
#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>

namespace fulmox {

namespace {

using Square = Eigen::Matrix<double, span_node_count, span_node_count>;

// Column j: coefficients of the polynomial that is 1 at node j and 0 at the others.
Square lagrange_coefficients() {
    Square powers;
    for (Eigen::Index i = 0; i < powers.rows(); ++i)
        for (Eigen::Index k = 0; k < powers.cols(); ++k)
            powers(i, k) = std::pow(2 * span_nodes().at[static_cast<std::size_t>(i)] - 1, static_cast<double>(k));
    return powers.fullPivLu().inverse();
}

template <class F> double root(F&& f, double from, double to, double at_from, double at_to) {
    if (at_from == 0) return from;
    if (at_to == 0) return to;
    std::uintmax_t most = 40;
    const auto [low, high] = boost::math::tools::toms748_solve(
        f, from, to, at_from, at_to, boost::math::tools::eps_tolerance<double>(40), most);
    return (low + high) / 2;
}

} // namespace

SpanPolynomial::SpanPolynomial(const Nodes& values) {
    static const Square basis = lagrange_coefficients();
    Eigen::Map<Eigen::Matrix<double, span_node_count, 1>>(c_.data()) =
        basis * Eigen::Map<const Eigen::Matrix<double, span_node_count, 1>>(values.data());
}

// Newton's steps, kept within the bracket by halving it.
double SpanPolynomial::crossing(double level, double from, double to, double at_from, double at_to) const {
    const double a = at_from - level, b = at_to - level;
    double u = from + (to - from) * a / (a - b);
    for (int step = 0; step < 60; ++step) {
        const double s = 2 * u - 1;
        double f = c_.back(), slope = 0;
        for (std::size_t k = c_.size() - 1; k-- > 0;) {
            slope = slope * s + f;
            f = f * s + c_[k];
        }
        f -= level;
        if (f == 0) return u;
        (f < 0) == (a < 0) ? from = u : to = u;
        double next = u - f / (2 * slope);
        if (!(next > from && next < to)) next = (from + to) / 2;
        // the next step would be the square of this one
        if (std::abs(next - u) < 1e-7) return next;
        u = next;
    }
    return u;
}

SignEdges sign_edges(const SpanPolynomial::Nodes& values, const NodeRange& range) {
    SignEdges out;
    if (!range.changes_sign()) return out;
    const SpanPolynomial p(values);
    const auto& at = span_nodes().at;
    std::size_t last = values.size(); // the last value that is not zero, so that a zero hides no change of sign
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (values[i] == 0) continue;
        if (last < values.size() && (values[last] < 0) != (values[i] < 0)) {
            out.u[out.count - 1] = p.crossing(0, at[last], at[i], values[last], values[i]);
            out.u[out.count++] = 1;
        }
        last = i;
    }
    return out;
}

namespace {

// Where the values rise and fall more than once, or the parabola beside the best node tells nothing: the summits
// between all nodes, from the signs of the slope there and halfway.
SpanExtreme largest_of_all(const SpanPolynomial::Nodes& values, double sign, SpanExtreme best) {
    const SpanPolynomial p(values);
    const auto& at = span_nodes().at;
    const auto slope = [&](double x) { return sign * p.slope(x); };
    double from = at[0], up = slope(from);
    for (std::size_t i = 1; i < 2 * values.size() - 1; ++i) {
        const double to = i % 2 == 0 ? at[i / 2] : (at[i / 2] + at[i / 2 + 1]) / 2, down = slope(to);
        if (up > 0 && down < 0) {
            const double u = root(slope, from, to, up, down), value = sign * p(u);
            if (value > best.value) best = {u, value};
        }
        from = to;
        up = down;
    }
    return best;
}

bool rises_once(const SpanPolynomial::Nodes& values, double sign) {
    bool fell = false;
    for (std::size_t i = 1; i < values.size(); ++i) {
        const double step = sign * (values[i] - values[i - 1]);
        if (step > 0 && fell) return false;
        fell = fell || step < 0;
    }
    return true;
}

} // namespace

SpanExtreme largest(const SpanPolynomial::Nodes& values, double sign, const NodeRange& range, double floor) {
    const auto& at = span_nodes().at;
    const auto best =
        static_cast<std::size_t>(std::find(values.begin(), values.end(), sign * range.high) - values.begin());
    const SpanExtreme node{at[best], range.high};
    if (range.stays_below(floor) || !(range.high > range.low)) return node;
    if (!rises_once(values, sign)) return largest_of_all(values, sign, node);
    // the parabola through the neighbours tells how much higher it may rise between the nodes
    const std::size_t j = std::clamp<std::size_t>(best, 1, values.size() - 2);
    const double left = at[j] - at[j - 1], right = at[j + 1] - at[j];
    const double before = sign * (values[j] - values[j - 1]) / left, after = sign * (values[j + 1] - values[j]) / right;
    const double bend = (after - before) / (left + right);
    if (!(bend < 0)) return largest_of_all(values, sign, node);
    const double slope = (before * right + after * left) / (left + right);
    const double vertex = at[j] - slope / (2 * bend);
    const double from = at[best == 0 ? 0 : best - 1], to = at[std::min(best + 1, values.size() - 1)];
    if (vertex <= from || vertex >= to) return node;
    const double rise = sign * values[j] - slope * slope / (4 * bend) - range.high;
    if (!(rise > 1e-14 * std::abs(range.high)) || range.high + 4 * rise <= floor) return node;
    const SpanPolynomial p(values);
    const double up = sign * p.slope(from), down = sign * p.slope(to);
    if (!(up > 0 && down < 0)) return largest_of_all(values, sign, node);
    const double u = root([&](double x) { return sign * p.slope(x); }, from, to, up, down);
    const double value = sign * p(u);
    return value > node.value ? SpanExtreme{u, value} : node;
}

} // namespace fulmox

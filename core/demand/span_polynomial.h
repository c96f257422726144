// A quantity between the nodes of a span, without evaluating the shaft again.
#pragma once

#include "core/demand/demand.h"

namespace fulmox {

/// The polynomial of degree 7 through the values at the nodes of a span, over u from 0 to 1. Spans are cut so that
/// every quantity is smooth inside: exact for polynomial laws, about 1e-8 of the range for harmonic ones and cranks.
class SpanPolynomial {
  public:
    using Nodes = std::array<double, span_node_count>;

    explicit SpanPolynomial(const Nodes& values);

    double operator()(double u) const {
        const double s = 2 * u - 1;
        double y = c_.back();
        for (std::size_t k = c_.size() - 1; k-- > 0;) y = y * s + c_[k];
        return y;
    }
    /// By u.
    double slope(double u) const {
        const double s = 2 * u - 1;
        double y = 0;
        for (std::size_t k = c_.size() - 1; k > 0; --k) y = y * s + static_cast<double>(k) * c_[k];
        return 2 * y;
    }
    /// Where the polynomial passes `level` between two nodes whose values lie on either side of it.
    double crossing(double level, double from, double to, double at_from, double at_to) const;

  private:
    std::array<double, span_node_count> c_; // of powers of 2 u − 1
};

/// Least and largest of the values at the nodes.
struct NodeRange {
    double low = 0, high = 0;
    bool changes_sign() const { return low < 0 && high > 0; }
    /// The nodes lie so close that a smooth quantity rises by less than a tenth of its range between them.
    bool stays_below(double floor) const { return high + 0.1 * (high - low) <= floor; }
    NodeRange turned() const { return {-high, -low}; }
};
inline NodeRange range_of(const SpanPolynomial::Nodes& values) {
    NodeRange r{values[0], values[0]};
    for (const double v : values) {
        r.low = v < r.low ? v : r.low;
        r.high = v > r.high ? v : r.high;
    }
    return r;
}

/// Borders of the stretches of a span over which a quantity keeps its sign: 0, its zeros, 1.
struct SignEdges {
    std::array<double, span_node_count + 1> u{0, 1};
    std::size_t count = 2;
};
SignEdges sign_edges(const SpanPolynomial::Nodes& values, const NodeRange& range);

/// ∫ f(u) du between two borders by the quadrature of the spans.
template <class F> double integral(F&& f, double from, double to) {
    const SpanNodes& nodes = span_nodes();
    double sum = 0;
    for (std::size_t i = 0; i < span_node_count; ++i) sum += nodes.weight[i] * f(from + nodes.at[i] * (to - from));
    return sum * (to - from);
}

struct SpanExtreme {
    double u = 0;
    double value = 0;
};

/// Largest value over a span, between the nodes too, of `sign` (1 or −1) times the quantity; `range` is that of the
/// product. Where it cannot exceed `floor` the largest node will do.
SpanExtreme largest(const SpanPolynomial::Nodes& values, double sign, const NodeRange& range, double floor);

} // namespace fulmox

// Cuts a stretch of motion into spans in which nothing switches, and hands each on with its states at the nodes of the
// quadrature.
#pragma once

#include "core/demand/evaluate.h"

#include <functional>
#include <vector>

namespace fulmox {

class Sweep {
  public:
    using Sink = std::function<void(const Span&, const SpanStates&)>;

    /// `start`, where given, hears of every instant at which the axis leaves standstill: a span that begins there and
    /// knows its directions. Slower than `rest`, m/s or rad/s of the coordinate, is standstill.
    Sweep(const LoadModel& m, Sink sink, std::function<void(const Span&)> start = {}, double rest = 0);

    /// Cuts at standstill, at dead centres, at every 30° of a position-dependent shaft, and wherever a force or torque
    /// that decides an efficiency changes sign.
    void cut(const Span& whole);

  private:
    void directed(const Span& whole, double from, double to);
    void settle(Span& s, int depth);
    void add_places(const Span& whole, std::vector<double>& edges) const;
    void add_grips(const Span& whole, std::vector<double>& edges) const;
    void add_dead_centres(const Span& whole, std::vector<double>& edges) const;

    const LoadModel& m_;
    Sink sink_;
    std::function<void(const Span&)> start_;
    double rest_ = 0;
    bool crank_ = false; // the travel has dead centres
    double widest_ = 0;  // rad of the shaft to a span at most; 0: no limit
    std::vector<double> edges_;
};

} // namespace fulmox

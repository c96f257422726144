// Cuts a stretch of motion into spans in which nothing switches, and hands each on with its states at the nodes of the
// quadrature.
#pragma once

#include "core/demand/evaluate.h"

#include <array>
#include <functional>

namespace fulmox {

/// States of a span: at its start, at the seven Gauss–Legendre nodes in rising order, at its end.
using SpanStates = std::array<ShaftState, 9>;

class Sweep {
  public:
    using Sink = std::function<void(const Span&, const SpanStates&)>;

    Sweep(const LoadModel& m, Sink sink) : m_(m), sink_(std::move(sink)) {}

    /// Cuts at standstill, at dead centres, at every 30° of a position-dependent shaft, and wherever a force or torque
    /// that decides an efficiency changes sign.
    void cut(const Span& whole);

  private:
    void directed(Span s, double from, double to);
    void settle(Span s, int depth);
    void settle_affine(const Span& s, int depth);

    const LoadModel& m_;
    Sink sink_;
};

} // namespace fulmox

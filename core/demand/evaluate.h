// The shaft at all nodes of a span at once, with the quantities whose sign switches an efficiency.
#pragma once

#include "core/demand/demand.h"

namespace fulmox {

/// Load force, then the torque that each lossy stage delivers, from the mechanism on: at most so many.
inline constexpr std::size_t most_deciding = 24;

/// States at N instants, one row for each quantity; units as in ShaftState. Left unset until evaluated.
template <std::size_t N> struct StateRows {
    using Row = std::array<double, N>;
    Row speed, acceleration, torque;
    std::array<Row, cause_count> part;
    Row load_force, load_speed;
    Row mechanism_torque, mechanism_speed, mechanism_acceleration;
    Row coupling_torque;
    std::array<Row, most_deciding> deciding; ///< in the order above; none at rest
    std::size_t deciding_count = 0;

    void decide(const Row& r) {
        if (deciding_count < deciding.size()) deciding[deciding_count++] = r;
    }
};

/// At the nodes, its start the first and its end the last.
using SpanStates = StateRows<span_node_count>;

/// What an axis in motion carries and meets: kg or kg·m², N or N·m, and what its friction is multiplied by.
struct Burden {
    double payload = 0, friction_factor = 1;
};

/// So many instants of an axis in motion are evaluated at once.
inline constexpr std::size_t instant_count = 16;
/// The cycle's coordinate and its derivatives by time, SI; the direction, 1 or -1, tells the side of friction where the
/// velocity has come to 0.
struct Instants {
    std::array<double, instant_count> position, velocity, acceleration, direction;
};
using InstantStates = StateRows<instant_count>;

/// States at instants that need not belong to one motion.
void evaluate_instants(const LoadModel& m, const Burden& c, const Instants& at, InstantStates& out);

/// States of a span at its nodes; the span knows its directions.
void evaluate_nodes(const LoadModel& m, const Span& s, SpanStates& out);

} // namespace fulmox

// How long a drive gives more than its continuous current: the integral of what it gives beyond, over cycle after
// cycle.
#pragma once

#include "core/motor/capability.h"

namespace fulmox {

/// ∫ (I² − I_c²) dt from empty, never below zero. A² of the line RMS or of the DC link, s.
struct OverloadIntegral {
    double continuous = 0;  ///< I_c, A, as derated
    double first_cycle = 0; ///< the greatest of the first cycle, A²s
    double greatest = 0;    ///< of all cycles; infinite where each begins fuller than the one before it
    double net = 0;         ///< A²s a cycle takes or, below 0, gives back
    double budget = 0;      ///< (I_p² − I_c²) t_p; NaN where the drive's peak or how long it gives it is not known
    bool trips = false;
    double trip_cycle = 0; ///< 1 is the first
    double trip_time = 0;  ///< s into it
};

/// `use` must have a model, and the drive a continuous current; not for steppers, whose current is set.
OverloadIntegral overload_integral(const Demand& d, const MotorUse& use, const Drive& drive);

/// Square of the current at the nodes of a span, A² RMS or DC.
std::array<double, span_node_count> current_squared(const MotorUse& use, std::size_t span);

} // namespace fulmox

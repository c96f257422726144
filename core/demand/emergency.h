// The emergency stop.
#pragma once

#include "core/demand/demand.h"

namespace fulmox {

/// Stops from top speed in either direction, with the lightest and the heaviest payload, from every place that matters:
/// sets the stop time, the largest torque at the motor and through the coupling. Nothing where neither the time nor the
/// distance of the stop is given.
void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const std::vector<double>& payloads);

} // namespace fulmox

// The emergency stop.
#pragma once

#include "core/demand/demand.h"

#include <vector>

namespace fulmox {

/// What a cycle offers an emergency stop to begin from: it may come at any place, with any payload and friction that is
/// in force while the axis moves, in either direction it moves in.
struct StopCases {
    bool forward = false, backward = false;
    double lowest = 0, highest = 0; ///< m or rad of the coordinate
    std::vector<double> payloads;   ///< kg, rising
    std::vector<double> frictions;  ///< factors on friction, rising
};
/// `payload` is that at the start of the cycle, kg.
StopCases stop_cases(const Trajectory& motion, double payload);

/// Most torque that the drive lets the motor give in an emergency stop, N·m at its shaft: the torque limit; infinite
/// where there is none.
double stop_torque_bound(const Axis& axis);

/// Whether the axis has an emergency stop whose torque is bounded.
bool stop_is_limited(const Axis& axis);

/// Stops at constant deceleration from the top speed of the cycle and goes through each to its end: sets the stop time,
/// the largest torque at the motor and through the coupling, and the largest force at the load. Where the torque of the
/// stop is bounded and the time that is asked would take more, the stop takes the shortest longer time for which it is
/// enough. Nothing where neither the time nor the distance of the stop is given.
void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const StopCases& cases);

} // namespace fulmox

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

/// Stops at constant deceleration from the top speed of the cycle and goes through each to its end: sets the stop time,
/// the largest torque at the motor and through the coupling, and the largest force at the load. Nothing where neither
/// the time nor the distance of the stop is given.
void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const StopCases& cases);

} // namespace fulmox

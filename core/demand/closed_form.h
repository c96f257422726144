// Closed forms that make a candidate cost a few operations: RMS and peak torque as a function of the ratio and of the
// motor-side inertia.
//
// With D the torque the mechanism wants at its input shaft and α its acceleration there, a stage of ratio i and
// efficiency η and a motor-side inertia J need T = k D/i + J i α, where k is 1/η motoring, η generating, 1 at rest.
#pragma once

#include "core/demand/demand.h"

#include <array>
#include <vector>

namespace fulmox {

struct HullPoint {
    double torque = 0;       ///< D, N·m
    double acceleration = 0; ///< α, rad/s²
};

/// Ratio of least RMS torque of an ideal stage, i* = (a/(c J²))^(1/4), for a motor-side inertia J kg·m²; 0 where nothing
/// accelerates.
double best_ratio(const QuadraticSums& s, double inertia);

/// Least RMS torque, N·m: √(2 J (b + √(a c))).
double least_rms(const QuadraticSums& s, double inertia);

/// Regimes by the power at the mechanism's input shaft.
struct ClosedForm {
    std::array<QuadraticSums, 3> sums;           ///< motoring, generating, standstill
    std::array<std::vector<HullPoint>, 3> hulls; ///< convex hull of (D, α) for each
    double peak_speed = 0;                       ///< rad/s at the mechanism's input shaft

    /// RMS torque at the motor, N·m; J kg·m², ratio i > 0, stage efficiency both ways.
    double rms_torque(
        double ratio, double inertia, double efficiency_forward = 1, double efficiency_backward = 1) const;

    /// Largest |T| at the motor over the cycle.
    double peak_torque(
        double ratio, double inertia, double efficiency_forward = 1, double efficiency_backward = 1) const;

    /// Ratio of least RMS torque, i* = (a/(c J²))^(1/4); 0 where nothing accelerates.
    double best_ratio(double inertia, double efficiency_forward = 1, double efficiency_backward = 1) const;

    /// Least RMS torque, √(2 J (b + √(a c))).
    double least_rms(double inertia, double efficiency_forward = 1, double efficiency_backward = 1) const;
};

/// Where torque is linear in acceleration the hulls are exact; where it is not (cranks, arms, fans, recorded
/// motion) corners within 1e-5 of the largest torque and acceleration are left out, so that a peak is low by so much at
/// the most.
ClosedForm closed_form(const Demand& d);

} // namespace fulmox

// Closed forms that make a candidate cost a few operations: RMS and peak torque as a function of the ratio and of the
// motor-side inertia.
//
// With D the torque the mechanism wants at its input shaft and α its acceleration there, a stage of ratio i and
// efficiency η and a motor-side inertia J need T = k D/i + J i α, where k is 1/η motoring, η generating, 1 at rest.
#pragma once

#include "core/demand/demand.h"

#include <array>
#include <cstdint>
#include <vector>

namespace fulmox {

struct HullPoint {
    double torque = 0;       ///< D, N·m
    double acceleration = 0; ///< α, rad/s²
};

/// The corners of a convex hull, and for every direction which of them lies furthest out, without looking at all.
class Hull {
  public:
    Hull() = default;

    /// Corners of a convex polygon in mathematically positive order from the least torque, no three in a line; one or
    /// two are allowed, as is none.
    explicit Hull(std::vector<HullPoint> corners);

    const std::vector<HullPoint>& corners() const { return corners_; }

    /// Largest |x D + y α| over the corners, x and y finite; 0 where there are none.
    double reach(double x, double y) const;

  private:
    struct Step {
        HullPoint corner;
        double until; // direction from which the next corner lies further out
    };
    static constexpr int cells = 64;
    static constexpr std::size_t few = 6;
    // one side of the polygon: its corners in the order in which a direction that turns by 180° meets them
    struct Side {
        std::vector<Step> steps;
        std::array<std::uint16_t, cells + 1> first{}; // the step to begin with
        const HullPoint& furthest(double direction) const;
    };
    std::vector<HullPoint> corners_;
    double acceleration_to_torque_ = 1; // makes both axes alike
    Side upper_, lower_;

    double direction(double x, double y) const;
    void guide(Side& side, std::size_t begin, std::size_t count, double sign);
};

/// Ratio of least RMS torque of an ideal stage, i* = (a/(c J²))^(1/4), for a motor-side inertia J kg·m²; 0 where
/// nothing accelerates.
double best_ratio(const QuadraticSums& s, double inertia);

/// Least RMS torque, N·m: √(2 J (b + √(a c))).
double least_rms(const QuadraticSums& s, double inertia);

/// Regimes by the power at the mechanism's input shaft.
struct ClosedForm {
    std::array<QuadraticSums, 3> sums; ///< motoring, generating, standstill
    std::array<Hull, 3> hulls;         ///< convex hull of (D, α) for each
    double peak_speed = 0;             ///< rad/s at the mechanism's input shaft

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

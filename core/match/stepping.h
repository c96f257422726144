// How a stepper runs on an axis: its swing, its pulses, its shares of the pull-out torque.
#pragma once

#include "core/demand/stays.h"
#include "core/model/axis.h"
#include "core/model/policy.h"
#include "core/motor/model.h"

#include <vector>

namespace fulmox {

/// How a stepper swings on this axis and when the cycle excites it; two kinds of inertia ratio apart, with the inertia
/// of the payload at which it is largest.
struct SteppingResonance {
    double frequency = 0;      ///< full steps/s
    double low = 0, high = 0;  ///< rad/s of the motor, the band of ±20 % about it
    std::vector<Stay> stays;   ///< of the cycle in it
    double longest() const;    ///< s
    double altogether() const; ///< s
};

/// `inertia`: of load and rotor, kg·m²; `demand` may be null.
SteppingResonance stepping_resonance(const ElectricModel& model, double inertia, const Demand* demand);

/// The largest number of microsteps, a power of two up to 256, at which a controller can pulse this speed; 0: not even
/// full steps.
int microsteps_possible(const StepperNumbers& n, double speed, double pulse_limit);

/// Shares of the pull-out torque by the policy, of a motor that notices no lost step.
struct PullOutShares {
    double tight = 0.5, over = 0.65;
};
PullOutShares pull_out_shares(const Policy& policy);

/// Driven by a stepper that takes its current whatever the load is.
bool open_loop(const Axis& axis);

} // namespace fulmox

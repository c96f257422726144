// Steppers: one set of ratings under every connection, and what steps, microsteps and resonance come to.
//
// A hybrid stepper of m phases and N_r teeth is a sine-driven machine with N_r pole pairs whose rotor finds its own
// load angle: T = m/2 K i with K the peak EMF of a phase per speed. Two phases on at I_N hold √2 K I_N; five phases
// 3.078 K I_N with four on, 3.236 K I_N with five. Sources: identities of the hybrid stepper; connections from the
// number of turns in series (a half coil has R, L, K; both in series 2R, 4L, 2K and, at equal loss, 0.707 I_N).
#pragma once

#include "core/model/motor_kinds.h"

#include <limits>
#include <string>
#include <vector>

namespace fulmox {

struct Motor;

/// A stepper as it is connected, at the temperatures of its sheet. NaN: not given.
struct StepperNumbers {
    static constexpr double unknown = std::numeric_limits<double>::quiet_NaN();

    int phases = 2;
    double teeth = 50;                             ///< N_r
    double step = unknown;                         ///< rad, a full step
    double current = unknown;                      ///< A, rated, of a phase: DC, or RMS of a sine
    double resistance = unknown;                   ///< Ω of a phase
    double inductance = unknown;                   ///< H of a phase
    double constant = unknown;                     ///< K, V·s/rad
    double holding = unknown;                      ///< N·m at rated current, phases on as the sheet has them
    double detent = 0, friction = 0;               ///< N·m
    double start_rate = unknown;                   ///< full steps/s without a load
    double accuracy = 0.05 * 0.017453292519943295; ///< rad, ± of a full step
    double curve_amplitude = unknown; ///< A peak of the sine of a phase at which the sheet's curve was taken
    StepperControl control = StepperControl::open_loop;
    double voltage_share = 1; ///< V peak of a phase per V of the bus
    std::string connection;   ///< "bipolar, in series"

    /// The drive keeps its current whatever the load: all but motors commutated by position.
    bool fixed_current() const { return control != StepperControl::position; }
    double steps_per_turn() const { return 2 * 3.14159265358979323846 / step; }
    /// N·m held by a sine of this amplitude, A peak: m/2 K A.
    double holding_at(double amplitude) const { return phases / 2.0 * constant * amplitude; }
    /// N·m that the next microstep adds from rest, N to a full step: T_H sin(π/(m N)).
    double microstep_torque(double holding_now, double microsteps) const;
    /// rad by which a torque turns the rotor off its place: asin(T/T_H)/N_r; NaN beyond.
    double deflection(double torque, double holding_now) const;
    /// Full steps/s of the natural frequency: √(N_r T_H/J)/2π, one swing a full step.
    double resonance(double holding_now, double inertia) const;
    /// Full steps/s at which it starts with a load: f_0/√(1 + J_L/J_R).
    double start_rate_with(double load, double rotor) const;
};

/// Full steps of a shaft at speed, rad/s.
double steps_per_second(const StepperNumbers& n, double speed);

/// V peak of a phase per V of the bus. Star: half. Pentagon: 2 sin(36°)/2 or 2 sin(72°)/2 of the bus between the
/// terminals of a phase, as its neighbours lie 72° or 144° apart.
double voltage_share(FivePhaseBridge bridge);

/// The stepper as it is connected; `motor` must be one.
StepperNumbers stepper_numbers(const Motor& motor);

/// One set of ratings under each connection it allows; the connected one first where there is no choice.
std::vector<StepperNumbers> connections(const Motor& motor);

} // namespace fulmox

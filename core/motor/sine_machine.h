// The sine-driven permanent-magnet machine in its (i_d, i_q) plane: what current and voltage let it give.
//
// Currents are peak amperes of the line, voltages peak volts of a wye phase. Every current lies in the disc |i| ≤ I and
// in the disc of centre (−kω·ω_e L/Z², −kωR/Z²) and radius U/Z, with ω_e = pω and Z² = R² + (ω_e L)². L_d = L_q.
// Along a line v stands for ω, F for T and π/τ_p for p.
// Source: voltage equations of the machine in rotor coordinates; closed forms worked out in docs/decisions.md.
#pragma once

#include <limits>
#include <optional>

namespace fulmox {

struct SineMachine {
    double phases = 3;            ///< m: T = m/2 k i_q, copper m/2 i² R
    double k = 0;                 ///< V·s/rad, E_phase,peak/ω
    double emf = 0;               ///< the same for the voltage, where a sheet says two; 0: as k
    double resistance = 0;        ///< Ω, half of that between two terminals
    double inductance = 0;        ///< H, half of that between two terminals; 0 where it is not known
    double pole_pairs = 1;        ///< or π over the pole pitch
    double saturation = 0;        ///< β of T = m/2 k i_q (1 − β (i_q/I_ref)²)
    double reference_current = 1; ///< I_ref, A peak
};

/// V·s/rad by which the voltage goes.
inline double emf_constant(const SineMachine& m) { return m.emf > 0 ? m.emf : m.k; }

struct SineSupply {
    double current = std::numeric_limits<double>::infinity(); ///< I, A peak
    double voltage = 0;                                       ///< U, V peak of a phase
    bool weakening = false;                                   ///< the drive may let i_d be below 0
};

struct Dq {
    double d = 0, q = 0; ///< A peak
};

/// N·m (N) of the air gap from i_q.
double torque(const SineMachine& m, double iq);
/// i_q for a torque; nothing where saturation does not let it rise so far.
std::optional<double> current_for(const SineMachine& m, double torque);
/// i_q at which torque turns: I_ref/√(3β); infinite without saturation.
double turning_current(const SineMachine& m);

/// The current of highest i_q at this speed (≥ 0): the most motoring torque. Nothing where no current is permitted.
/// May be negative above the no-load speed of a drive that does not weaken the field.
std::optional<Dq> highest(const SineMachine& m, const SineSupply& s, double speed);
/// The same for the lowest i_q: the most braking torque.
std::optional<Dq> lowest(const SineMachine& m, const SineSupply& s, double speed);

/// The current that gives `torque` at `speed` (any signs) with the least copper loss: the largest i_d ≤ 0 inside the
/// voltage disc. The limit of current is not looked at. Nothing where the voltage does not allow it.
std::optional<Dq> currents(const SineMachine& m, const SineSupply& s, double torque, double speed);

/// V peak of a phase that these currents need.
double phase_voltage(const SineMachine& m, Dq i, double speed);
/// W in the copper.
double copper_loss(const SineMachine& m, Dq i);

/// Highest speed at which the full current without field weakening is within the voltage; 0 where it never is.
double corner_speed(const SineMachine& m, const SineSupply& s);
/// Highest speed with motoring torque; infinite where it never ends.
double motoring_end(const SineMachine& m, const SineSupply& s);
/// Current that cancels the magnets' flux, k/(pL); infinite without inductance.
double characteristic_current(const SineMachine& m);

} // namespace fulmox

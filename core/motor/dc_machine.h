// Brushed and block-commutated machines: torque on a straight line between stall and no-load speed.
//
// T = K_t i − T_f with i ≤ (V − U_b − K_e ω)/R; friction T_f is against the motion and nothing at standstill. The line
// neglects the inductance: of a block-commutated machine it holds to 5 % where ω_e L/R ≤ 0.1; beyond, commutation takes
// torque. Source: voltage equation of the DC machine.
#pragma once

#include <limits>
#include <optional>

namespace fulmox {

struct DcMachine {
    double torque_constant = 0;   ///< N·m/A
    double voltage_constant = 0;  ///< V·s/rad
    double resistance = 0;        ///< Ω between the terminals
    double inductance = 0;        ///< H between the terminals; 0 where it is not known
    double pole_pairs = 0;        ///< of a block-commutated one; 0: brushed, or not known
    double brush_drop = 0;        ///< V
    double friction = 0;          ///< N·m
    double saturation = 0;        ///< β of T = K_t i (1 − β (i/I_ref)²)
    double reference_current = 1; ///< A
};

struct DcSupply {
    double current = std::numeric_limits<double>::infinity(); ///< A of the DC link
    double voltage = 0;                                       ///< V
};

/// Current of most motoring torque at this speed ≥ 0, A: below 0 above the no-load speed.
double highest_current(const DcMachine& m, const DcSupply& s, double speed);
/// Current of most braking torque, A, ≤ 0; nothing where the EMF drives more than the drive may carry.
std::optional<double> lowest_current(const DcMachine& m, const DcSupply& s, double speed);
/// Shaft torque of a current at a speed ≥ 0; friction taken off.
double shaft_torque(const DcMachine& m, double current, double speed);
/// Current for a shaft torque at a speed, any signs; nothing where the voltage or saturation does not allow it.
std::optional<double> current_for(const DcMachine& m, const DcSupply& s, double torque, double speed);
double turning_current(const DcMachine& m);
/// V between the terminals.
double terminal_voltage(const DcMachine& m, double current, double speed);
/// W in copper and brushes.
double copper_loss(const DcMachine& m, double current);
double corner_speed(const DcMachine& m, const DcSupply& s);
/// Speed without torque at the shaft.
double no_load_speed(const DcMachine& m, const DcSupply& s);
/// ω_e L/R, by which commutation makes itself felt; 0 where it is not known.
double commutation_ratio(const DcMachine& m, double speed);

} // namespace fulmox

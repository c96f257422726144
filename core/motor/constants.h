// Datasheet conventions for motor constants, and copper at temperature.
//
// Everything goes through one base: k = E_phase,peak/ω (V·s/rad) of the wye-equivalent motor with line currents.
// Source: identities of the sine-driven permanent-magnet machine, T = 1.5 k i_q(peak).
#pragma once

namespace fulmox::motor_constants {

/// Factors of k for each way a datasheet quotes it.
inline constexpr double kt_per_peak_ampere = 1.5;
inline constexpr double kt_per_rms_ampere = 2.1213203435596424; // 1.5 √2
inline constexpr double ke_line_peak = 1.7320508075688772;      // √3
inline constexpr double ke_line_rms = 1.224744871391589;        // √1.5
inline constexpr double ke_phase_rms = 0.7071067811865476;      // 1/√2
inline constexpr double delta_power_invariant = 2.1213203435596424;

/// K of 0 °C.
inline constexpr double zero_celsius = 273.15;

/// k from a spin test: line-to-line peak-to-peak volts at ω rad/s.
double base_from_spin_test(double volts_peak_to_peak, double speed);

/// rad/s of the shaft from the electrical frequency in Hz and the pole pairs.
double shaft_speed(double electrical_frequency, int pole_pairs);

/// Copper resistance at θ °C from that at 20 °C: R (235 + θ)/255. Source: IEC 60034-1.
double copper_at(double resistance_20, double celsius);

/// Copper loss, W, from RMS line current and terminal-to-terminal resistance: 1.5 I² R_LL for wye and delta alike.
double copper_loss(double rms_current, double resistance_line);

} // namespace fulmox::motor_constants

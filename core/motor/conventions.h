// What a datasheet may mean by a constant, as factors of one base.
//
// Sine-driven motors: the base is k = E_phase,peak/ω in V·s/rad (V·s/m along a line) of the wye-equivalent motor, so
// that T = 1.5 k i_q with i_q in peak amperes of the line. A trapezoidal EMF has k = E_line/2 at its flat top. Brushed:
// k = K. Sources: identities of the permanent-magnet machine; IEC 60034-1 for copper; fall of flux per kelvin: typical
// handbook values.
#pragma once

#include "core/model/motor_kinds.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// What the EMF of a motor looks like, which decides the factors.
enum class EmfBase { sine, trapezoid, dc, two_phase, five_phase };

/// Quoted value = factor · k, or factor / k of a speed constant.
struct Convention {
    const char* key;   ///< "rms"; that of the field's choice where there is one
    const char* words; ///< "per A RMS of line current"
    double factor;
};

/// Of torque (force) constants. Those of a sine-driven motor come first in the order of `TorquePer`, then what block
/// commutation makes of it.
std::span<const Convention> torque_conventions(EmfBase base);
/// Of voltage constants, in the order of `EmfOf`; one of a brushed motor.
std::span<const Convention> voltage_conventions(EmfBase base);
/// Quoted resistance or inductance over that between two terminals, in the order of `WindingPart`.
std::span<const Convention> winding_conventions();

/// Fall of flux per kelvin.
double flux_fall(Magnet magnet);
/// Flux at θ °C over that at 20 °C: 1 − α (θ − 20), never below 0.
double flux_at(Magnet magnet, double celsius);

} // namespace fulmox

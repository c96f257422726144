// Windings of one frame: the same iron, copper and magnets, with other turns.
#pragma once

#include "core/motor/capability.h"

#include <string>
#include <vector>

namespace fulmox {

/// The same motor with `turns` times its turns in the same room for copper: constants by volts × turns, currents and
/// speed constants ÷ turns, R and L × turns², so that K_m, torques and curves stay; the curves belong to `turns` times
/// their voltage. Texts are written again in their units, with their tolerances. `turns` > 0.
Motor rewound(const Motor& motor, double turns);

struct Winding {
    double turns = 1;
    double torque_constant = 0, voltage_constant = 0; ///< N·m/A (N/A), V·s/rad (V·s/m), see MotorNumbers
    double resistance = 0, inductance = 0;            ///< Ω, H between two terminals; NaN: not known
    double voltage_use = 0; ///< needed of available with the bus at its lowest; NaN: not known
    double current_use = 0; ///< the larger of peak and RMS current of what the drive gives; NaN: no drive is given
};

/// Which of them this cycle could run on at this bus and drive.
struct WindingChoice {
    /// Turns from which the drive's current suffices, and up to which the voltage does; NaN: not bounded or not known.
    double least = 0, most = 0;
    std::vector<Winding> rows;
    std::string words;   ///< in one sentence
    std::string missing; ///< what it waits for; then there are no uses
};

/// Turns of the family that is listed, in the preferred numbers of ISO 3, series R10, from 0.25 to 4.
const std::vector<double>& listed_turns();

/// `use` may be null: the family is listed all the same. `share` of the voltage that the policy lets be used.
WindingChoice winding_choice(const Motor& motor, const MotorUse* use, double share);

} // namespace fulmox

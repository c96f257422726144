// What rows ask of an axis.
#pragma once

#include "core/match/rows/row.h"
#include "core/match/stepping.h"

#include <vector>

namespace fulmox {

bool always(In);
/// Something turns: all but linear motors.
bool turns(In in);
bool has_motor(In in);
/// A motor whose inertia the load's is compared with.
bool has_rotor(In in);
/// The inertia of the load is described.
bool inertia_given(In in);
/// A drive with a sheet of its own, for a motor whose current follows the load.
bool has_servo_drive(In in);

/// The motor's capability, null where the peak curve is not known.
const Capability* known_peak(In in);

/// Why a row of a motor cannot be said without one.
const char* motor_missing(In in);

/// That no constant tells the motor's current.
Missing no_constant(In in);
/// What of the motor's constants is not given, so that a curve made of them promises too much.
std::vector<Missing> lacks_of_model(In in);

} // namespace fulmox

// What the drive may let the motor give so that no part downstream is asked for more than its sheet permits.
#pragma once

#include "core/load/load_model.h"
#include "core/model/axis.h"
#include "core/model/policy.h"

#include <string>

namespace fulmox {

struct TorqueLimit {
    std::string part;  ///< "stage_1", "coupling", "screw", "shaft"; empty: no part gives a limit
    std::string name;  ///< in words
    double torque = 0; ///< N·m at the motor's shaft
};
/// Efficiencies and the rotor's own inertia are not credited. `policy` gives the share of the screw's buckling load.
TorqueLimit torque_limit(const Axis& axis, const LoadModel& load, const Policy& policy);

} // namespace fulmox

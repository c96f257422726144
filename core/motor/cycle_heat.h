// Heat and energy of a motor over the cycle of its axis: what its sheet and the demand give to core/motor/heat.h.
#pragma once

#include "core/model/machine.h"
#include "core/motor/capability.h"
#include "core/motor/heat.h"

#include <string>

namespace fulmox {

/// J a cycle; NaN where the copper loss is not known in watts.
struct CycleEnergy {
    double motor = ThermalMotor::unknown;  ///< into the motor; what comes back is burnt
    double returned = 0;                   ///< what came back, after the motor's own losses
    double losses = ThermalMotor::unknown; ///< in copper, iron and friction
};

struct CycleHeat {
    /// What it waits for; empty: temperatures are known.
    std::string missing;
    ThermalMotor motor;
    bool in_watts = false;  ///< else losses are shares of the rated one
    bool by_rating = false; ///< the thermal resistance is that of rated loss and rise, not of the sheet
    double rated_loss = ThermalMotor::unknown; ///< copper loss of the rating at its temperature, in that unit
    double copper = 0;                         ///< mean over the cycle at the reference temperature, in that unit
    double other = 0;                          ///< mean of iron and friction
    SteadyHeat heat;
    CycleEnergy energy;
    GreatestLoad settles, within_limit;
    bool fixed_current = false; ///< the load does not change the loss
};

/// The motor as bodies that take up heat, without a cycle; or what it waits for.
CycleHeat thermal_motor(const Motor& motor, const Drive& drive, const Site& site, const Capability& can);

/// `use` is of this demand; the motor drives.
CycleHeat cycle_heat(const Motor& motor, const Drive& drive, const Site& site, const MotorUse& use, const Demand& d);

} // namespace fulmox

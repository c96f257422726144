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
    double fed = ThermalMotor::unknown;    ///< from the bus: ∫ max(0, T ω + losses + the drive's own loss) dt
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

/// What a motor takes and has left while it turns steadily against a torque.
struct SteadyPoint {
    bool possible = false; ///< torque and speed lie within its peak, or pull-out, curve
    double left = 0;       ///< N·m (N) of that curve beyond the torque; negative where it is not possible
    // NaN where the sheet does not tell, the motor cannot turn so, or it does not settle
    double loss = ThermalMotor::unknown;           ///< W of copper, iron and friction, at the winding it comes to
    double supply_current = ThermalMotor::unknown; ///< A of the DC bus: (T ω + loss)/U; negative where it brakes
    double winding = ThermalMotor::unknown;        ///< °C
    bool settles = true;
};

/// A motor under its drive and at its site, asked for one steady state after the other. An open-loop stepper takes its
/// phase current whatever the load is, the current of any other motor follows it.
class SteadyMotor {
  public:
    SteadyMotor(const Motor& motor, const Drive& drive, const Site& site, Capability can);
    /// Why winding temperatures are not known; empty: they are.
    const std::string& missing() const { return heat_.missing; }
    const Capability& can() const { return can_; }
    double winding_limit() const { return heat_.motor.limit; } ///< °C; NaN where it is not known
    /// Speed ≥ 0; a negative torque brakes.
    SteadyPoint at(double speed, double torque) const;

  private:
    Motor motor_;
    Capability can_;
    CycleHeat heat_;
    double bus_ = 0;
};

} // namespace fulmox

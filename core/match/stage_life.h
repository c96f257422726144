// What a stage lasts, and what the motor could put through it.
#pragma once

#include "core/demand/stages.h"
#include "core/motor/capability.h"

namespace fulmox {

/// N·m at the output of a stage when the motor gives its most: T_peak · i · η of the stages up to it, rotor and other
/// inertia not credited. NaN where the motor's peak is not known.
double motor_peak_at(const Axis& axis, const LoadModel& load, const Capability* can, std::size_t stage);

/// h at the cycle's equivalent torque and mean speed: L_N (T_N/T_eq)^q n_N/n_m. NaN where the sheet does not tell;
/// infinite where nothing turns.
double stage_life(const Stage& stage, const StageUse& use);

} // namespace fulmox

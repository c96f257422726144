// What happens when the power goes: the axis runs on or falls until the brakes bite, and then until they have stopped
// it.
#pragma once

#include "core/demand/demand.h"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// A brake as the motor's shaft sees it.
struct ActingBrake {
    std::string name;
    const char* path = "";    ///< "/motor" or "/brake"
    double holds = 0;         ///< N·m static; NaN where it is not given
    double slips = 0;         ///< N·m while it slips; NaN where neither is given
    bool slips_known = false; ///< else the static torque stands in
    double delay = 0;         ///< s until it engages; NaN where it is not given
    double energy = 0;        ///< J it may take; NaN where it is not given

    /// Pointer of one of its fields below the axis, by its key among those of a brake of its own.
    std::string field(const std::string& key) const;
};

/// The brakes of an axis: that in its motor, and its own.
std::vector<ActingBrake> acting_brakes(const Axis& axis, const LoadModel& load);
/// N·m that those whose torque is given hold together, at the motor's shaft.
double braking_torque(const std::vector<ActingBrake>& brakes);

/// One loss of power; the worst of the payloads and places of the cycle, figure by figure.
struct PowerLoss {
    bool stops = true;            ///< else the load drives on whatever the brakes do
    double engages_at = 0;        ///< rad/s of the motor when the first brake engages
    double time = 0;              ///< s until standstill
    double distance = 0;          ///< m or rad of the cycle's coordinate that it still goes, there and back
    double energy = 0;            ///< J turned into heat in all brakes
    std::vector<double> energies; ///< the same, brake by brake
};

struct BrakeStop {
    std::vector<ActingBrake> brakes;
    double driving = 0; ///< N·m, largest torque at the motor's shaft that drives on without power
    bool delays_known = false;
    bool estimate = false;                      ///< inertia and gravity taken as at the place where the power fails
    std::optional<PowerLoss> forward, backward; ///< from top speed; nothing where the cycle does not go that way
    PowerLoss standing;                         ///< held by the motor until the power goes

    /// The one that is largest by this figure; one that never ends before all.
    const PowerLoss& worst(double PowerLoss::*figure) const;
};

/// No friction and no efficiency is credited. Losses are calculated where all delays are known. Without a brake, or
/// without the inertia of the load, there is nothing to say.
std::optional<BrakeStop> brake_stop(const Demand& d, const Axis& axis, bool inertia_known);

} // namespace fulmox

// Limits and figures of coupling, brake and drive, and of what mates with what; taken into the registries of limits.h
// and figures.h.
#pragma once

#include "core/match/figures.h"
#include "core/match/limits.h"

#include <string>
#include <vector>

namespace fulmox {

std::vector<LimitRow> drivetrain_limit_rows();
std::vector<FigureRow> drivetrain_figure_rows();

/// What the drive may let the motor give so that no part downstream is asked for more than its sheet permits.
struct TorqueLimit {
    std::string part;  ///< "stage_1", "coupling", "screw", "shaft"; empty: no part gives a limit
    std::string name;  ///< in words
    double torque = 0; ///< N·m at the motor's shaft
};
/// Efficiencies and the rotor's own inertia are not credited. `policy` gives the share of the screw's buckling load.
TorqueLimit torque_limit(const Axis& axis, const LoadModel& load, const Policy& policy);

/// The sum of a budget, or the root of its squares.
WorkingLine precision_working(const PrecisionBudget& b, bool worst, Kind kind);

/// A shaft and what it goes into.
struct Mating {
    std::string what;     ///< "bore on the motor's side"
    double has = 0;       ///< m
    double wants = 0;     ///< m
    Missing missing;      ///< the diameter it goes onto, where that is not given; else without a path
    double apart() const; ///< m, ≥ 0
};
/// Of every bore, pilot and bolt circle that is given: those of the coupling, or those of stages and motor.
std::vector<Mating> coupling_fits(const Axis& axis);
std::vector<Mating> stage_fits(const Axis& axis);

/// Misalignments as assembled over those allowed, added up over those that are given.
struct Misalignment {
    double sum = 0;
    std::vector<Missing> missing;
};
Misalignment misalignment(const Coupling& c);

} // namespace fulmox

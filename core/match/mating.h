// What goes into what: bores and shafts, pilots and bolt circles, and how well shafts are in line.
#pragma once

#include "core/model/axis.h"
#include "core/model/problem.h"

#include <string>
#include <vector>

namespace fulmox {

/// A shaft of the axis, and what it is called where its diameter is not given.
struct Shaft {
    const QuantityBase& diameter;
    Missing missing;
};
/// The shafts that the coupling joins.
Shaft driving_shaft(const Axis& axis);
Shaft driven_shaft(const Axis& axis);

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

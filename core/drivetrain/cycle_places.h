// Where a cycle takes its load, with what it carries and what pushes: what depends on the place alone is looked at
// once, however often the cycle comes by.
#pragma once

#include "core/demand/demand.h"

#include <functional>
#include <vector>

namespace fulmox {

/// A stretch of the cycle's coordinate, m or rad; `low` = `high` where the place does not matter. Angles of cranks and
/// arms lie within one turn, or take in a whole one.
struct CyclePlace {
    double payload = 0;  ///< kg
    double process = 0;  ///< N or N·m
    double friction = 1; ///< factor on guide friction
    bool moves = false;  ///< else the axis stands there
    double low = 0, high = 0;
};

struct CyclePlaces {
    std::vector<CyclePlace> stretches;
    std::vector<double> narrow;      ///< angles that are looked at besides: `narrow_angles`
    std::vector<const Span*> ramped; ///< over which the push changes while the place does
};

/// The demand must stay while `ramped` is used.
CyclePlaces cycle_places(const Demand& d);

/// Calls `look` with place and stretch all over it, and again where one of `figures` is largest between the places
/// looked at. Each figure is a function of the place.
void over_places(const CyclePlaces& places, const std::function<void(double q, double payload, double process)>& look,
    const std::vector<std::function<double(double q, double payload, double process)>>& figures);

} // namespace fulmox

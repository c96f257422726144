// A motor's curve at its bus, drive and site, as JSON, CSV and text (docs/formats/datasheet.md).
#pragma once

#include "core/model/machine.h"

#include <string>
#include <vector>

namespace fulmox {

/// A motor at work: under what, and at which speeds (rad/s, m/s); no speeds: `points` of them up to its end.
struct CurveQuestion {
    const Motor* motor = nullptr;
    Drive drive;
    Site site;
    std::vector<double> speeds;
    int points = 21;
    bool overload = false;       ///< how long torques beyond the continuous one may last
    std::vector<double> torques; ///< N·m for it; empty: 1.25 to 4 times the continuous one
    std::vector<double> loads;   ///< N·m against which it turns at these speeds: what it takes, what is left
    std::vector<double> priors;  ///< mean squares of the ratio before, 0 to 1; empty: 0
};

/// Why no curve can be given, or nothing.
std::string curve_missing(const CurveQuestion& q);
std::string curve_json(const CurveQuestion& q);
std::string curve_csv(const CurveQuestion& q);
std::string curve_text(const CurveQuestion& q);

} // namespace fulmox

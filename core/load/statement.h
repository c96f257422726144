// The inertia statement: every contributor, where it is and what it comes to at the motor shaft.
#pragma once

#include "core/load/load_model.h"
#include "core/model/working.h"

#include <limits>
#include <string>
#include <vector>

namespace fulmox {

struct InertiaShare {
    std::string key;    ///< "payload", "carriage", "screw", …
    std::string label;  ///< with the size a reader would recognise: "Screw 25 × 900"
    std::string detail; ///< "28 kg" or "32 mm × 0.9 m"
    double own = 0;     ///< where it is: kg·m², or kg where it travels along a line
    bool travels = false;
    double at_shaft = 0; ///< kg·m²
    bool rotor_side = false;
    Working working;
};

/// Where the cycle takes the load: the payload in force, kg, and the stretch of the coordinate meanwhile, m or rad.
struct Carried {
    double payload = 0;
    double lowest = 0, highest = 0;
};

/// Every contributor at the motor shaft, at the payload and place of the cycle at which the load inertia is largest.
/// The inertia of the load is known; not of a demand that is given without it.
bool load_known(const Axis& axis);

struct InertiaStatement {
    std::vector<InertiaShare> shares;
    double load = 0;        ///< kg·m², largest over the cycle; of a winder with the full roll
    double load_least = 0;  ///< smallest over the cycle; of a winder with the empty core
    double rotor = 0;       ///< 0 without a motor
    bool load_known = true; ///< its inertia is described
    /// NaN where the load's inertia is not known.
    double ratio() const { return load_known ? load / rotor : std::numeric_limits<double>::quiet_NaN(); }
    double ratio_least() const { return load_known ? load_least / rotor : std::numeric_limits<double>::quiet_NaN(); }
};

/// `over` is what the cycle goes through; none stands for the payload of the load at every place of a turn.
InertiaStatement inertia_statement(
    const Machine& machine, const Axis& axis, const std::vector<Carried>& over, bool with_working);

} // namespace fulmox

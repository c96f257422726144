// The inertia statement: every contributor, where it is and what it comes to at the motor shaft.
#pragma once

#include "core/load/load_model.h"
#include "core/model/working.h"

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

/// Every contributor at the motor shaft. Load side with the largest payload of the cycle.
struct InertiaStatement {
    std::vector<InertiaShare> shares;
    double load = 0;       ///< kg·m², largest over the cycle
    double load_least = 0; ///< with the smallest payload of the cycle
    double rotor = 0;      ///< 0 without a motor
    double ratio() const { return load / rotor; }
    double ratio_least() const { return load_least / rotor; }
};

/// Position-dependent mechanisms: at the position of the largest load inertia; `load_least` at the smallest.
InertiaStatement inertia_statement(const Machine& machine, const Axis& axis, bool with_working);

} // namespace fulmox

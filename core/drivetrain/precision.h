// How far the load may be from where it is told to stand: each term as a band of ± so much at the load.
#pragma once

#include "core/demand/demand.h"
#include "core/drivetrain/stiffness.h"
#include "core/model/problem.h"
#include "core/motor/capability.h"

#include <string>
#include <vector>

namespace fulmox {

/// ± at the load: m, or rad of a turning one.
struct ErrorTerm {
    std::string key;   ///< "encoder_counts", "backlash_stage_1", "windup_reversal", …
    std::string label; ///< in words
    double error = 0;
    bool grows = false; ///< with the stroke: this is the whole of it
};

struct PrecisionBudget {
    std::vector<ErrorTerm> terms;
    double worst = 0;             ///< sum of all
    double squares = 0;           ///< root of the sum of squares
    std::vector<Missing> missing; ///< what would be a term and is not given
    struct Place {
        double from_start = 0; ///< m or rad of the stroke
        double worst = 0, squares = 0;
    };
    std::vector<Place> over_stroke; ///< eleven places
};

/// `stroke` m or rad; `can` of the motor, null where it is not known. Lead error grows beyond 300 mm, never below its
/// value; a screw that warms up grows by 11.7 µm/(m K), from its fixed bearing or from the start of the stroke. The two
/// windups are of the same springs: among the squares they count as one term, their sum.
PrecisionBudget precision_budget(const Axis& axis, const Demand& d, double stroke, const Capability* can);

} // namespace fulmox

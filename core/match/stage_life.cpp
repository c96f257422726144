#include "core/match/stage_life.h"

#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {

double motor_peak_at(const Axis& axis, const LoadModel& load, const Capability* can, std::size_t stage) {
    if (!can || can->peak.empty() || !axis.driven()) return no_number;
    double most = 0;
    for (const double w : can->peak.speeds()) most = std::max(most, can->peak.at(w));
    double out = std::max(most, can->peak.stall());
    for (std::size_t k = 0; k <= stage && k < load.stages.size(); ++k)
        out *= load.stages[k].ratio * load.stages[k].forward;
    return out;
}

double stage_life(const Stage& stage, const StageUse& use) {
    if (!stage.life.given() || !stage.rated_torque.given() || !stage.nominal_speed.given()) return no_number;
    if (!(use.equivalent > 0) || !(use.mean_speed > 0)) return std::numeric_limits<double>::infinity();
    return stage.life.si * std::pow(stage.rated_torque.si / use.equivalent, use.exponent) * stage.nominal_speed.si /
           use.mean_speed;
}

} // namespace fulmox

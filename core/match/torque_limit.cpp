#include "core/match/torque_limit.h"

#include "core/drivetrain/screw_limits.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

TorqueLimit torque_limit(const Axis& axis, const LoadModel& load, const Policy& policy) {
    TorqueLimit out;
    out.torque = infinite;
    const auto by = [&](std::string part, std::string name, double torque) {
        if (!(torque < out.torque)) return;
        out = {std::move(part), std::move(name), torque};
    };
    // driven back, as in a stop, a stage passes on more than it does forwards
    const auto passes = [](double backward) { return backward > 0 ? std::max(1.0, 1 / backward) : 1.0; };
    double ahead = 1;
    for (std::size_t k = 0; k < axis.stages.size() && k < load.stages.size(); ++k) {
        const Stage& s = axis.stages[k];
        ahead *= load.stages[k].ratio * passes(load.stages[k].backward);
        if (s.peak_torque.given())
            by("stage_" + std::to_string(k + 1), s.name.empty() ? "stage " + std::to_string(k + 1) : s.name,
                s.peak_torque.si * s.peak_share.value_or(1) / ahead);
    }
    if (const Coupling& c = axis.coupling; c.rated_torque.given())
        by("coupling", "the coupling",
            c.rated_torque.si / c.service_factor.si / (load.coupling_at_mechanism ? ahead : 1));
    if (const auto* s = std::get_if<Screw>(&axis.mechanism); s && s->root_diameter.given())
        by("screw", "the screw, buckling",
            policy.buckling_share.value_or(1) * buckling_load(*s, false).value * std::abs(load.radius) /
                (ahead * passes(load.efficiency_backward)));
    if (axis.driven() && axis.motor.shaft_torque.given()) by("shaft", "the motor's shaft", axis.motor.shaft_torque.si);
    if (out.part.empty()) out.torque = no_number;
    return out;
}

} // namespace fulmox

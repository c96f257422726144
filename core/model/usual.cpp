#include "core/model/usual.h"

#include <algorithm>
#include <utility>

namespace fulmox {

const char* usual_friction(Thread thread) { return thread == Thread::trapezoidal ? "0.12" : "0.005"; }

const char* usual_efficiency(StageKind kind) {
    return kind == StageKind::worm ? "0.6" : kind == StageKind::strain_wave ? "0.75" : "0.95";
}

void follow_kinds(Machine& now, const Machine& before) {
    for (std::size_t i = 0; i < std::min(now.axes.size(), before.axes.size()); ++i) {
        const Axis &is = std::as_const(now.axes)[i], &was = before.axes[i];
        if (&is == &was) continue; // shared: unchanged
        const auto* screw = std::get_if<Screw>(&is.mechanism);
        const auto* old = std::get_if<Screw>(&was.mechanism);
        if (screw && old && screw->thread != old->thread && screw->thread_friction.text == usual_friction(old->thread))
            std::get<Screw>(now.axes[i].mechanism).thread_friction =
                Quantity<Kind::number>(usual_friction(screw->thread));
        for (std::size_t k = 0; k < std::min(is.stages.size(), was.stages.size()); ++k) {
            const Stage &stage = std::as_const(is.stages)[k], &stage_was = was.stages[k];
            if (stage.kind != stage_was.kind && stage.efficiency.text == usual_efficiency(stage_was.kind))
                now.axes[i].stages[k].efficiency = Quantity<Kind::number>(usual_efficiency(stage.kind));
        }
    }
}

} // namespace fulmox

#include "core/match/candidates.h"

#include "core/match/assess.h"

#include <atomic>
#include <cmath>
#include <oneapi/tbb/parallel_for.h>

namespace fulmox {

std::vector<Candidate> judge_motors(const Machine& machine, std::size_t index, const std::vector<const Motor*>& motors,
    const std::function<bool()>& go_on, const std::function<void(double)>& done) {
    std::vector<Candidate> out(motors.size());
    const std::string path = "/axes/" + std::to_string(index);
    std::atomic<bool> left = false;
    std::atomic<std::size_t> judged = 0;
    tbb::parallel_for(std::size_t{0}, motors.size(), [&](std::size_t i) {
        if (left || (go_on && !go_on())) {
            left = true;
            return;
        }
        if (done) done(static_cast<double>(judged++) / static_cast<double>(motors.size()));
        Axis axis = machine.axes.at(index);
        axis.motor = *motors[i];
        Assessment a;
        try {
            a = assess(machine, axis, path, {.workings = false, .figures = false, .go_on = go_on});
        } catch (const Interrupted&) {
            left = true;
            return;
        }
        const auto use = [&](const char* key) {
            const Limit* l = a.limit(key);
            return l ? l->utilisation() : std::nan("");
        };
        Candidate& c = out[i];
        c.ratio = a.inertia && a.inertia->rotor > 0 ? a.inertia->ratio() : std::nan("");
        c.speed = use("speed");
        c.peak = use("peak_torque");
        c.heat = use("continuous_loss");
        c.tightest = std::nan("");
        if (a.limits.empty() || !a.motor) return;
        const Limit& worst = a.limits[by_tightness(a.limits).front()];
        c.state = worst.state;
        c.tightest = worst.utilisation();
        c.limit = worst.label;
        c.reason = worst.reason;
    });
    if (left) out.clear();
    return out;
}

} // namespace fulmox

#include "core/match/stepping.h"

#include "core/motor/stepper.h"

#include <algorithm>

namespace fulmox {

namespace {

constexpr double band = 0.2; // of the natural frequency, either side

} // namespace

double SteppingResonance::longest() const {
    double out = 0;
    for (const Stay& s : stays) out = std::max(out, s.lasts);
    return out;
}

double SteppingResonance::altogether() const {
    double out = 0;
    for (const Stay& s : stays) out += s.lasts;
    return out;
}

SteppingResonance stepping_resonance(const ElectricModel& model, double inertia, const Demand* demand) {
    const StepperNumbers& n = *model.numbers().stepper;
    SteppingResonance r;
    r.frequency = n.resonance(model.holding(false), inertia);
    r.low = (1 - band) * r.frequency * n.step;
    r.high = (1 + band) * r.frequency * n.step;
    if (demand) r.stays = stays_between(*demand, r.low, r.high);
    return r;
}

int microsteps_possible(const StepperNumbers& n, double speed, double pulse_limit) {
    int out = 0;
    for (int m = 1; m <= 256 && m * steps_per_second(n, speed) <= pulse_limit; m *= 2) out = m;
    return out;
}

PullOutShares pull_out_shares(const Policy& policy) {
    return {policy.pull_out_tight.value_or(0.5), policy.pull_out_over.value_or(0.65)};
}

bool open_loop(const Axis& axis) {
    if (!axis.driven() || !axis.motor.stepper()) return false;
    const auto* two = std::get_if<TwoPhaseStepper>(&axis.motor.electric);
    return !two || two->control != StepperControl::position;
}

} // namespace fulmox

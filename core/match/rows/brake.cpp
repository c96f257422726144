#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

constexpr const char* brake_sheet = "datasheet of the brake";

// What of the brakes is not given.
std::vector<Missing> lacks_of(const std::vector<ActingBrake>& brakes, bool torque, bool delay) {
    std::vector<Missing> out;
    for (const ActingBrake& b : brakes) {
        if (torque && std::isnan(b.slips)) out.push_back({b.field("static_torque"), "torque of " + b.name});
        if (delay && std::isnan(b.delay)) out.push_back({b.field("apply_time"), "engagement time of " + b.name});
    }
    return out;
}

void judge_brake_stop(Limit& l, In in) {
    if (!in.state.brake) return set_cannot_say(l, "load inertia not given");
    const BrakeStop& b = *in.state.brake;
    l.used = b.driving;
    l.allowed = 0;
    for (const ActingBrake& each : b.brakes)
        if (!std::isnan(each.slips)) l.allowed += each.slips;
    // torque that only balances the load never stops it
    const bool never_stops = l.used >= l.allowed && l.used > 0;
    if (std::vector<Missing> missing = lacks_of(b.brakes, true, false); !missing.empty() && never_stops) {
        l.source = brake_sheet;
        return lacks(l, std::move(missing));
    }
    if (!conclude(l, in, brake_sheet)) return;
    const bool stand_in =
        std::any_of(b.brakes.begin(), b.brakes.end(), [](const ActingBrake& x) { return !x.slips_known; });
    if (never_stops) l.state = LimitState::over;
    if (l.state == LimitState::over) {
        l.reason = in.words.torque(l.used) + " drive the load; the brake slips at " + in.words.torque(l.allowed) +
                   ": it never stops";
        l.remedy = "A larger brake, a counterbalance, and mechanical support for work under the load.";
        return;
    }
    l.reason = in.words.torque(l.allowed) + (stand_in ? " (holding torque; no dynamic torque given)" : "") +
               " against " + in.words.torque(l.used) + " that drive on";
    if (!b.delays_known) {
        l.reason += "; the stopping distance needs the brake engagement time";
        return;
    }
    const PowerLoss& w = b.worst(&PowerLoss::distance);
    const bool rotary = motion_of(in.axis.mechanism).rotary;
    const Kind way = rotary ? Kind::angle : Kind::length;
    l.reason += "; without power it stops in " + in.words.say(w.time, Kind::time) + " and at most " +
                in.words.say(w.distance, way);
    if (b.driving > 0) l.reason += ", from standstill it drops " + in.words.say(b.standing.distance, way);
}

// Heat of one stop, brake by brake.
void judge_brake_energy(Limit& l, In in) {
    if (!in.state.brake) return set_cannot_say(l, "load inertia not given");
    const BrakeStop& b = *in.state.brake;
    std::vector<Clause> clauses;
    const std::vector<Missing> unknown = lacks_of(b.brakes, true, true);
    for (std::size_t i = 0; i < b.brakes.size(); ++i) {
        const ActingBrake& each = b.brakes[i];
        Clause c{unknown.empty() ? 0 : no_number, each.energy, unknown};
        for (const auto* loss : {b.forward ? &*b.forward : nullptr, b.backward ? &*b.backward : nullptr, &b.standing})
            if (loss && unknown.empty()) c.used = std::max(c.used, loss->stops ? loss->energies[i] : infinite);
        if (std::isnan(each.energy))
            c.missing.push_back({each.field("stop_energy"), "energy that " + each.name + " takes in a stop"});
        clauses.push_back(std::move(c));
    }
    const auto worst = conclude(l, in, clauses, brake_sheet);
    if (!worst) return;
    l.reason = std::isinf(l.used)
                   ? Text("it never stops")
                   : in.words.say(l.used, Kind::energy) + " in one stop from top speed without power, of " +
                         in.words.say(l.allowed, Kind::energy) + " that " + b.brakes[*worst].name + " takes";
    if (b.estimate) l.reason += "; gravity and inertia as where the power fails";
    if (l.state != LimitState::fits) l.remedy = "A brake for more energy, less speed, or less inertia.";
}

void judge_brake(Limit& l, In in) {
    const Demand& d = *in.state.demand;
    // web tension and the like want a brake only where one is asked to hold them
    const bool held = d.brake_torque >= d.fall_torque;
    const double torque = d.load.tension ? d.brake_torque : d.static_torque;
    l.used = in.policy.brake_static_factor.si * torque;
    const std::vector<ActingBrake> brakes = acting_brakes(in.axis, d.load);
    if (brakes.empty() && !has_motor(in)) return set_cannot_say(l, motor_missing(in));
    l.allowed = braking_torque(brakes); // of those whose torque is known
    std::vector<Missing> missing;
    for (const ActingBrake& b : brakes)
        if (std::isnan(b.holds)) missing.push_back({b.field("static_torque"), "torque of " + b.name});
    if (in.workings && !std::isnan(l.used))
        l.working.push_back(working_line("needed", "factor × holding torque", "K*T",
            {{"K", in.policy.brake_static_factor.si}, {"T", torque}}, l.used, Kind::torque, practice));
    // with more torque it could only hold better
    if (!missing.empty() && l.used > l.allowed) {
        l.source = practice;
        return lacks(l, std::move(missing));
    }
    if (!conclude(l, in, practice)) return;
    const char* by_friction = d.static_torque_friction == 0 ? "; friction may hold it, but do not rely on it" : "";
    if (l.allowed == 0) {
        l.reason = held ? "no brake, but a dwell in which the brake holds needs " + in.words.torque(d.brake_torque)
                        : "no brake: without power " + in.words.torque(torque) + " drive the load down" + by_friction;
        l.remedy = "A motor with a holding brake, and mechanical support for work under the load.";
    } else {
        l.reason = in.words.torque(l.allowed) + " static against " +
                   format_number(in.policy.brake_static_factor.si, 2) + " × " + in.words.torque(torque) +
                   (held ? ", held in a dwell" : "");
        if (brakes.size() > 1) l.reason += "; both brakes together";
        if (l.state == LimitState::over)
            l.remedy = remedies({"a larger brake", "a counterbalance", travel_remedy(in.axis, false)});
    }
}

bool has_brake(In in) {
    return turns(in) && inertia_given(in) &&
           (in.axis.brake.there() || (in.axis.driven() && in.axis.motor.brake_torque.given())) &&
           (in.waits || (in.state.brake && in.state.brake->delays_known));
}

void of_loss(Figure& f, In in, const PowerLoss& loss, double PowerLoss::*figure) {
    f.si = loss.stops ? loss.*figure : no_number;
    f.note = !loss.stops ? "it never stops" : &loss == &in.state.brake->standing ? "from standstill" : "from top speed";
    if (loss.stops && in.state.brake->estimate) f.note += "; gravity and inertia as where the power fails";
}

// web tension and the like want a brake only where one is asked to hold them
bool wants_holding(In in) {
    return !in.waits && in.state.demand && (in.state.demand->fall_torque > 0 || in.state.demand->brake_torque > 0);
}
bool has_brakes(In in) {
    return !in.waits && in.state.demand && !acting_brakes(in.axis, in.state.demand->load).empty();
}

} // namespace

Rows brake_rows() {
    using namespace need;
    constexpr const char* source = "the parts between motor and load, and the demand at them";
    Rows rows{.section = Section::brake};
    rows.limits = {
        {.key = "brake",
            .label = "Holding brake",
            .kind = Kind::torque,
            .needs = need::load | motor_brake,
            .part = "brake",
            .applies = wants_holding,
            .judge = judge_brake,
            .allowed_by = {"/motor/brake_torque", "/brake/static_torque"},
            .meaning = "Holding brake"},
        {.key = "brake_stop",
            .label = "Brake, stopping",
            .kind = Kind::torque,
            .needs = of_brakes,
            .reads = AxisResult::brake,
            .part = "brake",
            .applies = has_brakes,
            .judge = judge_brake_stop,
            .meaning = "Torque that drives the load on without power against the slipping torque of all brakes"},
        {.key = "brake_energy",
            .label = "Brake, energy of a stop",
            .kind = Kind::energy,
            .needs = of_brakes,
            .reads = AxisResult::brake,
            .part = "brake",
            .applies = has_brakes,
            .judge = judge_brake_energy,
            .allowed_by = {"/motor/brake_stop_energy", "/brake/stop_energy"},
            .meaning = "Energy of one stop from top speed without power, after the brake's delay, against what the "
                       "brake takes; of several the worst"},
    };
    rows.figures = {
        {.key = "brake.stop_energy",
            .label = "Brake, energy of a stop",
            .kind = Kind::energy,
            .needs = of_brakes,
            .reads = AxisResult::brake,
            .applies = has_brake,
            .fill = [](Figure& f,
                        In in) { of_loss(f, in, in.state.brake->worst(&PowerLoss::energy), &PowerLoss::energy); },
            .read_from = source,
            .meaning = "Energy turned into heat in all brakes in one stop from top speed without power; the worst "
                       "direction, payload and place"},
        {.key = "brake.stop_time",
            .label = "Brake, time of a stop",
            .kind = Kind::time,
            .needs = of_brakes,
            .reads = AxisResult::brake,
            .applies = has_brake,
            .fill = [](Figure& f, In in) { of_loss(f, in, in.state.brake->worst(&PowerLoss::time), &PowerLoss::time); },
            .read_from = source,
            .meaning = "Time of that stop, the delay of the brakes included"},
        {.key = "brake.stop_distance",
            .label = "Brake, stop distance",
            .kind = Kind::length,
            .needs = of_brakes,
            .reads = AxisResult::brake,
            .applies = has_brake,
            .fill =
                [](Figure& f, In in) {
                    f.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
                    of_loss(f, in, in.state.brake->worst(&PowerLoss::distance), &PowerLoss::distance);
                },
            .read_from = source,
            .meaning = "Distance gone in it"},
        {.key = "brake.drop",
            .label = "Drop before it holds",
            .kind = Kind::length,
            .needs = of_brakes,
            .reads = AxisResult::brake,
            .applies = [](In in) { return has_brake(in) && (in.waits || in.state.brake->driving > 0); },
            .fill =
                [](Figure& f, In in) {
                    f.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
                    of_loss(f, in, in.state.brake->standing, &PowerLoss::distance);
                },
            .read_from = source,
            .meaning = "Distance the load goes from standstill until the brakes have stopped it"},
    };
    return rows;
}

} // namespace fulmox

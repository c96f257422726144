#include "core/match/stage_rows.h"

#include "core/match/words.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

namespace fulmox {

namespace {

constexpr const char* sheet_says = "datasheet of the gearhead or stage";

std::string name_of(const Axis& axis, std::size_t stage) {
    const Stage& s = axis.stages[stage];
    std::string name = s.name.empty() ? "stage " + std::to_string(stage + 1) : s.name;
    return axis.stages.size() > 1 && !s.name.empty() ? name + " (stage " + std::to_string(stage + 1) + ")" : name;
}

// The worst of the stages for which the sheet says something; those of which it says nothing are named.
struct Judged {
    const StageUse* use = nullptr;
    const Stage* stage = nullptr;
    double used = 0, allowed = 0;
};

std::string left_out(const LimitInput& in, const std::function<bool(const Stage&)>& told) {
    std::string out;
    for (std::size_t k = 0; k < in.axis.stages.size(); ++k)
        if (!told(in.axis.stages[k])) out += (out.empty() ? "" : ", ") + name_of(in.axis, k);
    return out.empty() ? out : "; nothing is given of " + out;
}

// `ask` gives used and allowed, allowed NaN where the sheet of a stage is silent.
Judged worst_stage(
    const LimitInput& in, const std::function<std::pair<double, double>(const Stage&, const StageUse&)>& ask) {
    Judged worst;
    double most = -1;
    for (const StageUse& use : *in.so_far.stages) {
        const Stage& stage = in.axis.stages[use.stage];
        const auto [used, allowed] = ask(stage, use);
        if (std::isnan(allowed)) continue;
        if (const double share = used / allowed; share > most || std::isnan(share)) {
            most = share;
            worst = {&use, &stage, used, allowed};
        }
    }
    return worst;
}

double given(const QuantityBase& q) { return q.given() ? q.si : no_number; }

template <auto Member> bool has(const LimitInput& in) {
    return !motion_of(in.axis.mechanism).direct && std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
                                                       [](const Stage& s) { return (s.*Member).given(); });
}

template <auto Member> bool told(const Stage& s) { return (s.*Member).given(); }

template <auto A, auto B>
constexpr bool same_member =
    std::is_same_v<std::integral_constant<decltype(A), A>, std::integral_constant<decltype(B), B>>;

// What is the same for each of them; false where it cannot be said.
template <auto Member, class Ask> bool judged(Limit& l, const LimitInput& in, Judged& worst, Ask ask) {
    if (!in.so_far.stages) {
        cannot(l, "the demand at its output is not known");
        return false;
    }
    worst = worst_stage(in, [&](const Stage& s, const StageUse& u) {
        double allowed = given(s.*Member);
        // the sheet may leave less of the peak at this number of cycles an hour
        if constexpr (same_member<Member, &Stage::peak_torque>) allowed *= s.peak_share.value_or(1);
        if constexpr (same_member<Member, &Stage::ratchet_torque>)
            if (s.kind != StageKind::strain_wave) allowed = no_number;
        return std::pair(ask(u), allowed);
    });
    if (!worst.use) {
        cannot(l, "the demand at its output is not known");
        return false;
    }
    l.used = worst.used;
    l.allowed = worst.allowed;
    return true;
}

void judge_peak(Limit& l, const LimitInput& in) {
    Judged w;
    if (!judged<&Stage::peak_torque>(l, in, w, [](const StageUse& u) { return u.peak; })) return;
    if (!closed(l, in, sheet_says)) return;
    l.reason = words(in).torque(l.used) + " at the output of " + name_of(in.axis, w.use->stage) +
               " at the most, standstill and breakaway included" +
               (w.stage->peak_share.given() ? "; " + format_number(100 * w.stage->peak_share.si, 3) +
                                                  " % of the sheet's peak are left at this number of cycles an hour"
                                            : "") +
               left_out(in, told<&Stage::peak_torque>);
    if (l.state != LimitState::fits) l.remedy = "A larger gearhead, gentler ramps, or a torque limit in the drive.";
}

void judge_equivalent(Limit& l, const LimitInput& in) {
    Judged w;
    if (!judged<&Stage::rated_torque>(l, in, w, [](const StageUse& u) { return u.equivalent; })) return;
    if (in.workings && std::isfinite(w.use->worn) && w.use->turned > 0)
        l.working.push_back(working_line("T_eq", "(∫|ω||T|^q dt / ∫|ω| dt)^(1/q)", "(W/N)^(1/q)",
            {{"W", w.use->worn}, {"N", w.use->turned}, {"q", w.use->exponent}}, l.used, Kind::torque,
            "wear weighted by turns"));
    if (!closed(l, in, "equivalent torque by the fatigue of bearings and teeth (ISO 281), weighted by turns")) return;
    l.reason = "as much wear as " + words(in).torque(l.used) + " all the time, at the output of " +
               name_of(in.axis, w.use->stage) + ", with the exponent " + format_number(w.use->exponent, 3) +
               (w.stage->exponent.given() ? "" : " of ball bearings");
    if (const double life = stage_life(*w.stage, *w.use); std::isfinite(life))
        l.reason += "; at that it lasts " + words(in).say(life, Kind::time);
    l.reason += left_out(in, told<&Stage::rated_torque>);
    if (l.state != LimitState::fits) l.remedy = "A larger gearhead, less acceleration, or a smaller load.";
}

void judge_emergency(Limit& l, const LimitInput& in) {
    Judged w;
    if (!judged<&Stage::emergency_torque>(l, in, w, [](const StageUse& u) { return u.emergency; })) return;
    const bool typed = w.stage->stop_torque.given();
    if (!typed && in.so_far.demand->stop_time <= 0)
        return cannot(l, "neither time nor distance of an emergency stop is given");
    if (!closed(l, in, sheet_says)) return;
    l.reason = words(in).torque(l.used) + " at the output of " + name_of(in.axis, w.use->stage) +
               (typed ? Text(" in an emergency stop, as it is typed")
                      : Text(" when the axis stops in ") + words(in).say(in.so_far.demand->stop_time, Kind::time) +
                            " from top speed");
    if (const double motor = motor_peak_at(in.axis, in.so_far.demand->load, in.so_far.can, w.use->stage);
        motor > l.allowed)
        l.reason += "; the motor itself could give " + words(in).torque(motor) +
                    " there, so that a torque limit in the drive has to protect it";
    l.reason += left_out(in, told<&Stage::emergency_torque>);
    if (l.state != LimitState::fits) l.remedy = "A longer stop, a torque limit in the drive, or a larger gearhead.";
}

void judge_mean_speed(Limit& l, const LimitInput& in) {
    Judged w;
    if (!judged<&Stage::nominal_speed>(l, in, w, [](const StageUse& u) { return u.mean_speed; })) return;
    if (!closed(l, in, sheet_says)) return;
    l.reason = words(in).speed(l.used) + " at the input of " + name_of(in.axis, w.use->stage) +
               " over the cycle, standstill included; " + words(in).speed(w.use->moving_speed) + " while it moves" +
               left_out(in, told<&Stage::nominal_speed>);
    if (l.state != LimitState::fits) l.remedy = "A lower ratio, longer dwells, or a gearhead for higher speeds.";
}

void judge_top_speed(Limit& l, const LimitInput& in) {
    Judged w;
    if (!judged<&Stage::top_speed>(l, in, w, [](const StageUse& u) { return u.peak_speed; })) return;
    if (!closed(l, in, sheet_says)) return;
    l.reason = words(in).speed(l.used) + " at the input of " + name_of(in.axis, w.use->stage) + " at the most" +
               left_out(in, told<&Stage::top_speed>);
    if (l.state != LimitState::fits) l.remedy = "A lower ratio, less speed, or a gearhead for higher speeds.";
}

// What is asked of one stage after the other without its demand: the worst by share.
struct Pair {
    const QuantityBase& has;
    const QuantityBase& may;
};
template <class Of> void judge_worst(Limit& l, const LimitInput& in, Of of, const char* what, const char* remedy) {
    double most = -1;
    std::size_t at = 0;
    for (std::size_t k = 0; k < in.axis.stages.size(); ++k) {
        const Pair p = of(in.axis.stages[k]);
        if (!p.may.given()) continue;
        if (!p.has.given())
            return cannot(l, std::string("the ") + what + " of " + name_of(in.axis, k) + " is not given");
        if (p.has.si / p.may.si <= most) continue;
        most = p.has.si / p.may.si;
        at = k;
        l.used = p.has.si;
        l.allowed = p.may.si;
    }
    if (!closed(l, in, sheet_says)) return;
    l.reason = std::string(what) + " of " + name_of(in.axis, at) + ", as given";
    if (l.state != LimitState::fits) l.remedy = remedy;
}
void judge_radial(Limit& l, const LimitInput& in) {
    judge_worst(
        l, in,
        [](const Stage& s) {
            return Pair{s.radial_load, s.radial_rating};
        },
        "radial load",
        "A bearing of its own for the shaft, a larger pulley or pinion, or a gearhead with a stronger output bearing.");
}
void judge_axial(Limit& l, const LimitInput& in) {
    judge_worst(
        l, in,
        [](const Stage& s) {
            return Pair{s.axial_load, s.axial_rating};
        },
        "axial load", "A thrust bearing of its own, or a gearhead with a stronger output bearing.");
}
void judge_tilting(Limit& l, const LimitInput& in) {
    judge_worst(
        l, in,
        [](const Stage& s) {
            return Pair{s.tilting_moment, s.tilting_rating};
        },
        "tilting moment", "A shorter overhang, or an output bearing for more tilting moment.");
}
void judge_stops(Limit& l, const LimitInput& in) {
    if (!in.axis.drive.emergency_stops.given()) return cannot(l, "how many emergency stops there will be is not given");
    judge_worst(
        l, in,
        [&](const Stage& s) {
            static const Quantity<Kind::number> none;
            return Pair{in.axis.drive.emergency_stops, s.emergency_torque.given() ? s.emergency_stops : none};
        },
        "number of emergency stops", "A gearhead whose peak torque covers the emergency stop.");
}
void judge_ratchet(Limit& l, const LimitInput& in) {
    Judged w;
    if (!judged<&Stage::ratchet_torque>(l, in, w, [](const StageUse& u) { return std::max(u.peak, u.emergency); }))
        return;
    if (!closed(l, in, sheet_says)) return;
    l.reason = words(in).torque(l.used) + " at the output of " + name_of(in.axis, w.use->stage) +
               " at the most, emergency stop included; beyond " + words(in).torque(l.allowed) + " its teeth jump";
    if (l.state != LimitState::fits) l.remedy = "A larger gear, or a torque limit in the drive.";
}
bool has_ratchet(const LimitInput& in) {
    return !motion_of(in.axis.mechanism).direct &&
           std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
               [](const Stage& s) { return s.kind == StageKind::strain_wave && s.ratchet_torque.given(); });
}
bool has_stops(const LimitInput& in) {
    return has<&Stage::emergency_torque>(in) &&
           std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
               [](const Stage& s) { return s.emergency_torque.given() && s.emergency_stops.given(); });
}

} // namespace

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

std::vector<LimitRow> stage_limit_rows() {
    using namespace need;
    return {
        {"stage_peak", "Stage, peak torque", Kind::torque, load | need::stage, false, has<&Stage::peak_torque>,
            judge_peak},
        {"stage_equivalent", "Stage, equivalent torque", Kind::torque, load | need::stage, false,
            has<&Stage::rated_torque>, judge_equivalent},
        {"stage_emergency", "Stage, emergency stop", Kind::torque, load | stop | need::stage, false,
            has<&Stage::emergency_torque>, judge_emergency},
        {"stage_mean_speed", "Stage, mean speed", Kind::angular_speed, speeds | need::stage, false,
            has<&Stage::nominal_speed>, judge_mean_speed},
        {"stage_speed", "Stage, top speed", Kind::angular_speed, speeds | need::stage, false, has<&Stage::top_speed>,
            judge_top_speed},
        {"stage_ratchet", "Stage, ratcheting", Kind::torque, load | stop | need::stage, false, has_ratchet,
            judge_ratchet},
        {"stage_stops", "Stage, number of stops", Kind::number, need::stage, false, has_stops, judge_stops},
        {"stage_radial", "Stage, radial load", Kind::force, stage_load, false, has<&Stage::radial_rating>,
            judge_radial},
        {"stage_axial", "Stage, axial load", Kind::force, stage_load, false, has<&Stage::axial_rating>, judge_axial},
        {"stage_tilting", "Stage, tilting moment", Kind::torque, stage_load, false, has<&Stage::tilting_rating>,
            judge_tilting},
    };
}

} // namespace fulmox

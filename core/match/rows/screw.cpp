#include "core/drivetrain/screw_life.h"
#include "core/drivetrain/screw_limits.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

void judge_critical(Limit& l, In in) {
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    if (!s.root_diameter.given()) return lacks(l, {{"/mechanism/root_diameter", "root diameter of the screw"}});
    ScrewBound bound = critical_speed(s, in.workings);
    l.used = in.state.demand->mechanism_peak_speed;
    l.allowed = bound.value;
    l.share = in.policy.critical_speed_share.si;
    l.working = std::move(bound.working);
    if (!conclude(l, in, "Euler–Bernoulli beam")) return;
    l.reason = in.words.speed(l.used) + " of " + in.words.speed(l.allowed) + " over " +
               in.words.say(bound.length, Kind::length) + " free length";
    if (l.state != LimitState::fits) l.remedy = "Longer lead, thicker screw, shorter free length, or a fixed far end.";
}

void judge_buckling(Limit& l, In in) {
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    if (!s.root_diameter.given()) return lacks(l, {{"/mechanism/root_diameter", "root diameter of the screw"}});
    const Demand& d = *in.state.demand;
    ScrewBound bound = buckling_load(s, in.workings);
    l.used = d.axial_force();
    l.allowed = bound.value;
    l.share = in.policy.buckling_share.si;
    l.working = std::move(bound.working);
    // a stocky screw yields before it buckles
    std::vector<Missing> missing;
    if (!s.yield_strength.given() && l.used > 0)
        missing.push_back({"/mechanism/yield_strength", "yield strength of the screw"});
    if (!conclude_but_for(l, in, std::move(missing), "Euler")) return;
    l.reason = in.words.say(l.used, Kind::force) + " largest axial force" +
               (d.axial_emergency > d.axial_peak ? ", in the emergency stop" : "") + ", taken as compression; " +
               (s.yield_strength.given() ? "Euler's or Johnson's" : "Euler's") + " load is " +
               in.words.say(l.allowed, Kind::force);
    if (l.state != LimitState::fits) l.remedy = "Thicker screw, shorter loaded length, fixed ends.";
}

void judge_speed_value(Limit& l, In in) {
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    const double turns = in.state.demand->mechanism_peak_speed / (2 * std::numbers::pi);
    l.used = s.diameter.si * turns;
    l.allowed = s.speed_value.si;
    if (in.workings)
        l.working.push_back(working_line("d n", "d · ω/2π", "d*w/(2*pi)",
            {{"d", s.diameter.si}, {"w", in.state.demand->mechanism_peak_speed}}, l.used, Kind::speed, practice));
    if (!conclude(l, in, "nut datasheet")) return;
    const auto feed = [](double v) { return Text::of(v, Kind::speed, 4, "mm/min", "in/min"); };
    l.reason = feed(l.used) + " of " + feed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "Longer lead, thinner screw, or a nut with another ball return.";
}

bool has_screw(In in) { return std::holds_alternative<Screw>(in.axis.mechanism); }

bool screw_turns(In in) { // where the nut turns the screw stands
    return has_screw(in) && std::get<Screw>(in.axis.mechanism).turns == ScrewTurns::screw;
}

bool has_speed_value(In in) { return has_screw(in) && std::get<Screw>(in.axis.mechanism).speed_value.given(); }

const Screw* screw_of(In in) { return std::get_if<Screw>(&in.axis.mechanism); }

bool asks_life(In in) { return screw_of(in) && screw_of(in)->life_asked.given(); }

void judge_screw_life(Limit& l, In in) {
    const Screw& s = *screw_of(in);
    if (!s.dynamic_rating.given()) return lacks(l, {{"/mechanism/dynamic_rating", "dynamic load rating of the nut"}});
    const ScrewLife& life = *in.state.screw_life;
    l.used = s.life_asked.si;
    l.allowed = life.hours * 3600; // one that never turns lasts for ever
    if (in.workings && !life.preloaded && std::isfinite(life.revolutions))
        l.working.push_back(working_line("L_h", "(C/F_m)³ 10⁶ · 2π/ω_m", "(C/F_m)^3*1e6*2*pi/w_m",
            {{"C", s.dynamic_rating.si}, {"F_m", life.mean_load}, {"w_m", life.mean_speed}}, life.hours * 3600,
            Kind::time, "ISO 3408-5, from memory"));
    if (!conclude(l, in, "ISO 3408-5, from memory")) return;
    if (std::isinf(life.hours)) {
        l.reason = "no load, or it never turns";
        return;
    }
    l.reason = in.words.say(l.used, Kind::time) + " asked, of " + in.words.say(l.allowed, Kind::time) + "; mean load " +
               in.words.say(life.mean_load, Kind::force) + " weighted by turns" +
               (life.typed ? ", by the spectrum that is typed" : "") +
               (life.preloaded ? ", and the preload in both halves of the nut" : "");
    if (l.state != LimitState::fits) l.remedy = "A nut with a higher rating, a longer lead, or less load at speed.";
}

bool has_static_rating(In in) { return screw_of(in) && screw_of(in)->static_rating.given(); }

void judge_screw_static(Limit& l, In in) {
    const Demand& d = *in.state.demand;
    l.used = d.axial_force();
    l.allowed = screw_of(in)->static_rating.si;
    if (!conclude(l, in, "datasheet of the nut")) return;
    l.reason = in.words.say(l.used, Kind::force) + " largest axial force" +
               (d.axial_emergency > d.axial_peak ? ", in the emergency stop" : "") + ", of " +
               in.words.say(l.allowed, Kind::force);
    if (l.state != LimitState::fits) l.remedy = "A larger nut, or gentler moves.";
}

const Screw* turning_screw(In in) {
    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
    return s && s->root_diameter.given() && s->turns == ScrewTurns::screw ? s : nullptr;
}

bool has_dynamic_rating(In in) {
    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
    return s && s->dynamic_rating.given();
}

} // namespace

Rows screw_rows() {
    using namespace need;
    constexpr const char* source = "the demand over the cycle, span by span";
    Rows rows{.section = Section::screw};
    rows.limits = {
        {.key = "critical_speed",
            .label = "Screw critical speed",
            .kind = Kind::angular_speed,
            .needs = speeds | bending,
            .part = "screw",
            .applies = screw_turns,
            .judge = judge_critical,
            .meaning = "Screw critical speed"},
        {.key = "buckling",
            .label = "Screw buckling",
            .kind = Kind::force,
            .needs = need::load | stop | need::buckling,
            .part = "screw",
            .applies = has_screw,
            .judge = judge_buckling,
            .allowed_by = {"/mechanism/yield_strength"},
            .meaning = "Screw buckling"},
        {.key = "speed_value",
            .label = "Screw d × n",
            .kind = Kind::speed,
            .needs = speeds | ball_return,
            .part = "screw",
            .applies = has_speed_value,
            .judge = judge_speed_value,
            .allowed_by = {"/mechanism/speed_value"},
            .meaning = "Screw d × n"},
        {.key = "screw_life",
            .label = "Screw life",
            .kind = Kind::time,
            .needs = need::screw_life,
            .more = screw_life_also,
            .reads = AxisResult::screw_life,
            .part = "screw",
            .applies = asks_life,
            .judge = judge_screw_life,
            .allowed_by = {"/mechanism/dynamic_rating"},
            .asked_by = {"/mechanism/life_asked"},
            .meaning = "Life asked against that of the nut's rating under the cycle, or under the typed spectrum; "
                       "`allowed` is null where the screw carries nothing or never turns"},
        {.key = "screw_static",
            .label = "Screw, static load",
            .kind = Kind::force,
            .needs = need::load | stop | need::screw_life,
            .part = "screw",
            .applies = has_static_rating,
            .judge = judge_screw_static,
            .allowed_by = {"/mechanism/static_rating"},
            .meaning = "Largest axial force, standstill and emergency stop included, against the static load rating"},
    };
    rows.figures = {
        {.key = "screw.critical_speed",
            .label = "Critical speed of the screw",
            .kind = Kind::angular_speed,
            .needs = bending,
            .applies = [](In in) { return turning_screw(in) != nullptr; },
            .fill =
                [](Figure& f, In in) {
                    ScrewBound bound = critical_speed(*turning_screw(in), in.workings);
                    f.si = bound.value;
                    f.note = "over " + in.words.say(bound.length, Kind::length) + " free length";
                    f.working = std::move(bound.working);
                },
            .read_from = source,
            .meaning = "Critical speed of a turning screw with a root diameter, whatever the cycle"},
        {.key = "screw.mean_load",
            .label = "Mean load of the screw",
            .kind = Kind::force,
            .needs = need::screw_life,
            .more = screw_life_also,
            .reads = AxisResult::screw_life,
            .applies = has_dynamic_rating,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.screw_life->mean_load;
                    f.note = "cubic mean weighted by turns";
                },
            .read_from = source,
            .meaning = "Cubic mean of the axial load, weighted by turns"},
        {.key = "screw.life",
            .label = "Life of the screw",
            .kind = Kind::time,
            .needs = need::screw_life,
            .more = screw_life_also,
            .reads = AxisResult::screw_life,
            .applies = has_dynamic_rating,
            .fill =
                [](Figure& f, In in) {
                    const ScrewLife& l = *in.state.screw_life;
                    f.si = std::isfinite(l.hours) ? l.hours * 3600 : no_number;
                    f.unit = "h";
                    f.note = std::isfinite(l.hours) ? "nine of ten last this long" : "no load, or it never turns";
                    if (!l.preloaded && l.mean_load > 0)
                        work(f, in, "L_h", "(C/F_m)³ 10⁶ · 2π/ω_m", "(C/F_m)^3*1e6*2*pi/w_m",
                            {{"C", std::get<Screw>(in.axis.mechanism).dynamic_rating.si}, {"F_m", l.mean_load},
                                {"w_m", l.mean_speed}},
                            "ISO 3408-5, from memory");
                },
            .read_from = source,
            .meaning =
                "Life of the screw, ISO 3408-5, preload in both halves of the nut counted; null where it never turns"},
        {.key = "screw.buckling_load",
            .label = "Buckling load of the screw",
            .kind = Kind::force,
            .needs = buckling,
            .applies =
                [](In in) {
                    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
                    return s && s->root_diameter.given();
                },
            .fill =
                [](Figure& f, In in) {
                    ScrewBound bound = buckling_load(std::get<Screw>(in.axis.mechanism), in.workings);
                    f.si = bound.value;
                    f.note = "over " + in.words.say(bound.length, Kind::length);
                    f.working = std::move(bound.working);
                },
            .read_from = source,
            .meaning = "Euler's load of a screw with a root diameter, whatever the cycle"},
    };
    return rows;
}

} // namespace fulmox

#include "core/match/mating.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/match/stage_life.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>
#include <limits>
#include <tuple>

namespace fulmox {

namespace {

constexpr const char* sheet_says = "datasheet of the gearhead or stage";

std::string name_of(const Axis& axis, std::size_t stage) {
    const Stage& s = axis.stages[stage];
    std::string name = s.name.empty() ? "stage " + std::to_string(stage + 1) : s.name;
    return axis.stages.size() > 1 && !s.name.empty() ? name + " (stage " + std::to_string(stage + 1) + ")" : name;
}

// A gearhead with a sheet of its own is asked for every rating; of belts, open gears and chains few have one.
bool has_to_say(const Stage& s) {
    return s.kind == StageKind::planetary || s.kind == StageKind::strain_wave || s.kind == StageKind::worm ||
           s.kind == StageKind::bevel;
}

std::string path_of(std::size_t stage, const char* key) { return "/stages/" + std::to_string(stage) + "/" + key; }

template <auto Member> bool has(In in) {
    return !motion_of(in.axis.mechanism).direct &&
           std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
               [](const Stage& s) { return has_to_say(s) || (s.*Member).given(); });
}

template <auto Member> bool some(In in) {
    return !motion_of(in.axis.mechanism).direct && std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
                                                       [](const Stage& s) { return (s.*Member).given(); });
}

// A clause for each stage that is asked; those that are not are named.
struct Asked {
    std::vector<Clause> clauses;
    std::vector<const StageUse*> uses; // of each clause
    std::string not_judged;            // in words, with what comes before it
};

struct Rating {
    const char* key;
    const char* name; // "peak torque"
    bool obligatory = true;
};

// `ask` gives used and allowed of a stage whose rating is given.
template <auto Member, class Ask> Asked each_stage(In in, const Rating& rating, Ask ask) {
    Asked out;
    std::string names;
    for (std::size_t k = 0; k < in.axis.stages.size(); ++k) {
        const Stage& s = in.axis.stages[k];
        const bool given = (s.*Member).given();
        if (!given && !(rating.obligatory && has_to_say(s))) {
            names += (names.empty() ? "" : ", ") + name_of(in.axis, k);
            continue;
        }
        const auto use = std::find_if(
            in.state.stages->begin(), in.state.stages->end(), [&](const StageUse& u) { return u.stage == k; });
        Clause c;
        if (given && use != in.state.stages->end())
            std::tie(c.used, c.allowed) = ask(s, *use);
        else if (given)
            c.missing.push_back({path_of(k, "demand"), "demand at the output of " + name_of(in.axis, k)});
        else
            c.missing.push_back({path_of(k, rating.key), std::string(rating.name) + " of " + name_of(in.axis, k)});
        out.clauses.push_back(std::move(c));
        out.uses.push_back(use != in.state.stages->end() ? &*use : nullptr);
    }
    if (!names.empty()) out.not_judged = "; no " + std::string(rating.name) + " given: " + names;
    return out;
}

// The stage that decides; null where it cannot be said.
const StageUse* decided(Limit& l, In in, const Asked& asked, const char* source) {
    const auto worst = conclude(l, in, asked.clauses, source);
    return worst ? asked.uses[*worst] : nullptr;
}

bool known_demand(Limit& l, In in) {
    if (in.state.stages) return true;
    set_cannot_say(l, "the demand at its output is not known");
    return false;
}

void judge_peak(Limit& l, In in) {
    if (!known_demand(l, in)) return;
    const Asked asked = each_stage<&Stage::peak_torque>(in, {"peak_torque", "peak torque"},
        // the sheet may leave less of the peak at this number of cycles an hour
        [](const Stage& s, const StageUse& u) {
            return std::pair(u.peak, s.peak_torque.si * s.peak_share.value_or(1));
        });
    const StageUse* u = decided(l, in, asked, sheet_says);
    if (!u) return;
    const Stage& s = in.axis.stages[u->stage];
    l.reason = in.words.torque(l.used) + " at the output of " + name_of(in.axis, u->stage) +
               ", standstill and breakaway included" +
               (s.peak_share.given() ? "; " + format_number(100 * s.peak_share.si, 3) +
                                           " % of the sheet's peak are left at this number of cycles an hour"
                                     : "") +
               asked.not_judged;
    if (l.state != LimitState::fits) l.remedy = "A larger gearhead, or gentler ramps.";
}

void judge_equivalent(Limit& l, In in) {
    if (!known_demand(l, in)) return;
    const Asked asked = each_stage<&Stage::rated_torque>(in, {"rated_torque", "rated torque"},
        [](const Stage& s, const StageUse& u) { return std::pair(u.equivalent, s.rated_torque.si); });
    std::vector<Missing> missing;
    if (const auto worst = worst_of(asked.clauses, missing);
        worst && in.workings && std::isfinite(asked.uses[*worst]->worn) && asked.uses[*worst]->turned > 0) {
        const StageUse& u = *asked.uses[*worst];
        l.working.push_back(working_line("T_eq", "(∫|ω||T|^q dt / ∫|ω| dt)^(1/q)", "(W/N)^(1/q)",
            {{"W", u.worn}, {"N", u.turned}, {"q", u.exponent}}, u.equivalent, Kind::torque, "wear weighted by turns"));
    }
    const StageUse* u =
        decided(l, in, asked, "equivalent torque by the fatigue of bearings and teeth (ISO 281), weighted by turns");
    if (!u) return;
    const Stage& s = in.axis.stages[u->stage];
    l.reason = "equivalent output torque " + in.words.torque(l.used) + " of " + name_of(in.axis, u->stage) +
               ", exponent " + format_number(u->exponent, 3) + (s.exponent.given() ? "" : " of ball bearings");
    if (const double life = stage_life(s, *u); std::isfinite(life))
        l.reason += life > 1e6 * 3600 ? Text("; life over 10⁶ h") : "; life " + in.words.say(life, Kind::time);
    l.reason += asked.not_judged;
    if (l.state != LimitState::fits) l.remedy = "A larger gearhead, less acceleration, or a smaller load.";
}

// Without a stop nobody asks for it, but where its torque is typed.
bool stops(const Axis& axis, const Stage& s) {
    return s.stop_torque.given() || axis.drive.stop_time.given() || axis.drive.stop_distance.given();
}

bool has_emergency(In in) {
    return !motion_of(in.axis.mechanism).direct &&
           std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
               [&](const Stage& s) { return stops(in.axis, s) && (has_to_say(s) || s.emergency_torque.given()); });
}

void judge_emergency(Limit& l, In in) {
    if (!known_demand(l, in)) return;
    const Asked asked = each_stage<&Stage::emergency_torque>(
        in, {"emergency_torque", "emergency torque"}, [&](const Stage& s, const StageUse& u) {
            return std::pair(stops(in.axis, s) ? u.emergency : 0, s.emergency_torque.si);
        });
    const StageUse* u = decided(l, in, asked, sheet_says);
    if (!u) return;
    l.reason = in.words.torque(l.used) + " at the output of " + name_of(in.axis, u->stage) +
               (in.axis.stages[u->stage].stop_torque.given()
                       ? Text(" in an emergency stop, as typed")
                       : Text(" when the axis stops in ") + in.words.say(in.state.demand->stop_time, Kind::time) +
                             " from top speed");
    if (const double motor = motor_peak_at(in.axis, in.state.demand->load, known_peak(in), u->stage); motor > l.allowed)
        l.reason += "; the motor itself could give " + in.words.torque(motor) +
                    " there, so that a torque limit in the drive has to protect it";
    l.reason += asked.not_judged;
    if (l.state == LimitState::fits) return;
    // a stop as gentle as the cycle itself; what the load alone takes stays
    const bool longer = !in.axis.stages[u->stage].stop_torque.given() && u->peak <= l.allowed;
    l.remedy = remedies({longer ? "a longer emergency stop" : "", "a larger gearhead"});
}

void judge_mean_speed(Limit& l, In in) {
    if (!known_demand(l, in)) return;
    const Asked asked = each_stage<&Stage::nominal_speed>(in, {"nominal_speed", "nominal input speed"},
        [](const Stage& s, const StageUse& u) { return std::pair(u.mean_speed, s.nominal_speed.si); });
    const StageUse* u = decided(l, in, asked, sheet_says);
    if (!u) return;
    l.reason = in.words.speed(l.used) + " at the input of " + name_of(in.axis, u->stage) +
               " over the cycle, standstill included; " + in.words.speed(u->moving_speed) + " while it moves" +
               asked.not_judged;
    if (l.state != LimitState::fits) l.remedy = "A lower ratio, longer dwells, or a gearhead for higher speeds.";
}

void judge_top_speed(Limit& l, In in) {
    if (!known_demand(l, in)) return;
    const Asked asked = each_stage<&Stage::top_speed>(in, {"top_speed", "highest input speed"},
        [](const Stage& s, const StageUse& u) { return std::pair(u.peak_speed, s.top_speed.si); });
    const StageUse* u = decided(l, in, asked, sheet_says);
    if (!u) return;
    l.reason =
        in.words.speed(l.used) + " at the input of " + name_of(in.axis, u->stage) + " at top speed" + asked.not_judged;
    if (l.state != LimitState::fits) l.remedy = "A lower ratio, less speed, or a gearhead for higher speeds.";
}

// What is asked of one stage after the other without its demand.
struct Load {
    const QuantityBase& has;
    const QuantityBase& may;
    std::string path; // of what is asked
};

template <class Of> void judge_loads(Limit& l, In in, Of of, const std::string& what, const char* remedy) {
    std::vector<Clause> clauses;
    std::vector<std::size_t> at;
    for (std::size_t k = 0; k < in.axis.stages.size(); ++k) {
        const Load p = of(in.axis.stages[k], k);
        if (!p.may.given()) continue;
        Clause c{p.has.si, p.may.si};
        if (!p.has.given()) c.missing.push_back({p.path, what + " asked of " + name_of(in.axis, k)});
        clauses.push_back(std::move(c));
        at.push_back(k);
    }
    const auto worst = conclude(l, in, clauses, sheet_says);
    if (!worst) return;
    l.reason = what + " of " + name_of(in.axis, at[*worst]) + ", as given";
    if (l.state != LimitState::fits) l.remedy = remedy;
}

void judge_radial(Limit& l, In in) {
    judge_loads(
        l, in,
        [](const Stage& s, std::size_t k) {
            return Load{s.radial_load, s.radial_rating, path_of(k, "radial_load")};
        },
        "radial load",
        "A bearing of its own for the shaft, a larger pulley or pinion, or a gearhead with a stronger output bearing.");
}

void judge_axial(Limit& l, In in) {
    judge_loads(
        l, in,
        [](const Stage& s, std::size_t k) {
            return Load{s.axial_load, s.axial_rating, path_of(k, "axial_load")};
        },
        "axial load", "A thrust bearing of its own, or a gearhead with a stronger output bearing.");
}

void judge_tilting(Limit& l, In in) {
    judge_loads(
        l, in,
        [](const Stage& s, std::size_t k) {
            return Load{s.tilting_moment, s.tilting_rating, path_of(k, "tilting_moment")};
        },
        "tilting moment", "A shorter overhang, or an output bearing for more tilting moment.");
}

void judge_stops(Limit& l, In in) {
    judge_loads(
        l, in,
        [&](const Stage& s, std::size_t) {
            static const Quantity<Kind::number> none;
            return Load{in.axis.drive.emergency_stops, s.emergency_torque.given() ? s.emergency_stops : none,
                "/drive/emergency_stops"};
        },
        "number of emergency stops", "A gearhead whose peak torque covers the emergency stop.");
}

void judge_ratchet(Limit& l, In in) {
    if (!known_demand(l, in)) return;
    Asked asked = each_stage<&Stage::ratchet_torque>(
        in, {"ratchet_torque", "ratcheting torque", false}, [](const Stage& s, const StageUse& u) {
            // the teeth of other gears do not jump
            const bool jumps = s.kind == StageKind::strain_wave;
            return std::pair(jumps ? std::max(u.peak, u.emergency) : 0, s.ratchet_torque.si);
        });
    const StageUse* u = decided(l, in, asked, sheet_says);
    if (!u) return;
    l.reason = in.words.torque(l.used) + " at the output of " + name_of(in.axis, u->stage) +
               ", emergency stop included; beyond " + in.words.torque(l.allowed) + " its teeth jump";
    if (l.state != LimitState::fits) l.remedy = "A larger gear, or gentler ramps and stops.";
}

bool has_ratchet(In in) {
    return !motion_of(in.axis.mechanism).direct &&
           std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
               [](const Stage& s) { return s.kind == StageKind::strain_wave && s.ratchet_torque.given(); });
}

bool has_stops(In in) {
    return !motion_of(in.axis.mechanism).direct &&
           std::any_of(in.axis.stages.begin(), in.axis.stages.end(),
               [](const Stage& s) { return s.emergency_torque.given() && s.emergency_stops.given(); });
}

bool has_mating(In in) { return turns(in) && !stage_fits(in.axis).empty(); }

void judge_mating(Limit& l, In in) {
    judge_fits(l, in, stage_fits(in.axis), "An adapter, a bushing, or a gearhead for this motor.");
}

} // namespace

Rows stage_rows() {
    using namespace need;
    Rows rows{.section = Section::stage};
    rows.limits = {
        {.key = "stage_mating",
            .label = "Gearhead on motor",
            .kind = Kind::length,
            .needs = coupling_fit,
            .part = "gearhead",
            .yes_or_no = true,
            .applies = has_mating,
            .judge = judge_mating,
            .meaning = "Largest difference of input bore, pilot and bolt circle of the gearhead, where it gives them, "
                       "and those of the motor against a thousandth of it; an adapter takes pilot and bolt circle"},
        {.key = "stage_peak",
            .label = "Stage, peak torque",
            .kind = Kind::torque,
            .needs = load | need::stage,
            .reads = AxisResult::stages,
            .part = "gearhead",
            .applies = has<&Stage::peak_torque>,
            .judge = judge_peak,
            .allowed_by = {"/stages/*/peak_torque", "/stages/*/peak_share"},
            .meaning = "Largest torque at the output of a gearhead or stage, standstill and breakaway included, "
                       "against the peak torque of its sheet; of several the worst"},
        {.key = "stage_equivalent",
            .label = "Stage, equivalent torque",
            .kind = Kind::torque,
            .needs = load | need::stage,
            .reads = AxisResult::stages,
            .part = "gearhead",
            .applies = has<&Stage::rated_torque>,
            .judge = judge_equivalent,
            .meaning = "Equivalent torque at the output, the mean of T^q weighted by turns, its root of order q, "
                       "against its rated torque"},
        {.key = "stage_emergency",
            .label = "Stage, emergency stop",
            .kind = Kind::torque,
            .needs = load | stop | need::stage,
            .reads = AxisResult::stages,
            .part = "gearhead",
            .applies = has_emergency,
            .judge = judge_emergency,
            .allowed_by = {"/stages/*/emergency_torque"},
            .meaning = "Torque of the emergency stop at the output against that of the sheet; present where a stop is "
                       "asked for"},
        {.key = "stage_mean_speed",
            .label = "Stage, mean speed",
            .kind = Kind::angular_speed,
            .needs = speeds | need::stage,
            .reads = AxisResult::stages,
            .part = "gearhead",
            .applies = has<&Stage::nominal_speed>,
            .judge = judge_mean_speed,
            .allowed_by = {"/stages/*/nominal_speed"},
            .meaning = "Mean input speed over the cycle against its nominal input speed"},
        {.key = "stage_speed",
            .label = "Stage, top speed",
            .kind = Kind::angular_speed,
            .needs = speeds | need::stage,
            .reads = AxisResult::stages,
            .part = "gearhead",
            .applies = has<&Stage::top_speed>,
            .judge = judge_top_speed,
            .allowed_by = {"/stages/*/top_speed"},
            .meaning = "Largest input speed against its highest"},
        {.key = "stage_ratchet",
            .label = "Stage, ratcheting",
            .kind = Kind::torque,
            .needs = load | stop | need::stage,
            .reads = AxisResult::stages,
            .part = "gearhead",
            .applies = has_ratchet,
            .judge = judge_ratchet,
            .allowed_by = {"/stages/*/ratchet_torque"},
            .meaning = "Largest torque at the output, emergency stop included, against the ratcheting torque of a "
                       "strain wave gear; present where its sheet gives it"},
        {.key = "stage_stops",
            .label = "Gearhead: emergency stops",
            .kind = Kind::number,
            .needs = need::stage,
            .part = "gearhead",
            .applies = has_stops,
            .judge = judge_stops,
            .allowed_by = {"/stages/*/emergency_stops"},
            .asked_by = {"/drive/emergency_stops"},
            .meaning = "Number of emergency stops against those the sheet permits; cannot be said where the drive's "
                       "number is not given"},
        {.key = "stage_radial",
            .label = "Stage, radial load",
            .kind = Kind::force,
            .needs = stage_load,
            .part = "gearhead",
            .applies = some<&Stage::radial_rating>,
            .judge = judge_radial,
            .allowed_by = {"/stages/*/radial_rating"},
            .asked_by = {"/stages/*/radial_load"},
            .meaning = "Radial load at the output, as given, against that allowed"},
        {.key = "stage_axial",
            .label = "Stage, axial load",
            .kind = Kind::force,
            .needs = stage_load,
            .part = "gearhead",
            .applies = some<&Stage::axial_rating>,
            .judge = judge_axial,
            .allowed_by = {"/stages/*/axial_rating"},
            .asked_by = {"/stages/*/axial_load"},
            .meaning = "Axial load at the output, as given, against that allowed"},
        {.key = "stage_tilting",
            .label = "Stage, tilting moment",
            .kind = Kind::torque,
            .needs = stage_load,
            .part = "gearhead",
            .applies = some<&Stage::tilting_rating>,
            .judge = judge_tilting,
            .allowed_by = {"/stages/*/tilting_rating"},
            .asked_by = {"/stages/*/tilting_moment"},
            .meaning = "Tilting moment at the output, as given, against that allowed"},
    };
    return rows;
}

} // namespace fulmox

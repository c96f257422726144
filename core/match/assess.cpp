#include "core/match/assess.h"

#include "core/demand/emergency.h"
#include "core/match/bounds.h"
#include "core/match/cautions.h"
#include "core/match/figures.h"
#include "core/match/limits.h"
#include "core/match/stepping.h"
#include "core/match/words.h"
#include "core/model/validate.h"
#include "core/model/walk.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <new>
#include <numbers>
#include <oneapi/tbb/parallel_invoke.h>

namespace fulmox {

namespace {

std::vector<SchoolView> schools(const Machine& machine, const Axis& axis, const InertiaStatement& i) {
    std::vector<SchoolView> out;
    for (const Policy& p : machine.policies) {
        SchoolView v{p.name, LimitState::cannot_say, "does not judge the ratio", p.name == axis.policy};
        if (!i.load_known) v.words = "load inertia not given";
        if (p.inertia_ratio_over.given() && p.inertia_ratio_tight.given() && i.rotor > 0 && i.load_known) {
            Limit l;
            l.used = i.ratio();
            l.allowed = p.inertia_ratio_over.si;
            l.share = p.inertia_ratio_tight.si / p.inertia_ratio_over.si;
            judge(l);
            v.state = l.state;
            v.words = "tight above " + format_number(p.inertia_ratio_tight.si) + ", over above " +
                      format_number(p.inertia_ratio_over.si);
        }
        out.push_back(std::move(v));
    }
    return out;
}

// Kinds of shaft quantities on a linear motor: what stands for torque is a force.
void make_direct(Assessment& a, const Words& words) {
    const auto turn = [&](auto& row) {
        row.kind = words.kind(row.kind);
        for (WorkingLine& w : row.working) w.kind = words.kind(w.kind);
    };
    for (Figure& f : a.figures) turn(f);
    for (Limit& l : a.limits) turn(l);
}

// A calculation that left the numbers a machine can hold: the values are legal, but far from anything real.
Problem beyond(const std::string& path, const char* field, const std::string& what) {
    return {Severity::error, path, field,
        "the " + what + " is no finite number with these values; one of them is far too large or too small"};
}

std::optional<std::string> not_finite(const Trajectory& t) {
    for (const auto& [name, value] : {std::pair("cycle time", t.duration), std::pair("path", t.path),
             std::pair("position", t.lowest + t.highest), std::pair("speed", t.peak_speed),
             std::pair("acceleration", t.peak_acceleration), std::pair("advance", t.advance)})
        if (!std::isfinite(value)) return name;
    return std::nullopt;
}

constexpr std::size_t most_pieces_of_stages = 10'000;

struct AtFill {
    StateResults results;
    std::optional<std::string> wrong; // a result that is no finite number
    std::vector<Limit> limits;
};

// Of several states of an axis, fills or cycles: what is over in one is over; else what cannot be said of one cannot be
// said of the axis; else the worst counts.
void keep_worst(
    std::vector<Limit>& worst, std::vector<Limit> now, const std::string& state, const char* same_in_all = "") {
    const auto rank = [](const Limit& l) {
        const bool unknown = l.state == LimitState::cannot_say;
        return std::pair(l.state == LimitState::over ? 2 : unknown ? 1 : 0, unknown ? 0 : l.utilisation());
    };
    for (Limit& l : now) {
        if (l.key != same_in_all) l.reason += Text(" (" + state + ")");
        const auto same = std::find_if(worst.begin(), worst.end(), [&](const Limit& w) { return w.key == l.key; });
        if (same == worst.end())
            worst.push_back(std::move(l));
        else if (rank(l) > rank(*same))
            *same = std::move(l);
    }
}

} // namespace

const Policy& policy_of(const Machine& machine, const Axis& axis) {
    static const Policy fallback = shipped_policies().front();
    const Policy* policy = find_policy(machine, axis.policy);
    return policy ? *policy : fallback;
}

double peak_acceleration(const Assessment& a) {
    if (!a.motor || !a.inertia || !a.demand || !a.inertia->load_known) return std::nan("");
    const double inertia = a.inertia->load + a.inertia->rotor;
    return inertia > 0 ? a.motor->can.peak.at(a.demand->peak_speed) / inertia : std::nan("");
}

std::vector<Carried> carried_over(const Trajectory& t, double first) {
    std::vector<Carried> out;
    for (const Phase& p : t.phases) {
        const double payload = p.payload.value_or(first);
        const bool again = !out.empty() && out.back().payload == payload && out.back().highest >= p.lowest &&
                           out.back().lowest <= p.highest;
        if (!again) out.push_back({payload, p.lowest, p.highest});
        out.back().lowest = std::min(out.back().lowest, p.lowest);
        out.back().highest = std::max(out.back().highest, p.highest);
    }
    return out;
}

std::string figure_text(const Figure& f, UnitSystem system) {
    if (std::isnan(f.si)) return "–";
    return format_quantity(f.si, *f.unit ? *find_unit(f.unit, f.kind) : display_unit(f.kind, system, f.si));
}

std::vector<const StandIn*> stand_ins_of(const Assessment& a, const Limit& limit) {
    std::vector<const StandIn*> out;
    for (const StandIn& s : a.stand_ins)
        if ((limit.needs & s.serves) != 0) out.push_back(&s);
    return out;
}

const Figure* Assessment::figure(std::string_view key) const {
    for (const Figure& f : figures)
        if (f.key == key) return &f;
    return nullptr;
}

const Limit* Assessment::limit(std::string_view key) const {
    for (const Limit& l : limits)
        if (l.key == key) return &l;
    return nullptr;
}

bool Assessment::exceeded() const { return count(limits).over > 0; }
bool Assessment::unknown() const {
    const LimitCount n = count(limits);
    return n.over == 0 && n.cannot_say > n.accepted;
}
bool Assessment::fits() const { return !has_errors(problems) && !exceeded(); }

namespace {

// The stages of an assessment, one after the other. Each takes what the ones before it found out, and says what stops
// it; what waits for something is calculated with stand-ins all the same, for the sake of what does not.
class AxisAssessor {
  public:
    AxisAssessor(
        const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options, bool too_long)
        : machine_(machine), axis_(axis), path_(path), options_(options), too_long_(too_long),
          moves_(motion_of(axis.mechanism)), words_(moves_), policy_(policy_of(machine, axis)) {
        a_.problems = validate(axis, path, &machine.materials, options_.in_range);
        Problems all = a_.problems;
        const Problems site = validate_site(machine);
        all.insert(all.end(), site.begin(), site.end());
        waiting_.emplace(machine, axis, path, all);
        if (has_errors(site)) {
            a_.problems = all; // nobody else says what the axis waits for then
            stand_in_machine_.emplace();
            stand_in_machine_->site = Waiting::with_stand_ins(machine.site);
            stand_in_machine_->materials = machine.materials;
            stand_in_machine_->policies = machine.policies;
            stand_in_machine_->unit_system = machine.unit_system;
            stand_in_machine_->operation = machine.operation;
        }
        // the pull of an iron core loads the guides
        if (const auto* forcer = std::get_if<LinearForcer>(&axis.motor.electric);
            forcer && axis.driven() && forcer->core == ForcerCore::iron && !forcer->attraction.given())
            waiting_->unknown({"/motor/electric/attraction", "attraction of the iron core"}, "Attraction", need::force);
        // how long a stop takes by the torque limit depends on all that turns
        if (stop_is_limited(axis)) waiting_->also(need::rotor, need::stop);
        if (waiting_->blocks(need::everything)) stand_ins_ = waiting_->with_stand_ins();
        taken_ = stand_ins_ ? &*stand_ins_ : &axis_;
        const auto* belt = std::get_if<BeltDrive>(&axis.mechanism);
        if (belt && belt->motor_seat == MotorSeat::rides && waiting_->blocks(need::riding_mass))
            waiting_->also(need::riding_mass, need::inertia);
    }

    Assessment take() {
        capability();
        for (void (AxisAssessor::*stage)() :
            {&AxisAssessor::plan_motion, &AxisAssessor::load, &AxisAssessor::inertia, &AxisAssessor::demand}) {
            go_on();
            (this->*stage)();
        }
        if (!find_policy(machine_, axis_.policy))
            a_.problems.push_back({Severity::error, path_ + "/policy", "Policy",
                "\"" + axis_.policy + "\" is not a policy of this project; judged by \"" + policy_.name +
                    "\" meanwhile"});
        figures();
        if (a_.limits.empty()) a_.limits = judge_all(rows_of(a_));
        // of the axis as it is, without what stands in
        for (Limit& l : a_.limits)
            if (const LimitRow* row = limit_row(l.key)) l.needs = needs_on(needs_of(*row, axis_), axis_);
        // pictures and tables show a result as a whole, or not at all
        a_.each_result([&](auto& result) { result.hide([&](need::Bits needs) { return waits(needs); }); });
        if (options_.workings) a_.stand_ins = stand_ins(axis_);
        if (options_.cautions) {
            if (a_.inertia) a_.schools = schools(machine_, axis_, *a_.inertia);
            for (Problem& p : cautions({machine_, axis_, a_}, path_)) a_.problems.push_back(std::move(p));
        }
        if (moves_.direct) make_direct(a_, words_);
        return std::move(a_);
    }

  private:
    const Machine& machine_;
    const Axis& axis_;
    const std::string& path_;
    AssessOptions options_;
    bool too_long_ = false; // beside the other cycles of the project
    Motion moves_;
    Words words_;
    const Policy& policy_;
    Assessment a_;
    std::optional<Waiting> waiting_;
    std::optional<Axis> stand_ins_;
    std::optional<Machine> stand_in_machine_; // without axes
    const Axis* taken_ = nullptr;
    LoadModel load_;

    void stop(Problem p, need::Bits serves) {
        waiting_->add(p, serves);
        a_.problems.push_back(std::move(p));
    }
    const Machine& known_machine() const { return stand_in_machine_ ? *stand_in_machine_ : machine_; }
    void go_on() const {
        if (options_.go_on && !options_.go_on()) throw Interrupted{};
    }
    bool waits(need::Bits needs) const { return waiting_->blocks(needs); }

    void capability() {
        if (!axis_.driven()) return;
        // where the sheet has no points the curves depend on its constants
        const bool points = !moves_.direct;
        for (const need::Bits one : {need::peak_curve, need::continuous_curve, need::current})
            if (const need::Bits made_of = needs_on(one, axis_) & ~one) waiting_->also(made_of, one);
        if (points && !waits(need::voltage | need::peak_curve) && !axis_.motor.peak.empty()) {
            const double scale = axis_.drive.lowest_bus() / axis_.motor.curve_voltage.si;
            if (!std::isnormal(scale * axis_.motor.peak.back().speed.si)) {
                stop(beyond(path_ + "/drive/bus_voltage", "Bus voltage", "speed of the peak curve at this bus"),
                    need::voltage);
                if (!stand_ins_) stand_ins_ = axis_;
                stand_ins_->drive.bus_voltage.si = stand_ins_->motor.curve_voltage.si = 1;
                stand_ins_->drive.mains_tolerance = stand_ins_->drive.bus_droop = {};
                taken_ = &*stand_ins_;
            }
        }
        a_.can = fulmox::capability(taken_->motor, taken_->drive, known_machine().site);
    }

    void plan_motion() {
        if (too_long_)
            return stop({Severity::error, path_ + "/cycle/segments", "Cycle", too_long_together()}, need::cycle);
        if (waits(need::cycle)) return plan_known_part();
        Plan planned = plan(axis_.cycle, moves_, machine_.unit_system);
        for (Problem& p : planned.problems) {
            p.path = path_ + "/cycle" + p.path;
            if (p.severity == Severity::error)
                stop(std::move(p), need::cycle);
            else
                a_.problems.push_back(std::move(p));
        }
        if (waits(need::cycle)) return plan_known_part();
        if (planned.motion.duration <= 0)
            return stop({Severity::error, path_ + "/cycle/segments", "Segments",
                            "the cycle takes no time; add a move or a dwell"},
                need::cycle);
        if (const auto what = not_finite(planned.motion))
            return stop(beyond(path_ + "/cycle/segments", "Segments", *what + " of the cycle"), need::cycle);
        a_.motion = std::move(planned.motion);
    }

    void plan_known_part() {
        Cycle known = axis_.cycle;
        known.segments.resize(std::min(known.segments.size(), waiting_->known_segments()));
        if (known.segments.empty()) return;
        Plan part = plan(known, moves_, machine_.unit_system);
        if (part.motion.duration > 0 && !not_finite(part.motion)) a_.known_part = std::move(part.motion);
    }

    void load() {
        load_ = load_model(known_machine(), *taken_);
        if (waits(need::travel | (need::demand & ~need::speeds))) return;
        if (const auto what = not_finite(load_))
            stop(beyond(path_ + "/mechanism", "Mechanism", *what), need::travel | need::inertia | need::force);
    }

    void inertia() {
        if (waits(need::travel | need::inertia)) return;
        std::vector<Carried> over;
        if (a_.motion) {
            over = carried_over(*a_.motion, first_payload(*taken_));
        } else { // wherever it may go, with all it may carry
            over.push_back({first_payload(*taken_), 0, 2 * std::numbers::pi});
            if (moves_.has & Motion::payload)
                for (const Segment& s : taken_->cycle.segments)
                    if (s.payload.given()) over.push_back({s.payload.si, 0, 2 * std::numbers::pi});
        }
        a_.inertia = inertia_statement(known_machine(), *taken_, over, options_.workings);
        if (!std::isfinite(a_.inertia->load) || !std::isfinite(a_.inertia->rotor)) {
            a_.inertia.reset();
            stop(beyond(path_ + "/mechanism", "Mechanism", "load inertia"), need::inertia);
        }
    }

    std::string say(double si, Kind kind) const { return format_quantity(si, kind, machine_.unit_system); }

    // Where the cycle is too long to be gone through, or does not fit on the roll.
    void check_bounds() {
        if (moves_.rotary && load_.position_dependent())
            if (const double turns = path_at_changing_speed(*a_.motion) / (2 * std::numbers::pi); turns > most_turns)
                stop({Severity::error, path_ + "/cycle/segments", "Cycle",
                         "its speed changes over " + format_number(turns, 4) +
                             " turns; where torque depends on the angle at most " + format_number(most_turns) +
                             " such turns a cycle are calculated"},
                    need::calculation);
        const auto* w = std::get_if<Winder>(&taken_->mechanism);
        if (!w) return;
        if (fill_states(*taken_, {a_.motion->below(), a_.motion->above()}).empty())
            stop({Severity::error, path_ + "/cycle/segments", "Cycle",
                     "it moves " + say(a_.motion->stroke(), Kind::length) + " of web one way, but the roll holds " +
                         say(full_web(*w), Kind::length)},
                need::calculation);
        if (a_.motion->pieces.size() > most_repeated_pieces / fill_count)
            stop({Severity::error, path_ + "/cycle/segments", "Cycle",
                     "it has " + std::to_string(a_.motion->pieces.size()) +
                         " pieces of motion; a winder is calculated at " + std::to_string(fill_count) +
                         " fills, and then at most " + std::to_string(most_repeated_pieces / fill_count) +
                         " pieces are"},
                need::calculation);
    }

    RowInput rows_of(const StateResults& state) const {
        return {.machine = machine_,
            .axis = *taken_,
            .policy = policy_,
            .results = a_,
            .state = state,
            .load = state.demand ? state.demand->load : load_,
            .waiting = *waiting_,
            .workings = options_.workings};
    }

    const Capability* known_peak() const { return waits(need::peak_curve | need::voltage) ? nullptr : a_.can.get(); }

    // What a screw lasts by a spectrum of loads, or by the demand that is known.
    void life_of_screw(StateResults& r) const {
        const auto* s = std::get_if<Screw>(&taken_->mechanism);
        if (!s || (!r.demand && s->spectrum.empty()) || !(options_.figures || s->life_asked.given())) return;
        r.screw_life = screw_life(*s, r.demand.get());
    }

    // What the motor, the drive and the parts between motor and load are asked for.
    void use_of_parts(StateResults& r) const {
        // with many spans each half takes its time
        constexpr std::size_t many = 100;
        if (r.demand->spans.size() < many) {
            use_of_motor(r);
            use_of_train(r);
        } else {
            tbb::parallel_invoke([&] { use_of_motor(r); }, [&] { use_of_train(r); });
        }
    }

    void use_of_motor(StateResults& r) const {
        const Demand& d = *r.demand;
        if (!a_.can) return;
        r.motor = motor_use(d, *a_.can);
        r.heat = cycle_heat(taken_->motor, taken_->drive, known_machine().site, *r.motor, d);
        const auto& model = r.motor->can.model;
        if (!model) return;
        const MotorConditions& c = model->conditions();
        r.currents = {model->numbers().sine_driven, r.motor->peak_current, r.motor->rms_current, c.drive_continuous,
            c.drive_peak};
        if (std::isfinite(r.motor->rms_current) && std::isfinite(c.drive_continuous))
            r.overload = overload_integral(d, *r.motor, taken_->drive);
    }

    void use_of_train(StateResults& r) const {
        const Demand& d = *r.demand;
        // what no sheet judges is shown where it costs little
        const bool all = options_.figures && a_.motion->pieces.size() <= most_pieces_of_stages;
        std::vector<StageUse> stages =
            stage_uses(d.load, *a_.motion, *taken_, [all](const Stage& s) { return all || s.has_sheet(); });
        for (StageUse& u : stages) u.stops = d.stop_time > 0 || taken_->stages[u.stage].stop_torque.given();
        r.stages = std::move(stages);
        if ((options_.figures || taken_->accuracy.asked.given()) && d.load.path != LoadModel::Path::winder)
            r.precision = precision_budget(*taken_, d, a_.motion->stroke(), known_peak());
        life_of_screw(r);
        if (moves_.direct) return;
        const bool told = a_.inertia && a_.inertia->load_known && !waits(need::ratio_inertia);
        if (taken_->coupling.there())
            r.coupling = coupling_use(d, *taken_, waits(need::rotor) ? nullptr : known_peak(), told);
        r.brake.set(brake_stop(d, *taken_, told));
    }

    StateResults none_yet() const {
        StateResults r;
        r.screw_life.needs_also(screw_life_also(axis_));
        r.precision.needs_also(position_error_also(axis_));
        return r;
    }

    void demand() {
        static_cast<StateResults&>(a_) = none_yet();
        if (!a_.motion || waits(need::speeds)) return life_of_screw(a_);
        check_bounds();
        if (waits(need::calculation)) return life_of_screw(a_);
        const std::vector<FillState> states = fill_states(*taken_, {a_.motion->below(), a_.motion->above()});
        std::vector<LoadModel> loads;
        for (const FillState& state : states) loads.push_back(load_model(known_machine(), *taken_, state.web));
        std::vector<AtFill> fills(states.size(), {none_yet(), {}, {}});
        demands(
            loads, *a_.motion, *taken_,
            [&](std::size_t i, Demand d) {
                AtFill& f = fills[i];
                f.wrong = d.not_finite();
                if (f.wrong) return;
                f.results.demand = std::move(d);
                use_of_parts(f.results);
                f.limits = judge_all(rows_of(f.results));
            },
            [&] { go_on(); });
        for (const AtFill& f : fills) {
            if (!f.wrong || waits(need::calculation)) continue;
            // no part of it is to be trusted; where stand-ins are at fault it is what they stand for that is waited for
            if (stand_ins_ || stand_in_machine_) waiting_->also(need::demand, need::calculation);
            if (!waits(need::calculation)) stop(beyond(path_ + "/mechanism", "Demand", *f.wrong), need::calculation);
        }
        if (waits(need::calculation)) return life_of_screw(a_);
        // a winder is judged at every fill; each limit keeps its worst, and what is shown is the fill of most heat
        std::size_t shown = 0;
        std::vector<FillUse> uses;
        for (std::size_t i = 0; states.size() > 1 && i < states.size(); ++i) {
            const Demand& d = *fills[i].results.demand;
            keep_worst(a_.limits, std::move(fills[i].limits), "roll " + states[i].name, "inertia_ratio");
            uses.push_back({states[i].name, states[i].web, d.rms_torque, d.peak.torque, d.peak_speed});
            if (d.rms_torque > fills[shown].results.demand->rms_torque) shown = i;
        }
        if (states.size() > 1) {
            a_.fills = std::move(uses);
            a_.fill_shown = states[shown].name;
        } else {
            a_.limits = std::move(fills[0].limits);
        }
        static_cast<StateResults&>(a_) = std::move(fills[shown].results);
    }

    void figures() {
        if (!options_.figures) return;
        // with stand-ins too: rows that wait leave it alone
        if (a_.inertia && !moves_.direct) a_.stiffness = stiffness_statement(*taken_, load_, *a_.inertia);
        a_.figures = fulmox::figures(rows_of(a_));
    }
};

// Where nothing is known for this reason.
Assessment nothing_known(const Machine& machine, const Axis& axis, const std::string& path, const Problem& problem) {
    Assessment a;
    a.problems = validate(axis, path, &machine.materials);
    Waiting waiting(machine, axis, path, {});
    waiting.add(problem, need::everything);
    const LoadModel none;
    a.limits = judge_all({.machine = machine,
        .axis = axis,
        .policy = policy_of(machine, axis),
        .results = a,
        .state = a,
        .load = none,
        .waiting = waiting,
        .workings = false});
    return a;
}

} // namespace

Assessment being_assessed(const Machine& machine, const Axis& axis, const std::string& path) {
    Assessment a = nothing_known(machine, axis, path, {Severity::error, path, "Axis", ""});
    for (Limit& l : a.limits) l.reason = "it is being calculated";
    a.pending = true;
    return a;
}

namespace {

// A calculation that fails is a problem of its axis; everything else lives on.
Assessment assess_one(
    const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options, bool too_long) {
    std::string why;
    try {
        return AxisAssessor(machine, axis, path, options, too_long).take();
    } catch (const std::bad_alloc&) {
        why = "it needs more memory than there is; the cycle is too long";
    } catch (const std::exception& e) {
        why = e.what();
    }
    const Problem problem{Severity::error, path, "Axis", "it cannot be calculated with these values: " + why};
    Assessment a = nothing_known(machine, axis, path, problem);
    a.problems.push_back(problem);
    return a;
}

// The axis as it runs this one of its cycles; what could not be read of the others is not its concern.
Axis with_cycle(const Axis& axis, std::size_t further) {
    Axis one = axis;
    one.further_cycles.clear();
    const std::string mine = "/further_cycles/" + std::to_string(further);
    if (further < axis.further_cycles.size()) {
        one.cycle = axis.further_cycles[further];
        std::erase_if(one.unread, [](const Problem& p) { return p.path.starts_with("/cycle"); });
    }
    for (Problem& p : one.unread)
        if (p.path.starts_with(mine) && (p.path.size() == mine.size() || p.path[mine.size()] == '/'))
            p.path.replace(0, mine.size(), "/cycle");
    std::erase_if(one.unread, [](const Problem& p) { return p.path.starts_with("/further_cycles/"); });
    return one;
}

} // namespace

Assessment assess(const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options) {
    const std::vector<bool> beyond = options.beyond ? *options.beyond : too_long(machine, axis, path);
    if (axis.further_cycles.empty()) return assess_one(machine, axis, path, options, beyond.front());
    Assessment a = assess_one(machine, with_cycle(axis, axis.further_cycles.size()), path, options, beyond.front());
    options.figures = false;
    for (std::size_t i = 0; i < axis.further_cycles.size(); ++i) {
        Assessment other = assess_one(machine, with_cycle(axis, i), path, options, beyond[i + 1]);
        const std::string own = path + "/cycle", place = path + "/further_cycles/" + std::to_string(i);
        for (Problem& p : other.problems) {
            if (p.path.starts_with(own)) p.path.replace(0, own.size(), place);
            const bool known = std::any_of(a.problems.begin(), a.problems.end(),
                [&](const Problem& o) { return o.path == p.path && o.message == p.message; });
            if (!known) a.problems.push_back(std::move(p));
        }
        const std::string& name = axis.further_cycles[i].name;
        keep_worst(a.limits, std::move(other.limits), name.empty() ? "further cycle " + std::to_string(i + 1) : name);
    }
    return a;
}

Assessment assess(const Machine& machine, std::size_t axis, AssessOptions options) {
    return assess(machine, machine.axes.at(axis), "/axes/" + std::to_string(axis), options);
}

} // namespace fulmox

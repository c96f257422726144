#include "core/report/json_report.h"

#include "core/demand/segments.h"
#include "core/match/figures.h"
#include "core/match/limits.h"
#include "core/match/stage_life.h"
#include "core/match/which_kind.h"
#include "core/motor/constants.h"
#include "core/quantity/format.h"
#include "core/report/drivetrain_report.h"
#include "core/report/json_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fulmox {

namespace {

Value working_json(const Working& w) {
    Value out = Value::array();
    for (const WorkingLine& l : w)
        out.push_back({{"symbol", l.symbol}, {"formula", l.formula}, {"substituted", l.substituted()},
            {"result", finite(l.result)}, {"unit", std::string(info(l.kind).si_unit)}, {"source", l.source}});
    return out;
}

// An ordered object that outgrows its room copies everything below it: its keys cannot be moved.
Value roomy_object(std::size_t members) {
    Value out = Value::object();
    out.get_ref<Value::object_t&>().reserve(members);
    return out;
}

// What a row needs, by name.
Value needs_json(need::Bits needs) { return need::names(needs); }

// Forces and masses of a linear drive stand where others have torques and inertias.
struct Units {
    std::string torque, inertia, speed;
    explicit Units(const Axis& axis) {
        const bool direct = motion_of(axis.mechanism).direct;
        const auto si = [](Kind k) { return std::string(info(k).si_unit); };
        torque = si(direct ? Kind::force : Kind::torque);
        inertia = si(direct ? Kind::mass : Kind::inertia);
        speed = si(direct ? Kind::speed : Kind::angular_speed);
    }
};

Value inertia_json(const InertiaStatement& s, const Units& units) {
    const double all = s.load_known ? s.load + s.rotor : 0;
    Value contributors = Value::array();
    for (const InertiaShare& c : s.shares)
        contributors.push_back({{"key", c.key}, {"label", c.label}, {"detail", c.detail}, {"own", finite(c.own)},
            {"own_unit", std::string(info(c.travels ? Kind::mass : Kind::inertia).si_unit)},
            {"value", finite(c.at_shaft)}, {"share", all > 0 ? finite(c.at_shaft / all) : Value(nullptr)},
            {"side", c.rotor_side ? "motor" : "load"}, {"working", working_json(c.working)}});
    return {{"unit", units.inertia}, {"load", s.load_known ? finite(s.load) : Value(nullptr)},
        {"load_least", s.load_known ? finite(s.load_least) : Value(nullptr)},
        {"rotor", s.rotor > 0 ? finite(s.rotor) : Value(nullptr)},
        {"ratio", s.rotor > 0 ? finite(s.ratio()) : Value(nullptr)}, {"contributors", std::move(contributors)}};
}

Value point_json(const ShaftPoint& p) {
    if (p.torque == 0) return nullptr;
    return {{"torque", finite(p.torque)}, {"time", finite(p.time)}, {"speed", finite(p.speed)}, {"segment", p.segment},
        {"power", finite(p.torque * p.speed)}};
}

Value peaks_json(const Demand& d, const Units& units) {
    return {{"torque_unit", units.torque}, {"speed_unit", units.speed}, {"largest", point_json(d.peak)},
        {"running", point_json(d.peak_running)}, {"motoring", point_json(d.peak_motoring)},
        {"braking", point_json(d.peak_braking)}, {"breakaway", point_json(d.breakaway)}};
}

Value segments_json(const Axis& axis, const Demand& d, const Units& units, const std::string& path) {
    Value rows = Value::array();
    const std::vector<SegmentDemand> all = by_segment(d, axis.cycle.segments.size());
    for (std::size_t i = 0; i < all.size(); ++i) {
        const SegmentDemand& s = all[i];
        Value hold = nullptr;
        if (s.hold)
            hold = {{"torque", finite(s.hold->torque)}, {"time", finite(s.hold->time)},
                {"payload", finite(s.hold->payload)}, {"by", s.hold->by_brake ? "brake" : "motor"}};
        rows.push_back({{"segment", i}, {"path", path + "/cycle/segments/" + std::to_string(i)},
            {"kind", std::visit([](const auto& k) { return std::string(k.kind_key); }, axis.cycle.segments[i].what)},
            {"duration", finite(s.duration)}, {"rms_torque", finite(s.rms_torque)},
            {"heat_share", finite(s.heat_share)}, {"peak_speed", finite(s.peak_speed)},
            {"peak", s.peak ? point_json(*s.peak) : Value(nullptr)}, {"hold", std::move(hold)}});
    }
    return {{"torque_unit", units.torque}, {"speed_unit", units.speed}, {"rows", std::move(rows)}};
}

// The heat of the cycle in K, W and s; `verdict` is null where it is not known.
Value heat_json(const CycleHeat& h) {
    const SteadyHeat& s = h.heat;
    const bool known = h.missing.empty();
    const double highest = h.motor.knows_times() ? s.highest : s.mean.winding;
    const char* verdict = !s.settles ? "runaway" : highest > h.motor.limit ? "over_limit" : "settles";
    const auto watts = [&](double w) { return finite(known && h.in_watts ? w : std::nan("")); };
    const auto kelvin = [](double celsius) { return finite(celsius + motor_constants::zero_celsius); };
    const auto both = [&](double low, double high) {
        return Value{{"lowest", kelvin(low)}, {"highest", kelvin(high)}};
    };
    return {{"missing", h.missing}, {"verdict", known ? Value(verdict) : Value(nullptr)},
        {"bodies", known ? Value(h.motor.two_bodies() ? 2 : 1) : Value(nullptr)},
        {"winding_time_constant_known", h.motor.knows_winding()}, {"temperature_unit", "K"},
        {"winding_mean", kelvin(s.mean.winding)}, {"housing_mean", kelvin(s.mean.housing)},
        {"winding", both(s.lowest, s.highest)}, {"housing", both(s.housing_lowest, s.housing_highest)},
        {"winding_after_first_cycle", kelvin(s.after_first)}, {"time_to_limit", finite(s.time_to_limit)},
        {"winding_limit", kelvin(h.motor.limit)},
        {"thermal_resistance", finite(h.in_watts ? h.motor.resistance : std::nan(""))},
        {"resistance_by_rating", h.by_rating}, {"copper_loss", watts(s.copper)}, {"speed_loss", watts(h.other)},
        {"permitted_loss", watts((h.motor.limit - h.motor.ambient) / h.motor.resistance)}};
}

Value kinds_json(const KindChoice& c) {
    Value kinds = Value::array(), questions = Value::array();
    for (const KindAdvice& k : c.kinds) {
        Value reasons = Value::array();
        for (const KindReason& r : k.reasons) reasons.push_back({{"weight", r.weight}, {"words", r.words}});
        kinds.push_back({{"key", k.key}, {"label", k.label}, {"score", k.score}, {"excluded", k.excluded},
            {"reasons", std::move(reasons)}});
    }
    for (const KindQuestion& q : c.questions)
        questions.push_back({{"key", q.key}, {"words", q.words}, {"answer", q.answer}, {"field", q.field}});
    return {{"missing", c.missing}, {"kinds", std::move(kinds)}, {"questions", std::move(questions)},
        {"would_change", c.would_change}};
}

// What each stage is asked for, with its share of what the sheet allows.
Value stages_json(const Axis& axis, const Assessment& a) {
    Value out = Value::array();
    if (!a.stages) return out;
    for (const StageUse& u : *a.stages) {
        const Stage& s = axis.stages[u.stage];
        const auto shared = [](double value, const QuantityBase& allowed) {
            return Value{{"value", finite(value)}, {"allowed", finite(allowed.si)},
                {"share", finite(allowed.given() ? value / allowed.si : std::nan(""))}};
        };
        Value equivalent = shared(u.equivalent, s.rated_torque);
        equivalent["exponent"] = u.exponent;
        Value one{{"stage", u.stage}, {"name", s.name}, {"ratio_of_stage", s.ratio.si},
            {"equivalent_torque", std::move(equivalent)}, {"rms_torque", finite(u.rms)},
            {"peak_torque", shared(u.peak, s.peak_torque)}, {"mean_input_speed", shared(u.mean_speed, s.nominal_speed)},
            {"moving_input_speed", finite(u.moving_speed)}, {"peak_input_speed", shared(u.peak_speed, s.top_speed)},
            {"motor_peak_torque",
                finite(
                    a.demand ? motor_peak_at(axis, a.demand->load, a.can ? &*a.can : nullptr, u.stage) : std::nan(""))},
            {"life", finite(stage_life(s, u))}};
        one["emergency_torque"] = shared(u.stops ? u.emergency : std::nan(""), s.emergency_torque);
        out.push_back(std::move(one));
    }
    return out;
}

Value axis_json(const Machine& machine, const Axis& axis, const std::string& path, const Assessment& a,
    const Problems& problems, UnitSystem units) {
    const Units own(axis);
    Value results = roomy_object(a.figures.size());
    for (const Figure& f : a.figures) {
        const FigureRow* row = figure_row(f.key);
        results[f.key] = {{"label", f.label}, {"value", finite(f.si)}, {"unit", std::string(info(f.kind).si_unit)},
            {"note", f.note.in(units)}, {"waits_for", missing_json(f.waits_for)}, {"working", working_json(f.working)},
            {"read_from", f.read_from},
            {"needs", needs_json(needs_on(row ? needs_of(*row, axis) : need::demand, axis))}};
    }
    Value limits = Value::array();
    for (const Limit& l : a.limits) {
        Value stand_ins = Value::array();
        for (const StandIn* s : stand_ins_of(a, l))
            stand_ins.push_back({{"path", s->path}, {"label", s->label}, {"words", s->words}});
        limits.push_back({{"key", l.key}, {"label", l.label}, {"state", state_key(l.state)}, {"used", finite(l.used)},
            {"allowed", finite(l.allowed)}, {"unit", std::string(info(l.kind).si_unit)}, {"share", finite(l.share)},
            {"utilisation", finite(l.utilisation())}, {"reason", l.reason.in(units)}, {"remedy", l.remedy.in(units)},
            {"source", l.source}, {"missing", missing_json(l.missing)}, {"waits_for", missing_json(l.waits_for)},
            {"accepted", l.accepted}, {"stand_ins", std::move(stand_ins)}, {"working", working_json(l.working)},
            {"needs", needs_json(l.needs)}});
    }
    Value out = roomy_object(17);
    out["name"] = axis.name;
    out["policy"] = axis.policy;
    out["results"] = std::move(results);
    out["limits"] = std::move(limits);
    out["inertia"] = a.inertia ? inertia_json(*a.inertia, own) : Value(nullptr);
    out["peaks"] = a.demand ? peaks_json(*a.demand, own) : Value(nullptr);
    out["segments"] = a.demand ? segments_json(axis, *a.demand, own, path) : Value(nullptr);
    out["heat"] = a.heat ? heat_json(*a.heat) : Value(nullptr);
    out["stages"] = stages_json(axis, a);
    out["coupling"] = coupling_json(axis, a);
    out["brake"] = brake_json(axis, a);
    out["drive"] = drive_json(machine, axis, a);
    out["screw"] = screw_json(axis, a);
    out["stiffness"] = stiffness_json(a);
    out["precision"] = precision_json(axis, a);
    out["problems"] = problems_json(problems);
    return out;
}

} // namespace

Problems all_problems(
    const std::vector<Assessment>& axes, const Problems& reading, const std::function<int(const std::string&)>& line) {
    Problems out = reading;
    for (const Assessment& a : axes)
        for (const Problem& p : a.problems)
            if (std::none_of(out.begin(), out.end(), [&](const Problem& o) {
                    return o.path == p.path && o.message == p.message && o.severity == p.severity;
                }))
                out.push_back(p);
    if (line)
        for (Problem& p : out)
            if (p.line == 0) p.line = line(p.path);
    return out;
}

std::string assessment_json(const Machine& machine, const std::vector<Assessment>& axes, const Problems& reading,
    const std::function<int(const std::string&)>& line) {
    const Problems all = all_problems(axes, reading, line);
    const auto of = [&](const std::string& head, bool inside) {
        Problems out;
        for (const Problem& p : all)
            if ((p.path == head || p.path.starts_with(head + "/")) == inside) out.push_back(p);
        return out;
    };
    Value out{{"format", "fulmox-assessment"}, {"version", 3}, {"machine", machine.name}, {"axes", Value::array()},
        {"problems", problems_json(of("/axes", false))}};
    for (std::size_t i = 0; i < axes.size(); ++i) {
        const std::string path = "/axes/" + std::to_string(i);
        Value axis = axis_json(machine, machine.axes[i], path, axes[i], of(path, true), machine.unit_system);
        axis["kind_advice"] = kinds_json(which_kind(machine, machine.axes[i], axes[i], path));
        out["axes"].push_back(std::move(axis));
    }
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string working_text(const WorkingLine& l) {
    std::string out =
        l.symbol + " = " + l.formula + " = " + l.substituted() + " = " + format_quantity(l.result, si_unit(l.kind), 5);
    if (!l.source.empty()) out += "   [" + l.source + "]";
    return out;
}

namespace {

void working_rows(std::string& out, const Working& working) {
    for (const WorkingLine& l : working) out += "        " + working_text(l) + "\n";
}

// fmt pads by code points, so columns stay straight with "·" and "²"
void table_of_limits(std::string& out, const Assessment& a, UnitSystem units) {
    for (const std::size_t i : by_tightness(a.limits)) {
        const Limit& l = a.limits[i];
        const std::string use = use_text(l);
        const std::string values = l.state == LimitState::cannot_say ? ""
                                                                     : format_quantity(l.used, l.kind, units) + " of " +
                                                                           format_quantity(l.allowed, l.kind, units);
        out += fmt::format("  {:<11}{:<25}{:>8}  {:<28} {}\n", state_words(l.state), l.label, use, values,
            l.reason.in(units) + (l.accepted ? " (accepted)" : ""));
    }
}

} // namespace

std::string assessment_text(const Machine& machine, const std::vector<Assessment>& axes, bool workings) {
    std::string out = machine.name + "\n";
    for (std::size_t i = 0; i < axes.size(); ++i) {
        const Assessment& a = axes[i];
        const LimitCount n = count(a.limits);
        out += fmt::format("\n{} — policy {}: {} fit, {} tight, {} over, {} cannot say{}\n", machine.axes[i].name,
            machine.axes[i].policy, n.fits, n.tight, n.over, n.cannot_say,
            n.accepted > 0 ? ", " + std::to_string(n.accepted) + " of them accepted" : "");
        table_of_limits(out, a, machine.unit_system);
        if (workings)
            for (const std::size_t k : by_tightness(a.limits)) {
                if (a.limits[k].working.empty()) continue;
                out += "  " + a.limits[k].label + "\n";
                working_rows(out, a.limits[k].working);
            }
        for (const Figure& f : a.figures) {
            out += fmt::format(
                "    {:<30}{:>16}  {}\n", f.label, figure_text(f, machine.unit_system), f.note.in(machine.unit_system));
            if (!workings) continue;
            working_rows(out, f.working);
            if (!f.read_from.empty()) out += "        read from " + f.read_from + "\n";
        }
        for (const Problem& p : a.problems) {
            if (p.severity == Severity::error) continue;
            out += std::string(p.severity == Severity::caution ? "  caution: " : "  check: ") + to_text(p) + "\n";
        }
    }
    return out;
}

} // namespace fulmox

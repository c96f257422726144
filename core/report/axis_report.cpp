#include "core/report/axis_report.h"

#include "core/report/motor_report.h"

#include "core/demand/segments.h"
#include "core/match/words.h"
#include "core/model/policy.h"
#include "core/model/walk.h"
#include "core/quantity/format.h"
#include "core/report/json_report.h"

#include <algorithm>
#include <cmath>
#include <variant>

namespace fulmox {

namespace {

std::string say(double si, Kind kind, UnitSystem units) {
    return std::isfinite(si) ? format_quantity(si, kind, units) : "–";
}

std::string percent(double share) { return std::isfinite(share) ? format_number(100 * share, 3) + " %" : "–"; }

std::string standing_of(const FieldRef& f, const ReportFacts& facts) {
    const QuantityBase& q = *f.quantity;
    std::string from = q.standing == InputSource::assumed && facts.standing ? facts.standing(f.path, q.text) : "";
    if (from.empty()) from = standings[static_cast<std::size_t>(q.standing)].label;
    return q.note.empty() ? from : from + ": " + q.note;
}

void input_rows(Table& t, const FieldRefs& fields, const std::string& strip, const ReportFacts& facts) {
    for (const FieldRef& f : fields) {
        const std::string value = f.words();
        if (!f.active || value.empty()) continue;
        const std::string from = f.type == FieldRef::Type::quantity ? standing_of(f, facts) : "";
        t.rows.push_back({field_and_place(f.label(), f.path.substr(strip.size())), value, from});
    }
}

ReportSection inputs(Machine& machine, Axis& axis, const std::string& path, const ReportFacts& facts) {
    ReportSection s{"inputs", "Inputs", {}, "", {"", {"field", "value", "standing"}, {}, {}}};
    input_rows(s.table, walk(machine.site, "/site"), "", facts);
    input_rows(s.table, walk(axis, path), path, facts);
    return s;
}

ReportSection assumptions(Axis& axis, const std::string& path, const ReportFacts& facts) {
    ReportSection s{"assumptions", "Assumptions", {}, "", {"", {"field", "value", "standing"}, {}, {}}};
    for (const FieldRef& f : walk(axis, path)) {
        if (f.type != FieldRef::Type::quantity || !f.active) continue;
        const std::string name = field_and_place(f.label(), f.path.substr(path.size()));
        if (f.quantity->given() && standing_of(f, facts).starts_with("assumed"))
            s.table.rows.push_back({name, f.quantity->text, "assumed"});
        else if (f.quantity->text.empty() && !f.quantity_spec.required && *f.quantity_spec.if_empty.words &&
                 f.serves != need::record && f.path.find("/segments/") == std::string::npos)
            s.table.rows.push_back({name, "–", std::string("left empty: ") + f.quantity_spec.if_empty.words});
    }
    if (!s.table.empty())
        s.words.push_back("Nobody has said where these come from; check those that matter before parts are bought.");
    return s;
}

ReportSection of_severity(
    const Problems& problems, Severity severity, const char* key, const char* title, const std::string& path) {
    ReportSection s{key, title, {}, "", {"", {"field", "what was found"}, {}, {}}};
    for (const Problem& p : problems)
        if (p.severity == severity)
            s.table.rows.push_back(
                {field_and_place(p.field, p.path.starts_with(path) ? p.path.substr(path.size()) : p.path), p.message});
    return s;
}

} // namespace

Table limits_table(const Assessment& a, UnitSystem units) {
    Table t{"Limits", {"limit", "state", "use", "used", "allowed", "why"}, {}, {false, false, true, true, true}};
    for (const std::size_t i : by_tightness(a.limits)) {
        const Limit& l = a.limits[i];
        const bool known = l.state != LimitState::cannot_say;
        t.rows.push_back({l.label, std::string(state_words(l.state)) + (l.accepted ? ", accepted" : ""), use_text(l),
            known ? say(l.used, l.kind, units) : "–", known ? say(l.allowed, l.kind, units) : "–", l.reason.in(units)});
    }
    return t;
}

Table figures_table(const Assessment& a, UnitSystem units, const std::vector<std::string>& keys) {
    Table t{"Figures", {"figure", "value", "note"}, {}, {false, true}};
    for (const Figure& f : a.figures)
        if (keys.empty() || std::find(keys.begin(), keys.end(), f.key) != keys.end())
            t.rows.push_back({f.label, figure_text(f, units), f.note.in(units)});
    return t;
}

Table inertia_table(const InertiaStatement& s, bool direct, UnitSystem units) {
    const Kind kind = direct ? Kind::mass : Kind::inertia;
    Table t{direct ? "Moving mass" : "Inertia at the motor shaft", {"contributor", "size", "at the motor", "share"}, {},
        {false, false, true, true}};
    const double all = s.load_known ? s.load + s.rotor : 0;
    for (const InertiaShare& c : s.shares)
        t.rows.push_back({c.label, c.detail, say(c.at_shaft, kind, units), all > 0 ? percent(c.at_shaft / all) : "–"});
    if (!s.load_known) {
        t.rows.push_back({"Load", "not given: the demand holds it", "–", "–"});
        return t;
    }
    t.rows.push_back(
        {"Load, largest over the cycle", "", say(s.load, kind, units), all > 0 ? percent(s.load / all) : "–"});
    if (s.load_least < s.load) t.rows.push_back({"Load, least over the cycle", "", say(s.load_least, kind, units), ""});
    if (s.rotor > 0) t.rows.push_back({"Inertia ratio", "", format_number(s.ratio(), 3) + " : 1", ""});
    return t;
}

Table causes_table(const Demand& d, UnitSystem units) {
    const Kind kind = d.load.motion.direct ? Kind::force : Kind::torque;
    Table t{"Causes", {"cause", "at the peak", "share of the heat"}, {}, {false, true, true}};
    for (std::size_t c = 0; c < d.rms_share.size(); ++c)
        t.rows.push_back(
            {cause_label(static_cast<Cause>(c)), say(d.peak.state.part[c], kind, units), percent(d.rms_share[c])});
    t.rows.push_back({"Together", say(d.peak.torque, kind, units), d.rms_torque > 0 ? "100 %" : "–"});
    return t;
}

Table precision_table(const PrecisionBudget& p, bool rotary, UnitSystem units) {
    Table t{"Precision at the load", {"error at the load", "±", "of the sum"}, {}, {false, true, true}};
    for (const ErrorTerm& e : p.terms)
        t.rows.push_back({e.label + (e.grows ? ", whole stroke" : ""),
            say(e.error, rotary ? Kind::angle : Kind::length, units), p.worst > 0 ? percent(e.error / p.worst) : "–"});
    return t;
}

Table stiffness_table(const StiffnessStatement& s, UnitSystem units) {
    Table t{"Stiffness at the motor", {"what gives way", "at the motor", "of the give"}, {}, {false, true, true}};
    for (const Spring& k : s.springs)
        t.rows.push_back({k.label, say(k.at_motor, Kind::torsional_stiffness, units), percent(s.total / k.at_motor)});
    return t;
}

Table segments_table(const Machine& machine, std::size_t axis, const Assessment& a) {
    const Axis& its = machine.axes.at(axis);
    const UnitSystem units = machine.unit_system;
    const Words words(motion_of(its.mechanism));
    const char* what = words.word("torque", "force");
    Table t{"Demand by segment",
        {"segment", "kind", "duration", std::string("peak ") + what, "at speed", std::string("RMS ") + what, "heat",
            "holds"},
        {}, {false, false, true, true, true, true, true, true}};
    if (!a.demand) return t;
    const auto all = by_segment(*a.demand, its.cycle.segments.size());
    for (std::size_t i = 0; i < all.size(); ++i) {
        const SegmentDemand& s = all[i];
        const std::string kind =
            std::visit([](const auto& k) { return std::string(k.kind_label); }, its.cycle.segments[i].what);
        std::string hold = "–";
        if (s.hold) hold = say(s.hold->torque, words.torque_kind(), units) + (s.hold->by_brake ? ", brake" : "");
        t.rows.push_back({std::to_string(i + 1), kind, say(s.duration, Kind::time, units),
            s.peak ? say(s.peak->torque, words.torque_kind(), units) : "–",
            s.peak ? say(s.peak->speed, words.speed_kind(), units) : "–",
            s.peak ? say(s.rms_torque, words.torque_kind(), units) : "–", percent(s.heat_share), hold});
    }
    return t;
}

Table workings_table(const Assessment& a, UnitSystem units) {
    Table t{"Workings", {"result", "working, numbers in SI units", "value", "source"}, {}, {false, false, true}};
    const auto add = [&](const std::string& label, const std::string& value, const Working& working,
                         const std::string& read_from) {
        if (working.empty() && read_from.empty()) return;
        t.rows.push_back({label, read_from.empty() ? "" : "read from " + read_from, value, ""});
        for (const WorkingLine& w : working)
            t.rows.push_back({"", w.symbol + " = " + w.formula + " = " + w.substituted(),
                format_quantity(w.result, si_unit(w.kind), 5), w.source});
    };
    for (const std::size_t i : by_tightness(a.limits)) {
        const Limit& l = a.limits[i];
        add(l.label, l.state == LimitState::cannot_say ? state_words(l.state) : use_text(l), l.working, "");
    }
    for (const Figure& f : a.figures) add(f.label, figure_text(f, units), f.working, f.read_from);
    return t;
}

std::vector<ReportSection> axis_report(
    const Machine& machine, std::size_t axis, const Assessment& a, const ReportFacts& facts) {
    Machine copy = machine;
    Axis its = std::as_const(machine.axes).at(axis);
    const std::string path = "/axes/" + std::to_string(axis);
    const UnitSystem units = machine.unit_system;
    const bool direct = motion_of(its.mechanism).direct;
    const LimitCount n = count(a.limits);
    std::vector<ReportSection> out;
    ReportSection head{"head", its.name.empty() ? "Axis " + std::to_string(axis + 1) : its.name, {}, "schematic", {}};
    head.words.push_back(facts.summary);
    head.table.rows = {{"Project", machine.name.empty() ? "–" : machine.name},
        {"File",
            (facts.file.empty() ? "not saved" : facts.file) + ", format version " + std::to_string(facts.file_version)},
        {"Date", facts.date}, {"Program", "Fulmox " + facts.version}, {"Policy", its.policy},
        {"Limits", std::to_string(n.fits) + " fit, " + std::to_string(n.tight) + " tight, " + std::to_string(n.over) +
                       " over, " + std::to_string(n.cannot_say) + " cannot be said"}};
    out.push_back(std::move(head));
    out.push_back({"limits", "Limits", {}, "", limits_table(a, units)});
    out.push_back(of_severity(a.problems, Severity::error, "errors", "To be given or put right", path));
    out.push_back(of_severity(a.problems, Severity::suspicious, "suspicious", "Worth a second look", path));
    ReportSection cautions = of_severity(a.problems, Severity::caution, "cautions", "Cautions", path);
    cautions.words.push_back("An engineering aid: the maker's data, local code and a qualified person decide.");
    out.push_back(std::move(cautions));
    out.push_back({"motion", "Motion", {}, "cycle", {}});
    out.push_back({"demand", direct ? "Force over the cycle" : "Torque over the cycle", {}, "torque",
        segments_table(machine, axis, a)});
    if (a.demand) out.push_back({"causes", "Causes", {}, "", causes_table(*a.demand, units)});
    if (its.driven()) out.push_back({"motor", direct ? "Speed and force" : "Speed and torque", {}, "speed_torque", {}});
    if (!its.motor.empty()) {
        out.push_back({"constants", "Constants of the motor at 20 °C", {}, "", constants_table(its.motor)});
        ReportSection sheet{"sheet", "Datasheet consistency", {}, "", pairs_table(check_sheet(its.motor), units)};
        if (!sheet.table.empty()) out.push_back(std::move(sheet));
    }
    out.push_back({"figures", "Figures", {}, "", figures_table(a, units)});
    if (a.inertia)
        out.push_back({"inertia", direct ? "Moving mass" : "Inertia statement", {}, "",
            inertia_table(*a.inertia, direct, units)});
    if (a.precision)
        out.push_back({"precision", "Precision at the load", {}, "",
            precision_table(*a.precision, motion_of(its.mechanism).rotary, units)});
    if (a.stiffness)
        out.push_back({"stiffness", "Stiffness at the motor", {}, "", stiffness_table(*a.stiffness, units)});
    out.push_back(inputs(copy, its, path, facts));
    out.push_back(assumptions(its, path, facts));
    out.push_back({"workings", "Workings", {}, "", workings_table(a, units)});
    std::erase_if(out, [](const ReportSection& s) { return s.words.empty() && s.picture.empty() && s.table.empty(); });
    return out;
}

} // namespace fulmox

#include "core/report/json_report.h"

#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace fulmox {

namespace {

using Json = nlohmann::ordered_json;

Json number(double v) { return std::isfinite(v) ? Json(v) : Json(nullptr); }

Json working_json(const Working& w) {
    Json out = Json::array();
    for (const WorkingLine& l : w)
        out.push_back({{"symbol", l.symbol}, {"formula", l.formula}, {"substituted", l.substituted},
            {"result", number(l.result)}, {"unit", std::string(info(l.kind).si_unit)}, {"source", l.source}});
    return out;
}

const char* severity_key(Severity s) {
    return s == Severity::error ? "error" : s == Severity::suspicious ? "suspicious" : "caution";
}

Json problems_json(const Problems& problems) {
    Json out = Json::array();
    for (const Problem& p : problems)
        out.push_back({{"severity", severity_key(p.severity)}, {"path", p.path},
            {"line", p.line > 0 ? Json(p.line) : Json(nullptr)}, {"field", p.field}, {"message", p.message}});
    return out;
}

Json axis_json(const Axis& axis, const Assessment& a, const Problems& problems, UnitSystem units) {
    Json results = Json::object();
    for (const Figure& f : a.figures)
        results[f.key] = {{"label", f.label}, {"value", number(f.si)}, {"unit", std::string(info(f.kind).si_unit)},
            {"note", f.note.in(units)}, {"working", working_json(f.working)}, {"read_from", f.read_from}};
    Json limits = Json::array();
    for (const Limit& l : a.limits)
        limits.push_back({{"key", l.key}, {"label", l.label}, {"state", state_key(l.state)}, {"used", number(l.used)},
            {"allowed", number(l.allowed)}, {"unit", std::string(info(l.kind).si_unit)}, {"share", number(l.share)},
            {"utilisation", number(l.utilisation())}, {"reason", l.reason.in(units)}, {"remedy", l.remedy.in(units)},
            {"source", l.source}, {"working", working_json(l.working)}});
    return {{"name", axis.name}, {"policy", axis.policy}, {"results", std::move(results)},
        {"limits", std::move(limits)}, {"problems", problems_json(problems)}};
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
    Json out{{"format", "fulmox-assessment"}, {"version", 2}, {"machine", machine.name}, {"axes", Json::array()},
        {"problems", problems_json(of("/axes", false))}};
    for (std::size_t i = 0; i < axes.size(); ++i)
        out["axes"].push_back(
            axis_json(machine.axes[i], axes[i], of("/axes/" + std::to_string(i), true), machine.unit_system));
    return out.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string working_text(const WorkingLine& l) {
    std::string out =
        l.symbol + " = " + l.formula + " = " + l.substituted + " = " + format_quantity(l.result, si_unit(l.kind), 5);
    if (!l.source.empty()) out += "   [" + l.source + "]";
    return out;
}

namespace {

// fmt pads by code points, so columns stay straight with "·" and "²"
void limit_rows(std::string& out, const Assessment& a, UnitSystem units) {
    for (const std::size_t i : by_tightness(a.limits)) {
        const Limit& l = a.limits[i];
        const std::string use = l.state == LimitState::cannot_say ? "" : format_number(100 * l.utilisation(), 3) + " %";
        const std::string values = l.state == LimitState::cannot_say ? ""
                                                                     : format_quantity(l.used, l.kind, units) + " of " +
                                                                           format_quantity(l.allowed, l.kind, units);
        out += fmt::format(
            "  {:<11}{:<25}{:>8}  {:<28} {}\n", state_words(l.state), l.label, use, values, l.reason.in(units));
    }
}

} // namespace

std::string assessment_text(const Machine& machine, const std::vector<Assessment>& axes) {
    std::string out = machine.name + "\n";
    for (std::size_t i = 0; i < axes.size(); ++i) {
        const Assessment& a = axes[i];
        const LimitCount n = count(a.limits);
        out += fmt::format("\n{} — policy {}: {} fit, {} tight, {} over, {} cannot say\n", machine.axes[i].name,
            machine.axes[i].policy, n.fits, n.tight, n.over, n.cannot_say);
        limit_rows(out, a, machine.unit_system);
        for (const Figure& f : a.figures)
            out += fmt::format(
                "    {:<30}{:>16}  {}\n", f.label, figure_text(f, machine.unit_system), f.note.in(machine.unit_system));
        for (const Problem& p : a.problems) {
            if (p.severity == Severity::error) continue;
            out += std::string(p.severity == Severity::caution ? "  caution: " : "  check: ") + to_text(p) + "\n";
        }
    }
    return out;
}

} // namespace fulmox

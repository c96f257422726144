#include "core/files/shelf_report.h"

#include "core/model/walk.h"
#include "core/quantity/columns.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include "core/report/json_values.h"
#include "core/report/table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fulmox {

namespace {

double value(const QuantityBase& q) { return q.given() ? q.si : no_number; }

std::string separator_words(char separator) {
    return separator == '\t' ? "tab" : separator == ';' ? "semicolon" : separator == '|' ? "bar" : "comma";
}

} // namespace

std::string checked_json(const CheckedCatalogue& c) {
    Value counts = Value::object();
    for (const PartsCount& n : count_parts(c.parts))
        counts[n.kind->list] = {
            {"parts", n.parts}, {"without_price", n.without_price}, {"without_mass", n.without_mass}};
    Value out{{"format", "fulmox-catalogue-check"}, {"version", 1}, {"file", c.file}, {"name", c.name},
        {"parts", std::move(counts)}};
    if (c.table) {
        Value columns = Value::array();
        for (const PartColumn& col : c.table->columns)
            columns.push_back(
                {{"heading", col.heading}, {"field", col.field.empty() ? Value(nullptr) : Value(col.field)},
                    {"unit", col.unit}, {"sure", col.sure}, {"wrong", col.wrong}});
        out["table"] = {{"kind", c.table->kind}, {"encoding", c.table->encoding},
            {"separator", separator_words(c.table->separator)}, {"decimal_comma", c.table->decimal_comma},
            {"heading_line", c.table->heading_line}, {"rows", c.rows}, {"left_out", c.left_out},
            {"columns", std::move(columns)}};
    }
    out["problems"] = problems_json(c.problems);
    out["more_problems"] = c.more_problems;
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string checked_text(const CheckedCatalogue& c) {
    std::string out;
    for (const PartsCount& n : count_parts(c.parts))
        out += fmt::format("{} {}, {} without a price, {} without a mass\n", n.parts,
            n.parts == 1 ? lower(n.kind->label) : lower(n.kind->lists), n.without_price, n.without_mass);
    if (out.empty()) out = "no parts\n";
    if (!c.table) return out;
    out += fmt::format("{}, columns separated by {}, decimal {}, headings in line {}\n", c.table->encoding,
        separator_words(c.table->separator), c.table->decimal_comma ? "comma" : "point", c.table->heading_line);
    for (const PartColumn& col : c.table->columns)
        out += fmt::format("  {:<32} {}{}\n", col.heading,
            col.field.empty() ? "ignored: " + col.wrong
                              : col.label + (col.unit.empty() || col.unit == "1" ? "" : " in " + col.unit),
            col.sure ? "" : " (guessed)");
    out += fmt::format("{} rows, {} left out\n", c.rows, c.left_out);
    return out;
}

std::string shown_value(const FieldRef& f, UnitSystem units) {
    if (!f.active) return {};
    if (f.type == FieldRef::Type::flag) return *f.flag ? "yes" : "";
    if (f.type != FieldRef::Type::quantity || f.kind == Kind::number) return f.words();
    return f.quantity->given() ? format_quantity(f.quantity->si, f.kind, units, 3) : std::string();
}

Table parts_beside(
    const PartKind& kind, const PartLists& parts, const std::vector<BesidePart>& which, UnitSystem units) {
    const ListRef list = kind.own(const_cast<PartLists&>(parts)); // only looked at
    Table t{std::string(kind.lists) + " side by side", {""}, {}, {false}};
    std::vector<FieldRefs> fields;
    std::vector<std::string> paths, labels;
    for (const BesidePart& p : which) {
        fields.push_back(walk(list.shared_entry(p.i)));
        t.head.push_back(kind.name(const_cast<PartLists&>(parts), p.i));
        t.right.push_back(false);
        for (const FieldRef& f : fields.back())
            if (f.path != "/name" && !is_placed(kind, f.path.substr(f.path.rfind('/') + 1)) &&
                std::find(paths.begin(), paths.end(), f.path) == paths.end()) {
                paths.push_back(f.path);
                labels.push_back(f.label());
            }
    }
    const auto row = [&](const std::string& label, auto&& text) {
        std::vector<std::string> cells{label};
        bool any = false;
        for (std::size_t k = 0; k < which.size(); ++k) {
            cells.push_back(text(k));
            any = any || !cells.back().empty();
            if (cells.back().empty()) cells.back() = "–";
        }
        if (any) t.rows.push_back(std::move(cells));
    };
    const auto judged = [&](const char* label, auto&& text) {
        row(label, [&](std::size_t k) { return which[k].is ? text(*which[k].is) : std::string(); });
    };
    judged("Tightest", [](const Candidate& c) {
        return std::string(state_words(c.state)) + "  " + use_text(c.tightest) + "  " + c.limit;
    });
    judged("Inertia ratio",
        [](const Candidate& c) { return std::isfinite(c.ratio) ? format_number(c.ratio, 3) + " : 1" : std::string(); });
    judged("Peak torque of the motor",
        [](const Candidate& c) { return std::isnan(c.peak) ? std::string() : use_text(c.peak); });
    for (std::size_t p = 0; p < paths.size(); ++p)
        row(labels[p], [&](std::size_t k) {
            const auto f =
                std::find_if(fields[k].begin(), fields[k].end(), [&](const FieldRef& x) { return x.path == paths[p]; });
            return f == fields[k].end() ? std::string() : shown_value(*f, units);
        });
    return t;
}

std::string judged_parts_json(const JudgedParts& c) {
    PartLists& parts = const_cast<PartLists&>(c.parts); // only looked at
    Value rows = Value::array();
    for (const std::size_t i : c.order) {
        const Candidate& j = c.judged[i];
        rows.push_back({{"name", c.kind.name(parts, i)}, {"price", finite(value(c.kind.price(parts, i)))},
            {"mass", finite(value(c.kind.mass(parts, i)))}, {"state", state_key(j.state)},
            {"tightest", {{"key", j.key}, {"label", j.limit}, {"utilisation", finite(j.tightest)},
                             {"reason", j.reason.in(UnitSystem::si)}}},
            {"missing", missing_json(j.missing)}, {"inertia_ratio", finite(j.ratio)}, {"speed", finite(j.speed)},
            {"peak", finite(j.peak)}, {"heat", finite(j.heat)}});
    }
    const Axis& axis = c.machine.axes[c.axis];
    const Value out{{"format", "fulmox-judged-parts"}, {"version", 2}, {"axis", axis.name}, {"policy", axis.policy},
        {"counts", counts_json(c.judged)}, {"kind", c.kind.key}, {"currency", c.machine.currency},
        {"parts", std::move(rows)}};
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string judged_parts_csv(const JudgedParts& c) {
    PartLists& parts = const_cast<PartLists&>(c.parts); // only looked at
    std::string out = "name,price,mass [kg],state,tightest limit,of allowed,reason\r\n";
    const auto cell = [](double v) { return std::isfinite(v) ? format_number(v, 6) : std::string(); };
    for (const std::size_t i : c.order) {
        const Candidate& j = c.judged[i];
        out += csv_cell(c.kind.name(parts, i)) + "," + cell(value(c.kind.price(parts, i))) + "," +
               cell(value(c.kind.mass(parts, i))) + "," + state_key(j.state) + "," + csv_cell(j.limit) + "," +
               cell(j.tightest) + "," + csv_cell(j.reason.in(UnitSystem::si)) + "\r\n";
    }
    return out;
}

std::string judged_parts_text(const JudgedParts& c) {
    PartLists& parts = const_cast<PartLists&>(c.parts); // only looked at
    const Axis& axis = c.machine.axes[c.axis];
    std::string out = fmt::format("{} — policy {}: {} {}: {}\n", axis.name.empty() ? "axis without a name" : axis.name,
        axis.policy, c.judged.size(), lower(c.kind.lists), count_words(count(c.judged)));
    std::size_t wide = 5;
    for (std::size_t i = 0; i < c.judged.size(); ++i) wide = std::max(wide, c.kind.name(parts, i).size());
    const auto number = [](double v) { return std::isfinite(v) ? format_number(v, 6) : std::string("–"); };
    for (const std::size_t i : c.order) {
        const Candidate& j = c.judged[i];
        out += fmt::format("{:<{}} {:>8} {:>10} {:<10} {:>8}  {}\n", c.kind.name(parts, i), wide,
            number(value(c.kind.price(parts, i))),
            c.kind.mass(parts, i).given() ? number(c.kind.mass(parts, i).si) + " kg" : "–", state_words(j.state),
            use_text(j.tightest), (j.limit.empty() ? j.reason.in(UnitSystem::si) : j.limit) + missing_words(j.missing));
    }
    return out;
}

} // namespace fulmox

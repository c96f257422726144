#include "core/report/parts_list.h"

#include "core/model/part.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include "core/report/json_values.h"
#include "core/report/table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fulmox {

namespace {

double si(const QuantityBase& q) { return q.given() ? q.si : no_number; }

std::string label(const Option* options, auto value) { return options[static_cast<std::size_t>(value)].label; }

std::string money(double price, const std::string& currency) {
    return std::isnan(price) ? "no price" : format_number(price, 8) + (currency.empty() ? "" : " " + currency);
}
std::string kilograms(double mass) { return std::isnan(mass) ? "no mass" : format_number(mass, 4) + " kg"; }

std::string joined(const std::vector<std::string>& words) {
    std::string out;
    for (const std::string& w : words) out += (out.empty() ? "" : ", ") + w;
    return out;
}

} // namespace

namespace {

// Of the part of an axis in words; empty: there is none.
std::string type_of(const PartKind& kind, const Axis& a, std::size_t place) {
    const std::string_view of = kind.key;
    const Coupling& c = a.coupling;
    const Drive& d = a.drive;
    if (of == "motor") return a.driven() ? a.motor.kind_label() : "";
    if (of == "drive")
        return !d.name.empty() || d.continuous_current.given() || d.peak_current.given() || d.price.given() ? "Drive"
                                                                                                            : "";
    if (!(motion_of(a.mechanism).has & Motion::shaft)) return {};
    if (of == "gearhead") return label(Stage::kinds, a.stages[place].kind);
    if (of == "brake") return a.brake.there() ? "Brake" : "";
    if (of != "coupling" || !(c.there() || !c.name.empty())) return {};
    return c.kind == CouplingKind::unsaid ? "Coupling" : "Coupling, " + label(Coupling::kinds, c.kind);
}

} // namespace

std::vector<PartsRow> parts_list(const Machine& machine) {
    std::vector<PartsRow> rows;
    // those of one kind and name are one row
    const auto row_of = [&](const char* kind, const std::string& name, const std::string& axis) -> PartsRow* {
        const auto same = std::find_if(rows.begin(), rows.end(),
            [&](const PartsRow& r) { return r.kind == kind && !name.empty() && r.name == name; });
        if (same == rows.end()) return nullptr;
        ++same->count;
        if (same->axes.back() != axis) same->axes.push_back(axis);
        return &*same;
    };
    const auto called = [&](std::size_t i) {
        const std::string& name = machine.axes[i].name;
        return name.empty() ? "axis " + std::to_string(i + 1) : name;
    };
    for (const PartKind& kind : part_kinds()) {
        PartLists seen;
        for (std::size_t i = 0; i < machine.axes.size(); ++i) {
            const Axis& a = machine.axes[i];
            for (std::size_t place = 0; place < kind.places(a); ++place) {
                std::string type = type_of(kind, a, place);
                if (type.empty()) continue;
                kind.keep_chosen(seen, a, place);
                const std::size_t last = kind.own(seen).size() - 1;
                const std::string name = kind.name(seen, last);
                const double price = si(kind.price(seen, last)), mass = si(kind.mass(seen, last));
                if (PartsRow* same = row_of(kind.key, name, called(i))) {
                    same->differs =
                        same->differs || !part_differences(kind, a, place, seen, *find_part(kind, seen, name)).empty();
                    // of two that should be one, what is known of either
                    if (std::isnan(same->price)) same->price = price;
                    if (std::isnan(same->mass)) same->mass = mass;
                    continue;
                }
                rows.push_back({kind.key, name, std::move(type), {called(i)}, 1, price, mass, false});
            }
        }
        if (std::string_view(kind.key) != "gearhead") continue;
        for (std::size_t i = 0; i < machine.axes.size(); ++i) { // beside the gearheads stand their adapters
            const Axis& a = machine.axes[i];
            if (!(motion_of(a.mechanism).has & Motion::shaft)) continue;
            for (const Stage& s : a.stages)
                if (!s.adapter.empty() && !row_of("adapter", s.adapter, called(i)))
                    rows.push_back({"adapter", s.adapter, "Adapter", {called(i)}, 1, no_number, no_number, false});
        }
    }
    return rows;
}

PartsTotal parts_total(const std::vector<PartsRow>& rows) {
    PartsTotal t;
    for (const PartsRow& r : rows) {
        t.parts += r.count;
        ++t.different;
        if (std::isnan(r.price))
            t.without_price += r.count;
        else
            t.price += r.count * r.price;
        if (std::isnan(r.mass))
            t.without_mass += r.count;
        else
            t.mass += r.count * r.mass;
    }
    return t;
}

std::string parts_text(const Machine& machine) {
    const std::vector<PartsRow> rows = parts_list(machine);
    std::string out = machine.name + "\n\n";
    for (const PartsRow& r : rows)
        out += fmt::format("{:>4} × {:<10}{:<30}{:>16}{:>12}  {}{}\n", r.count, r.kind,
            r.name.empty() ? "without a name" : r.name, money(r.price, machine.currency), kilograms(r.mass),
            joined(r.axes), r.differs ? "; parts of this name are not all alike" : "");
    const PartsTotal t = parts_total(rows);
    out += fmt::format("\n{} parts, {} different: {}", t.parts, t.different, money(t.price, machine.currency));
    if (t.without_price > 0) out += fmt::format(" and {} without a price", t.without_price);
    out += ", " + kilograms(t.mass);
    if (t.without_mass > 0) out += fmt::format(" and {} without a mass", t.without_mass);
    return out + "\n";
}

std::string parts_json(const Machine& machine) {
    const std::vector<PartsRow> rows = parts_list(machine);
    const PartsTotal t = parts_total(rows);
    Value list = Value::array();
    for (const PartsRow& r : rows)
        list.push_back({{"kind", r.kind}, {"name", r.name}, {"type", r.type}, {"count", r.count}, {"axes", r.axes},
            {"price", finite(r.price)}, {"mass", finite(r.mass)}, {"differs", r.differs}});
    const Value out{{"format", "fulmox-parts"}, {"version", 1}, {"machine", machine.name},
        {"currency", machine.currency}, {"parts", std::move(list)},
        {"total", {{"parts", t.parts}, {"different", t.different}, {"price", finite(t.price)},
                      {"without_price", t.without_price}, {"mass", finite(t.mass)}, {"without_mass", t.without_mass}}}};
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string parts_csv(const Machine& machine) {
    std::string out = "kind,name,type,count,axes,price" +
                      (machine.currency.empty() ? "" : " [" + machine.currency + "]") + ",mass [kg],differs\r\n";
    const auto number = [](double v) { return std::isnan(v) ? std::string() : format_number(v, 12); };
    for (const PartsRow& r : parts_list(machine))
        out += csv_cell(r.kind) + "," + csv_cell(r.name) + "," + csv_cell(r.type) + "," + std::to_string(r.count) +
               "," + csv_cell(joined(r.axes)) + "," + number(r.price) + "," + number(r.mass) + "," +
               (r.differs ? "yes" : "no") + "\r\n";
    return out;
}

} // namespace fulmox

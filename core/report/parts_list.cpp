#include "core/report/parts_list.h"

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

// Collects parts; those of one kind and name are one row.
class Collected {
  public:
    template <class T>
    void add(std::vector<T>& seen, const char* kind, const T& part, std::string type, const std::string& axis,
        double price, double mass) {
        const auto same = std::find_if(rows.begin(), rows.end(),
            [&](const PartsRow& r) { return r.kind == kind && !part.name.empty() && r.name == part.name; });
        if (same == rows.end()) {
            rows.push_back({kind, part.name, std::move(type), {axis}, 1, price, mass, false});
            seen.push_back(part);
            return;
        }
        ++same->count;
        if (same->axes.back() != axis) same->axes.push_back(axis);
        const auto first =
            std::find_if(seen.begin(), seen.end(), [&](const T& each) { return each.name == part.name; });
        same->differs = same->differs || (first != seen.end() && !alike(*first, part));
        // of two that should be one, what is known of either
        if (std::isnan(same->price)) same->price = price;
        if (std::isnan(same->mass)) same->mass = mass;
    }
    std::vector<PartsRow> rows;

  private:
    // what an axis sets and a maker does not
    static bool alike(Coupling a, const Coupling& b) {
        a.place = b.place;
        a.service_factor = b.service_factor;
        a.driven_shaft = b.driven_shaft;
        a.angular = b.angular;
        a.parallel = b.parallel;
        a.axial = b.axial;
        a.radial_load = b.radial_load;
        return a == b;
    }
    static bool alike(Stage a, const Stage& b) {
        a.radial_load = b.radial_load;
        a.axial_load = b.axial_load;
        a.tilting_moment = b.tilting_moment;
        a.adapter = b.adapter;
        return a == b;
    }
    static bool alike(Brake a, const Brake& b) {
        a.place = b.place;
        return a == b;
    }
    static bool alike(const Motor& a, const Motor& b) { return a == b; }
    static bool alike(const Drive& a, const Drive& b) {
        return a.continuous_current == b.continuous_current && a.peak_current == b.peak_current &&
               a.amperes == b.amperes && a.peak_time == b.peak_time && a.price == b.price && a.mass == b.mass;
    }
};

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

std::vector<PartsRow> parts_list(const Machine& machine) {
    Collected parts;
    std::vector<Motor> motors;
    std::vector<Stage> stages;
    std::vector<Coupling> couplings;
    std::vector<Brake> brakes;
    std::vector<Drive> drives;
    const auto each = [&](auto&& take) {
        for (std::size_t i = 0; i < machine.axes.size(); ++i) {
            const Axis& a = machine.axes[i];
            const std::string name = a.name.empty() ? "axis " + std::to_string(i + 1) : a.name;
            take(a, name, (motion_of(a.mechanism).has & Motion::shaft) != 0);
        }
    };
    each([&](const Axis& a, const std::string& axis, bool) {
        if (a.driven())
            parts.add(motors, "motor", a.motor, a.motor.kind_label(), axis, si(a.motor.price), si(a.motor.mass));
    });
    each([&](const Axis& a, const std::string& axis, bool shaft) {
        if (shaft)
            for (const Stage& s : a.stages)
                parts.add(stages, "gearhead", s, label(Stage::kinds, s.kind), axis, si(s.price), si(s.mass));
    });
    each([&](const Axis& a, const std::string& axis, bool shaft) {
        if (!shaft) return;
        for (const Stage& s : a.stages)
            if (!s.adapter.empty()) {
                const auto same = std::find_if(parts.rows.begin(), parts.rows.end(),
                    [&](const PartsRow& r) { return r.kind == "adapter" && r.name == s.adapter; });
                if (same != parts.rows.end()) {
                    ++same->count;
                    same->axes.push_back(axis);
                } else {
                    parts.rows.push_back({"adapter", s.adapter, "Adapter", {axis}, 1, no_number, no_number, false});
                }
            }
    });
    each([&](const Axis& a, const std::string& axis, bool shaft) {
        const Coupling& c = a.coupling;
        if (shaft && (c.there() || !c.name.empty()))
            parts.add(couplings, "coupling", c,
                c.kind == CouplingKind::unsaid ? "Coupling" : "Coupling, " + label(Coupling::kinds, c.kind), axis,
                si(c.price), si(c.mass));
    });
    each([&](const Axis& a, const std::string& axis, bool shaft) {
        if (shaft && a.brake.there())
            parts.add(brakes, "brake", a.brake, "Brake", axis, si(a.brake.price), si(a.brake.mass));
    });
    each([&](const Axis& a, const std::string& axis, bool) {
        const Drive& d = a.drive;
        if (!d.name.empty() || d.continuous_current.given() || d.peak_current.given() || d.price.given())
            parts.add(drives, "drive", d, "Drive", axis, si(d.price), si(d.mass));
    });
    return std::move(parts.rows);
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

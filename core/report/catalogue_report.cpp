#include "core/report/catalogue_report.h"

#include "core/quantity/format.h"
#include "core/report/json_values.h"
#include "core/report/table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace fulmox {

namespace {

std::string given(const QuantityBase& q, const char* unit) {
    return q.given() ? format_number(q.si, 6) + unit : std::string("–");
}

// A cell of a CSV file: quoted where it must be.
} // namespace

std::string judged_json(const JudgedCatalogue& c) {
    Value rows = Value::array();
    const auto value = [](const QuantityBase& q) { return q.given() ? finite(q.si) : Value(nullptr); };
    for (const std::size_t i : c.order) {
        const Motor& m = *c.motors[i];
        const Candidate& j = c.judged[i];
        rows.push_back({{"name", m.name}, {"kind", m.kind_key()}, {"series", m.series}, {"from", m.origin},
            {"price", value(m.price)}, {"mass", value(m.mass)}, {"frame", value(m.frame)},
            {"brake_torque", value(m.brake_torque)}, {"state", state_key(j.state)},
            {"tightest", {{"key", j.key}, {"label", j.limit}, {"utilisation", finite(j.tightest)},
                             {"reason", j.reason.in(UnitSystem::si)}}},
            {"missing", missing_json(j.missing)}, {"inertia_ratio", finite(j.ratio)}, {"speed", finite(j.speed)},
            {"peak", finite(j.peak)}, {"heat", finite(j.heat)}, {"acceleration", finite(j.acceleration)}});
    }
    const Axis& axis = c.machine.axes[c.axis];
    const Value out{{"format", "fulmox-judged"}, {"version", 2}, {"axis", axis.name}, {"policy", axis.policy},
        {"counts", counts_json(c.judged)}, {"currency", c.machine.currency}, {"catalogue", c.catalogue},
        {"motors", std::move(rows)}};
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string judged_csv(const JudgedCatalogue& c) {
    std::string s = "motor,kind,series,price,mass [kg],frame [mm],brake [N·m],state,tightest limit,of allowed,inertia "
                    "ratio,speed,peak,heat,acceleration\n";
    const auto cell = [](double v) { return std::isfinite(v) ? format_number(v, 6) : std::string(); };
    const auto value = [&](const QuantityBase& q, double scale) { return q.given() ? cell(q.si * scale) : ""; };
    for (const std::size_t i : c.order) {
        const Motor& m = *c.motors[i];
        const Candidate& j = c.judged[i];
        s += fmt::format("{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}\n", csv_cell(m.name), m.kind_key(),
            csv_cell(m.series), value(m.price, 1), value(m.mass, 1), value(m.frame, 1000), value(m.brake_torque, 1),
            state_key(j.state), csv_cell(j.limit), cell(j.tightest), cell(j.ratio), cell(j.speed), cell(j.peak),
            cell(j.heat), cell(j.acceleration));
    }
    return s;
}

std::string judged_text(const JudgedCatalogue& c) {
    const Axis& axis = c.machine.axes[c.axis];
    std::string s =
        fmt::format("{} — policy {}: {} motors of \"{}\": {}\n", axis.name.empty() ? "axis without a name" : axis.name,
            axis.policy, c.motors.size(), c.catalogue, count_words(count(c.judged)));
    std::size_t wide = 5;
    for (const Motor* m : c.motors) wide = std::max(wide, m->name.size());
    s += fmt::format("{:<{}} {:>8} {:>9} {:>8} {:>8} {:>8} {:>8}  {:<10} {:>8}  {}\n", "motor", wide, "price", "mass",
        "J ratio", "speed", "peak", "heat", "state", "tightest", "limit");
    for (const std::size_t i : c.order) {
        const Motor& m = *c.motors[i];
        const Candidate& j = c.judged[i];
        s += fmt::format("{:<{}} {:>8} {:>9} {:>8} {:>8} {:>8} {:>8}  {:<10} {:>8}  {}\n", m.name, wide,
            given(m.price, ""), given(m.mass, " kg"), std::isfinite(j.ratio) ? format_number(j.ratio, 3) : "–",
            use_text(j.speed), use_text(j.peak), use_text(j.heat), state_words(j.state), use_text(j.tightest),
            j.limit + missing_words(j.missing));
    }
    return s;
}

namespace {

// Short, for the width of a column.
const char* motor_kind_word(const Motor& m) {
    static constexpr const char* words[] = {
        "sine-driven", "block-commutated", "brushed", "linear", "stepper, 2", "stepper, 5"};
    static_assert(std::size(words) == std::variant_size_v<MotorKind>);
    return words[m.electric.index()];
}

} // namespace

Table compared_table(const Machine& machine, const std::vector<ComparedMotor>& motors) {
    const UnitSystem units = machine.unit_system;
    Table t{"Motors side by side", {""}, {}, {false}};
    for (const ComparedMotor& c : motors) {
        t.head.push_back(c.motor->name.empty() ? "without a name" : c.motor->name);
        t.right.push_back(true);
    }
    const auto row = [&](const char* label, auto cell) {
        std::vector<std::string> cells{label};
        bool any = false;
        for (const ComparedMotor& c : motors) {
            cells.push_back(cell(c));
            any = any || (cells.back() != "–" && !cells.back().empty());
        }
        if (any) t.rows.push_back(std::move(cells));
    };
    const auto quantity = [&](const char* label, Kind kind, auto of) {
        row(label, [&](const ComparedMotor& c) {
            const double v = of(c);
            return std::isfinite(v) ? format_quantity(v, kind, units, 3) : std::string("–");
        });
    };
    const auto si = [](const QuantityBase& q) { return q.given() ? q.si : std::nan(""); };
    const auto limit = [&](const char* label, const char* key) {
        row(label, [&](const ComparedMotor& c) {
            const Limit* l = c.is ? c.is->limit(key) : nullptr;
            if (!l) return std::string("–");
            return std::string(state_words(l->state)) + "  " + use_text(*l);
        });
    };
    row("State", [&](const ComparedMotor& c) {
        if (!c.is || c.is->limits.empty()) return std::string("–");
        const Limit& l = c.is->limits[*deciding(c.is->limits)];
        return std::string(state_words(l.state)) + "  " + use_text(l);
    });
    row("Tightest limit", [&](const ComparedMotor& c) {
        return c.is && !c.is->limits.empty() ? c.is->limits[*deciding(c.is->limits)].label : std::string("–");
    });
    limit("Top speed", "speed");
    limit("Peak torque", "peak_torque");
    limit("Continuous heat", "continuous_loss");
    limit("Holding at rest", "holding");
    limit("Phase current", "phase_current");
    limit("Resonance", "resonance");
    limit("Winding temperature", "winding_temperature");
    limit("Voltage", "voltage");
    limit("Inertia ratio, of allowed", "inertia_ratio");
    limit("Holding brake", "brake");
    row("Inertia ratio", [&](const ComparedMotor& c) {
        return c.is && c.is->inertia && c.is->inertia->rotor > 0 ? format_number(c.is->inertia->ratio(), 3) + " : 1"
                                                                 : std::string("–");
    });
    const auto use = [](const ComparedMotor& c, auto of) {
        return c.is && c.is->motor ? of(*c.is->motor) : std::nan("");
    };
    quantity("Current, RMS", Kind::current,
        [&](const ComparedMotor& c) { return use(c, [](const MotorUse& u) { return u.rms_current; }); });
    quantity("Current, peak", Kind::current,
        [&](const ComparedMotor& c) { return use(c, [](const MotorUse& u) { return u.peak_current; }); });
    quantity("Copper loss", Kind::power,
        [&](const ComparedMotor& c) { return use(c, [](const MotorUse& u) { return u.copper_loss; }); });
    quantity("Acceleration at top speed", Kind::angular_acceleration,
        [](const ComparedMotor& c) { return c.is && !c.motor->linear() ? peak_acceleration(*c.is) : std::nan(""); });
    const auto figure = [&](const char* label, const char* key) {
        row(label, [&](const ComparedMotor& c) {
            const Figure* f = c.is ? c.is->figure(key) : nullptr;
            return f && std::isfinite(f->si) ? figure_text(*f, units) : std::string("–");
        });
    };
    figure("Winding, mean", "heat.winding_mean");
    figure("Mean power, mains", "energy.mean_power");
    figure("Energy a year", "energy.year");
    row("Kind", [](const ComparedMotor& c) { return std::string(motor_kind_word(*c.motor)); });
    const bool along = !motors.empty() && motors.front().motor->linear();
    const Kind torque = along ? Kind::force : Kind::torque;
    quantity("Continuous", torque, [](const ComparedMotor& c) { return quoted_ratings(*c.motor).continuous; });
    quantity("Peak", torque, [](const ComparedMotor& c) { return quoted_ratings(*c.motor).peak; });
    quantity("Maximum speed", along ? Kind::speed : Kind::angular_speed,
        [](const ComparedMotor& c) { return quoted_ratings(*c.motor).speed; });
    quantity("Rotor inertia", Kind::inertia, [&](const ComparedMotor& c) { return si(c.motor->rotor_inertia); });
    quantity("Brake", Kind::torque, [&](const ComparedMotor& c) { return si(c.motor->brake_torque); });
    quantity("Frame", Kind::length, [&](const ComparedMotor& c) { return si(c.motor->frame); });
    quantity("Length", Kind::length, [&](const ComparedMotor& c) { return si(c.motor->length); });
    quantity("Shaft", Kind::length, [&](const ComparedMotor& c) { return si(c.motor->shaft_diameter); });
    quantity("Mass", Kind::mass, [&](const ComparedMotor& c) { return si(c.motor->mass); });
    row("Price", [&](const ComparedMotor& c) {
        return c.motor->price.given() ? format_number(c.motor->price.si, 6) +
                                            (machine.currency.empty() ? std::string() : " " + machine.currency)
                                      : std::string("–");
    });
    row("From", [](const ComparedMotor& c) { return c.motor->origin; });
    return t;
}

} // namespace fulmox

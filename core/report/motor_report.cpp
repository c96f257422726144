#include "core/report/motor_report.h"

#include "core/motor/constants.h"
#include "core/motor/cycle_heat.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include "core/report/json_values.h"
#include "core/report/motor_units.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace fulmox {

namespace {

Value in(double v, const char* unit) { return {{"value", finite(v)}, {"unit", unit}}; }

constexpr double krpm = 1000 * std::numbers::pi / 30;

// Every constant under every convention.
Value constants_json(const MotorNumbers& n) {
    const MotorUnits u(n.linear);
    Value torque = Value::object(), voltage = Value::object(), speed = Value::object(), r = Value::object(),
          l = Value::object();
    for (const Convention& c : torque_conventions(n.base))
        torque[c.key] = {{"words", c.words}, {"value", finite(n.k * c.factor)}, {"unit", u.torque_constant}};
    for (const Convention& c : voltage_conventions(n.base)) {
        voltage[c.key] = {{"words", c.words}, {"value", finite(n.k * c.factor)}, {"unit", u.voltage_constant}};
        if (n.linear) continue;
        voltage[c.key]["per_krpm"] = finite(n.k * c.factor * krpm);
        speed[c.key] = {{"words", c.words}, {"value", finite(1 / (n.k * c.factor))}, {"unit", "rad/s/V"},
            {"rpm_per_volt", finite(30 / std::numbers::pi / (n.k * c.factor))}};
    }
    if (n.stepper) {
        r["phase"] = {{"words", "of a phase, as connected"}, {"value", finite(n.resistance / 2)}, {"unit", "Ω"}};
        l["phase"] = {{"words", "of a phase, as connected"}, {"value", finite(n.inductance / 2)}, {"unit", "H"}};
    } else if (n.base != EmfBase::dc)
        for (const Convention& c : winding_conventions()) {
            r[c.key] = {{"words", c.words}, {"value", finite(n.resistance * c.factor)}, {"unit", "Ω"}};
            l[c.key] = {{"words", c.words}, {"value", finite(n.inductance * c.factor)}, {"unit", "H"}};
        }
    else {
        r["line"] = {{"words", "between the terminals"}, {"value", finite(n.resistance)}, {"unit", "Ω"}};
        l["line"] = {{"words", "between the terminals"}, {"value", finite(n.inductance)}, {"unit", "H"}};
    }
    Value out{{"torque_constant", std::move(torque)}, {"voltage_constant", std::move(voltage)}};
    if (!n.linear) out["speed_constant"] = std::move(speed);
    out["resistance"] = std::move(r);
    out["inductance"] = std::move(l);
    out["motor_constant"] = in(n.motor_constant(), u.motor_constant);
    return out;
}

// By how much K_t = 1/k_V is wrong: a speed constant of each convention, taken for each torque constant.
Value kv_to_kt_json(const MotorNumbers& n) {
    Value out = Value::array();
    for (const Convention& v : voltage_conventions(n.base))
        for (const Convention& t : torque_conventions(n.base))
            out.push_back({{"speed_constant", v.key}, {"torque_constant", t.key},
                {"naive_over_true", v.factor / t.factor}, {"true_over_naive", t.factor / v.factor}});
    return out;
}

Value saturation_json(const MotorNumbers& n, const ElectricModel& model) {
    const double beta = peak_saturation(n);
    if (std::isnan(beta)) return nullptr;
    return {{"beta", beta}, {"used", n.saturation > 0}, {"flagged", beta > 1.0 / 3},
        {"turning_current", finite(model.turning_current())}, {"unit", n.sine_driven ? "A RMS" : "A"}};
}

Value pair_json(const SheetPair& p) {
    Value readings = Value::array();
    for (const SheetReading& r : p.readings) {
        const double spread = r.gives.k;
        readings.push_back({{"field", r.field}, {"option", r.option >= 0 ? Value(r.option) : Value(nullptr)},
            {"words", r.words}, {"factor", finite(r.factor)},
            {"gives", {{"base", finite(spread)}, {"torque_constant", finite(r.gives.torque_constant())},
                          {"voltage_constant", finite(r.gives.voltage_constant())},
                          {"resistance", finite(r.gives.resistance)}, {"inductance", finite(r.gives.inductance)},
                          {"motor_constant", finite(r.gives.motor_constant())}}}});
    }
    return {{"key", p.key}, {"label", p.label}, {"fields", p.fields}, {"entered", finite(p.entered)},
        {"implied", finite(p.implied)}, {"unit", std::string(info(p.kind).si_unit)}, {"factor", finite(p.factor)},
        {"tolerance", p.tolerance}, {"verdict", verdict_key(p.verdict)}, {"note", p.note},
        {"readings", std::move(readings)}};
}

Value draw_json(const MotorDraw& d, bool sine) {
    Value out{{"possible", d.possible}, {"current", finite(d.current)}};
    if (sine) {
        // A RMS of the line, as every other current
        out["i_d"] = finite(d.id / std::numbers::sqrt2);
        out["i_q"] = finite(d.iq / std::numbers::sqrt2);
    }
    out["copper_loss"] = finite(d.copper_loss);
    out["line_voltage"] = finite(d.voltage);
    return out;
}

// The sheet alone, without bus or drive.
ElectricModel alone(const Motor& m, const SheetQuestions& ask, double winding) {
    MotorConditions c;
    c.cold = ask.cold;
    c.hot = winding;
    c.bus = infinite;
    return ElectricModel(motor_numbers(m), c);
}

double hot_of(const Motor& m, const SheetQuestions& ask) {
    return ask.hot.value_or(m.winding_limit.given() ? m.winding_limit.si - motor_constants::zero_celsius : 155);
}

struct Asked {
    MotorDraw cold, hot;
};

Asked at_torque(const Motor& m, const SheetQuestions& ask, const SheetQuestions::AtTorque& at) {
    // what is asked is looked at hot; a cold motor is one whose hot is the cold
    return {alone(m, ask, ask.cold).without_voltage_limit(at.torque, at.speed),
        alone(m, ask, hot_of(m, ask)).without_voltage_limit(at.torque, at.speed)};
}

Value at_current_json(const Motor& m, const SheetQuestions& ask, double current) {
    const auto state = [&](double winding) {
        const ElectricModel model = alone(m, ask, winding);
        const MotorNumbers& n = model.numbers();
        const double r = motor_constants::copper_at(n.resistance, winding);
        const double loss =
            (n.sine_driven ? n.phases / 2 : 1) * current * current * r + (n.sine_driven ? 0 : n.brush_drop * current);
        const MotorDraw d = model.without_voltage_limit(model.torque_of(current, true), 0);
        return Value{{"torque", finite(model.torque_of(current, true))}, {"copper_loss", finite(loss)},
            {"line_voltage", finite(d.possible ? d.voltage : no_number)}};
    };
    return {{"current", current}, {"cold", state(ask.cold)}, {"hot", state(hot_of(m, ask))}};
}

Value stepper_json(const Motor& m, const StepperNumbers& n) {
    static constexpr const char* control[] = {"open_loop", "lost_step", "position"};
    Value all = Value::array();
    for (const StepperNumbers& c : connections(m))
        all.push_back(
            {{"connection", c.connection}, {"current", finite(c.current)}, {"resistance", finite(c.resistance)},
                {"inductance", finite(c.inductance)}, {"constant", finite(c.constant)},
                {"holding_torque", finite(c.holding)}, {"connected", c.connection == n.connection}});
    return {{"phases", n.phases}, {"control", control[static_cast<std::size_t>(n.control)]}, {"teeth", finite(n.teeth)},
        {"step_angle", finite(n.step)}, {"steps_per_turn", finite(n.steps_per_turn())},
        {"step_accuracy", finite(n.accuracy)}, {"detent_torque", n.detent}, {"friction_torque", n.friction},
        {"start_rate", finite(n.start_rate)}, {"connections", std::move(all)}};
}

Value sheet_json(const Motor& m, const SheetQuestions& ask) {
    const MotorNumbers n = motor_numbers(m);
    const ElectricModel model = alone(m, ask, hot_of(m, ask));
    const MotorUnits u(n.linear);
    Value pairs = Value::array();
    for (const SheetPair& p : check_sheet(m)) pairs.push_back(pair_json(p));
    Value out{{"name", m.name}, {"kind", m.kind_key()},
        {"base", {{"value", finite(n.k)}, {"unit", u.voltage_constant}, {"from", n.k_from}}},
        {"missing", model.missing()}, {"left_out", model.known() ? model.approximate() : ""},
        {"constants", constants_json(n)},
        {"wye_equivalent",
            {{"resistance", finite(n.base == EmfBase::dc || n.stepper ? no_number : n.resistance / 2)},
                {"inductance", finite(n.base == EmfBase::dc || n.stepper ? no_number : n.inductance / 2)}}},
        {"kv_to_kt", n.linear ? Value(nullptr) : kv_to_kt_json(n)}, {"saturation", saturation_json(n, model)},
        {"electrical_time_constant", in(n.inductance / n.resistance, "s")},
        {"mechanical_time_constant", in(n.rotor / (n.motor_constant() * n.motor_constant()), "s")},
        {"pairs", std::move(pairs)}};
    out["stepper"] = n.stepper ? stepper_json(m, *n.stepper) : Value(nullptr);
    if (!model.known()) return out;
    const bool sine = n.sine_driven;
    if (!ask.torques.empty()) {
        Value rows = Value::array();
        for (const auto& at : ask.torques) {
            const Asked a = at_torque(m, ask, at);
            rows.push_back({{"torque", at.torque}, {"speed", at.speed}, {"cold", draw_json(a.cold, sine)},
                {"hot", draw_json(a.hot, sine)}});
        }
        out["at_torque"] = std::move(rows);
    }
    if (!ask.currents.empty()) {
        Value rows = Value::array();
        for (const double i : ask.currents) rows.push_back(at_current_json(m, ask, i));
        out["at_current"] = std::move(rows);
    }
    return out;
}

} // namespace

std::string sheets_json(const std::vector<Motor>& motors, const Problems& problems, const SheetQuestions& ask) {
    Value sheets = Value::array();
    for (const Motor& m : motors) sheets.push_back(sheet_json(m, ask));
    const Value out{{"format", "fulmox-datasheet"}, {"version", 2}, {"temperature", 20}, {"cold", ask.cold},
        {"sheets", std::move(sheets)}, {"problems", problems_json(problems)}};
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string sheets_text(const std::vector<Motor>& motors, const SheetQuestions& ask) {
    std::string s;
    for (const Motor& m : motors) {
        const MotorNumbers n = motor_numbers(m);
        const MotorUnits u(n.linear);
        s += fmt::format(
            "{}{}, {}\n", s.empty() ? "" : "\n", m.name.empty() ? "motor without a name" : m.name, m.kind_label());
        const ElectricModel model = alone(m, ask, hot_of(m, ask));
        if (!model.known()) {
            s += "  waits for: " + model.missing() + "\n";
        } else {
            s += fmt::format("  constants at 20 °C, from: {}\n", n.k_from);
            for (const Convention& c : torque_conventions(n.base))
                s += fmt::format("    {:<66} {:>10} {}\n",
                    std::string(n.linear ? "force" : "torque") + " constant " + c.words, number_text(n.k * c.factor),
                    u.torque_constant);
            for (const Convention& c : voltage_conventions(n.base))
                s += fmt::format("    {:<66} {:>10} {}\n", std::string("voltage constant ") + c.words,
                    n.linear ? number_text(n.k * c.factor) : number_text(n.k * c.factor * krpm),
                    n.linear ? "V·s/m" : "V/krpm");
            if (!n.linear)
                for (const Convention& c : voltage_conventions(n.base))
                    s += fmt::format("    {:<66} {:>10} rpm/V\n", std::string("speed constant ") + c.words,
                        number_text(30 / std::numbers::pi / (n.k * c.factor)));
        }
        if (n.stepper) {
            for (const StepperNumbers& c : connections(m))
                s += fmt::format("    {}: {} A, {} Ω, {} mH, K {} V·s/rad, holds {} N·m{}\n", c.connection,
                    number_text(c.current), number_text(c.resistance), number_text(1e3 * c.inductance),
                    number_text(c.constant), number_text(c.holding),
                    c.connection == n.stepper->connection ? ", as connected" : "");
        }
        for (const Convention& c : winding_conventions()) {
            if (n.stepper || (n.base == EmfBase::dc && &c != &winding_conventions().front())) break;
            s += fmt::format(
                "    {:<66} {:>10} Ω\n", std::string("resistance ") + c.words, number_text(n.resistance * c.factor));
            s += fmt::format("    {:<66} {:>10} mH\n", std::string("inductance ") + c.words,
                number_text(1e3 * n.inductance * c.factor));
        }
        s += fmt::format("    {:<66} {:>10} {}\n", "motor constant", number_text(n.motor_constant()), u.motor_constant);
        if (const double beta = peak_saturation(n); beta > 0.04)
            s += fmt::format("    {:<66} {:>10}{}\n", "saturation β at the peak", number_text(beta, 3),
                beta > 1.0 / 3 ? "  above 1/3: the torque would fall before the peak current" : "");
        const std::vector<SheetPair> pairs = check_sheet(m);
        if (!pairs.empty()) s += "  datasheet consistency\n";
        for (const SheetPair& p : pairs) {
            s += fmt::format("    {}: entered {}, implied {}, factor {}: {}{}\n", p.label,
                format_quantity(p.entered, p.kind, UnitSystem::si), format_quantity(p.implied, p.kind, UnitSystem::si),
                number_text(p.factor), verdict_words(p.verdict), p.note.empty() ? "" : "; " + p.note);
            for (const SheetReading& r : p.readings)
                s += fmt::format("      would agree (factor {}) if: {}\n", number_text(r.factor), r.words);
        }
        if (!model.known()) continue;
        const char* amperes = n.sine_driven ? "A RMS" : "A";
        for (const auto& at : ask.torques) {
            const Asked a = at_torque(m, ask, at);
            const auto row = [&](const char* state, const MotorDraw& d) {
                s += fmt::format("  {} {} at {} {}, {}: {} {}, copper {} W, {} V\n", number_text(at.torque), u.torque,
                    number_text(at.speed), u.speed, state, number_text(d.current), amperes, number_text(d.copper_loss),
                    number_text(d.voltage));
            };
            row("cold", a.cold);
            row("hot", a.hot);
        }
        for (const double i : ask.currents)
            for (const bool hot : {false, true}) {
                const ElectricModel state = alone(m, ask, hot ? hot_of(m, ask) : ask.cold);
                s += fmt::format("  {} {}, {}: {} {}\n", number_text(i), amperes, hot ? "hot" : "cold",
                    number_text(state.torque_of(i, true)), u.torque);
            }
    }
    return s;
}

const char* verdict_words(Verdict v) {
    return v == Verdict::agrees             ? "agrees"
           : v == Verdict::within_tolerance ? "differs within tolerance"
                                            : "contradicts";
}

Table windings_table(const WindingChoice& w, bool along) {
    const MotorUnits u(along);
    Table t{"Windings of this frame",
        {"× turns", std::string(along ? "K_f, " : "K_t, ") + u.torque_constant, along ? "K_e, V·s/m" : "K_e, V/krpm",
            "R, Ω", "L, mH", "voltage used", "current used", ""},
        {}, {true, true, true, true, true, true, true, false}};
    const auto share = [](double x) { return std::isfinite(x) ? format_number(100 * x, 3) + " %" : std::string("–"); };
    for (const Winding& row : w.rows) {
        const bool known = std::isfinite(row.voltage_use) || std::isfinite(row.current_use);
        // what is not known is not over, but it does not fit either
        const bool over = row.voltage_use > 1 || row.current_use > 1;
        const bool all = std::isfinite(row.voltage_use) && std::isfinite(row.current_use);
        t.rows.push_back({format_number(row.turns, 4), number_text(row.torque_constant),
            number_text(row.voltage_constant * (along ? 1 : krpm)), number_text(row.resistance),
            number_text(1e3 * row.inductance), share(row.voltage_use), share(row.current_use),
            over    ? "over"
            : all   ? "fits"
            : known ? "as far as known"
                    : "cannot say"});
    }
    return t;
}

Table connections_table(const Motor& motor) {
    Table t{"Connections", {"connected", "I_N, A", "R, Ω", "L, mH", "K, V·s/rad", "T_H, N·m", ""}, {},
        {false, true, true, true, true, true, false}};
    const std::string now = stepper_numbers(motor).connection;
    for (const StepperNumbers& n : connections(motor))
        t.rows.push_back(
            {n.connection, number_text(n.current), number_text(n.resistance), number_text(1e3 * n.inductance),
                number_text(n.constant), number_text(n.holding), n.connection == now ? "as connected" : ""});
    return t;
}

Table constants_table(const Motor& motor) {
    const MotorNumbers n = motor_numbers(motor);
    const MotorUnits u(n.linear);
    Table t{"Constants at 20 °C", {"constant", "what it is", "value", "unit"}, {}, {false, false, true}};
    const auto add = [&](const char* name, const char* words, double value, const char* unit) {
        if (std::isfinite(value)) t.rows.push_back({name, words, format_number(value), unit});
    };
    for (const Convention& c : torque_conventions(n.base))
        add(n.linear ? "Force constant" : "Torque constant", c.words, n.k * c.factor, u.torque_constant);
    for (const Convention& c : voltage_conventions(n.base))
        add("Voltage constant", c.words, n.k * c.factor * (n.linear ? 1 : krpm), n.linear ? "V·s/m" : "V/krpm");
    if (!n.linear)
        for (const Convention& c : voltage_conventions(n.base))
            add("Speed constant", c.words, 30 / std::numbers::pi / (n.k * c.factor), "rpm/V");
    if (n.stepper) {
        add("Resistance", "of a phase, as connected", n.resistance / 2, "Ω");
        add("Inductance", "of a phase, as connected", 1e3 * n.inductance / 2, "mH");
    }
    for (const Convention& c : winding_conventions()) {
        if (n.stepper || (n.base == EmfBase::dc && &c != &winding_conventions().front())) break;
        add("Resistance", c.words, n.resistance * c.factor, "Ω");
        add("Inductance", c.words, 1e3 * n.inductance * c.factor, "mH");
    }
    add("Motor constant", "copper loss alone", n.motor_constant(), u.motor_constant);
    add("Electrical time constant", "L/R", 1e3 * n.inductance / n.resistance, "ms");
    add("Mechanical time constant", "bare rotor", 1e3 * n.rotor / (n.motor_constant() * n.motor_constant()), "ms");
    if (const double beta = peak_saturation(n); beta > 0)
        add("Saturation", "share of the peak torque it takes, β", beta, "");
    return t;
}

Table pairs_table(const std::vector<SheetPair>& pairs, UnitSystem units) {
    Table t{
        "Datasheet consistency", {"what", "entered", "implied", "factor", "verdict"}, {}, {false, true, true, true}};
    for (const SheetPair& p : pairs) {
        t.rows.push_back({p.label, format_quantity(p.entered, p.kind, units), format_quantity(p.implied, p.kind, units),
            number_text(p.factor), verdict_words(p.verdict)});
        if (!p.note.empty()) t.rows.push_back({"· " + p.note, "", "", "", ""});
        for (const SheetReading& r : p.readings)
            t.rows.push_back({"· if " + r.words, "", "", number_text(r.factor), "would agree"});
    }
    return t;
}

} // namespace fulmox

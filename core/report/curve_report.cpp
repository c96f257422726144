#include "core/report/curve_report.h"

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

struct CurveRow {
    double speed = 0;
    TorqueBound continuous, motoring, braking;
};

struct WholeCurve {
    Capability can;
    std::vector<CurveRow> rows;
    bool linear = false;
    std::string end_reason; // why motoring has no end
    double end = 0;
};

TorqueBound of_sheet(double torque) { return {torque, BoundBy::curve, no_number, no_number, true, no_number}; }

WholeCurve whole_curve(const CurveQuestion& q) {
    WholeCurve w;
    w.can = capability(*q.motor, q.drive, q.site);
    w.linear = q.motor->linear();
    std::vector<double> speeds = q.speeds;
    const ElectricModel* model = w.can.model ? &*w.can.model : nullptr;
    if (model) {
        w.end = std::min(model->motoring_end(false), model->motoring_end(true));
        if (!std::isfinite(w.end))
            w.end_reason = "field weakening has no end: the drive's current exceeds the characteristic current";
    } else {
        w.end = w.can.peak.end();
    }
    if (speeds.empty()) {
        double last = std::min(w.end, w.can.mechanical_speed);
        if (model) last = std::min(last, model->speed_limit());
        if (!std::isfinite(last) && model) last = 2 * std::max(model->no_load_speed(true), model->corner_speed(true));
        for (int i = 0; i < q.points; ++i) speeds.push_back(last * i / std::max(1, q.points - 1));
    }
    for (const double speed : speeds) {
        CurveRow r{speed, {}, {}, {}};
        r.continuous = w.can.continuous_by_model ? model->continuous(speed) : of_sheet(w.can.continuous_at(speed));
        r.motoring = w.can.peak_with_bound(speed, false);
        r.braking = w.can.peak_with_bound(speed, true);
        // for a while it gives at least its continuous torque
        if (w.can.continuous_by_model && r.continuous.torque > r.motoring.torque) r.continuous = r.motoring;
        w.rows.push_back(r);
    }
    return w;
}

// Currents as all others of the curve: A RMS of the line where it is driven with sines, else A.
Value bound_json(const TorqueBound& b, bool sine) {
    const double rms = sine ? 1 / std::numbers::sqrt2 : 1;
    return {{"torque", finite(b.torque)}, {"limited_by", bound_key(b.bound)}, {"i_d", finite(rms * b.id)},
        {"i_q", finite(rms * b.iq)}, {"state", b.hot ? "hot" : "cold"}, {"phase_voltage", finite(b.voltage)}};
}

} // namespace

std::string curve_missing(const CurveQuestion& q) {
    const Motor& m = *q.motor;
    std::vector<std::string> lacks;
    if (!m.has_constant() && m.peak.size() < 2)
        lacks.emplace_back("a torque, force or voltage constant, or a peak curve");
    if (m.stepper() && m.peak.size() < 2)
        if (const std::string left =
                ElectricModel(motor_numbers(m), motor_conditions(m, q.drive, q.site)).approximate();
            !left.empty() && m.has_constant())
            lacks.emplace_back("the phase's " + left + ", or a pull-out curve");
    if (!q.drive.bus_voltage.given()) lacks.emplace_back("the bus voltage");
    if (!m.peak.empty() && !m.curve_voltage.given()) lacks.emplace_back("the voltage of the curves");
    std::string out;
    for (const std::string& l : lacks) out += (out.empty() ? "" : "; ") + l;
    return out;
}

namespace {

struct OverloadRow {
    double torque = 0, ratio = 0, prior = 0, time = 0;
};
struct Overload {
    std::string missing;
    double continuous = 0; // N·m at rest, here
    bool upper_bound = false;
    std::vector<OverloadRow> rows;
};

Overload overload_of(const CurveQuestion& q, const Capability& can) {
    Overload o;
    const CycleHeat h = thermal_motor(*q.motor, q.drive, q.site, can);
    o.continuous = can.continuous_stall();
    if (can.model && can.model->fixed_current())
        o.missing = "a stepper draws its current at any torque";
    else if (!h.missing.empty())
        o.missing = h.missing;
    else if (!h.motor.knows_times())
        o.missing = "a time constant: that of the winding, or of the motor";
    else if (!(o.continuous > 0))
        o.missing = "a continuous torque";
    if (!o.missing.empty()) return o;
    o.upper_bound = !h.motor.knows_winding();
    std::vector<double> torques = q.torques;
    if (torques.empty())
        for (const double r : {1.25, 1.5, 2.0, 2.5, 3.0, 4.0}) torques.push_back(r * o.continuous);
    for (const double t : torques)
        for (const double prior : q.priors.empty() ? std::vector<double>{0} : q.priors)
            o.rows.push_back({t, t / o.continuous, prior, overload_time(h.motor, t / o.continuous, prior)});
    return o;
}

} // namespace

std::string curve_json(const CurveQuestion& q) {
    const WholeCurve w = whole_curve(q);
    const MotorUnits u(w.linear);
    const ElectricModel* model = w.can.model ? &*w.can.model : nullptr;
    Value rows = Value::array();
    for (const CurveRow& r : w.rows) {
        const bool sine = model && model->numbers().sine_driven;
        rows.push_back({{"speed", r.speed}, {"continuous", bound_json(r.continuous, sine)},
            {"peak_motoring", bound_json(r.motoring, sine)}, {"peak_braking", bound_json(r.braking, sine)}});
        // pull-out before and after detent and friction are taken off
        if (model && model->numbers().stepper && w.can.peak_by_model) {
            const StepperNumbers& s = *model->numbers().stepper;
            const bool stands = r.speed == 0;
            rows.back()["pull_out"] = {
                {"electromagnetic",
                    finite(r.motoring.torque > 0 || stands ? r.motoring.torque + (stands ? 0 : s.detent + s.friction)
                                                           : no_number)},
                {"usable", finite(r.motoring.torque)}};
        }
    }
    Value conditions{{"bus_voltage", q.drive.lowest_bus()}};
    Value out{{"format", "fulmox-curve"}, {"version", 2}, {"name", q.motor->name}, {"kind", q.motor->kind_key()},
        {"torque_unit", u.torque}, {"speed_unit", u.speed}, {"peak_from", w.can.peak_by_model ? "model" : "sheet"},
        {"continuous_from", w.can.continuous_by_model ? "model" : "sheet"}};
    if (model) {
        const MotorConditions& c = model->conditions();
        const bool sine = model->numbers().sine_driven;
        conditions["phase_voltage"] = sine ? finite(c.bus * c.phase_share * c.reserve) : Value(nullptr);
        conditions["modulation"] =
            sine ? Value(Drive::modulations[static_cast<std::size_t>(q.drive.modulation)].key) : Value(nullptr);
        conditions["modulation_reserve"] = c.reserve;
        conditions["field_weakening"] = c.weakening;
        conditions["drive_continuous_current"] = finite(c.drive_continuous);
        conditions["drive_peak_current"] = finite(c.drive_peak);
        conditions["current_unit"] = sine ? "A RMS" : "A";
        conditions["cold"] = c.cold;
        conditions["hot"] = c.hot;
        conditions["heat_factor"] = c.heat_factor;
        conditions["speed_limit"] = finite(model->speed_limit());
        out["conditions"] = std::move(conditions);
        out["left_out"] = Value::array();
        for (const char* key : model->left_out()) out["left_out"].push_back(key);
        const auto both = [&](auto f) { return Value{{"cold", finite(f(false))}, {"hot", finite(f(true))}}; };
        out["corner_speed"] = both([&](bool hot) { return model->corner_speed(hot); });
        out["no_load_speed"] = both([&](bool hot) { return model->no_load_speed(hot); });
        out["greatest_motoring_speed"] = {{"value", finite(w.end)}, {"reason", w.end_reason}};
        out["characteristic_current"] = {{"value", finite(model->characteristic_current())},
            {"reason", std::isfinite(model->characteristic_current()) ? ""
                       : model->numbers().sine_driven                 ? "inductance or pole pairs are not given"
                                                                      : "not of a DC machine"}};
        if (const auto best = model->best_efficiency())
            out["best_efficiency"] = {
                {"value", best->efficiency}, {"torque", best->torque}, {"speed", best->speed}, {"reason", ""}};
        else
            out["best_efficiency"] = {{"value", nullptr}, {"torque", nullptr}, {"speed", nullptr},
                {"reason", "the sheet tells no loss beside copper: a rated point below the standstill torque, or a "
                           "no-load current"}};
    } else {
        out["conditions"] = std::move(conditions);
    }
    out["points"] = std::move(rows);
    if (!q.loads.empty()) {
        const SteadyMotor steady(*q.motor, q.drive, q.site, w.can);
        Value loads = Value::array();
        for (const double torque : q.loads) {
            Value points = Value::array();
            for (const CurveRow& r : w.rows) {
                const SteadyPoint p = steady.at(r.speed, torque);
                points.push_back({{"speed", r.speed}, {"possible", p.possible}, {"left", finite(p.left)},
                    {"loss", finite(p.loss)}, {"supply_current", finite(p.supply_current)},
                    {"winding", finite(p.winding + motor_constants::zero_celsius)}, {"settles", p.settles}});
            }
            loads.push_back({{"torque", torque}, {"points", std::move(points)}});
        }
        out["loads"] = std::move(loads);
        out["heat_missing"] = steady.missing();
    }
    if (q.overload) {
        const Overload o = overload_of(q, w.can);
        Value times = Value::array();
        for (const OverloadRow& r : o.rows)
            times.push_back({{"torque", r.torque}, {"ratio", r.ratio}, {"prior", r.prior}, {"time", finite(r.time)}});
        out["overload"] = {{"missing", o.missing}, {"continuous_torque", finite(o.continuous)},
            {"upper_bound", o.upper_bound}, {"times", std::move(times)}};
    }
    return out.dump(2, ' ', false, Value::error_handler_t::replace) + "\n";
}

std::string curve_csv(const CurveQuestion& q) {
    const WholeCurve w = whole_curve(q);
    const MotorUnits u(w.linear);
    std::string s =
        fmt::format("speed [{0}],continuous [{1}],limited by,peak motoring [{1}],limited by,peak braking [{1}],"
                    "limited by,i_d [A],i_q [A],phase voltage [V]",
            u.speed, u.torque);
    for (const double load : q.loads)
        s += fmt::format(
            ",left at {0} {1} [{1}],supply current at {0} {1} [A],loss at {0} {1} [W],winding at {0} {1} [°C]",
            format_number(load, 9), u.torque);
    s += "\n";
    const SteadyMotor steady(*q.motor, q.drive, q.site, w.can);
    const auto cell = [](double v) { return std::isfinite(v) ? format_number(v, 9) : std::string(); };
    for (const CurveRow& r : w.rows) {
        s += fmt::format("{},{},{},{},{},{},{},{},{},{}", cell(r.speed), cell(r.continuous.torque),
            bound_key(r.continuous.bound), cell(r.motoring.torque), bound_key(r.motoring.bound), cell(r.braking.torque),
            bound_key(r.braking.bound), cell(r.motoring.id), cell(r.motoring.iq), cell(r.motoring.voltage));
        for (const double load : q.loads) {
            const SteadyPoint p = steady.at(r.speed, load);
            s += fmt::format(",{},{},{},{}", cell(p.left), cell(p.supply_current), cell(p.loss), cell(p.winding));
        }
        s += "\n";
    }
    return s;
}

std::string curve_text(const CurveQuestion& q) {
    const WholeCurve w = whole_curve(q);
    const MotorUnits u(w.linear);
    const double scale = w.linear ? 1 : 30 / std::numbers::pi;
    std::string s =
        fmt::format("{}, {}, at {} V\n", q.motor->name, q.motor->kind_label(), number_text(q.drive.lowest_bus()));
    if (w.can.model && !w.can.model->approximate().empty())
        s += "without " + w.can.model->approximate() + ", which are not given\n";
    s += fmt::format("{:>10} {:>12} {:<19} {:>12} {:<19} {:>12} {:<19}\n", w.linear ? "m/s" : "rpm",
        std::string("continuous ") + u.torque, "by", std::string("motoring ") + u.torque, "by",
        std::string("braking ") + u.torque, "by");
    for (const CurveRow& r : w.rows)
        s += fmt::format("{:>10} {:>12} {:<19} {:>12} {:<19} {:>12} {:<19}\n", number_text(r.speed * scale),
            number_text(r.continuous.torque), bound_words(r.continuous.bound), number_text(r.motoring.torque),
            bound_words(r.motoring.bound), number_text(r.braking.torque), bound_words(r.braking.bound));
    const SteadyMotor steady(*q.motor, q.drive, q.site, w.can);
    for (const double load : q.loads) {
        s += fmt::format("against {} {}\n{:>10} {:>12} {:>12} {:>12} {:>12}\n", number_text(load), u.torque,
            w.linear ? "m/s" : "rpm", std::string("left ") + u.torque, "supply A", "loss W", "winding °C");
        for (const CurveRow& r : w.rows) {
            const SteadyPoint p = steady.at(r.speed, load);
            s += fmt::format("{:>10} {:>12} {:>12} {:>12} {:>12}\n", number_text(r.speed * scale), number_text(p.left),
                number_text(p.supply_current), number_text(p.loss), !p.settles ? "runs away" : number_text(p.winding));
        }
    }
    if (!q.loads.empty() && !steady.missing().empty()) s += "the winding waits for: " + steady.missing() + "\n";
    if (!q.overload) return s;
    const Overload o = overload_of(q, w.can);
    if (!o.missing.empty()) return s + "overload waits for: " + o.missing + "\n";
    s += fmt::format("{:>12} {:>8} {:>8} {:>12}\n", std::string("torque ") + u.torque, "times", "prior",
        o.upper_bound ? "at most, s" : "lasts, s");
    for (const OverloadRow& r : o.rows)
        s += fmt::format("{:>12} {:>8} {:>8} {:>12}\n", number_text(r.torque), number_text(r.ratio, 3),
            number_text(r.prior, 3), std::isinf(r.time) ? "continuous" : number_text(r.time, 3));
    return s;
}

} // namespace fulmox

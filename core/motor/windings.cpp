#include "core/motor/windings.h"

#include "core/model/walk.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <string_view>

namespace fulmox {

namespace {

// Power of the turns by which a field of the sheet goes; 0 for all that the winding does not touch.
int power_of(std::string_view key) {
    static const std::map<std::string_view, int> powers{{"torque_constant", 1}, {"force_constant", 1},
        {"voltage_constant", 1}, {"speed_constant", -1}, {"resistance", 2}, {"inductance", 2}, {"rated_voltage", 1},
        {"stall_current", -1}, {"rated_current", -1}, {"peak_current", -1}, {"no_load_current", -1},
        {"continuous_current", -1}};
    const auto it = powers.find(key);
    return it == powers.end() ? 0 : it->second;
}

void scale(QuantityBase& q, Kind kind, double factor) {
    if (!q.given()) return;
    const Unit& unit = q.unit ? *q.unit : si_unit(kind);
    const double relative = q.si != 0 ? std::abs(q.tolerance / q.si) : 0;
    q.si *= factor;
    q.tolerance *= factor;
    q.text = format_number(from_si(q.si, unit), 6) + (unit.symbol == "1" ? "" : " " + std::string(unit.symbol));
    if (relative > 0) q.text += " ± " + format_number(100 * relative, 4) + " %";
    q.standing = InputSource::calculated;
    // what is written is what counts, as when the file is read again
    if (const auto read = read_quantity(q.text, kind, unit)) {
        q.si = read->si;
        q.tolerance = read->tolerance;
        q.unit = read->unit;
    }
}

} // namespace

Motor rewound(const Motor& motor, double turns) {
    Motor out = motor;
    for (const FieldRef& f : walk(out)) {
        if (f.type != FieldRef::Type::quantity) continue;
        const std::string key = f.path.substr(f.path.rfind('/') + 1);
        if (f.path == "/curve_voltage")
            scale(*f.quantity, f.kind, turns);
        else if (const int power = power_of(key); power != 0 && f.path.starts_with("/electric/"))
            scale(*f.quantity, f.kind, std::pow(turns, power));
    }
    out.name = (motor.name.empty() ? std::string("motor") : motor.name) + ", " + format_number(turns, 4) + " × turns";
    out.price = {};
    return out;
}

const std::vector<double>& listed_turns() {
    static const std::vector<double> turns{0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1, 1.25, 1.6, 2, 2.5, 3.15, 4};
    return turns;
}

WindingChoice winding_choice(const Motor& motor, const MotorUse* use, double share) {
    WindingChoice out;
    const MotorNumbers n = motor_numbers(motor);
    if (!(n.k > 0)) {
        out.missing = n.linear ? "a force or voltage constant" : "a torque, voltage or speed constant";
        return out;
    }
    double needed = no_number, there = no_number, current = no_number;
    if (!use || !use->can.model)
        out.missing = "the axis' cycle and bus";
    else {
        const ElectricModel& model = *use->can.model;
        const MotorConditions& c = model.conditions();
        needed = use->voltage;
        there = share * model.voltage_there();
        if (std::isfinite(c.drive_peak)) current = use->peak_current / c.drive_peak;
        if (std::isfinite(c.drive_continuous)) {
            const double by_rms = use->rms_current / c.drive_continuous;
            current = std::isnan(current) ? by_rms : std::max(current, by_rms);
        }
        if (c.weakening && n.sine_driven) needed = no_number; // the voltage is made do with
        if (std::isnan(needed) && std::isnan(current))
            out.missing = c.weakening ? "the drive's currents" : "what the cycle needs by the constants";
    }
    out.least = current;
    // the brushes' share does not go with the turns
    const double drop = n.brush_drop;
    out.most = (there - drop) / (needed - drop);
    for (const double t : listed_turns())
        out.rows.push_back({t, t * n.torque_constant(), t * n.voltage_constant(), t * t * n.resistance,
            t * t * n.inductance, (t * (needed - drop) + drop) / there, current / t});
    const auto times = [](double x) { return format_number(x, 3); };
    if (!out.missing.empty())
        out.words = "Which of them fits waits for " + out.missing + ".";
    else if (!std::isnan(out.least) && !std::isnan(out.most))
        out.words = out.least <= out.most
                        ? "Bus and drive carry the cycle with " + times(out.least) + " to " + times(out.most) +
                              " times the turns" +
                              (out.least <= 1 && 1 <= out.most ? ": this winding is among them."
                                                               : ": this winding is not among them.")
                        : "No winding of this frame is suitable: the current needs " + times(out.least) +
                              " times the turns and more, the voltage for " + times(out.most) + " and less.";
    else if (!std::isnan(out.most))
        out.words = "The bus is sufficient with up to " + times(out.most) +
                    " times the turns; give the drive's currents for the lower end.";
    else
        out.words = "The drive is sufficient from " + times(out.least) + " times the turns on.";
    return out;
}

} // namespace fulmox

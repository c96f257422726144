#include "core/motor/dc_machine.h"

#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

double available(const DcMachine& m, const DcSupply& s) { return std::max(0.0, s.voltage - m.brush_drop); }

double gap_torque(const DcMachine& m, double current) {
    const double x = current / m.reference_current;
    return m.torque_constant * current * (1 - m.saturation * x * x);
}

} // namespace

double turning_current(const DcMachine& m) {
    return m.saturation > 0 ? m.reference_current / std::sqrt(3 * m.saturation) : infinite;
}

double highest_current(const DcMachine& m, const DcSupply& s, double speed) {
    const double room = available(m, s) - m.voltage_constant * speed;
    const double by_voltage = m.resistance > 0 ? room / m.resistance : room >= 0 ? infinite : -infinite;
    return std::min(s.current, by_voltage);
}

std::optional<double> lowest_current(const DcMachine& m, const DcSupply& s, double speed) {
    if (highest_current(m, s, speed) < -s.current) return std::nullopt;
    const double room = available(m, s) + m.voltage_constant * speed;
    return -std::min(s.current, m.resistance > 0 ? room / m.resistance : infinite);
}

double shaft_torque(const DcMachine& m, double current, double speed) {
    return gap_torque(m, current) - (speed > 0 ? m.friction : 0);
}

std::optional<double> current_for(const DcMachine& m, const DcSupply& s, double torque, double speed) {
    const double turn = speed < 0 ? -1 : 1;
    const double gap = turn * torque + (speed != 0 ? m.friction : 0), plain = gap / m.torque_constant;
    double i = plain;
    if (m.saturation > 0) {
        const double root = std::sqrt(3 * m.saturation), sine = 1.5 * root * plain / m.reference_current;
        if (std::abs(sine) > 1) return std::nullopt;
        i = m.reference_current * 2 / root * std::sin(std::asin(sine) / 3);
    }
    const double most = highest_current(m, {infinite, s.voltage}, std::abs(speed));
    if (i > most + 1e-12 * std::abs(most)) return std::nullopt;
    return turn * i;
}

double terminal_voltage(const DcMachine& m, double current, double speed) {
    const double drop = current > 0 ? m.brush_drop : current < 0 ? -m.brush_drop : 0;
    return m.resistance * current + m.voltage_constant * speed + drop;
}

double copper_loss(const DcMachine& m, double current) {
    return m.resistance * current * current + m.brush_drop * std::abs(current);
}

double corner_speed(const DcMachine& m, const DcSupply& s) {
    if (!std::isfinite(s.current)) return 0;
    return std::max(0.0, (available(m, s) - m.resistance * s.current) / m.voltage_constant);
}

double no_load_speed(const DcMachine& m, const DcSupply& s) {
    const auto i = current_for(m, {infinite, infinite}, 0, 1);
    return std::max(0.0, (available(m, s) - m.resistance * i.value_or(0)) / m.voltage_constant);
}

double commutation_ratio(const DcMachine& m, double speed) {
    return m.resistance > 0 ? m.pole_pairs * std::abs(speed) * m.inductance / m.resistance : 0;
}

} // namespace fulmox

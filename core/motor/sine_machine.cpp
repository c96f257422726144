#include "core/motor/sine_machine.h"

#include "core/quantity/not_finite.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {

namespace {

// std::hypot keeps clear of overflow, which volts and amperes do not reach, for far more time
double length(double a, double b) { return std::sqrt(a * a + b * b); }

// The disc of currents that the voltage lets flow.
struct VoltageDisc {
    double d = 0, q = 0, radius = 0;

    VoltageDisc(const SineMachine& m, double voltage, double speed) {
        const double x = m.pole_pairs * speed * m.inductance, z2 = m.resistance * m.resistance + x * x;
        const double emf = emf_constant(m) * speed;
        if (z2 > 0) {
            d = -emf * x / z2;
            q = -emf * m.resistance / z2;
            radius = voltage / std::sqrt(z2);
        } else {
            radius = voltage >= std::abs(emf) ? infinite : -1; // no impedance: all currents, or none
        }
    }
    bool has(double id, double iq) const {
        return radius == infinite || length(id - d, iq - q) <= radius * (1 + 1e-12);
    }
};

// i_q from the lowest to the highest with i_d = 0.
std::optional<std::pair<double, double>> range_without_weakening(const VoltageDisc& v, double current) {
    if (v.radius == infinite) return std::pair(-current, current);
    const double below = v.radius * v.radius - v.d * v.d;
    if (v.radius < 0 || below < 0) return std::nullopt;
    const double half = std::sqrt(below), low = std::max(-current, v.q - half), high = std::min(current, v.q + half);
    if (low > high) return std::nullopt;
    return std::pair(low, high);
}

// Where two circles meet, the one about the origin of radius `current`.
std::optional<std::array<Dq, 2>> crossings(const VoltageDisc& v, double current) {
    const double apart = length(v.d, v.q);
    if (apart == 0 || apart > current + v.radius || apart < std::abs(current - v.radius)) return std::nullopt;
    const double along = (apart * apart + current * current - v.radius * v.radius) / (2 * apart);
    const double across = std::sqrt(std::max(0.0, current * current - along * along));
    const double ed = v.d / apart, eq = v.q / apart;
    return std::array{
        Dq{along * ed - across * eq, along * eq + across * ed}, Dq{along * ed + across * eq, along * eq - across * ed}};
}

// `side` 1: highest, −1: lowest.
std::optional<Dq> extreme(const SineMachine& m, const SineSupply& s, double speed, double side) {
    const VoltageDisc v(m, s.voltage, std::abs(speed));
    if (!s.weakening) {
        const auto range = range_without_weakening(v, s.current);
        if (!range) return std::nullopt;
        return Dq{0, side > 0 ? range->second : range->first};
    }
    if (v.radius < 0) return std::nullopt;
    if (std::isfinite(s.current) && v.has(0, side * s.current)) return Dq{0, side * s.current};
    if (v.radius == infinite) return Dq{0, side * s.current};
    const Dq top{v.d, v.q + side * v.radius};
    if (length(top.d, top.q) <= s.current * (1 + 1e-12)) return top;
    const auto both = crossings(v, s.current);
    if (!both) return std::nullopt; // the voltage disc lies outside: no current is permitted
    return side * (*both)[0].q > side * (*both)[1].q ? (*both)[0] : (*both)[1];
}

} // namespace

double torque(const SineMachine& m, double iq) {
    const double x = iq / m.reference_current;
    return m.phases / 2 * m.k * iq * (1 - m.saturation * x * x);
}

double turning_current(const SineMachine& m) {
    return m.saturation > 0 ? m.reference_current / std::sqrt(3 * m.saturation) : infinite;
}

std::optional<double> current_for(const SineMachine& m, double torque) {
    const double plain = torque / (m.phases / 2 * m.k);
    if (!(m.saturation > 0)) return plain;
    // x − β x³ = t by the sine of a third of an angle, for the branch below the turn
    const double root = std::sqrt(3 * m.saturation), t = plain / m.reference_current;
    const double s = 1.5 * root * t;
    if (std::abs(s) > 1) return std::nullopt;
    return m.reference_current * 2 / root * std::sin(std::asin(s) / 3);
}

std::optional<Dq> highest(const SineMachine& m, const SineSupply& s, double speed) { return extreme(m, s, speed, 1); }
std::optional<Dq> lowest(const SineMachine& m, const SineSupply& s, double speed) { return extreme(m, s, speed, -1); }

std::optional<Dq> currents(const SineMachine& m, const SineSupply& s, double torque, double speed) {
    const double turn = speed < 0 ? -1 : 1; // backwards is forwards seen in a mirror
    const auto iq = current_for(m, turn * torque);
    if (!iq) return std::nullopt;
    const VoltageDisc v(m, s.voltage, std::abs(speed));
    if (v.radius == infinite) return Dq{0, turn * *iq};
    if (v.radius < 0) return std::nullopt;
    const double off = *iq - v.q, below = v.radius * v.radius * (1 + 1e-12) - off * off;
    if (below < 0) return std::nullopt;
    const double edge = v.d + std::sqrt(below);
    if (!s.weakening && edge < 0) return std::nullopt;
    return Dq{std::min(0.0, edge), turn * *iq};
}

double phase_voltage(const SineMachine& m, Dq i, double speed) {
    const double x = m.pole_pairs * speed * m.inductance;
    return length(m.resistance * i.d - x * i.q, m.resistance * i.q + emf_constant(m) * speed + x * i.d);
}

double copper_loss(const SineMachine& m, Dq i) { return m.phases / 2 * (i.d * i.d + i.q * i.q) * m.resistance; }

double corner_speed(const SineMachine& m, const SineSupply& s) {
    if (!std::isfinite(s.current)) return 0;
    // (R I + kω)² + (pωLI)² = U²
    const double drop = m.resistance * s.current, x = m.pole_pairs * m.inductance * s.current;
    const double k = emf_constant(m);
    const double a = k * k + x * x, c = drop * drop - s.voltage * s.voltage;
    if (c >= 0 || a <= 0) return c < 0 ? infinite : 0;
    const double b = k * drop;
    return -c / (b + std::sqrt(b * b - a * c));
}

double characteristic_current(const SineMachine& m) {
    const double pl = m.pole_pairs * m.inductance;
    return pl > 0 ? emf_constant(m) / pl : infinite;
}

double motoring_end(const SineMachine& m, const SineSupply& s) {
    const double k = emf_constant(m), no_load = k > 0 ? s.voltage / k : infinite;
    const double pl = m.pole_pairs * m.inductance;
    if (!s.weakening || !(pl > 0)) return no_load;
    if (k / pl <= s.current && s.voltage * pl > k * m.resistance) return infinite;
    const double most = m.resistance > 0 ? s.voltage * s.voltage * pl / (k * m.resistance * m.resistance) : infinite;
    const double j = std::min(s.current, most), rest = k - pl * j;
    const double under = s.voltage * s.voltage - m.resistance * m.resistance * j * j;
    if (rest <= 0) return infinite;
    return under > 0 ? std::sqrt(under) / rest : no_load;
}

} // namespace fulmox

#include "core/motor/stepper.h"

#include "core/model/motor.h"

#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

using std::numbers::pi;
using std::numbers::sqrt2;

template <class M> StepperNumbers as_quoted(const M& m) {
    StepperNumbers n;
    n.step = m.step_angle.si;
    n.current = m.rated_current.si;
    n.resistance = m.resistance.given() ? m.resistance.si : m.rated_voltage.si / n.current;
    n.inductance = m.inductance.si;
    n.holding = m.holding_torque.si;
    n.detent = m.detent_torque.value_or(0);
    n.friction = m.friction_torque.value_or(0);
    n.start_rate = m.start_rate.si;
    if (m.step_accuracy.given()) n.accuracy = m.step_accuracy.si;
    return n;
}

template <class M> double curve_amplitude(const M& m, double rated) {
    if (!m.curve_current.given()) return sqrt2 * rated;
    return m.curve_current.si * (m.curve_amperes == AmperesAs::peak ? 1 : sqrt2);
}

// What a half coil's current, resistance, inductance and constant are multiplied by.
struct Factors {
    double current, resistance, inductance, constant;
};
constexpr std::array<Factors, 3> of_half_coil{
    Factors{1, 1, 1, 1}, Factors{1 / sqrt2, 2, 4, 2}, Factors{sqrt2, 0.5, 1, 1}};
constexpr std::array connection_words{"half coils", "bipolar, in series", "bipolar, in parallel"};

StepperNumbers reconnected(StepperNumbers n, int from, int to) {
    const Factors a = of_half_coil[static_cast<std::size_t>(from)], b = of_half_coil[static_cast<std::size_t>(to)];
    n.current *= b.current / a.current;
    n.resistance *= b.resistance / a.resistance;
    n.inductance *= b.inductance / a.inductance;
    n.constant *= b.constant / a.constant;
    n.holding *= b.constant * b.current / (a.constant * a.current);
    n.connection = connection_words[static_cast<std::size_t>(to)];
    return n;
}

StepperNumbers quoted(const TwoPhaseStepper& m) {
    StepperNumbers n = as_quoted(m);
    n.phases = 2;
    n.teeth = pi / 2 / n.step;
    n.constant = n.holding / (sqrt2 * n.current);
    n.control = m.control;
    n.connection = m.rated_as == StepperRating::four_leads ? "four leads"
                                                           : connection_words[static_cast<std::size_t>(m.rated_as) - 1];
    return n;
}

StepperNumbers quoted(const FivePhaseStepper& m) {
    StepperNumbers n = as_quoted(m);
    n.phases = 5;
    n.teeth = pi / 5 / n.step;
    n.constant =
        n.holding / ((m.phases_on == PhasesOn::four ? std::tan(0.4 * pi) : 1 / std::sin(0.1 * pi)) * n.current);
    n.voltage_share = voltage_share(m.bridge);
    n.connection = motor_options::five_phase_bridge[static_cast<std::size_t>(m.bridge)].label;
    n.curve_amplitude = curve_amplitude(m, n.current);
    return n;
}

} // namespace

double StepperNumbers::microstep_torque(double holding_now, double microsteps) const {
    return holding_now * std::sin(pi / (phases * microsteps));
}

double StepperNumbers::deflection(double torque, double holding_now) const {
    const double share = std::abs(torque) / holding_now;
    return share <= 1 ? std::asin(share) / teeth : unknown;
}

double StepperNumbers::resonance(double holding_now, double inertia) const {
    return std::sqrt(teeth * holding_now / inertia) / (2 * pi);
}

double StepperNumbers::start_rate_with(double load, double rotor) const {
    return start_rate / std::sqrt(1 + load / rotor);
}

double steps_per_second(const StepperNumbers& n, double speed) { return std::abs(speed) / n.step; }

double voltage_share(FivePhaseBridge bridge) {
    switch (bridge) {
    case FivePhaseBridge::per_phase:
        return 1;
    case FivePhaseBridge::star:
        return 0.5;
    case FivePhaseBridge::pentagon_72:
        return std::sin(0.2 * pi);
    case FivePhaseBridge::pentagon_144:
        return std::sin(0.4 * pi);
    }
    return 1;
}

StepperNumbers stepper_numbers(const Motor& motor) {
    if (const auto* five = std::get_if<FivePhaseStepper>(&motor.electric)) return quoted(*five);
    const auto& two = std::get<TwoPhaseStepper>(motor.electric);
    StepperNumbers n = quoted(two);
    if (two.rated_as != StepperRating::four_leads)
        n = reconnected(n, static_cast<int>(two.rated_as) - 1, static_cast<int>(two.connected));
    n.curve_amplitude = curve_amplitude(two, n.current);
    return n;
}

std::vector<StepperNumbers> connections(const Motor& motor) {
    const auto* two = std::get_if<TwoPhaseStepper>(&motor.electric);
    if (!two || two->rated_as == StepperRating::four_leads) return {stepper_numbers(motor)};
    std::vector<StepperNumbers> out;
    for (int to = 0; to < 3; ++to) out.push_back(reconnected(quoted(*two), static_cast<int>(two->rated_as) - 1, to));
    return out;
}

} // namespace fulmox

#include "core/motor/model.h"

#include "core/quantity/not_finite.h"

#include "core/motor/constants.h"

// math.h first: this Boost calls isnan unqualified
#include <math.h>

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

using motor_constants::zero_celsius;

template <class... F> struct Overloaded : F... { using F::operator()...; };
template <class... F> Overloaded(F...) -> Overloaded<F...>; // clang 14 asks for it

double positive_or(double x, double otherwise) { return x > 0 ? x : otherwise; }

} // namespace

const char* bound_key(BoundBy bound) {
    static constexpr const char* keys[] = {"heat", "drive_current", "motor_current", "saturation", "voltage",
        "mechanical", "curve", "torque_limit", "unknown"};
    return keys[static_cast<std::size_t>(bound)];
}

const char* bound_words(BoundBy bound) {
    static constexpr const char* words[] = {"heat", "drive current", "motor peak current", "saturation", "voltage",
        "mechanical speed", "the sheet's curve", "torque limit of the drive", "not known"};
    return words[static_cast<std::size_t>(bound)];
}

double permitted_heat(double winding_limit, double rated_ambient, double ambient, double altitude) {
    const double by_ambient = (winding_limit - ambient) / (winding_limit - rated_ambient);
    const double by_altitude = altitude > 1000 ? 1 - 0.01 * (altitude - 1000) / 100 : 1;
    return std::max(0.0, by_ambient * by_altitude);
}

double drive_share(const Drive& drive, const Site& site) {
    double share = drive.derating.value_or(1);
    if (drive.derates_from.given())
        share *= 1 - drive.derating_rate.value_or(0) * std::max(0.0, site.ambient.si - drive.derates_from.si);
    if (drive.derates_above.given())
        share *= 1 - drive.altitude_rate.value_or(0) * std::max(0.0, site.altitude.si - drive.derates_above.si) / 100;
    return std::max(0.0, share);
}

MotorConditions motor_conditions(const Motor& motor, const Drive& drive, const Site& site) {
    MotorConditions c;
    c.bus = drive.bus_voltage.given() ? drive.lowest_bus() : no_number;
    c.phase_share = drive.modulation == Modulation::space_vector ? 1 / std::numbers::sqrt3
                    : drive.modulation == Modulation::sine_pwm   ? 0.5
                                                                 : 2 / std::numbers::pi;
    c.reserve = drive.modulation_reserve.value_or(usual_modulation_reserve);
    c.weakening = drive.field_weakening;
    if (motor.stepper()) {
        // a bridge for each phase, no reserve kept, and the rotor finds its own load angle
        const StepperNumbers s = stepper_numbers(motor);
        c.phase_share = s.voltage_share;
        c.reserve = 1;
        c.weakening = true;
        c.idle_share = drive.idle_current.value_or(1);
        c.idle_delay = drive.idle_current.given() ? drive.idle_delay.value_or(0) : 0;
    }
    const bool sine = motor.linear() || std::holds_alternative<SineMotor>(motor.electric);
    const double per =
        (sine && drive.amperes == AmperesAs::peak ? 1 / std::numbers::sqrt2 : 1) * drive_share(drive, site);
    // derated to nothing it gives nothing; what is not specified stays without a bound
    const auto bound = [per](const auto& current) { return current.given() ? per * current.si : infinite; };
    c.drive_continuous = bound(drive.continuous_current);
    c.drive_peak = bound(drive.peak_current);
    if (motor.stepper()) {
        const double dial = drive.dial == AmperesAs::peak ? 1 / std::numbers::sqrt2 : 1;
        c.drive_continuous = infinite;
        c.drive_peak = drive.phase_current.given() ? dial * drive.phase_current.si : stepper_numbers(motor).current;
    }
    c.cold = drive.cold.given() ? drive.cold.si - zero_celsius : 20;
    c.hot = (drive.hot.given() ? drive.hot.si : motor.winding_limit.value_or(zero_celsius + 20)) - zero_celsius;
    // a cool room is not taken as a licence for more than the sheet's torque
    c.heat_factor = std::min(
        1.0, permitted_heat(motor.winding_limit.si, motor.rated_ambient.si, site.ambient.si, site.altitude.si));
    const double derating = motor.derating.value_or(1);
    c.heat_factor *= derating * derating;
    if (const auto* forcer = std::get_if<LinearForcer>(&motor.electric))
        c.mechanical_speed = forcer->top_speed.value_or(infinite);
    else
        c.mechanical_speed = motor.max_speed.value_or(infinite);
    c.top_frequency = motor.stepper() ? infinite : drive.top_frequency.value_or(infinite);
    return c;
}

ElectricModel::ElectricModel(const MotorNumbers& numbers, const MotorConditions& conditions)
    : n_(numbers), c_(conditions) {
    known_ = std::isfinite(n_.k) && n_.k > 0;
    if (!known_) {
        missing_ = n_.stepper  ? "holding torque and rated current"
                   : n_.linear ? "a force or voltage constant"
                               : "a torque, voltage or speed constant";
        return;
    }
    phase_voltage_ = c_.bus * c_.phase_share * c_.reserve;
    if (n_.sine_driven) {
        amperes_ = std::numbers::sqrt2;
        cold_ = sine_machine(n_, c_.cold, c_.cold);
        hot_ = sine_machine(n_, c_.hot, c_.hot);
    } else {
        cold_ = dc_machine(n_, c_.cold, c_.cold);
        hot_ = dc_machine(n_, c_.hot, c_.hot);
    }
    double motor_peak = n_.peak_current;
    if (std::isnan(motor_peak) && n_.peak_torque > 0)
        motor_peak = n_.peak_torque / (n_.torque_constant() * n_.torque_share());
    motor_peak = positive_or(motor_peak, infinite);
    peak_current_ = amperes_ * std::min(motor_peak, c_.drive_peak);
    current_bound_ = motor_peak < c_.drive_peak ? BoundBy::motor_current : BoundBy::drive_current;

    // heat is told by the square of the current, so that it can be said without a resistance
    double stall = n_.stall_torque;
    // the stall torque of a DC sheet is no rating: it is what the resistance lets through
    if (!n_.sine_driven) stall = no_number;
    const double rest_current = n_.sine_driven ? n_.stall_current : no_number;
    const double rest = stall > 0 ? current_at_rest(stall) : amperes_ * rest_current;
    const auto turning = [&](double torque, double current) {
        if (!(torque > 0)) return amperes_ * current;
        const double friction = n_.friction();
        return current_at_rest(torque + friction);
    };
    const double running = turning(n_.rated_torque, n_.rated_current);
    rated_ = rest > 0 || running > 0;
    standstill_derated_ = rated_ && !(rest > 0);
    rated_square_ = rest > 0 ? rest * rest : running * running;
    rated_speed_ = positive_or(n_.rated_speed, 1);
    if (rest > 0 && running > 0 && n_.rated_speed > 0) speed_square_ = std::max(0.0, rest * rest - running * running);
}

double ElectricModel::current_at_rest(double torque) const {
    return std::visit(Overloaded{[&](const SineMachine& m) { return current_for(m, torque).value_or(no_number); },
                          [&](const DcMachine& m) {
                              return current_for(m, {infinite, infinite}, torque, 0).value_or(no_number);
                          }},
        hot_);
}

std::string ElectricModel::approximate() const {
    std::string out;
    for (const char* key : left_out()) out += (out.empty() ? "" : ", ") + std::string(key);
    std::replace(out.begin(), out.end(), '_', ' ');
    return out;
}

double ElectricModel::speed_limit() const {
    const double by_frequency = n_.pole_pairs > 0 && std::isfinite(c_.top_frequency)
                                    ? 2 * std::numbers::pi * c_.top_frequency / n_.pole_pairs
                                    : infinite;
    return std::min(c_.mechanical_speed, by_frequency);
}

TorqueBound ElectricModel::peak(double speed, Quadrant quadrant, bool hot) const {
    TorqueBound b = current_bound(speed, quadrant, hot);
    b.voltage = voltage_of(b, std::abs(speed));
    return b;
}

double ElectricModel::holding(bool idle) const {
    const double share = idle ? c_.idle_share : 1;
    return share * std::min(torque_of(peak_current_ / amperes_, false), torque_of(peak_current_ / amperes_, true));
}

MotorDraw ElectricModel::idle_draw() const {
    MotorDraw d = draw_within(0, 0, true, true);
    const double k = c_.idle_share;
    d.current *= k;
    d.iq *= k;
    d.copper_loss *= k * k;
    d.voltage *= k;
    return d;
}

double ElectricModel::stepping_end() const {
    const double most = speed_limit();
    const auto gives = [&](double w) {
        return std::min(current_bound(w, Quadrant::motoring, false).torque,
                   current_bound(w, Quadrant::motoring, true).torque) > 1e-3 * holding(false);
    };
    double high = std::max(corner_speed(false), corner_speed(true));
    if (!(high > 0)) high = 1;
    if (!std::isfinite(high)) return most;
    while (gives(high)) {
        if (high > most) return most;
        if ((high *= 2) > 1e7) return infinite;
    }
    double low = 0;
    for (int i = 0; i < 60; ++i) {
        const double middle = (low + high) / 2;
        (gives(middle) ? low : high) = middle;
    }
    return std::min(low, most);
}

TorqueBound ElectricModel::current_bound(double speed, Quadrant quadrant, bool hot) const {
    const double w = std::abs(speed);
    TorqueBound b;
    b.hot = hot;
    if (w > speed_limit() * (1 + 1e-12)) return {0, BoundBy::mechanical, 0, 0, hot};
    const bool motoring = quadrant == Quadrant::motoring;
    const auto close = [&](double iq, double turn, bool full) {
        b.bound = std::abs(iq) >= turn * (1 - 1e-12) ? BoundBy::saturation : full ? current_bound_ : BoundBy::voltage;
    };
    std::visit(Overloaded{[&](const SineMachine& m) {
                              const SineSupply s{peak_current_, phase_voltage_, c_.weakening};
                              const double turn = fulmox::turning_current(m);
                              const auto i = motoring ? highest(m, s, w) : lowest(m, s, w);
                              const auto runs_away = [&] {
                                  if (c_.weakening || !(w > 0)) return false;
                                  const auto top = highest(m, s, w);
                                  return !top || top->q < 0;
                              };
                              if (motoring && (!i || i->q <= 0)) {
                                  b.torque = 0;
                                  b.bound = BoundBy::voltage;
                                  return;
                              }
                              // above the no-load speed the EMF drives the current through the drive's diodes
                              if (!motoring && (!i || runs_away())) {
                                  b.torque = no_number;
                                  b.bound = BoundBy::unknown;
                                  return;
                              }
                              b.id = i->d;
                              b.iq = motoring ? std::min(i->q, turn) : std::max(i->q, -turn);
                              if (b.iq != i->q)
                                  if (const auto less = currents(m, s, torque(m, b.iq), w)) b.id = less->d;
                              b.torque = std::max(0.0, (motoring ? 1 : -1) * torque(m, b.iq));
                              // standing it holds all of it; friction is not counted on to brake
                              if (n_.stepper && w > 0)
                                  b.torque = std::max(
                                      0.0, b.torque - n_.stepper->detent - (motoring ? n_.stepper->friction : 0));
                              close(b.iq, turn, std::abs(i->q) >= peak_current_ * (1 - 1e-9));
                          },
                   [&](const DcMachine& m) {
                       const DcSupply s{peak_current_, c_.bus};
                       const double turn = fulmox::turning_current(m);
                       const double top = highest_current(m, s, w);
                       if (motoring) {
                           b.iq = std::min(top, turn);
                           b.torque = b.iq > 0 ? std::max(0.0, shaft_torque(m, b.iq, w)) : 0;
                           close(b.iq, turn, b.iq >= peak_current_ * (1 - 1e-12));
                           return;
                       }
                       const auto low = lowest_current(m, s, w);
                       if (!low || top < 0) {
                           b.torque = no_number;
                           b.bound = BoundBy::unknown;
                           return;
                       }
                       b.iq = std::max(*low, -turn);
                       b.torque = -shaft_torque(m, b.iq, w);
                       close(b.iq, turn, -b.iq >= peak_current_ * (1 - 1e-12));
                   }},
        machine(hot));
    return b;
}

double ElectricModel::voltage_of(const TorqueBound& b, double speed) const {
    if (std::isnan(b.torque)) return no_number;
    return std::visit(Overloaded{[&](const SineMachine& m) {
                                     return phase_voltage(m, {b.id, b.iq}, speed);
                                 },
                          [&](const DcMachine& m) { return std::abs(terminal_voltage(m, b.iq, speed)); }},
        machine(b.hot));
}

TorqueBound ElectricModel::peak(double speed, Quadrant quadrant) const {
    const TorqueBound cold = current_bound(speed, quadrant, false), hot = current_bound(speed, quadrant, true);
    TorqueBound worse = std::isnan(cold.torque)                                 ? cold
                        : std::isnan(hot.torque) || !(cold.torque < hot.torque) ? hot
                                                                                : cold;
    worse.voltage = voltage_of(worse, std::abs(speed));
    return worse;
}

// Square of the current that heat leaves at a speed, A².
double ElectricModel::heat_budget(double speed) const {
    const double w = std::abs(speed) / rated_speed_;
    const double at_rest = standstill_derated_ && speed == 0 ? 0.5 : 1;
    return c_.heat_factor * rated_square_ * at_rest - speed_square_ * w * w;
}

TorqueBound ElectricModel::continuous(double speed) const {
    const double w = std::abs(speed);
    if (!rated_) return {no_number, BoundBy::unknown, 0, 0, true};
    if (w > speed_limit() * (1 + 1e-12)) return {0, BoundBy::mechanical, 0, 0, true};
    const double by_heat = std::sqrt(std::max(0.0, heat_budget(w)));
    const double by_drive = amperes_ * c_.drive_continuous, most = std::min({by_heat, by_drive, peak_current_});
    TorqueBound b;
    b.bound = most == by_heat ? BoundBy::heat : most == by_drive ? BoundBy::drive_current : current_bound_;
    std::visit(Overloaded{[&](const SineMachine& m) {
                              const auto i = highest(m, {most, phase_voltage_, c_.weakening}, w);
                              if (!i || i->q <= 0) {
                                  b.bound = by_heat > 0 ? BoundBy::voltage : BoundBy::heat;
                                  return;
                              }
                              const double turn = fulmox::turning_current(m);
                              b.id = i->d;
                              b.iq = std::min(i->q, turn);
                              b.torque = torque(m, b.iq);
                              if (i->q < most * (1 - 1e-9)) b.bound = BoundBy::voltage;
                              if (i->q > turn) b.bound = BoundBy::saturation;
                          },
                   [&](const DcMachine& m) {
                       b.iq = std::min(highest_current(m, {most, c_.bus}, w), fulmox::turning_current(m));
                       b.torque = b.iq > 0 ? std::max(0.0, shaft_torque(m, b.iq, w)) : 0;
                       if (b.iq < most * (1 - 1e-12)) b.bound = BoundBy::voltage;
                   }},
        hot_);
    if (n_.stepper && w > 0) b.torque = std::max(0.0, b.torque - n_.stepper->detent - n_.stepper->friction);
    b.voltage = voltage_of(b, w);
    return b;
}

double ElectricModel::heat_reference() const {
    return rated_ ? torque_of(std::sqrt(c_.heat_factor * rated_square_) / amperes_, true) : no_number;
}

double ElectricModel::heat_use(double torque, double speed) const {
    if (!rated_) return no_number;
    const MotorDraw d = draw(torque, speed, true);
    return d.possible ? heat_of(d, speed) : infinite;
}

double ElectricModel::heat_of(const MotorDraw& d, double speed) const {
    const double w = std::abs(speed) / rated_speed_, at_rest = standstill_derated_ && speed == 0 ? 0.5 : 1;
    return (d.id * d.id + d.iq * d.iq + speed_square_ * w * w) / (c_.heat_factor * rated_square_ * at_rest);
}

double ElectricModel::rated_square() const { return rated_ ? rated_square_ / (amperes_ * amperes_) : no_number; }

double ElectricModel::loss_per_square(bool hot) const {
    return std::visit(Overloaded{[](const SineMachine& m) { return m.phases * m.resistance; },
                          [](const DcMachine& m) { return m.resistance; }},
        machine(hot));
}

std::vector<const char*> ElectricModel::left_out() const {
    std::vector<const char*> out;
    if (std::isnan(n_.resistance)) out.push_back("resistance");
    if (!n_.sine_driven) return out;
    if (std::isnan(n_.inductance)) out.push_back("inductance");
    if (std::isnan(n_.pole_pairs)) out.push_back(n_.linear ? "pole_pitch" : "pole_pairs");
    return out;
}

double ElectricModel::heat_of_speed(double speed) const {
    const double w = std::abs(speed) / rated_speed_;
    return speed_square_ * w * w / (c_.heat_factor * rated_square_);
}
double ElectricModel::speed_share(double speed) const {
    const double w = speed / rated_speed_;
    return speed_square_ * w * w / rated_square_;
}

MotorDraw ElectricModel::draw(double torque, double speed, bool hot) const {
    return draw_within(torque, speed, hot, false);
}

MotorDraw ElectricModel::without_voltage_limit(double torque, double speed) const {
    return draw_within(torque, speed, true, true);
}

double ElectricModel::voltage_needed(double torque, double speed) const {
    const MotorDraw cold = draw_within(torque, speed, false, true), hot = draw_within(torque, speed, true, true);
    return cold.possible && hot.possible ? std::max(cold.voltage, hot.voltage) : no_number;
}

double ElectricModel::voltage_bound(const MotorDraw& hot, double speed) const {
    const double w = std::abs(speed);
    return std::visit(
        [&](const auto& cold) {
            const auto& warm = std::get<std::decay_t<decltype(cold)>>(hot_);
            const double resistance = std::max(cold.resistance, warm.resistance);
            if constexpr (std::is_same_v<std::decay_t<decltype(cold)>, SineMachine>) {
                const double i = std::abs(hot.iq) * std::max(1.0, warm.k / cold.k);
                const double q = resistance * i + std::max(emf_constant(cold), emf_constant(warm)) * w,
                             d = cold.pole_pairs * w * cold.inductance * i;
                return std::sqrt(3 * (q * q + d * d));
            } else {
                const double flux = std::max(1.0, warm.torque_constant / cold.torque_constant);
                return resistance * std::abs(hot.iq) * flux +
                       std::max(cold.voltage_constant, warm.voltage_constant) * w + cold.brush_drop;
            }
        },
        cold_);
}

double ElectricModel::voltage_there() const { return n_.sine_driven ? std::numbers::sqrt3 * phase_voltage_ : c_.bus; }

double ElectricModel::commutation(double speed) const {
    if (n_.sine_driven || n_.base == EmfBase::dc) return no_number;
    return n_.pole_pairs * std::abs(speed) * n_.inductance / motor_constants::copper_at(n_.resistance, c_.cold);
}

MotorDraw ElectricModel::draw_within(double torque, double speed, bool hot, bool any_voltage) const {
    MotorDraw d;
    const auto impossible = [&] {
        d.possible = false;
        d.current = d.id = d.iq = d.copper_loss = d.voltage = no_number;
    };
    if (fixed_current()) {
        d.iq = peak_current_;
        d.current = peak_current_ / amperes_;
        const SineMachine& m = std::get<SineMachine>(machine(hot));
        d.copper_loss = std::isnan(n_.resistance) ? no_number : copper_loss(m, {0, d.iq});
        d.voltage = phase_voltage(m, {0, d.iq}, 0);
        return d;
    }
    if (n_.stepper && speed != 0) torque += std::copysign(n_.stepper->detent + n_.stepper->friction, speed);
    std::visit(Overloaded{[&](const SineMachine& m) {
                              if (any_voltage || !c_.weakening) {
                                  // no current but i_q: asked for at every node of a cycle
                                  const double turn = speed < 0 ? -1 : 1;
                                  const auto iq = current_for(m, turn * torque);
                                  if (!iq) return impossible();
                                  d.iq = turn * *iq;
                                  d.current = std::abs(d.iq) / std::numbers::sqrt2;
                                  d.copper_loss = std::isnan(n_.resistance) ? no_number : copper_loss(m, {0, d.iq});
                                  const double v = phase_voltage(m, {0, d.iq}, speed);
                                  d.voltage = std::numbers::sqrt3 * v;
                                  if (!any_voltage && v > phase_voltage_ * (1 + 1e-12)) impossible();
                                  return;
                              }
                              const SineSupply s{infinite, phase_voltage_, true};
                              const auto i = currents(m, s, torque, speed);
                              if (!i) return impossible();
                              d.id = i->d;
                              d.iq = i->q;
                              d.current = std::sqrt((i->d * i->d + i->q * i->q) / 2);
                              d.copper_loss = std::isnan(n_.resistance) ? no_number : copper_loss(m, *i);
                              d.voltage = std::numbers::sqrt3 * phase_voltage(m, *i, speed);
                          },
                   [&](const DcMachine& m) {
                       const DcSupply s{infinite, any_voltage ? infinite : c_.bus};
                       const auto i = current_for(m, s, torque, speed);
                       if (!i) return impossible();
                       d.iq = *i;
                       d.current = std::abs(*i);
                       d.copper_loss = std::isnan(n_.resistance) ? no_number : copper_loss(m, *i);
                       d.voltage = std::abs(terminal_voltage(m, *i, speed));
                   }},
        machine(hot));
    return d;
}

MotorDraw ElectricModel::draw(double torque, double speed) const {
    const MotorDraw cold = draw(torque, speed, false), hot = draw(torque, speed, true);
    if (!cold.possible) return cold;
    if (!hot.possible) return hot;
    MotorDraw worse = cold.current > hot.current ? cold : hot;
    worse.copper_loss = std::max(cold.copper_loss, hot.copper_loss);
    worse.voltage = std::max(cold.voltage, hot.voltage);
    return worse;
}

double ElectricModel::torque_of(double current, bool hot) const {
    return std::visit(Overloaded{[&](const SineMachine& m) { return torque(m, amperes_ * current); },
                          [&](const DcMachine& m) { return shaft_torque(m, current, 0); }},
        machine(hot));
}

double ElectricModel::constant_of_axis() const {
    return std::visit(Overloaded{[](const SineMachine& m) { return m.phases / 2 * m.k; },
                          [](const DcMachine& m) { return m.torque_constant; }},
        hot_);
}

double ElectricModel::corner_speed(bool hot) const {
    return std::visit(Overloaded{[&](const SineMachine& m) {
                                     return fulmox::corner_speed(m, {peak_current_, phase_voltage_, c_.weakening});
                                 },
                          [&](const DcMachine& m) {
                              return fulmox::corner_speed(m, {peak_current_, c_.bus});
                          }},
        machine(hot));
}

double ElectricModel::no_load_speed(bool hot) const {
    return std::visit(Overloaded{[&](const SineMachine& m) { return phase_voltage_ / emf_constant(m); },
                          [&](const DcMachine& m) {
                              return fulmox::no_load_speed(m, {infinite, c_.bus});
                          }},
        machine(hot));
}

double ElectricModel::motoring_end(bool hot) const {
    return std::visit(Overloaded{[&](const SineMachine& m) {
                                     return fulmox::motoring_end(m, {peak_current_, phase_voltage_, c_.weakening});
                                 },
                          [&](const DcMachine& m) {
                              return fulmox::no_load_speed(m, {infinite, c_.bus});
                          }},
        machine(hot));
}

double ElectricModel::characteristic_current() const {
    const auto* m = std::get_if<SineMachine>(&cold_);
    return m ? fulmox::characteristic_current(*m) / std::numbers::sqrt2 : no_number;
}

double ElectricModel::turning_current() const {
    return std::visit([&](const auto& m) { return fulmox::turning_current(m) / amperes_; }, cold_);
}

double ElectricModel::open_circuit_emf(double speed) const {
    const double k = n_.k * n_.emf_share() * flux_at(n_.magnet, c_.cold);
    const double line = n_.base == EmfBase::dc ? 1 : voltage_conventions(n_.base)[1].factor;
    return line * k * std::abs(speed);
}

double ElectricModel::electrical_frequency(double speed) const {
    return n_.pole_pairs * std::abs(speed) / (2 * std::numbers::pi);
}

std::optional<ElectricModel::Best> ElectricModel::best_efficiency() const {
    if (!(n_.resistance > 0)) return std::nullopt;
    // loss beside copper, by speed: friction of a DC machine is in its current already
    const bool friction = n_.friction() > 0;
    if (!friction && !(speed_square_ > 0)) return std::nullopt;
    const double resistance = motor_constants::copper_at(n_.resistance, c_.hot) * (n_.sine_driven ? n_.phases / 4 : 1);
    const double end =
        std::min(n_.sine_driven && c_.weakening ? std::min(motoring_end(true), speed_limit()) : no_load_speed(true),
            speed_limit());
    if (!std::isfinite(end) || !(end > 0)) return std::nullopt;
    const auto at = [&](double torque, double speed) {
        const MotorDraw d = draw(torque, speed, true);
        if (!d.possible) return 0.0;
        const double w = speed / rated_speed_;
        // friction of the no-load current leaves at the shaft, not in the copper
        const double by_speed = friction ? n_.friction() * speed : resistance * speed_square_ * w * w;
        const double out = torque * speed;
        return out / (out + d.copper_loss + by_speed);
    };
    const auto best_torque = [&](double speed) {
        const double most = peak(speed, Quadrant::motoring, true).torque;
        const auto r = boost::math::tools::brent_find_minima([&](double t) { return -at(t, speed); }, 0.0, most, 40);
        return std::pair(r.first, -r.second);
    };
    const auto r =
        boost::math::tools::brent_find_minima([&](double w) { return -best_torque(w).second; }, end * 1e-3, end, 40);
    const auto [t, efficiency] = best_torque(r.first);
    return Best{efficiency, t, r.first};
}

} // namespace fulmox

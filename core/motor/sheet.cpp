#include "core/motor/sheet.h"

#include "core/model/walk.h"
#include "core/motor/constants.h"
#include "core/motor/curves.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <iterator>
#include <numbers>
#include <optional>

namespace fulmox {

namespace {

constexpr double unknown = MotorNumbers::unknown;
using motor_constants::zero_celsius;
constexpr double agreement = 0.04, reading = 0.05;
constexpr double silent_constant = 0.05, silent_winding = 0.10;

double si(const QuantityBase& q) { return q.given() ? q.si : unknown; }
double celsius(const QuantityBase& q) { return q.given() ? q.si - zero_celsius : 20; }

template <class C, class E> double factor_of(C conventions, E choice) {
    return conventions[static_cast<std::size_t>(choice)].factor;
}

// Constants at 20 °C from one of another temperature: flux falls, copper rises.
double at_20(double value, double flux) { return flux > 0 ? value / flux : unknown; }

struct Candidate {
    const char* label;
    double k;
    bool rating = false; // of a torque and its current
};

void take_first(MotorNumbers& n, std::initializer_list<Candidate> candidates) {
    for (const Candidate& c : candidates)
        if (std::isfinite(c.k) && c.k > 0) {
            n.k = c.k;
            n.k_from = c.label;
            n.k_from_rating = c.rating;
            return;
        }
}

// An entry that tells k by itself.
struct Tells {
    const char* key;
    const char* label;
    const QuantityBase* entry;
    Kind kind;
    bool speed = false; // quoted = factor/k, not factor·k
    double factor = 1;  // of the convention it is read by
    double flux = 1;

    double k() const { return speed ? 1 / (entry->si * factor) / flux : entry->si / factor / flux; }
    double implied(double other_k) const { return speed ? 1 / (other_k * flux * factor) : other_k * flux * factor; }
};

double tolerance_of(const QuantityBase& q, double silent) {
    return q.given() && q.tolerance > 0 && q.si != 0 ? std::abs(q.tolerance / q.si) : silent;
}

// What each kind of sheet may say of k.
std::vector<Tells> tells_of(const SineMotor& m) {
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    const auto t = torque_conventions(EmfBase::sine), v = voltage_conventions(EmfBase::sine);
    return {{"torque_constant", "torque constant", &m.torque_constant, Kind::torque_constant, false,
                factor_of(t, m.torque_per), flux},
        {"voltage_constant", "voltage constant", &m.voltage_constant, Kind::voltage_constant, false,
            factor_of(v, m.voltage_of), flux},
        {"speed_constant", "speed constant", &m.speed_constant, Kind::speed_constant, true, factor_of(v, m.speed_of),
            flux}};
}
std::vector<Tells> tells_of(const BlockMotor& m) {
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    const EmfBase base = m.emf == EmfShape::sine ? EmfBase::sine : EmfBase::trapezoid;
    const auto v = voltage_conventions(base);
    return {{"torque_constant", "torque constant", &m.torque_constant, Kind::torque_constant, false,
                torque_conventions(base).back().factor, flux},
        {"voltage_constant", "voltage constant", &m.voltage_constant, Kind::voltage_constant, false,
            factor_of(v, m.voltage_of), flux},
        {"speed_constant", "speed constant", &m.speed_constant, Kind::speed_constant, true, v[1].factor, flux}};
}
std::vector<Tells> tells_of(const BrushedMotor& m) {
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    return {{"torque_constant", "torque constant", &m.torque_constant, Kind::torque_constant, false, 1, flux},
        {"voltage_constant", "voltage constant", &m.voltage_constant, Kind::voltage_constant, false, 1, flux},
        {"speed_constant", "speed constant", &m.speed_constant, Kind::speed_constant, true, 1, flux}};
}
std::vector<Tells> tells_of(const LinearForcer& m) {
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    const auto t = torque_conventions(EmfBase::sine), v = voltage_conventions(EmfBase::sine);
    return {{"force_constant", "force constant", &m.force_constant, Kind::force_constant, false,
                factor_of(t, m.force_per), flux},
        {"voltage_constant", "voltage constant", &m.voltage_constant, Kind::linear_voltage_constant, false,
            factor_of(v, m.voltage_of), flux}};
}
template <class M> std::vector<Tells> tells_of(const M&) { return {}; } // steppers

Verdict verdict_of(double factor, double tolerance) {
    const double off = std::abs(factor - 1);
    return off <= agreement ? Verdict::agrees : off <= tolerance ? Verdict::within_tolerance : Verdict::contradicts;
}

// Until somebody says how the sheet is to be read no bound is drawn from the constant that flatters it.
void take_tighter(MotorNumbers& n, const Motor& motor) {
    const std::vector<Tells> all = std::visit([](const auto& held) { return tells_of(held); }, motor.electric);
    bool against = false;
    const Tells *least = nullptr, *most = nullptr;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Tells& a = all[i];
        if (!a.entry->given() || !(a.k() > 0) || !std::isfinite(a.k())) continue;
        if (!least || a.k() < least->k()) least = &a;
        if (!most || a.k() > most->k()) most = &a;
        for (std::size_t j = i + 1; j < all.size(); ++j)
            if (const Tells& b = all[j]; b.entry->given() && b.k() > 0 && std::isfinite(b.k()))
                against = against || verdict_of(a.entry->si / a.implied(b.k()),
                                         tolerance_of(*a.entry, silent_constant) +
                                             tolerance_of(*b.entry, silent_constant)) == Verdict::contradicts;
    }
    if (!against) return;
    n.k_torque = least->k();
    n.k_emf = most->k();
    n.k_torque_from = least->label;
    n.k_emf_from = most->label;
}

template <class M> void take_winding(MotorNumbers& n, const M& m) {
    double r = si(m.resistance), l = si(m.inductance);
    if constexpr (requires { m.resistance_of; }) {
        r /= factor_of(winding_conventions(), m.resistance_of);
        l /= factor_of(winding_conventions(), m.inductance_of);
    }
    n.resistance = r / motor_constants::copper_at(1, celsius(m.resistance_at));
    n.inductance = l;
    n.magnet = m.magnet;
}

template <class M> void take_ratings(MotorNumbers& n, const M& m, double per_ampere) {
    n.stall_torque = si(m.stall_torque);
    n.stall_current = si(m.stall_current) * per_ampere;
    n.rated_torque = si(m.rated_torque);
    n.rated_current = si(m.rated_current) * per_ampere;
    n.rated_speed = si(m.rated_speed);
    n.rated_power = si(m.rated_power);
    n.peak_torque = si(m.peak_torque);
    n.peak_current = si(m.peak_current) * per_ampere;
}

template <class M> void take_no_load(MotorNumbers& n, const M& m) {
    n.rated_voltage = si(m.rated_voltage);
    n.no_load_speed = si(m.no_load_speed);
    n.no_load_current = si(m.no_load_current);
}

double rms_per_ampere(AmperesAs as) { return as == AmperesAs::peak ? 1 / std::numbers::sqrt2 : 1; }

MotorNumbers numbers_of(const SineMotor& m) {
    MotorNumbers n;
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    const auto t = torque_conventions(n.base), v = voltage_conventions(n.base);
    take_winding(n, m);
    take_ratings(n, m, rms_per_ampere(m.amperes));
    n.pole_pairs = si(m.pole_pairs);
    take_first(n, {{"Torque constant", at_20(si(m.torque_constant) / factor_of(t, m.torque_per), flux)},
                      {"Voltage constant", at_20(si(m.voltage_constant) / factor_of(v, m.voltage_of), flux)},
                      {"Speed constant", at_20(1 / (si(m.speed_constant) * factor_of(v, m.speed_of)), flux)},
                      {"Standstill torque and current", n.stall_torque / n.stall_current / t[0].factor, true},
                      {"Rated torque and current", n.rated_torque / n.rated_current / t[0].factor, true}});
    return n;
}

MotorNumbers numbers_of(const BlockMotor& m) {
    MotorNumbers n;
    n.base = m.emf == EmfShape::sine ? EmfBase::sine : EmfBase::trapezoid;
    n.sine_driven = false;
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    const double per_dc = torque_conventions(n.base).back().factor;
    const auto v = voltage_conventions(n.base);
    take_winding(n, m);
    take_ratings(n, m, 1);
    take_no_load(n, m);
    n.pole_pairs = si(m.pole_pairs);
    take_first(n, {{"Torque constant", at_20(si(m.torque_constant) / per_dc, flux)},
                      {"Voltage constant", at_20(si(m.voltage_constant) / factor_of(v, m.voltage_of), flux)},
                      {"Speed constant", at_20(1 / (si(m.speed_constant) * v[1].factor), flux)},
                      {"Stall torque and current", n.stall_torque / n.stall_current / per_dc, true},
                      {"Rated torque and current", n.rated_torque / n.rated_current / per_dc, true}});
    return n;
}

MotorNumbers numbers_of(const BrushedMotor& m) {
    MotorNumbers n;
    n.base = EmfBase::dc;
    n.sine_driven = false;
    const double flux = flux_at(m.magnet, celsius(m.constants_at));
    take_winding(n, m);
    take_ratings(n, m, 1);
    take_no_load(n, m);
    n.brush_drop = m.brush_drop.value_or(0);
    n.brush_speed = si(m.brush_speed);
    take_first(n, {{"Torque constant", at_20(si(m.torque_constant), flux)},
                      {"Voltage constant", at_20(si(m.voltage_constant), flux)},
                      {"Speed constant", at_20(1 / si(m.speed_constant), flux)},
                      {"Stall torque and current", n.stall_torque / n.stall_current, true},
                      {"Rated torque and current", n.rated_torque / n.rated_current, true}});
    return n;
}

MotorNumbers numbers_of(const LinearForcer& m) {
    MotorNumbers n;
    n.linear = true;
    const double flux = flux_at(m.magnet, celsius(m.constants_at)), per = rms_per_ampere(m.amperes);
    const auto t = torque_conventions(n.base), v = voltage_conventions(n.base);
    take_winding(n, m);
    n.pole_pairs = std::numbers::pi / si(m.pole_pitch);
    n.stall_torque = si(m.continuous_force);
    n.stall_current = si(m.continuous_current) * per;
    n.peak_torque = si(m.peak_force);
    n.peak_current = si(m.peak_current) * per;
    take_first(n, {{"Force constant", at_20(si(m.force_constant) / factor_of(t, m.force_per), flux)},
                      {"Voltage constant", at_20(si(m.voltage_constant) / factor_of(v, m.voltage_of), flux)},
                      {"Continuous force and current", n.stall_torque / n.stall_current / t[0].factor, true}});
    return n;
}

template <class M> MotorNumbers numbers_of_stepper(const Motor& motor, const M& m, EmfBase base) {
    MotorNumbers n;
    n.base = base;
    StepperNumbers s = stepper_numbers(motor);
    n.phases = s.phases;
    n.k = at_20(s.constant, flux_at(m.magnet, celsius(m.constants_at)));
    if (!(n.k > 0) || !std::isfinite(n.k)) n.k = unknown;
    n.k_from = "Holding torque and rated current";
    n.k_from_rating = true;
    n.resistance = 2 * s.resistance / motor_constants::copper_at(1, celsius(m.resistance_at));
    n.inductance = 2 * s.inductance;
    n.pole_pairs = s.teeth;
    n.magnet = m.magnet;
    n.stall_current = s.current;
    n.stepper = std::move(s);
    return n;
}

} // namespace

double MotorNumbers::torque_constant() const {
    return k * (sine_driven ? torque_conventions(base).front().factor : torque_conventions(base).back().factor);
}

double MotorNumbers::voltage_constant() const {
    if (base == EmfBase::dc) return k;
    return k * voltage_conventions(base)[sine_driven ? 0 : 1].factor;
}

double MotorNumbers::motor_constant() const {
    return torque_constant() / std::sqrt((sine_driven ? phases / 2 : 1) * resistance);
}

double MotorNumbers::friction() const {
    const double f = torque_constant() * emf_share() * no_load_current;
    return std::isnan(f) ? 0 : f;
}

std::string tighter_words(const MotorNumbers& n) {
    if (!n.contradicts()) return {};
    return "the sheet contradicts itself: until a reading is taken " + std::string(n.linear ? "force" : "torque") +
           " by the " + n.k_torque_from + ", voltage by the " + n.k_emf_from;
}

void MotorNumbers::take_first_constant() {
    k_torque = k_emf = unknown;
    const double beta = peak_saturation(*this);
    saturation = beta > agreement && beta < 1 ? beta : 0;
}

double peak_saturation(const MotorNumbers& n) { return 1 - n.peak_torque / (n.torque_constant() * n.peak_current); }

MotorNumbers motor_numbers(const Motor& motor) {
    MotorNumbers n = std::visit(
        [&](const auto& held) {
            using M = std::decay_t<decltype(held)>;
            if constexpr (std::is_same_v<M, TwoPhaseStepper>)
                return numbers_of_stepper(motor, held, EmfBase::two_phase);
            else if constexpr (std::is_same_v<M, FivePhaseStepper>)
                return numbers_of_stepper(motor, held, EmfBase::five_phase);
            else
                return numbers_of(held);
        },
        motor.electric);
    n.rotor = motor.rotor_inertia.given() ? motor.rotor_inertia.si : unknown;
    take_tighter(n, motor);
    const double beta = 1 - n.peak_torque / (n.torque_constant() * n.torque_share() * n.peak_current);
    // what the peak point loses within the scatter of the constants is no saturation
    if (beta > agreement && beta < 1) n.saturation = beta;
    return n;
}

QuotedRatings quoted_ratings(const Motor& motor) {
    const MotorNumbers n = motor_numbers(motor);
    // the stall torque of a DC sheet is what the resistance lets through, no rating
    if (n.stepper)
        return {n.stepper->holding, motor.peak.empty() ? unknown : si(motor.peak.front().torque), si(motor.max_speed)};
    QuotedRatings q{n.sine_driven && n.stall_torque > 0 ? n.stall_torque : n.rated_torque, n.peak_torque, unknown};
    if (const auto* forcer = std::get_if<LinearForcer>(&motor.electric)) {
        q.speed = si(forcer->top_speed);
        return q;
    }
    q.speed = si(motor.max_speed);
    if (!motor.continuous.empty()) q.continuous = si(motor.continuous.front().torque);
    if (!motor.peak.empty()) q.peak = si(motor.peak.front().torque);
    return q;
}

double rated_voltage(const Motor& motor) {
    return std::visit(
        [](const auto& held) {
            // of a stepper it is what the resistance takes at the rated current, not its supply
            if constexpr (requires { held.holding_torque; })
                return unknown;
            else if constexpr (requires { held.rated_voltage; })
                return si(held.rated_voltage);
            else
                return unknown;
        },
        motor.electric);
}

SineMachine sine_machine(const MotorNumbers& n, double winding, double magnet) {
    const auto or_0 = [](double x) { return std::isnan(x) ? 0 : x; };
    SineMachine m;
    m.phases = n.phases;
    m.k = n.k * n.torque_share() * flux_at(n.magnet, magnet);
    if (n.contradicts()) m.emf = n.k_emf * flux_at(n.magnet, magnet);
    m.resistance = or_0(motor_constants::copper_at(n.resistance / 2, winding));
    m.inductance = std::isnan(n.pole_pairs) ? 0 : or_0(n.inductance / 2);
    m.pole_pairs = or_0(n.pole_pairs);
    if (n.saturation > 0) {
        m.saturation = n.saturation;
        m.reference_current = n.peak_current * std::numbers::sqrt2;
    }
    return m;
}

DcMachine dc_machine(const MotorNumbers& n, double winding, double magnet) {
    const auto or_0 = [](double x) { return std::isnan(x) ? 0 : x; };
    const double flux = flux_at(n.magnet, magnet);
    DcMachine m;
    m.torque_constant = n.torque_constant() * n.torque_share() * flux;
    // what the EMF takes from the bus while two terminals conduct, mean over the block: with a sine 3/π of its peak
    m.voltage_constant = n.torque_constant() * n.emf_share() * flux;
    m.resistance = or_0(motor_constants::copper_at(n.resistance, winding));
    m.inductance = or_0(n.inductance);
    m.pole_pairs = or_0(n.pole_pairs);
    m.brush_drop = n.brush_drop;
    m.friction = n.friction();
    if (n.saturation > 0) {
        m.saturation = n.saturation;
        m.reference_current = n.peak_current;
    }
    return m;
}

const char* verdict_key(Verdict v) {
    return v == Verdict::agrees ? "agrees" : v == Verdict::within_tolerance ? "within_tolerance" : "contradicts";
}

namespace {

class Pairs {
  public:
    explicit Pairs(const Motor& motor) : motor_(motor), n_(motor_numbers(motor)) {
        std::visit([this](const auto& held) { compare(held); }, motor.electric);
    }
    std::vector<SheetPair> take() { return std::move(out_); }

  private:
    const Motor& motor_;
    MotorNumbers n_;
    std::vector<SheetPair> out_;

    // Nothing where one side is not known. What is entered may be less for a reason; then that is no contradiction.
    void add(SheetPair p, const std::string& reason = "") {
        if (!std::isfinite(p.entered) || !std::isfinite(p.implied) || p.implied == 0) return;
        p.factor = p.entered / p.implied;
        p.verdict = reason.empty() ? verdict_of(p.factor, p.tolerance) : Verdict::agrees;
        if (!reason.empty()) p.note = reason;
        out_.push_back(std::move(p));
    }
    static SheetPair pair(std::string key, std::string label, std::vector<std::string> fields, Kind kind,
        double entered, double implied, double tolerance) {
        SheetPair p;
        p.key = std::move(key);
        p.label = std::move(label);
        p.fields = std::move(fields);
        p.kind = kind;
        p.entered = entered;
        p.implied = implied;
        p.tolerance = tolerance;
        return p;
    }

    void constants(const std::vector<Tells>& all) {
        for (std::size_t i = 0; i < all.size(); ++i)
            for (std::size_t j = i + 1; j < all.size(); ++j) {
                const Tells &a = all[i], &b = all[j];
                if (!a.entry->given() || !b.entry->given()) continue;
                std::string label = std::string(a.label) + " against " + b.label;
                label.front() = static_cast<char>(label.front() - 'a' + 'A');
                add(pair(std::string(a.key) + "/" + b.key, label, {a.key, b.key}, a.kind, a.entry->si, a.implied(b.k()),
                    tolerance_of(*a.entry, silent_constant) + tolerance_of(*b.entry, silent_constant)));
            }
    }

    // A torque against its current by the constant that counts; where that is made of the two there is nothing to say.
    void by_current(const char* torque, const QuantityBase& entered, const char* current, const QuantityBase& amperes,
        double of, double numbers_current, Kind kind, const char* label) {
        if (n_.k_from_rating) return;
        add(pair(std::string(torque) + "/" + current, std::string(label) + " against current and constant",
            {torque, current}, kind, of, n_.torque_constant() * numbers_current,
            tolerance_of(entered, silent_constant) + silent_constant + tolerance_of(amperes, 0)));
    }

    template <class M> void ratings(const M& m) {
        const double idle = std::isnan(n_.no_load_current) ? 0 : n_.no_load_current;
        by_current("stall_torque", m.stall_torque, "stall_current", m.stall_current, n_.stall_torque, n_.stall_current,
            Kind::torque, n_.sine_driven ? "Standstill torque" : "Stall torque");
        by_current("rated_torque", m.rated_torque, "rated_current", m.rated_current, n_.rated_torque,
            n_.rated_current - idle, Kind::torque, "Rated torque");
        peak(m.peak_torque, "peak_torque", Kind::torque);
        add(pair("rated_power/rated_torque", "Rated power against torque and speed",
            {"rated_power", "rated_torque", "rated_speed"}, Kind::power, n_.rated_power,
            n_.rated_torque * n_.rated_speed, 2 * silent_constant));
    }

    void peak(const QuantityBase& entered, const char* key, Kind kind) {
        if (n_.k_from_rating) return;
        SheetPair p = pair(std::string(key) + "/peak_current",
            std::string(kind == Kind::force ? "Peak force" : "Peak torque") + " against current and constant",
            {key, "peak_current"}, kind, n_.peak_torque, n_.torque_constant() * n_.peak_current,
            tolerance_of(entered, silent_constant) + silent_constant);
        const double beta = peak_saturation(n_);
        if (beta > agreement && beta <= 1.0 / 3)
            return add(std::move(p), "saturation of β = " + format_number(beta, 3));
        if (beta > 1.0 / 3)
            p.note = "β = " + format_number(beta, 3) + " is above 1/3: the torque would fall before the peak current";
        add(std::move(p));
    }

    template <class M> void winding(const M& m, Kind km_kind) {
        const double of_resistance = tolerance_of(m.resistance, silent_winding);
        add(pair("motor_constant/resistance",
            "Motor constant against " + std::string(n_.linear ? "force" : "torque") + " constant and resistance",
            {"motor_constant", "resistance"}, km_kind, si(m.motor_constant), n_.motor_constant(),
            tolerance_of(m.motor_constant, silent_constant) + silent_constant + of_resistance / 2));
        add(pair("electrical_time_constant/inductance", "Electrical time constant against inductance and resistance",
            {"electrical_time_constant", "inductance", "resistance"}, Kind::time, si(m.electrical_time_constant),
            n_.inductance / n_.resistance, tolerance_of(m.inductance, silent_winding) + of_resistance));
        if constexpr (requires { m.mechanical_time_constant; }) {
            const double own = n_.motor_constant(), constant = std::isnan(own) ? si(m.motor_constant) : own;
            add(pair("mechanical_time_constant/rotor_inertia",
                "Mechanical time constant against rotor inertia and motor constant",
                {"mechanical_time_constant", "rotor_inertia", "resistance"}, Kind::time, si(m.mechanical_time_constant),
                n_.rotor / (constant * constant), 2 * silent_constant + of_resistance));
        }
    }

    void no_load(const QuantityBase& resistance) {
        const double volts = n_.rated_voltage - n_.brush_drop, drop = n_.resistance * n_.no_load_current;
        add(pair("stall_current/resistance", "Stall current against rated voltage and resistance",
            {"stall_current", "rated_voltage", "resistance"}, Kind::current, n_.stall_current, volts / n_.resistance,
            tolerance_of(resistance, silent_winding) + silent_constant));
        add(pair("no_load_speed/rated_voltage", "No-load speed against rated voltage and constant",
            {"no_load_speed", "rated_voltage"}, Kind::angular_speed, n_.no_load_speed,
            (volts - (std::isnan(drop) ? 0 : drop)) / n_.torque_constant(), 2 * silent_constant));
    }

    // The peak curve cannot go beyond where the EMF takes the whole voltage, unless the field is weakened.
    void curve_end() {
        if (motor_.peak.empty() || !motor_.curve_voltage.given() || !motor_.peak.back().speed.given()) return;
        const double volts = motor_.curve_voltage.si;
        SheetPair p = pair("peak/curve_voltage", "End of the peak curve against no-load speed at its voltage",
            {"peak", "curve_voltage"}, Kind::angular_speed, motor_.peak.back().speed.si,
            n_.sine_driven ? volts / std::numbers::sqrt3 / n_.k : (volts - n_.brush_drop) / n_.torque_constant(),
            2 * silent_constant);
        if (p.entered <= p.implied) return add(std::move(p), "it ends below the no-load speed");
        p.note = "only a drive that weakens the field goes beyond the no-load speed";
        add(std::move(p));
    }

    void compare(const SineMotor& m) {
        constants(tells_of(m));
        winding(m, Kind::motor_constant);
        ratings(m);
        curve_end();
    }
    void compare(const BlockMotor& m) {
        constants(tells_of(m));
        winding(m, Kind::motor_constant);
        ratings(m);
        no_load(m.resistance);
        curve_end();
    }
    void compare(const BrushedMotor& m) {
        constants(tells_of(m));
        winding(m, Kind::motor_constant);
        ratings(m);
        no_load(m.resistance);
        curve_end();
    }
    template <class M> void compare_stepper(const M& m) {
        add(pair("rated_voltage/resistance", "Rated voltage against current and resistance",
            {"rated_voltage", "rated_current", "resistance"}, Kind::voltage, si(m.rated_voltage),
            si(m.rated_current) * si(m.resistance),
            tolerance_of(m.rated_voltage, silent_constant) + tolerance_of(m.resistance, silent_winding)));
        // standing still with the phases on a motor cannot give more in the run than it holds
        if (!motor_.peak.empty() && motor_.peak.front().torque.given() && n_.stepper->curve_amplitude > 0) {
            SheetPair p = pair("peak/holding_torque", "Pull-out torque at the lowest speed against holding torque",
                {"peak", "holding_torque"}, Kind::torque, motor_.peak.front().torque.si,
                n_.stepper->holding_at(n_.stepper->curve_amplitude), 2 * silent_constant);
            if (p.entered <= p.implied) return add(std::move(p), "it is below what is held at the curve's current");
            p.note = "a motor cannot run with more torque than it holds at the curve's current: is that current RMS?";
            add(std::move(p));
        }
    }
    void compare(const TwoPhaseStepper& m) { compare_stepper(m); }
    void compare(const FivePhaseStepper& m) { compare_stepper(m); }
    void compare(const LinearForcer& m) {
        constants(tells_of(m));
        winding(m, Kind::linear_motor_constant);
        by_current("continuous_force", m.continuous_force, "continuous_current", m.continuous_current, n_.stall_torque,
            n_.stall_current, Kind::force, "Continuous force");
        peak(m.peak_force, "peak_force", Kind::force);
    }
};

const SheetPair* same_pair(const std::vector<SheetPair>& all, const std::string& key) {
    const auto it = std::find_if(all.begin(), all.end(), [&](const SheetPair& p) { return p.key == key; });
    return it == all.end() ? nullptr : &*it;
}

// A slip of the pen that no choice of the sheet mends: what it would have been, and in words.
struct Slip {
    const char* key;
    const char* words;
    double factor;
};

constexpr double rpm_per_rad = 60 / (2 * std::numbers::pi);
constexpr Slip slips[] = {
    {"speed_constant", "the speed constant is a number in rad/s per volt that was written as rpm per volt",
        rpm_per_rad},
    {"speed_constant", "the speed constant is a number in rpm per volt that was written as rad/s per volt",
        1 / rpm_per_rad},
    {"voltage_constant", "the voltage constant is a number per rad/s that was written as per rpm", 1 / rpm_per_rad},
    {"voltage_constant", "the voltage constant is a number per rpm that was written as per rad/s", rpm_per_rad},
};

} // namespace

std::vector<SheetPair> check_sheet(const Motor& motor) {
    std::vector<SheetPair> out = Pairs(motor).take();
    const auto try_reading = [&](const Motor& read, const std::string& field, int option, const std::string& words) {
        const std::vector<SheetPair> now = Pairs(read).take();
        for (SheetPair& p : out) {
            if (p.verdict == Verdict::agrees) continue;
            const SheetPair* other = same_pair(now, p.key);
            if (!other || std::abs(other->factor / p.factor - 1) < 1e-9 || std::abs(other->factor - 1) > reading)
                continue;
            p.readings.push_back({field, option, words, other->factor, motor_numbers(read)});
        }
    };
    const auto with_curves = [&] {
        std::vector<SheetPair> curves = check_curves(motor);
        std::move(curves.begin(), curves.end(), std::back_inserter(out));
        std::stable_sort(
            out.begin(), out.end(), [](const SheetPair& a, const SheetPair& b) { return a.verdict > b.verdict; });
        return std::move(out);
    };
    if (std::all_of(out.begin(), out.end(), [](const SheetPair& p) { return p.verdict == Verdict::agrees; }))
        return with_curves();
    Motor copy = motor;
    for (FieldRef& f : walk(copy)) {
        if (!f.active || !f.path.starts_with("/electric/")) continue;
        const std::string key = f.path.substr(f.path.rfind('/') + 1);
        if (f.type == FieldRef::Type::choice) {
            const int now = f.chosen();
            for (int i = 0; i < static_cast<int>(f.choice_spec.options.size()); ++i) {
                if (i == now) continue;
                f.choose(i);
                const char* option = f.choice_spec.options[static_cast<std::size_t>(i)].label;
                try_reading(copy, key, i, std::string(f.choice_spec.label) + " " + option);
            }
            f.choose(now);
        } else if (f.type == FieldRef::Type::quantity && f.quantity->given()) {
            const double now = f.quantity->si;
            for (const Slip& slip : slips) {
                if (key != slip.key) continue;
                f.quantity->si = now * slip.factor;
                try_reading(copy, key, -1, slip.words);
            }
            f.quantity->si = now;
        }
    }
    // a torque constant set equal to the line-to-line peak voltage constant, as of a DC motor
    const MotorNumbers n = motor_numbers(motor);
    if (n.base == EmfBase::sine && !n.linear)
        for (SheetPair& p : out) {
            if (p.verdict == Verdict::agrees || p.fields.front() != "torque_constant") continue;
            // implied is in the convention it was entered by; the DC rule would have put √3 k there
            const double per = std::visit(
                [&](const auto& held) {
                    if constexpr (requires { held.torque_per; })
                        return factor_of(torque_conventions(EmfBase::sine), held.torque_per);
                    else
                        return torque_conventions(EmfBase::sine).back().factor;
                },
                motor.electric);
            const double naive = p.implied / per * std::sqrt(3.0), left = p.entered / naive;
            if (std::abs(left - 1) > reading) continue;
            Motor without = motor;
            std::visit(
                [](auto& held) {
                    if constexpr (requires { held.torque_constant; }) held.torque_constant = {};
                },
                without.electric);
            p.readings.push_back({"torque_constant", -1,
                "the torque constant was set equal to the line-to-line peak voltage constant, as of a DC motor; the "
                "other one then counts",
                left, motor_numbers(without)});
        }
    return with_curves();
}

} // namespace fulmox

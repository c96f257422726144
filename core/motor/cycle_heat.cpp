#include "core/motor/cycle_heat.h"

#include "core/demand/span_polynomial.h"
#include "core/motor/constants.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {

namespace {

using motor_constants::copper_at;
using motor_constants::zero_celsius;
using Nodes = SpanPolynomial::Nodes;

double celsius(const QuantityBase& q, double otherwise) { return q.given() ? q.si - zero_celsius : otherwise; }

// Loss by speed in units of the copper's, at the nodes of a span.
class SpeedLoss {
  public:
    SpeedLoss(const Motor& motor, const Capability& can, double rated_loss, bool in_watts)
        : can_(can), rated_(rated_loss), typed_(motor.speed_loss.si), at_(motor.speed_loss_at.si),
          exponent_(motor.speed_loss_exponent.value_or(1.5)), in_watts_(in_watts) {}

    bool known() const { return !typed() || in_watts_; }
    double operator()(double speed) const {
        const double w = std::abs(speed);
        if (typed()) return typed_ * std::pow(w / at_, exponent_);
        const double share = can_.continuous_by_model ? can_.model->speed_share(w) : by_curve(w);
        // where nothing is rated nothing tells it
        return share > 0 && rated_ > 0 ? share * rated_ : 0;
    }

  private:
    const Capability& can_;
    double rated_, typed_, at_, exponent_;
    bool in_watts_;

    bool typed() const { return typed_ > 0 && at_ > 0; }
    double by_curve(double w) const {
        const SpeedTorqueCurve& c = can_.continuous;
        const double stall = c.stall(), now = c.at(std::min(w, c.end()));
        return stall > 0 ? 1 - now * now / (stall * stall) : 0;
    }
};

// What moves of a span is sampled at its nodes; the stretches are as many as the shortest time constant asks for.
void add_stretches(std::vector<HeatStretch>& out, const Span& s, const Nodes& copper, const Nodes& other, double fine) {
    const double lasts = s.lasting();
    const auto [low, high] = std::minmax_element(copper.begin(), copper.end());
    const bool steady = s.direction == 0 || *high - *low <= 1e-9 * std::abs(*high);
    const auto parts =
        steady || !(fine > 0) ? 1 : static_cast<int>(std::clamp(std::ceil(lasts / fine - 1e-9), 1.0, 32.0));
    const SpanNodes& nodes = span_nodes();
    if (parts == 1) {
        HeatStretch h{lasts, 0, 0};
        for (std::size_t i = 0; i < span_node_count; ++i) {
            h.copper += nodes.weight[i] * copper[i];
            h.other += nodes.weight[i] * other[i];
        }
        out.push_back(h);
        return;
    }
    const SpanPolynomial c(copper), o(other);
    for (int k = 0; k < parts; ++k) {
        const double from = static_cast<double>(k) / parts, to = static_cast<double>(k + 1) / parts;
        out.push_back({lasts / parts, integral(c, from, to) * parts, integral(o, from, to) * parts});
    }
}

// Stretches much shorter than any time constant are taken together, up to `most` s: long cycles have tens of thousands.
std::vector<HeatStretch> joined(const std::vector<HeatStretch>& all, double most) {
    if (!(most > 0)) return all;
    std::vector<HeatStretch> out;
    for (const HeatStretch& h : all) {
        if (!out.empty() && out.back().lasts + h.lasts <= most) {
            HeatStretch& whole = out.back();
            const double both = whole.lasts + h.lasts;
            if (!(both > 0)) continue;
            whole.copper = (whole.copper * whole.lasts + h.copper * h.lasts) / both;
            whole.other = (whole.other * whole.lasts + h.other * h.lasts) / both;
            whole.lasts = both;
        } else {
            out.push_back(h);
        }
    }
    return out;
}

} // namespace

CycleHeat thermal_motor(const Motor& motor, const Drive& drive, const Site& site, const Capability& can) {
    CycleHeat out;
    const ElectricModel* model = can.model ? &*can.model : nullptr;
    const MotorConditions conditions = motor_conditions(motor, drive, site);
    const double hot = conditions.hot;
    ThermalMotor& t = out.motor;
    t.ambient = site.ambient.si - zero_celsius;
    t.limit = motor.winding_limit.si - zero_celsius;
    t.reference = hot;
    out.fixed_current = model && model->fixed_current();
    if (model && !out.fixed_current) t.flux_fall = flux_fall(model->numbers().magnet);
    out.in_watts = model && model->numbers().resistance > 0;

    const double rise =
        motor.rated_rise.given() ? motor.rated_rise.si : motor.winding_limit.si - motor.rated_ambient.si;
    // the rated copper loss is that at the rated temperature; losses here are at the hot one
    const double warmer = copper_at(1, celsius(motor.rated_ambient, 40) + rise) / copper_at(1, hot);
    double rated = no_number;
    if (model && !can.continuous_by_model && !can.continuous.empty()) {
        // the curve of the sheet tells what may run continuously
        const MotorDraw draw = model->without_voltage_limit(can.continuous.stall(), 0);
        rated = draw.possible ? (out.in_watts ? draw.copper_loss : draw.current * draw.current) : no_number;
    } else if (model) {
        rated = model->rated_square() * (out.in_watts ? model->loss_per_square(true) : 1);
    } else if (!can.continuous.empty()) {
        rated = can.continuous.stall() * can.continuous.stall();
    }
    out.rated_loss = rated * warmer;
    // thinner air and what is built in leave less of the cooling
    const double altitude = site.altitude.si;
    const double air = altitude > 1000 ? 1 - 0.01 * (altitude - 1000) / 100 : 1;
    const double derating = motor.derating.value_or(1);
    out.by_rating = !motor.thermal_resistance.given() || !out.in_watts;
    if (!out.by_rating)
        t.resistance = motor.thermal_resistance.si / air;
    else
        t.resistance = rise / out.rated_loss / (air * derating * derating);
    // in K/W, as long as losses are watts
    if (motor.winding_resistance.given() && out.in_watts) t.winding_resistance = motor.winding_resistance.si;
    t.time_constant = motor.thermal_time_constant.si;
    t.winding_time_constant = motor.winding_time_constant.si;

    const SpeedLoss speed_loss(motor, can, out.rated_loss, out.in_watts);
    if (motor.thermal_resistance.given() && !out.in_watts)
        out.missing = "the winding's resistance, which makes watts of its current";
    else if (!(t.resistance > 0))
        out.missing = "a continuous rating, or resistance and thermal resistance";
    else if (t.winding_resistance >= t.resistance)
        out.missing = "a thermal resistance above that from winding to housing";
    else if (!speed_loss.known())
        out.missing = "the winding's resistance, to compare with the loss in watts";
    return out;
}

namespace {

// Energy in and back of a power over a span.
std::pair<double, double> by_sign(const Nodes& power, double lasts) {
    std::pair<double, double> out;
    const auto add = [&](double part) { (part > 0 ? out.first : out.second) += lasts * std::abs(part); };
    const NodeRange range = range_of(power);
    if (!range.changes_sign()) {
        double sum = 0;
        for (std::size_t i = 0; i < span_node_count; ++i) sum += span_nodes().weight[i] * power[i];
        add(sum);
        return out;
    }
    const SpanPolynomial p(power);
    const SignEdges edges = sign_edges(power, range);
    for (std::size_t i = 1; i < edges.count; ++i) add(integral(p, edges.u[i - 1], edges.u[i]));
    return out;
}

// What comes in at the terminals, instant by instant; losses at the temperatures that the cycle comes to.
CycleEnergy energy_of_cycle(
    const MotorUse& use, const CycleHeat& heat, const std::vector<Nodes>& other, const Demand& d, double own_loss) {
    CycleEnergy e;
    if (!heat.in_watts) return e;
    e.motor = e.losses = e.fed = 0;
    const bool known = heat.missing.empty() && heat.heat.settles && heat.copper > 0;
    const double warm = known ? heat.heat.copper / heat.copper : 1;
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        if (s.regime == Regime::braked) {
            e.fed += s.lasting() * own_loss;
            continue;
        }
        Nodes power;
        for (std::size_t i = 0; i < span_node_count; ++i) {
            const double loss = warm * use.copper[k][i] + other[k][i];
            power[i] = d.samples[k].torque[i] * d.samples[k].speed[i] + loss;
            e.losses += s.lasting() * span_nodes().weight[i] * loss;
        }
        const auto [in, back] = by_sign(power, s.lasting());
        e.motor += in;
        e.returned += back;
        // what comes back first feeds the drive
        if (own_loss > 0)
            for (double& p : power) p += own_loss;
        e.fed += own_loss > 0 ? by_sign(power, s.lasting()).first : in;
    }
    return e;
}

} // namespace

CycleHeat cycle_heat(const Motor& motor, const Drive& drive, const Site& site, const MotorUse& use, const Demand& d) {
    CycleHeat out = thermal_motor(motor, drive, site, use.can);
    if (!out.missing.empty()) return out;
    if (!motor.speed_loss.given() && !use.can.continuous_by_model && !use.can.continuous.empty() &&
        d.peak_speed > use.can.continuous.end() * (1 + 1e-12)) {
        out.missing = "a continuous curve up to the cycle's top speed, or the loss by speed";
        return out;
    }
    const ThermalMotor& t = out.motor;
    const SpeedLoss speed_loss(motor, use.can, out.rated_loss, out.in_watts);
    const double fine = std::isnan(t.winding_time_constant) ? t.time_constant / 20 : t.winding_time_constant / 20;
    std::vector<HeatStretch> stretches;
    stretches.reserve(d.spans.size());
    std::vector<Nodes> others(d.spans.size(), Nodes{});
    double by_nodes = 0;
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        if (d.spans[k].regime == Regime::braked) continue;
        for (std::size_t i = 0; i < span_node_count; ++i) {
            others[k][i] = speed_loss(d.samples[k].speed[i]);
            by_nodes += d.spans[k].lasting() / d.cycle_time * span_nodes().weight[i] * others[k][i];
        }
    }
    // the curve's bends lie between nodes: its mean is known exactly from the loss method
    const double stall = use.can.continuous.stall();
    if (!motor.speed_loss.given() && !use.can.continuous_by_model && by_nodes > 0 && use.speed_heat > 0 && stall > 0) {
        const double exact = use.speed_heat / (stall * stall) * out.rated_loss / by_nodes;
        for (Nodes& nodes : others)
            for (double& loss : nodes) loss *= exact;
    }
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        if (s.regime == Regime::braked) {
            stretches.push_back({s.lasting(), 0, 0});
            continue;
        }
        const Nodes& other = others[k];
        // turns that are alike come span by span: over all of them the mean counts
        if (s.times > 1) {
            const double lasts = s.lasting();
            HeatStretch h{lasts, 0, 0};
            for (std::size_t i = 0; i < span_node_count; ++i) {
                h.copper += span_nodes().weight[i] * use.copper[k][i];
                h.other += span_nodes().weight[i] * other[i];
            }
            if (k > 0 && d.spans[k - 1].times > 1 && d.spans[k - 1].first_turn == s.first_turn) {
                HeatStretch& whole = stretches.back();
                const double all = whole.lasts + lasts;
                whole.copper = (whole.copper * whole.lasts + h.copper * lasts) / all;
                whole.other = (whole.other * whole.lasts + h.other * lasts) / all;
                whole.lasts = all;
            } else {
                stretches.push_back(h);
            }
            continue;
        }
        add_stretches(stretches, s, use.copper[k], other, fine);
    }
    out.heat = steady_heat(t, joined(stretches, fine / 10));
    for (const HeatStretch& h : stretches) {
        out.copper += h.lasts * h.copper / d.cycle_time;
        out.other += h.lasts * h.other / d.cycle_time;
    }
    if (!std::isfinite(out.copper + out.other)) {
        out.missing = "a current at every torque of the cycle";
        return out;
    }
    out.settles = greatest_that_settles(t, out.copper, out.other);
    out.within_limit = greatest_within_limit(t, out.copper, out.other);
    out.energy = energy_of_cycle(use, out, others, d, drive.own_loss.value_or(0));
    return out;
}

SteadyMotor::SteadyMotor(const Motor& motor, const Drive& drive, const Site& site, Capability can)
    : motor_(motor), can_(std::move(can)), heat_(thermal_motor(motor, drive, site, can_)), bus_(drive.lowest_bus()) {}

SteadyPoint SteadyMotor::at(double speed, double torque) const {
    SteadyPoint out;
    const double most = can_.peak_at(speed, torque < 0);
    out.left = most - std::abs(torque);
    out.possible = speed <= std::max(can_.max_speed, 0.0) * (1 + 1e-12) && out.left >= 0;
    if (!out.possible) return out;
    const bool by_curve = !can_.model;
    double copper = torque * torque;
    if (!by_curve) {
        const MotorDraw d = can_.model->without_voltage_limit(torque, speed);
        const MotorDraw real = can_.model->draw(torque, speed, true);
        const MotorDraw& taken = real.possible ? real : d; // the sheet's own curve may say more than its constants
        copper = heat_.in_watts ? taken.copper_loss : taken.current * taken.current;
    }
    const SpeedLoss speed_loss(motor_, can_, heat_.rated_loss, heat_.in_watts);
    // a continuous curve of the sheet tells no loss beyond its end
    const bool beyond = !motor_.speed_loss.given() && !can_.continuous_by_model && !can_.continuous.empty() &&
                        speed > can_.continuous.end() * (1 + 1e-12);
    if (beyond || !speed_loss.known()) return out;
    const double other = speed_loss(speed);
    double now = copper;
    if (heat_.missing.empty()) {
        const SteadyHeat h = steady_heat(heat_.motor, {{1, copper, other}});
        out.settles = h.settles;
        if (!h.settles) return out;
        out.winding = h.mean.winding;
        now = h.copper;
    }
    if (!heat_.in_watts) return out;
    out.loss = now + other;
    if (bus_ > 0) out.supply_current = (torque * speed + out.loss) / bus_;
    return out;
}

} // namespace fulmox

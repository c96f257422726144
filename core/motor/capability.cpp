#include "core/motor/capability.h"

#include "core/motor/constants.h"

// math.h first: this Boost calls isnan unqualified
#include <math.h>

#include <algorithm>
#include <boost/math/interpolators/pchip.hpp>
#include <boost/math/quadrature/gauss.hpp>
#include <boost/math/tools/minima.hpp>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>

namespace fulmox {

namespace {

using Gauss = boost::math::quadrature::gauss<double, 7>;
constexpr double nan = std::numeric_limits<double>::quiet_NaN();

// Cuts a span where the speed passes a knot of a curve, so that each part sees one polynomial.
std::vector<double> edges_at_knots(const Demand& d, const Span& s, const std::vector<double>& knots) {
    std::vector<double> edges{s.start, s.start + s.duration};
    const double v0 = std::abs(evaluate(d.load, s, edges[0]).speed);
    const double v1 = std::abs(evaluate(d.load, s, edges[1]).speed);
    for (const double k : knots) {
        if ((v0 - k) * (v1 - k) >= 0) continue;
        std::uintmax_t most = 60;
        const auto f = [&](double t) { return std::abs(evaluate(d.load, s, t).speed) - k; };
        const auto [a, b] = boost::math::tools::toms748_solve(
            f, s.start, s.start + s.duration, v0 - k, v1 - k, boost::math::tools::eps_tolerance<double>(36), most);
        edges.push_back((a + b) / 2);
    }
    std::sort(edges.begin(), edges.end());
    return edges;
}

} // namespace

SpeedTorqueCurve::SpeedTorqueCurve(const std::vector<CurvePoint>& points, double speed_scale) {
    for (const CurvePoint& p : points) {
        speeds_.push_back(p.speed.si * speed_scale);
        torques_.push_back(p.torque.si);
    }
    if (points.size() >= 4) {
        auto x = speeds_;
        auto y = torques_;
        smooth_ = boost::math::interpolators::pchip<std::vector<double>>(std::move(x), std::move(y));
    }
}

double SpeedTorqueCurve::at(double speed) const {
    const double w = std::abs(speed);
    if (speeds_.empty()) return 0;
    if (w >= speeds_.back()) return w <= speeds_.back() * (1 + 1e-12) ? torques_.back() : 0;
    if (smooth_) return smooth_(w);
    const auto it = std::upper_bound(speeds_.begin(), speeds_.end(), w);
    const auto i = static_cast<std::size_t>(it - speeds_.begin());
    const double f = (w - speeds_[i - 1]) / (speeds_[i] - speeds_[i - 1]);
    return torques_[i - 1] + f * (torques_[i] - torques_[i - 1]);
}

double SpeedTorqueCurve::least(double slow, double fast) const {
    double out = std::min(at(slow), at(fast));
    for (std::size_t i = 0; i < speeds_.size(); ++i)
        if (speeds_[i] > slow && speeds_[i] < fast) out = std::min(out, torques_[i]);
    return out;
}

bool SpeedTorqueCurve::knot_between(double slow, double fast) const {
    return std::any_of(speeds_.begin(), speeds_.end(), [&](double w) { return w > slow && w < fast; });
}

double Capability::continuous_at(double speed) const {
    const double w = std::abs(speed);
    if (w > continuous.end()) return 0;
    const double stall = continuous.stall();
    const double now = continuous.at(w);
    const double heat = heat_factor * stall * stall - (stall * stall - now * now);
    return std::min(std::sqrt(std::max(0.0, heat)), peak.at(w));
}

double Capability::continuous_stall() const { return continuous.stall() * std::sqrt(heat_factor); }

double permitted_heat(double winding_limit, double rated_ambient, double ambient, double altitude) {
    const double by_ambient = (winding_limit - ambient) / (winding_limit - rated_ambient);
    const double by_altitude = altitude > 1000 ? 1 - 0.01 * (altitude - 1000) / 100 : 1;
    return std::max(0.0, by_ambient * by_altitude);
}

Capability capability(const Motor& motor, const Drive& drive, const Site& site) {
    Capability c;
    c.speed_scale = drive.bus_voltage.si / motor.curve_voltage.si;
    c.peak = SpeedTorqueCurve(motor.peak, c.speed_scale);
    c.continuous = SpeedTorqueCurve(motor.continuous, 1);
    c.mechanical_speed = motor.max_speed.si;
    c.max_speed = std::min(c.mechanical_speed, c.peak.end());
    // a cool room is not taken as a licence for more than the sheet's torque
    c.heat_factor = std::min(
        1.0, permitted_heat(motor.winding_limit.si, motor.rated_ambient.si, site.ambient.si, site.altitude.si));
    return c;
}

MotorUse motor_use(const Demand& d, Capability can, const Motor& motor) {
    MotorUse u;
    u.can = std::move(can);
    double heat = 0;
    const double stall = u.can.continuous.stall();
    const SpanNodes& nodes = span_nodes();
    const auto over_curve = [&](double torque, double speed) {
        const double allowed = u.can.peak.at(speed);
        if (allowed > 0) return std::abs(torque) / allowed;
        return torque == 0 ? 0 : std::numeric_limits<double>::infinity();
    };
    const auto take = [&](const Span& s, double t) {
        const ShaftState e = evaluate(d.load, s, t);
        const double used = over_curve(e.torque, e.speed);
        if (!(used > u.worst_peak_use)) return;
        u.worst_peak_use = used;
        u.worst_peak = {t, e.speed, e.torque, s.piece.segment, e};
        u.worst_peak_allowed = u.can.peak.at(e.speed);
    };
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        if (d.spans[k].regime == Regime::braked) continue;
        for (std::size_t i = 0; i < nodes.at.size(); ++i)
            if (over_curve(d.samples[k].torque[i], d.samples[k].speed[i]) > u.worst_peak_use)
                take(d.spans[k], d.spans[k].start + nodes.at[i] * d.spans[k].duration);
    }
    // cycles repeat their moves: a span like one already looked into has nothing new
    std::vector<std::array<double, 4>> known;
    const auto looked_into = [&](const SpanSamples& e) {
        const std::array<double, 4> now{e.speed.front(), e.speed.back(), e.torque.front(), e.torque.back()};
        const auto same = [&](const std::array<double, 4>& old) {
            for (std::size_t i = 0; i < now.size(); ++i)
                if (std::abs(now[i] - old[i]) > 1e-9 * (std::abs(now[i]) + 1e-9)) return false;
            return true;
        };
        if (std::any_of(known.begin(), known.end(), same)) return true;
        if (known.size() < 200) known.push_back(now);
        return false;
    };
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        if (s.regime == Regime::braked) continue;
        const SpanSamples& e = d.samples[k];
        const auto [slow, fast] = std::minmax_element(
            e.speed.begin(), e.speed.end(), [](double a, double b) { return std::abs(a) < std::abs(b); });
        // between the nodes the curve may sag or the torque bulge: looked into only where that could be the worst place
        const double slack = s.piece.uniform() ? 1 + 1e-9 : 1.005;
        bool could_be_worse = false;
        for (std::size_t i = 1; s.direction != 0 && i < nodes.at.size(); ++i) {
            const double a = std::abs(e.speed[i - 1]), b = std::abs(e.speed[i]);
            const double lowest = u.can.peak.least(std::min(a, b), std::max(a, b));
            const double torque = std::max(std::abs(e.torque[i - 1]), std::abs(e.torque[i]));
            could_be_worse = could_be_worse || (lowest > 0 && slack * torque / lowest > u.worst_peak_use);
        }
        if (could_be_worse && !looked_into(e)) {
            const std::vector<double> edges = edges_at_knots(d, s, u.can.peak.speeds());
            for (std::size_t i = 0; i < edges.size(); ++i) {
                take(s, edges[i]);
                if (i == 0 || edges[i] - edges[i - 1] <= 0) continue;
                const auto inside = boost::math::tools::brent_find_minima(
                    [&](double t) {
                        const ShaftState now = evaluate(d.load, s, t);
                        return -std::min(over_curve(now.torque, now.speed), 1e300);
                    },
                    edges[i - 1], edges[i], 30);
                take(s, inside.first);
            }
        }
        const auto heat_at = [&](double t, double speed) {
            const double c = u.can.continuous.at(speed);
            return t * t + stall * stall - c * c;
        };
        if (!u.can.continuous.knot_between(std::abs(*slow), std::abs(*fast))) {
            for (std::size_t i = 1; i + 1 < nodes.at.size(); ++i)
                heat += nodes.weight[i] * s.duration * heat_at(e.torque[i], e.speed[i]);
            continue;
        }
        const std::vector<double> cuts = edges_at_knots(d, s, u.can.continuous.speeds());
        for (std::size_t i = 1; i < cuts.size(); ++i)
            heat += Gauss::integrate(
                [&](double t) {
                    const ShaftState now = evaluate(d.load, s, t);
                    return heat_at(now.torque, now.speed);
                },
                cuts[i - 1], cuts[i]);
    }
    u.loss_mean = heat / d.cycle_time;
    const bool inside = d.peak_speed <= u.can.continuous.end() * (1 + 1e-12);
    u.loss_use = inside ? std::sqrt(std::max(0.0, u.loss_mean) / (u.can.heat_factor * stall * stall)) : nan;
    u.point_allowed = d.rms_speed <= u.can.continuous.end() ? u.can.continuous_at(d.rms_speed) : nan;
    const double kt = motor.torque_constant.value_or(nan);
    u.rms_current = d.rms_torque / kt;
    u.peak_current = std::abs(d.peak.torque) / kt;
    u.copper_loss = motor_constants::copper_loss(u.rms_current, motor.resistance.value_or(nan));
    return u;
}

} // namespace fulmox

#include "core/motor/capability.h"

#include "core/demand/span_polynomial.h"
#include "core/motor/constants.h"

// math.h first: this Boost calls isnan unqualified
#include <math.h>

#include <algorithm>
#include <boost/math/interpolators/pchip.hpp>
#include <boost/math/tools/minima.hpp>
#include <cmath>

namespace fulmox {

namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

} // namespace

SpeedTorqueCurve::SpeedTorqueCurve(const std::vector<CurvePoint>& points, double speed_scale) {
    for (const CurvePoint& p : points) {
        speeds_.push_back(p.speed.si * speed_scale);
        torques_.push_back(p.torque.si);
    }
    const std::size_t n = points.size();
    std::vector<double> slopes(n, 0.0);
    const bool smooth = n >= 4;
    if (smooth) {
        auto x = speeds_;
        auto y = torques_;
        const boost::math::interpolators::pchip<std::vector<double>> curve(std::move(x), std::move(y));
        for (std::size_t i = 0; i < n; ++i) slopes[i] = curve.prime(speeds_[i]);
    }
    // the cubic of each stretch, so that a value costs three products
    for (std::size_t i = 0; i + 1 < n; ++i) {
        const double h = speeds_[i + 1] - speeds_[i], chord = (torques_[i + 1] - torques_[i]) / h;
        if (!smooth)
            cubics_.push_back({torques_[i], chord, 0, 0});
        else
            cubics_.push_back({torques_[i], slopes[i], (3 * chord - 2 * slopes[i] - slopes[i + 1]) / h,
                (slopes[i] + slopes[i + 1] - 2 * chord) / (h * h)});
    }
}

double SpeedTorqueCurve::at(double speed) const {
    const double w = std::abs(speed);
    if (speeds_.empty()) return 0;
    if (w >= speeds_.back()) return w <= speeds_.back() * (1 + 1e-12) ? torques_.back() : 0;
    std::size_t i = 0;
    while (i + 1 < cubics_.size() && w >= speeds_[i + 1]) ++i;
    const double d = w - speeds_[i];
    const auto& c = cubics_[i];
    return c[0] + d * (c[1] + d * (c[2] + d * c[3]));
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

namespace {

// Goes through the spans of a demand with the curves of a motor.
class Use {
  public:
    Use(const Demand& d, MotorUse& u) : d_(d), u_(u), stall_(u.can.continuous.stall()) {}

    void peaks() {
        const ShaftPoint& start = d_.breakaway;
        if (over_curve(start.torque, 0) > 0) {
            u_.worst_peak_use = over_curve(start.torque, 0);
            u_.worst_peak = start;
            u_.worst_peak_allowed = u_.can.peak.stall();
        }
        // the nodes first: what they come to is not looked for again between them
        std::vector<double> most(d_.spans.size()); // the largest torque over the least the curve gives in each span
        for (std::size_t k = 0; k < d_.spans.size(); ++k) {
            if (d_.spans[k].regime == Regime::braked) continue;
            const SpanSamples& e = d_.samples[k];
            most[k] = most_over_curve(e.torque, e.speed);
            if (most[k] <= u_.worst_peak_use) continue;
            for (std::size_t i = 0; i < span_node_count; ++i)
                if (over_curve(e.torque[i], e.speed[i]) > u_.worst_peak_use) take(d_.spans[k], span_nodes().at[i]);
        }
        for (std::size_t k = 0; k < d_.spans.size(); ++k) {
            const Span& s = d_.spans[k];
            const SpanSamples& e = d_.samples[k];
            // between the nodes the curve may sag or the torque bulge; beyond its end the nodes have said so
            const double bulge = s.piece.uniform() ? 1 + 1e-9 : 1.005;
            if (s.direction == 0 || !std::isfinite(most[k]) || bulge * most[k] <= u_.worst_peak_use) continue;
            for (std::size_t i = 1; i < span_node_count; ++i)
                if (bulge * most_over_curve<2>({e.torque[i - 1], e.torque[i]}, {e.speed[i - 1], e.speed[i]}) >
                    u_.worst_peak_use) {
                    if (!looked_into(e)) between_nodes(s, e);
                    break;
                }
        }
    }

    // mean of T_c(0)² − T_c(ω)² over the cycle, the heat of iron and friction as a torque squared
    double speed_heat() const {
        double sum = 0;
        for (std::size_t k = 0; k < d_.spans.size(); ++k)
            if (d_.spans[k].regime != Regime::braked && d_.spans[k].direction != 0)
                sum += d_.spans[k].lasting() * speed_heat(d_.samples[k].speed);
        return sum / d_.cycle_time;
    }

  private:
    const Demand& d_;
    MotorUse& u_;
    double stall_;
    std::vector<std::array<double, 4>> known_;

    double over_curve(double torque, double speed) const {
        const double allowed = u_.can.peak.at(speed);
        if (allowed > 0) return std::abs(torque) / allowed;
        return torque == 0 ? 0 : std::numeric_limits<double>::infinity();
    }
    void take(const Span& s, double u) {
        const double t = s.start + u * s.duration;
        const ShaftState e = evaluate(d_.load, s, t);
        const double used = over_curve(e.torque, e.speed);
        if (!(used > u_.worst_peak_use)) return;
        u_.worst_peak_use = used;
        u_.worst_peak = {t, e.speed, e.torque, s.piece.segment, e};
        u_.worst_peak_allowed = u_.can.peak.at(e.speed);
    }
    // the largest torque over the least the curve gives between the speeds; infinite beyond its end
    template <std::size_t N>
    double most_over_curve(const std::array<double, N>& torque, const std::array<double, N>& speed) const {
        double most = 0, slow = std::abs(speed[0]), fast = slow;
        for (std::size_t i = 0; i < N; ++i) {
            const double t = std::abs(torque[i]), w = std::abs(speed[i]);
            most = t > most ? t : most;
            slow = w < slow ? w : slow;
            fast = w > fast ? w : fast;
        }
        const double lowest = u_.can.peak.least(slow, fast);
        return lowest > 0 ? most / lowest : std::numeric_limits<double>::infinity();
    }
    // cycles repeat their moves: a span like one already looked into has nothing new
    bool looked_into(const SpanSamples& e) {
        const std::array<double, 4> now{e.speed.front(), e.speed.back(), e.torque.front(), e.torque.back()};
        const auto same = [&](const std::array<double, 4>& old) {
            for (std::size_t i = 0; i < now.size(); ++i)
                if (std::abs(now[i] - old[i]) > 1e-9 * (std::abs(now[i]) + 1e-9)) return false;
            return true;
        };
        if (std::any_of(known_.begin(), known_.end(), same)) return true;
        if (known_.size() < 200) known_.push_back(now);
        return false;
    }
    void between_nodes(const Span& s, const SpanSamples& e) {
        const SpanPolynomial torque(e.torque), speed(e.speed);
        const std::vector<double> edges = edges_at_knots(e.speed, speed, u_.can.peak.speeds());
        for (std::size_t i = 1; i < edges.size(); ++i) {
            take(s, edges[i]);
            const auto inside = boost::math::tools::brent_find_minima(
                [&](double u) { return -std::min(over_curve(torque(u), speed(u)), 1e300); }, edges[i - 1], edges[i],
                30);
            take(s, inside.first);
        }
    }
    // Where the speed passes a knot of a curve, so that each part sees one polynomial; u from 0 to 1.
    static std::vector<double> edges_at_knots(
        const SpanPolynomial::Nodes& nodes, const SpanPolynomial& speed, const std::vector<double>& knots) {
        std::vector<double> edges{0, 1};
        const auto& at = span_nodes().at;
        for (const double knot : knots)
            for (const double level : {knot, -knot})
                for (std::size_t i = 1; i < nodes.size() && knot > 0; ++i)
                    if ((nodes[i - 1] - level) * (nodes[i] - level) < 0)
                        edges.push_back(speed.crossing(level, at[i - 1], at[i], nodes[i - 1], nodes[i]));
        std::sort(edges.begin(), edges.end());
        return edges;
    }
    double heat_at(double speed) const {
        const double c = u_.can.continuous.at(speed);
        return stall_ * stall_ - c * c;
    }
    double speed_heat(const SpanPolynomial::Nodes& speed) const {
        const SpanNodes& nodes = span_nodes();
        const auto [low, high] = std::minmax_element(speed.begin(), speed.end());
        const double slow = std::min(std::abs(*low), std::abs(*high)), fast = std::max(std::abs(*low), std::abs(*high));
        double sum = 0;
        if (!u_.can.continuous.knot_between(slow, fast)) {
            for (std::size_t i = 0; i < span_node_count; ++i) sum += nodes.weight[i] * heat_at(speed[i]);
            return sum;
        }
        const SpanPolynomial between(speed);
        const std::vector<double> edges = edges_at_knots(speed, between, u_.can.continuous.speeds());
        for (std::size_t k = 1; k < edges.size(); ++k)
            for (std::size_t i = 0; i < span_node_count; ++i)
                sum += nodes.weight[i] * (edges[k] - edges[k - 1]) *
                       heat_at(between(edges[k - 1] + nodes.at[i] * (edges[k] - edges[k - 1])));
        return sum;
    }
};

} // namespace

MotorUse motor_use(const Demand& d, Capability can, const Motor& motor) {
    MotorUse u;
    u.can = std::move(can);
    const double stall = u.can.continuous.stall();
    Use use(d, u);
    use.peaks();
    u.speed_heat = use.speed_heat();
    u.loss_mean = d.rms_torque * d.rms_torque + u.speed_heat;
    const bool inside = d.peak_speed <= u.can.continuous.end() * (1 + 1e-12);
    u.loss_use = inside ? std::sqrt(std::max(0.0, u.loss_mean) / (u.can.heat_factor * stall * stall)) : nan;
    const auto point = [&](double speed) { return speed <= u.can.continuous.end() ? u.can.continuous_at(speed) : nan; };
    u.point_at_mean = point(d.mean_speed);
    u.point_at_rms = point(d.rms_speed);
    const double kt = motor.torque_constant.value_or(nan);
    u.rms_current = d.rms_torque / kt;
    u.peak_current = std::abs(d.peak.torque) / kt;
    u.copper_loss = motor_constants::copper_loss(u.rms_current, motor.resistance.value_or(nan));
    return u;
}

} // namespace fulmox

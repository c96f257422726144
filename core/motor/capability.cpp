#include "core/motor/capability.h"

#include "core/motor/constants.h"
#include "core/quantity/not_finite.h"

#include "core/demand/span_polynomial.h"

// math.h first: this Boost calls isnan unqualified
#include <math.h>

#include <algorithm>
#include <boost/math/interpolators/pchip.hpp>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

SpeedTorqueCurve::SpeedTorqueCurve(const std::vector<CurvePoint>& points, double speed_scale, double torque_scale) {
    // a pull-out curve may begin above rest: down to it the motor gives no less
    if (!points.empty() && points.front().speed.si > 0) {
        speeds_.push_back(0);
        torques_.push_back(points.front().torque.si * torque_scale);
    }
    for (const CurvePoint& p : points) {
        speeds_.push_back(p.speed.si * speed_scale);
        torques_.push_back(p.torque.si * torque_scale);
    }
    fit();
}

SpeedTorqueCurve::SpeedTorqueCurve(std::vector<double> speeds, std::vector<double> torques)
    : speeds_(std::move(speeds)), torques_(std::move(torques)) {
    fit();
}

void SpeedTorqueCurve::fit() {
    // points that are no curve make none, whoever asks
    bool sound = speeds_.size() >= 2;
    for (std::size_t i = 0; i < speeds_.size(); ++i)
        sound =
            sound && std::isfinite(speeds_[i]) && std::isfinite(torques_[i]) && (i == 0 || speeds_[i] > speeds_[i - 1]);
    if (!sound) {
        speeds_.clear();
        torques_.clear();
        return;
    }
    const std::size_t n = speeds_.size();
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

std::size_t SpeedTorqueCurve::stretch(double w) const {
    std::size_t i = 0;
    if (cubics_.size() <= 8) {
        while (i + 1 < cubics_.size() && w >= speeds_[i + 1]) ++i;
        return i;
    }
    const auto after = std::upper_bound(speeds_.begin() + 1, speeds_.end() - 1, w);
    return static_cast<std::size_t>(after - speeds_.begin()) - 1;
}

double SpeedTorqueCurve::uncapped(double speed) const {
    const double w = std::abs(speed);
    if (speeds_.empty()) return 0;
    if (w >= speeds_.back()) return w <= speeds_.back() * (1 + 1e-12) ? torques_.back() : 0;
    const std::size_t i = stretch(w);
    const double d = w - speeds_[i];
    const auto& c = cubics_[i];
    return c[0] + d * (c[1] + d * (c[2] + d * c[3]));
}

double SpeedTorqueCurve::least(double slow, double fast) const {
    double out = std::min(at(slow), at(fast));
    for (std::size_t i = 0; i < speeds_.size(); ++i)
        if (speeds_[i] > slow && speeds_[i] < fast) out = std::min(out, torques_[i]);
    return out; // the cap is in it by the ends
}

std::vector<double> SpeedTorqueCurve::crossings(double torque) const {
    std::vector<double> out;
    for (std::size_t i = 0; i + 1 < speeds_.size(); ++i) {
        double slow = speeds_[i], fast = speeds_[i + 1];
        const bool below = torques_[i] < torque;
        if (torques_[i] == torque || torques_[i + 1] == torque || below == (torques_[i + 1] < torque)) continue;
        for (int k = 0; k < 60; ++k) {
            const double middle = (slow + fast) / 2;
            ((uncapped(middle) < torque) == below ? slow : fast) = middle;
        }
        out.push_back(slow);
    }
    return out;
}

bool SpeedTorqueCurve::knot_between(double slow, double fast) const {
    return std::any_of(speeds_.begin(), speeds_.end(), [&](double w) { return w > slow && w < fast; });
}

double Capability::continuous_at(double speed) const {
    const double w = std::abs(speed);
    if (w > continuous.end()) return 0;
    if (continuous_by_model)
        return std::min({model->continuous(w).torque, torque_cap,
            peak_by_model ? model->peak(w, Quadrant::motoring).torque : peak.at(w)});
    return std::min(std::sqrt(std::max(0.0, copper_heat(w))), peak.at(w));
}

double Capability::continuous_stall() const {
    return continuous_by_model ? model->continuous(0).torque : continuous.stall() * std::sqrt(heat_factor);
}

BoundBy Capability::peak_bound(double speed, bool brakes) const {
    if (std::abs(speed) > mechanical_speed) return BoundBy::mechanical;
    return peak_with_bound(speed, brakes).bound;
}

TorqueBound Capability::peak_with_bound(double speed, bool brakes) const {
    TorqueBound out = peak_by_model
                          ? model->peak(speed, brakes ? Quadrant::braking : Quadrant::motoring)
                          : TorqueBound{peak.uncapped(speed), BoundBy::curve, no_number, no_number, true, no_number};
    if (!(out.torque > torque_cap)) return out;
    // less current than the bound it takes the place of, and which is not asked for
    return {torque_cap, capped_by, no_number, no_number, out.hot, no_number};
}

namespace {

// The model's torques at enough speeds for a curve through them, with the speeds where it turns.
struct Table {
    std::vector<double> speeds, peak, braking, continuous;
};

Table table_of(const ElectricModel& model, double end) {
    constexpr int steps = 64;
    Table t;
    for (int i = 0; i <= steps; ++i) t.speeds.push_back(end * i / steps);
    for (const bool hot : {false, true})
        for (const double turn : {model.corner_speed(hot), model.no_load_speed(hot), model.motoring_end(hot)})
            if (turn > 0 && turn < end) t.speeds.push_back(turn);
    std::sort(t.speeds.begin(), t.speeds.end());
    t.speeds.erase(
        std::unique(t.speeds.begin(), t.speeds.end(), [end](double a, double b) { return b - a < 1e-9 * end; }),
        t.speeds.end());
    // friction sets in with the first turn: standing is a place of its own
    t.speeds.insert(t.speeds.begin() + 1, 1e-6 * end);
    for (const double w : t.speeds) {
        const auto known = [](double x) { return std::isnan(x) ? 0 : x; };
        t.peak.push_back(model.peak(w, Quadrant::motoring).torque);
        t.braking.push_back(known(model.peak(w, Quadrant::braking).torque));
        t.continuous.push_back(known(model.continuous(w).torque));
    }
    return t;
}

} // namespace

namespace {

// Without a rating the winding's resistances tell it: what heats it to its limit at the rated ambient, magnets as warm.
void rate_by_heat(MotorNumbers& numbers, const Motor& motor) {
    if (!motor.rated_by_heat() || !motor.winding_limit.given() || !motor.rated_ambient.given()) return;
    MotorConditions at_limit;
    at_limit.cold = at_limit.hot = motor.winding_limit.si - motor_constants::zero_celsius;
    const ElectricModel model(numbers, at_limit);
    const double loss = (motor.winding_limit.si - motor.rated_ambient.si) / motor.thermal_resistance.si;
    if (!model.known() || !(model.loss_per_square(true) > 0) || !(loss > 0)) return;
    const double torque = model.torque_of(std::sqrt(loss / model.loss_per_square(true)), true);
    (numbers.sine_driven ? numbers.stall_torque : numbers.rated_torque) = torque;
}

} // namespace

Capability capability(const Motor& motor, const Drive& drive, const Site& site) {
    Capability c;
    const MotorConditions conditions = motor_conditions(motor, drive, site);
    MotorNumbers numbers = motor_numbers(motor);
    if (!motor.has_rating() && motor.continuous.empty()) rate_by_heat(numbers, motor);
    c.model.emplace(numbers, conditions);
    if (!c.model->known()) c.model.reset();
    // a linear motor has no points of speed and torque
    const bool linear = motor.linear();
    // without its inductance nothing is known of a stepper at speed
    const bool half_known = c.model && c.model->numbers().stepper && !c.model->approximate().empty();
    c.peak_by_model = (linear || motor.peak.empty()) && c.model && !half_known;
    c.continuous_by_model = (linear || motor.continuous.empty()) && c.model && !(half_known && motor.peak.empty());
    if (!linear && !motor.peak.empty()) {
        c.speed_scale = drive.lowest_bus() / motor.curve_voltage.si;
        if (c.model && c.model->numbers().stepper) {
            // where the voltage drives the same current through the same reactance: the speed goes with U/I
            c.torque_scale = c.model->amplitude() / c.model->numbers().stepper->curve_amplitude;
            c.speed_scale /= c.torque_scale;
        }
        c.peak = SpeedTorqueCurve(motor.peak, c.speed_scale, c.torque_scale);
    }
    c.mechanical_speed = conditions.mechanical_speed;
    if (!linear && !motor.continuous.empty()) c.continuous = SpeedTorqueCurve(motor.continuous, 1);
    if (c.peak_by_model || c.continuous_by_model) {
        const double end =
            c.model->numbers().stepper
                ? c.model->stepping_end()
                : std::min({c.model->speed_limit(), c.model->motoring_end(false), c.model->motoring_end(true)});
        // a bus that turns nothing leaves standing alone
        Table t = end > 0 ? table_of(*c.model, end)
                          : Table{{0, 1e-6}, {c.model->peak(0, Quadrant::motoring).torque, 0}, {0, 0},
                                {c.model->rated() ? c.model->continuous(0).torque : 0, 0}};
        if (c.continuous_by_model) c.continuous = SpeedTorqueCurve(t.speeds, std::move(t.continuous));
        if (c.peak_by_model) {
            c.braking = SpeedTorqueCurve(t.speeds, std::move(t.braking));
            c.peak = SpeedTorqueCurve(std::move(t.speeds), std::move(t.peak));
        }
    }
    const auto cap = [&](double torque, BoundBy by) {
        if (!(torque < c.torque_cap)) return;
        c.torque_cap = torque;
        c.capped_by = by;
    };
    if (!linear && drive.torque_limit.given()) cap(drive.torque_limit.si, BoundBy::torque_limit);
    // the model has the drive's peak in it, the points of a sheet have not, but those of the motor's own peak current
    if (!c.peak_by_model && c.model && !c.model->numbers().stepper && std::isfinite(conditions.drive_peak) &&
        !(conditions.drive_peak >= c.model->numbers().peak_current))
        for (const bool hot : {false, true})
            cap(c.model->torque_of(conditions.drive_peak, hot), BoundBy::drive_current);
    c.peak.limit(c.torque_cap);
    c.braking.limit(c.torque_cap);
    c.max_speed = std::min(c.mechanical_speed, c.peak.end());
    c.heat_factor = conditions.heat_factor;
    return c;
}

namespace {

// Goes through the spans of a demand with the curves of a motor.
class PeakScan {
  public:
    PeakScan(const Demand& d, MotorUse& u) : d_(d), u_(u), stall_(u.can.continuous.stall()) {}

    void peaks() {
        const ShaftPoint& start = d_.breakaway;
        u_.worst_peak_allowed = u_.can.peak.stall();
        if (over_curve(start.torque, 0) > 0) {
            u_.worst_peak_use = over_curve(start.torque, 0);
            u_.worst_peak = start;
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

    // the means over the cycle of what speed takes and of what is left for copper, as torques squared
    void heat() {
        const double at_rest = u_.can.copper_heat(0);
        knots_ = u_.can.continuous.speeds();
        for (const double crossing : u_.can.continuous.crossings(stall_)) knots_.push_back(crossing);
        double takes = 0, left = 0;
        for (std::size_t k = 0; k < d_.spans.size(); ++k) {
            const Span& s = d_.spans[k];
            if (s.regime == Regime::braked || s.direction == 0) {
                left += s.lasting() * at_rest;
                continue;
            }
            over_speeds(d_.samples[k].speed, [&](double speed, double weight) {
                const double now = u_.can.continuous.at(speed);
                takes += s.lasting() * weight * std::max(0.0, stall_ * stall_ - now * now);
                left += s.lasting() * weight * u_.can.copper_heat(speed);
            });
        }
        u_.speed_heat = takes / d_.cycle_time;
        u_.heat_left = left / d_.cycle_time;
    }

  private:
    const Demand& d_;
    MotorUse& u_;
    double stall_;
    std::vector<std::array<double, 4>> known_;
    std::vector<double> knots_; // of the continuous curve, and where it passes its standstill torque

    double over_curve(double torque, double speed) const {
        const double allowed = u_.can.peak_at(speed, torque * speed < 0);
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
        u_.worst_peak_allowed = u_.can.peak_at(e.speed, e.torque * e.speed < 0);
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
        double lowest = u_.can.peak.least(slow, fast);
        if (!u_.can.braking.empty()) lowest = std::min(lowest, u_.can.braking.least(slow, fast));
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
    // Every speed of a span with its weight; parts between the knots of the curve have nodes of their own.
    template <class Take> void over_speeds(const SpanPolynomial::Nodes& speed, Take&& take) const {
        const SpanNodes& nodes = span_nodes();
        const auto [low, high] = std::minmax_element(speed.begin(), speed.end());
        const double slow = std::min(std::abs(*low), std::abs(*high)), fast = std::max(std::abs(*low), std::abs(*high));
        if (std::none_of(knots_.begin(), knots_.end(), [&](double w) { return w > slow && w < fast; })) {
            for (std::size_t i = 0; i < span_node_count; ++i) take(speed[i], nodes.weight[i]);
            return;
        }
        const SpanPolynomial between(speed);
        const std::vector<double> edges = edges_at_knots(speed, between, knots_);
        for (std::size_t k = 1; k < edges.size(); ++k) {
            const double wide = edges[k] - edges[k - 1];
            for (std::size_t i = 0; i < span_node_count; ++i)
                take(between(edges[k - 1] + nodes.at[i] * wide), nodes.weight[i] * wide);
        }
    }
};

} // namespace

namespace {

// Means over the cycle of what the motor draws by its model, and of the heat that makes.
struct CurrentMeans {
    std::vector<SpanPolynomial::Nodes> copper; ///< W, or A² where there is no resistance
    double square = 0, loss = 0, peak = 0, heat = 0, heat_by_speed = 0, voltage = 0;
    bool beyond = false; ///< somewhere the voltage does not reach
};

class CurrentScan {
  public:
    CurrentScan(const Demand& d, const ElectricModel& model)
        : d_(d), model_(model), rated_(!std::isnan(model.heat_use(0, 0))) {}

    CurrentMeans take() {
        out_.copper.assign(d_.spans.size(), SpanPolynomial::Nodes{});
        volts_.assign(d_.spans.size(), 0.0);
        instant(d_.breakaway.torque, d_.breakaway.speed, 0);
        instant(d_.peak.torque, d_.peak.speed, 0);
        for (std::size_t k = 0; k < d_.spans.size(); ++k) {
            const Span& s = d_.spans[k];
            span_ = k;
            if (s.regime == Regime::braked) continue;
            if (model_.fixed_current() && s.direction == 0) {
                stand(s, out_.copper[k]);
                continue;
            }
            standing_ = 0;
            SpanSamples e = d_.samples[k];
            for (double& w : e.speed) w = moving(w, s);
            std::array<How, span_node_count> how;
            std::array<MotorDraw, span_node_count> draws;
            for (std::size_t i = 0; i < span_node_count; ++i) {
                how[i] = current(e.torque[i], e.speed[i], draws[i]);
                out_.copper[k][i] = warms(draws[i]);
            }
            // without weakening the current is the same whether or not the voltage reaches
            if (!model_.weakens() || std::all_of(how.begin(), how.end(), [&](How h) { return h == How::freely; }))
                for (std::size_t i = 0; i < span_node_count; ++i)
                    add(draws[i], how[i], e.torque[i], e.speed[i], s.lasting() * nodes_.weight[i]);
            else {
                const double square = out_.square, loss = out_.loss;
                by_parts(e, how, s.lasting());
                warm_as(out_.copper[k], std::isnan(draws[0].copper_loss) ? out_.square - square : out_.loss - loss,
                    s.lasting());
            }
        }
        if (!model_.weakens()) voltage_between_nodes();
        out_.square /= d_.cycle_time;
        out_.loss /= d_.cycle_time;
        out_.heat /= d_.cycle_time;
        out_.heat_by_speed /= d_.cycle_time;
        return out_;
    }

  private:
    // The voltage leaves the current as it is, wants it to weaken the field, or does not reach; at the borders between
    // them the current has a kink.
    enum class How { freely, weakened, beyond };

    const Demand& d_;
    const ElectricModel& model_;
    const SpanNodes& nodes_ = span_nodes();
    bool rated_;
    std::vector<double> volts_; // the most of each span at its nodes, a bound from above
    std::size_t span_ = 0;
    double standing_ = 0; // s of standing still up to here
    CurrentMeans out_;

    // The drive of a stepper reduces its current once it has stood for a while.
    void stand(const Span& s, SpanPolynomial::Nodes& copper) {
        const double full = std::clamp(model_.conditions().idle_delay - standing_, 0.0, s.lasting());
        const MotorDraw set = model_.draw(0, 0, true), idle = model_.idle_draw();
        add(set, How::freely, 0, 0, full);
        add(idle, How::freely, 0, 0, s.lasting() - full);
        const double share = full / s.lasting();
        copper.fill(share * warms(set) + (1 - share) * warms(idle));
        standing_ += s.lasting();
    }
    // The end of a move is no standstill: friction and the heat of a standing motor set in beyond it. By rounding it
    // may even turn the other way, and friction with it.
    double moving(double speed, const Span& s) const {
        return s.direction != 0 && std::abs(speed) < 1e-9 * d_.peak_speed ? s.direction * 1e-12 * d_.peak_speed : speed;
    }
    // Torque and speed may need most together between two nodes.
    void voltage_between_nodes() {
        if (std::isnan(out_.square) || !(out_.voltage > 0)) return;
        const double about = 0.97 * out_.voltage;
        std::vector<std::array<double, 4>> known;
        for (std::size_t k = 0; k < d_.spans.size(); ++k) {
            const SpanSamples& e = d_.samples[k];
            if (!(volts_[k] > about) || d_.spans[k].direction == 0) continue;
            // cycles repeat their moves
            const std::array<double, 4> now{e.speed.front(), e.speed.back(), e.torque.front(), e.torque.back()};
            if (std::find(known.begin(), known.end(), now) != known.end()) continue;
            if (known.size() < 200) known.push_back(now);
            const SpanPolynomial torque(e.torque), speed(e.speed);
            const auto needs = [&](double u) {
                const double v = model_.voltage_needed(torque(u), moving(speed(u), d_.spans[k]));
                return std::isnan(v) ? 0.0 : v;
            };
            std::size_t most = 0;
            std::array<double, span_node_count> v{};
            for (std::size_t i = 0; i < span_node_count; ++i) {
                v[i] = needs(nodes_.at[i]);
                if (v[i] > v[most]) most = i;
            }
            const double low = nodes_.at[most > 0 ? most - 1 : 0],
                         high = nodes_.at[std::min(most + 1, span_node_count - 1)];
            const auto best = boost::math::tools::brent_find_minima([&](double u) { return -needs(u); }, low, high, 20);
            out_.voltage = std::max(out_.voltage, -best.second);
        }
    }
    static double warms(const MotorDraw& m) {
        return std::isnan(m.copper_loss) ? m.current * m.current : m.copper_loss;
    }
    How current(double torque, double speed, MotorDraw& m) const {
        m = model_.draw(torque, speed, true);
        if (m.possible) return m.id < 0 ? How::weakened : How::freely;
        m = model_.without_voltage_limit(torque, speed);
        return How::beyond;
    }
    void instant(double torque, double speed, double lasts) {
        MotorDraw m;
        const How how = current(torque, speed, m);
        add(m, how, torque, speed, lasts);
    }
    void add(const MotorDraw& m, How how, double torque, double speed, double lasts) {
        if (how == How::beyond) out_.beyond = true;
        if (!m.possible) // saturation lets no current make it
            out_.square = out_.loss = out_.peak = out_.heat = out_.voltage = no_number;
        if (std::isnan(out_.square)) return;
        out_.square += lasts * m.current * m.current;
        out_.loss += lasts * m.copper_loss;
        out_.peak = std::max(out_.peak, m.current);
        const double bound = model_.voltage_bound(m, speed);
        volts_[span_] = std::max(volts_[span_], bound);
        if (bound > out_.voltage) out_.voltage = std::max(out_.voltage, model_.voltage_needed(torque, speed));
        if (!rated_) return;
        out_.heat += lasts * model_.heat_of(m, speed);
        out_.heat_by_speed += lasts * model_.heat_of_speed(speed);
    }

    // The nodes of a span whose current has kinks warm it as its parts do together.
    void warm_as(SpanPolynomial::Nodes& copper, double whole, double lasts) const {
        double by_nodes = 0;
        for (std::size_t i = 0; i < span_node_count; ++i) by_nodes += lasts * nodes_.weight[i] * copper[i];
        if (by_nodes > 0 && whole > 0)
            for (double& node : copper) node *= whole / by_nodes;
    }

    // Cut where the voltage begins or ceases to bear, each part by itself.
    void by_parts(const SpanSamples& e, const std::array<How, span_node_count>& how, double lasts) {
        const SpanPolynomial torque(e.torque), speed(e.speed);
        const auto at = [&](double u) {
            MotorDraw m;
            return current(torque(u), speed(u), m);
        };
        std::vector<double> edges{0};
        for (std::size_t i = 1; i < span_node_count; ++i) {
            // all three may lie between two nodes
            How now = how[i - 1];
            double from = nodes_.at[i - 1];
            for (int most = 0; now != how[i] && most < 3; ++most) {
                double a = from, b = nodes_.at[i];
                for (int k = 0; k < 48; ++k) {
                    const double middle = (a + b) / 2;
                    (at(middle) == now ? a : b) = middle;
                }
                edges.push_back(from = b);
                now = at(b);
            }
            // weak currents change fast near the border: no part is wider than the distance of two nodes
            edges.push_back(nodes_.at[i]);
        }
        for (std::size_t k = 1; k < edges.size(); ++k) {
            const double from = edges[k - 1], wide = edges[k] - from;
            double most = 0, where = from;
            for (std::size_t i = 0; i < span_node_count; ++i) {
                // at the border itself either side might be met
                const double u = from + wide * std::clamp(nodes_.at[i], 1e-9, 1 - 1e-9);
                MotorDraw m;
                const How now = current(torque(u), speed(u), m);
                add(m, now, torque(u), speed(u), lasts * wide * nodes_.weight[i]);
                if (m.current > most) most = m.current, where = u;
            }
            if (!(most > 0.98 * out_.peak)) continue;
            // the largest lies beside the node that has most
            const double low = std::max(from, where - wide / 4), high = std::min(edges[k], where + wide / 4);
            const double best = boost::math::tools::brent_find_minima(
                [&](double u) {
                    MotorDraw m;
                    current(torque(u), speed(u), m);
                    return m.possible ? -m.current : 0.0;
                },
                low, high, 20)
                                    .first;
            instant(torque(best), speed(best), 0);
        }
    }
};

CurrentMeans drawn(const Demand& d, const ElectricModel& model) { return CurrentScan(d, model).take(); }

} // namespace

double MotorUse::heat_use() const {
    if (std::isnan(heat_allowed) || std::isnan(heat_torque)) return no_number;
    if (heat_allowed > 0) return heat_torque / heat_allowed;
    return heat_torque > 0 || heat_left < 0 ? infinite : 0;
}

MotorUse motor_use(const Demand& d, Capability can) {
    MotorUse u;
    u.can = std::move(can);
    PeakScan use(d, u);
    use.peaks();
    CurrentMeans by_model;
    if (u.can.model) by_model = drawn(d, *u.can.model);
    if (u.can.continuous_by_model) {
        // heat of the copper and heat of speed as shares of what is permitted
        const double reference = u.can.model->heat_reference(), by_speed = by_model.heat_by_speed;
        const double copper = std::max(0.0, by_model.heat - by_speed);
        const bool none = u.can.heat_factor <= 0; // derated to nothing
        u.heat_torque = none ? d.rms_torque : reference * std::sqrt(copper);
        u.heat_left = none ? 0 : reference * reference * (1 - by_speed);
        u.heat_allowed = by_model.beyond ? no_number : std::sqrt(std::max(0.0, u.heat_left));
    } else {
        use.heat();
        u.heat_torque = d.rms_torque;
        const bool inside = d.peak_speed <= u.can.continuous.end() * (1 + 1e-12);
        u.heat_allowed = inside ? std::sqrt(std::max(0.0, u.heat_left)) : no_number;
    }
    const auto point = [&](double speed) {
        return speed <= u.can.continuous.end() ? u.can.continuous_at(speed) : no_number;
    };
    u.point_at_mean = point(d.mean_speed);
    u.point_at_rms = point(d.rms_speed);
    u.rms_current = u.can.model ? std::sqrt(by_model.square) : no_number;
    u.peak_current = u.can.model ? by_model.peak : no_number;
    u.copper_loss = u.can.model ? by_model.loss : no_number;
    u.voltage = u.can.model ? by_model.voltage : no_number;
    u.beyond_voltage = by_model.beyond;
    if (u.can.model) {
        u.copper = std::move(by_model.copper);
    } else {
        u.copper.assign(d.spans.size(), {});
        for (std::size_t k = 0; k < d.spans.size(); ++k)
            if (d.spans[k].regime != Regime::braked)
                for (std::size_t i = 0; i < span_node_count; ++i)
                    u.copper[k][i] = d.samples[k].torque[i] * d.samples[k].torque[i];
    }
    return u;
}

} // namespace fulmox

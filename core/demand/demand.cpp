#include "core/demand/demand.h"

#include "core/demand/sweep.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

double instant(const Span& s, std::size_t node) { return s.start + span_nodes().at[node] * s.duration; }

// Largest value over a span of a quantity that is smooth there: from the nodes, refined where it lies between them.
template <class Pick>
std::pair<double, double> largest(const LoadModel& m, const Span& s, const SpanStates& states, Pick pick) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < states.size(); ++i)
        if (pick(states[i]) > pick(states[best])) best = i;
    double t = instant(s, best);
    double value = pick(states[best]);
    const double ends = std::max(pick(states.front()), pick(states.back()));
    if (best == 0 || best + 1 == states.size() || value <= ends + 1e-12 * std::abs(ends)) return {t, value};
    std::uintmax_t most = 40;
    const auto [at, negative] = boost::math::tools::brent_find_minima(
        [&](double x) { return -pick(evaluate(m, s, x)); }, instant(s, best - 1), instant(s, best + 1), 28, most);
    return -negative > value ? std::pair{at, -negative} : std::pair{t, value};
}

class Account {
  public:
    explicit Account(Demand& d) : d_(d), crank_best_(fastest_angle(d.load)) {}

    void operator()(const Span& s, const SpanStates& states) {
        d_.spans.push_back(s);
        SpanSamples& kept = d_.samples.emplace_back();
        for (std::size_t i = 0; i < states.size(); ++i) {
            kept.speed[i] = states[i].speed;
            kept.torque[i] = states[i].torque;
            kept.mechanism_torque[i] = states[i].mechanism_torque;
            kept.mechanism_acceleration[i] = states[i].mechanism_acceleration;
        }
        if (s.regime == Regime::braked) return;
        const SpanNodes& nodes = span_nodes();
        const bool rest = s.regime == Regime::standstill;
        double speed = 0, squared = 0, energy = 0;
        for (std::size_t i = 1; i + 1 < states.size(); ++i) {
            const ShaftState& e = states[i];
            const double w = nodes.weight[i] * s.duration;
            heat_ += w * e.torque * e.torque;
            for (std::size_t k = 0; k < part_heat_.size(); ++k) part_heat_[k] += w * e.torque * e.part[k];
            speed += w * std::abs(e.speed);
            squared += w * e.speed * e.speed;
            energy += w * e.torque * e.speed;
        }
        speed_ += speed;
        speed_squared_ += squared;
        (energy > 0 ? d_.energy_delivered : d_.energy_returned) += std::abs(energy);
        peaks(s, states, rest, energy);
        if (d_.load.position_dependent()) hold(s);
    }

    void close(const std::vector<double>& payloads) {
        d_.mechanism_peak_speed = d_.peak_speed / d_.load.ratio;
        d_.rms_torque = std::sqrt(heat_ / d_.cycle_time);
        d_.mean_speed = speed_ / d_.cycle_time;
        d_.rms_speed = std::sqrt(speed_squared_ / d_.cycle_time);
        // a slider in its dead centre pulls by rounding alone
        if (d_.holding_torque < 1e-12 * std::abs(d_.peak.torque)) d_.holding_torque = 0;
        if (heat_ > 0)
            for (std::size_t k = 0; k < part_heat_.size(); ++k) d_.rms_share[k] = part_heat_[k] / heat_;
        if (d_.load.position_dependent()) return;
        for (const double p : payloads) {
            d_.static_torque = std::max(d_.static_torque, std::abs(holding_torque(d_.load, 0, p, 0, false)));
            d_.static_torque_friction =
                std::max(d_.static_torque_friction, std::abs(holding_torque(d_.load, 0, p, 0, true)));
        }
    }

  private:
    Demand& d_;
    double heat_ = 0, speed_ = 0, speed_squared_ = 0;
    std::array<double, cause_count> part_heat_{};

    void peaks(const Span& s, const SpanStates& states, bool rest, double energy) {
        const auto [t, torque] = largest(d_.load, s, states, [](const ShaftState& e) { return std::abs(e.torque); });
        const auto better = [&, at = t, value = torque](ShaftPoint& p) {
            if (value <= std::abs(p.torque)) return;
            const ShaftState e = evaluate(d_.load, s, at);
            p = {at, e.speed, e.torque, s.piece.segment, e};
        };
        better(d_.peak);
        if (energy > 0) better(d_.peak_motoring);
        if (energy < 0) better(d_.peak_braking);
        if (rest) d_.holding_torque = std::max(d_.holding_torque, torque);
        for (const ShaftState& e : states) {
            d_.axial_peak = std::max(d_.axial_peak, std::abs(e.load_force));
        }
        const double fastest =
            largest(d_.load, s, states, [](const ShaftState& e) { return std::abs(e.speed); }).second;
        d_.peak_speed = std::max(d_.peak_speed, fastest);
        const auto power = [](const ShaftState& e) { return e.torque * e.speed; };
        d_.peak_power = std::max(d_.peak_power, largest(d_.load, s, states, power).second);
        d_.peak_return = std::max(
            d_.peak_return, largest(d_.load, s, states, [&](const ShaftState& e) { return -power(e); }).second);
        d_.coupling_peak = std::max(d_.coupling_peak,
            largest(d_.load, s, states, [](const ShaftState& e) { return std::abs(e.coupling_torque); }).second);
    }

    // what holding would take where the axis passes: at the ends of the span, and where gravity or the crank pulls most
    void hold(const Span& s) {
        const LoadModel& m = d_.load;
        const double from = s.piece.position(s.start - s.piece.start);
        const double to = s.piece.position(s.start + s.duration - s.piece.start);
        const auto at = [&](double q) {
            d_.static_torque = std::max(d_.static_torque, std::abs(holding_torque(m, q, s.payload, 0, false)));
            d_.static_torque_friction =
                std::max(d_.static_torque_friction, std::abs(holding_torque(m, q, s.payload, 0, true)));
        };
        at(from);
        at(to);
        double most = 0; // an angle at which the pull is largest; it comes again every half turn
        if (m.path == LoadModel::Path::crank)
            most = crank_best_;
        else if (m.path == LoadModel::Path::straight)
            most = std::atan2(
                m.swing_sin + s.payload * m.payload_swing_sin, m.swing_cos + s.payload * m.payload_swing_cos);
        else if (m.path == LoadModel::Path::winder)
            return;
        constexpr double pi = std::numbers::pi;
        for (const double best : {most, -most}) {
            const double next = best + std::ceil((std::min(from, to) - best) / pi) * pi;
            if (next < std::max(from, to)) at(next);
        }
    }
    // x'' = 0, where the slider is fastest
    static double fastest_angle(const LoadModel& m) {
        if (m.path != LoadModel::Path::crank) return 0;
        std::uintmax_t tries = 60;
        return boost::math::tools::brent_find_minima(
            [&](double q) { return -std::abs(path_at(m, q).first); }, 0.0, std::numbers::pi, 40, tries)
            .first;
    }
    double crank_best_;
};

// Stops from top speed in either direction, with the lightest and the heaviest payload, from every place that matters.
void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const std::vector<double>& payloads) {
    const double v = motion.peak_speed;
    double time = axis.drive.stop_time.value_or(0);
    if (time <= 0 && axis.drive.stop_distance.given() && v > 0) time = 2 * axis.drive.stop_distance.si / v;
    if (time <= 0 || v <= 0) return;
    d.stop_time = time;
    const auto [light, heavy] = std::minmax_element(payloads.begin(), payloads.end());
    std::vector<double> loads{*light};
    if (*heavy != *light) loads.push_back(*heavy); // torque is linear in the payload: the extremes tell
    std::vector<double> places{motion.start_position};
    if (d.load.position_dependent() && d.load.path != LoadModel::Path::winder) {
        places.clear();
        const double turn = 2 * std::numbers::pi;
        const double from = motion.lowest;
        const double range = std::min(motion.stroke(), turn);
        constexpr int steps = 36;
        for (int i = 0; i <= steps; ++i) places.push_back(from + range * i / steps);
    }
    Sweep sweep(d.load, [&](const Span&, const SpanStates& states) {
        for (const ShaftState& e : states) {
            d.emergency_torque = std::max(d.emergency_torque, std::abs(e.torque));
            d.coupling_emergency = std::max(d.coupling_emergency, std::abs(e.coupling_torque));
        }
    });
    for (const double place : places)
        for (const double payload : loads)
            for (const double direction : {1.0, -1.0}) {
                Span s;
                s.duration = s.piece.duration = time;
                s.piece.c = {place, direction * v, -direction * v / time / 2};
                s.payload = payload;
                sweep.cut(s);
            }
}

} // namespace

const char* cause_key(Cause c) {
    static constexpr std::array names{"load_inertia", "rotor", "friction", "gravity", "process"};
    return names.at(static_cast<std::size_t>(c));
}

const char* cause_label(Cause c) {
    static constexpr std::array names{"Load inertia", "Rotor", "Friction", "Gravity", "Process"};
    return names.at(static_cast<std::size_t>(c));
}

ShaftState Demand::at(double t) const {
    const auto it =
        std::upper_bound(spans.begin(), spans.end(), t, [](double value, const Span& s) { return value < s.start; });
    return evaluate(load, it == spans.begin() ? spans.front() : *std::prev(it), t);
}

Demand demand(const LoadModel& load, const Trajectory& motion, const Axis& axis) {
    Demand d;
    d.load = load;
    d.cycle_time = motion.duration;
    d.spans.reserve(motion.pieces.size() + 16);
    d.samples.reserve(motion.pieces.size() + 16);
    const std::vector<double> payloads = payload_by_segment(axis);
    std::vector<double> friction;
    friction.reserve(axis.cycle.segments.size());
    for (const Segment& s : axis.cycle.segments)
        friction.push_back(s.friction.value_or(friction.empty() ? 1 : friction.back()));
    Account account(d);
    Sweep sweep(d.load, [&](const Span& s, const SpanStates& states) { account(s, states); });
    for (const Piece& p : motion.pieces) {
        const Segment& segment = axis.cycle.segments[p.segment];
        Span s;
        s.start = p.start;
        s.duration = p.duration;
        s.piece = p;
        s.payload = payloads[p.segment];
        s.process = segment.process_force.value_or(0);
        s.friction_factor = friction[p.segment];
        if (const auto* dwell = std::get_if<Dwell>(&segment.what); dwell && dwell->brake_holds)
            s.regime = Regime::braked;
        sweep.cut(s);
    }
    account.close(payloads);
    emergency_stop(d, axis, motion, payloads);
    return d;
}

std::vector<double> heat_by_segment(const Demand& d, std::size_t segments) {
    std::vector<double> out(segments, 0.0);
    const SpanNodes& nodes = span_nodes();
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        if (s.regime == Regime::braked) continue;
        for (std::size_t i = 1; i + 1 < nodes.at.size(); ++i)
            out[s.piece.segment] += nodes.weight[i] * s.duration * std::pow(d.samples[k].torque[i], 2);
    }
    return out;
}

} // namespace fulmox

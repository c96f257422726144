// Peaks, means and energies of a cycle, span by span.
#pragma once

#include "core/demand/span_polynomial.h"
#include "core/demand/sweep.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>
#include <vector>

namespace fulmox {

/// What the spans of a cycle, or of a part of it, come to. Parts are added in order of time.
class DemandAccumulator {
  public:
    explicit DemandAccumulator(const LoadModel& load) : load_(load), crank_best_(fastest_angle(load)) {}

    Demand d; ///< what has been found so far; its load is not set

    void operator()(const Span& s, const SpanStates& states) {
        d.spans.push_back(s);
        SpanSamples& kept = d.samples.emplace_back();
        kept.speed = states.speed;
        kept.torque = states.torque;
        if (s.direction == 0) standing(s, states);
        if (s.regime == Regime::braked) return;
        const SpanNodes& nodes = span_nodes();
        Nodes weighted; // torque times its share of the time
        double heat = 0, speed = 0, squared = 0;
        for (std::size_t i = 0; i < weighted.size(); ++i) {
            const double w = nodes.weight[i] * s.lasting();
            weighted[i] = w * states.torque[i];
            heat += weighted[i] * states.torque[i];
            speed += w * std::abs(states.speed[i]);
            squared += w * states.speed[i] * states.speed[i];
            const double t = states.mechanism_torque[i], a = states.mechanism_acceleration[i];
            d.sums.a += w * t * t;
            d.sums.b += w * t * a;
            d.sums.c += w * a * a;
        }
        for (std::size_t k = 0; k < part_heat_.size(); ++k)
            for (std::size_t i = 0; i < weighted.size(); ++i) part_heat_[k] += weighted[i] * states.part[k][i];
        heat_ += heat;
        speed_ += speed;
        speed_squared_ += squared;
        if (s.direction != 0) moving(s, states);
        if (load_.position_dependent() && could_hold_more(s, states)) hold(s);
    }

    /// Where the axis starts from rest into this span static friction has to give way, before anything accelerates.
    void start(const Span& into) {
        Span s = into;
        const double there = s.piece.position(s.start - s.piece.start);
        s.piece.stop();
        s.piece.c[0] = there;
        s.friction_factor *= load_.breakaway;
        const ShaftPoint p = point(s, 0);
        if (std::abs(p.torque) > std::abs(d.breakaway.torque)) d.breakaway = p;
        d.coupling_peak = std::max(d.coupling_peak, std::abs(p.state.coupling_torque));
        d.axial_peak = std::max(d.axial_peak, std::abs(p.state.load_force));
    }

    /// Takes in the account of the stretch that follows.
    void add(DemandAccumulator&& next) {
        Demand& n = next.d;
        d.spans.insert(d.spans.end(), n.spans.begin(), n.spans.end());
        d.samples.insert(d.samples.end(), n.samples.begin(), n.samples.end());
        // long cycles are held once
        std::vector<Span>().swap(n.spans);
        std::vector<SpanSamples>().swap(n.samples);
        for (ShaftPoint Demand::*point :
            {&Demand::peak_running, &Demand::peak_motoring, &Demand::peak_braking, &Demand::breakaway})
            if (std::abs((n.*point).torque) > std::abs((d.*point).torque)) d.*point = n.*point;
        for (double Demand::*most : {&Demand::holding_torque, &Demand::static_torque, &Demand::static_torque_friction,
                 &Demand::brake_torque, &Demand::fall_torque, &Demand::peak_speed, &Demand::peak_power,
                 &Demand::peak_return, &Demand::coupling_peak, &Demand::axial_peak})
            d.*most = std::max(d.*most, n.*most);
        for (double Demand::*sum : {&Demand::energy_delivered, &Demand::energy_returned}) d.*sum += n.*sum;
        for (double QuadraticSums::*sum : {&QuadraticSums::a, &QuadraticSums::b, &QuadraticSums::c})
            d.sums.*sum += n.sums.*sum;
        for (std::size_t k = 0; k < part_heat_.size(); ++k) part_heat_[k] += next.part_heat_[k];
        heat_ += next.heat_;
        speed_ += next.speed_;
        speed_squared_ += next.speed_squared_;
    }

    /// Turns sums into means over the cycle. `friction`: the least factor on it.
    void close(double cycle_time, const std::vector<double>& payloads, double friction) {
        d.cycle_time = cycle_time;
        d.mechanism_peak_speed = d.peak_speed / load_.ratio;
        d.rms_torque = std::sqrt(heat_ / d.cycle_time);
        d.mean_speed = speed_ / d.cycle_time;
        d.rms_speed = std::sqrt(speed_squared_ / d.cycle_time);
        for (double* sum : {&d.sums.a, &d.sums.b, &d.sums.c}) *sum /= d.cycle_time;
        d.peak = std::abs(d.breakaway.torque) > std::abs(d.peak_running.torque) ? d.breakaway : d.peak_running;
        if (!load_.position_dependent())
            for (const double p : payloads) could_hold(0, p, friction);
        // a slider in its dead centre, or an arm straight up, pulls by rounding alone
        const double rounding = 1e-12 * std::abs(d.peak.torque);
        for (double* torque : {&d.holding_torque, &d.brake_torque, &d.fall_torque})
            if (*torque < rounding) *torque = 0;
        for (ShaftPoint* p : {&d.peak_motoring, &d.peak_braking})
            if (std::abs(p->torque) < rounding) *p = {};
        if (heat_ > 0)
            for (std::size_t k = 0; k < part_heat_.size(); ++k) d.rms_share[k] = part_heat_[k] / heat_;
    }

  private:
    const LoadModel& load_;
    double heat_ = 0, speed_ = 0, speed_squared_ = 0;
    std::array<double, cause_count> part_heat_{};

    using Nodes = std::array<double, span_node_count>;

    void standing(const Span& s, const SpanStates& states) {
        // what pushes may change evenly: one of the ends has most
        constexpr std::size_t last = span_node_count - 1;
        for (const std::size_t i : {std::size_t{0}, last}) {
            if (i == last && s.process_rate == 0) break;
            const double torque = std::abs(states.torque[i]);
            d.axial_peak = std::max(d.axial_peak, std::abs(states.load_force[i]));
            d.coupling_peak = std::max(d.coupling_peak, std::abs(states.coupling_torque[i]));
            if (s.regime == Regime::braked) {
                const double q = s.piece.position(0), pushed = s.process_at(s.start + (i == 0 ? 0 : s.duration));
                d.brake_torque = std::max(d.brake_torque, std::abs(holding_torque(load_, q, s.payload, pushed, false)));
                holds(q, s.payload, pushed, s.friction_factor);
                could_hold(q, s.payload, s.friction_factor);
                continue;
            }
            d.holding_torque = std::max(d.holding_torque, torque);
            if (torque > std::abs(d.peak_running.torque)) d.peak_running = point(s, i == 0 ? 0 : 1);
        }
    }
    void holds(double q, double payload, double process, double friction) {
        d.static_torque = std::max(d.static_torque, std::abs(holding_torque(load_, q, payload, process, false)));
        d.static_torque_friction =
            std::max(d.static_torque_friction, std::abs(holding_torque(load_, q, payload, process, true, friction)));
    }
    // what holding takes without a process force, and what falls then
    void could_hold(double q, double payload, double friction) {
        holds(q, payload, 0, friction);
        if (!load_.tension)
            d.fall_torque = std::max(d.fall_torque, std::abs(holding_torque(load_, q, payload, 0, false)));
    }

    void moving(const Span& s, const SpanStates& states) {
        const NodeRange torque = range_of(states.torque);
        // along the motion the motor drives, against it it brakes
        for (const double side : {1.0, -1.0}) {
            ShaftPoint& best = side > 0 ? d.peak_motoring : d.peak_braking;
            const double sign = side * s.direction, floor = std::abs(best.torque);
            const NodeRange range = sign > 0 ? torque : torque.turned();
            if (range.stays_below(floor)) continue;
            const SpanExtreme most = largest(states.torque, sign, range, floor);
            if (most.value <= floor) continue;
            best = point(s, most.u);
            if (std::abs(best.torque) > std::abs(d.peak_running.torque)) d.peak_running = best;
        }
        raise(d.axial_peak, s, states.load_force, [](const ShaftState& e) { return e.load_force; });
        raise(d.peak_speed, s, states.speed, [](const ShaftState& e) { return e.speed; });
        raise(d.coupling_peak, s, states.coupling_torque, [](const ShaftState& e) { return e.coupling_torque; });
        energy(s, states, torque);
    }

    void energy(const Span& s, const SpanStates& states, const NodeRange& torque) {
        const SpanNodes& nodes = span_nodes();
        Nodes power;
        double whole = 0;
        for (std::size_t i = 0; i < power.size(); ++i) {
            power[i] = states.torque[i] * states.speed[i];
            whole += nodes.weight[i] * s.lasting() * power[i];
        }
        const NodeRange range = range_of(power);
        const auto pick = [](const ShaftState& e) { return e.torque * e.speed; };
        raise(d.peak_power, s, power, 1, range, pick);
        raise(d.peak_return, s, power, -1, range.turned(), pick);
        const SignEdges edges = sign_edges(states.torque, torque);
        if (edges.count == 2) {
            (whole > 0 ? d.energy_delivered : d.energy_returned) += std::abs(whole);
            return;
        }
        const SpanPolynomial t(states.torque), w(states.speed);
        for (std::size_t k = 1; k < edges.count; ++k) {
            const double part =
                s.lasting() * integral([&](double u) { return t(u) * w(u); }, edges.u[k - 1], edges.u[k]);
            (part > 0 ? d.energy_delivered : d.energy_returned) += std::abs(part);
        }
    }
    ShaftPoint point(const Span& s, double u) const {
        const double at = s.start + u * s.duration;
        const ShaftState e = evaluate(load_, s, at);
        return {at, e.speed, e.torque, s.piece.segment, e};
    }
    // The polynomial tells where the quantity is largest, the shaft how large it is there.
    template <class Pick>
    void raise(double& most, const Span& s, const Nodes& values, double sign, const NodeRange& range, Pick pick) {
        if (range.stays_below(most)) return;
        const SpanExtreme found = largest(values, sign, range, most);
        if (found.value <= most) return;
        most = std::max({most, range.high, sign * pick(evaluate(load_, s, s.start + found.u * s.duration))});
    }
    template <class Pick> void raise(double& most, const Span& s, const Nodes& values, Pick pick) {
        const NodeRange range = range_of(values);
        raise(most, s, values, 1, range, pick);
        raise(most, s, values, -1, range.turned(), pick);
    }

    // the nodes tell what gravity and a tension pull with; between them it is a little more at most
    bool could_hold_more(const Span& s, const SpanStates& states) const {
        if (s.process != 0 || s.process_rate != 0 || load_.fan != 0) return true;
        const auto& weight = states.part[static_cast<std::size_t>(Cause::gravity)];
        const auto& constant = states.part[static_cast<std::size_t>(Cause::process)];
        double most = 0;
        for (std::size_t i = 0; i < weight.size(); ++i) most = std::max(most, std::abs(weight[i] + constant[i]));
        const bool monotone = load_.path == LoadModel::Path::winder; // the ends tell
        return (monotone ? 1 - 1e-12 : 1.1) * most > held_most_;
    }

    // what holding would take where the axis passes: at the ends of the span, and where gravity or the crank pulls most
    void hold(const Span& s) {
        const LoadModel& m = load_;
        const double from = s.piece.position(s.start - s.piece.start);
        const double to = s.piece.position(s.start + s.duration - s.piece.start);
        double low = std::min(from, to), high = std::max(from, to);
        constexpr double half_turn = std::numbers::pi;
        if (m.path != LoadModel::Path::winder) {
            const double turns =
                std::floor(low / (2 * half_turn)) * 2 * half_turn; // each turn pulls like the one before it
            low -= turns;
            high -= turns;
        }
        for (const Held& h : held_)
            if (h.payload == s.payload && h.low <= low && high <= h.high) return;
        if (held_.size() < 100) held_.push_back({s.payload, low, high});
        const auto at = [&](double q) {
            could_hold(q, s.payload, s.friction_factor);
            held_most_ = std::max(held_most_, std::abs(holding_torque(m, q, s.payload, 0, false)));
        };
        at(low);
        at(high);
        double most = 0; // an angle at which the pull is largest; it comes again every half turn
        if (m.path == LoadModel::Path::crank)
            most = crank_best_;
        else if (m.path == LoadModel::Path::straight)
            most = std::atan2(
                m.swing_sin + s.payload * m.payload_swing_sin, m.swing_cos + s.payload * m.payload_swing_cos);
        else if (m.path == LoadModel::Path::winder)
            return;
        for (const double best : {most, -most}) {
            const double next = best + std::ceil((low - best) / half_turn) * half_turn;
            if (next < high) at(next);
        }
    }
    struct Held {
        double payload, low, high;
    };
    std::vector<Held> held_; // places gone into already
    double held_most_ = 0;   // the most found at them
    double crank_best_;
};

} // namespace fulmox

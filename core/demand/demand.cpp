#include "core/demand/demand.h"

#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>

namespace fulmox {

namespace {

using Gauss = boost::math::quadrature::gauss<double, 7>;

double sign(double x) { return x > 0 ? 1 : x < 0 ? -1 : 0; }

double guide_friction(const LoadModel& m, double mass) {
    return m.friction * (std::abs(mass * m.gravity * m.cos_inclination) + m.normal_force) + m.drag;
}

double gravity_force(const LoadModel& m, double mass) {
    return mass * m.gravity * m.sin_inclination - m.counterbalance;
}

double holding(const LoadModel& m, double payload, double process, bool credit_friction) {
    const double mass = m.weight_mass + payload;
    const double force = gravity_force(m, mass) + process;
    if (!credit_friction) return force * m.radius;
    const double left = std::max(0.0, std::abs(force) - guide_friction(m, mass));
    const double torque = left * m.radius * std::clamp(m.efficiency_backward, 0.0, 1.0);
    return sign(force) * std::max(0.0, torque - m.shaft_drag);
}

Regime regime_of(double force, double direction) {
    if (direction == 0) return Regime::standstill;
    return force * direction >= 0 ? Regime::motoring : Regime::generating;
}

// Instants in (from, to) where f changes sign; f is smooth there.
template <class F> void add_roots(std::vector<double>& out, double from, double to, F&& f) {
    constexpr int probes = 6;
    double t0 = from;
    double f0 = f(from);
    for (int i = 1; i <= probes; ++i) {
        const double t1 = from + (to - from) * i / probes;
        const double f1 = f(t1);
        if (f0 * f1 < 0) {
            std::uintmax_t most = 60;
            const auto [a, b] = boost::math::tools::toms748_solve(
                f, t0, t1, f0, f1, boost::math::tools::eps_tolerance<double>(52), most);
            out.push_back((a + b) / 2);
        }
        t0 = t1;
        f0 = f1;
    }
}

struct Cutter {
    const LoadModel& m;
    std::vector<Span>& out;

    void cut(const Span& whole) {
        const double from = whole.start;
        const double to = whole.start + whole.duration;
        if (whole.regime == Regime::braked || whole.piece.at_rest()) {
            out.push_back(whole);
            return;
        }
        std::vector<double> edges{from, to};
        add_roots(edges, from, to, [&](double t) { return whole.piece.velocity(t - whole.piece.start); });
        refine(edges, whole, [](const ShaftState& s) { return s.load_force; });
        refine(edges, whole, [](const ShaftState& s) { return s.mechanism_torque; });
        refine(edges, whole, [](const ShaftState& s) { return s.torque; });
        for (std::size_t i = 1; i < edges.size(); ++i) out.push_back(part(whole, edges[i - 1], edges[i]));
    }

    Span part(const Span& whole, double from, double to) const {
        Span s = whole;
        s.start = from;
        s.duration = to - from;
        const double middle = (from + to) / 2;
        s.direction = sign(whole.piece.velocity(middle - whole.piece.start));
        s.regime = s.direction == 0 ? Regime::standstill : Regime::motoring;
        s.regime = regime_of(evaluate(m, s, middle).load_force, s.direction);
        return s;
    }

    template <class Pick> void refine(std::vector<double>& edges, const Span& whole, Pick pick) const {
        std::sort(edges.begin(), edges.end());
        std::vector<double> more;
        for (std::size_t i = 1; i < edges.size(); ++i) {
            if (edges[i] - edges[i - 1] <= 0) continue;
            const Span s = part(whole, edges[i - 1], edges[i]);
            add_roots(more, edges[i - 1], edges[i], [&](double t) { return pick(evaluate(m, s, t)); });
        }
        edges.insert(edges.end(), more.begin(), more.end());
        std::sort(edges.begin(), edges.end());
        // a root within rounding of a border is no change of regime: a move that ends at rest may end at -1e-17 m/s
        const double least = 1e-12 * whole.duration;
        std::vector<double> kept{edges.front()};
        for (const double e : edges)
            if (e - kept.back() > least && edges.back() - e > least) kept.push_back(e);
        kept.push_back(edges.back());
        edges = std::move(kept);
    }
};

template <class F> double integral(const Span& s, F&& f) {
    return s.duration > 0 ? Gauss::integrate(f, s.start, s.start + s.duration) : 0;
}

// Torque at the instant an emergency stop begins and just before it ends, from peak speed in either direction.
void emergency_stop(Demand& d, const Axis& axis, double peak_speed, const std::vector<double>& payloads) {
    const double time = axis.drive.stop_time.value_or(0);
    if (time <= 0 || peak_speed <= 0) return;
    for (const double payload : payloads) {
        for (const double direction : {1.0, -1.0}) {
            Span s;
            s.duration = time;
            s.piece.duration = time;
            s.piece.c = {0, direction * peak_speed, -direction * peak_speed / time / 2, 0};
            s.payload = payload;
            std::vector<Span> spans;
            Cutter{d.load, spans}.cut(s);
            for (const Span& part : spans)
                for (const double t : {part.start, part.start + part.duration}) {
                    const ShaftState e = evaluate(d.load, part, t);
                    d.emergency_torque = std::max(d.emergency_torque, std::abs(e.torque));
                    d.coupling_emergency = std::max(d.coupling_emergency, std::abs(e.mechanism_torque));
                }
        }
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

ShaftState evaluate(const LoadModel& m, const Span& s, double t) {
    ShaftState out;
    if (s.regime == Regime::braked) return out;
    const double tau = t - s.piece.start;
    const double v = s.piece.velocity(tau);
    const double a = s.piece.acceleration(tau);
    out.speed = v / m.radius;
    out.acceleration = a / m.radius;
    const double mass = m.weight_mass + s.payload;
    const double gravity = gravity_force(m, mass);
    auto& part = out.part;
    const auto at = [&](Cause c) -> double& { return part[static_cast<std::size_t>(c)]; };
    if (s.regime == Regime::standstill) {
        out.load_force = gravity + s.process;
        out.mechanism_torque = out.torque = holding(m, s.payload, s.process, m.credit_friction_at_rest);
        at(Cause::gravity) = gravity * m.radius;
        at(Cause::process) = s.process * m.radius;
        at(Cause::friction) = out.torque - at(Cause::gravity) - at(Cause::process);
        return out;
    }
    const double inertia = (m.moving_mass + s.payload) * a;
    out.load_force = inertia + gravity + s.process + s.direction * guide_friction(m, mass) + m.viscous * v;
    const double efficiency = s.regime == Regime::motoring ? 1 / m.efficiency_forward : m.efficiency_backward;
    out.mechanism_torque =
        out.load_force * m.radius * efficiency + s.direction * m.shaft_drag + m.own_inertia * out.acceleration;
    at(Cause::load_inertia) = inertia * m.radius + m.own_inertia * out.acceleration;
    at(Cause::rotor) = m.rotor_inertia * out.acceleration;
    at(Cause::gravity) = gravity * m.radius;
    at(Cause::process) = s.process * m.radius;
    out.torque = out.mechanism_torque + at(Cause::rotor);
    // guides, drag, and what the mechanism's efficiency takes or keeps back
    at(Cause::friction) = out.mechanism_torque - at(Cause::load_inertia) - at(Cause::gravity) - at(Cause::process);
    return out;
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
    const std::vector<double> payloads = payload_by_segment(axis);
    Cutter cutter{d.load, d.spans};
    for (const Piece& p : motion.pieces) {
        const Segment& segment = axis.cycle.segments[p.segment];
        Span s{p.start, p.duration, p, 0, Regime::standstill, payloads[p.segment], segment.process_force.value_or(0)};
        if (const auto* dwell = std::get_if<Dwell>(&segment.what); dwell && dwell->brake_holds)
            s.regime = Regime::braked;
        cutter.cut(s);
    }
    double heat = 0;
    double speed = 0;
    double speed_squared = 0;
    std::array<double, cause_count> part_heat{};
    for (const Span& s : d.spans) {
        if (s.regime == Regime::braked) continue;
        for (const double t : {s.start, s.start + s.duration}) {
            const ShaftState e = evaluate(load, s, t);
            const ShaftPoint p{t, e.speed, e.torque, s.piece.segment, e};
            const double power = e.torque * e.speed;
            const double middle_power = evaluate(load, s, s.start + s.duration / 2).torque * s.direction;
            if (std::abs(e.torque) > std::abs(d.peak.torque)) d.peak = p;
            if (middle_power > 0 && std::abs(e.torque) > std::abs(d.peak_motoring.torque)) d.peak_motoring = p;
            if (middle_power < 0 && std::abs(e.torque) > std::abs(d.peak_braking.torque)) d.peak_braking = p;
            d.peak_speed = std::max(d.peak_speed, std::abs(e.speed));
            d.peak_power = std::max(d.peak_power, power);
            d.peak_return = std::max(d.peak_return, -power);
            d.coupling_peak = std::max(d.coupling_peak, std::abs(e.mechanism_torque));
            d.axial_peak = std::max(d.axial_peak, std::abs(e.load_force));
            if (s.regime == Regime::standstill) d.holding_torque = std::max(d.holding_torque, std::abs(e.torque));
        }
        heat += integral(s, [&](double t) { return std::pow(evaluate(load, s, t).torque, 2); });
        for (std::size_t k = 0; k < part_heat.size(); ++k)
            part_heat[k] += integral(s, [&](double t) {
                const ShaftState e = evaluate(load, s, t);
                return e.torque * e.part[k];
            });
        if (s.regime == Regime::standstill) continue;
        speed += integral(s, [&](double t) { return std::abs(evaluate(load, s, t).speed); });
        speed_squared += integral(s, [&](double t) { return std::pow(evaluate(load, s, t).speed, 2); });
        const double energy = integral(s, [&](double t) {
            const ShaftState e = evaluate(load, s, t);
            return e.torque * e.speed;
        });
        (energy > 0 ? d.energy_delivered : d.energy_returned) += std::abs(energy);
    }
    d.rms_torque = std::sqrt(heat / d.cycle_time);
    d.mean_speed = speed / d.cycle_time;
    d.rms_speed = std::sqrt(speed_squared / d.cycle_time);
    if (heat > 0)
        for (std::size_t k = 0; k < part_heat.size(); ++k) d.rms_share[k] = part_heat[k] / heat;
    for (std::size_t i = 0; i < payloads.size(); ++i) {
        d.static_torque = std::max(d.static_torque, std::abs(holding(load, payloads[i], 0, false)));
        d.static_torque_friction = std::max(d.static_torque_friction, std::abs(holding(load, payloads[i], 0, true)));
    }
    emergency_stop(d, axis, d.peak_speed * load.radius, payloads);
    return d;
}

std::vector<double> heat_by_segment(const Demand& d, std::size_t segments) {
    std::vector<double> out(segments, 0.0);
    for (const Span& s : d.spans)
        if (s.regime != Regime::braked)
            out[s.piece.segment] += integral(s, [&](double t) { return std::pow(evaluate(d.load, s, t).torque, 2); });
    return out;
}

} // namespace fulmox

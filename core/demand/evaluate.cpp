// The shaft at an instant: from the cycle's coordinate through mechanism and stages to the motor.
#include "core/demand/evaluate.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

double sign(double x) { return x > 0 ? 1 : x < 0 ? -1 : 0; }

struct Kinematics {
    double speed = 0, acceleration = 0;           // of the mechanism's shaft
    double radius = 1;                            // dx/dθ
    double load_speed = 0, load_acceleration = 0; // x', x'' by time
    double force_arm = 1;                         // process force to load force: R of a winder
    double ring = 0;                              // kg·m² of the wound web
};

Kinematics kinematics(const LoadModel& m, double q, double v, double a) {
    Kinematics k;
    switch (m.path) {
    case LoadModel::Path::straight:
        k.speed = v / m.radius;
        k.acceleration = a / m.radius;
        k.radius = m.radius;
        k.load_speed = v;
        k.load_acceleration = a;
        break;
    case LoadModel::Path::crank:
    case LoadModel::Path::yoke: {
        const PathPoint p = path_at(m, q);
        k.speed = v;
        k.acceleration = a;
        k.radius = p.first;
        k.load_speed = p.first * v;
        k.load_acceleration = p.first * a + p.second * v * v;
        break;
    }
    case LoadModel::Path::winder: {
        const double r = m.roll_radius(m.web_start + m.web_sign * q);
        // r² = R_core² + layer · web, so r' = layer · web'/(2 r)
        const double growth = m.layer * m.web_sign * v / (2 * r);
        k.speed = k.load_speed = v / r;
        k.acceleration = k.load_acceleration = a / r - v * growth / (r * r);
        k.force_arm = r;
        const double core = m.core_radius * m.core_radius;
        k.ring = m.wound * (r * r * r * r - core * core);
        break;
    }
    }
    return k;
}

double guide_friction(const LoadModel& m, double mass, double factor) {
    return factor * (m.friction * (std::abs(mass * m.gravity * m.cos_inclination) + m.normal_force) + m.drag);
}

// Gravity at the load, N or N·m, counterbalance taken off.
double gravity_force(const LoadModel& m, double q, double payload) {
    if (m.motion.rotary && !m.motion.linear_force) {
        const double c = m.swing_cos + payload * m.payload_swing_cos;
        const double s = m.swing_sin + payload * m.payload_swing_sin;
        return c == 0 && s == 0 ? 0 : c * std::cos(q) + s * std::sin(q);
    }
    return (m.weight_mass + payload) * m.gravity * m.sin_inclination - m.counterbalance;
}

} // namespace

double holding_torque(const LoadModel& m, double q, double payload, double process, bool credit_friction) {
    const Kinematics k = kinematics(m, q, 0, 0);
    const double force = gravity_force(m, q, payload) + (process + m.constant) * k.force_arm;
    if (!credit_friction) return force * k.radius / m.ratio;
    const double mass = m.weight_mass + payload;
    const double left = std::max(0.0, std::abs(force) - guide_friction(m, mass, 1));
    double torque = left * std::abs(k.radius) * std::clamp(m.efficiency_backward, 0.0, 1.0);
    torque = std::max(0.0, torque - m.shaft_drag);
    for (auto s = m.stages.rbegin(); s != m.stages.rend(); ++s) torque *= std::clamp(s->backward, 0.0, 1.0) / s->ratio;
    return sign(force * k.radius) * torque;
}

ShaftState evaluate(const LoadModel& m, const Span& s, double t, Switches* switches) {
    ShaftState out;
    if (s.regime == Regime::braked) return out;
    const double tau = t - s.piece.start;
    const Piece::State now = s.piece.state(tau);
    const double q = now.position;
    const auto at = [&](Cause c) -> double& { return out.part[static_cast<std::size_t>(c)]; };
    if (s.direction == 0) {
        const Kinematics k = kinematics(m, q, 0, 0);
        const double gravity = gravity_force(m, q, s.payload);
        const double process = (s.process + m.constant) * k.force_arm;
        out.load_force = gravity + process;
        out.torque = holding_torque(m, q, s.payload, s.process, m.credit_friction_at_rest);
        out.mechanism_torque = out.torque * m.ratio;
        out.coupling_torque = m.coupling_at_mechanism ? out.mechanism_torque : out.torque;
        at(Cause::gravity) = gravity * k.radius / m.ratio;
        at(Cause::process) = process * k.radius / m.ratio;
        at(Cause::friction) = out.torque - at(Cause::gravity) - at(Cause::process);
        return out;
    }
    const Kinematics k = kinematics(m, q, now.velocity, now.acceleration);
    const double mass = m.weight_mass + s.payload;
    const double gravity = gravity_force(m, q, s.payload);
    const double process = (s.process + m.constant) * k.force_arm + m.fan * k.speed * std::abs(k.speed);
    const double inertia = (m.moving_mass + s.payload * m.payload_inertia + k.ring) * k.load_acceleration;
    out.load_force = inertia + gravity + process + s.load_direction * guide_friction(m, mass, s.friction_factor) +
                     m.viscous * k.load_speed;
    out.load_speed = k.load_speed;
    const double efficiency = out.load_force * s.load_direction >= 0 ? 1 / m.efficiency_forward : m.efficiency_backward;
    double torque =
        out.load_force * k.radius * efficiency + s.direction * m.shaft_drag + m.own_inertia * k.acceleration;
    out.mechanism_torque = torque;
    out.mechanism_speed = k.speed;
    out.mechanism_acceleration = k.acceleration;
    if (switches) switches->put(out.load_force), switches->put(torque);
    double speed = k.speed;
    double acceleration = k.acceleration;
    double stage_inertia = 0;
    for (auto stage = m.stages.rbegin(); stage != m.stages.rend(); ++stage) {
        const double kept = torque * s.direction >= 0 ? 1 / stage->forward : stage->backward;
        speed *= stage->ratio;
        acceleration *= stage->ratio;
        torque = torque * kept / stage->ratio + stage->inertia * acceleration;
        stage_inertia = stage_inertia / stage->ratio + stage->inertia * acceleration;
        if (switches) switches->put(torque);
    }
    const double beside = m.motor_side * acceleration;
    torque += beside;
    out.coupling_torque = m.coupling_at_mechanism ? out.mechanism_torque : torque;
    out.speed = speed;
    out.acceleration = acceleration;
    at(Cause::load_inertia) = (inertia * k.radius + m.own_inertia * k.acceleration) / m.ratio + stage_inertia + beside;
    at(Cause::rotor) = m.rotor_inertia * acceleration;
    at(Cause::gravity) = gravity * k.radius / m.ratio;
    at(Cause::process) = process * k.radius / m.ratio;
    out.torque = torque + at(Cause::rotor);
    // guides, drag, and what the efficiencies take or keep back
    at(Cause::friction) = torque - at(Cause::load_inertia) - at(Cause::gravity) - at(Cause::process);
    if (switches) switches->put(out.torque);
    return out;
}

ShaftState evaluate(const LoadModel& m, const Span& s, double t) { return evaluate(m, s, t, nullptr); }

} // namespace fulmox

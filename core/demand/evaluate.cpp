// The shaft at an instant: from the cycle's coordinate through mechanism and stages to the motor.
#include "core/demand/evaluate.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

template <std::size_t N> struct Kinematics {
    using Row = std::array<double, N>;
    Row speed, acceleration;           // of the mechanism's shaft
    Row radius;                        // dx/dθ
    Row load_speed, load_acceleration; // x', x'' by time
    Row force_arm;                     // process force to load force: R of a winder
    Row ring;                          // kg·m² of the wound web
};

// Position, velocity and acceleration of the cycle to those of shaft and load.
template <std::size_t N>
void kinematics(const LoadModel& m, const std::array<double, N>& q, const std::array<double, N>& v,
    const std::array<double, N>& a, Kinematics<N>& k) {
    switch (m.path) {
    case LoadModel::Path::straight: {
        const double turn = 1 / m.radius;
        for (std::size_t i = 0; i < N; ++i) {
            k.speed[i] = v[i] * turn;
            k.acceleration[i] = a[i] * turn;
        }
        k.radius.fill(m.radius);
        k.load_speed = v;
        k.load_acceleration = a;
        k.force_arm.fill(1);
        k.ring.fill(0);
        break;
    }
    case LoadModel::Path::crank:
    case LoadModel::Path::yoke:
        for (std::size_t i = 0; i < N; ++i) {
            const PathPoint p = path_at(m, q[i]);
            k.radius[i] = p.first;
            k.load_speed[i] = p.first * v[i];
            k.load_acceleration[i] = p.first * a[i] + p.second * v[i] * v[i];
        }
        k.speed = v;
        k.acceleration = a;
        k.force_arm.fill(1);
        k.ring.fill(0);
        break;
    case LoadModel::Path::winder: {
        const double core = m.core_radius * m.core_radius;
        for (std::size_t i = 0; i < N; ++i) {
            const double squared = core + m.layer * std::max(0.0, m.web_start + m.web_sign * q[i]);
            const double r = std::sqrt(squared), turn = 1 / r;
            // r² = R_core² + layer · web, so r' = layer · web'/(2 r) and ω' = v'/r − v r'/r²
            k.speed[i] = v[i] * turn;
            k.acceleration[i] = turn * (a[i] - m.layer * m.web_sign / 2 * k.speed[i] * k.speed[i]);
            k.force_arm[i] = r;
            k.ring[i] = m.wound * (squared * squared - core * core);
        }
        k.radius.fill(1);
        k.load_speed = k.speed;
        k.load_acceleration = k.acceleration;
        break;
    }
    }
}

double guide_friction(const LoadModel& m, double mass, double factor) {
    return factor * (m.friction * (std::abs(mass * m.gravity * m.cos_inclination) + m.normal_force) + m.drag);
}

// Gravity at the load, N or N·m, counterbalance taken off.
template <std::size_t N>
void gravity_force(const LoadModel& m, const std::array<double, N>& q, double payload, std::array<double, N>& out) {
    if (m.motion.rotary && !m.motion.linear_force) {
        const double c = m.swing_cos + payload * m.payload_swing_cos;
        const double s = m.swing_sin + payload * m.payload_swing_sin;
        if (c == 0 && s == 0) return out.fill(0);
        for (std::size_t i = 0; i < N; ++i) out[i] = c * std::cos(q[i]) + s * std::sin(q[i]);
        return;
    }
    out.fill((m.weight_mass + payload) * m.gravity * m.sin_inclination - m.counterbalance);
}

template <std::size_t N>
void piece_states(const Piece& p, const std::array<double, N>& tau, std::array<double, N>& x, std::array<double, N>& v,
    std::array<double, N>& a) {
    x.fill(p.c[static_cast<std::size_t>(p.degree)]);
    v.fill(0);
    a.fill(0);
    for (int k = p.degree - 1; k >= 0; --k) {
        const double c = p.c[static_cast<std::size_t>(k)];
        for (std::size_t i = 0; i < N; ++i) {
            a[i] = a[i] * tau[i] + v[i];
            v[i] = v[i] * tau[i] + x[i];
            x[i] = x[i] * tau[i] + c;
        }
    }
    for (double& each : a) each *= 2;
    if (p.amplitude == 0) return;
    const auto add = [&](std::size_t i, double sine, double cosine) {
        x[i] += p.amplitude * sine;
        v[i] += p.amplitude * p.omega * cosine;
        a[i] -= p.amplitude * p.omega * p.omega * sine;
    };
    if constexpr (N == span_node_count) {
        // the nodes lie evenly about the middle: half of the sines tell all
        const double middle = (tau.front() + tau.back()) / 2;
        const double angle = p.omega * middle + p.phase, s = std::sin(angle), c = std::cos(angle);
        for (std::size_t i = 0; i < N / 2; ++i) {
            const double off = p.omega * (tau[N - 1 - i] - middle);
            const double so = std::sin(off), co = std::cos(off);
            add(i, s * co - c * so, c * co + s * so);
            add(N - 1 - i, s * co + c * so, c * co - s * so);
        }
    } else {
        for (std::size_t i = 0; i < N; ++i) {
            const double angle = p.omega * tau[i] + p.phase;
            add(i, std::sin(angle), std::cos(angle));
        }
    }
}

// N·m at the mechanism's shaft that hold the load; what is credited is the friction in force and the mechanism's
// losses.
template <std::size_t N>
double held_at_mechanism(const LoadModel& m, const Kinematics<N>& k, double gravity, double payload, double process,
    bool credit_friction, double friction_factor) {
    const double force = gravity + (process + m.constant) * k.force_arm[0], radius = k.radius[0];
    if (!credit_friction) return force * radius;
    const double rubbing = guide_friction(m, m.weight_mass + payload, m.breakaway * friction_factor);
    const double left = std::max(0.0, std::abs(force) - rubbing);
    const double torque = left * std::abs(radius) * std::clamp(m.efficiency_backward, 0.0, 1.0);
    return sign(force * radius) * std::max(0.0, torque - m.shaft_drag);
}

double through_resting_stages(const LoadModel& m, double torque, bool credit_friction) {
    if (!credit_friction) return torque / m.ratio;
    for (auto s = m.stages.rbegin(); s != m.stages.rend(); ++s) torque *= std::clamp(s->backward, 0.0, 1.0) / s->ratio;
    return torque;
}

// At rest the position is one: no friction and no efficiency but by request, and then for the motor only.
template <std::size_t N>
void resting_rows(const LoadModel& m, const Span& s, const std::array<double, N>& q,
    const std::array<double, N>& pushes, StateRows<N>& out) {
    using Row = std::array<double, N>;
    const auto part = [&](Cause c) -> Row& { return out.part[static_cast<std::size_t>(c)]; };
    Kinematics<N> k;
    Row gravity;
    kinematics(m, q, Row{}, Row{}, k);
    gravity_force(m, q, s.payload, gravity);
    out.deciding_count = 0;
    const bool braked = s.regime == Regime::braked;
    const double at_motor = k.radius[0] / m.ratio;
    Row &weight = part(Cause::gravity), &process = part(Cause::process), &friction = part(Cause::friction);
    weight.fill(braked ? 0 : gravity[0] * at_motor);
    for (std::size_t i = 0; i < N; ++i) {
        if (i > 0 && s.process_rate == 0) { // all like the first
            for (Row* row :
                {&out.load_force, &out.torque, &out.mechanism_torque, &out.coupling_torque, &process, &friction})
                row->fill((*row)[0]);
            break;
        }
        const double pushed = (pushes[i] + m.constant) * k.force_arm[0], force = gravity[0] + pushed;
        const bool credit = m.credit_friction_at_rest;
        const double held =
            braked ? 0 : held_at_mechanism(m, k, gravity[0], s.payload, pushes[i], credit, s.friction_factor);
        const double torque = through_resting_stages(m, held, credit);
        out.load_force[i] = force;
        out.torque[i] = torque;
        out.mechanism_torque[i] = held;
        // what is hung on it the coupling carries, whoever holds and whatever helps
        out.coupling_torque[i] = force * k.radius[0] / (m.coupling_at_mechanism ? 1 : m.ratio);
        process[i] = braked ? 0 : pushed * at_motor;
        friction[i] = torque - weight[0] - process[i];
    }
    for (Row* zero : {&out.speed, &out.acceleration, &out.load_speed, &out.mechanism_speed, &out.mechanism_acceleration,
             &part(Cause::load_inertia), &part(Cause::rotor), &part(Cause::losses)})
        zero->fill(0);
}

// Signs of the speed of the mechanism's shaft and of the load.
template <std::size_t N> struct Ways { std::array<double, N> shaft, load; };

template <std::size_t N>
void moving_rows(const LoadModel& m, const Burden& c, const std::array<double, N>& q, const Kinematics<N>& k,
    const Ways<N>& way, const std::array<double, N>& pushes, StateRows<N>& out) {
    using Row = std::array<double, N>;
    const auto part = [&](Cause cause) -> Row& { return out.part[static_cast<std::size_t>(cause)]; };
    Row gravity;
    gravity_force(m, q, c.payload, gravity);
    Row &inertial = part(Cause::load_inertia), &rotor = part(Cause::rotor), &friction = part(Cause::friction),
        &weight = part(Cause::gravity), &process = part(Cause::process), &losses = part(Cause::losses);
    out.deciding_count = 0;
    const double rubbing = guide_friction(m, m.weight_mass + c.payload, c.friction_factor);
    const double mass = m.moving_mass + c.payload * m.payload_inertia;
    const double driving = 1 / m.efficiency_forward;
    for (std::size_t i = 0; i < N; ++i) {
        const double guides = way.load[i] * rubbing, drag = way.shaft[i] * m.shaft_drag;
        inertial[i] = (mass + k.ring[i]) * k.load_acceleration[i];
        process[i] = (pushes[i] + m.constant) * k.force_arm[i] + m.fan * k.speed[i] * std::abs(k.speed[i]);
        out.load_force[i] = inertial[i] + gravity[i] + process[i] + guides + m.viscous * k.load_speed[i];
        const double efficiency = out.load_force[i] * way.load[i] >= 0 ? driving : m.efficiency_backward;
        const double delivered = out.load_force[i] * k.radius[i];
        out.torque[i] = delivered * efficiency + drag + m.own_inertia * k.acceleration[i];
        losses[i] = delivered * (efficiency - 1);
        friction[i] = (guides + m.viscous * k.load_speed[i]) * k.radius[i] + drag;
    }
    out.load_speed = k.load_speed;
    out.mechanism_torque = out.torque;
    out.mechanism_speed = k.speed;
    out.mechanism_acceleration = k.acceleration;
    out.decide(out.load_force);
    out.speed = k.speed;
    out.acceleration = k.acceleration;
    Row stage_inertia{};
    for (auto stage = m.stages.rbegin(); stage != m.stages.rend(); ++stage) {
        const double forward = 1 / stage->forward, slower = 1 / stage->ratio;
        if (forward != stage->backward) out.decide(out.torque);
        for (std::size_t i = 0; i < N; ++i) {
            const double kept = out.torque[i] * way.shaft[i] >= 0 ? forward : stage->backward;
            out.speed[i] *= stage->ratio;
            out.acceleration[i] *= stage->ratio;
            const double idle = way.shaft[i] * stage->no_load;
            losses[i] = (losses[i] + out.torque[i] * (kept - 1)) * slower + idle;
            out.torque[i] = out.torque[i] * kept * slower + stage->inertia * out.acceleration[i] + idle;
            stage_inertia[i] = stage_inertia[i] * slower + stage->inertia * out.acceleration[i];
        }
    }
    const double share = 1 / m.ratio;
    for (std::size_t i = 0; i < N; ++i) {
        const double beside = m.motor_side * out.acceleration[i];
        out.torque[i] += beside;
        out.coupling_torque[i] = m.coupling_at_mechanism ? out.mechanism_torque[i] : out.torque[i];
        const double at_motor = k.radius[i] * share;
        inertial[i] = inertial[i] * at_motor + m.own_inertia * k.acceleration[i] * share + stage_inertia[i] + beside;
        weight[i] = gravity[i] * at_motor;
        process[i] *= at_motor;
        friction[i] *= share;
        rotor[i] = m.rotor_inertia * out.acceleration[i];
        out.torque[i] += rotor[i];
    }
}

template <std::size_t N>
void evaluate_rows(const LoadModel& m, const Span& s, const std::array<double, N>& tau, StateRows<N>& out) {
    std::array<double, N> q, v, a;
    piece_states(s.piece, tau, q, v, a);
    std::array<double, N> pushes;
    for (std::size_t i = 0; i < N; ++i) pushes[i] = s.process + s.process_rate * tau[i];
    if (s.direction == 0) return resting_rows(m, s, q, pushes, out);
    Kinematics<N> k;
    kinematics(m, q, v, a, k);
    Ways<N> way;
    way.shaft.fill(s.direction);
    way.load.fill(s.load_direction);
    moving_rows(m, {s.payload, s.friction_factor}, q, k, way, pushes, out);
}

} // namespace

double holding_torque(
    const LoadModel& m, double q, double payload, double process, bool credit_friction, double friction_factor) {
    Kinematics<1> k;
    kinematics<1>(m, {q}, {0}, {0}, k);
    std::array<double, 1> gravity;
    gravity_force<1>(m, {q}, payload, gravity);
    const double held = held_at_mechanism(m, k, gravity[0], payload, process, credit_friction, friction_factor);
    return through_resting_stages(m, held, credit_friction);
}

void evaluate_nodes(const LoadModel& m, const Span& s, SpanStates& out) {
    std::array<double, span_node_count> tau;
    const SpanNodes& nodes = span_nodes();
    for (std::size_t i = 0; i < tau.size(); ++i) tau[i] = s.start - s.piece.start + nodes.at[i] * s.duration;
    evaluate_rows(m, s, tau, out);
}

void evaluate_instants(const LoadModel& m, const Burden& c, const Instants& at, InstantStates& out) {
    constexpr std::size_t n = instant_count;
    Kinematics<n> k;
    kinematics(m, at.position, at.velocity, at.acceleration, k);
    const bool straight = m.path == LoadModel::Path::straight;
    Ways<n> way;
    for (std::size_t i = 0; i < n; ++i) {
        const double along = at.direction[i], turned = k.radius[i] < 0 ? -along : along;
        way.shaft[i] = straight ? turned : along;
        way.load[i] = straight ? along : turned;
    }
    // a stop may come when nothing is pushed
    moving_rows(m, c, at.position, k, way, std::array<double, n>{}, out);
}

ShaftState evaluate(const LoadModel& m, const Span& s, double t) {
    ShaftState out;
    StateRows<1> r;
    evaluate_rows<1>(m, s, {t - s.piece.start}, r);
    out.speed = r.speed[0];
    out.acceleration = r.acceleration[0];
    out.torque = r.torque[0];
    for (std::size_t i = 0; i < out.part.size(); ++i) out.part[i] = r.part[i][0];
    out.load_force = r.load_force[0];
    out.load_speed = r.load_speed[0];
    out.mechanism_torque = r.mechanism_torque[0];
    out.mechanism_speed = r.mechanism_speed[0];
    out.mechanism_acceleration = r.mechanism_acceleration[0];
    out.coupling_torque = r.coupling_torque[0];
    return out;
}

} // namespace fulmox

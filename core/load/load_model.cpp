#include "core/load/load_model.h"

#include "core/load/bodies.h"
#include "core/load/screw.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

using std::numbers::pi;

namespace {

void set_losses(LoadModel& m, const Losses& l) {
    m.efficiency_forward = l.efficiency.si;
    m.efficiency_backward = backward_or(l.efficiency_back, l.efficiency.si);
    m.shaft_drag = l.drag.value_or(0);
}

// m g e sin δ cos(θ + φ − θ_h), as parts of cos θ and sin θ
void add_swing(double& cos_part, double& sin_part, double moment, double phase) {
    cos_part += moment * std::cos(phase);
    sin_part -= moment * std::sin(phase);
}

struct LoadBuilder {
    const Axis& axis;
    const Machine& machine;
    LoadModel& m;
    double swing = 0;         // g sin δ of a rotary load, 0 on a level table
    double horizontal_at = 0; // rad

    void operator()(const Screw& s) {
        m.radius = screw_radius(s);
        m.own_inertia += s.turns == ScrewTurns::screw ? screw_inertia(s) : s.nut_inertia.value_or(0);
        const Efficiency e = screw_efficiency(s, false);
        m.efficiency_forward = e.forward;
        m.efficiency_backward = e.backward;
        m.shaft_drag = screw_drag(s);
    }
    void operator()(const RackPinion& r) {
        m.radius = r.teeth.si * r.module.si / 2 / (r.cut == Teeth::helical ? std::cos(r.helix.si) : 1.0);
        m.own_inertia += r.pinion_inertia.value_or(0);
        set_losses(m, r.losses);
    }
    void operator()(const BeltDrive& b) {
        m.radius = b.teeth.si * b.pitch.si / (2 * pi);
        const double k = b.idler_diameter.given() ? m.radius / (b.idler_diameter.si / 2) : 1;
        m.own_inertia += b.pulley_inertia.value_or(0) + b.idlers.si * b.idler_inertia.value_or(0) * k * k +
                         b.belt_mass.value_or(0) * m.radius * m.radius;
        set_losses(m, b.losses);
    }
    void operator()(const LinearMotor&) { m.radius = 1; }
    void operator()(const FreeForm& f) {
        m.radius = f.moves == FreeMotion::linear ? f.travel.si / (2 * pi) : 1;
        m.own_inertia += f.inertia.value_or(0);
        m.drag += f.friction_torque.value_or(0) / m.radius;
        m.constant += f.constant_torque.value_or(0) / m.radius;
        set_losses(m, f.losses);
    }
    void operator()(const GivenDemand& g) {
        m.radius = g.at == DemandAt::screw ? g.lead.si / (2 * pi) : 1;
        m.told_inertia = g.inertia.value_or(0);
        set_losses(m, g.losses);
    }
    void operator()(const Conveyor& c) {
        const double t = c.belt_thickness.value_or(0);
        m.radius = c.pulley_diameter.si / 2 + t / 2;
        const double roller = c.roller_diameter.given() ? c.roller_diameter.si / 2 : c.pulley_diameter.si / 2;
        const double k = m.radius / (roller + t / 2);
        m.own_inertia += (1 + c.pulleys.si) * c.pulley_inertia.value_or(0) +
                         c.rollers.si * c.roller_inertia.value_or(0) * k * k +
                         c.belt_mass.value_or(0) * m.radius * m.radius;
        m.drag += c.belt_drag.value_or(0);
        set_losses(m, c.losses);
    }
    void operator()(const FeedRolls& f) {
        m.radius = f.roll_diameter.si / 2;
        const double k = f.follower_diameter.given() ? f.roll_diameter.si / f.follower_diameter.si : 1;
        m.own_inertia += f.roll_inertia.value_or(0) + f.follower_inertia.value_or(0) * k * k;
        m.constant += f.tension.value_or(0);
        m.tension = true;
        set_losses(m, f.losses);
    }
    void operator()(const Winder& w) {
        m.path = LoadModel::Path::winder;
        m.core_radius = w.core_diameter.si / 2;
        m.layer = w.web_thickness.si / pi;
        m.wound = pi * w.web_density.si * w.web_width.si / 2;
        m.web_sign = w.winds == WindsTo::winds ? 1 : -1;
        m.constant = m.web_sign * w.tension.si;
        m.tension = true;
        m.own_inertia += w.core_inertia.value_or(0);
        set_losses(m, w.losses);
    }
    void operator()(const Hoist& h) {
        m.radius = h.drum_diameter.si / 2 / h.falls.si;
        m.own_inertia += h.drum_inertia.value_or(0);
        m.sin_inclination = 1;
        m.cos_inclination = 0;
        set_losses(m, h.losses);
    }
    void operator()(const RotaryTable& t) {
        swing = machine.site.gravity.si * std::sin(t.tilt.value_or(0));
        horizontal_at = t.horizontal_at.value_or(0);
        m.own_inertia += t.table_inertia.value_or(0);
        rotary_payload(t.payload_radius.value_or(0));
        m.drag += t.friction_torque.value_or(0);
        set_losses(m, t.losses);
    }
    void operator()(const Arm& a) {
        swing = machine.site.gravity.si;
        horizontal_at = a.horizontal_at.value_or(0);
        const double mass = a.arm_mass.value_or(0);
        const double centre = a.arm_centre.value_or(0);
        m.own_inertia += a.arm_inertia.given() ? a.arm_inertia.si : mass * std::pow(2 * centre, 2) / 3;
        add_swing(m.swing_cos, m.swing_sin, mass * centre * swing, -horizontal_at);
        rotary_payload(a.payload_radius.si);
        m.drag += a.friction_torque.value_or(0);
        set_losses(m, a.losses);
    }
    void operator()(const SliderCrank& s) {
        m.path = LoadModel::Path::crank;
        m.crank = s.crank.si;
        m.rod = s.rod.si;
        m.own_inertia += s.crank_inertia.value_or(0);
        set_losses(m, s.losses);
    }
    void operator()(const ScotchYoke& s) {
        m.path = LoadModel::Path::yoke;
        m.crank = s.crank.si;
        m.own_inertia += s.crank_inertia.value_or(0);
        set_losses(m, s.losses);
    }
    void operator()(const Fan& f) {
        m.own_inertia += f.rotor_inertia.value_or(0);
        m.fan = f.reference_torque.si / (f.reference_speed.si * f.reference_speed.si);
        set_losses(m, f.losses);
    }

    void rotary_payload(double radius) {
        m.payload_inertia = radius * radius;
        add_swing(m.payload_swing_cos, m.payload_swing_sin, radius * swing, -horizontal_at);
    }
    void add_bodies() {
        const bool linear_load = !m.motion.rotary || m.motion.linear_force;
        for (const Body& b : axis.bodies) {
            const BodyValue v = body_value(b, machine.materials, false);
            if (m.motion.direct && b.place == BodyPlace::shaft) continue; // there is no shaft
            if (b.place == BodyPlace::shaft) {
                m.own_inertia += v.inertia;
            } else if (m.path == LoadModel::Path::winder) { // a web runs along a line, but what it is wound on turns
                m.moving_mass += v.inertia;
            } else if (linear_load) {
                m.moving_mass += v.mass;
                m.weight_mass += v.mass;
            } else {
                m.moving_mass += v.inertia;
            }
            if (!linear_load) add_swing(m.swing_cos, m.swing_sin, v.moment * swing, v.angle - horizontal_at);
        }
    }
};

double clean_cos(double angle) { return std::abs(angle) == pi / 2 ? 0 : std::cos(angle); }

} // namespace

double backward_or(const QuantityBase& given, double forward) { return given.given() ? given.si : 2 - 1 / forward; }

EfficiencyPair mechanism_efficiency(const Mechanism& mechanism) {
    return std::visit(
        [](const auto& held) {
            using T = std::decay_t<decltype(held)>;
            if constexpr (std::is_same_v<T, Screw>) {
                const Efficiency e = screw_efficiency(held, false);
                return EfficiencyPair{e.forward, e.backward};
            } else if constexpr (std::is_same_v<T, LinearMotor>) {
                return EfficiencyPair{};
            } else {
                const double f = held.losses.efficiency.si;
                return EfficiencyPair{f, backward_or(held.losses.efficiency_back, f)};
            }
        },
        mechanism);
}

double LoadModel::roll_radius(double web) const {
    return std::sqrt(core_radius * core_radius + layer * std::max(0.0, web));
}

PathPoint path_at(const LoadModel& m, double q) {
    const double c = m.crank;
    switch (m.path) {
    case LoadModel::Path::straight:
        return {m.radius, 0};
    case LoadModel::Path::winder:
        return {1, 0};
    case LoadModel::Path::yoke:
        return {c * std::cos(q), -c * std::sin(q)};
    case LoadModel::Path::crank: {
        const double s = std::sin(q), k = std::cos(q);
        const double w = std::sqrt(m.rod * m.rod - c * c * s * s);
        // w' = −c² s k / w;  x' = −c s + w';  x'' = −c k + w''
        const double w1 = -c * c * s * k / w;
        const double w2 = -(c * c * (k * k - s * s) + w1 * w1) / w;
        return {-c * s + w1, -c * k + w2};
    }
    }
    return {};
}

double fastest_angle(const LoadModel& m) {
    if (m.path != LoadModel::Path::crank) return 0; // a yoke at 0
    std::uintmax_t tries = 60;
    return boost::math::tools::brent_find_minima(
        [&](double q) { return -std::abs(path_at(m, q).first); }, 0.0, pi, 40, tries)
        .first;
}

std::vector<double> narrow_angles(const LoadModel& m) {
    if (m.path == LoadModel::Path::yoke) return {0, pi / 2, pi, 3 * pi / 2}; // x'' largest in the dead centres
    if (m.path != LoadModel::Path::crank) return {};
    std::vector<double> out{0, pi};
    // x'' is even about the dead centres: half a turn tells; closer where a short rod swings through
    std::vector<double> at;
    constexpr int even = 48;
    for (int i = 0; i <= even; ++i) at.push_back(pi * i / even);
    for (const double aside : {0.005, 0.01, 0.02, 0.03})
        for (const double side : {-1.0, 1.0}) at.push_back(pi / 2 + side * aside);
    std::sort(at.begin(), at.end());
    const auto bend = [&](double q) { return path_at(m, q).second; };
    for (std::size_t i = 1; i + 1 < at.size(); ++i)
        for (const double side : {-1.0, 1.0}) {
            if (side * bend(at[i]) < side * bend(at[i - 1]) || side * bend(at[i]) < side * bend(at[i + 1])) continue;
            std::uintmax_t tries = 60;
            const double top = boost::math::tools::brent_find_minima(
                [&](double q) { return -side * bend(q); }, at[i - 1], at[i + 1], 26, tries)
                                   .first;
            out.push_back(top);
            out.push_back(2 * pi - top);
        }
    return out;
}

std::vector<RidingPart> riding_parts(const Axis& axis) {
    if (const auto* forcer = std::get_if<LinearForcer>(&axis.motor.electric); forcer && axis.driven())
        return {{"forcer", "Forcer", forcer->forcer_mass.value_or(0),
            forcer->core == ForcerCore::iron ? forcer->attraction.value_or(0) : 0}};
    const auto* belt = std::get_if<BeltDrive>(&axis.mechanism);
    if (!belt || belt->motor_seat != MotorSeat::rides) return {};
    return {{"riding", "Riding motor", belt->riding_mass.given() ? belt->riding_mass.si : axis.motor.mass.value_or(0)}};
}

LoadModel load_model(const Machine& machine, const Axis& axis, double web) {
    const Load& l = axis.load;
    LoadModel m;
    m.motion = motion_of(axis.mechanism);
    const auto has = [&](unsigned bit) { return (m.motion.has & bit) != 0; };
    m.gravity = machine.site.gravity.si;
    const bool shaft = has(Motion::shaft);
    m.rotor_inertia = !axis.driven() || !shaft ? 0 : axis.motor.turning_inertia();
    if (has(Motion::inclination)) {
        m.sin_inclination = std::sin(l.inclination.si);
        m.cos_inclination = clean_cos(l.inclination.si);
        m.counterbalance = l.counterbalance.value_or(0);
    }
    if (has(Motion::carriage)) m.moving_mass = m.weight_mass = l.carriage_mass.si;
    if (has(Motion::counterweight)) {
        // rigged to move at the load's speed, it pulls with its whole weight
        m.moving_mass += l.counterweight.value_or(0);
        m.counterbalance += l.counterweight.value_or(0) * m.gravity;
    }
    if (has(Motion::guides)) {
        m.friction = l.guide_friction.si;
        m.normal_force = l.guide_preload.value_or(0);
        m.drag = l.seal_drag.value_or(0);
        m.viscous = l.viscous.value_or(0);
        m.breakaway = l.breakaway.value_or(1);
    }
    LoadBuilder builder{axis, machine, m};
    std::visit(builder, axis.mechanism);
    for (const RidingPart& part : riding_parts(axis)) {
        m.moving_mass += part.mass;
        m.weight_mass += part.mass;
        m.normal_force += part.normal_force;
    }
    // fills are those of the roll: where the cycle counts from changes nothing
    m.web_start = web - m.web_sign * axis.cycle.start_position.value_or(0);
    builder.add_bodies();
    m.credit_friction_at_rest = axis.credit_friction_at_rest;
    m.coupling_at_mechanism = axis.stages.empty() || axis.coupling.place == CouplingPlace::mechanism;
    if (!shaft) return m;
    for (const Stage& s : axis.stages) {
        const double forward = inner_efficiency(s);
        m.stages.push_back({s.ratio.si, s.inertia.value_or(0), forward,
            s.by_lead() ? s.back() : backward_or(s.efficiency_back, forward), s.no_load_torque.value_or(0)});
        m.ratio *= s.ratio.si;
    }
    const double coupling = axis.coupling.inertia.value_or(0);
    (m.coupling_at_mechanism ? m.own_inertia : m.motor_side) += coupling;
    if (axis.brake.there()) {
        const double brake = axis.brake.inertia.value_or(0);
        if (axis.brake.place == CouplingPlace::mechanism)
            m.own_inertia += brake;
        else
            m.rotor_inertia += axis.driven() ? brake : 0;
    }
    if (m.coupling_at_mechanism && axis.coupling.place == CouplingPlace::motor) m.with_motor = coupling;
    return m;
}

double inner_efficiency(const Stage& s) {
    if (!s.no_load_torque.given() || !s.rated_torque.given()) return s.driving();
    return 1 / (1 / s.driving() - s.ratio.si * s.no_load_torque.si / s.rated_torque.si);
}

double full_web(const Winder& w) {
    const double outer = w.roll_diameter.si / 2;
    const double core = w.core_diameter.si / 2;
    return pi * (outer * outer - core * core) / w.web_thickness.si;
}

std::vector<FillState> fill_states(const Axis& axis, const Excursion& trip) {
    const auto* w = std::get_if<Winder>(&axis.mechanism);
    if (!w) return {{}};
    const bool winds = w->winds == WindsTo::winds;
    // what must be on the roll before the cycle, and what must find room on it
    const double least = winds ? trip.below : trip.above, more = winds ? trip.above : trip.below;
    const double most = full_web(*w), room = most - least - more;
    if (room < -1e-12 * most) return {};
    std::vector<FillState> out;
    for (std::size_t i = 0; i < fill_count; ++i)
        out.push_back({least + std::max(0.0, room) * static_cast<double>(i) / (fill_count - 1), fill_names[i]});
    return out;
}

double first_payload(const Axis& axis) {
    return (motion_of(axis.mechanism).has & Motion::payload) ? axis.load.payload.si : 0;
}

std::optional<std::string> not_finite(const LoadModel& m) {
    const std::pair<const char*, double> numbers[]{{"transmission radius", m.radius}, {"crank radius", m.crank},
        {"rod length", m.rod}, {"core radius", m.core_radius}, {"web thickness", m.layer}, {"web inertia", m.wound},
        {"web on the roll", m.web_start}, {"inertia at the shaft of the mechanism", m.own_inertia},
        {"inertia at the motor shaft", m.motor_side}, {"rotor inertia", m.rotor_inertia},
        {"moving mass", m.moving_mass}, {"weight", m.weight_mass}, {"payload inertia", m.payload_inertia},
        {"gravity", m.gravity}, {"gravity torque", m.swing_cos + m.swing_sin},
        {"gravity torque of the payload", m.payload_swing_cos + m.payload_swing_sin}, {"guide friction", m.friction},
        {"normal force", m.normal_force}, {"drag", m.drag}, {"viscous friction", m.viscous},
        {"breakaway factor", m.breakaway}, {"counterbalance", m.counterbalance}, {"constant force", m.constant},
        {"load torque of the fan", m.fan}, {"drag at the shaft", m.shaft_drag},
        {"efficiency, driving", m.efficiency_forward}, {"efficiency, back", m.efficiency_backward},
        {"ratio of the stages", m.ratio}, {"travel per radian, inverted", 1 / m.radius},
        {"ratio of the stages, inverted", 1 / m.ratio}};
    for (const auto& [name, value] : numbers)
        if (!std::isfinite(value)) return name;
    for (const StageModel& s : m.stages)
        if (!std::isfinite(s.ratio + s.inertia + s.forward + s.backward + s.no_load)) return "a stage of the reduction";
    return std::nullopt;
}

} // namespace fulmox

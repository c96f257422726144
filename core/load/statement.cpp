#include "core/load/statement.h"

#include "core/load/screw.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

double rotor_side(const Motor& m) { return m.empty() ? 0 : m.rotor_inertia.si + m.brake_inertia.value_or(0); }

} // namespace

std::vector<double> payload_by_segment(const Axis& axis) {
    std::vector<double> out;
    out.reserve(axis.cycle.segments.size());
    double now = axis.load.payload.si;
    for (const Segment& s : axis.cycle.segments) {
        now = s.payload.value_or(now);
        out.push_back(now);
    }
    return out;
}

LoadModel load_model(const Axis& axis, const Site& site) {
    const Load& l = axis.load;
    const Screw& s = std::get<Screw>(axis.mechanism);
    LoadModel m;
    m.radius = screw_radius(s);
    m.own_inertia = screw_inertia(s) + axis.coupling.inertia.value_or(0);
    m.rotor_inertia = rotor_side(axis.motor);
    m.moving_mass = l.carriage_mass.si + l.counterweight.value_or(0);
    m.weight_mass = l.carriage_mass.si;
    m.gravity = site.gravity.si;
    m.sin_inclination = std::sin(l.inclination.si);
    m.cos_inclination = std::abs(l.inclination.si) == std::numbers::pi / 2 ? 0 : std::cos(l.inclination.si);
    m.friction = l.guide_friction.si;
    m.normal_force = l.guide_preload.value_or(0);
    m.drag = l.seal_drag.value_or(0);
    m.viscous = l.viscous.value_or(0);
    // a hanging counterweight pulls up the incline with its whole weight
    m.counterbalance = l.counterbalance.value_or(0) + l.counterweight.value_or(0) * site.gravity.si;
    m.shaft_drag = screw_drag(s);
    const Efficiency e = screw_efficiency(s, false);
    m.efficiency_forward = e.forward;
    m.efficiency_backward = e.backward;
    m.credit_friction_at_rest = axis.credit_friction_at_rest;
    return m;
}

InertiaStatement inertia_statement(const Axis& axis, bool with_working) {
    const Screw& s = std::get<Screw>(axis.mechanism);
    const double r = screw_radius(s);
    const Load& l = axis.load;
    double heaviest = l.payload.si;
    double lightest = l.payload.si;
    const std::vector<double> payloads = payload_by_segment(axis);
    if (!payloads.empty()) {
        const auto [lo, hi] = std::minmax_element(payloads.begin(), payloads.end());
        lightest = *lo;
        heaviest = *hi;
    }
    InertiaStatement out;
    const auto add = [&](const char* key, std::string label, std::string detail, double value, bool rotor, Working w) {
        out.shares.push_back({key, std::move(label), std::move(detail), value, rotor, std::move(w)});
    };
    const auto mass = [&](const char* key, const char* label, double m) {
        Working w;
        if (with_working)
            w.push_back(working_line("J", "m (l/2π)²", "m*(l/(2*pi))^2", {{"m", m}, {"l", s.lead.si}}, m * r * r,
                Kind::inertia, "kinetic energy"));
        add(key, label, format_number(m) + " kg", m * r * r, false, std::move(w));
    };
    mass("payload", "Payload", heaviest);
    mass("carriage", "Carriage", l.carriage_mass.si);
    if (l.counterweight.value_or(0) > 0) mass("counterweight", "Counterweight", l.counterweight.si);
    Working w;
    const double d = body_diameter(s);
    if (with_working)
        w.push_back(
            working_line("J", "π ρ L d⁴/32", "pi*rho*L*d^4/32", {{"rho", s.density.si}, {"L", s.length.si}, {"d", d}},
                screw_inertia(s), Kind::inertia, "solid cylinder about its axis"));
    add("screw", "Screw", format_number(s.diameter.si * 1e3) + " × " + format_number(s.length.si * 1e3) + " mm",
        screw_inertia(s), false, std::move(w));
    if (axis.coupling.inertia.value_or(0) > 0)
        add("coupling", "Coupling", "given", axis.coupling.inertia.si, false, {});
    for (const InertiaShare& i : out.shares) out.load += i.at_shaft;
    out.load_least = out.load - (heaviest - lightest) * r * r;
    if (!axis.motor.empty()) {
        add("rotor", "Rotor", axis.motor.name, axis.motor.rotor_inertia.si, true, {});
        if (axis.motor.brake_inertia.value_or(0) > 0)
            add("brake", "Motor brake", "given", axis.motor.brake_inertia.si, true, {});
        out.rotor = rotor_side(axis.motor);
    }
    return out;
}

} // namespace fulmox

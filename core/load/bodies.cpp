#include "core/load/bodies.h"

#include <cmath>

namespace fulmox {

using std::numbers::pi;

namespace {

template <class... F> struct Overloaded : F... { using F::operator()...; };
template <class... F> Overloaded(F...) -> Overloaded<F...>;

struct Formula {
    double inertia;
    const char* formula;
    const char* expression;
    WorkingValues values;
};

// Inertia about the axis through the centre of mass.
Formula centroidal(const BodyShape& shape, double m) {
    return std::visit(Overloaded{
                          [&](const SolidCylinder& s) {
                              const double d = s.diameter.si;
                              return Formula{body::cylinder(m, d), "m d²/8", "m*d^2/8", {{"m", m}, {"d", d}}};
                          },
                          [&](const HollowCylinder& s) {
                              const double o = s.outer_diameter.si, i = s.inner_diameter.si;
                              return Formula{body::hollow_cylinder(m, o, i), "m (D² + d²)/8", "m*(D^2+d^2)/8",
                                  {{"m", m}, {"D", o}, {"d", i}}};
                          },
                          [&](const ThinRing& s) {
                              const double d = s.diameter.si;
                              return Formula{body::ring(m, d), "m (d/2)²", "m*(d/2)^2", {{"m", m}, {"d", d}}};
                          },
                          [&](const CrossCylinder& s) {
                              const double d = s.diameter.si, l = s.length.si;
                              return Formula{body::cylinder_across(m, d, l), "m (3 (d/2)² + L²)/12",
                                  "m*(3*(d/2)^2+L^2)/12", {{"m", m}, {"d", d}, {"L", l}}};
                          },
                          [&](const Block& s) {
                              const double a = s.length.si, b = s.width.si;
                              return Formula{body::block(m, a, b), "m (a² + b²)/12", "m*(a^2+b^2)/12",
                                  {{"m", m}, {"a", a}, {"b", b}}};
                          },
                          [&](const Rod& s) {
                              const double l = s.length.si;
                              return Formula{body::rod(m, l), "m L²/12", "m*L^2/12", {{"m", m}, {"L", l}}};
                          },
                          [&](const Sphere& s) {
                              const double d = s.diameter.si;
                              return Formula{body::sphere(m, d), "m d²/10", "m*d^2/10", {{"m", m}, {"d", d}}};
                          },
                          [&](const Cone& s) {
                              const double d = s.diameter.si;
                              return Formula{body::cone(m, d), "3 m d²/40", "3*m*d^2/40", {{"m", m}, {"d", d}}};
                          },
                          [&](const PointMass&) {
                              return Formula{0, "", "", {}};
                          },
                          [&](const KnownInertia& s) {
                              return Formula{s.inertia.si, "", "", {}};
                          },
                      },
        shape);
}

} // namespace

double body_volume(const BodyShape& shape) {
    return std::visit(
        Overloaded{
            [](const SolidCylinder& s) { return pi * s.diameter.si * s.diameter.si * s.length.si / 4; },
            [](const HollowCylinder& s) {
                return pi * (s.outer_diameter.si * s.outer_diameter.si - s.inner_diameter.si * s.inner_diameter.si) *
                       s.length.si / 4;
            },
            [](const CrossCylinder& s) { return pi * s.diameter.si * s.diameter.si * s.length.si / 4; },
            [](const Block& s) { return s.length.si * s.width.si * s.height.si; },
            [](const Sphere& s) { return pi * std::pow(s.diameter.si, 3) / 6; },
            [](const Cone& s) { return pi * s.diameter.si * s.diameter.si * s.height.si / 12; },
            [](const auto&) { return 0.0; },
        },
        shape);
}

const Material* find_material(const std::vector<Material>& materials, const std::string& name) {
    for (const Material& m : materials)
        if (m.name == name) return &m;
    return nullptr;
}

BodyValue body_value(const Body& b, const std::vector<Material>& materials, bool with_working) {
    BodyValue out;
    double mass = b.mass.value_or(0);
    if (!b.mass.given()) {
        const Material* material = find_material(materials, b.material);
        const double volume = body_volume(b.shape);
        const double density = material ? material->density.value_or(0) : 0;
        mass = density * volume;
        if (with_working && volume > 0)
            out.working.push_back(
                working_line("m", "ρ V", "rho*V", {{"rho", density}, {"V", volume}}, mass, Kind::mass, "handbook"));
    }
    const Formula f = centroidal(b.shape, mass);
    const double e = b.offset.value_or(0);
    const double n = b.count.value_or(1);
    const double sign = b.hole ? -1 : 1;
    out.mass = sign * n * mass;
    out.inertia = sign * n * body::offset(f.inertia, mass, e);
    // several equal bodies spread evenly balance one another
    out.moment = n > 1 ? 0 : sign * mass * e;
    out.angle = b.offset_angle.value_or(0);
    if (with_working) {
        const char* source = "standard table of moments of inertia";
        if (*f.expression)
            out.working.push_back(
                working_line("J_c", f.formula, f.expression, f.values, f.inertia, Kind::inertia, source));
        if (e != 0 || n != 1 || b.hole)
            out.working.push_back(working_line("J", "±n (J_c + m e²)", "s*n*(J_c+m*e^2)",
                {{"s", sign}, {"n", n}, {"J_c", f.inertia}, {"m", mass}, {"e", e}}, out.inertia, Kind::inertia,
                "parallel-axis theorem"));
    }
    return out;
}

} // namespace fulmox

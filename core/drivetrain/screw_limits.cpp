#include "core/drivetrain/screw_limits.h"

#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {

using std::numbers::pi;

double bending_root(EndFixity f) {
    switch (f) {
    case EndFixity::fixed_free:
        return 1.875104068711961;
    case EndFixity::supported_supported:
        return pi;
    case EndFixity::fixed_supported:
        return 3.926602312047919;
    case EndFixity::fixed_fixed:
        return 4.730040744862704;
    }
    return 0;
}

double euler_factor(EndFixity f) {
    switch (f) {
    case EndFixity::fixed_free:
        return 0.25;
    case EndFixity::supported_supported:
        return 1;
    case EndFixity::fixed_supported:
        return 2.046;
    case EndFixity::fixed_fixed:
        return 4;
    }
    return 0;
}

double critical_speed(double root, double length, double modulus, double density, EndFixity f) {
    const double lambda = bending_root(f);
    // √(I/A) of a round bar is d/4
    return lambda * lambda / (length * length) * std::sqrt(modulus / density) * root / 4;
}

double buckling_load(double root, double length, double modulus, EndFixity f) {
    return euler_factor(f) * pi * pi * modulus * pi * std::pow(root, 4) / 64 / (length * length);
}

double compression_load(double root, double length, double modulus, double yield, EndFixity f) {
    const double euler = buckling_load(root, length, modulus, f);
    const double area = pi * root * root / 4, slenderness = 4 * length / root;
    const double stiff = euler_factor(f) * pi * pi * modulus; // N π² E
    if (!(slenderness * slenderness < 2 * stiff / yield)) return euler;
    return area * yield * (1 - yield * slenderness * slenderness / (4 * stiff));
}

ScrewBound critical_speed(const Screw& s, bool with_working) {
    ScrewBound b{s.free_length.value_or(s.length.si), 0, {}};
    b.value = critical_speed(s.root_diameter.si, b.length, s.elastic_modulus.si, s.density.si, s.fixity);
    if (with_working)
        b.working.push_back(working_line("ω_c", "λ²/L² √(E I/(ρ A)), √(I/A) = d_r/4", "lambda^2/L^2*sqrt(E/rho)*d/4",
            {{"lambda", bending_root(s.fixity)}, {"L", b.length}, {"E", s.elastic_modulus.si}, {"rho", s.density.si},
                {"d", s.root_diameter.si}},
            b.value, Kind::angular_speed, "Euler–Bernoulli beam"));
    return b;
}

ScrewBound buckling_load(const Screw& s, bool with_working) {
    ScrewBound b{s.loaded_length.value_or(s.free_length.value_or(s.length.si)), 0, {}};
    const double d = s.root_diameter.si, e = s.elastic_modulus.si, n = euler_factor(s.fixity);
    const double yield = s.yield_strength.given() ? s.yield_strength.si : std::numeric_limits<double>::infinity();
    b.value = compression_load(d, b.length, e, yield, s.fixity);
    const double euler = buckling_load(d, b.length, e, s.fixity);
    if (with_working && b.value == euler)
        b.working.push_back(working_line("F_b", "N π² E I/L², I = π d_r⁴/64", "N*pi^2*E*pi*d^4/64/L^2",
            {{"N", n}, {"E", e}, {"d", d}, {"L", b.length}}, b.value, Kind::force, "Euler"));
    else if (with_working)
        b.working.push_back(working_line("F_b", "A R_e (1 − R_e λ²/(4 π² N E)), λ = 4 L/d_r",
            "pi*d^2/4*R*(1-R*(4*L/d)^2/(4*pi^2*N*E))", {{"N", n}, {"E", e}, {"d", d}, {"L", b.length}, {"R", yield}},
            b.value, Kind::force, "Johnson's parabola, below the transition slenderness"));
    return b;
}

} // namespace fulmox

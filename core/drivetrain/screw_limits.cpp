#include "core/drivetrain/screw_limits.h"

#include <cmath>
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
    b.value = buckling_load(s.root_diameter.si, b.length, s.elastic_modulus.si, s.fixity);
    if (with_working)
        b.working.push_back(working_line("F_b", "N π² E I/L², I = π d_r⁴/64", "N*pi^2*E*pi*d^4/64/L^2",
            {{"N", euler_factor(s.fixity)}, {"E", s.elastic_modulus.si}, {"d", s.root_diameter.si}, {"L", b.length}},
            b.value, Kind::force, "Euler"));
    return b;
}

} // namespace fulmox

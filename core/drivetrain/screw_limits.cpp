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

} // namespace fulmox

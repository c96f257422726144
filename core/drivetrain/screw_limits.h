// Ratings of a screw's body: bending speed and buckling.
#pragma once

#include "core/model/mechanism.h"
#include "core/model/working.h"

namespace fulmox {

/// First root λ of the beam's frequency equation for the end fixity. Source: Euler–Bernoulli beam.
double bending_root(EndFixity f);

/// Euler factor N of the end fixity: 0.25, 1, 2.046, 4.
double euler_factor(EndFixity f);

/// First bending speed, rad/s: λ²/L² √(E I/(ρ A)) on the root diameter, m; free length m, E Pa, density kg/m³.
double critical_speed(double root_diameter, double free_length, double elastic_modulus, double density, EndFixity f);

/// Euler's load, N: N π² E I/L² on the root diameter; L the longest loaded length, m.
double buckling_load(double root_diameter, double loaded_length, double elastic_modulus, EndFixity f);

/// Least load that breaks a round bar under compression, N: Euler's beyond the transition slenderness
/// √(2 π² N E/R_e), Johnson's parabola A R_e (1 − R_e λ²/(4 π² N E)) below it, λ = 4 L/d. `yield` Pa, infinite: Euler.
double compression_load(double root_diameter, double loaded_length, double elastic_modulus, double yield, EndFixity f);

/// What a screw with a root diameter permits, over which length, and how that was calculated.
struct ScrewBound {
    double length = 0; ///< m
    double value = 0;  ///< rad/s or N
    Working working;   ///< empty where none is wanted
};
ScrewBound critical_speed(const Screw& s, bool with_working); ///< over the unsupported length, else the whole screw
ScrewBound buckling_load(const Screw& s, bool with_working);  ///< over the loaded length, else as above

} // namespace fulmox

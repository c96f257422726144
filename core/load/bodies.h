// Moments of inertia of plain bodies. All lengths m, masses kg, results kg·m².
#pragma once

#include <numbers>

namespace fulmox::body {

inline double point_mass(double m, double r) { return m * r * r; }
inline double cylinder(double m, double d) { return m * d * d / 8; }
inline double hollow_cylinder(double m, double outer, double inner) { return m * (outer * outer + inner * inner) / 8; }
inline double cylinder_mass(double density, double d, double length) {
    return density * std::numbers::pi * d * d * length / 4;
}
/// Parallel-axis theorem: J about an axis at distance e from the parallel axis through the centre of mass.
inline double offset(double centroidal, double m, double e) { return centroidal + m * e * e; }

} // namespace fulmox::body

// Moments of inertia of plain bodies. All lengths m, masses kg, results kg·m².
// Source of the formulas: standard tables of moments of inertia, such as Shigley, Mechanical Engineering Design, app.
// A.
#pragma once

#include "core/model/body.h"
#include "core/model/working.h"

#include <numbers>

namespace fulmox::body {

inline double point_mass(double m, double r) { return m * r * r; }
inline double cylinder(double m, double d) { return m * d * d / 8; }
inline double hollow_cylinder(double m, double outer, double inner) { return m * (outer * outer + inner * inner) / 8; }
inline double ring(double m, double d) { return m * d * d / 4; }
inline double cylinder_across(double m, double d, double length) { return m * (3 * d * d / 4 + length * length) / 12; }
inline double block(double m, double a, double b) { return m * (a * a + b * b) / 12; }
inline double rod(double m, double length) { return m * length * length / 12; }
inline double sphere(double m, double d) { return m * d * d / 10; }
inline double cone(double m, double d) { return 3 * m * d * d / 40; }
inline double cylinder_mass(double density, double d, double length) {
    return density * std::numbers::pi * d * d * length / 4;
}
/// Parallel-axis theorem: J about an axis at distance e from the parallel axis through the centre of mass.
inline double offset(double centroidal, double m, double e) { return centroidal + m * e * e; }

} // namespace fulmox::body

namespace fulmox {

/// One body, or several equal ones spread evenly; negative for a hole.
struct BodyValue {
    double mass = 0;    ///< kg
    double inertia = 0; ///< kg·m² about the axis
    double moment = 0;  ///< kg·m, mass times the distance of the centre of mass from the axis, along its angle
    double angle = 0;   ///< rad
    Working working;    ///< empty unless asked for
};

/// `b` must be free of errors. Density from the named material; a body with a mass needs none.
BodyValue body_value(const Body& b, const std::vector<Material>& materials, bool with_working);

/// Volume, m³, where the shape has one; 0 for ring, rod, point and known inertia.
double body_volume(const BodyShape& shape);

const Material* find_material(const std::vector<Material>& materials, const std::string& name);

} // namespace fulmox

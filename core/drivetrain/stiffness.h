// What gives way between motor and load: each element turned to the motor's shaft, the two-body figures, and the
// eigenfrequencies of the whole chain.
#pragma once

#include "core/load/load_model.h"
#include "core/load/statement.h"
#include "core/model/problem.h"

#include <string>
#include <vector>

namespace fulmox {

/// One compliance. Stiffness where it is, N·m/rad or N/m, and turned to the motor's shaft.
struct Spring {
    std::string key;   ///< "coupling", "stage_1", "screw_torsion", "screw_axial", "nut", "bearing", "mechanism"
    std::string label; ///< in words
    bool axial = false;
    double own = 0;      ///< N·m/rad, or N/m where `axial`
    double at_motor = 0; ///< N·m/rad
    double travel = 1;   ///< travel of the load for a turn of it, m/rad or 1; along the axis: 1
};

/// Two masses joined by a spring: f_a = √(C/J_L)/2π, f_r = √(C (J_M + J_L)/(J_M J_L))/2π.
struct TwoBody {
    double motor = 0, load = 0;              ///< kg·m² at the motor's shaft
    double antiresonance = 0, resonance = 0; ///< Hz
};
TwoBody two_body(double stiffness, double motor_inertia, double load_inertia);

struct StiffnessStatement {
    std::vector<Spring> springs; ///< from the motor to the load; empty: everything is rigid as far as is said
    double total = 0;            ///< N·m/rad at the motor's shaft; infinite where nothing gives way
    std::size_t softest = 0;
    TwoBody two; ///< rotor, motor brake and gearhead input move with the motor
    // of the chain, Hz: with the motor free, and with its shaft held
    std::vector<double> resonances, antiresonances;
    /// Hz, a third and a half of the antiresonance: the velocity loop that can be reached. Common practice, no source.
    static double slow_bandwidth(double antiresonance) { return antiresonance / 3; }
    static double fast_bandwidth(double antiresonance) { return antiresonance / 2; }
};

/// Polar and axial stiffness of a screw at its root over a length, m: G I_p/L N·m/rad, and A E/L N/m.
double screw_torsion(double root_diameter, double length, double shear_modulus);
/// Pa, as given, else E/2.6: steel, Poisson's ratio 0.3.
double shear_modulus(const Screw& s);
/// m of the screw from its fixed bearing to the nut at its far end: loaded length, else free length, else all of it.
double reach_of(const Screw& s);
double screw_axial(double root_diameter, double length, double elastic_modulus);

/// At the motor's shaft; `load` and `inertia` are those of the axis, which must have a rotor and a known load.
StiffnessStatement stiffness_statement(const Axis& axis, const LoadModel& load, const InertiaStatement& inertia);

/// The compliances alone.
std::vector<Spring> springs_of(const Axis& axis, const LoadModel& load);

/// What would be a compliance of this axis and is not given, so that it counts as rigid.
std::vector<Missing> missing_springs(const Axis& axis, const LoadModel& load);

} // namespace fulmox

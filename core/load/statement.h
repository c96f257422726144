// What the mechanism makes of the load: transmission, forces, efficiency, and the inertia statement.
#pragma once

#include "core/model/machine.h"
#include "core/model/working.h"

#include <string>
#include <vector>

namespace fulmox {

/// One axis in SI numbers, ready for the kernels. Lengths m, masses kg, inertia kg·m² at the motor shaft.
struct LoadModel {
    double radius = 0;        ///< dx/dθ, m/rad
    double own_inertia = 0;   ///< on the shaft side of the mechanism: screw, coupling
    double rotor_inertia = 0; ///< rotor and what is rigid on it; 0 without a motor
    double moving_mass = 0;   ///< carriage and counterweight, without payload
    double weight_mass = 0;   ///< carriage less counterweight, without payload; what gravity acts on
    double gravity = 0;       ///< m/s²
    double sin_inclination = 0;
    double cos_inclination = 1;
    double friction = 0;       ///< guide, kinetic
    double normal_force = 0;   ///< N, besides the weight
    double drag = 0;           ///< N
    double viscous = 0;        ///< N·s/m
    double counterbalance = 0; ///< N, up the incline
    double shaft_drag = 0;     ///< N·m at the shaft
    double efficiency_forward = 1;
    double efficiency_backward = 1;
    bool credit_friction_at_rest = false;
};

/// `axis` must be free of errors (validate).
LoadModel load_model(const Axis& axis, const Site& site);

struct InertiaShare {
    std::string key;    ///< "payload", "carriage", "screw", …
    std::string label;  ///< with the size a reader would recognise: "Screw 25 × 900"
    std::string detail; ///< "28 kg" or "32 mm × 0.9 m"
    double at_shaft;    ///< kg·m²
    bool rotor_side;
    Working working;
};

/// Every contributor at the motor shaft. Load side with the largest payload of the cycle.
struct InertiaStatement {
    std::vector<InertiaShare> shares;
    double load = 0;       ///< kg·m², largest over the cycle
    double load_least = 0; ///< with the smallest payload of the cycle
    double rotor = 0;      ///< 0 without a motor
    double ratio() const { return load / rotor; }
    double ratio_least() const { return load_least / rotor; }
};

InertiaStatement inertia_statement(const Axis& axis, bool with_working);

/// Payload in force during each segment, kg.
std::vector<double> payload_by_segment(const Axis& axis);

} // namespace fulmox

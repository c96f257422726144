// Screws: efficiency from the thread, torque to raise and lower, drag of the preload.
#pragma once

#include "core/model/mechanism.h"
#include "core/model/working.h"

namespace fulmox {

/// Torque, N·m, of a power screw against an axial force, with thread and collar friction.
struct PowerScrewTorque {
    double thread_raise; ///< N·m
    double thread_lower; ///< N·m; negative: the load turns the screw by itself
    double collar;       ///< N·m, both ways
    double raise() const { return thread_raise + collar; }
    double lower() const { return thread_lower + collar; }
};

/// F N, lead m, pitch diameter m, thread friction, flank half angle rad, collar friction and mean diameter m.
/// Source: Shigley, Mechanical Engineering Design, ch. 8 (power screws). Requires π d_m > μ l sec α.
PowerScrewTorque power_screw_torque(double force, double lead, double pitch_diameter, double friction,
    double flank_half_angle, double collar_friction, double collar_diameter);

struct Efficiency {
    double forward;  ///< turning into thrust, 0 < η ≤ 1
    double backward; ///< thrust into turning; ≤ 0: self-locking
    Working working; ///< empty unless asked for
};

/// Efficiency of the screw both ways: as given; else 2 − 1/η backwards; else from lead angle and friction.
Efficiency screw_efficiency(const Screw& s, bool with_working);

/// Mean diameter of the body, m, for its inertia.
double body_diameter(const Screw& s);

/// kg·m²: solid cylinder of the body diameter over the whole length, J = π ρ L d⁴/32.
double screw_inertia(const Screw& s);

/// Drag torque at the screw, N·m: preload (given, else 0.05 (tan λ)^(-1/2) F_p l/2π, JIS B 1192, from memory) plus
/// bearings.
double screw_drag(const Screw& s);

/// m/rad
double screw_radius(const Screw& s);

} // namespace fulmox

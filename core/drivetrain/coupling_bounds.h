// What a coupling may have to carry: more than the cycle asks for, since motor and drive can give more.
#pragma once

#include "core/demand/demand.h"
#include "core/motor/capability.h"

#include <array>
#include <optional>

namespace fulmox {

/// Torques through the coupling at the shaft it sits on, N·m, signed: + drives the axis forwards.
struct CouplingBounds {
    double motor_peak = 0;               ///< all of the motor's torque
    double shared = 0;                   ///< (T − T_ext) J_L/J + T_ext: the part that goes on to the load's side
    double external = 0, load_share = 0; ///< T_ext and J_L/J of the shared bound
    double first_swing = 0;              ///< T_ext + 2 (T − T_ext) J_L/J: after a step of torque, undamped
};

struct CouplingUse {
    double cycle = 0;     ///< largest over the cycle, standstill and breakaway included, ≥ 0
    double emergency = 0; ///< largest of the emergency stop, ≥ 0; 0 where none is given
    bool stops = false;   ///< one is asked for
    // without a known motor, or without the inertia of the load, there are no bounds
    bool bounded = false;
    double motor_torque = 0, emergency_motor_torque = 0; ///< at the motor's shaft
    double external_least = 0, external_most = 0;        ///< static torque of the load, no friction, signed
    double load_share_least = 1, load_share_most = 0;    ///< J_L/J
    enum Case { motor = 0, stop = 1 };
    enum Direction { forward = 0, backward = 1 };
    std::array<std::array<CouplingBounds, 2>, 2> bounds{}; ///< by Case and Direction

    /// The bound that is largest by this figure; only where there are bounds.
    struct Worst {
        Case of = motor;
        Direction way = forward;
        CouplingBounds bounds;
    };
    Worst worst(double CouplingBounds::*figure) const;

    /// The larger of the shared bound and the cycle's own largest torque; the latter alone where nothing bounds.
    double judged() const;
};

/// `d` the demand of the axis, `can` null where the motor's peak is not known.
CouplingUse coupling_use(const Demand& d, const Axis& axis, const Capability* can, bool inertia_known);

/// Most torque the motor and drive can give, N·m at the motor's shaft; NaN where it is not known.
double most_torque(const Capability* can);

} // namespace fulmox

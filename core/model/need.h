// What results are made of. A field says what it serves, a figure or limit what it needs; a value that is missing or
// wrong silences those alone that need what it serves.
#pragma once

#include <string>
#include <vector>

namespace fulmox::need {

enum : unsigned {
    cycle = 1u << 0,            ///< the planned motion
    travel = 1u << 1,           ///< how turning becomes travel: radius, crank, ratio of the stages
    inertia = 1u << 2,          ///< masses and inertias of the load
    force = 1u << 3,            ///< gravity, friction, process, losses of the stages
    rotor = 1u << 4,            ///< inertia of the rotor
    peak_curve = 1u << 5,       ///< of the motor
    continuous_curve = 1u << 6, ///< of the motor
    voltage = 1u << 7,          ///< of the bus, and that of the curves
    top_speed = 1u << 8,        ///< mechanical limit of the motor
    surroundings = 1u << 9,     ///< ambient and altitude, and what the winding bears
    current = 1u << 10,         ///< torque constant
    resistance = 1u << 11,      ///< of the winding
    motor_brake = 1u << 12,     ///< what it holds
    coupling = 1u << 13,        ///< what it may carry
    bending = 1u << 14,         ///< critical speed of a screw
    buckling = 1u << 15,        ///< of a screw
    ball_return = 1u << 16,     ///< diameter times speed of a nut
    stop = 1u << 17,            ///< emergency stop
    riding_mass = 1u << 18,     ///< mass of a motor that travels with the load
    record = 1u << 19,          ///< kept and shown only
    reckoning = 1u << 20,       ///< the demand could be gone through: bounds, finite numbers
    losses = 1u << 21,          ///< efficiency and drag of the mechanism, as given
    thread = 1u << 22,          ///< the thread of a screw, where they follow from it
    temperatures = 1u << 23,    ///< of winding and magnets, cold and hot
    motor_shaft = 1u << 24,     ///< what it may carry
    ratio_inertia = 1u << 25,   ///< of a load whose demand is given: for the ratio alone
    pulses = 1u << 26,          ///< steps, microsteps and the controller's pulses
    thermal = 1u << 27,         ///< thermal resistances and time constants, losses beside copper
    energy = 1u << 28,          ///< what running costs
    life = 1u << 29,            ///< of bearings and brushes
    pull_in = 1u << 30,         ///< curve of a stepper
    stage = 1u << 31,           ///< what a sheet allows a gearhead or belt stage
    everything = ~0u,           ///< of a place that says nothing of its own
};

/// Speeds of the shaft over the cycle.
inline constexpr unsigned speeds = cycle | travel | reckoning;
/// What the load asks for, wherever the motor is.
inline constexpr unsigned load = speeds | inertia | force | losses | thread;
/// What the motor must give.
inline constexpr unsigned demand = load | rotor;

/// Names of the bits, in their order, as the JSON has them: "cycle", "travel", …; `reckoning` and `record` have none.
std::vector<std::string> names(unsigned needs);

} // namespace fulmox::need

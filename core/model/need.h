// What results are made of. A field says what it serves, a figure or limit what it needs; a value that is missing or
// wrong silences those alone that need what it serves.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

namespace fulmox::need {

using Bits = std::uint64_t;

enum : Bits {
    cycle = Bits{1} << 0,            ///< the planned motion
    travel = Bits{1} << 1,           ///< how turning becomes travel: radius, crank, ratio of the stages
    inertia = Bits{1} << 2,          ///< masses and inertias of the load
    force = Bits{1} << 3,            ///< gravity, friction, process, losses of the stages
    rotor = Bits{1} << 4,            ///< inertia of the rotor
    peak_curve = Bits{1} << 5,       ///< of the motor
    continuous_curve = Bits{1} << 6, ///< of the motor
    voltage = Bits{1} << 7,          ///< of the bus, and that of the curves
    top_speed = Bits{1} << 8,        ///< mechanical limit of the motor
    surroundings = Bits{1} << 9,     ///< ambient and altitude, and what the winding permits
    current = Bits{1} << 10,         ///< torque constant
    resistance = Bits{1} << 11,      ///< of the winding
    motor_brake = Bits{1} << 12,     ///< what it holds
    coupling = Bits{1} << 13,        ///< what it may carry
    bending = Bits{1} << 14,         ///< critical speed of a screw
    buckling = Bits{1} << 15,        ///< of a screw
    ball_return = Bits{1} << 16,     ///< diameter times speed of a nut
    stop = Bits{1} << 17,            ///< emergency stop
    riding_mass = Bits{1} << 18,     ///< mass of a motor that travels with the load
    record = Bits{1} << 19,          ///< kept and shown only
    calculation = Bits{1} << 20,     ///< the demand could be gone through: bounds, finite numbers
    losses = Bits{1} << 21,          ///< efficiency and drag of the mechanism, as given
    thread = Bits{1} << 22,          ///< the thread of a screw, where they follow from it
    temperatures = Bits{1} << 23,    ///< of winding and magnets, cold and hot
    motor_shaft = Bits{1} << 24,     ///< what it may carry
    ratio_inertia = Bits{1} << 25,   ///< of a load whose demand is given: for the ratio alone
    pulses = Bits{1} << 26,          ///< steps, microsteps and the controller's pulses
    thermal = Bits{1} << 27,         ///< thermal resistances and time constants, losses beside copper
    energy = Bits{1} << 28,          ///< what running costs
    life = Bits{1} << 29,            ///< of bearings and brushes
    pull_in = Bits{1} << 30,         ///< curve of a stepper
    stage = Bits{1} << 31,           ///< what a sheet allows a gearhead or belt stage
    coupling_fit = Bits{1} << 32,    ///< bores of the coupling and the shafts they sit on
    alignment = Bits{1} << 33,       ///< misalignment of the coupling
    coupling_speed = Bits{1} << 34,  ///< what the coupling may turn
    brake_stop = Bits{1} << 35,      ///< how brakes stop the axis: slipping torque, delay, energy
    drive_overload = Bits{1} << 36,  ///< how long the drive gives its peak
    drive_window = Bits{1} << 37,    ///< bus voltages the drive works at
    stiffness = Bits{1} << 38,       ///< of what stands between motor and load
    precision = Bits{1} << 39,       ///< play, resolution, errors of step and lead
    stage_load = Bits{1} << 40,      ///< radial and axial load at a gearhead's output
    interface = Bits{1} << 41,       ///< feedback and commands of drive, encoder and controller
    screw_life = Bits{1} << 42,      ///< load ratings of a screw, a spectrum of its loads
    everything = ~Bits{0},           ///< of a place that says nothing of its own
};

/// Speeds of the shaft over the cycle.
inline constexpr Bits speeds = cycle | travel | calculation;
/// What the load asks for, wherever the motor is.
inline constexpr Bits load = speeds | inertia | force | losses | thread;
/// What the motor must give.
inline constexpr Bits demand = load | rotor;

/// Names of the bits, in their order, as the JSON has them: "cycle", "travel", …; `calculation` and `record` have none.
std::vector<std::string> names(Bits needs);

} // namespace fulmox::need

// Torque, speed and power at the motor shaft over one cycle.
//
// A cycle is cut into spans at every instant where anything switches: segment and phase borders, standstill, dead
// centres, change of sign of the load power and of the power each lossy stage delivers (which change an efficiency).
// Inside a span the torque is smooth, so Gauss–Lobatto quadrature of 8 points is exact for polynomial laws and good to
// 1e-12 for harmonic ones; position-dependent mechanisms are cut at every 15° to 90° of their shaft besides.
#pragma once

#include "core/load/load_model.h"
#include "core/motion/trajectory.h"

#include <algorithm>
#include <array>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// Friction is that of guides, seals and drags; losses are what the efficiencies take, or keep back.
enum class Cause { load_inertia, rotor, friction, losses, gravity, process };
inline constexpr int cause_count = 6;
const char* cause_key(Cause c);
const char* cause_label(Cause c);

enum class Regime { motoring, generating, standstill, braked };

/// State at an instant; at the motor shaft unless said otherwise. N·m, rad/s, rad/s².
struct ShaftState {
    double speed = 0;
    double acceleration = 0;
    double torque = 0;                      ///< the whole, sum of the parts
    std::array<double, cause_count> part{}; ///< by Cause
    double load_force = 0;                  ///< N, or N·m of a rotary load, before efficiency
    double load_speed = 0;                  ///< m/s, or rad/s
    double mechanism_torque = 0;            ///< at the mechanism's input shaft
    double mechanism_speed = 0;
    double mechanism_acceleration = 0;
    double coupling_torque = 0; ///< what the coupling carries, at the shaft it sits on
};

/// A stretch of time in which nothing switches. The turns of an axis at constant speed whose torque depends on the
/// angle are gone through once: `start` and `duration` are then those of the first turn.
struct Span {
    double start = 0;
    double duration = 0;
    Piece piece;
    double direction = 0;      ///< sign of the shaft speed; 0 at rest
    double load_direction = 0; ///< sign of the load's speed
    Regime regime = Regime::standstill;
    double payload = 0;         ///< kg
    double process = 0;         ///< N or N·m, where its piece of motion starts
    double process_rate = 0;    ///< by which it grows, N/s or N·m/s
    double friction_factor = 1; ///< on guide friction and drag
    double times = 1;           ///< turns in a row that are alike
    double turn = 0;            ///< s, of each of them
    double first_turn = 0;      ///< s, where the first begins

    /// Process force at t s of the cycle.
    double process_at(double t) const { return process + process_rate * (t - piece.start); }
    /// s in the cycle over which it is in force, all turns together.
    double lasting() const { return duration * times; }
};

inline double sign(double x) { return x > 0 ? 1 : x < 0 ? -1 : 0; }

/// The shaft at time t within the span (one-sided at its ends).
ShaftState evaluate(const LoadModel& m, const Span& s, double t);

/// Nodes of the Gauss–Lobatto quadrature, the ends of the span among them: exact for polynomials of degree 13.
inline constexpr std::size_t span_node_count = 8;

/// What later rooms read of a span at its nodes, at the motor shaft.
struct SpanSamples {
    std::array<double, span_node_count> speed, torque;
};

/// Time means over the cycle of the torque D and the acceleration α at the mechanism's shaft: a = mean D², b = mean D
/// α, c = mean α². SI.
struct QuadraticSums {
    double a = 0, b = 0, c = 0;
};

/// Nodes on [0, 1] and weights that add to 1.
struct SpanNodes {
    std::array<double, span_node_count> at;
    std::array<double, span_node_count> weight;
};
const SpanNodes& span_nodes();

struct ShaftPoint {
    double time = 0;
    double speed = 0;
    double torque = 0;
    std::size_t segment = 0;
    ShaftState state;
};

struct Demand {
    LoadModel load;
    std::vector<Span> spans;
    std::vector<SpanSamples> samples; ///< one for each span
    double cycle_time = 0;

    ShaftPoint peak;           ///< largest |T|, breakaway included
    ShaftPoint peak_running;   ///< largest |T| without it
    ShaftPoint peak_motoring;  ///< largest |T| with T ω > 0, running; torque 0 if there is none
    ShaftPoint peak_braking;   ///< largest |T| with T ω < 0, running
    ShaftPoint breakaway;      ///< largest |T| that starts the axis from rest; 0 without a breakaway factor
    double rms_torque = 0;     ///< over the whole cycle, dwell included
    double holding_torque = 0; ///< largest |T| at rest that the motor holds
    double static_torque = 0;  ///< largest |T| needed to hold any payload of the cycle at any of its places, and
                               ///< what a brake holds in a dwell; friction not credited
    double brake_torque = 0;   ///< the part of it in dwells in which the brake holds, process force included
    double fall_torque = 0;    ///< the part of it that is there without power: no process force, no web tension
    double static_torque_friction = 0; ///< the same with friction credited: never to be relied on for safety
    double peak_speed = 0;             ///< rad/s
    double mean_speed = 0;             ///< mean |ω|
    double rms_speed = 0;
    double peak_power = 0;        ///< W, motoring
    double peak_return = 0;       ///< W, ≥ 0, braking
    double energy_delivered = 0;  ///< J per cycle, T ω > 0
    double energy_returned = 0;   ///< J per cycle, ≥ 0
    double stop_time = 0;         ///< s that the emergency stop takes; 0 where neither time nor distance is given
    double stop_asked = 0;        ///< s that are asked of it
    double stop_torque_asked = 0; ///< N·m at the motor that it takes in that time
    bool stops_in_time = true;   ///< else the torque of the stop is bounded, and that of the time that is asked is more
    bool stop_ends = true;       ///< else the torque limit never stops it; results are of the time that is asked
    double emergency_torque = 0; ///< N·m, 0 where no stop time is given
    double coupling_peak = 0;    ///< N·m through the coupling over the cycle, at rest and breaking away too
    double coupling_emergency = 0;   ///< N·m through the coupling in the emergency stop
    double axial_peak = 0;           ///< N, largest |force| at the load over the cycle, at rest and breaking away too
    double axial_emergency = 0;      ///< N in the emergency stop
    double mechanism_peak_speed = 0; ///< rad/s at the mechanism's input shaft
    std::array<double, cause_count> rms_share{}; ///< mean(T T_k)/T_rms², adds to 1
    QuadraticSums sums;                          ///< of the whole cycle

    ShaftState at(double t) const;
    /// The last span that begins at `t` or before; of turns that are alike one of the first.
    const Span& span_at(double t) const;
    double coupling_torque() const { return std::max(coupling_peak, coupling_emergency); }
    double axial_force() const { return std::max(axial_peak, axial_emergency); }
    /// A result that is not finite, by its name; nothing if all are.
    std::optional<std::string> not_finite() const;
};

/// The demand of one axis free of errors; `motion` is the plan of its cycle, `load` its load model.
Demand demand(const LoadModel& load, const Trajectory& motion, const Axis& axis);

/// The same for several states of the load, such as the fills of a winder. `then` is given the index and the
/// demand of each as soon as it is there, on any thread; `between` is called now and then, and may throw to end the
/// work.
void demands(const std::vector<LoadModel>& loads, const Trajectory& motion, const Axis& axis,
    const std::function<void(std::size_t, Demand)>& then, const std::function<void()>& between = {});

/// Best ratio of an ideal stage before the mechanism: J kg·m² is all that turns with the motor then.
struct MotorSide {
    double inertia = 0;
    QuadraticSums sums; ///< of the torque and acceleration at the mechanism's shaft without it
};
MotorSide motor_side(const Demand& d);

/// Torque to hold a payload at rest at the coordinate q, signed, at the motor.
double holding_torque(
    const LoadModel& m, double q, double payload, double process, bool credit_friction, double friction_factor = 1);

/// ∫ T² dt over the spans of each segment; index is the segment. N²·m²·s.
std::vector<double> heat_by_segment(const Demand& d, std::size_t segments);

} // namespace fulmox

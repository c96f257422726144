// What the mechanism makes of the load, in numbers ready for the kernels.
#pragma once

#include "core/model/machine.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

struct StageModel {
    double ratio = 1;    ///< input over output speed
    double inertia = 0;  ///< kg·m² at its input
    double forward = 1;  ///< efficiency driving
    double backward = 1; ///< efficiency driven back
    double no_load = 0;  ///< N·m at its input, against the motion whatever the load
};

/// Of a stage with a no-load torque T_0 and a rated torque T_2N the efficiency of the sheet is that at the rated
/// torque: 1/η_∞ = 1/η − i T_0/T_2N is what the load's own share takes. Else the sheet's efficiency.
double inner_efficiency(const Stage& s);

/// One axis in SI numbers. The cycle gives the coordinate q: m along a line, rad about an axis. From it the mechanism
/// makes the angle θ of its input shaft and the travel x of its load; on a rotary load x is an angle, masses are
/// moments of inertia and forces torques.
struct LoadModel {
    enum class Path {
        straight, ///< q = x = radius · θ
        crank,    ///< q = θ, x = c cos θ + √(l² − c² sin² θ)
        yoke,     ///< q = θ, x = c sin θ
        winder    ///< q = web length, θ' = q'/R, x = θ
    };
    Motion motion;
    Path path = Path::straight;
    double radius = 1;          ///< dx/dθ of a straight path: m/rad, or 1
    double crank = 0;           ///< m
    double rod = 0;             ///< m
    double core_radius = 0;     ///< m
    double layer = 0;           ///< web thickness over π, m: R² = R_core² + layer · s
    double wound = 0;           ///< kg/m²: inertia of the wound ring = wound (R⁴ − R_core⁴)
    double web_start = 0;       ///< m of web on the roll at the coordinate 0
    double web_sign = 1;        ///< +1 winds up, −1 unwinds
    double own_inertia = 0;     ///< on the mechanism's shaft: screw, pulleys, a coupling that sits there
    double motor_side = 0;      ///< on the motor's shaft besides the rotor: a coupling that sits there
    double told_inertia = 0;    ///< on it, of a load whose demand is given: no part of the demand made from this
    double with_motor = 0;      ///< part of `own_inertia` that would turn with the motor if a stage came between
    double rotor_inertia = 0;   ///< rotor and what is rigid on it; 0 without a motor
    double moving_mass = 0;     ///< without payload; counterweight included
    double weight_mass = 0;     ///< without payload; what gravity acts on
    double payload_inertia = 1; ///< of 1 kg of payload: 1, or radius² on a rotary load
    double gravity = 0;         ///< m/s²
    double sin_inclination = 0;
    double cos_inclination = 1;
    double swing_cos = 0, swing_sin = 0; ///< gravity torque of a rotary load: cos θ and sin θ parts, N·m
    double payload_swing_cos = 0, payload_swing_sin = 0; ///< of 1 kg of payload
    double friction = 0;                                 ///< guide, kinetic
    double normal_force = 0;                             ///< N, besides the weight
    double drag = 0;                                     ///< N or N·m at the load
    double viscous = 0;                                  ///< N·s/m
    double breakaway = 1;                                ///< static over kinetic friction
    double counterbalance = 0;                           ///< N, up the incline
    double constant = 0;                                 ///< N or N·m always wanted: web tension, a spring
    bool tension = false;  ///< `constant` is a web tension: nothing falls when the power goes
    double fan = 0;        ///< N·m·s²/rad²: torque over speed squared
    double shaft_drag = 0; ///< N·m at the mechanism's shaft
    double efficiency_forward = 1;
    double efficiency_backward = 1;
    std::vector<StageModel> stages; ///< from the motor to the mechanism
    double ratio = 1;               ///< of all stages together
    bool coupling_at_mechanism = false;
    bool credit_friction_at_rest = false;

    /// True where torque depends on position, so that inertia and gravity are not constant over the stroke.
    bool position_dependent() const {
        return path != Path::straight || swing_cos != 0 || swing_sin != 0 || payload_swing_cos != 0 ||
               payload_swing_sin != 0;
    }
    /// Roll radius with this much web on it, m.
    double roll_radius(double web) const;
};

/// x' and x'' by θ at the coordinate q; m/rad.
struct PathPoint {
    double first = 1;
    double second = 0;
};
PathPoint path_at(const LoadModel& m, double q);

/// Angle of a crank or yoke in [0, π] at which its slider is fastest; 0 for a straight path.
double fastest_angle(const LoadModel& m);

/// Angles from 0 to 2π of a crank or yoke at which a grid of some 40 places may pass something by: dead centres, and
/// where x'' is largest either way. None for other paths.
std::vector<double> narrow_angles(const LoadModel& m);

/// A part that travels with the load: its mass is moved and weighs, its force loads the guides besides.
struct RidingPart {
    std::string key, label;  ///< in the inertia statement
    double mass = 0;         ///< kg
    double normal_force = 0; ///< N
};
std::vector<RidingPart> riding_parts(const Axis& axis);

/// `axis` must be free of errors (validate). A winder has `web`, m, on its roll at the start of the cycle.
LoadModel load_model(const Machine& machine, const Axis& axis, double web = 0);

/// How far the cycle's coordinate goes below and above where it starts, m; both ≥ 0.
struct Excursion {
    double below = 0, above = 0;
};

/// Web lengths at the start of the cycle at which a winder is judged, empty to full, so that the whole cycle fits onto
/// the roll; none where the roll cannot hold what the cycle moves one way. One entry, 0, for every other mechanism.
struct FillState {
    double web = 0;
    std::string name; ///< of `fill_names`
};
inline constexpr std::size_t fill_count = 5;
inline constexpr std::array<const char*, fill_count> fill_names{
    "empty", "a quarter full", "half full", "three quarters full", "full"};
std::vector<FillState> fill_states(const Axis& axis, const Excursion& trip);

/// Web on the full roll, m.
double full_web(const Winder& w);

/// Payload at the start of the cycle, kg; 0 where the mechanism carries none.
double first_payload(const Axis& axis);

/// A number of the model that is not finite, by its name; nothing if all are.
std::optional<std::string> not_finite(const LoadModel& m);

/// Efficiency both ways of the mechanism.
struct EfficiencyPair {
    double forward = 1;
    double backward = 1;
};
EfficiencyPair mechanism_efficiency(const Mechanism& m);

/// The efficiency back that goes with a forward one where none is given: 2 − 1/η, equal friction loss both ways.
double backward_or(const QuantityBase& given, double forward);

} // namespace fulmox

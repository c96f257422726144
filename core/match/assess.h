// The whole assessment of one axis: from what the user wrote to the list of limits.
#pragma once

#include "core/demand/demand.h"
#include "core/demand/stages.h"
#include "core/drivetrain/brake_stop.h"
#include "core/drivetrain/coupling_bounds.h"
#include "core/drivetrain/precision.h"
#include "core/drivetrain/stiffness.h"
#include "core/load/statement.h"
#include "core/match/limit.h"
#include "core/model/machine.h"
#include "core/model/problem.h"
#include "core/motion/trajectory.h"
#include "core/motor/capability.h"
#include "core/motor/cycle_heat.h"
#include "core/motor/overload_integral.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// A number an engineer relies on, under a stable key.
struct Figure {
    std::string key; ///< "demand.peak_torque"
    std::string label;
    Kind kind = Kind::number;
    double si = 0;
    Text note; ///< "at 0.18 s and 3000 rpm"
    Working working;
    const char* unit = ""; ///< shown in this unit where the kind's display unit reads badly
    std::string read_from; ///< what the number is read from, where it has no working
    bool waits = false;    ///< for what its note says; there is no number
};

/// "463.9 W", in the figure's own unit or the display unit of the system.
std::string figure_text(const Figure& f, UnitSystem system);

/// What one school of practice says about the inertia ratio.
struct SchoolView {
    std::string policy;
    LimitState state = LimitState::cannot_say;
    std::string words; ///< "tight above 5, over above 10"
    bool chosen = false;
};

/// What one fill of a winder asks for.
struct FillUse {
    std::string name;
    double web = 0; ///< m
    double rms_torque = 0, peak_torque = 0, peak_speed = 0;
};

struct Assessment {
    Problems problems; ///< errors stop the part they concern; flags and cautions do not
    std::optional<Trajectory> motion;
    std::optional<Trajectory> known_part; ///< the segments before the first that is not known, where the cycle is not
    std::optional<InertiaStatement> inertia;
    std::optional<Demand> demand;
    std::vector<StageUse> stages;             ///< from the motor; empty: none, or not known
    std::optional<CouplingUse> coupling;      ///< where there is one
    std::optional<BrakeStop> brake;           ///< where there is one
    std::optional<OverloadIntegral> overload; ///< of the drive, where its currents are given
    std::optional<StiffnessStatement> stiffness;
    std::optional<PrecisionBudget> precision; ///< not of a winder
    std::optional<Capability> can;            ///< of the motor, whatever the axis asks of it
    std::optional<MotorUse> motor;
    std::optional<CycleHeat> heat; ///< of the motor over the cycle
    std::vector<Figure> figures;
    std::vector<Limit> limits;
    std::vector<SchoolView> schools;
    std::vector<FillUse> fills; ///< of a winder, empty to full
    bool pending = false;       ///< it is still being made
    std::string fill_shown;     ///< the one `demand` belongs to: most heat

    /// The cycle, or of one that is not known the segments before the first that is missing; null: none of them.
    const Trajectory* known_motion() const { return motion ? &*motion : known_part ? &*known_part : nullptr; }
    const Figure* figure(std::string_view key) const;
    const Limit* limit(std::string_view key) const;
    bool fits() const;     ///< no error and no limit over; tight and cannot say pass
    bool exceeded() const; ///< some limit is over
    bool unknown() const;  ///< none is over, and one cannot be said that is not accepted
};

/// The policy the axis is judged by; where the project has none of that name the first that the program ships.
const Policy& policy_of(const Machine& machine, const Axis& axis);

/// Acceleration that the peak torque at the cycle's top speed gives rotor and load, rad/s² (m/s²): motors are compared
/// by it, since a larger rotor may be slower. NaN where it cannot be said.
double peak_acceleration(const Assessment& a);

/// What the cycle carries where, for the inertia statement; `first` is the payload at its start, kg.
std::vector<Carried> carried_over(const Trajectory& t, double first);

struct AssessOptions {
    bool workings = true;
    bool figures = true;                       ///< else limits only
    bool cautions = true;                      ///< else of problems errors of the input alone, and no schools
    bool in_range = false;                     ///< every quantity of the axis is known to be within its range
    const std::vector<bool>* beyond = nullptr; ///< of this axis by `too_long`, where all axes were counted already
    std::function<bool()> go_on{};             ///< asked now and then; false ends the work by throwing `Interrupted`
};

/// Nobody waits for the result any more.
struct Interrupted {};

/// Stands in for an assessment that takes its time: nothing is known, and every limit says so.
Assessment being_assessed(const Machine& machine, const Axis& axis, const std::string& path);

/// Pure; the same input gives the same output bit for bit. `path` is the axis' JSON pointer, for addresses.
Assessment assess(const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options = {});

/// The axis at this index.
Assessment assess(const Machine& machine, std::size_t axis, AssessOptions options = {});

} // namespace fulmox

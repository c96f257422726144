// The whole assessment of one axis: from what the user wrote to the list of limits.
#pragma once

#include "core/match/limit.h"
#include "core/match/results.h"
#include "core/model/machine.h"
#include "core/model/problem.h"
#include "core/model/walk.h"

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
    const char* unit = "";            ///< shown in this unit where the kind's display unit reads badly
    std::string read_from;            ///< what the number is read from, where it has no working
    bool waits = false;               ///< for what its note says; there is no number
    std::vector<Missing> waits_for{}; ///< fields of the project (whole pointers)
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

/// The results, and what is judged by them.
struct Assessment : AxisResults, StateResults {
    Problems problems;                    ///< errors stop the part they concern; flags and cautions do not
    std::optional<Trajectory> known_part; ///< the segments before the first that is not known, where the cycle is not
    std::vector<Figure> figures;
    std::vector<Limit> limits;
    std::vector<StandIn> stand_ins; ///< defaults in place of empty fields; with workings only
    std::vector<SchoolView> schools;
    bool pending = false;   ///< it is still being made
    std::string fill_shown; ///< of a winder, the one `demand` belongs to: most heat

    template <class Do> void each_result(const Do& act) {
        AxisResults::each(act);
        StateResults::each(act);
    }
    /// The cycle, or of one that is not known the segments before the first that is missing; null: none of them.
    const Trajectory* known_motion() const { return motion ? &*motion : known_part ? &*known_part : nullptr; }
    const Figure* figure(std::string_view key) const;
    const Limit* limit(std::string_view key) const;
    bool fits() const;     ///< no error and no limit over; tight and cannot say pass
    bool exceeded() const; ///< some limit is over
    bool unknown() const;  ///< none is over, and one cannot be said that is not accepted
};

/// Those among what a limit needs.
std::vector<const StandIn*> stand_ins_of(const Assessment& a, const Limit& limit);

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

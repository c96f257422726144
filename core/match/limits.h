// The limits of an axis, a row each. When adding one: a row and its judge in limits.cpp, its key in the documentation
// of the JSON output (a test compares), and its test.
#pragma once

#include "core/match/assess.h"
#include "core/match/waiting.h"
#include "core/match/words.h"

#include <string_view>
#include <vector>

namespace fulmox {

/// What is known of the axis when its limits are judged; null where there is nothing.
struct Known {
    const Trajectory* motion = nullptr;
    const InertiaStatement* inertia = nullptr;
    const Demand* demand = nullptr;
    const MotorUse* motor = nullptr;
    const CycleHeat* heat = nullptr;               ///< of the same state of the axis
    const Capability* can = nullptr;               ///< of the motor, only where its peak curve is known
    const std::vector<StageUse>* stages = nullptr; ///< those whose sheet is given
    const CouplingUse* coupling = nullptr;
    const BrakeStop* brake = nullptr;
    const OverloadIntegral* overload = nullptr; ///< of the drive
    const PrecisionBudget* precision = nullptr;
};

/// Everything a limit may look at.
struct LimitInput {
    const Machine& machine;
    const Axis& axis;
    const Policy& policy;
    Known so_far;
    bool workings;
};

/// The words of this axis: torques or forces, turns or travel.
inline Words words(const LimitInput& in) { return Words(motion_of(in.axis.mechanism)); }

/// Judges a limit whose `used` and `allowed` are there, and ends its working; false where it cannot be said.
[[nodiscard]] bool closed(Limit& l, const LimitInput& in, std::string source);

/// "a shorter lead" of a screw, "a smaller pulley" of a belt, "a higher ratio" of what has neither: less travel a turn
/// of the motor, or `more` of it. Empty where nothing turns.
std::string travel_remedy(const Axis& axis, bool more);

/// "One, another, or a third." Empty ones are left out.
std::string remedies(std::vector<std::string> each);

/// It cannot be said, for this reason.
void cannot(Limit& l, Text why);

/// It cannot be said: these are missing.
void lacks(Limit& l, std::vector<Missing> missing, const Text& known = {});

/// Judges by all clauses together (`worst_of`), and ends the working; the place of the clause that decides, nothing
/// where it cannot be said.
[[nodiscard]] std::optional<std::size_t> conclude(
    Limit& l, const LimitInput& in, const std::vector<Clause>& clauses, std::string source);

/// The value of a field, or what is missing.
Clause held_against(double used, const QuantityBase& allowed, const std::string& path, const std::string& name);

/// Why what rests on the motor's constants cannot be said where `MotorUse::beyond_voltage`.
inline constexpr const char* not_reached = "by the motor's constants this bus does not reach all of the cycle";

/// Of a current, or what follows from it, `used` and `allowed` being there: where the bus does not reach, the field is
/// not weakened either, and what it comes to is too little. It cannot be said then, unless it is over already; true if
/// so.
[[nodiscard]] bool too_little_to_say(Limit& l, const LimitInput& in);

/// That no constant tells the motor's current.
Missing no_constant(const LimitInput& in);

/// What of the motor's constants is not given, so that a curve made of them promises too much.
std::vector<Missing> lacks_of_model(const LimitInput& in);

/// The torque of an instant as the sum of its causes.
WorkingLine sum_of_causes(const ShaftPoint& p);

/// Continuous torque at standstill, at this ambient and altitude.
WorkingLine continuous_at_rest(const Capability& c);

/// Continuous torque at a speed by the point method; `which` names the speed.
WorkingLine continuous_by_point(const Capability& c, double speed, double allowed, const std::string& which);

/// The RMS torque from the heat of each segment, calculated from the samples of the spans.
Working rms_sum(const Demand& d, std::size_t segments);

/// A row: its key, what it needs (`need` bits), whether it is a motor that is judged, whether the axis has such a
/// limit, and its judge, which is asked only where nothing it needs is missing.
struct LimitRow {
    const char* key;
    const char* label;
    Kind kind;
    need::Bits needs;
    bool of_motor;
    bool (*applies)(const LimitInput&);
    void (*judge)(Limit&, const LimitInput&);
    const char* direct_label = nullptr;      ///< on an axis along a line
    const char* open_loop_label = nullptr;   ///< with a stepper that notices no lost step
    need::Bits (*on)(const Axis&) = nullptr; ///< what it needs on this axis, in place of `needs`
    need::Bits over_by = 0; ///< what is enough to say that it is over, where the rest is missing; 0: nothing
    std::vector<const char*> allowed_by{}; ///< fields (below the axis) of which more never makes it worse
    std::vector<const char*> asked_by{};   ///< fields of which more never makes it better
};

/// All rows, in working order.
const std::vector<LimitRow>& limit_rows();

/// The row of this key; null where there is none.
const LimitRow* limit_row(std::string_view key);

/// What a limit needs on this axis.
inline need::Bits needs_of(const LimitRow& row, const Axis& axis) { return row.on ? row.on(axis) : row.needs; }

/// The limits that apply to this axis. One that waits cannot be said, and its reason says for what.
std::vector<Limit> judge_all(const LimitInput& in, const Waiting& waiting);

} // namespace fulmox

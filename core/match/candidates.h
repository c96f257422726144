// Motors judged on an axis, one beside the other.
#pragma once

#include "core/match/limit.h"
#include "core/model/machine.h"
#include "core/model/part.h"

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// What the axis would say of one motor. NaN: cannot be said.
struct Candidate {
    double ratio = 0;        ///< load inertia over rotor inertia
    double speed = 0;        ///< top speed used of allowed
    double peak = 0;         ///< peak torque used of the curve
    double heat = 0;         ///< continuous heat used of allowed, loss method
    double acceleration = 0; ///< rad/s² (m/s²) that the peak torque at the top speed gives rotor and load
    double tightest = 0;     ///< of all limits, used of allowed; NaN: not known, or a limit that is yes or no
    LimitState state = LimitState::cannot_say;
    std::string key;              ///< of the limit that decides
    std::string limit;            ///< its label
    Text reason;                  ///< of it
    std::vector<Missing> missing; ///< where nothing is over: what is not given and not accepted
};

/// How many of each: suitable are those that fit or are tight, with accepted unknowns at most.
struct CandidateCount {
    std::size_t suitable = 0, unknown = 0, over = 0;

    void add(LimitState s) { ++(s == LimitState::over ? over : s == LimitState::cannot_say ? unknown : suitable); }
};
CandidateCount count(const std::vector<Candidate>& candidates);
/// "12 suitable, 30 unknown, 5 over".
std::string count_words(const CandidateCount& n);
/// ": a, b and 3 more not given"; empty where nothing is missing.
std::string missing_words(const std::vector<Missing>& missing);

/// One for each motor, in their order, on all cores; the axis' own motor does not matter. `go_on` is asked between two
/// motors, on any thread; where it says no the rest is left out and the outcome is empty. `done` is told the share that
/// is judged, on any thread.
std::vector<Candidate> judge_motors(const Machine& machine, std::size_t axis, const std::vector<const Motor*>& motors,
    const std::function<bool()>& go_on = {}, const std::function<void(double)>& done = {});

/// The same for parts of any other kind: what the axis would say with each of them at this place (`at` the end of the
/// stages: one more), by the limits that such a part decides.
std::vector<Candidate> judge_parts(const Machine& machine, std::size_t axis, const PartKind& kind, std::size_t place,
    const PartLists& shelf, const std::vector<std::size_t>& which, const std::function<bool()>& go_on = {},
    const std::function<void(double)>& done = {});

/// The part that a limit is of: key of its kind, "screw" or "precision"; of what no other part has, "motor".
std::string_view part_of_limit(std::string_view limit_key);

/// Of such a part in a sentence: "gearhead", "screw", "precision of the axis".
const char* part_name(std::string_view part);

/// Whether a limit tells something of a part of this kind: a brake is not chosen by the life of a screw.
bool tells_of(const PartKind& kind, std::string_view limit_key);

/// Neither over nor unknown: the axis can have it.
constexpr bool carries(LimitState s) { return s == LimitState::fits || s == LimitState::tight; }

/// Cheapest first among those that are suitable, then what cannot be said, then what is over, the least over first.
/// Motors without a price come after those with one.
std::vector<std::size_t> cheapest_first(
    const std::vector<const Motor*>& motors, const std::vector<Candidate>& candidates);

/// The same by prices; NaN: there is none.
std::vector<std::size_t> cheapest_first(const std::vector<double>& prices, const std::vector<Candidate>& candidates);

/// Places of the points that no other betters, rising in x: none has less of one and no more of the other. Of equal
/// points the first. NaN takes no part.
std::vector<std::size_t> pareto_front(const std::vector<double>& x, const std::vector<double>& y);

/// The mechanism of the axis can have it: a linear one along a line, else one that turns.
bool suits(const Motor& motor, const Axis& axis);

/// What a user asks of a catalogue. Empty: any.
struct MotorFilter {
    std::string words;  ///< each word in name, series, kind or origin, whatever its case
    std::string kind;   ///< key of the kind
    std::string series; ///< as it is written
    double frame = 0;   ///< m, the largest
    double mass = 0;    ///< kg, the largest
    double price = 0;   ///< the largest
    double voltage = 0; ///< V, of its curves or its rating, within a tenth
    std::optional<bool> brake;
    bool empty() const;
};

/// V of its curves, or else of its ratings; NaN: neither is given.
double motor_voltage(const Motor& motor);

/// What is not known of a motor does not pass a filter that asks for it.
bool passes(const Motor& motor, const MotorFilter& filter);

} // namespace fulmox

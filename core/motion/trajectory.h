// The planned motion: pieces in closed form on one time axis.
#pragma once

#include "core/model/problem.h"
#include "core/motion/laws.h"
#include "core/quantity/unit.h"

#include <cstddef>
#include <limits>
#include <numbers>
#include <optional>
#include <vector>

namespace fulmox {

/// One playing of a segment; a repeat block plays its segments several times.
struct Phase {
    std::size_t segment = 0;
    double start = 0;               ///< s
    double duration = 0;            ///< s
    double lowest = 0, highest = 0; ///< position
    std::optional<double> payload;  ///< kg, the last that was given; nothing: that of the start of the cycle
    double friction = 1;            ///< factor in force
};

struct Trajectory {
    std::vector<Piece> pieces;
    std::vector<Phase> phases;
    double duration = 0;          ///< s, cycle time
    double start_position = 0;    ///< m or rad
    double advance = 0;           ///< position at the end less position at the start
    double moving_time = 0;       ///< s
    std::size_t moves = 0;        ///< times the axis leaves standstill
    double peak_speed = 0;        ///< m/s or rad/s
    double peak_acceleration = 0; ///< magnitude
    double peak_jerk = 0;         ///< magnitude; infinite where the acceleration jumps
    /// s: the shortest stretch of one segment over which the speed changes one way without a pause, by at least a tenth
    /// of the peak speed; infinite where there is none. Recorded motion has no ramp that was planned.
    double shortest_ramp = std::numeric_limits<double>::infinity();
    double lowest = 0, highest = 0; ///< position
    double path = 0;                ///< distance travelled per cycle

    /// Hz: a bandwidth of about 3/t to 5/t rad/s settles within a ramp of t s. Common practice, no source.
    double least_bandwidth() const { return 3 / (2 * std::numbers::pi * shortest_ramp); }
    double ample_bandwidth() const { return 5 / (2 * std::numbers::pi * shortest_ramp); }
    double duty() const { return duration > 0 ? moving_time / duration : 0; }
    double stroke() const { return highest - lowest; }
    /// How far it goes below and above where it starts; both ≥ 0.
    double below() const { return start_position - lowest; }
    double above() const { return highest - start_position; }
    /// Piece at a time; t is taken within [0, duration].
    const Piece& at(double t) const;
    /// Phase at a time.
    const Phase& phase_at(double t) const;
};

struct Plan {
    Trajectory motion;
    Problems problems; ///< paths relative to the cycle: "/segments/3"; with an error the motion is not to be used
};

/// Payloads in force over the cycle, kg, each once, rising; `first` is that at its start.
std::vector<double> payloads_of(const Trajectory& t, double first);

/// Plans a cycle whose fields are free of errors (validate). Finds what only the order of the segments shows: a move
/// begun while running, a repeat without segments, a cycle that does not close.
/// `system` is that of the words in its problems.
Plan plan(const Cycle& cycle, const Motion& kind = {}, UnitSystem system = UnitSystem::si);

/// A cycle that ends nearer to where it began than this share of its path, or than this length or angle, is closed:
/// what is left is rounding of typed numbers.
inline constexpr double closed_share = 1e-6;
inline constexpr double closed_length = 1e-6; // m or rad
bool closes(const Trajectory& t);

/// A carriage on a line comes back; a conveyor, a winder or anything that turns may advance.
bool must_return(const Motion& kind);

/// m or rad passed while the speed changes, at most; of a piece, and of a cycle.
double path_at_changing_speed(const Piece& p);
double path_at_changing_speed(const Trajectory& t);

/// At most this many pieces, and this many where segments are repeated: beyond it the cycle is refused.
inline constexpr std::size_t most_pieces = 4'000'000;
inline constexpr std::size_t most_repeated_pieces = 100'000;

} // namespace fulmox

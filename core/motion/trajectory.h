// The planned motion: pieces in closed form on one time axis.
#pragma once

#include "core/model/problem.h"
#include "core/motion/laws.h"

#include <cstddef>
#include <vector>

namespace fulmox {

/// One playing of a segment; a repeat block plays its segments several times.
struct Phase {
    std::size_t segment = 0;
    double start = 0;    ///< s
    double duration = 0; ///< s
};

struct Trajectory {
    std::vector<Piece> pieces;
    std::vector<Phase> phases;
    double duration = 0;            ///< s, cycle time
    double start_position = 0;      ///< m or rad
    double advance = 0;             ///< position at the end less position at the start
    double moving_time = 0;         ///< s
    double peak_speed = 0;          ///< m/s or rad/s
    double peak_acceleration = 0;   ///< magnitude
    double peak_jerk = 0;           ///< magnitude; infinite where the acceleration jumps
    double lowest = 0, highest = 0; ///< position
    double path = 0;                ///< distance travelled per cycle

    double duty() const { return duration > 0 ? moving_time / duration : 0; }
    double stroke() const { return highest - lowest; }
    /// Piece at a time; t is taken within [0, duration].
    const Piece& at(double t) const;
    /// Phase at a time.
    const Phase& phase_at(double t) const;
};

struct Plan {
    Trajectory motion;
    Problems problems; ///< paths relative to the cycle: "/segments/3"; with an error the motion is not to be used
};

/// Plans a cycle whose fields are free of errors (validate). Finds what only the order of the segments shows: a move
/// begun while running, a repeat without segments, a cycle that does not close.
Plan plan(const Cycle& cycle, const Motion& kind = {});

/// At most this many pieces: beyond it the cycle is refused.
inline constexpr std::size_t most_pieces = 4'000'000;

} // namespace fulmox

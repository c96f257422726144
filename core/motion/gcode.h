// G-code to the true cycle of each axis. A subset of ISO 6983 / RS-274: G0 G1 G2 G3 G4 G17 G18 G19 G20 G21 G28 G90 G91
// G93 G94, F, X Y Z A B C, I J K R, P, N, comments in brackets or after a semicolon, % lines.
#pragma once

#include "core/model/problem.h"
#include "core/model/samples.h"
#include "core/quantity/result.h"

#include <array>
#include <functional>
#include <string_view>
#include <vector>

namespace fulmox {

inline constexpr int gcode_axes = 6; ///< X Y Z along lines, A B C about them
inline constexpr const char* gcode_letters = "XYZABC";

/// What one axis may do; SI (m/s, m/s² or rad/s, rad/s²).
struct AxisLimits {
    double speed = 0.5;
    double acceleration = 2;
};

struct GcodeOptions {
    std::array<AxisLimits, gcode_axes> limits{};
    double junction_deviation = 2e-5; ///< m a corner may be cut in thought; sets the speed through it
    /// Called now and then with the share done, 0 to 1; false cancels.
    std::function<bool(double)> progress;
};

/// One straight line or arc of the program after the units are out of it.
struct GcodeMove {
    std::array<double, gcode_axes> from{}, to{}; ///< m, rad
    int line = 0;
    double length = 0; ///< m along the path; rad where only rotary axes move
    double feed = 0;   ///< m/s or rad/s; 0: as fast as the axes may
    double dwell = 0;  ///< s, of a G4; then nothing moves
    bool arc = false;
    int first = 0, second = 1;                                                          ///< axes of the arc's plane
    double centre_first = 0, centre_second = 0, radius = 0, start_angle = 0, sweep = 0; ///< m, rad; sweep signed
};

struct GcodeProgram {
    std::vector<GcodeMove> moves;
    Problems skipped; ///< harmless words that were not understood, with their lines
    std::array<bool, gcode_axes> uses{};
};

/// Reads a program. The first thing that cannot be skipped without changing the motion stops the import.
Result<GcodeProgram, Problem> read_gcode(std::string_view text, const std::function<bool(double)>& progress = {});

struct GcodePlan {
    std::array<Samples, gcode_axes> knots; ///< rows of time, position, velocity, acceleration; empty for unused axes
    double duration = 0;                   ///< s
    double length = 0;                     ///< m of path with feed or rapid
    std::size_t moves = 0;
    Problems skipped;
};

/// Plans with look-ahead: speeds through corners by junction deviation, v² = a δ sin(θ/2)/(1 − sin(θ/2)), each axis
/// within its speed and acceleration. Source of the rule: common practice, no source.
Result<GcodePlan, Problem> plan_gcode(const GcodeProgram& program, const GcodeOptions& options);

} // namespace fulmox

// The planned motion: pieces of polynomial position on one time axis.
#pragma once

#include "core/model/cycle.h"
#include "core/model/problem.h"

#include <array>
#include <cstddef>
#include <vector>

namespace fulmox {

/// One piece; position is c0 + c1 τ + c2 τ² + c3 τ³ with τ = t − start. m, s.
struct Piece {
    double start = 0;
    double duration = 0;
    std::array<double, 4> c{};
    std::size_t segment = 0; ///< index into the cycle

    double position(double tau) const { return c[0] + tau * (c[1] + tau * (c[2] + tau * c[3])); }
    double velocity(double tau) const { return c[1] + tau * (2 * c[2] + tau * 3 * c[3]); }
    double acceleration(double tau) const { return 2 * c[2] + 6 * c[3] * tau; }
    bool at_rest() const { return c[1] == 0 && c[2] == 0 && c[3] == 0; }
};

/// Speed profile of one trapezoidal move; all positive.
struct Trapezoid {
    double peak_speed;   ///< m/s
    double accelerating; ///< s
    double cruising;     ///< s
    double decelerating; ///< s
    double duration() const { return accelerating + cruising + decelerating; }
};

/// Distance m > 0 in time s, ramps as shares a, b of the time, a + b ≤ 1. Peak speed d/(T (1 − (a+b)/2)).
Trapezoid trapezoid_in_time(double distance, double time, double a, double b);

/// Least time for distance m > 0 within speed m/s, acceleration and deceleration m/s²; a triangle where the
/// speed is not reached.
Trapezoid trapezoid_by_limits(double distance, double speed, double acceleration, double deceleration);

struct Trajectory {
    std::vector<Piece> pieces;
    std::vector<double> segment_start; ///< s, one more than segments: the last is the cycle time
    double duration = 0;               ///< s, cycle time
    double advance = 0;                ///< m, position at the end less position at the start
    double moving_time = 0;            ///< s
    double peak_speed = 0;             ///< m/s
    double peak_acceleration = 0;      ///< m/s², magnitude
    double lowest = 0, highest = 0;    ///< m, position
    double path = 0;                   ///< m, distance travelled per cycle

    double duty() const { return duration > 0 ? moving_time / duration : 0; }
    double stroke() const { return highest - lowest; }
    /// Piece at a time; t is taken within [0, duration].
    const Piece& at(double t) const;
};

/// Plans a cycle that is free of errors (validate).
Trajectory plan(const Cycle& cycle);

/// Flags what is legal but odd: a linear axis that does not return.
Problems review(const Trajectory& t, const std::string& cycle_path);

} // namespace fulmox

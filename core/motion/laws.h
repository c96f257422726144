// Rest-to-rest laws over unit distance in unit time, and ramps within limits.
#pragma once

#include "core/model/cycle.h"
#include "core/motion/piece.h"

#include <vector>

namespace fulmox {

/// Pieces of a law over unit distance in unit time, cut where speed or acceleration has an extreme. The trapezoid has
/// shares a and b and rounding s, 0 ≤ s ≤ 1; the others take none.
/// Sources: VDI 2143-1; Norton, Cam Design and Manufacturing Handbook.
std::vector<Piece> unit_law(Law law, double a = 1.0 / 3, double b = 1.0 / 3, double rounding = 0);

/// Peak velocity = cv d/T, acceleration = ca d/T², RMS acceleration = cr d/T², jerk = cj d/T³ (infinite where the
/// acceleration jumps).
struct LawCoefficients {
    double cv = 0, ca = 0, cr = 0, cj = 0;
};
LawCoefficients coefficients(const std::vector<Piece>& unit);

/// One ramp from standstill to a speed, or back, with rounding by jerk at both ends.
struct Ramp {
    double duration = 0;
    double jerk_time = 0;    ///< of each rounded end
    double acceleration = 0; ///< reached, ≥ 0
};

/// Speed profile of one move from standstill to standstill; all positive.
struct Profile {
    double peak_speed = 0;
    Ramp up;
    double cruising = 0; ///< s
    Ramp down;
    double duration() const { return up.duration + cruising + down.duration; }
};

/// Distance > 0 in a time, ramps as shares a, b of the time, a + b ≤ 1. Peak speed d/(T (1 − (a+b)/2)).
Profile profile_in_time(double distance, double time, double a, double b, double rounding = 0);

/// Least time for a distance > 0 within speed, acceleration, deceleration and jerk limits; jerk 0: no limit. The ramp
/// to the speed v takes v/a + a/j where v ≥ a²/j, else 2 √(v/j). Where the speed is not reached the highest possible
/// one is found: in closed form for equal limits, else as the root of the distance.
Profile profile_by_limits(double distance, double speed, double acceleration, double deceleration, double jerk = 0);

} // namespace fulmox

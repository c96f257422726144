// Where a polynomial piece of motion reverses, and how far its speed, acceleration and jerk go between its ends.
#pragma once

#include "core/motion/piece.h"

#include <vector>

namespace fulmox {

struct PieceExtremes {
    double speed = 0, acceleration = 0, jerk = 0; ///< largest magnitudes inside, where above those already known
    std::vector<double> reversals;                ///< instants within the piece at which the velocity changes its sign
};

/// Of a piece without a sine. Magnitudes are looked for only where they may exceed what is known. A change of sign by
/// rounding, beyond which the piece goes no faster than 1e-9 of its own speed or than `noise`, is no reversal.
PieceExtremes extremes(
    const Piece& p, double known_speed, double known_acceleration, double known_jerk, double noise = 0);

/// Whether the speed of a piece without a sine may come down to `slow` anywhere; false is certain.
bool may_be_slow(const Piece& p, double slow);

/// The pieces that a piece without a sine falls into where its speed passes ±`slow`.
std::vector<Piece> cut_at_speed(const Piece& p, double slow);

/// Instants within a piece without a sine at which the acceleration changes its sign, rising.
std::vector<double> acceleration_zeros(const Piece& p);

/// Zeros of Σ c_k τ^k, k up to `degree`, strictly inside (0, h) where it changes its sign, rising.
std::vector<double> zeros_inside(const std::array<double, 8>& c, int degree, double h);

} // namespace fulmox

// Recorded motion: smoothing, differentiation, pieces.
#pragma once

#include "core/model/cycle.h"
#include "core/motion/piece.h"

#include <vector>

namespace fulmox {

/// A sample after smoothing: time s, position, velocity, acceleration; of a velocity trace the position is integrated.
struct Smoothed {
    double time = 0, position = 0, velocity = 0, acceleration = 0;
};

/// Savitzky–Golay: a cubic is fitted by least squares over the window around each sample (one-sided at the ends), its
/// value and derivatives taken there. Works on uneven sampling. Requires at least 4 samples with rising times.
/// Source: Savitzky and Golay, Analytical Chemistry 36 (1964) 1627, extended to uneven spacing by local least squares.
std::vector<Smoothed> smooth(const Trace& trace);

/// Samples on either side of the middle one that the window covers, at least 2.
std::size_t half_window(const Trace& trace);

/// RMS of what the smoothing took away, in the unit of the recorded column.
double removed_noise(const Trace& trace, const std::vector<Smoothed>& smoothed);

/// Pieces between smoothed samples: quintic with position, velocity and acceleration continuous; of a velocity trace
/// quartic in position.
std::vector<Piece> trace_pieces(const Trace& trace);

/// Quintic pieces through knots of time, position, velocity, acceleration.
std::vector<Piece> knot_pieces(const Samples& knots);

/// The quintic from one state to another; `from.time` < `to.time`.
Piece quintic(const Smoothed& from, const Smoothed& to);

} // namespace fulmox

// Recorded motion: smoothing, and the one curve that figures, plots, export and demand read.
#pragma once

#include "core/model/cycle.h"
#include "core/motion/piece.h"

#include <vector>

namespace fulmox {

/// A state at an instant: time s, position, velocity, acceleration.
struct Smoothed {
    double time = 0, position = 0, velocity = 0, acceleration = 0;
};

/// Half the smoothing window, s: as given, else ten samples, or as many as fit to each side; at least two.
double half_width(const Trace& trace);

/// The smoothed motion, in closed form. The samples are joined by straight lines and averaged with the weight
/// 15/16 (1 − u²)² over the window, u from −1 to 1; the pieces are that one curve and its derivatives, exactly. The
/// weight is nowhere negative, so the acceleration is a mean of the true one and never exceeds it. Within half a window
/// of either end, where the window would reach beyond the recording, the curve goes on at the acceleration it has
/// there. Of a velocity trace the velocity is smoothed and integrated. Requires at least 5 samples with rising times
/// and a window that fits (validate). Kernel: the biweight of Tukey; common practice for local averages.
std::vector<Piece> trace_pieces(const Trace& trace);

/// RMS of the noise that the smoothing took away, in the unit of the recorded column; `pieces` are those of the trace.
/// That a mean over a curved stretch lies inside the curve, by w²/14 of its curvature, is no noise and is left out.
double removed_noise(const Trace& trace, const std::vector<Piece>& pieces);

/// Quintic pieces through knots of time, position, velocity, acceleration.
std::vector<Piece> knot_pieces(const Samples& knots);

/// The quintic from one state to another; `from.time` < `to.time`.
Piece quintic(const Smoothed& from, const Smoothed& to);

} // namespace fulmox

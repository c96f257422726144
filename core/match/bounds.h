#pragma once
// How much motion one project may ask for: a small file can ask for hours by its repeats.
#include "core/model/machine.h"

#include <string>
#include <vector>

namespace fulmox {

/// Turns at changing speed of one cycle whose torque depends on the angle; the pieces of motion are bounded by
/// `most_pieces` and `most_repeated_pieces`.
inline constexpr double most_turns = 10'000;

/// Estimated number of pieces of motion in the cycle, without planning it.
double rough_pieces(const Cycle& cycle);

/// Which cycles of each axis are too long beside the others, the axis' own cycle first, then its further ones: all
/// cycles of a project together have the bounds of a single one, and the shortest are taken first.
std::vector<std::vector<bool>> too_long(const Machine& machine);

/// Those of `axis` in place of the one at this JSON pointer; one that is at no place of the project counts alone.
std::vector<bool> too_long(const Machine& machine, const Axis& axis, const std::string& path);

/// Why such a cycle is not calculated.
std::string too_long_together();

} // namespace fulmox

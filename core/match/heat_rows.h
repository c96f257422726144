// Limits and figures of heat over the cycle, energy and life, taken into the registries of limits.h and figures.h.
#pragma once

#include "core/match/figures.h"
#include "core/match/limits.h"

#include <vector>

namespace fulmox {

std::vector<LimitRow> heat_limit_rows();
std::vector<FigureRow> heat_figure_rows();

/// h of a deep-groove ball bearing: L10h = 10⁶/(60 n) (C/P)³ at the mean speed; source: ISO 281. `speed` rad/s.
double bearing_hours(double rating, double load, double speed);

} // namespace fulmox

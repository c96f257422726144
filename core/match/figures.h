// The figures of an axis: rows of the registry, filled in.
#pragma once

#include "core/match/rows/row.h"

#include <string_view>
#include <vector>

namespace fulmox {

/// All rows, in working order.
const std::vector<FigureRow>& figure_rows();

/// The row of this key; null where there is none.
const FigureRow* figure_row(std::string_view key);

/// What a row needs on this axis: of a winder the fill of most heat is shown, and which that is depends on the whole
/// demand.
need::Bits needs_of(const FigureRow& row, const Axis& axis);

/// The figures of an axis. One that waits has no number, and its note says for what.
std::vector<Figure> figures(In in);

} // namespace fulmox

// The choice of a kind of motor as a table and as JSON.
#pragma once

#include "core/match/which_kind.h"
#include "core/report/table.h"

namespace fulmox {

/// A row for each kind, below it its reasons; the best first.
Table kinds_table(const KindChoice& c);
/// Questions with what is known to them, but for those that the axis' own fields show.
Table questions_table(const KindChoice& c);

} // namespace fulmox

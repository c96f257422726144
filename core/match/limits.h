// The limits of an axis: rows of the registry, judged.
#pragma once

#include "core/match/rows/row.h"

#include <string_view>
#include <vector>

namespace fulmox {

/// All rows, in working order.
const std::vector<LimitRow>& limit_rows();

/// The row of this key; null where there is none.
const LimitRow* limit_row(std::string_view key);

/// What a limit needs on this axis.
inline need::Bits needs_of(const LimitRow& row, const Axis& axis) {
    return row.needs | (row.more ? row.more(axis) : 0);
}

/// The limits that apply to this axis. One that waits cannot be said, and its reason says for what.
std::vector<Limit> judge_all(In in);

} // namespace fulmox

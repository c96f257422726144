// What an axis is cautioned of, and what looks odd about it: words beside the limits.
#pragma once

#include "core/match/assess.h"

#include <string>

namespace fulmox {

/// Where work can hurt someone or a motor does not belong; source: ISO 12100, ISO 13849-1, IEC 60204-1 and the like,
/// named in the words. `path` is the axis' JSON pointer.
void cautions(
    Problems& out, const Axis& axis, const std::string& path, const Assessment& a, const Surroundings& around);

/// What is probably not meant so.
void flags(Problems& out, const Axis& axis, const std::string& path, const Assessment& a, UnitSystem system);

} // namespace fulmox

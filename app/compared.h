// Motors that are looked at next to that of the axis.
#pragma once

#include "core/match/assess.h"

#include <QColor>
#include <cstddef>
#include <memory>

namespace fulmox::app {

struct Compared {
    Motor motor;
    std::shared_ptr<const Assessment> is; ///< on this axis; null while it is being made
};
inline constexpr std::size_t most_compared = 4;
/// Of its curve and of the mark in the table.
QColor compared_colour(int place);

} // namespace fulmox::app

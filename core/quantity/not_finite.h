// Names for what is no finite number.
#pragma once

#include <limits>

namespace fulmox {

inline constexpr double infinite = std::numeric_limits<double>::infinity();
inline constexpr double no_number = std::numeric_limits<double>::quiet_NaN();

} // namespace fulmox

// Writing numbers and quantities for people. Independent of the locale.
#pragma once

#include "core/quantity/unit.h"

#include <string>

namespace fulmox {

/// `digits` significant digits, trailing zeros dropped; powers of ten outside 1e-4 … 1e7. NaN gives "–".
std::string format_number(double value, int digits = 4);

/// Shortest text that reads back as the same double.
std::string format_exact(double value);

/// "12.35 N·m"; a number of kind `number` in unit "1" has no symbol.
std::string format_quantity(double si, const Unit& unit, int digits = 4);

/// In the display unit of the system, stepping to a larger or smaller metric unit where that reads better.
std::string format_quantity(double si, Kind kind, UnitSystem system, int digits = 4);

} // namespace fulmox

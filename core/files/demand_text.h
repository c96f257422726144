// A demand as a table: pasted from a spreadsheet, or a CSV file.
#pragma once

#include "core/model/cycle.h"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

struct DemandText {
    Cycle cycle;                    ///< its speed at the start, and a segment for each row
    std::vector<std::string> wrong; ///< rows left out, each with its line, what was found and what is allowed
};

/// Rows of five columns: duration, speed at the start, speed at the end, torque at the start, torque at the end; at a
/// screw (`along`) force and travel speed. Between start and end both change evenly. Columns are separated by tab,
/// semicolon or comma; where it is not a comma, one in a number is a decimal comma. A heading names the columns in any
/// order and may name units; without one bare numbers are s, rpm and N·m, or s, mm/s and N. A row must begin with the
/// speed the one before it ends with. Never throws.
DemandText read_demand_text(std::string_view text, bool along);

} // namespace fulmox

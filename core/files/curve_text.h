// Curves of a datasheet as text: pasted from a spreadsheet, or a CSV file.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Rows of two or three columns: speed, then one torque, or the continuous and the peak one.
struct CurveText {
    struct Row {
        std::string speed, first, second; ///< with their units, ready for a field
    };
    enum class Second { none, peak, continuous }; ///< what the third column is; then the second is the other
    std::vector<Row> rows;
    Second second = Second::none;
    /// What the one torque is, where its heading says so: "continuous", "peak", or empty.
    std::string first_is;
    std::vector<std::string> wrong; ///< rows left out, each with its line, what was found and what is allowed
};

/// Columns are separated by tab, semicolon or comma; where it is not a comma, one in a number is a decimal comma. A
/// heading may name columns and units ("n [rpm]", "peak (N·m)", "torque/N·m") in any order; without one the order is
/// speed, continuous, peak, and bare numbers are rpm and N·m. A cell may have its own unit. Lines that begin with # are
/// ignored. Never throws.
CurveText read_curve_text(std::string_view text);

} // namespace fulmox

// The working of a result: formula, the numbers put in, the result, the source. The line with the numbers is made
// from the same template and the same values as the result is checked against.
#pragma once

#include "core/quantity/kind.h"

#include <string>
#include <utility>
#include <vector>

namespace fulmox {

using WorkingValues = std::vector<std::pair<std::string, double>>;

/// Template and values are kept; the text is made when somebody reads it, which is seldom.
struct WorkingLine {
    std::string symbol;     ///< "T_rms"
    std::string formula;    ///< as a textbook prints it: "√(1/T ∫ T² dt)"
    std::string expression; ///< the same in plain arithmetic over the names of `values`
    WorkingValues values;   ///< SI
    double result = 0;      ///< SI
    Kind kind = Kind::number;
    std::string source; ///< standard, handbook or "common practice"

    /// The expression with its numbers, five digits: "sqrt(1.322/1.15)".
    std::string substituted() const;
    /// The same with full-precision numbers.
    std::string exact() const;
};

using Working = std::vector<WorkingLine>;

/// Builds a line. `expression` is plain arithmetic (+ - * / ^ sqrt tan cos sin asin abs min max, pi) over the names in
/// `values`; each name is replaced by its number. A name that is not in `values` and is no function is an error in
/// the program, and makes its texts throw std::logic_error.
WorkingLine working_line(std::string symbol, std::string formula, std::string expression, WorkingValues values,
    double result, Kind kind, std::string source = {});

} // namespace fulmox

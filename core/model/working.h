// The working of a result: formula, the numbers put in, the result, the source. The line with the numbers is made
// from the same template and the same values as the result is checked against.
#pragma once

#include "core/quantity/kind.h"

#include <string>
#include <utility>
#include <vector>

namespace fulmox {

struct WorkingLine {
    std::string symbol;      ///< "T_rms"
    std::string formula;     ///< as a textbook prints it: "√(1/T ∫ T² dt)"
    std::string substituted; ///< the same with numbers in SI units, five digits, plain arithmetic: "sqrt(1.322/1.15)"
    std::string exact;       ///< `substituted` with full-precision numbers
    double result = 0;       ///< SI
    Kind kind = Kind::number;
    std::string source; ///< standard, handbook or "common practice"
};

using Working = std::vector<WorkingLine>;

using WorkingValues = std::vector<std::pair<std::string, double>>;

/// Builds a line. `expression` is plain arithmetic (+ - * / ^ sqrt tan cos sin asin abs min max, pi) over the names in
/// `values`; each name is replaced by its number. A name that is not in `values` and is no function is an error in
/// the program and throws std::logic_error.
WorkingLine working_line(std::string symbol, std::string formula, const std::string& expression,
    const WorkingValues& values, double result, Kind kind, std::string source = {});

} // namespace fulmox

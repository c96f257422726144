// Notes each outside check, and at the end of the run writes them as a table to the file in FULMOX_VALIDATION.
#pragma once

#include "tests/catch.h"
#include <string>

namespace fulmox::testing {

/// Compares `ours` with a published or computed value and records the pair. `tolerance` is relative and follows the
/// digits of the source.
void outside(const std::string& what, const std::string& source, double expected, double ours, double tolerance,
    const std::string& unit = "");

/// Records a check over many values by its largest relative deviation.
void outside_many(
    const std::string& what, const std::string& source, int values, double largest_deviation, double tolerance);

/// What a program prints for `arguments`, which are passed to the shell.
std::string output_of(const std::string& command);

} // namespace fulmox::testing

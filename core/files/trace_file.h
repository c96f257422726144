// Traces as text: a header row with units, then time and position or velocity. And planned motion written out so.
#pragma once

#include "core/demand/demand.h"
#include "core/model/cycle.h"
#include "core/model/problem.h"
#include "core/quantity/result.h"

#include <string>
#include <string_view>

namespace fulmox {

/// Files beyond this are refused before they are read.
inline constexpr std::size_t largest_trace_file = std::size_t{1} << 28; // 256 MiB

struct TraceRead {
    Trace trace;                    ///< samples in SI; time begins at 0
    std::vector<std::string> notes; ///< columns that were ignored, decimal commas read as such
};

/// Reads a trace for an axis that moves so. Columns are separated by comma, semicolon or tab; the header names them,
/// each with its unit: "time [ms]; position [mm]". Where semicolon or tab part the columns a comma is a decimal comma;
/// where commas part them it is not allowed in numbers. Lines that begin with # are comments; CRLF and a byte order
/// mark are accepted. Gaps (more than 20 times the middle spacing), times that do not rise and values that are no
/// number are errors with their line.
Result<TraceRead, Problem> read_trace(std::string_view text, const Motion& motion);

inline constexpr double most_exported_rows = 5e6;

/// Position, velocity, acceleration, jerk and, where there is a demand, shaft speed, torque and power, every `step` s
/// and at the end. SI units with mm and deg for positions, named in the header; times from 0. `step` must be greater
/// than 0 and make at most `most_exported_rows` rows.
std::string motion_csv(const Trajectory& t, const Motion& motion, const Demand* demand, double step);

} // namespace fulmox

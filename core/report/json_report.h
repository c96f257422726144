// The assessment as JSON and as plain text.
#pragma once

#include "core/match/assess.h"

#include <functional>
#include <string>
#include <vector>

namespace fulmox {

/// All results and limits of every axis: SI values with their units, stable keys (docs/formats/assess-json.md).
/// A value that is not known or not finite is null. `reading` is what reading the project found; each problem stands
/// with its axis, those of no axis with the machine. `line` tells the line of a pointer in the file, 0 where unknown.
std::string assessment_json(const Machine& machine, const std::vector<Assessment>& axes, const Problems& reading = {},
    const std::function<int(const std::string&)>& line = {});

/// What reading a project and assessing its axes found, each thing once, with its line.
Problems all_problems(const std::vector<Assessment>& axes, const Problems& reading,
    const std::function<int(const std::string&)>& line = {});

/// The same for people: a table of limits, the main figures, what is wrong; with `workings` those of each below it.
std::string assessment_text(const Machine& machine, const std::vector<Assessment>& axes, bool workings = false);

/// "T_rms = √(…) = sqrt(1.322/1.15) = 1.072 N·m  [source]"
std::string working_text(const WorkingLine& line);

} // namespace fulmox

// The assessment as JSON and as plain text.
#pragma once

#include "core/match/assess.h"

#include <string>
#include <vector>

namespace fulmox {

/// All results and limits of every axis: SI values with their units, stable keys (docs/formats/assess-json.md).
/// A value that is not known or not finite is null.
std::string assessment_json(const Machine& machine, const std::vector<Assessment>& axes);

/// The same for people: a table of limits, the main figures, what is wrong.
std::string assessment_text(const Machine& machine, const std::vector<Assessment>& axes);

/// "T_rms = √(…) = sqrt(1.322/1.15) = 1.072 N·m  [source]"
std::string working_text(const WorkingLine& line);

} // namespace fulmox

// Motors of a catalogue judged on an axis, as text, JSON and CSV.
#pragma once

#include "core/match/assess.h"
#include "core/match/candidates.h"
#include "core/report/table.h"

#include <string>
#include <vector>

namespace fulmox {

struct JudgedCatalogue {
    const Machine& machine;
    std::size_t axis;
    std::string catalogue;            ///< its name
    std::vector<const Motor*> motors; ///< those that this mechanism can have
    std::vector<Candidate> judged;    ///< one for each
    std::vector<std::size_t> order;   ///< in which they are shown
};

/// docs/formats/catalogue-json.md
std::string judged_json(const JudgedCatalogue& c);
std::string judged_csv(const JudgedCatalogue& c);
std::string judged_text(const JudgedCatalogue& c);

/// Motors side by side in numbers: a column for each, with what this axis makes of it. An assessment may be missing.
struct ComparedMotor {
    const Motor* motor;
    const Assessment* is;
};
Table compared_table(const Machine& machine, const std::vector<ComparedMotor>& motors);

} // namespace fulmox

// What a catalogue holds and what is wrong with it, and its parts judged on an axis; as text, JSON and CSV.
#pragma once

#include "core/files/part_table.h"
#include "core/match/candidates.h"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

struct CheckedCatalogue {
    std::string file;
    std::string name;               ///< as the file has it
    std::optional<PartTable> table; ///< how it was read, where it is one
    PartLists parts;
    Problems problems;
    std::size_t more_problems = 0, rows = 0, left_out = 0; ///< of a table
};

/// docs/formats/catalogue-json.md
std::string checked_json(const CheckedCatalogue& c);
std::string checked_text(const CheckedCatalogue& c);

struct JudgedParts {
    const Machine& machine;
    std::size_t axis;
    const PartKind& kind;
    const PartLists& parts;
    std::vector<Candidate> judged;  ///< one for each part of that kind
    std::vector<std::size_t> order; ///< in which they are shown
};

std::string judged_parts_json(const JudgedParts& c);
std::string judged_parts_csv(const JudgedParts& c);
std::string judged_parts_text(const JudgedParts& c);

} // namespace fulmox

// What a catalogue holds and what is wrong with it, and its parts judged on an axis; as text, JSON and CSV.
#pragma once

#include "core/files/part_table.h"
#include "core/match/candidates.h"
#include "core/model/walk.h"
#include "core/report/table.h"

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

/// What a field of a part says, in the units of the project; empty: nothing.
std::string shown_value(const FieldRef& f, UnitSystem units);

/// A part that is laid beside others, and what the axis would say with it; `is` null: not judged yet.
struct BesidePart {
    std::size_t i; ///< of the list
    const Candidate* is;
};
/// A column for each; fields that none of them has are left out.
Table parts_beside(
    const PartKind& kind, const PartLists& parts, const std::vector<BesidePart>& which, UnitSystem units);

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

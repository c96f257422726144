// What an axis is cautioned of, and what looks odd about it: rows of words beside the limits.
#pragma once

#include "core/match/assess.h"

#include <string>
#include <vector>

namespace fulmox {

/// Everything a caution may look at.
struct CautionInput {
    const Machine& machine;
    const Axis& axis;
    const Assessment& assessment;
};

/// A caution (someone or something can come to harm) or what is probably not meant so, under a stable key.
struct CautionRow {
    const char* key;
    Severity severity = Severity::caution;
    const char* field;
    const char* path; ///< below the axis
    bool (*applies)(const CautionInput&);
    std::string (*words)(const CautionInput&);
    const char* meaning;                                 ///< for docs/formats
    std::string (*label)(const CautionInput&) = nullptr; ///< in place of `field`
};

/// All rows. Sources: ISO 12100, ISO 13849-1, IEC 60204-1 and the like, named in the words.
const std::vector<CautionRow>& caution_rows();

/// Those that apply, with the axis' JSON pointer before their paths.
Problems cautions(const CautionInput& in, const std::string& path);

} // namespace fulmox

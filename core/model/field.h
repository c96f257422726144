// What is known about a field, said once. A model struct lists its fields in `describe`; the project file, the
// forms, validation, the JSON schema and the documentation of the format are all driven by that list.
#pragma once

#include "core/quantity/quantity.h"

#include <cstddef>
#include <limits>
#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Permitted values in `unit`; an open end excludes the bound itself.
struct Range {
    double min;
    double max;
    bool open_min = false;
    bool open_max = false;
};

inline constexpr double no_bound = std::numeric_limits<double>::infinity();

struct QuantitySpec {
    const char* key;
    const char* label;
    const char* unit;                   ///< of bare numbers, and of the two ranges
    Range range;                        ///< outside: refused
    Range typical{-no_bound, no_bound}; ///< outside: kept and flagged
    const char* help;
    const char* source = "";
    bool required = true;
    const char* if_empty = ""; ///< what an empty optional field means
    bool rare = false;         ///< folded away in forms
    const char* symbol = "";   ///< letter in formulas and on the schematic
    const char* when = "";     ///< "key=value": shown and demanded only for that choice in the same group
};

struct TextSpec {
    const char* key;
    const char* label;
    const char* help;
    bool many_lines = false;
};

struct Option {
    const char* key;
    const char* label;
};

struct ChoiceSpec {
    const char* key;
    const char* label;
    std::span<const Option> options;
    const char* help;
};

struct FlagSpec {
    const char* key;
    const char* label;
    const char* help;
};

struct GroupSpec {
    const char* key;
    const char* label;
    const char* help = "";
    bool rare = false;
};

struct ListSpec {
    const char* key;
    const char* label;
    const char* item; ///< what one entry is called
    const char* help = "";
    std::size_t most = 10000; ///< entries beyond this are refused
};

/// Members of a file that this version does not know, kept word for word: key to raw JSON.
using Extra = std::map<std::string, std::string>;

} // namespace fulmox

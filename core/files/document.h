// JSON text with the line of every value, and refusal of what no honest file contains.
#pragma once

#include "core/files/bounds.h"
#include "core/model/problem.h"
#include "core/quantity/result.h"

#include <cstddef>
#include <map>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

namespace fulmox {

using Json = nlohmann::ordered_json;

struct JsonDocument {
    Json root;
    std::map<std::string, int> lines; ///< JSON pointer to line, 1-based

    /// Line of a pointer or of the nearest enclosing value that has one.
    int line(const std::string& pointer) const { return line_of(lines, pointer); }
    static int line_of(const std::map<std::string, int>& lines, std::string pointer);
};

/// Parses. Refused with a line: anything over `most` bytes, nesting over `deepest_json`, a duplicate member,
/// bytes that are not UTF-8, text after the end. Never throws on bad text.
Result<JsonDocument, Problem> parse_document(std::string_view text, std::size_t most = largest_file);

/// `pointer` with the key appended, escaped as RFC 6901 wants.
std::string child_pointer(const std::string& pointer, std::string_view key);

} // namespace fulmox

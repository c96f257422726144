// JSON text with the line of every value, and refusal of what no honest file contains.
#pragma once

#include "core/files/bounds.h"
#include "core/model/problem.h"
#include "core/quantity/result.h"

#include <cstddef>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

namespace fulmox {

using Json = nlohmann::ordered_json;

struct JsonDocument {
    Json root;
    std::unordered_map<std::string, int> lines; ///< JSON pointer to line, 1-based

    /// Line of a pointer or of the nearest enclosing value that has one.
    int line(const std::string& pointer) const { return line_of(lines, pointer); }
    static int line_of(const std::unordered_map<std::string, int>& lines, std::string pointer);
};

/// Parses. Refused with a line: anything over `most` bytes, nesting over `deepest_json`, a duplicate member,
/// bytes that are not UTF-8, text after the end. Never throws on bad text.
Result<JsonDocument, Problem> parse_document(std::string_view text, std::size_t most = largest_file);

/// `pointer` with the key appended, escaped as RFC 6901 wants.
std::string child_pointer(const std::string& pointer, std::string_view key);

/// Texts of megabytes, which the library that writes JSON goes through letter by letter: place-holders stand for them
/// until the rest is written. They must be valid UTF-8, outlive this, and are escaped as JSON asks for.
class LongTexts {
  public:
    explicit LongTexts(int attempt) : attempt_(attempt) {}
    /// What stands for it.
    std::string hold(std::string_view text);
    /// `written` with the texts in place; nothing where a place-holder is not found once, so that another attempt is
    /// needed: somebody has typed one.
    std::optional<std::string> put_in(const std::string& written) const;

  private:
    int attempt_;
    std::vector<std::string_view> texts_;
    std::string stand_in(std::size_t i) const;
};

/// The text of what `make` gives, indented; `make` asks its LongTexts to hold what is long.
template <class Make> std::string dump_with_long_texts(Make&& make) {
    for (int attempt = 0;; ++attempt) {
        LongTexts texts(attempt);
        const Json json = make(texts);
        if (auto out = texts.put_in(json.dump(2, ' ', false, Json::error_handler_t::replace))) return *out + "\n";
    }
}

} // namespace fulmox

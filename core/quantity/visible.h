#pragma once
#include <string>
#include <string_view>

namespace fulmox {

/// The text with each control character as its code, "\u{202e}": one that would move the cursor of a terminal, or turn
/// the text around it (U+202A to U+202E, U+2066 to U+2069). Names come from files of others. Line ends and tabs stay.
std::string visible(std::string_view text);

} // namespace fulmox

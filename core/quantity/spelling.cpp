#include "core/quantity/spelling.h"

#include <array>
#include <cctype>
#include <utility>

namespace fulmox::spelling {

std::string plain_signs(std::string_view text) {
    static constexpr std::array<std::pair<std::string_view, std::string_view>, 19> table{{
        {"−", "-"},
        {"–", "-"},
        {"‑", "-"},
        {"×", "*"},
        {"·", "*"},
        {"⋅", "*"},
        {"÷", "/"},
        {"⁻¹", "^-1"},
        {"⁻²", "^-2"},
        {"⁻³", "^-3"},
        {"²", "^2"},
        {"³", "^3"},
        {"⁴", "^4"},
        {"\u00a0", " "},
        {"\u2009", " "},
        {"\u202f", " "},
        {"\u03bc", "µ"},
        {"\u2126", "Ω"},
        {"π", "pi"},
    }};
    std::string out;
    out.reserve(text.size());
    for (std::size_t i = 0; i < text.size();) {
        bool replaced = false;
        if (static_cast<unsigned char>(text[i]) >= 0x80) {
            for (const auto& [from, to] : table) {
                if (text.substr(i, from.size()) != from) continue;
                out += to;
                i += from.size();
                replaced = true;
                break;
            }
        }
        if (!replaced) out += text[i++];
    }
    return out;
}

std::string normalise_unit(std::string_view name) {
    const std::string plain = plain_signs(name);
    std::string out;
    const auto is_digit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
    for (std::size_t i = 0; i < plain.size(); ++i) {
        const char c = plain[i];
        if (c == ' ' || (c == '-' && i > 0 && plain[i - 1] != '^')) {
            if (!out.empty() && out.back() != '*' && out.back() != '/') out += '*';
        } else if (is_digit(c) && !out.empty() && !is_digit(out.back()) && out.back() != '^' && out.back() != '/' &&
                   out.back() != '-') {
            out += '^';
            out += c;
        } else if (c == '*' || c == '/') {
            if (!out.empty() && out.back() == '*') out.pop_back();
            out += c;
        } else {
            out += c;
        }
    }
    while (!out.empty() && out.back() == '*') out.pop_back();
    return out;
}

} // namespace fulmox::spelling

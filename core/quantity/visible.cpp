#include "core/quantity/visible.h"

#include <charconv>

namespace fulmox {

std::string visible(std::string_view text) {
    std::string out;
    out.reserve(text.size());
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto byte = [&](std::size_t k) {
            return static_cast<unsigned char>(i + k < text.size() ? text[i + k] : 0);
        };
        const unsigned c = byte(0);
        unsigned code = 0, length = 1;
        const bool line_end = c == '\r' && byte(1) == '\n';
        if ((c < 0x20 && c != '\n' && c != '\t' && !line_end) || c == 0x7f) code = c;
        if (c == 0xc2 && byte(1) < 0xa0) code = byte(1), length = 2; // the second set of control characters
        if (c == 0xe2 && byte(1) == 0x80 && byte(2) >= 0xaa && byte(2) <= 0xae)
            code = 0x2000 + byte(2) - 0x80, length = 3;
        if (c == 0xe2 && byte(1) == 0x81 && byte(2) >= 0xa6 && byte(2) <= 0xa9)
            code = 0x2040 + byte(2) - 0x80, length = 3;
        if (code > 0) {
            char digits[8];
            out += "\\u{" + std::string(digits, std::to_chars(digits, digits + sizeof digits, code, 16).ptr) + "}";
            i += length - 1;
        } else {
            out += text[i];
        }
    }
    return out;
}

} // namespace fulmox

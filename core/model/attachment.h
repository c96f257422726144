// A file that came from outside and is kept as it came: shared between copies of the project, never changed in place.
#pragma once

#include <cstddef>
#include <memory>
#include <string>
#include <string_view>

namespace fulmox {

/// The bytes as base64 (RFC 4648, padded), as the project file has them.
struct Attachment {
    std::shared_ptr<const std::string> base64;

    bool empty() const { return !base64 || base64->empty(); }
    /// Bytes it stands for.
    std::size_t size() const {
        if (empty()) return 0;
        const std::string& t = *base64;
        return t.size() / 4 * 3 - (t.ends_with("==") ? 2 : t.ends_with('=') ? 1 : 0);
    }
    bool operator==(const Attachment& o) const {
        return base64 == o.base64 || (empty() && o.empty()) || (!empty() && !o.empty() && *base64 == *o.base64);
    }
};

/// Whether this is base64 in fours of letters, with nothing between them.
bool is_base64(std::string_view text);

struct AttachmentSpec {
    const char* key;
    const char* label;
    const char* help;
    std::size_t most; ///< bytes; more are refused
};

} // namespace fulmox

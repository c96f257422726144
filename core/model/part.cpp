#include "core/model/part.h"

#include <stdexcept>

namespace fulmox {

const std::vector<PartKind>& part_kinds() {
    static const std::vector<PartKind> kinds{
        {"motor", "Motor", "motors", "Motors", [](Machine& m) { return ListRef(m.motors); },
            [](Axis& a) { return GroupRef(a.motor); }},
    };
    return kinds;
}

const PartKind& part_kind(std::string_view key) {
    for (const PartKind& kind : part_kinds())
        if (kind.key == key) return kind;
    throw std::out_of_range("no kind of part \"" + std::string(key) + "\"");
}

} // namespace fulmox

// What the headings of a parts list mean: the fields of each kind of part and the words for them. For part_table alone.
#pragma once

#include "core/files/part_table.h"
#include "core/model/walk.h"

#include <algorithm>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Small letters and digits only; letters beyond ASCII stay.
std::string plain_words(std::string_view s);
std::vector<std::string> words_of(std::string_view s);
/// Of cells that lists leave open: empty, "–", "n/a".
bool says_nothing(std::string_view cell);
/// The last key of a path.
std::string last_key(const std::string& path);

struct KnownField : PartField {
    std::string key;
    FieldRef::Type type = FieldRef::Type::quantity;
    std::vector<std::string> names; ///< plain, that say it for sure
    std::vector<std::string> alike; ///< of the trade
    std::vector<std::string> words; ///< of label and key
    std::string plain_symbol;
    std::size_t label_words = 0;
};
const std::vector<KnownField>& known_fields(const PartKind& kind);

/// The kinds that a variant within such a part can be (those of a motor); empty where it has none.
std::span<const Option> variant_kinds(const PartKind& kind);
/// Fields of a new part, whose variant is of that kind; `part` holds it.
FieldRefs blank_fields(const PartKind& kind, PartLists& part, std::size_t variant);
/// How many of them there are, at least one.
inline std::size_t variants(const PartKind& kind) { return std::max<std::size_t>(1, variant_kinds(kind).size()); }

} // namespace fulmox

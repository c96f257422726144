// Kinds of part an axis is made of and catalogues offer. When adding one: its struct with its description, its place in
// the axis and among the project's own parts, a row in part.cpp, a catalogue in data/catalogue, its tests. Reading a
// catalogue, its checks and the tests that walk this list follow.
#pragma once

#include "core/model/machine.h"
#include "core/model/visitor.h"

namespace fulmox {

struct PartKind {
    const char* key;           ///< "motor": its place in an axis
    const char* label;         ///< "Motor"
    const char* list;          ///< "motors": of a catalogue, and of the project's own
    const char* lists;         ///< "Motors"
    ListRef (*own)(Machine&);  ///< the project's own, typed by hand
    GroupRef (*chosen)(Axis&); ///< the one of an axis
};

const std::vector<PartKind>& part_kinds();

/// The kind with this key; throws std::out_of_range where there is none.
const PartKind& part_kind(std::string_view key);

} // namespace fulmox

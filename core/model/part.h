// Kinds of part an axis is made of and catalogues offer. When adding one: its struct with its description, its lists in
// the machine, a row in part.cpp, a catalogue in data/catalogue, its tests. Reading a catalogue, its checks, tables and
// the tests that walk this list follow.
#pragma once

#include "core/model/machine.h"
#include "core/model/problem.h"
#include "core/model/visitor.h"

#include <span>

namespace fulmox {

struct PartKind {
    const char* key;   ///< "gearhead"
    const char* label; ///< "Gearhead"
    const char* list;  ///< "gearheads": of a catalogue, and of the project's own
    const char* lists; ///< "Gearheads"
    /// Keys of the fields that the axis sets and not the maker: they stay where another part takes the place.
    std::span<const char* const> placed;
    const char* at;                                  ///< path below the axis, "/stages"; empty: no axis holds one
    ListRef (*own)(PartLists&);                      ///< the list of this kind
    std::size_t (*places)(const Axis&);              ///< how many of the kind the axis has
    GroupRef (*chosen)(Axis&, std::size_t place);    ///< `place` < `places`
    std::string& (*name)(PartLists&, std::size_t i); ///< what it is known by
    std::string& (*chosen_name)(Axis&, std::size_t place);
    Provenance& (*provenance)(PartLists&, std::size_t i);
    const QuantityBase& (*price)(const PartLists&, std::size_t i);
    const QuantityBase& (*mass)(const PartLists&, std::size_t i);
    /// Part `i` takes this place of the axis; gearheads at the end are added.
    void (*put)(Axis&, std::size_t place, const PartLists&, std::size_t i);
    void (*remove)(Axis&, std::size_t place);                                ///< what the axis sets stays
    void (*keep)(PartLists& to, const PartLists& from, std::size_t i);       ///< adds a copy
    void (*keep_chosen)(PartLists& to, const Axis& from, std::size_t place); ///< without what the axis sets
};

const std::vector<PartKind>& part_kinds();

/// Parts with anything typed are in place from now on, until they are removed.
void stay_in_place(Axis& axis);

/// The kind with this key; throws std::out_of_range where there is none.
const PartKind& part_kind(std::string_view key);

/// Whether the axis sets the field with this key.
bool is_placed(const PartKind& kind, std::string_view key);

/// The part with this name; nothing where there is none.
std::optional<std::size_t> find_part(const PartKind& kind, const PartLists& in, std::string_view name);

/// The name, or with a number behind it where a part of `in` has it; of none "Typed by hand".
std::string free_name(const PartKind& kind, const PartLists& in, const std::string& wanted);

/// Adds all parts of one kind under names that are free. A part that was read from the same file under the same name is
/// an earlier edition, whose place the new one takes; how many of these there were.
std::size_t keep_all(const PartKind& kind, PartLists& to, const PartLists& from);

struct PartDifference {
    std::string field; ///< its label
    std::string here, there;
};
/// In what the part of an axis is not as the one of a catalogue: names, what the axis sets and provenance left out.
std::vector<PartDifference> part_differences(
    const PartKind& kind, const Axis& axis, std::size_t place, const PartLists& in, std::size_t i);

/// What of one part cannot be together, or is missing beside its values; paths are those of a catalogue file.
Problems part_contradictions(const PartKind& kind, const PartLists& parts, std::size_t i);

/// What is wrong with parts as a catalogue: values out of range, what is missing, contradictions, two of one name.
/// Paths are those of a catalogue file, "/gearheads/3/ratio".
Problems check_parts(const PartLists& parts);

} // namespace fulmox

// A flat, type-erased list of the fields of a described struct, for forms, validation, undo texts and sweeps.
#pragma once

#include "core/model/field.h"
#include "core/model/machine.h"
#include "core/model/problem.h"
#include "core/model/visitor.h"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace fulmox {

/// One described place in a struct. The pointers are valid as long as the struct stays put.
struct FieldRef {
    enum class Type { quantity, text, choice, flag, group, list, variant, samples, attachment };
    Type type;
    std::string path;                     ///< JSON pointer
    bool active = true;                   ///< false where another choice makes the field meaningless
    need::Bits serves = need::everything; ///< what results it is used for
    Kind kind = Kind::illegal;
    QuantitySpec quantity_spec{};
    QuantityBase* quantity = nullptr;
    TextSpec text_spec{};
    std::string* text = nullptr;
    ChoiceSpec choice_spec{};
    ChoiceRef choice;
    FlagSpec flag_spec{};
    bool* flag = nullptr;
    GroupSpec group_spec{};
    int depth = 0;
    ListSpec list_spec{};
    ListRef list;
    VariantRef variant;
    const Samples* samples = nullptr;       ///< numbers in bulk; shown as a count
    const Attachment* attachment = nullptr; ///< shown as its size
    bool along_axis = false;                ///< a quantity whose kind depends on how the axis moves

    /// Of a choice or a variant.
    int chosen() const { return variant ? variant.chosen() : choice.chosen(); }
    void choose(int i) const { variant ? variant.choose(i) : choice.choose(i); }

    std::string label() const;
    /// What it holds, in the words of whoever gave it; empty: nothing, or something that has others in it.
    std::string words() const;
};

using FieldRefs = std::vector<FieldRef>;

FieldRefs walk(Machine& root);
FieldRefs walk(Axis& root, const std::string& path = "");
FieldRefs walk(Motor& root, const std::string& path = "");
FieldRefs walk(Site& root, const std::string& path = "");
FieldRefs walk(Operation& root, const std::string& path = "");
FieldRefs walk(Surroundings& root, const std::string& path = "");
FieldRefs walk(Policy& root, const std::string& path = "");
FieldRefs walk(Material& root, const std::string& path = "");
FieldRefs walk(const GroupRef& root, const std::string& path = "");

/// An empty field in whose place a stated default stands.
struct StandIn {
    std::string path;  ///< JSON pointer below the axis
    std::string label; ///< of the field
    std::string words; ///< what stands in: "2 − 1/η"
    need::Bits serves = 0;
};
/// Of an axis, without what is only kept and shown, and without parts it does not have.
std::vector<StandIn> stand_ins(const Axis& axis);

/// Reads the motion quantities of the axis again after its mechanism changed from linear to rotary or back: what does
/// not fit any more keeps its text and is an error until it is mended.
void reread_motion(Axis& axis);

/// The field at a JSON pointer, or nothing.
std::optional<FieldRef> find_field(Machine& root, const std::string& path);

/// Forgets what a file had at this place and below, or around it, that could not be read: it has been given again.
void forget_unread(Machine& root, const std::string& path);

/// Checks a value against its description. A missing required value is an error.
std::optional<Problem> check(const FieldRef& field);

/// The same for every quantity of an axis, in order; what lies at the pointer `skip` is ignored.
Problems check_quantities(const Axis& axis, const std::string& path, const std::string& skip = "");

/// The same for every quantity of a described struct; not `whole`: what is missing is no problem.
Problems check_quantities(const GroupRef& group, const std::string& path, bool whole = true);

/// The first list or block of numbers with more entries than its description allows, "Axes: found 201; at most 200 are
/// kept in a file", or nothing.
std::optional<Problem> overfull(const Machine& machine);

/// Reads `text` into the field if it is readable and in range, else leaves the field alone and says why.
/// An empty text clears an optional field. Bare numbers take the field's own last unit.
std::optional<Problem> assign(FieldRef& field, std::string_view text);

/// What is wrong with a value of a field, or odd about it; nothing where all is well.
std::optional<std::pair<Severity, std::string>> fault(const QuantitySpec& spec, Kind kind, const QuantityBase& q);

/// "0 < lead ≤ 1000 mm"
std::string range_text(const QuantitySpec& spec, bool whole = true);

/// Unit of the ranges and of bare numbers.
const Unit& spec_unit(const QuantitySpec& spec, Kind kind);

} // namespace fulmox

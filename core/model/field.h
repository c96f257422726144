// What is known about a field, said once. A model struct lists its fields in `describe`; the project file, the
// forms, validation, the JSON schema and the documentation of the format are all driven by that list.
#pragma once

#include "core/model/need.h"
#include "core/quantity/quantity.h"

#include <algorithm>
#include <cstddef>
#include <initializer_list>
#include <limits>
#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

class FieldVisitor;

/// Permitted values in `unit`; an open end excludes the bound itself.
struct Range {
    double min;
    double max;
    bool open_min = false;
    bool open_max = false;
};

inline constexpr double no_bound = std::numeric_limits<double>::infinity();

/// What an axis has, by its mechanism; a field that needs a bit the axis lacks is not shown, demanded or used.
struct Motion {
    enum Has : unsigned {
        carriage = 1,       ///< a mass that always travels along a straight line
        guides = 2,         ///< friction of guides or of a sliding bed
        inclination = 4,    ///< a straight line at an angle
        payload = 8,        ///< something carried
        counterweight = 16, ///< a weight that balances the load
        start = 32,         ///< the position at the start matters
        sine = 128,         ///< a motor driven with sine currents, or none yet
        stepper = 256,      ///< a stepper
        servo = 512,        ///< any other motor, or none yet
        shaft = 64          ///< a turning input shaft: stages, coupling, rotary motor; all but linear motors
    };
    bool rotary = false;       ///< positions are angles, process forces torques
    bool direct = false;       ///< a linear motor: what stands for shaft torque is a force
    bool linear_force = false; ///< positions are angles, but process forces act along a line: cranks
    unsigned has = 0x3ff;
};

/// What an optional field means where it is empty. Forgetting never helps: tests empty every field and compare.
enum class Empty {
    nothing,   ///< nothing stated: of a field that must be given
    zero,      ///< there is none of it
    stands_in, ///< a stated default or function takes its place
    unknown,   ///< what needs it cannot be said, unless the rest is enough
    not_asked  ///< what it would be asked for is left out, by name
};

struct IfEmpty {
    Empty means = Empty::nothing;
    const char* words = "";
    /// Of one that stands in, where a number of its own struct tells it: in the unit of the field; else NaN.
    double value = std::numeric_limits<double>::quiet_NaN();
};

namespace left_empty {
constexpr IfEmpty zero(const char* words) { return {Empty::zero, words, 0}; }
constexpr IfEmpty stands_in(const char* words, double value = std::numeric_limits<double>::quiet_NaN()) {
    return {Empty::stands_in, words, value};
}
constexpr IfEmpty unknown(const char* words) { return {Empty::unknown, words}; }
constexpr IfEmpty not_asked(const char* words) { return {Empty::not_asked, words}; }
} // namespace left_empty

/// Whether one of these is typed, readable or not.
inline bool any_typed(std::initializer_list<const QuantityBase*> all) {
    return std::any_of(all.begin(), all.end(), [](const QuantityBase* q) { return q->given() || !q->text.empty(); });
}

struct QuantitySpec {
    const char* key;
    const char* label;
    const char* unit;                   ///< of bare numbers, and of the two ranges
    Range range;                        ///< outside: refused
    Range typical{-no_bound, no_bound}; ///< outside: kept and flagged
    const char* help;
    const char* source = "";
    bool required = true;
    IfEmpty if_empty;             ///< what an empty optional field means
    bool rare = false;            ///< folded away in forms
    const char* symbol = "";      ///< letter in formulas and on the schematic
    bool applies = true;          ///< else not shown, demanded or used: another field of the struct says so
    unsigned needs = 0;           ///< Motion::Has bits
    const char* rotary_unit = ""; ///< of a motion quantity on a rotary axis, with its ranges and label
    Range rotary_range{-no_bound, no_bound};
    Range rotary_typical{-no_bound, no_bound};
    const char* rotary_label = "";
    need::Bits serves = 0; ///< `need` bits; 0: what its group serves

    /// The same field as it stands on a rotary axis, or on a linear one.
    QuantitySpec on_rotary(bool rotary) const {
        QuantitySpec s = *this;
        if (!rotary || !*rotary_unit) return s;
        s.unit = rotary_unit;
        s.range = rotary_range;
        s.typical = rotary_typical;
        if (*rotary_label) s.label = rotary_label;
        return s;
    }
};

/// Of a value greater than 0 and up to `most` that may be left out.
inline QuantitySpec optional_quantity(const char* key, const char* label, const char* unit, double most,
    const char* help, const IfEmpty& if_empty, const char* symbol, need::Bits serves) {
    return {.key = key,
        .label = label,
        .unit = unit,
        .range = {0, most, true},
        .help = help,
        .required = false,
        .if_empty = if_empty,
        .symbol = symbol,
        .serves = serves};
}

struct TextSpec {
    const char* key;
    const char* label;
    const char* help;
    bool many_lines = false;
};

struct Option {
    const char* key;
    const char* label;
};

/// Of `InputSource`, in its order.
inline constexpr Option standings[] = {
    {"assumed", "assumed"}, {"datasheet", "datasheet"}, {"calculated", "calculated"}, {"measured", "measured"}};

struct ChoiceSpec {
    const char* key;
    const char* label;
    std::span<const Option> options;
    const char* help;
    bool optional = false; ///< may be left out of a file: then as a new one has it
    bool applies = true;
    unsigned needs = 0;
    need::Bits serves = 0; ///< `need` bits; 0: what its group serves
};

struct FlagSpec {
    const char* key;
    const char* label;
    const char* help;
    unsigned needs = 0; ///< Motion::Has bits
    bool by_itself =
        false; ///< set by what is done with the group, not in a form; left out of a file while it is not set
};

/// Of a part that an axis may have or not: set when it is named, chosen or typed, unset by removing it.
inline constexpr FlagSpec in_place_spec{"in_place", "In place", "The axis has one.", 0, true};

struct GroupSpec {
    const char* key;
    const char* label;
    const char* help = "";
    bool rare = false;
    need::Bits serves = 0; ///< `need` bits of the fields in it that say nothing of their own; 0: as what it is in
    bool optional = false; ///< a variant that may be left out of a file: then its first kind
    bool sparse = false; ///< left out of a file while none of it says anything: no quantity, no text, choices and flags
                         ///< as they come
};

struct ListSpec {
    const char* key;
    const char* label;
    const char* item; ///< what one entry is called
    const char* help = "";
    std::size_t most = 10000; ///< entries beyond this are refused
    need::Bits serves = 0;    ///< `need` bits of the fields in it that say nothing of their own; 0: as what it is in
};

/// Members of a file that this version does not know, kept word for word: key to raw JSON.
using Extra = std::map<std::string, std::string>;

} // namespace fulmox

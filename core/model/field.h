// What is known about a field, said once. A model struct lists its fields in `describe`; the project file, the
// forms, validation, the JSON schema and the documentation of the format are all driven by that list.
#pragma once

#include "core/model/need.h"
#include "core/quantity/quantity.h"

#include <algorithm>
#include <cstddef>
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

/// What was chosen and given in the groups that are open, for the conditions of fields. A condition is made of terms
/// joined by "&", all of which must hold for the same group: "thread=ball", "thread!=roller", or "!efficiency" (that
/// quantity is not given).
class Conditions {
  public:
    void note(int depth, const char* key, const char* value) { noted_.push_back({depth, key, value}); }
    bool hold(int depth, std::string_view when) const {
        while (!when.empty()) {
            const std::string_view term = when.substr(0, when.find('&'));
            if (!holds(depth, term)) return false;
            when.remove_prefix(std::min(when.size(), term.size() + 1));
        }
        return true;
    }
    std::size_t size() const { return noted_.size(); }
    void forget_from(std::size_t size) { noted_.resize(size); }
    static constexpr const char* given = "given";

  private:
    struct Noted {
        int depth = 0;
        const char* key = "";
        const char* value = "";
    };
    std::vector<Noted> noted_;

    bool holds(int depth, std::string_view term) const {
        const std::size_t eq = term.find('=');
        const bool absent = eq == std::string_view::npos, differs = !absent && eq > 0 && term[eq - 1] == '!';
        const std::string_view key = absent ? term.substr(1) : term.substr(0, eq - (differs ? 1 : 0));
        const std::string_view value = absent ? given : term.substr(eq + 1);
        for (auto n = noted_.rbegin(); n != noted_.rend() && n->depth == depth; ++n)
            if (key == n->key) return (value == n->value) != (absent || differs);
        return true;
    }
};

/// What an axis has, by its mechanism; a field that needs a bit the axis lacks is not shown, demanded or used.
struct Motion {
    enum Has : unsigned {
        carriage = 1,       ///< a mass that always travels along a straight line
        guides = 2,         ///< friction of guides or of a sliding bed
        inclination = 4,    ///< a straight line at an angle
        payload = 8,        ///< something carried
        counterweight = 16, ///< a weight that balances the load
        start = 32,         ///< the position at the start matters
        shaft = 64          ///< a turning input shaft: stages, coupling, rotary motor; all but linear motors
    };
    bool rotary = false;       ///< positions are angles, process forces torques
    bool direct = false;       ///< a linear motor: what stands for shaft torque is a force
    bool linear_force = false; ///< positions are angles, but process forces act along a line: cranks
    unsigned has = 0x7f;
};

struct QuantitySpec {
    const char* key;
    const char* label;
    const char* unit;                   ///< of bare numbers, and of the two ranges
    Range range;                        ///< outside: refused
    Range typical{-no_bound, no_bound}; ///< outside: kept and flagged
    const char* help;
    const char* source = "";
    bool required = true;
    const char* if_empty = "";    ///< what an empty optional field means
    bool rare = false;            ///< folded away in forms
    const char* symbol = "";      ///< letter in formulas and on the schematic
    const char* when = "";        ///< shown, demanded and used only then, see `Conditions`
    unsigned needs = 0;           ///< Motion::Has bits
    const char* rotary_unit = ""; ///< of a motion quantity on a rotary axis, with its ranges and label
    Range rotary_range{-no_bound, no_bound};
    Range rotary_typical{-no_bound, no_bound};
    const char* rotary_label = "";
    bool decides = false; ///< whether it is given decides about other fields of its group
    unsigned serves = 0;  ///< `need` bits; 0: what its group serves

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

struct ChoiceSpec {
    const char* key;
    const char* label;
    std::span<const Option> options;
    const char* help;
    bool optional = false; ///< may be left out of a file: then the first option
    const char* when = "";
    unsigned needs = 0;
    unsigned serves = 0; ///< `need` bits; 0: what its group serves
};

struct FlagSpec {
    const char* key;
    const char* label;
    const char* help;
};

struct GroupSpec {
    const char* key;
    const char* label;
    const char* help = "";
    bool rare = false;
    unsigned serves = 0; ///< `need` bits of the fields in it that say nothing of their own; 0: as what it is in
};

struct ListSpec {
    const char* key;
    const char* label;
    const char* item; ///< what one entry is called
    const char* help = "";
    std::size_t most = 10000; ///< entries beyond this are refused
    unsigned serves = 0;      ///< `need` bits of the fields in it that say nothing of their own; 0: as what it is in
};

/// Members of a file that this version does not know, kept word for word: key to raw JSON.
using Extra = std::map<std::string, std::string>;

} // namespace fulmox

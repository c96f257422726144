// The unit table of the trade.
#pragma once

#include "core/quantity/kind.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

enum class UnitSystem { si, inch_pound, mixed };

/// One row of the table. `factor` takes a value in this unit to SI: si = value × factor + offset.
struct Unit {
    std::string_view symbol; ///< as written out: "oz·in²"
    Kind kind;
    double factor;
    std::string_view gnu;     ///< the same unit as an expression of the GNU units program
    std::string_view aliases; ///< other spellings, separated by a space
    double offset = 0;        ///< K; only °C and °F
    std::string_view name;    ///< spelled out where the symbol is easily mistaken
};

/// Every unit, SI unit of a kind first among its kind. Factors: NIST SP 811, appendix B; BIPM SI brochure.
std::span<const Unit> units();

/// Exact symbol or alias after normalising ("oz-in2", "oz in²", "oz·in^2" are one); nullptr if unknown.
const Unit* find_unit(std::string_view name);

/// As find_unit, but among the units of one kind first: "C" is a charge where a charge is wanted.
const Unit* find_unit(std::string_view name, Kind wanted);

std::vector<const Unit*> units_of(Kind kind);
const Unit& si_unit(Kind kind);

/// Unit in which a result of this kind is shown. In `mixed`, lengths and loads are SI, torque and inertia inch-pound.
const Unit& display_unit(Kind kind, UnitSystem system);
/// The same for a value of this size: ten turns and more are turns, not thousands of degrees.
const Unit& display_unit(Kind kind, UnitSystem system, double si);

/// A short list for an error message: "N·m, oz·in, lb·in, kg·cm".
std::string some_units(Kind kind);

inline double to_si(double value, const Unit& u) { return value * u.factor + u.offset; }
inline double from_si(double si, const Unit& u) { return (si - u.offset) / u.factor; }

} // namespace fulmox

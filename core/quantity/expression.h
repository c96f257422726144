// Reads what people type into a field: arithmetic with units, and a tolerance.
//
//   expression := term (('+' | '-') term)*        "2*35 mm + 1 in"
//   term       := factor (('*' | '/') factor)*    "10 N / 2 mm" is 10 N/(2 mm)
//   factor     := number [unit] | '(' expression ')' [unit] | sqrt '(' … ')' | pi
//
// Stated rules, where people differ:
// - A unit after a fraction of bare numbers belongs to the whole fraction: "7/8 in" is 0.875 in.
// - "1 1/2 in" is one and a half inches. "50 000" with groups of three is fifty thousand.
// - A comma is refused, since "1,5" means 1.5 to one reader and a list or a thousands sign to another.
// - The tolerance follows "±" or "+/-" and is a percentage or a value: "12 kg ± 10 %", "12 kg ± 500 g".
// - The radian is kept: 1/s is not rad/s, so a forgotten "per rev" is refused instead of being wrong by 2π.
//   It may be dropped where mass, length or current remain (N·m × rad/s is W).
#pragma once

#include "core/quantity/result.h"
#include "core/quantity/unit.h"

#include <cstddef>
#include <string>
#include <string_view>

namespace fulmox {

struct ReadError {
    std::string message;      ///< what was found and what is allowed
    std::size_t position = 0; ///< byte offset into the text after plain_signs
};

/// A quantity read against a wanted kind.
struct Reading {
    double si = 0;              ///< in the SI unit of the kind
    double tolerance = 0;       ///< half width, SI, ≥ 0
    const Unit* unit = nullptr; ///< the user's own unit (first one of the kind), else the bare unit
    bool bare = false;          ///< no unit was written
};

/// A value read without a wanted kind, as for a calculator.
struct Evaluation {
    double si = 0;
    Dimension dimension;
    Kind kind = Kind::illegal; ///< kind of the single unit used, illegal when it is composed
    const Unit* unit = nullptr;
};

/// Reads `text` as a quantity of kind `wanted`; a number without unit is taken in `bare`.
/// Errors name what was found and what is allowed. Never throws on bad text.
Result<Reading, ReadError> read_quantity(std::string_view text, Kind wanted, const Unit& bare);

/// The text with the bare unit written out, so that it means the same wherever it is read: "2+3" and mm give
/// "(2+3) mm". Texts that carry a unit come back unchanged.
std::string with_unit(std::string_view text, const Reading& reading);

/// Evaluates an expression of any dimension. A bare unit counts as one of it.
Result<Evaluation, ReadError> evaluate(std::string_view text);

/// Converts an evaluated value into a unit, refusing other dimensions and look-alike kinds.
Result<double, ReadError> convert(const Evaluation& value, const Unit& to);

} // namespace fulmox

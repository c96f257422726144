// How a row is judged.
#pragma once

#include "core/match/mating.h"
#include "core/match/rows/row.h"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

inline constexpr const char* practice = "common practice, no source";

/// "a shorter lead" of a screw, "a smaller pulley" of a belt, "a higher ratio" of what has neither: less travel a turn
/// of the motor, or `more` of it. Empty where nothing turns.
std::string travel_remedy(const Axis& axis, bool more);

/// "One, another, or a third." Empty ones are left out.
std::string remedies(std::vector<std::string> each);

/// It cannot be said, for this reason.
void set_cannot_say(Limit& l, Text why);

/// It cannot be said: these are missing.
void lacks(Limit& l, std::vector<Missing> missing, const Text& known = {});

/// Judges a limit whose `used` and `allowed` are there, and ends its working; false where it cannot be said.
[[nodiscard]] bool conclude(Limit& l, In in, std::string source);

/// Judges by all clauses together (`worst_of`), and ends the working; the place of the clause that decides, nothing
/// where it cannot be said.
[[nodiscard]] std::optional<std::size_t> conclude(
    Limit& l, In in, const std::vector<Clause>& clauses, std::string source);

/// Judges where `used` and `allowed` are there but may promise too much for what is missing: over they may be.
[[nodiscard]] bool conclude_but_for(Limit& l, In in, std::vector<Missing> missing, std::string source);

/// The value of a field, or what is missing.
Clause held_against(double used, const QuantityBase& allowed, const std::string& path, const std::string& name);

/// Why what rests on the motor's constants cannot be said where `MotorUse::beyond_voltage`.
inline constexpr const char* not_reached = "by the motor's constants this bus does not reach all of the cycle";

/// Of a current, or what follows from it, `used` and `allowed` being there: where the bus does not reach, the field is
/// not weakened either, and the result is too low. It cannot be said then, unless it is over already; true if
/// so.
[[nodiscard]] bool too_little_to_say(Limit& l, In in);

/// Judges by the worst of these; `remedy` where one does not go into the other.
void judge_fits(Limit& l, In in, const std::vector<Mating>& fits, const char* remedy);

/// Adds a line to the working of a figure whose value is known.
void work(Figure& f, In in, const char* symbol, const char* formula, const char* rule, const WorkingValues& values,
    const char* source = "");

} // namespace fulmox

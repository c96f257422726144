// What every command needs: reading what it is given, saying what is wrong, exit codes.
#pragma once

#include "core/files/bounds.h"
#include "core/files/project.h"
#include "core/quantity/visible.h"

#include <optional>
#include <string>
#include <string_view>

namespace fulmox {

inline constexpr int all_fit = 0;
inline constexpr int limit_exceeded = 1;
inline constexpr int bad_input = 2;
inline constexpr int not_known = 3; // nothing is over, and something cannot be said that nobody accepted

/// To the standard error.
void say(const std::string& file, const Problem& p);
/// A file, a pipe, or "-" for the standard input; larger ones than a project may be are refused before they are read
/// whole. What is wrong has been said.
std::optional<std::string> read_file(const std::string& path, std::size_t most = largest_file);
std::optional<ProjectRead> open_project(const std::string& path);
/// Says what an option was given and what is allowed; the code of bad input.
int refuse(const std::string& what, const std::string& found, const char* allowed);
/// An axis by its name or its number; where there is none that is said.
std::optional<std::size_t> axis_of(const Machine& machine, const std::string& named);

} // namespace fulmox

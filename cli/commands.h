// The commands of fulmox-cli, a function each: it adds the command with its options, and sets `run` where it is called.
#pragma once

#include <CLI/CLI.hpp>
#include <functional>
#include <string>
#include <vector>

namespace fulmox {

using Run = std::function<int()>;
using AddCommand = void (*)(CLI::App& app, Run& run);

void add_assess(CLI::App& app, Run& run);
void add_validate(CLI::App& app, Run& run);
void add_datasheet(CLI::App& app, Run& run);
void add_curve(CLI::App& app, Run& run);
void add_motors(CLI::App& app, Run& run);
void add_candidates(CLI::App& app, Run& run);
void add_catalogue(CLI::App& app, Run& run);
void add_screw(CLI::App& app, Run& run);
void add_parts(CLI::App& app, Run& run);
void add_units(CLI::App& app, Run& run);
void add_schema(CLI::App& app, Run& run);
void add_formats(CLI::App& app, Run& run);

/// In the order in which they are named.
inline const std::vector<AddCommand>& commands() {
    static const std::vector<AddCommand> all{add_assess, add_datasheet, add_curve, add_motors, add_candidates,
        add_catalogue, add_screw, add_parts, add_validate, add_units, add_schema, add_formats};
    return all;
}

inline constexpr const char* project_file = "Project, *.fulmox; - reads the standard input";
inline constexpr const char* as_json = "As JSON: SI values with units, stable keys";

} // namespace fulmox

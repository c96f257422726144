// The command line described from its own commands and options: what is installed beside it is written by these.
#pragma once

#include "commands.h"

#include <string>
#include <vector>

namespace fulmox {

/// Names of the commands that users are told of, in their order.
std::vector<std::string> command_names(const CLI::App& app);

/// A script of bash that completes commands, options, choices of an option and files.
std::string bash_completion(const CLI::App& app);

/// The manual page, troff.
std::string manual_page(const CLI::App& app);

/// Hidden commands that print these two, and the list of all commands and options as JSON.
void add_descriptions(CLI::App& app, Run& run);

} // namespace fulmox

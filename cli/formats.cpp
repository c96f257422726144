#include "commands.h"
#include "core/report/json_format.h"
#include "output.h"

#include <iostream>

namespace fulmox {

void add_formats(CLI::App& app, Run& run) {
    auto* command = app.add_subcommand(
        "formats", "Keys of the JSON of assess and what they mean: results, limits, cautions, members");
    command->callback([&run] {
        run = [] {
            std::cout << formats_json();
            return all_fit;
        };
    });
}

} // namespace fulmox

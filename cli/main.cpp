// fulmox-cli: the core without a window.
#include "commands.h"
#include "describe.h"
#include "output.h"

#include <csignal>
#include <iostream>
#include <new>

namespace {

using namespace fulmox;

int run(int argc, char** argv) {
    CLI::App app{
        "Sizes the axes of a Fulmox project without a window.\n"
        "Exit codes: 0 all limits fit, 1 a limit is exceeded, 2 bad input, 3 nothing is exceeded, but something\n"
        "cannot be said that is not accepted."};
    app.set_version_flag("--version", FULMOX_VERSION);
    app.require_subcommand(1);
    Run chosen;
    for (const AddCommand add : commands()) add(app, chosen);
    add_descriptions(app, chosen);

    bool known = argc < 2 || argv[1][0] == '-';
    for (const CLI::App* c : app.get_subcommands({})) known = known || c->get_name() == argv[1];
    if (!known) {
        std::string names;
        for (const std::string& name : command_names(app)) names += (names.empty() ? "" : ", ") + name;
        std::cerr << "error: \"" << visible(argv[1]) << "\" is no command; allowed are " << names << "\n";
        return bad_input;
    }
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? all_fit : bad_input;
    }
    try {
        return chosen();
    } catch (const std::bad_alloc&) {
        std::cerr << "error: the memory does not suffice for this\n";
    } catch (const std::exception&) {
        std::cerr << "error: the program met a fault of its own; the file was not changed\n";
    }
    return bad_input;
}

} // namespace

int main(int argc, char** argv) {
    std::signal(SIGPIPE, SIG_IGN); // a reader that went away is a fault of writing like any other
    const int code = run(argc, argv);
    if (std::cout.flush()) return code;
    std::cerr << "error: the output cannot be written\n";
    return bad_input;
}

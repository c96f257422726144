#include "describe.h"

#include "output.h"

#include <iostream>
#include <nlohmann/json.hpp>

namespace fulmox {

namespace {

constexpr const char* hidden_group = ""; // CLI11 shows no group without a name

std::vector<const CLI::App*> told_of(const CLI::App& app) {
    std::vector<const CLI::App*> out;
    for (const CLI::App* c : app.get_subcommands({}))
        if (c->get_group() != hidden_group) out.push_back(c);
    return out;
}

std::vector<const CLI::Option*> options_of(const CLI::App& command) {
    std::vector<const CLI::Option*> out;
    for (const CLI::Option* o : command.get_options())
        if (o->nonpositional()) out.push_back(o);
    return out;
}

std::string long_name(const CLI::Option& o) { return o.get_lnames().empty() ? "" : "--" + o.get_lnames().front(); }

// The values an option allows, where they are a list; CLI11 keeps them in the words of its check: "{a,b}".
std::vector<std::string> choices_of(const CLI::Option& o) {
    const std::string type = o.get_type_name();
    const std::size_t open = type.find('{'), close = type.find('}');
    std::vector<std::string> out;
    if (open == std::string::npos || close == std::string::npos) return out;
    std::string word;
    for (std::size_t i = open + 1; i <= close; ++i) {
        if (type[i] != ',' && i < close) {
            word += type[i];
            continue;
        }
        if (!word.empty()) out.push_back(word);
        word.clear();
    }
    return out;
}

std::string joined(const std::vector<std::string>& words) {
    std::string out;
    for (const std::string& w : words) out += (out.empty() ? "" : " ") + w;
    return out;
}

bool takes_file(const CLI::App& command) {
    for (const CLI::Option* o : command.get_options())
        if (o->get_positional() && o->get_name() == "FILE") return true;
    return false;
}

std::string option_words(const CLI::App& command) {
    std::vector<std::string> out;
    for (const CLI::Option* o : options_of(command)) out.push_back(long_name(*o));
    return joined(out);
}

// What a command completes to, at this depth of indentation.
std::string completion_of(const CLI::App& command, const std::string& indent) {
    std::string out;
    for (const CLI::Option* o : options_of(command))
        if (const auto choices = choices_of(*o); !choices.empty())
            out += indent + "if [ \"$before\" = " + long_name(*o) + " ]; then offer \"" + joined(choices) +
                   "\"; return; fi\n";
    out += indent + "if [[ $word == -* ]]; then offer \"" + option_words(command) + "\"; return; fi\n";
    out += indent + (takes_file(command) ? "offer_files\n" : ":\n");
    return out;
}

// troff takes a minus sign for a hyphen unless escaped, and a dot or quote at the start of a line for a request.
std::string troff(const std::string& text) {
    std::string out;
    for (const char c : text)
        if (c == '-')
            out += "\\-";
        else if (c == '\\')
            out += "\\e";
        else
            out += c;
    return !out.empty() && (out.front() == '.' || out.front() == '\'') ? "\\&" + out : out;
}

std::string takes(const CLI::Option& o) {
    if (o.get_type_size() == 0) return {};
    const auto choices = choices_of(o);
    return choices.empty() ? "value" : "kind";
}

// "fulmox-cli curve FILE [options]"
std::string synopsis(const CLI::App& command, const std::string& name) {
    std::string out = ".B fulmox\\-cli " + troff(name) + "\n";
    for (const CLI::Option* o : command.get_options())
        if (o->get_positional()) out += ".I " + troff(o->get_name()) + "\n";
    bool more = false;
    for (const CLI::Option* o : options_of(command)) {
        if (o->get_required())
            out += ".B " + troff(long_name(*o)) + "\n.I " + takes(*o) + "\n";
        else
            more = more || long_name(*o) != "--help";
    }
    return more ? out + ".RI [ options ]\n" : out;
}

std::string entry(const CLI::App& command, const std::string& name) {
    std::string out = ".TP\n.B " + troff(name) + "\n" + troff(command.get_description()) + ".\n";
    bool first = true;
    for (const CLI::Option* o : options_of(command)) {
        if (long_name(*o) == "--help") continue;
        if (first) out += ".RS\n";
        first = false;
        out += ".TP\n.B " + troff(long_name(*o)) + "\n" + troff(o->get_description());
        if (const auto choices = choices_of(*o); !choices.empty()) out += ": " + troff(joined(choices));
        out += "\n";
    }
    return first ? out : out + ".RE\n";
}

nlohmann::ordered_json described(const CLI::App& command) {
    nlohmann::ordered_json out{{"name", command.get_name()}, {"does", command.get_description()}};
    out["options"] = nlohmann::ordered_json::array();
    for (const CLI::Option* o : options_of(command))
        out["options"].push_back({{"name", long_name(*o)}, {"means", o->get_description()}, {"choices", choices_of(*o)},
            {"required", o->get_required()}});
    out["commands"] = nlohmann::ordered_json::array();
    for (const CLI::App* c : told_of(command)) out["commands"].push_back(described(*c));
    return out;
}

} // namespace

std::vector<std::string> command_names(const CLI::App& app) {
    std::vector<std::string> out;
    for (const CLI::App* c : told_of(app)) out.push_back(c->get_name());
    return out;
}

std::string bash_completion(const CLI::App& app) {
    std::string out = R"(# bash completion for fulmox-cli, written by it
_fulmox_cli() {
    local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} command=${COMP_WORDS[1]}
    offer() { mapfile -t COMPREPLY < <(compgen -W "$1" -- "$word"); }
    offer_files() {
        compopt -o filenames 2>/dev/null
        mapfile -t COMPREPLY < <(compgen -f -- "$word")
    }
    if [ "$COMP_CWORD" = 1 ]; then
)";
    out += "        offer \"" + joined(command_names(app)) + " --help --version\"\n        return\n    fi\n";
    out += "    case $command in\n";
    for (const CLI::App* c : told_of(app)) {
        out += "    " + c->get_name() + ")\n";
        const std::vector<std::string> below = command_names(*c);
        if (!below.empty()) {
            out += "        if [ \"$COMP_CWORD\" = 2 ]; then offer \"" + joined(below) + "\"; return; fi\n";
            out += "        case ${COMP_WORDS[2]} in\n";
            for (const CLI::App* d : told_of(*c))
                out += "        " + d->get_name() + ")\n" + completion_of(*d, "            ") + "            ;;\n";
            out += "        esac\n";
        } else {
            out += completion_of(*c, "        ");
        }
        out += "        ;;\n";
    }
    return out + "    esac\n}\ncomplete -F _fulmox_cli fulmox-cli\n";
}

std::string manual_page(const CLI::App& app) {
    std::string out = ".TH FULMOX\\-CLI 1 \"\" \"Fulmox " FULMOX_VERSION "\" \"User commands\"\n.nh\n.SH NAME\n"
                      "fulmox\\-cli \\- size the axes of a project without a window\n.SH SYNOPSIS\n";
    std::string entries;
    bool first = true;
    for (const CLI::App* c : told_of(app)) {
        std::vector<std::pair<std::string, const CLI::App*>> each;
        for (const CLI::App* d : told_of(*c)) each.emplace_back(c->get_name() + " " + d->get_name(), d);
        if (each.empty()) each.emplace_back(c->get_name(), c);
        for (const auto& [name, command] : each) {
            out += std::string(first ? "" : ".br\n") + synopsis(*command, name);
            first = false;
            entries += entry(*command, name);
        }
    }
    out += ".SH COMMANDS\nA\n.I FILE\nnamed \\- is the standard input.\n" + entries;
    out += ".SH OPTIONS\n.TP\n.BR \\-h \", \" \\-\\-help\nWhat a command takes.\n.TP\n.B \\-\\-version\nThe version.\n";
    out += ".SH EXIT STATUS\n.TP\n.B 0\nAll limits fit; of\n.B motors\nand\n.BR candidates :\nsome are suitable.\n"
           ".TP\n.B 1\nA limit is exceeded; of\n.B motors\nand\n.BR candidates :\nnone is suitable.\n"
           ".TP\n.B 2\nBad input.\n.TP\n.B 3\nNo limit is exceeded, and something cannot be said that the axis does "
           "not accept;\n"
           "of\n.B motors\nand\n.BR candidates :\nof none it is known whether it is suitable.\n";
    return out + ".SH SEE ALSO\n.BR fulmox (1)\n";
}

void add_descriptions(CLI::App& app, Run& run) {
    const auto add = [&](const char* name, auto make) {
        auto* command = app.add_subcommand(name, "");
        command->group(hidden_group);
        command->callback([&app, &run, make] {
            run = [&app, make] {
                std::cout << make(app);
                return all_fit;
            };
        });
    };
    add("bash-completion", [](const CLI::App& a) { return bash_completion(a); });
    add("manual-page", [](const CLI::App& a) { return manual_page(a); });
    add("commands", [](const CLI::App& a) {
        nlohmann::ordered_json out = nlohmann::ordered_json::array();
        for (const CLI::App* c : told_of(a)) out.push_back(described(*c));
        return out.dump(2) + "\n";
    });
}

} // namespace fulmox

// fulmox-cli: the core without a window.
#include "core/files/document.h"
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/quantity/expression.h"
#include "core/quantity/format.h"
#include "core/report/json_report.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <charconv>
#include <csignal>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <new>
#include <sstream>

namespace {

using namespace fulmox;

constexpr int all_fit = 0;
constexpr int limit_exceeded = 1;
constexpr int bad_input = 2;

// What a terminal might take for a command, or turn about, is shown as its code.
std::string harmless(std::string_view text) {
    std::string out;
    out.reserve(text.size());
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto byte = [&](std::size_t k) {
            return static_cast<unsigned char>(i + k < text.size() ? text[i + k] : 0);
        };
        const unsigned c = byte(0);
        unsigned code = 0, length = 1;
        if ((c < 0x20 && c != '\n' && c != '\t') || c == 0x7f) code = c;
        if (c == 0xc2 && byte(1) < 0xa0) code = byte(1), length = 2; // the second set of control characters
        if (c == 0xe2 && byte(1) == 0x80 && byte(2) >= 0xaa && byte(2) <= 0xae)
            code = 0x2000 + byte(2) - 0x80, length = 3;
        if (c == 0xe2 && byte(1) == 0x81 && byte(2) >= 0xa6 && byte(2) <= 0xa9)
            code = 0x2040 + byte(2) - 0x80, length = 3;
        if (code > 0) {
            char digits[8];
            out += "\\u{" + std::string(digits, std::to_chars(digits, digits + sizeof digits, code, 16).ptr) + "}";
            i += length - 1;
        } else {
            out += text[i];
        }
    }
    return out;
}

void say(const std::string& file, const Problem& p) {
    std::cerr << file << ": "
              << (p.severity == Severity::error           ? "error: "
                     : p.severity == Severity::suspicious ? "check: "
                                                          : "caution: ")
              << harmless(to_text(p)) << "\n";
}

// A file, a pipe, or "-" for the standard input; larger ones than a project may be are refused before they are read
// whole.
std::optional<std::string> read_file(const std::string& path) {
    std::ifstream file;
    if (path != "-") {
        file.open(path, std::ios::binary);
        if (!file || std::filesystem::is_directory(path)) {
            std::cerr << path << ": error: it cannot be opened for reading\n";
            return std::nullopt;
        }
    }
    std::istream& in = path == "-" ? std::cin : file;
    std::string text, part(1 << 16, '\0');
    while (text.size() <= largest_file && in.read(part.data(), static_cast<std::streamsize>(part.size())).gcount() > 0)
        text.append(part, 0, static_cast<std::size_t>(in.gcount()));
    if (in.bad()) {
        std::cerr << path << ": error: it cannot be read to the end\n";
        return std::nullopt;
    }
    return text;
}

std::optional<ProjectRead> open_project(const std::string& path) {
    const auto text = read_file(path);
    if (!text) return std::nullopt;
    auto project = read_project(*text);
    if (!project) {
        say(path, project.error());
        return std::nullopt;
    }
    if (!project->warning.empty()) std::cerr << path << ": " << harmless(project->warning) << "\n";
    return std::move(*project);
}

struct Judged {
    ProjectRead project;
    std::vector<Assessment> axes;
    Problems problems; ///< of reading and of assessing, with their lines
    bool exceeded = false;
    bool wrong = false;
    bool assessed(const Problem& p) const {
        return std::any_of(axes.begin(), axes.end(), [&](const Assessment& a) {
            return std::any_of(a.problems.begin(), a.problems.end(),
                [&](const Problem& o) { return o.path == p.path && o.message == p.message; });
        });
    }
    int line(const std::string& pointer) const { return JsonDocument::line_of(project.lines, pointer); }
};

std::optional<Judged> judge_file(const std::string& path, bool workings) {
    auto project = open_project(path);
    if (!project) return std::nullopt;
    Judged out{std::move(*project), {}, {}};
    for (std::size_t i = 0; i < out.project.machine.axes.size(); ++i) {
        out.axes.push_back(assess(out.project.machine, i, {.workings = workings}));
        out.exceeded = out.exceeded || out.axes.back().exceeded();
    }
    out.problems =
        all_problems(out.axes, out.project.problems, [&](const std::string& pointer) { return out.line(pointer); });
    out.wrong = has_errors(out.problems);
    return out;
}

int assess_file(const std::string& path, bool json, bool workings) {
    const auto judged = judge_file(path, json || workings);
    if (!judged) return bad_input;
    // what is suspicious of the axes stands in the report itself
    for (const Problem& p : judged->problems)
        if (p.severity == Severity::error) say(path, p);
    for (const Problem& p : judged->project.problems)
        if (p.severity != Severity::error && !judged->assessed(p)) say(path, p);
    std::cout << (json ? assessment_json(judged->project.machine, judged->axes, judged->project.problems,
                             [&](const std::string& pointer) { return judged->line(pointer); })
                       : harmless(assessment_text(judged->project.machine, judged->axes, workings)));
    return judged->wrong ? bad_input : judged->exceeded ? limit_exceeded : all_fit;
}

int validate_file(const std::string& path) {
    const auto judged = judge_file(path, false);
    if (!judged) return bad_input;
    for (const Problem& p : judged->problems)
        if (p.severity != Severity::caution) say(path, p);
    if (judged->wrong) return bad_input;
    std::cout << path << ": version " << judged->project.version << ", " << judged->axes.size()
              << (judged->axes.size() == 1 ? " axis" : " axes") << ", no errors\n";
    return all_fit;
}

int show_units(const std::string& expression, const std::string& unit) {
    const auto value = evaluate(expression);
    if (!value) {
        std::cerr << "error: \"" << expression << "\": " << value.error().message << " (at "
                  << value.error().position + 1 << ")\n";
        return bad_input;
    }
    if (unit.empty()) {
        const bool single = value->unit && value->kind == value->unit->kind;
        std::cout << format_number(value->si, 10) << " "
                  << (single ? std::string(info(value->kind).si_unit) : value->dimension.symbol()) << "\n";
        return all_fit;
    }
    const Unit* to = find_unit(unit);
    // a symbol may belong to several kinds, as kHz does
    for (const Unit& u : units())
        if (to && dimension_of(to->kind) != value->dimension && dimension_of(u.kind) == value->dimension &&
            find_unit(unit, u.kind)->kind == u.kind)
            to = find_unit(unit, u.kind);
    if (!to) {
        std::cerr << "error: \"" << unit << "\" is not a known unit\n";
        return bad_input;
    }
    const auto converted = convert(*value, *to);
    if (!converted) {
        std::cerr << "error: " << converted.error().message << "\n";
        return bad_input;
    }
    std::cout << format_number(*converted, 10) << " " << to->symbol << "\n";
    return all_fit;
}

} // namespace

int run(int argc, char** argv) {
    CLI::App app{"Sizes the axes of a Fulmox project without a window.\n"
                 "Exit codes: 0 all limits fit, 1 a limit is exceeded, 2 bad input."};
    app.set_version_flag("--version", FULMOX_VERSION);
    app.require_subcommand(1);

    std::string file;
    bool json = false, workings = false;
    auto* assess_command = app.add_subcommand("assess", "All results and limits of every axis");
    assess_command->add_option("FILE", file, "Project, *.fulmox; - reads the standard input")->required();
    assess_command->add_flag("--json", json, "As JSON: SI values with units, stable keys");

    assess_command->add_flag(
        "--working", workings, "With the working of every limit and figure; the JSON has them always");

    auto* validate_command = app.add_subcommand("validate", "Checks a project file and says where it is wrong");
    validate_command->add_option("FILE", file, "Project, *.fulmox; - reads the standard input")->required();

    std::vector<std::string> words;
    auto* units_command = app.add_subcommand("units", "Arithmetic with units: units \"2*35 mm + 1 in\" in mm");
    units_command->add_option("EXPR", words, "Expression, then perhaps: in UNIT")->required()->expected(1, -1);

    auto* schema_command = app.add_subcommand("schema", "JSON Schema of the project file");

    std::string commands;
    bool known = argc < 2 || argv[1][0] == '-';
    for (const CLI::App* c : app.get_subcommands({})) {
        commands += (commands.empty() ? "" : ", ") + c->get_name();
        known = known || c->get_name() == argv[1];
    }
    if (!known) {
        std::cerr << "error: \"" << harmless(argv[1]) << "\" is no command; allowed are " << commands << "\n";
        return bad_input;
    }
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        return app.exit(e) == 0 ? all_fit : bad_input;
    }
    try {
        if (*assess_command) return assess_file(file, json, workings);
        if (*validate_command) return validate_file(file);
        if (*schema_command) {
            std::cout << project_schema();
            return all_fit;
        }
        if (*units_command) {
            std::string unit;
            if (words.size() >= 3 && words[words.size() - 2] == "in") {
                unit = words.back();
                words.resize(words.size() - 2);
            }
            std::string expression;
            for (const std::string& w : words) expression += (expression.empty() ? "" : " ") + w;
            return show_units(expression, unit);
        }
    } catch (const std::bad_alloc&) {
        std::cerr << "error: the memory does not suffice for this\n";
    } catch (const std::exception&) {
        std::cerr << "error: the program met a fault of its own; the file was not changed\n";
    }
    return bad_input;
}

int main(int argc, char** argv) {
    std::signal(SIGPIPE, SIG_IGN); // a reader that went away is a fault of writing like any other
    const int code = run(argc, argv);
    if (std::cout.flush()) return code;
    std::cerr << "error: the output cannot be written\n";
    return bad_input;
}

#include "core/match/assess.h"
#include "commands.h"
#include "core/files/document.h"
#include "core/match/bounds.h"
#include "core/report/json_report.h"
#include "output.h"

#include <algorithm>
#include <iostream>
#include <memory>

namespace fulmox {

namespace {

struct Judged {
    ProjectRead project;
    std::vector<Assessment> axes;
    Problems problems; ///< of reading and of assessing, with their lines
    bool exceeded = false;
    bool unknown = false;
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
    const auto beyond = too_long(out.project.machine);
    for (std::size_t i = 0; i < out.project.machine.axes.size(); ++i) {
        out.axes.push_back(assess(out.project.machine, i, {.workings = workings, .beyond = &beyond[i]}));
        out.exceeded = out.exceeded || out.axes.back().exceeded();
        out.unknown = out.unknown || out.axes.back().unknown();
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
                       : visible(assessment_text(judged->project.machine, judged->axes, workings)));
    return judged->wrong ? bad_input : judged->exceeded ? limit_exceeded : judged->unknown ? not_known : all_fit;
}

int validate_file(const std::string& path) {
    const auto judged = judge_file(path, false);
    if (!judged) return bad_input;
    for (const Problem& p : judged->problems)
        if (p.severity != Severity::caution) say(path, p);
    if (judged->wrong) return bad_input;
    std::cout << visible(path) << ": version " << judged->project.version << ", " << judged->axes.size()
              << (judged->axes.size() == 1 ? " axis" : " axes") << ", no errors\n";
    return all_fit;
}

} // namespace

void add_assess(CLI::App& app, Run& run) {
    struct Options {
        std::string file;
        bool json = false, workings = false;
    };
    const auto o = std::make_shared<Options>();
    auto* command = app.add_subcommand("assess", "All results and limits of every axis");
    command->add_option("FILE", o->file, project_file)->required();
    command->add_flag("--json", o->json, as_json);
    command->add_flag("--working", o->workings, "With the working of every limit and figure; the JSON has them always");
    command->callback([o, &run] { run = [o] { return assess_file(o->file, o->json, o->workings); }; });
}

void add_validate(CLI::App& app, Run& run) {
    const auto file = std::make_shared<std::string>();
    auto* command =
        app.add_subcommand("validate", "Checks a project file and says where it is wrong, by pointer and line");
    command->add_option("FILE", *file, project_file)->required();
    command->callback([file, &run] { run = [file] { return validate_file(*file); }; });
}

} // namespace fulmox

#include "parts.h"

#include "commands.h"

#include "catalogue.h"
#include "core/drivetrain/screw_layout.h"
#include "core/files/shelf_report.h"
#include "core/match/assess.h"
#include "core/quantity/format.h"
#include "core/report/catalogue_report.h"
#include "core/report/parts_list.h"
#include "output.h"

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <iostream>
#include <memory>
#include <numeric>
#include <sstream>

namespace fulmox {

namespace {

// What the judging of a catalogue comes to: something carries the axis, nothing does, or nothing could be judged.
int judged_code(const std::string& path, const Machine& machine, std::size_t axis, const Problems& problems,
    const std::vector<Candidate>& judged) {
    // what is wrong with the axis keeps every part from being judged: say it
    if (const Assessment a = assess(machine, axis); has_errors(a.problems) && !a.demand) {
        for (const Problem& p : a.problems)
            if (p.severity == Severity::error) say(path, p);
        return bad_input;
    }
    if (has_errors(problems)) return bad_input;
    const CandidateCount n = count(judged);
    return n.suitable > 0 ? all_fit : n.unknown > 0 ? not_known : limit_exceeded;
}

} // namespace

int show_parts(const std::string& path, bool json, bool csv) {
    const auto project = open_project(path);
    if (!project) return bad_input;
    for (const Problem& p : project->problems) say(path, p);
    const Machine& m = project->machine;
    std::cout << (json ? parts_json(m) : visible(csv ? parts_csv(m) : parts_text(m)));
    return has_errors(project->problems) ? bad_input : all_fit;
}

int judge_catalogue(
    const std::string& path, const std::string& named, const std::string& catalogue, bool json, bool csv) {
    const auto text = read_file(path);
    if (!text) return bad_input;
    const auto project = read_project(*text);
    if (!project) {
        say(path, project.error());
        return bad_input;
    }
    const Machine& machine = project->machine;
    const auto axis = axis_of(machine, named);
    if (!axis) return bad_input;
    std::string own;
    if (!catalogue.empty()) {
        const auto other = read_file(catalogue);
        if (!other) return bad_input;
        own = *other;
    }
    const auto read = read_motors(catalogue.empty() ? shipped_catalogue("motors") : own);
    if (!read) {
        say(catalogue, read.error());
        return bad_input;
    }
    for (const Problem& p : read->problems) say(catalogue, p);
    JudgedCatalogue judged{machine, *axis, read->name, {}, {}, {}};
    for (const auto* list : {&read->motors, &machine.motors})
        for (const Motor& m : *list)
            if (suits(m, machine.axes[*axis])) judged.motors.push_back(&m);
    judged.judged = judge_motors(machine, *axis, judged.motors);
    judged.order = cheapest_first(judged.motors, judged.judged);
    std::cout << (json ? judged_json(judged) : visible(csv ? judged_csv(judged) : judged_text(judged)));
    return judged_code(path, machine, *axis, read->problems, judged.judged);
}

int check_catalogue(const std::string& path, const std::string& kind, bool json) {
    // a list may be larger than a project
    const auto text = read_file(path, 4 * largest_file);
    if (!text) return bad_input;
    CheckedCatalogue c;
    c.file = std::filesystem::path(path).filename().string();
    const std::size_t begins = text->find_first_not_of(" \t\r\n");
    if (begins != std::string::npos && (*text)[begins] == '{') {
        auto read = read_parts(*text);
        if (!read) {
            say(path, read.error());
            return bad_input;
        }
        c.name = std::move(read->name);
        c.parts = std::move(read->parts);
        c.problems = std::move(read->problems);
    } else {
        std::istringstream file(*text);
        c.table = look_at_part_table(file, kind);
        file.clear();
        file.seekg(0);
        PartTableRead read = read_part_table(file, *c.table, c.file, "");
        c.parts = std::move(read.parts);
        c.problems = std::move(read.problems);
        c.more_problems = read.more_problems;
        c.rows = read.rows;
        c.left_out = read.left_out;
    }
    if (!json)
        for (const Problem& p : c.problems) say(path, p);
    if (!json && c.more_problems > 0) std::cerr << visible(path) << ": and " << c.more_problems << " more of these\n";
    std::cout << (json ? checked_json(c) : visible(checked_text(c)));
    return has_errors(c.problems) || count_parts(c.parts).empty() ? bad_input : all_fit;
}

int plan_screw(const std::string& path, const std::string& named, bool svg, bool dxf) {
    const auto project = open_project(path);
    if (!project) return bad_input;
    const auto axis = axis_of(project->machine, named);
    if (!axis) return bad_input;
    const Assessment a = assess(project->machine, *axis);
    const ScrewLayout plan = screw_layout(project->machine.axes[*axis], a.motion ? a.motion->stroke() : std::nan(""));
    if (!plan.missing.empty()) {
        std::cerr << visible(path) << ": error: the plan waits for " << plan.missing << "\n";
        return bad_input;
    }
    const Drawing drawing = screw_drawing(plan, project->machine.axes[*axis].name);
    if (svg || dxf) {
        std::cout << (svg ? drawing_svg(drawing) : drawing_dxf(drawing));
        return all_fit;
    }
    const UnitSystem units = project->machine.unit_system;
    const auto length = [&](double m) { return format_quantity(m, Kind::length, units, 5); };
    std::cout << "length " << length(plan.length) << ", thread " << length(plan.thread_to - plan.thread_from)
              << ", free length " << length(plan.free_length) << ", loaded length " << length(plan.loaded_length)
              << "\n";
    const auto speed = [&](double v) { return format_quantity(v, Kind::angular_speed, units, 4); };
    if (std::isfinite(plan.critical_speed))
        std::cout << "critical speed of all its diameters " << speed(plan.critical_speed) << "\n";
    for (const ScrewLayout::Place& p : plan.places)
        if (std::isfinite(p.buckling)) {
            std::cout << "nut at " << length(p.at) << ": buckles at "
                      << format_quantity(p.buckling, Kind::force, units, 4);
            if (std::isfinite(p.critical_speed))
                std::cout << ", critical speed with the nut as a bearing " << speed(p.critical_speed);
            std::cout << "\n";
        }
    for (const Text& w : plan.warnings) std::cerr << visible(path) << ": check: " << visible(w.in(units)) << "\n";
    return all_fit;
}

int catalogue_as_csv(const std::string& path, const std::string& kind) {
    const auto text = read_file(path);
    if (!text) return bad_input;
    const auto read = read_any_parts(*text, std::filesystem::path(path).filename().string(), "");
    if (!read) {
        say(path, read.error());
        return bad_input;
    }
    for (const Problem& p : read->problems) say(path, p);
    const std::vector<PartsCount> counts = count_parts(read->parts);
    if (kind.empty() && counts.size() > 1) {
        std::cerr << "error: --part: the catalogue has several kinds; say which one\n";
        return bad_input;
    }
    const PartKind* of = !kind.empty() ? &part_kind(kind) : counts.empty() ? nullptr : counts.front().kind;
    if (of) std::cout << visible(part_table_csv(*of, read->parts));
    return has_errors(read->problems) || !of ? bad_input : all_fit;
}

int judge_candidates(const std::string& path, const CandidateOptions& options, bool json, bool csv) {
    const auto project = open_project(path);
    if (!project) return bad_input;
    const Machine& machine = project->machine;
    const auto axis = axis_of(machine, options.axis);
    if (!axis) return bad_input;
    const PartKind& kind = part_kind(options.kind);
    const std::size_t places = kind.places(machine.axes[*axis]), most = places + (options.kind == "gearhead");
    if (options.place < 1 || options.place > most) {
        std::cerr << "error: --place: found " << options.place << "; allowed is 1 to " << most << "\n";
        return bad_input;
    }
    std::string own;
    if (!options.catalogue.empty()) {
        const auto other = read_file(options.catalogue);
        if (!other) return bad_input;
        own = *other;
    }
    const std::string_view text = options.catalogue.empty() ? shipped_catalogue(kind.list) : own;
    auto read = read_any_parts(text, std::filesystem::path(options.catalogue).filename().string(), "");
    if (!read) {
        say(options.catalogue, read.error());
        return bad_input;
    }
    for (const Problem& p : read->problems) say(options.catalogue, p);
    const std::size_t project_own = kind.own(const_cast<Machine&>(machine)).size();
    for (std::size_t i = 0; i < project_own; ++i) kind.keep(read->parts, machine, i);
    std::vector<std::size_t> which(kind.own(read->parts).size());
    std::iota(which.begin(), which.end(), std::size_t{0});
    JudgedParts judged{machine, *axis, kind, read->parts, {}, {}};
    judged.judged = judge_parts(machine, *axis, kind, options.place - 1, read->parts, which);
    std::vector<double> prices;
    for (const std::size_t i : which)
        prices.push_back(kind.price(read->parts, i).given() ? kind.price(read->parts, i).si : std::nan(""));
    judged.order = cheapest_first(prices, judged.judged);
    std::cout << (json ? judged_parts_json(judged)
                       : visible(csv ? judged_parts_csv(judged) : judged_parts_text(judged)));
    return judged_code(path, machine, *axis, read->problems, judged.judged);
}

void add_motors(CLI::App& app, Run& run) {
    struct Options {
        std::string file, axis, catalogue;
        bool json = false, csv = false;
    };
    const auto o = std::make_shared<Options>();
    auto* command = app.add_subcommand("motors", "Judges a catalogue of motors on an axis, cheapest that fits first");
    command->add_option("FILE", o->file, project_file)->required();
    command->add_option("--axis", o->axis, "The axis, by name or number")->required();
    command->add_option("--catalogue", o->catalogue, "A catalogue file; the shipped one unless given");
    auto* json = command->add_flag("--json", o->json, as_json);
    command->add_flag("--csv", o->csv, "As CSV")->excludes(json);
    command->callback(
        [o, &run] { run = [o] { return judge_catalogue(o->file, o->axis, o->catalogue, o->json, o->csv); }; });
}

void add_candidates(CLI::App& app, Run& run) {
    struct Options : CandidateOptions {
        std::string file;
        bool json = false, csv = false;
    };
    const auto o = std::make_shared<Options>();
    auto* command = app.add_subcommand(
        "candidates", "Judges gearheads, couplings, brakes or drives of a catalogue on an axis, cheapest first");
    command->add_option("FILE", o->file, project_file)->required();
    command->add_option("--axis", o->axis, "The axis, by name or number")->required();
    command->add_option("--part", o->kind, "gearhead, coupling, brake or drive")
        ->required()
        ->check(CLI::IsMember({"gearhead", "coupling", "brake", "drive"}));
    command->add_option(
        "--place", o->place, "Which stage a gearhead replaces, the motor side first; one more: it is added");
    command->add_option("--catalogue", o->catalogue, "A catalogue, JSON or CSV; the shipped one unless given");
    auto* json = command->add_flag("--json", o->json, as_json);
    command->add_flag("--csv", o->csv, "As CSV")->excludes(json);
    command->callback([o, &run] { run = [o] { return judge_candidates(o->file, *o, o->json, o->csv); }; });
}

void add_catalogue(CLI::App& app, Run& run) {
    struct Options {
        std::string file, kind;
        bool json = false;
    };
    const auto o = std::make_shared<Options>();
    auto* command = app.add_subcommand("catalogue", "Looks at a catalogue of parts");
    command->require_subcommand(1);
    const CLI::IsMember kinds({"motor", "gearhead", "coupling", "brake", "drive", "supply"});
    auto* check = command->add_subcommand(
        "check", "What a catalogue holds, how its columns are taken, and what is wrong with it, by line and column");
    check->add_option("FILE", o->file, "JSON, or CSV with units in its headings")->required();
    check->add_option("--part", o->kind, "What a CSV lists, where its headings do not tell")->check(kinds);
    check->add_flag("--json", o->json, as_json);
    check->callback([o, &run] { run = [o] { return check_catalogue(o->file, o->kind, o->json); }; });
    auto* csv = command->add_subcommand(
        "csv", "One kind of part of a catalogue as CSV with units in its headings; curves are left out");
    csv->add_option("FILE", o->file, "A catalogue, JSON or CSV")->required();
    csv->add_option("--part", o->kind, "Which kind, where there are several")->check(kinds);
    csv->callback([o, &run] { run = [o] { return catalogue_as_csv(o->file, o->kind); }; });
}

void add_screw(CLI::App& app, Run& run) {
    struct Options {
        std::string file, axis;
        bool svg = false, dxf = false;
    };
    const auto o = std::make_shared<Options>();
    auto* command = app.add_subcommand("screw", "Plan of a screw with its ends, or its drawing in millimetres");
    command->add_option("FILE", o->file, project_file)->required();
    command->add_option("--axis", o->axis, "The axis, by name or number")->required();
    auto* svg = command->add_flag("--svg", o->svg, "The drawing as SVG");
    command->add_flag("--dxf", o->dxf, "The drawing as DXF")->excludes(svg);
    command->callback([o, &run] { run = [o] { return plan_screw(o->file, o->axis, o->svg, o->dxf); }; });
}

void add_parts(CLI::App& app, Run& run) {
    struct Options {
        std::string file;
        bool json = false, csv = false;
    };
    const auto o = std::make_shared<Options>();
    auto* command = app.add_subcommand("parts", "Parts of all axes: how many, price, mass, different ones");
    command->add_option("FILE", o->file, project_file)->required();
    auto* json = command->add_flag("--json", o->json, as_json);
    command->add_flag("--csv", o->csv, "As CSV")->excludes(json);
    command->callback([o, &run] { run = [o] { return show_parts(o->file, o->json, o->csv); }; });
}

} // namespace fulmox

// fulmox-cli: the core without a window.
#include "catalogue.h"
#include "core/drivetrain/screw_layout.h"
#include "core/files/document.h"
#include "core/files/project.h"
#include "core/files/shelf_report.h"
#include "core/match/assess.h"
#include "core/quantity/expression.h"
#include "core/quantity/format.h"
#include "core/report/catalogue_report.h"
#include "core/report/curve_report.h"
#include "core/report/json_report.h"
#include "core/report/motor_report.h"
#include "core/report/parts_list.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <charconv>
#include <cmath>
#include <csignal>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <new>
#include <numeric>
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

int show_parts(const std::string& path, bool json, bool csv) {
    const auto project = open_project(path);
    if (!project) return bad_input;
    for (const Problem& p : project->problems) say(path, p);
    const Machine& m = project->machine;
    std::cout << (json ? parts_json(m) : csv ? parts_csv(m) : harmless(parts_text(m)));
    return has_errors(project->problems) ? bad_input : all_fit;
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

// "12 N·m" or "12 N", "3000 rpm" or "2 m/s": a number without a unit turns.
std::optional<double> either(std::string_view text, Kind turning, Kind along, const char* unit) {
    for (const Kind kind : {turning, along})
        if (const auto q = read_quantity(text, kind, kind == turning ? *find_unit(unit, turning) : si_unit(along)))
            return q->si;
    return std::nullopt;
}

int refuse(const std::string& what, const std::string& found, const char* allowed) {
    std::cerr << "error: " << what << ": found \"" << harmless(found) << "\"; allowed is " << allowed << "\n";
    return bad_input;
}

struct SheetOptions {
    std::vector<std::string> torques, currents;
    std::string cold, hot;
};

int show_sheets(const std::string& path, const SheetOptions& options, bool json) {
    SheetQuestions ask;
    for (const std::string& t : options.torques) {
        const std::size_t at = t.find('@');
        const auto torque = either(t.substr(0, at), Kind::torque, Kind::force, "N·m");
        const auto speed = at == std::string::npos ? std::optional(0.0)
                                                   : either(t.substr(at + 1), Kind::angular_speed, Kind::speed, "rpm");
        if (!torque || !speed)
            return refuse("--at-torque", t, "a torque or force, perhaps with @ and a speed: 2.5 N·m@3000 rpm");
        ask.torques.push_back({*torque, *speed});
    }
    for (const std::string& i : options.currents) {
        const auto current = read_quantity(i, Kind::current, si_unit(Kind::current));
        if (!current) return refuse("--at-current", i, "a current: 4 A");
        ask.currents.push_back(current->si);
    }
    const auto celsius = [](const std::string& text) -> std::optional<double> {
        const auto q = read_quantity(text, Kind::temperature, *find_unit("°C", Kind::temperature));
        return q && q->si >= 213 && q->si <= 573 ? std::optional(q->si - 273.15) : std::nullopt;
    };
    constexpr const char* degrees = "a temperature from -60 to 300 °C";
    if (!options.cold.empty()) {
        const auto cold = celsius(options.cold);
        if (!cold) return refuse("--cold", options.cold, degrees);
        ask.cold = *cold;
    }
    if (!options.hot.empty()) {
        ask.hot = celsius(options.hot);
        if (!ask.hot) return refuse("--hot", options.hot, degrees);
    }
    const auto text = read_file(path);
    if (!text) return bad_input;
    const auto sheets = read_sheets(*text);
    if (!sheets) {
        say(path, sheets.error());
        return bad_input;
    }
    for (const Problem& p : sheets->problems) say(path, p);
    std::cout << (json ? sheets_json(sheets->motors, sheets->problems, ask)
                       : harmless(sheets_text(sheets->motors, ask)));
    return has_errors(sheets->problems) ? bad_input : all_fit;
}

struct CurveOptions {
    std::string phase, torques, priors, loads;
    bool overload = false;
    std::string axis, bus, speeds, modulation, reserve, peak, continuous, cold, hot, ambient;
    bool weakening = false;
    int points = 21;
};

// What is fixed on the command line in place of what the axis says; false where it cannot be read.
bool fix_conditions(CurveQuestion& q, const CurveOptions& o) {
    Drive& d = q.drive;
    const auto take = [](auto& field, const std::string& text, const char* option, double least, double most,
                          const char* unit, const char* allowed) {
        if (text.empty()) return true;
        const auto value = read_quantity(text, field.kind, *find_unit(unit, field.kind));
        if (!value || !(value->si >= least) || value->si > most) return refuse(option, text, allowed) == all_fit;
        field.si = value->si;
        field.text = text;
        return true;
    };
    if (!o.modulation.empty()) {
        const auto* found = std::find_if(std::begin(Drive::modulations), std::end(Drive::modulations),
            [&](const Option& m) { return o.modulation == m.key; });
        if (found == std::end(Drive::modulations))
            return refuse("--modulation", o.modulation, "space_vector, sine_pwm or overmodulated") == all_fit;
        d.modulation = static_cast<Modulation>(found - std::begin(Drive::modulations));
    }
    d.field_weakening = d.field_weakening || o.weakening;
    if (!o.peak.empty() || !o.continuous.empty()) d.amperes = AmperesAs::rms;
    if (!o.phase.empty()) d.dial = AmperesAs::rms;
    // a bus that is said is the one there is
    if (!o.bus.empty()) d.mains_tolerance = d.bus_droop = {};
    constexpr const char* degrees = "a temperature from -60 to 300 °C";
    return take(d.bus_voltage, o.bus, "--bus", 1e-6, 1e5, "V", "a voltage above 0 V") &&
           take(d.modulation_reserve, o.reserve, "--reserve", 0.3, 1, "1", "a share from 0.3 to 1") &&
           take(d.peak_current, o.peak, "--peak-current", 1e-6, 1e6, "A", "a current above 0 A") &&
           take(d.continuous_current, o.continuous, "--continuous-current", 1e-6, 1e6, "A", "a current above 0 A") &&
           take(d.phase_current, o.phase, "--phase-current", 1e-6, 1e5, "A", "a current above 0 A") &&
           take(d.cold, o.cold, "--cold", 213.15, 573.15, "°C", degrees) &&
           take(d.hot, o.hot, "--hot", 213.15, 573.15, "°C", degrees) &&
           take(q.site.ambient, o.ambient, "--ambient", 213.15, 573.15, "°C", degrees);
}

// The axis that is named, by name or number from 1; nothing is said where it is found.
std::optional<std::size_t> axis_of(const Machine& machine, const std::string& named) {
    const auto& axes = machine.axes;
    for (std::size_t i = 0; i < axes.size(); ++i)
        if (axes[i].name == named || std::to_string(i + 1) == named) return i;
    refuse("--axis", named, ("the name of an axis, or its number from 1 to " + std::to_string(axes.size())).c_str());
    return std::nullopt;
}

int show_curve(const std::string& path, const CurveOptions& options, bool json, bool csv) {
    const auto text = read_file(path);
    if (!text) return bad_input;
    CurveQuestion q;
    q.points = options.points;
    const auto wrong = [&](const char* option, const std::string& list, std::vector<double>& out, auto read,
                           const char* allowed) {
        for (std::size_t at = 0; !list.empty() && at != std::string::npos;) {
            const std::size_t end = list.find(',', at);
            const std::string one = list.substr(at, end == std::string::npos ? end : end - at);
            const std::optional<double> value = read(one);
            if (!value) return refuse(option, one, allowed) != all_fit;
            out.push_back(*value);
            at = end == std::string::npos ? end : end + 1;
        }
        return false;
    };
    const auto positive = [](std::optional<double> v, double most) -> std::optional<double> {
        return v && *v >= 0 && *v <= most ? v : std::nullopt;
    };
    if (wrong(
            "--speeds", options.speeds, q.speeds,
            [&](const std::string& one) {
                const auto v = either(one, Kind::angular_speed, Kind::speed, "rpm");
                return positive(v ? std::optional<double>(*v) : std::nullopt, 1e9);
            },
            "a list of speeds: 0,1500,3000 rpm") ||
        wrong(
            "--torques", options.torques, q.torques,
            [&](const std::string& one) {
                const auto v = either(one, Kind::torque, Kind::force, "N·m");
                return positive(v ? std::optional<double>(*v) : std::nullopt, 1e9);
            },
            "a list of torques: 1,2.5,4 N·m") ||
        wrong(
            "--loads", options.loads, q.loads,
            [&](const std::string& one) {
                const auto v = either(one, Kind::torque, Kind::force, "N·m");
                return positive(v ? std::optional<double>(*v) : std::nullopt, 1e9);
            },
            "a list of torques: 0,0.5,1 N·m") ||
        wrong(
            "--prior", options.priors, q.priors,
            [&](const std::string& one) {
                const auto v = read_quantity(one, Kind::number, *find_unit("1"));
                return positive(v ? std::optional<double>(v->si) : std::nullopt, 1);
            },
            "a list of mean squares from 0 to 1: 0,0.5"))
        return bad_input;
    q.overload = options.overload || !options.torques.empty() || !options.priors.empty();
    std::optional<ProjectRead> project;
    std::optional<MotorCatalogue> sheet;
    const Motor* motor = nullptr;
    if (!options.axis.empty()) {
        auto read = read_project(*text);
        if (!read) {
            say(path, read.error());
            return bad_input;
        }
        project = std::move(*read);
        const auto index = axis_of(project->machine, options.axis);
        if (!index) return bad_input;
        motor = &project->machine.axes[*index].motor;
        q.drive = project->machine.axes[*index].drive;
        q.site = project->machine.site;
    } else {
        auto read = read_sheets(*text);
        if (!read) {
            say(path, read.error());
            return bad_input;
        }
        sheet = std::move(*read);
        for (const Problem& p : sheet->problems) say(path, p);
        if (has_errors(sheet->problems)) return bad_input;
        if (sheet->motors.size() != 1) {
            std::cerr << path << ": error: found " << sheet->motors.size() << " sheets; allowed is one\n";
            return bad_input;
        }
        motor = &sheet->motors.front();
        q.drive.bus_voltage = motor->curve_voltage;
    }
    if (!fix_conditions(q, options)) return bad_input;
    q.motor = motor;
    if (const std::string missing = curve_missing(q); !missing.empty()) {
        std::cerr << path << ": error: the curve waits for: " << missing << "\n";
        return bad_input;
    }
    std::cout << (json ? curve_json(q) : csv ? curve_csv(q) : harmless(curve_text(q)));
    return all_fit;
}

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
    return std::any_of(judged.begin(), judged.end(), [](const Candidate& c) { return carries(c.state); })
               ? all_fit
               : limit_exceeded;
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
    std::cout << (json ? judged_json(judged) : csv ? judged_csv(judged) : harmless(judged_text(judged)));
    return judged_code(path, machine, *axis, read->problems, judged.judged);
}

// A catalogue as it is read: what it holds, how its columns are taken, what is wrong.
int check_catalogue(const std::string& path, const std::string& kind, bool json) {
    std::ifstream file(path, std::ios::binary);
    if (!file || std::filesystem::is_directory(path)) {
        std::cerr << path << ": error: it cannot be opened for reading\n";
        return bad_input;
    }
    CheckedCatalogue c;
    c.file = std::filesystem::path(path).filename().string();
    while (std::isspace(file.peek())) file.get();
    const bool object = file.peek() == '{';
    file.clear();
    file.seekg(0);
    if (object) {
        const auto text = read_file(path);
        if (!text) return bad_input;
        auto read = read_parts(*text);
        if (!read) {
            say(path, read.error());
            return bad_input;
        }
        c.name = std::move(read->name);
        c.parts = std::move(read->parts);
        c.problems = std::move(read->problems);
    } else {
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
    if (!json && c.more_problems > 0) std::cerr << path << ": and " << c.more_problems << " more of these\n";
    std::cout << (json ? checked_json(c) : harmless(checked_text(c)));
    return has_errors(c.problems) || count_parts(c.parts).empty() ? bad_input : all_fit;
}

// The plan of a screw, or its drawing.
int plan_screw(const std::string& path, const std::string& named, bool svg, bool dxf) {
    const auto project = open_project(path);
    if (!project) return bad_input;
    const auto axis = axis_of(project->machine, named);
    if (!axis) return bad_input;
    const Assessment a = assess(project->machine, *axis);
    const ScrewLayout plan = screw_layout(project->machine.axes[*axis], a.motion ? a.motion->stroke() : std::nan(""));
    if (!plan.missing.empty()) {
        std::cerr << path << ": error: the plan waits for " << plan.missing << "\n";
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
    for (const ScrewLayout::Place& p : plan.places)
        if (std::isfinite(p.buckling))
            std::cout << "nut at " << length(p.at) << ": buckles at "
                      << format_quantity(p.buckling, Kind::force, units, 4) << "\n";
    for (const Text& w : plan.warnings) std::cerr << path << ": check: " << harmless(w.in(units)) << "\n";
    return all_fit;
}

// One kind of part of a catalogue as CSV.
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
    if (of) std::cout << part_table_csv(*of, read->parts);
    return has_errors(read->problems) || !of ? bad_input : all_fit;
}

struct CandidateOptions {
    std::string axis, kind, catalogue;
    std::size_t place = 1;
};

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
    std::cout << (json  ? judged_parts_json(judged)
                  : csv ? judged_parts_csv(judged)
                        : harmless(judged_parts_text(judged)));
    return judged_code(path, machine, *axis, read->problems, judged.judged);
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

    SheetOptions sheet_options;
    auto* sheet_command =
        app.add_subcommand("datasheet", "A motor's datasheet under every convention, and what it says twice");
    sheet_command->add_option("FILE", file, "One datasheet, a list of them or a catalogue; - reads the standard input")
        ->required();
    sheet_command->add_flag("--json", json, "As JSON: SI values with units, stable keys");
    sheet_command
        ->add_option("--at-torque", sheet_options.torques, "Current, loss and voltage at TORQUE or TORQUE@SPEED")
        ->expected(1, -1);
    sheet_command->add_option("--at-current", sheet_options.currents, "Torque and loss at a current, A RMS or DC")
        ->expected(1, -1);
    sheet_command->add_option("--cold", sheet_options.cold, "Cold winding and magnets, 20 °C");
    sheet_command->add_option("--hot", sheet_options.hot, "Hot winding and magnets; the sheet's winding limit");

    CurveOptions curve_options;
    bool csv = false;
    auto* curve_command =
        app.add_subcommand("curve", "Torque over speed of a motor: continuous, peak, and what limits it");
    curve_command->add_option("FILE", file, "A datasheet, or with --axis a project; - reads the standard input")
        ->required();
    curve_command->add_option(
        "--axis", curve_options.axis, "The axis of the project, by name or number: its motor, drive and site");
    curve_command->add_option("--bus", curve_options.bus, "Bus voltage in place of that of the axis or sheet");
    curve_command->add_option("--modulation", curve_options.modulation, "space_vector, sine_pwm or overmodulated");
    curve_command->add_option("--reserve", curve_options.reserve, "Share of the phase voltage that is used");
    curve_command->add_flag("--weakening", curve_options.weakening, "The drive weakens the field");
    curve_command->add_option("--peak-current", curve_options.peak, "Of the drive, A RMS or DC");
    curve_command->add_option("--continuous-current", curve_options.continuous, "Of the drive, A RMS or DC");
    curve_command->add_option(
        "--phase-current", curve_options.phase, "Of a stepper's drive, A RMS; as the motor is rated unless given");
    curve_command->add_flag(
        "--overload", curve_options.overload, "How long torques beyond the continuous one may last");
    curve_command->add_option("--torques", curve_options.torques, "Torques for it, parted by commas");
    curve_command->add_option(
        "--loads", curve_options.loads, "Torques against which it turns steadily: what it takes and has left");
    curve_command->add_option("--prior", curve_options.priors, "Mean squares of the torque ratio before, 0 to 1");
    curve_command->add_option("--cold", curve_options.cold, "Winding and magnets cold, 20 °C");
    curve_command->add_option("--hot", curve_options.hot, "Winding and magnets hot; the winding limit of the motor");
    curve_command->add_option("--ambient", curve_options.ambient, "Ambient temperature");
    curve_command->add_option("--speeds", curve_options.speeds, "Speeds, parted by commas; rpm where no unit is given");
    curve_command->add_option("--points", curve_options.points, "So many speeds from 0 to the end")
        ->check(CLI::Range(2, 2000));
    auto* as_json = curve_command->add_flag("--json", json, "As JSON: SI values with units, stable keys");
    curve_command->add_flag("--csv", csv, "As CSV")->excludes(as_json);

    std::string judged_axis, judged_catalogue;
    auto* motors_command =
        app.add_subcommand("motors", "Judges a catalogue of motors on an axis, cheapest that fits first");
    motors_command->add_option("FILE", file, "Project, *.fulmox; - reads the standard input")->required();
    motors_command->add_option("--axis", judged_axis, "The axis, by name or number")->required();
    motors_command->add_option("--catalogue", judged_catalogue, "A catalogue file; the shipped one unless given");
    auto* motors_json = motors_command->add_flag("--json", json, "As JSON: SI values, stable keys");
    motors_command->add_flag("--csv", csv, "As CSV")->excludes(motors_json);

    CandidateOptions candidate_options;
    auto* candidates_command = app.add_subcommand(
        "candidates", "Judges gearheads, couplings, brakes or drives of a catalogue on an axis, cheapest first");
    candidates_command->add_option("FILE", file, "Project, *.fulmox; - reads the standard input")->required();
    candidates_command->add_option("--axis", candidate_options.axis, "The axis, by name or number")->required();
    candidates_command->add_option("--part", candidate_options.kind, "gearhead, coupling, brake or drive")
        ->required()
        ->check(CLI::IsMember({"gearhead", "coupling", "brake", "drive"}));
    candidates_command->add_option("--place", candidate_options.place,
        "Which stage a gearhead replaces, the motor side first; one more: it is added");
    candidates_command->add_option(
        "--catalogue", candidate_options.catalogue, "A catalogue, JSON or CSV; the shipped one unless given");
    auto* candidates_json = candidates_command->add_flag("--json", json, "As JSON: SI values, stable keys");
    candidates_command->add_flag("--csv", csv, "As CSV")->excludes(candidates_json);

    auto* catalogue_command = app.add_subcommand("catalogue", "Looks at a catalogue of parts");
    catalogue_command->require_subcommand(1);
    auto* check_command = catalogue_command->add_subcommand(
        "check", "What a catalogue holds, how its columns are taken, and what is wrong with it, by line and column");
    check_command->add_option("FILE", file, "JSON, or CSV with units in its headings")->required();
    std::string checked_kind;
    check_command
        ->add_option("--part", checked_kind, "What a CSV lists, where its headings do not tell: motor, gearhead, …")
        ->check(CLI::IsMember({"motor", "gearhead", "coupling", "brake", "drive", "supply"}));
    check_command->add_flag("--json", json, "As JSON");
    auto* csv_command = catalogue_command->add_subcommand(
        "csv", "One kind of part of a catalogue as CSV with units in its headings; curves are left out");
    csv_command->add_option("FILE", file, "A catalogue, JSON or CSV")->required();
    csv_command->add_option("--part", checked_kind, "Which kind, where there are several")
        ->check(CLI::IsMember({"motor", "gearhead", "coupling", "brake", "drive", "supply"}));

    std::string screw_axis;
    bool svg = false, dxf = false;
    auto* screw_command = app.add_subcommand("screw", "Plan of a screw with its ends, or its drawing in millimetres");
    screw_command->add_option("FILE", file, "Project, *.fulmox; - reads the standard input")->required();
    screw_command->add_option("--axis", screw_axis, "The axis, by name or number")->required();
    auto* screw_svg = screw_command->add_flag("--svg", svg, "The drawing as SVG");
    screw_command->add_flag("--dxf", dxf, "The drawing as DXF")->excludes(screw_svg);

    auto* parts_command = app.add_subcommand("parts", "Parts of all axes: how many, price, mass, different ones");
    parts_command->add_option("FILE", file, "Project, *.fulmox; - reads the standard input")->required();
    auto* parts_json_flag = parts_command->add_flag("--json", json, "As JSON");
    parts_command->add_flag("--csv", csv, "As CSV")->excludes(parts_json_flag);

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
        if (*parts_command) return show_parts(file, json, csv);
        if (*csv_command) return catalogue_as_csv(file, checked_kind);
        if (*check_command) return check_catalogue(file, checked_kind, json);
        if (*screw_command) return plan_screw(file, screw_axis, svg, dxf);
        if (*candidates_command) return judge_candidates(file, candidate_options, json, csv);
        if (*sheet_command) return show_sheets(file, sheet_options, json);
        if (*curve_command) return show_curve(file, curve_options, json, csv);
        if (*motors_command) return judge_catalogue(file, judged_axis, judged_catalogue, json, csv);
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

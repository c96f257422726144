// fulmox-cli: the core without a window.
#include "core/files/document.h"
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/match/bounds.h"
#include "core/model/validate.h"
#include "core/quantity/expression.h"
#include "core/quantity/format.h"
#include "core/report/curve_report.h"
#include "core/report/json_report.h"
#include "core/report/motor_report.h"
#include "output.h"
#include "parts.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <csignal>
#include <iostream>
#include <new>

namespace {

using namespace fulmox;

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

// Entries parted by commas, blanks or both; a unit may stand apart from its number.
std::vector<std::string> entries(const std::string& list) {
    std::vector<std::string> out;
    std::string word;
    bool parted = true; // by a comma: what follows is an entry whatever it begins with
    const auto take = [&] {
        if (word.empty()) return;
        const char c = word.front();
        const bool begins = (c >= '0' && c <= '9') || c == '-' || c == '+' || c == '.' || c == '(';
        if (out.empty() || parted || begins)
            out.push_back(word);
        else
            out.back() += " " + word;
        word.clear();
        parted = false;
    };
    for (const char c : list) {
        if (c != ',' && c != ' ' && c != '\t') {
            word += c;
            continue;
        }
        take();
        if (c == ',') parted = true;
    }
    take();
    return out;
}

struct SheetOptions {
    std::vector<std::string> torques, currents;
    std::string cold, hot;
};

int show_sheets(const std::string& path, const SheetOptions& options, bool json) {
    SheetQuestions ask;
    const auto all = [](const std::vector<std::string>& words) {
        std::string joined;
        for (const std::string& w : words) joined += (joined.empty() ? "" : ",") + w;
        return entries(joined);
    };
    for (const std::string& t : all(options.torques)) {
        const std::size_t at = t.find('@');
        const auto torque = either(t.substr(0, at), Kind::torque, Kind::force, "N·m");
        const auto speed = at == std::string::npos ? std::optional(0.0)
                                                   : either(t.substr(at + 1), Kind::angular_speed, Kind::speed, "rpm");
        if (!torque || !speed)
            return refuse("--at-torque", t, "a torque or force, perhaps with @ and a speed: 2.5 N·m@3000 rpm");
        ask.torques.push_back({*torque, *speed});
    }
    for (const std::string& i : all(options.currents)) {
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
                       : visible(sheets_text(sheets->motors, ask)));
    return has_errors(sheets->problems) ? bad_input : all_fit;
}

struct CurveOptions {
    std::string phase, torques, priors, loads;
    bool overload = false;
    std::string axis, bus, speeds, modulation, reserve, peak, continuous, cold, hot, ambient, altitude;
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
           take(q.site.ambient, o.ambient, "--ambient", 213.15, 573.15, "°C", degrees) &&
           take(q.site.altitude, o.altitude, "--altitude", -500, 6000, "m", "an altitude from -500 to 6000 m");
}

// The axis that is named, by name or number from 1; nothing is said where it is found.
int show_curve(const std::string& path, const CurveOptions& options, bool json, bool csv) {
    const auto text = read_file(path);
    if (!text) return bad_input;
    CurveQuestion q;
    q.points = options.points;
    const auto wrong = [&](const char* option, const std::string& list, std::vector<double>& out, auto read,
                           const char* allowed) {
        for (const std::string& one : entries(list)) {
            const std::optional<double> value = read(one);
            if (!value) return refuse(option, one, allowed) != all_fit;
            out.push_back(*value);
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
        const Axis& axis = project->machine.axes[*index];
        motor = &axis.motor;
        q.drive = axis.drive;
        // the curve needs motor, drive and site as an assessment does, and nothing of the load
        const std::string at = "/axes/" + std::to_string(*index);
        Problems found = validate_site(project->machine);
        for (Problem& p : validate(axis, at)) found.push_back(std::move(p));
        std::erase_if(found, [&](const Problem& p) {
            return p.severity != Severity::error ||
                   !(p.path.starts_with(at + "/motor") || p.path.starts_with(at + "/drive") ||
                       p.path.starts_with("/site"));
        });
        // what is fixed on the command line is not asked for
        if (!options.bus.empty())
            std::erase_if(found, [&](const Problem& p) { return p.path == at + "/drive/bus_voltage"; });
        for (Problem& p : found) {
            p.line = JsonDocument::line_of(project->lines, p.path);
            say(path, p);
        }
        if (!found.empty()) return bad_input;
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
            std::cerr << visible(path) << ": error: found " << sheet->motors.size() << " sheets; allowed is one\n";
            return bad_input;
        }
        motor = &sheet->motors.front();
        q.drive.bus_voltage = motor->curve_voltage;
    }
    if (!fix_conditions(q, options)) return bad_input;
    q.motor = motor;
    if (const std::string missing = curve_missing(q); !missing.empty()) {
        std::cerr << visible(path) << ": error: the curve waits for: " << missing << "\n";
        return bad_input;
    }
    std::cout << (json ? curve_json(q) : visible(csv ? curve_csv(q) : curve_text(q)));
    return all_fit;
}

} // namespace

int run(int argc, char** argv) {
    CLI::App app{
        "Sizes the axes of a Fulmox project without a window.\n"
        "Exit codes: 0 all limits fit, 1 a limit is exceeded, 2 bad input, 3 nothing is exceeded, but something\n"
        "cannot be said that is not accepted."};
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
    curve_command->add_option("--reserve", curve_options.reserve,
        "Share of the phase voltage that is used; 0.95 unless the drive says otherwise");
    curve_command->add_flag("--weakening", curve_options.weakening, "The drive weakens the field");
    curve_command->add_option("--peak-current", curve_options.peak, "Of the drive, A RMS or DC");
    curve_command->add_option("--continuous-current", curve_options.continuous, "Of the drive, A RMS or DC");
    curve_command->add_option(
        "--phase-current", curve_options.phase, "Of a stepper's drive, A RMS; as the motor is rated unless given");
    curve_command->add_flag(
        "--overload", curve_options.overload, "How long torques beyond the continuous one may last");
    curve_command->add_option("--torques", curve_options.torques, "Torques for it: a list, comma- or blank-separated");
    curve_command->add_option(
        "--loads", curve_options.loads, "Torques against which it turns steadily: what it takes and has left");
    curve_command->add_option("--prior", curve_options.priors, "Mean squares of the torque ratio before, 0 to 1");
    curve_command->add_option("--cold", curve_options.cold, "Winding and magnets cold, 20 °C");
    curve_command->add_option("--hot", curve_options.hot, "Winding and magnets hot; the winding limit of the motor");
    curve_command->add_option("--ambient", curve_options.ambient, "Ambient temperature");
    curve_command->add_option("--altitude", curve_options.altitude, "Altitude of the site");
    curve_command->add_option(
        "--speeds", curve_options.speeds, "Speeds, comma- or blank-separated; rpm where no unit is given");
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
        std::cerr << "error: \"" << visible(argv[1]) << "\" is no command; allowed are " << commands << "\n";
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

#include "commands.h"
#include "core/files/document.h"
#include "core/model/validate.h"
#include "core/quantity/expression.h"
#include "core/report/curve_report.h"
#include "core/report/motor_report.h"
#include "output.h"

#include <algorithm>
#include <iostream>
#include <memory>

namespace fulmox {

namespace {

// "12 N·m" or "12 N", "3000 rpm" or "2 m/s": a number without a unit turns.
std::optional<double> either(std::string_view text, Kind turning, Kind along, const char* unit) {
    for (const Kind kind : {turning, along})
        if (const auto q = read_quantity(text, kind, kind == turning ? *find_unit(unit, turning) : si_unit(along)))
            return q->si;
    return std::nullopt;
}

// Entries separated by commas, blanks or both; a unit may stand apart from its number.
std::vector<std::string> entries(const std::string& list) {
    std::vector<std::string> out;
    std::string word;
    bool separated = true; // by a comma: what follows is an entry whatever it begins with
    const auto take = [&] {
        if (word.empty()) return;
        const char c = word.front();
        const bool begins = (c >= '0' && c <= '9') || c == '-' || c == '+' || c == '.' || c == '(';
        if (out.empty() || separated || begins)
            out.push_back(word);
        else
            out.back() += " " + word;
        word.clear();
        separated = false;
    };
    for (const char c : list) {
        if (c != ',' && c != ' ' && c != '\t') {
            word += c;
            continue;
        }
        take();
        if (c == ',') separated = true;
    }
    take();
    return out;
}

struct SheetOptions {
    std::string file;
    bool json = false;
    std::vector<std::string> torques, currents;
    std::string cold, hot;
};

int show_sheets(const SheetOptions& options) {
    const std::string& path = options.file;
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
    std::cout << (options.json ? sheets_json(sheets->motors, sheets->problems, ask)
                               : visible(sheets_text(sheets->motors, ask)));
    return has_errors(sheets->problems) ? bad_input : all_fit;
}

struct CurveOptions {
    std::string file;
    bool json = false, csv = false;
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
    // a bus that is given is the one there is
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

// The axis that is named, by name or number from 1; nothing is printed where it is found.
int show_curve(const CurveOptions& options) {
    const std::string& path = options.file;
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
    std::cout << (options.json ? curve_json(q) : visible(options.csv ? curve_csv(q) : curve_text(q)));
    return all_fit;
}

} // namespace

void add_datasheet(CLI::App& app, Run& run) {
    const auto o = std::make_shared<SheetOptions>();
    auto* command = app.add_subcommand(
        "datasheet", "A motor's datasheet under every convention, and whether it agrees with itself");
    command->add_option("FILE", o->file, "One datasheet, a list of them or a catalogue; - reads the standard input")
        ->required();
    command->add_flag("--json", o->json, "As JSON: SI values with units, stable keys");
    command->add_option("--at-torque", o->torques, "Current, loss and voltage at TORQUE or TORQUE@SPEED")
        ->expected(1, -1);
    command->add_option("--at-current", o->currents, "Torque and loss at a current, A RMS or DC")->expected(1, -1);
    command->add_option("--cold", o->cold, "Cold winding and magnets, 20 °C");
    command->add_option("--hot", o->hot, "Hot winding and magnets; the sheet's winding limit");

    command->callback([o, &run] { run = [o] { return show_sheets(*o); }; });
}

void add_curve(CLI::App& app, Run& run) {
    const auto o = std::make_shared<CurveOptions>();
    auto* command = app.add_subcommand("curve", "Torque over speed of a motor: continuous, peak, and what limits it");
    command->add_option("FILE", o->file, "A datasheet, or with --axis a project; - reads the standard input")
        ->required();
    command->add_option("--axis", o->axis, "The axis of the project, by name or number: its motor, drive and site");
    command->add_option("--bus", o->bus, "Bus voltage in place of that of the axis or sheet");
    command->add_option("--modulation", o->modulation, "space_vector, sine_pwm or overmodulated");
    command->add_option(
        "--reserve", o->reserve, "Share of the phase voltage that is used; 0.95 unless the drive says otherwise");
    command->add_flag("--weakening", o->weakening, "The drive weakens the field");
    command->add_option("--peak-current", o->peak, "Of the drive, A RMS or DC");
    command->add_option("--continuous-current", o->continuous, "Of the drive, A RMS or DC");
    command->add_option("--phase-current", o->phase, "Of a stepper's drive, A RMS; as the motor is rated unless given");
    command->add_flag("--overload", o->overload, "How long torques beyond the continuous one may last");
    command->add_option("--torques", o->torques, "Torques for it: a list, comma- or blank-separated");
    command->add_option("--loads", o->loads, "Torques against which it turns steadily: what it takes and has left");
    command->add_option("--prior", o->priors, "Mean squares of the torque ratio before, 0 to 1");
    command->add_option("--cold", o->cold, "Winding and magnets cold, 20 °C");
    command->add_option("--hot", o->hot, "Winding and magnets hot; the winding limit of the motor");
    command->add_option("--ambient", o->ambient, "Ambient temperature");
    command->add_option("--altitude", o->altitude, "Altitude of the site");
    command->add_option("--speeds", o->speeds, "Speeds, comma- or blank-separated; rpm where no unit is given");
    command->add_option("--points", o->points, "So many speeds from 0 to the end")->check(CLI::Range(2, 2000));
    auto* json_flag = command->add_flag("--json", o->json, "As JSON: SI values with units, stable keys");
    command->add_flag("--csv", o->csv, "As CSV")->excludes(json_flag);

    command->callback([o, &run] { run = [o] { return show_curve(*o); }; });
}

} // namespace fulmox

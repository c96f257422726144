#include "core/match/which_kind.h"

#include "core/quantity/format.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <numbers>

namespace fulmox {

namespace {

enum KindOf { open_stepper, closed_stepper, sine_servo, block_motor, brushed_motor, kinds_of_motor };

constexpr std::array<const char*, kinds_of_motor> kind_keys{
    "stepper_open_loop", "stepper_closed_loop", "sine_servo", "block", "brushed"};
constexpr std::array<const char*, kinds_of_motor> kind_labels{
    "Stepper, open loop", "Stepper with feedback", "Servo, sine-driven", "Brushless, block-commutated", "Brushed DC"};

// What is known of the axis and its surroundings.
struct Answers {
    bool known = false; // speed and torque are
    double rpm = 0, power = 0, peak_over_rms = 0;
    bool falls = false, turns_on = false, rests = false;
    Questions asked;
    Surroundings around;
};

struct Rule {
    bool (*holds)(const Answers&);
    std::array<int, kinds_of_motor> weight; // open, closed, servo, block, brushed
    std::array<const char*, kinds_of_motor> words;
};

constexpr int never = -100; // excluded

constexpr const char* fast_stepper = "a stepper's torque is mostly gone at this speed; most run below 1000 rpm";
constexpr const char* brush_wear = "brushes wear, a few thousand hours are typical and no one can foretell it";

const std::vector<Rule>& rules() {
    static const std::vector<Rule> all{
        {[](const Answers& a) { return a.known && a.rpm > 1500; }, {-3, -2, 2, 1, 0},
            {fast_stepper, fast_stepper, "its torque holds up to high speed", "it turns fast", nullptr}},
        {[](const Answers& a) { return a.known && a.rpm <= 600; }, {2, 2, 0, -1, 0},
            {"it has its torque at standstill and low speed", "it has its torque at standstill and low speed", nullptr,
                "six-step cogging can show below about 300 rpm", nullptr}},
        {[](const Answers& a) { return a.known && a.rpm > 10000; }, {-3, -3, 1, 1, -3},
            {"far beyond what steps can follow", "far beyond what steps can follow", "it goes there",
                "brushless goes up to 100 000 rpm", "brushes are useful up to about 10 000 rpm"}},
        {[](const Answers& a) { return a.known && a.power > 500; }, {-3, -2, 2, 0, -1},
            {"steppers are small motors", "steppers are small motors", "power is its field", nullptr,
                "brushes carry the whole power"}},
        {[](const Answers& a) { return a.known && a.peak_over_rms > 2.5; }, {-1, 0, 2, 1, 1},
            {"its peak torque is no more than its continuous one", nullptr,
                "it gives three to five times its torque for seconds", "it gives a multiple of its torque for a moment",
                "it gives a multiple of its torque for a moment"}},
        {[](const Answers& a) { return a.turns_on; }, {-3, -2, 0, 3, 2},
            {"it only has to turn: steps are for positions", "it only has to turn: steps are for positions", nullptr,
                "made for turning at a speed", "two wires and a voltage turn it"}},
        {[](const Answers& a) { return a.falls; }, {-1, -1, 0, 0, 0},
            {"without power it holds its detent torque only: a brake is needed",
                "without power it holds its detent torque only: a brake is needed", "motors with a brake are common",
                nullptr, nullptr}},
        {[](const Answers& a) { return a.rests; }, {-1, 0, 1, 0, 0},
            {"it takes its current, and is hot, at rest too", nullptr, "at rest it takes what the load asks for",
                nullptr, nullptr}},
        {[](const Answers& a) { return a.asked.lost_step_hurts; }, {-4, 2, 2, 0, 0},
            {"nothing notices a lost step", "it notices, and catches up or stops", "its feedback knows where it is",
                nullptr, nullptr}},
        {[](const Answers& a) { return a.asked.precision == Precision::very_fine; }, {-3, -1, 3, -1, 0},
            {"a step is off by 0.05°, and the load deflects it", "the load deflects it within its error",
                "feedback and a quiet current bring it there", "its torque ripples", nullptr}},
        {[](const Answers& a) { return a.asked.quiet; }, {-2, -1, 2, -1, 0},
            {"steps are heard, most of all in resonance", "steps are heard", "sine currents are quiet",
                "it is heard where it commutates", nullptr}},
        {[](const Answers& a) { return a.asked.long_life; }, {1, 1, 1, 1, -4},
            {"only its bearings wear", "only its bearings wear", "only its bearings wear", "only its bearings wear",
                brush_wear}},
        {[](const Answers& a) { return a.around.tuning == TuningSkill::none; }, {3, 2, -3, 0, 1},
            {"it works out of the box", "little is to be set", "every axis wants to be tuned", nullptr,
                "simplest to run"}},
        {[](const Answers& a) { return a.around.tuning == TuningSkill::expert; }, {0, 0, 2, 0, 0},
            {nullptr, nullptr, "somebody gets out of it what it can", nullptr, nullptr}},
        {[](const Answers& a) { return a.around.pulses == PulseSource::jittery; }, {-3, 1, 1, 0, 0},
            {"a stall of milliseconds costs it its steps", "it tolerates a stall and catches up",
                "its drive closes the loop itself", nullptr, nullptr}},
        {[](const Answers& a) { return a.around.pulses == PulseSource::none; }, {-2, 0, 1, 0, 0},
            {"it wants pulses in real time", nullptr, "drives for a bus are common", nullptr, nullptr}},
        {[](const Answers& a) { return a.around.budget == Budget::low; }, {3, 1, -2, 0, 2},
            {"cheapest with its drive", "cheaper than a servo", "motor, drive and feedback cost", nullptr,
                "cheap, and so is its drive; with position control the gap to brushless nearly vanishes"}},
        {[](const Answers& a) { return a.around.battery; }, {-3, 0, 1, 1, 1},
            {"its current flows at rest too", nullptr, "its current follows the load", "its current follows the load",
                "its current follows the load"}},
        {[](const Answers& a) { return a.around.dust; }, {0, 0, 0, 0, -1},
            {nullptr, nullptr, nullptr, nullptr, "dust and brushes do not agree"}},
        {[](const Answers& a) { return a.around.vacuum; }, {-1, 0, 0, 0, never},
            {"no air takes away the heat of its standing current", nullptr, nullptr, nullptr,
                "brushes wear in hours without air"}},
        {[](const Answers& a) { return a.around.clean_room; }, {0, 0, 0, 0, -4},
            {nullptr, nullptr, nullptr, nullptr, "brushes shed dust"}},
        {[](const Answers& a) { return a.around.explosive_gas; }, {0, 0, 0, 0, never},
            {nullptr, nullptr, "only with a certificate; brushless alone makes none",
                "only with a certificate; brushless alone makes none", "brushes spark"}},
        {[](const Answers& a) { return a.around.sterilising; }, {0, -1, -1, 0, -2},
            {nullptr, "its encoder suffers from heat and moisture", "its encoder suffers from heat and moisture",
                nullptr, "moisture at the brushes"}},
        {[](const Answers& a) { return a.around.vibration; }, {0, -1, -1, 0, -2},
            {nullptr, "its encoder suffers", "its encoder suffers", nullptr, "brushes bounce"}},
    };
    return all;
}

std::vector<KindAdvice> advised(const Answers& a) {
    std::vector<KindAdvice> kinds(kinds_of_motor);
    for (std::size_t k = 0; k < kinds.size(); ++k) {
        kinds[k].key = kind_keys[k];
        kinds[k].label = kind_labels[k];
    }
    for (const Rule& r : rules()) {
        if (!r.holds(a)) continue;
        for (std::size_t k = 0; k < kinds.size(); ++k) {
            if (r.weight[k] == never)
                kinds[k].excluded = true;
            else
                kinds[k].score += r.weight[k];
            if (r.words[k]) kinds[k].reasons.push_back({r.weight[k] == never ? -10 : r.weight[k], r.words[k]});
        }
    }
    for (KindAdvice& k : kinds)
        std::stable_sort(k.reasons.begin(), k.reasons.end(),
            [](const KindReason& x, const KindReason& y) { return std::abs(x.weight) > std::abs(y.weight); });
    std::stable_sort(kinds.begin(), kinds.end(), [](const KindAdvice& x, const KindAdvice& y) {
        return std::pair(x.excluded ? 1 : 0, -x.score) < std::pair(y.excluded ? 1 : 0, -y.score);
    });
    return kinds;
}

Answers answers_of(const Machine& machine, const Axis& axis, const Assessment& a) {
    Answers out;
    out.asked = axis.questions;
    out.around = machine.surroundings;
    if (!a.demand || !a.motion) return out;
    const Demand& d = *a.demand;
    out.known = true;
    out.rpm = d.peak_speed * 30 / std::numbers::pi;
    out.power = d.peak_power;
    out.peak_over_rms = d.rms_torque > 0 ? std::abs(d.peak.torque) / d.rms_torque : 0;
    out.falls = d.fall_torque > 0;
    const double back_and_forth = a.motion->path - std::abs(a.motion->advance);
    out.turns_on = a.motion->duty() > 0.9 && back_and_forth < 1e-6 * a.motion->path;
    out.rests = a.motion->duty() < 0.5;
    return out;
}

struct Change {
    const char* words;
    void (*change)(Answers&);
};

constexpr Change changes[] = {
    {"a lost position hurt", [](Answers& a) { a.asked.lost_step_hurts = true; }},
    {"a lost position did no harm", [](Answers& a) { a.asked.lost_step_hurts = false; }},
    {"it had to stand within micrometres", [](Answers& a) { a.asked.precision = Precision::very_fine; }},
    {"it need not be so precise", [](Answers& a) { a.asked.precision = Precision::coarse; }},
    {"it had to be quiet", [](Answers& a) { a.asked.quiet = true; }},
    {"it need not be quiet", [](Answers& a) { a.asked.quiet = false; }},
    {"it had to run for tens of thousands of hours", [](Answers& a) { a.asked.long_life = true; }},
    {"nobody tuned it", [](Answers& a) { a.around.tuning = TuningSkill::none; }},
    {"an expert tuned it", [](Answers& a) { a.around.tuning = TuningSkill::expert; }},
    {"the controller's pulses stalled now and then", [](Answers& a) { a.around.pulses = PulseSource::jittery; }},
    {"the controller gave pulses in real time", [](Answers& a) { a.around.pulses = PulseSource::real_time; }},
    {"the budget were low", [](Answers& a) { a.around.budget = Budget::low; }},
    {"the budget were open", [](Answers& a) { a.around.budget = Budget::open; }},
    {"it ran on a battery", [](Answers& a) { a.around.battery = true; }},
    {"the motor turned at 600 rpm at the most", [](Answers& a) { a.rpm = std::min(a.rpm, 600.0); }},
    {"the motor turned faster than 1500 rpm", [](Answers& a) { a.rpm = std::max(a.rpm, 1501.0); }},
};

std::string option(std::span<const Option> options, int i) { return options[static_cast<std::size_t>(i)].label; }
std::string yes(bool b) { return b ? "yes" : "no"; }

} // namespace

KindChoice which_kind(const Machine& machine, const Axis& axis, const Assessment& a, const std::string& path) {
    KindChoice c;
    const Answers answers = answers_of(machine, axis, a);
    if (motion_of(axis.mechanism).direct) {
        c.missing = "a direct linear axis has a linear motor";
        return c;
    }
    if (!answers.known) c.missing = "speed and torque of the axis";
    const auto number = [&](double v, const char* unit) {
        return answers.known ? format_number(v, 3) + " " + unit : std::string();
    };
    const auto ask = [&](const char* key, const char* words, std::string answer, std::string field = {}) {
        c.questions.push_back({key, words, std::move(answer), std::move(field)});
    };
    ask("top_speed", "Speed of the motor", number(answers.rpm, "rpm"));
    ask("power", "Power at the shaft", number(answers.power, "W"));
    ask("peak", "Peak over RMS torque", number(answers.peak_over_rms, "times"));
    ask("falls", "Falls without power", answers.known ? yes(answers.falls) : "");
    ask("turns_on", "Only turns, no positions", answers.known ? yes(answers.turns_on) : "");
    ask("rests", "Stands most of the time", answers.known ? yes(answers.rests) : "");
    const std::string q = path + "/questions/", s = "/surroundings/";
    const Questions& asked = axis.questions;
    const Surroundings& around = machine.surroundings;
    ask("precision", "Precision", option(Questions::precisions, static_cast<int>(asked.precision)), q + "precision");
    ask("lost_step_hurts", "A lost position hurts", yes(asked.lost_step_hurts), q + "lost_step_hurts");
    ask("quiet", "Quiet", yes(asked.quiet), q + "quiet");
    ask("long_life", "Long life", yes(asked.long_life), q + "long_life");
    std::string places;
    for (const auto& [is, words] : {std::pair(around.dust, "dust"), {around.vacuum, "vacuum"},
             {around.clean_room, "clean room"}, {around.explosive_gas, "explosive gas"},
             {around.sterilising, "sterilising"}, {around.vibration, "vibration"}, {around.battery, "battery"}})
        if (is) places += (places.empty() ? "" : ", ") + std::string(words);
    ask("surroundings", "Surroundings", places.empty() ? "nothing special" : places, s + "dust");
    ask("tuning", "Tuning", option(Surroundings::skills, static_cast<int>(around.tuning)), s + "tuning");
    ask("pulses", "Controller", option(Surroundings::sources, static_cast<int>(around.pulses)), s + "pulses");
    ask("budget", "Budget", option(Surroundings::budgets, static_cast<int>(around.budget)), s + "budget");

    c.kinds = advised(answers);
    for (const Change& change : changes) {
        Answers other = answers;
        change.change(other);
        const std::vector<KindAdvice> now = advised(other);
        if (now.front().key != c.kinds.front().key)
            c.would_change.push_back("If " + std::string(change.words) + ": " + now.front().label);
    }
    return c;
}

} // namespace fulmox

#include "core/match/stepper_rows.h"

#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr const char* practice = "common practice, no source";
constexpr double band = 0.2;        // of the natural frequency, either side
constexpr double most_periods = 10; // of it that a crossing may take
constexpr double quiet_microsteps = 8;

double whole_inertia(const InertiaStatement& i) { return i.load + i.rotor; }

} // namespace

double SteppingResonance::longest() const {
    double out = 0;
    for (const Stay& s : stays) out = std::max(out, s.lasts);
    return out;
}

double SteppingResonance::altogether() const {
    double out = 0;
    for (const Stay& s : stays) out += s.lasts;
    return out;
}

SteppingResonance stepping_resonance(const ElectricModel& model, double inertia, const Demand* demand) {
    const StepperNumbers& n = *model.numbers().stepper;
    SteppingResonance r;
    r.frequency = n.resonance(model.holding(false), inertia);
    r.low = (1 - band) * r.frequency * n.step;
    r.high = (1 + band) * r.frequency * n.step;
    if (demand) r.stays = stays_between(*demand, r.low, r.high);
    return r;
}

int microsteps_possible(const StepperNumbers& n, double speed, double pulse_limit) {
    int out = 0;
    for (int m = 1; m <= 256 && m * steps_per_second(n, speed) <= pulse_limit; m *= 2) out = m;
    return out;
}

PullOutShares pull_out_shares(const Policy& policy) {
    return {policy.pull_out_tight.value_or(0.5), policy.pull_out_over.value_or(0.65)};
}

bool open_loop(const Axis& axis) {
    if (!axis.driven() || !axis.motor.stepper()) return false;
    const auto* two = std::get_if<TwoPhaseStepper>(&axis.motor.electric);
    return !two || two->control != StepperControl::position;
}

namespace {

bool stepping(const LimitInput& in) { return in.axis.driven() && in.axis.motor.stepper(); }
bool open_stepping(const LimitInput& in) { return open_loop(in.axis); }

void by_share(Limit& l, const LimitInput& in, double whole, const char* symbol, const char* formula) {
    const PullOutShares s = pull_out_shares(in.policy);
    l.allowed = s.over * whole;
    l.share = s.tight / s.over;
    if (in.workings)
        l.working.push_back(working_line("allowed", formula, std::string("k*") + symbol,
            {{"k", s.over}, {symbol, whole}}, l.allowed, Kind::torque, practice));
}

std::string shares_words(const LimitInput& in) {
    const PullOutShares s = pull_out_shares(in.policy);
    return "open loop it is tight above " + format_number(100 * s.tight, 3) + " % and over above " +
           format_number(100 * s.over, 3) + " %";
}

std::string percent_words(double share) { return format_number(100 * share, 3) + " %"; }

} // namespace

void judge_pull_out(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    const Demand& d = *in.so_far.demand;
    l.used = std::abs(u.worst_peak.torque);
    const double pull_out = u.worst_peak_allowed;
    if (in.workings) l.working.push_back(sum_of_causes(u.worst_peak));
    by_share(l, in, pull_out, "T_po", "share of the policy · pull-out torque at that speed");
    if (!closed(l, in, u.can.peak_by_model ? "model of the stepper, not measured" : "motor datasheet, pull-out curve"))
        return;
    const bool starting = l.used > 0 && u.worst_peak.speed == 0 && u.worst_peak.torque == d.breakaway.torque;
    l.reason = words(in).torque(l.used) + (starting ? " to break away" : "") + " at " +
               words(in).speed(std::abs(u.worst_peak.speed)) + ", " + format_number(u.worst_peak.time, 3) +
               " s into the cycle, of " + words(in).torque(pull_out) + " pull-out there" +
               (pull_out > 0 ? ", " + percent_words(l.used / pull_out) : std::string()) + "; " + shares_words(in);
    if (u.can.peak_by_model) l.reason += "; by the model, not measured";
    if (l.state != LimitState::fits)
        l.remedy = "Gentler acceleration, less speed, a higher supply, a motor of less rotor inertia or more torque at "
                   "speed, or one commutated by position.";
}

void judge_stepper_holding(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    const ElectricModel& m = *u.can.model;
    const bool idle = m.conditions().idle_share < 1;
    l.used = in.so_far.demand->holding_torque;
    by_share(l, in, m.holding(idle), "T_H",
        idle ? "share of the policy · holding torque at the idle current"
             : "share of the policy · holding torque as set");
    if (!closed(l, in, "motor datasheet, holding torque at the current as set")) return;
    l.reason = words(in).torque(l.used) + " to hold, of " + words(in).torque(m.holding(idle)) +
               (idle ? " at the idle current" : " at the current as set") + "; " + shares_words(in);
    if (l.state != LimitState::fits)
        l.remedy = remedies({idle ? "less reduction of the idle current" : travel_remedy(in.axis, false),
            "a counterbalance", "a motor that holds more"});
}

namespace {

void judge_phase_current(Limit& l, const LimitInput& in) {
    const ElectricModel& m = *in.so_far.motor->can.model;
    const StepperNumbers& n = *m.numbers().stepper;
    const double set = m.amplitude() / std::numbers::sqrt2;
    l.used = in.so_far.motor->rms_current;
    l.allowed = n.current * std::sqrt(m.conditions().heat_factor);
    if (in.workings)
        l.working.push_back(
            working_line("allowed", "I_N √f", "I*sqrt(f)", {{"I", n.current}, {"f", m.conditions().heat_factor}},
                l.allowed, Kind::current, "IEC 60034-1: ambient and altitude; the motor's derating"));
    if (!closed(l, in, "motor datasheet, rated phase current")) return;
    l.reason =
        "set to " + format_number(set, 3) + " A RMS a phase" +
        (l.used < set * (1 - 1e-9) ? ", " + format_number(l.used, 3) + " A over the cycle with less at rest" : "") +
        "; " + format_number(l.allowed, 3) + " A continuous; independent of the load";
    if (set > n.current * (1 + 1e-9))
        l.reason += "; at " + format_number(set / n.current, 3) + " times the rated current it takes " +
                    format_number(set * set / (n.current * n.current), 3) + " times the heat";
    if (l.state != LimitState::fits)
        l.remedy = "Set the drive lower (is its dial peak or RMS?), reduce the current at rest, or cool the motor.";
}

void judge_start_rate(Limit& l, const LimitInput& in) {
    const StepperNumbers n = stepper_numbers(in.axis.motor); // no cycle is needed for it
    const InertiaStatement& i = *in.so_far.inertia;
    if (std::isnan(n.start_rate)) return cannot(l, "the sheet's start rate is not given");
    if (!i.told) return cannot(l, "the demand is given without the inertia of its load");
    l.used = steps_per_second(n, in.axis.drive.ramp_start.si);
    l.allowed = n.start_rate_with(i.load, i.rotor);
    if (in.workings)
        l.working.push_back(working_line("f_start", "f_0/√(1 + J_L/J_R)", "f/sqrt(1+J_L/J_R)",
            {{"f", n.start_rate}, {"J_L", i.load}, {"J_R", i.rotor}}, l.allowed, Kind::frequency, practice));
    if (!closed(l, in, practice)) return;
    l.reason = "ramps start at " + format_number(l.used, 4) +
               " full steps/s; with this load the motor starts at up to " + format_number(l.allowed, 4);
    if (l.state != LimitState::fits) l.remedy = "Ramps from a lower speed, less inertia, or a stage that reduces it.";
}

// The largest torque but for acceleration at the instants at which the axis begins or ends to move.
double torque_at_starts(const Demand& d) {
    double out = 0;
    const auto still = [&](std::size_t k) { return d.spans[k].direction == 0; };
    const std::size_t n = d.spans.size();
    for (std::size_t k = 0; k < n; ++k) {
        if (still(k)) continue;
        const Span& s = d.spans[k];
        for (const double t : {s.start, s.start + s.duration}) {
            const ShaftState e = evaluate(d.load, s, t);
            const bool stands = std::abs(e.speed) <= 1e-9 * d.peak_speed;
            if (stands)
                out = std::max(out, std::abs(e.torque - e.part[static_cast<std::size_t>(Cause::load_inertia)] -
                                             e.part[static_cast<std::size_t>(Cause::rotor)]));
        }
    }
    return out;
}

void judge_pull_in(Limit& l, const LimitInput& in) {
    const Motor& motor = in.axis.motor;
    const ElectricModel& m = *in.so_far.motor->can.model;
    const InertiaStatement& i = *in.so_far.inertia;
    if (!i.told) return cannot(l, "the demand is given without the inertia of its load");
    const double start = in.axis.drive.ramp_start.si, like = start * std::sqrt(1 + i.load / i.rotor);
    // with more current than the curve's it is not raised: starting is lost to swinging, not to torque
    const double share = std::min(1.0, m.amplitude() / m.numbers().stepper->curve_amplitude);
    const SpeedTorqueCurve curve(motor.pull_in, 1, share);
    l.used = torque_at_starts(*in.so_far.demand);
    l.allowed = curve.at(std::max(like, motor.pull_in.front().speed.si));
    if (in.workings)
        l.working.push_back(working_line("n'", "n_s √(1 + J_L/J_R)", "n*sqrt(1+J_L/J_R)",
            {{"n", start}, {"J_L", i.load}, {"J_R", i.rotor}}, like, Kind::angular_speed, practice));
    if (!closed(l, in, "motor datasheet, pull-in curve")) return;
    l.reason = words(in).torque(l.used) + " besides acceleration where the axis starts or stops, of " +
               words(in).torque(l.allowed) + " pull-in at " + words(in).speed(start) +
               "; with this inertia that is like " + words(in).speed(like) + " without a load";
    if (share < 1) l.reason += ", at " + format_number(100 * share, 3) + " % of the curve's current";
    if (l.state != LimitState::fits) l.remedy = "Ramps from a lower speed, less inertia, or a stage that reduces it.";
}

void judge_resonance(Limit& l, const LimitInput& in) {
    const ElectricModel& m = *in.so_far.motor->can.model;
    if (!in.so_far.inertia->told) return cannot(l, "the demand is given without the inertia of its load");
    const SteppingResonance r = stepping_resonance(m, whole_inertia(*in.so_far.inertia), in.so_far.demand);
    l.used = r.longest();
    l.allowed = most_periods / r.frequency;
    if (in.workings) {
        l.working.push_back(working_line("f_n", "√(N_r T_H/(J_R + J_L))/2π", "sqrt(N*T_H/J)/(2*pi)",
            {{"N", m.numbers().stepper->teeth}, {"T_H", m.holding(false)}, {"J", whole_inertia(*in.so_far.inertia)}},
            r.frequency, Kind::frequency, "swing of a rotor about its step"));
        l.working.push_back(
            working_line("allowed", "10 swings", "10/f_n", {{"f_n", r.frequency}}, l.allowed, Kind::time, practice));
    }
    if (!closed(l, in, practice)) return;
    // a screw taken as thicker than it is swings lower, which may be kinder
    if (const auto* s = std::get_if<Screw>(&in.axis.mechanism);
        s && !s->root_diameter.given() && s->turns == ScrewTurns::screw && l.state != LimitState::over)
        return lacks(l, {{"/mechanism/root_diameter", "root diameter of the screw"}});
    const double micro = in.axis.drive.microsteps.value_or(1);
    l.reason = "it swings at " + format_number(r.frequency, 3) + " full steps/s, " + words(in).speed(r.low) + " to " +
               words(in).speed(r.high) + "; the cycle is in there " +
               (r.stays.empty() ? std::string("never")
                                : std::to_string(r.stays.size()) + " times, " + format_number(r.longest(), 3) +
                                      " s at the longest");
    if (l.state == LimitState::over && micro >= quiet_microsteps) {
        l.state = LimitState::tight;
        l.reason += "; at " + format_number(micro, 3) + " microsteps a step excites it little";
    }
    if (l.state != LimitState::fits)
        l.remedy =
            "Run above or below it, cross it fast, microstep, a damper, or a motor that is not larger than needed: "
            "excess torque goes into the swing.";
}

void judge_pulse_rate(Limit& l, const LimitInput& in) {
    const StepperNumbers n = stepper_numbers(in.axis.motor); // its torque is not needed for it
    const double speed = in.so_far.demand->peak_speed, micro = in.axis.drive.microsteps.value_or(1);
    l.used = micro * steps_per_second(n, speed);
    const Drive& drive = in.axis.drive;
    const bool by_drive = drive.pulse_input.given() && !(drive.pulse_limit.si <= drive.pulse_input.si);
    l.allowed = by_drive ? drive.pulse_input.si : drive.pulse_limit.si;
    if (in.workings)
        l.working.push_back(working_line("f", "N ω/α", "N*w/a", {{"N", micro}, {"w", speed}, {"a", n.step}}, l.used,
            Kind::frequency, "steps a turn times turns a second"));
    if (!closed(l, in, by_drive ? "drive datasheet" : "controller datasheet")) return;
    const int possible = microsteps_possible(n, speed, l.allowed);
    l.reason = format_number(l.used / 1e3, 4) + " kHz with " + format_number(micro, 4) + " microsteps at " +
               words(in).speed(speed) + ", of " + format_number(l.allowed / 1e3, 4) + " kHz";
    if (l.state == LimitState::over)
        l.remedy = possible > 0
                       ? "At most " + std::to_string(possible) +
                             " microsteps, a lower speed, or a faster "
                             "controller."
                       : std::string("Not even full steps can be pulsed so fast: a lower speed, a coarser step, "
                                     "or a faster controller.");
}

bool has_ramp_start(const LimitInput& in) { return stepping(in) && in.axis.drive.ramp_start.given(); }
bool has_pull_in(const LimitInput& in) {
    return open_stepping(in) && in.axis.drive.ramp_start.given() && !in.axis.motor.pull_in.empty();
}
bool has_pulse_limit(const LimitInput& in) {
    return stepping(in) && (in.axis.drive.pulse_limit.given() || in.axis.drive.pulse_input.given());
}

} // namespace

std::vector<LimitRow> stepper_limit_rows() {
    using namespace need;
    return {
        {"phase_current", "Phase current as set", Kind::current, speeds | current | surroundings, true, open_stepping,
            judge_phase_current},
        {"start_rate", "Start without a ramp", Kind::frequency, travel | inertia | ratio_inertia | rotor | pulses, true,
            has_ramp_start, judge_start_rate},
        {"pull_in", "Start against its load", Kind::torque,
            need::demand | current | temperatures | ratio_inertia | pulses | need::pull_in, true, has_pull_in,
            judge_pull_in},
        {"resonance", "Stepper resonance", Kind::time,
            speeds | inertia | ratio_inertia | rotor | current | temperatures | pulses, true, open_stepping,
            judge_resonance},
        {"pulse_rate", "Pulse rate", Kind::frequency, speeds | pulses, true, has_pulse_limit, judge_pulse_rate},
    };
}

namespace {

using In = const FigureInput&;

StepperNumbers numbers(In in) { return stepper_numbers(in.axis.motor); }
bool of_stepper(In in) { return in.can && in.axis.driven() && in.axis.motor.stepper(); }
bool of_open_loop(In in) { return of_stepper(in) && open_loop(in.axis); }
bool swings(In in) { return of_open_loop(in) && fulmox::tells_inertia(in.axis); }
bool idles(In in) { return of_open_loop(in) && in.axis.drive.idle_current.given(); }
bool along_a_line(In in) {
    return of_stepper(in) && in.load.path == LoadModel::Path::straight && !in.load.motion.rotary;
}
bool starts(In in) { return swings(in) && !std::isnan(numbers(in).start_rate); }
bool pulses_limited(In in) { return of_stepper(in) && in.axis.drive.pulse_limit.given(); }

double micro(In in) { return in.axis.drive.microsteps.value_or(1); }

void holding(Figure& f, In in, bool idle) {
    const ElectricModel& m = *in.can->model;
    f.si = m.holding(idle);
    const double amplitude = m.amplitude() * (idle ? m.conditions().idle_share : 1);
    f.note = "at " + format_number(amplitude / std::numbers::sqrt2, 3) + " A RMS a phase";
    if (m.amplitude() > std::numbers::sqrt2 * numbers(in).current * (1 + 1e-9))
        f.note += "; above the rated current iron saturates, and it is less than this";
    work(f, in, "T_H", "m/2 K i, the worse of cold and hot", "m/2*K*i",
        {{"m", numbers(in).phases}, {"K", f.si / (numbers(in).phases / 2.0 * amplitude)}, {"i", amplitude}},
        "identity of the hybrid stepper");
}

SteppingResonance resonance_of(In in) {
    return stepping_resonance(*in.can->model, whole_inertia(*in.inertia), in.demand);
}

} // namespace

std::vector<FigureRow> stepper_figure_rows() {
    using namespace need;
    constexpr need::Bits swing = travel | inertia | ratio_inertia | rotor | current | temperatures;
    return {
        {"stepper.holding_torque", "Holding torque as set", nullptr, Kind::torque, current | temperatures, of_stepper,
            [](Figure& f, In in) { holding(f, in, false); }},
        {"stepper.idle_holding_torque", "Holding torque, idle", nullptr, Kind::torque, current | temperatures, idles,
            [](Figure& f, In in) { holding(f, in, true); }},
        {"stepper.step_angle", "Microstep", nullptr, Kind::angle, pulses, of_stepper,
            [](Figure& f, In in) {
                f.si = numbers(in).step / micro(in);
                f.unit = "deg";
                f.note = format_number(numbers(in).steps_per_turn() * micro(in), 6) + " a turn";
                work(f, in, "α/N", "full step/microsteps", "a/N", {{"a", numbers(in).step}, {"N", micro(in)}});
            }},
        {"stepper.resolution", "Travel of a microstep", nullptr, Kind::length, pulses | travel, along_a_line,
            [](Figure& f, In in) {
                f.si = numbers(in).step / micro(in) * in.load.radius / in.load.ratio;
                f.unit = "µm";
                f.note = "what is pulsed; friction and load keep the rotor off it by the deflection";
                work(f, in, "s", "α/N · r/i", "a/N*r/i",
                    {{"a", numbers(in).step}, {"N", micro(in)}, {"r", in.load.radius}, {"i", in.load.ratio}});
            }},
        {"stepper.accuracy", "Step accuracy", nullptr, Kind::angle, pulses, of_stepper,
            [](Figure& f, In in) {
                f.si = numbers(in).accuracy;
                f.unit = "deg";
                f.note = "either side of a full step, not cumulative";
                if (in.workings) f.read_from = "the sheet, or 0.05° as common practice has it";
            }},
        {"stepper.microstep_torque", "Torque of a microstep", nullptr, Kind::torque, current | temperatures | pulses,
            of_stepper,
            [](Figure& f, In in) {
                f.si = numbers(in).microstep_torque(in.can->model->holding(false), micro(in));
                f.note = "less than the friction, and the step is not made before the next ones add up";
                work(f, in, "T", "T_H sin(π/(m N))", "T_H*sin(pi/(m*N))",
                    {{"T_H", in.can->model->holding(false)}, {"m", numbers(in).phases}, {"N", micro(in)}});
            }},
        {"stepper.deflection", "Deflection at the largest torque", nullptr, Kind::angle,
            need::demand | current | temperatures | pulses, of_open_loop,
            [](Figure& f, In in) {
                f.si = numbers(in).deflection(in.demand->peak.torque, in.can->model->holding(false));
                f.unit = "deg";
                if (std::isnan(f.si)) {
                    f.note = "the largest torque is above what is held";
                    return;
                }
                f.note = "how far the rotor lags behind its place";
                work(f, in, "θ", "asin(T/T_H)/N_r", "asin(T/T_H)/N",
                    {{"T", std::abs(in.demand->peak.torque)}, {"T_H", in.can->model->holding(false)},
                        {"N", numbers(in).teeth}});
            }},
        {"stepper.resonance", "Natural frequency", nullptr, Kind::frequency, swing | pulses, swings,
            [](Figure& f, In in) {
                const SteppingResonance r = resonance_of(in);
                f.si = r.frequency;
                f.note =
                    "full steps/s; the band of ±20 % is " + in.words.speed(r.low) + " to " + in.words.speed(r.high);
                work(f, in, "f_n", "√(N_r T_H/(J_R + J_L))/2π", "sqrt(N*T_H/J)/(2*pi)",
                    {{"N", numbers(in).teeth}, {"T_H", in.can->model->holding(false)},
                        {"J", whole_inertia(*in.inertia)}},
                    "swing of a rotor about its step");
            }},
        {"stepper.resonance_low", "Resonance from", nullptr, Kind::frequency, swing | pulses, swings,
            [](Figure& f, In in) {
                f.si = resonance_of(in).low / numbers(in).step;
                f.note = "full steps/s, " + in.words.speed(resonance_of(in).low);
                if (in.workings) f.read_from = "0.8 times the natural frequency";
            }},
        {"stepper.resonance_high", "Resonance up to", nullptr, Kind::frequency, swing | pulses, swings,
            [](Figure& f, In in) {
                f.si = resonance_of(in).high / numbers(in).step;
                f.note = "full steps/s, " + in.words.speed(resonance_of(in).high);
                if (in.workings) f.read_from = "1.2 times the natural frequency";
            }},
        {"stepper.resonance_time", "In resonance", nullptr, Kind::time, swing | pulses | speeds, swings,
            [](Figure& f, In in) {
                const SteppingResonance r = resonance_of(in);
                f.si = r.altogether();
                f.note = r.stays.empty() ? std::string("the cycle never is")
                                         : std::to_string(r.stays.size()) + " times a cycle, " +
                                               format_number(r.longest(), 3) + " s at the longest";
                if (in.workings) f.read_from = "the speed of the cycle within the band, span by span";
            }},
        {"stepper.start_rate", "Start rate with the load", nullptr, Kind::frequency,
            travel | inertia | ratio_inertia | rotor | pulses, starts,
            [](Figure& f, In in) {
                f.si = numbers(in).start_rate_with(in.inertia->load, in.inertia->rotor);
                f.note = "full steps/s without a ramp, " + in.words.speed(f.si * numbers(in).step);
                work(f, in, "f_start", "f_0/√(1 + J_L/J_R)", "f/sqrt(1+J_L/J_R)",
                    {{"f", numbers(in).start_rate}, {"J_L", in.inertia->load}, {"J_R", in.inertia->rotor}}, practice);
            }},
        {"stepper.pulse_rate", "Pulse rate at top speed", nullptr, Kind::frequency, speeds | pulses, of_stepper,
            [](Figure& f, In in) {
                f.si = micro(in) * steps_per_second(numbers(in), in.demand->peak_speed);
                f.unit = "kHz";
                work(f, in, "f", "N ω/α", "N*w/a",
                    {{"N", micro(in)}, {"w", in.demand->peak_speed}, {"a", numbers(in).step}});
            }},
        {"stepper.pulse_speed", "Speed at the controller's limit", nullptr, Kind::angular_speed, pulses, pulses_limited,
            [](Figure& f, In in) {
                f.si = in.axis.drive.pulse_limit.si * numbers(in).step / micro(in);
                work(f, in, "ω", "f_c α/N", "f*a/N",
                    {{"f", in.axis.drive.pulse_limit.si}, {"a", numbers(in).step}, {"N", micro(in)}});
            }},
        {"stepper.microsteps_possible", "Microsteps possible", nullptr, Kind::number, speeds | pulses, pulses_limited,
            [](Figure& f, In in) {
                f.si = microsteps_possible(numbers(in), in.demand->peak_speed, in.axis.drive.pulse_limit.si);
                f.note = "at the top speed of the cycle and this controller, as a power of two up to 256";
                if (in.workings) f.read_from = "pulses a second at the top speed of the cycle";
            }},
    };
}

} // namespace fulmox

#include "core/match/rows/stepper.h"

#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/match/rows/workings.h"
#include "core/match/stepping.h"
#include "core/motor/stepper.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr double most_periods = 10; // of it that a crossing may take

constexpr double quiet_microsteps = 8;

double whole_inertia(const InertiaStatement& i) { return i.load + i.rotor; }

bool stepping(In in) { return in.axis.driven() && in.axis.motor.stepper(); }

bool open_stepping(In in) { return open_loop(in.axis); }

void by_share(Limit& l, In in, double whole, const char* symbol, const char* formula) {
    const PullOutShares s = pull_out_shares(in.policy);
    l.allowed = s.over * whole;
    l.share = s.tight / s.over;
    if (in.workings)
        l.working.push_back(working_line("allowed", formula, std::string("k*") + symbol,
            {{"k", s.over}, {symbol, whole}}, l.allowed, Kind::torque, practice));
}

std::string shares_words(In in) {
    const PullOutShares s = pull_out_shares(in.policy);
    return "open loop it is tight above " + format_number(100 * s.tight, 3) + " % and over above " +
           format_number(100 * s.over, 3) + " %";
}

std::string percent_words(double share) { return format_number(100 * share, 3) + " %"; }

void judge_phase_current(Limit& l, In in) {
    const ElectricModel& m = *in.state.motor->can.model;
    const StepperNumbers& n = *m.numbers().stepper;
    const double set = m.amplitude() / std::numbers::sqrt2;
    l.used = in.state.motor->rms_current;
    l.allowed = n.current * std::sqrt(m.conditions().heat_factor);
    if (in.workings)
        l.working.push_back(
            working_line("allowed", "I_N √f", "I*sqrt(f)", {{"I", n.current}, {"f", m.conditions().heat_factor}},
                l.allowed, Kind::current, "IEC 60034-1: ambient and altitude; the motor's derating"));
    if (!conclude(l, in, "motor datasheet, rated phase current")) return;
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

void judge_start_rate(Limit& l, In in) {
    const StepperNumbers n = stepper_numbers(in.axis.motor); // no cycle is needed for it
    const InertiaStatement& i = *in.results.inertia;
    if (std::isnan(n.start_rate)) return set_cannot_say(l, "start rate of the datasheet not given");
    if (!i.load_known) return set_cannot_say(l, "load inertia not given");
    l.used = steps_per_second(n, in.axis.drive.ramp_start.si);
    l.allowed = n.start_rate_with(i.load, i.rotor);
    if (in.workings)
        l.working.push_back(working_line("f_start", "f_0/√(1 + J_L/J_R)", "f/sqrt(1+J_L/J_R)",
            {{"f", n.start_rate}, {"J_L", i.load}, {"J_R", i.rotor}}, l.allowed, Kind::frequency, practice));
    if (!conclude(l, in, practice)) return;
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

void judge_pull_in(Limit& l, In in) {
    const Motor& motor = in.axis.motor;
    const ElectricModel& m = *in.state.motor->can.model;
    const InertiaStatement& i = *in.results.inertia;
    if (!i.load_known) return set_cannot_say(l, "load inertia not given");
    const double start = in.axis.drive.ramp_start.si, like = start * std::sqrt(1 + i.load / i.rotor);
    // with more current than the curve's it is not raised: starting is lost to swinging, not to torque
    const double share = std::min(1.0, m.amplitude() / m.numbers().stepper->curve_amplitude);
    const SpeedTorqueCurve curve(motor.pull_in, 1, share);
    l.used = torque_at_starts(*in.state.demand);
    l.allowed = curve.at(std::max(like, motor.pull_in.front().speed.si));
    if (in.workings)
        l.working.push_back(working_line("n'", "n_s √(1 + J_L/J_R)", "n*sqrt(1+J_L/J_R)",
            {{"n", start}, {"J_L", i.load}, {"J_R", i.rotor}}, like, Kind::angular_speed, practice));
    if (!conclude(l, in, "motor datasheet, pull-in curve")) return;
    l.reason = in.words.torque(l.used) + " in addition to acceleration where the axis starts or stops, of " +
               in.words.torque(l.allowed) + " pull-in at " + in.words.speed(start) +
               "; with this inertia equivalent to " + in.words.speed(like) + " without a load";
    if (share < 1) l.reason += ", at " + format_number(100 * share, 3) + " % of the curve's current";
    if (l.state != LimitState::fits) l.remedy = "Ramps from a lower speed, less inertia, or a stage that reduces it.";
}

void judge_resonance(Limit& l, In in) {
    const ElectricModel& m = *in.state.motor->can.model;
    if (!in.results.inertia->load_known) return set_cannot_say(l, "load inertia not given");
    const SteppingResonance r = stepping_resonance(m, whole_inertia(*in.results.inertia), in.state.demand.get());
    l.used = r.longest();
    l.allowed = most_periods / r.frequency;
    if (in.workings) {
        l.working.push_back(working_line("f_n", "√(N_r T_H/(J_R + J_L))/2π", "sqrt(N*T_H/J)/(2*pi)",
            {{"N", m.numbers().stepper->teeth}, {"T_H", m.holding(false)}, {"J", whole_inertia(*in.results.inertia)}},
            r.frequency, Kind::frequency, "swing of a rotor about its step"));
        l.working.push_back(
            working_line("allowed", "10 swings", "10/f_n", {{"f_n", r.frequency}}, l.allowed, Kind::time, practice));
    }
    if (!conclude(l, in, practice)) return;
    // a screw taken as thicker than it is swings lower, which may be kinder
    if (const auto* s = std::get_if<Screw>(&in.axis.mechanism);
        s && !s->root_diameter.given() && s->turns == ScrewTurns::screw && l.state != LimitState::over)
        return lacks(l, {{"/mechanism/root_diameter", "root diameter of the screw"}});
    const double micro = in.axis.drive.microsteps.value_or(1);
    l.reason = "natural frequency " + format_number(r.frequency, 3) + " full steps/s, " + in.words.speed(r.low) +
               " to " + in.words.speed(r.high) + "; the cycle is in this band " +
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

void judge_pulse_rate(Limit& l, In in) {
    const StepperNumbers n = stepper_numbers(in.axis.motor); // its torque is not needed for it
    const double speed = in.state.demand->peak_speed, micro = in.axis.drive.microsteps.value_or(1);
    l.used = micro * steps_per_second(n, speed);
    const Drive& drive = in.axis.drive;
    const bool by_drive = drive.pulse_input.given() && !(drive.pulse_limit.si <= drive.pulse_input.si);
    l.allowed = by_drive ? drive.pulse_input.si : drive.pulse_limit.si;
    if (in.workings)
        l.working.push_back(working_line("f", "N ω/α", "N*w/a", {{"N", micro}, {"w", speed}, {"a", n.step}}, l.used,
            Kind::frequency, "steps a turn times turns a second"));
    if (!conclude(l, in, by_drive ? "drive datasheet" : "controller datasheet")) return;
    const int possible = microsteps_possible(n, speed, l.allowed);
    l.reason = format_number(l.used / 1e3, 4) + " kHz with " + format_number(micro, 4) + " microsteps at " +
               in.words.speed(speed) + ", of " + format_number(l.allowed / 1e3, 4) + " kHz";
    if (l.state == LimitState::over)
        l.remedy = possible > 0
                       ? "At most " + std::to_string(possible) +
                             " microsteps, a lower speed, or a faster "
                             "controller."
                       : std::string("Not even full steps can be pulsed so fast: a lower speed, a coarser step, "
                                     "or a faster controller.");
}

bool has_ramp_start(In in) { return stepping(in) && in.axis.drive.ramp_start.given(); }

bool has_pull_in(In in) {
    return open_stepping(in) && in.axis.drive.ramp_start.given() && !in.axis.motor.pull_in.empty();
}

bool has_pulse_limit(In in) {
    return stepping(in) && (in.axis.drive.pulse_limit.given() || in.axis.drive.pulse_input.given());
}

StepperNumbers numbers(In in) { return stepper_numbers(in.axis.motor); }

bool of_stepper(In in) { return in.results.can && in.axis.driven() && in.axis.motor.stepper(); }

bool of_open_loop(In in) { return of_stepper(in) && open_loop(in.axis); }

bool swings(In in) { return of_open_loop(in) && inertia_given(in); }

bool idles(In in) { return of_open_loop(in) && in.axis.drive.idle_current.given(); }

bool along_a_line(In in) {
    return of_stepper(in) && in.load.path == LoadModel::Path::straight && !in.load.motion.rotary;
}

bool starts(In in) { return swings(in) && !std::isnan(numbers(in).start_rate); }

bool pulses_limited(In in) { return of_stepper(in) && in.axis.drive.pulse_limit.given(); }

double micro(In in) { return in.axis.drive.microsteps.value_or(1); }

void holding(Figure& f, In in, bool idle) {
    const ElectricModel& m = *in.results.can->model;
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
    return stepping_resonance(*in.results.can->model, whole_inertia(*in.results.inertia), in.state.demand.get());
}

} // namespace

void judge_pull_out(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    const Demand& d = *in.state.demand;
    l.used = std::abs(u.worst_peak.torque);
    const double pull_out = u.worst_peak_allowed;
    if (in.workings) l.working.push_back(sum_of_causes(u.worst_peak));
    by_share(l, in, pull_out, "T_po", "share of the policy · pull-out torque at that speed");
    if (!conclude(
            l, in, u.can.peak_by_model ? "model of the stepper, not measured" : "motor datasheet, pull-out curve"))
        return;
    const bool starting = l.used > 0 && u.worst_peak.speed == 0 && u.worst_peak.torque == d.breakaway.torque;
    l.reason = in.words.torque(l.used) + (starting ? " to break away" : "") + " at " +
               in.words.speed(std::abs(u.worst_peak.speed)) + ", " + format_number(u.worst_peak.time, 3) +
               " s into the cycle, of " + in.words.torque(pull_out) + " pull-out there" +
               (pull_out > 0 ? ", " + percent_words(l.used / pull_out) : std::string()) + "; " + shares_words(in);
    if (u.can.peak_by_model) l.reason += "; by the model, not measured";
    if (l.state != LimitState::fits)
        l.remedy = "Gentler acceleration, less speed, a higher supply, a motor of less rotor inertia or more torque at "
                   "speed, or one commutated by position.";
}

void judge_stepper_holding(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    const ElectricModel& m = *u.can.model;
    const bool idle = m.conditions().idle_share < 1;
    l.used = in.state.demand->holding_torque;
    by_share(l, in, m.holding(idle), "T_H",
        idle ? "share of the policy · holding torque at the idle current"
             : "share of the policy · holding torque as set");
    if (!conclude(l, in, "motor datasheet, holding torque at the current as set")) return;
    l.reason = in.words.torque(l.used) + " to hold, of " + in.words.torque(m.holding(idle)) +
               (idle ? " at the idle current" : " at the current as set") + "; " + shares_words(in);
    if (l.state != LimitState::fits)
        l.remedy = remedies({idle ? "less reduction of the idle current" : travel_remedy(in.axis, false),
            "a counterbalance", "a motor that holds more"});
}

Rows stepper_rows() {
    using namespace need;
    constexpr need::Bits swing = travel | inertia | ratio_inertia | rotor | current | temperatures;
    constexpr const char* source = "the stepper as its drive is set";
    Rows rows{.section = Section::stepper};
    rows.limits = {
        {.key = "phase_current",
            .label = "Phase current as set",
            .kind = Kind::current,
            .needs = speeds | current | surroundings,
            .part = "motor",
            .of_motor = true,
            .applies = open_stepping,
            .judge = judge_phase_current,
            .meaning = "RMS current of a stepper's phase over the cycle against its rated current; open loop only"},
        {.key = "start_rate",
            .label = "Start without a ramp",
            .kind = Kind::frequency,
            .needs = travel | inertia | ratio_inertia | rotor | pulses,
            .part = "motor",
            .of_motor = true,
            .applies = has_ramp_start,
            .judge = judge_start_rate,
            .meaning = "Speed at which ramps begin against what the stepper starts with this load; present where the "
                       "ramps' start is given"},
        {.key = "pull_in",
            .label = "Start against its load",
            .kind = Kind::torque,
            .needs = need::demand | current | temperatures | ratio_inertia | pulses | need::pull_in,
            .part = "motor",
            .of_motor = true,
            .applies = has_pull_in,
            .judge = judge_pull_in,
            .meaning = "Torque besides acceleration where the axis starts or stops against the pull-in torque at the "
                       "speed at which ramps begin, with this inertia; present where the sheet has the curve and the "
                       "ramps' start is given"},
        {.key = "resonance",
            .label = "Stepper resonance",
            .kind = Kind::time,
            .needs = speeds | inertia | ratio_inertia | rotor | current | temperatures | pulses,
            .part = "motor",
            .of_motor = true,
            .applies = open_stepping,
            .judge = judge_resonance,
            .meaning = "Longest stay in the band of resonance against ten swings; open loop only"},
        {.key = "pulse_rate",
            .label = "Pulse rate",
            .kind = Kind::frequency,
            .needs = speeds | pulses,
            .part = "drive",
            .of_motor = true,
            .applies = has_pulse_limit,
            .judge = judge_pulse_rate,
            .allowed_by = {"/drive/pulse_limit", "/drive/pulse_input"},
            .meaning = "Pulses a second at top speed against the controller's; present where its limit is given"},
    };
    rows.figures = {
        {.key = "stepper.holding_torque",
            .label = "Holding torque as set",
            .kind = Kind::torque,
            .needs = current | temperatures,
            .applies = of_stepper,
            .fill = [](Figure& f, In in) { holding(f, in, false); },
            .read_from = source,
            .meaning = "Holding torque at the current as set, the worse of cold and hot"},
        {.key = "stepper.idle_holding_torque",
            .label = "Holding torque, idle",
            .kind = Kind::torque,
            .needs = current | temperatures,
            .applies = idles,
            .fill = [](Figure& f, In in) { holding(f, in, true); },
            .read_from = source,
            .meaning =
                "The same with what the drive leaves of the current at rest; absent where it does not reduce it"},
        {.key = "stepper.step_angle",
            .label = "Microstep",
            .kind = Kind::angle,
            .needs = pulses,
            .applies = of_stepper,
            .fill =
                [](Figure& f, In in) {
                    f.si = numbers(in).step / micro(in);
                    f.unit = "deg";
                    f.note = format_number(numbers(in).steps_per_turn() * micro(in), 6) + " a turn";
                    work(f, in, "α/N", "full step/microsteps", "a/N", {{"a", numbers(in).step}, {"N", micro(in)}});
                },
            .read_from = source,
            .meaning = "A microstep at the motor"},
        {.key = "stepper.resolution",
            .label = "Travel of a microstep",
            .kind = Kind::length,
            .needs = pulses | travel,
            .applies = along_a_line,
            .fill =
                [](Figure& f, In in) {
                    f.si = numbers(in).step / micro(in) * in.load.radius / in.load.ratio;
                    f.unit = "µm";
                    f.note = "what is pulsed; friction and load keep the rotor off it by the deflection";
                    work(f, in, "s", "α/N · r/i", "a/N*r/i",
                        {{"a", numbers(in).step}, {"N", micro(in)}, {"r", in.load.radius}, {"i", in.load.ratio}});
                },
            .read_from = source,
            .meaning = "Its travel; absent where the axis does not run along a straight line"},
        {.key = "stepper.accuracy",
            .label = "Step accuracy",
            .kind = Kind::angle,
            .needs = pulses,
            .applies = of_stepper,
            .fill =
                [](Figure& f, In in) {
                    f.si = numbers(in).accuracy;
                    f.unit = "deg";
                    f.note = "either side of a full step, not cumulative";
                    if (in.workings) f.read_from = "the sheet, or 0.05° as common practice has it";
                },
            .read_from = source,
            .meaning = "Error of a full step, either side"},
        {.key = "stepper.microstep_torque",
            .label = "Torque of a microstep",
            .kind = Kind::torque,
            .needs = current | temperatures | pulses,
            .applies = of_stepper,
            .fill =
                [](Figure& f, In in) {
                    f.si = numbers(in).microstep_torque(in.results.can->model->holding(false), micro(in));
                    f.note = "less than the friction, and the step is not made before the next ones add up";
                    work(f, in, "T", "T_H sin(π/(m N))", "T_H*sin(pi/(m*N))",
                        {{"T_H", in.results.can->model->holding(false)}, {"m", numbers(in).phases}, {"N", micro(in)}});
                },
            .read_from = source,
            .meaning = "What the next microstep adds from rest, T_H sin(π/(m N))"},
        {.key = "stepper.deflection",
            .label = "Deflection at the largest torque",
            .kind = Kind::angle,
            .needs = need::demand | current | temperatures | pulses,
            .applies = of_open_loop,
            .fill =
                [](Figure& f, In in) {
                    f.si = numbers(in).deflection(in.state.demand->peak.torque, in.results.can->model->holding(false));
                    f.unit = "deg";
                    if (std::isnan(f.si)) {
                        f.note = "the largest torque is above what is held";
                        return;
                    }
                    f.note = "how far the rotor lags behind its place";
                    work(f, in, "θ", "asin(T/T_H)/N_r", "asin(T/T_H)/N",
                        {{"T", std::abs(in.state.demand->peak.torque)}, {"T_H", in.results.can->model->holding(false)},
                            {"N", numbers(in).teeth}});
                },
            .read_from = source,
            .meaning = "Lag of the rotor under the largest torque, asin(T/T_H)/N_r; null above the holding torque"},
        {.key = "stepper.resonance",
            .label = "Natural frequency",
            .kind = Kind::frequency,
            .needs = swing | pulses,
            .applies = swings,
            .fill =
                [](Figure& f, In in) {
                    const SteppingResonance r = resonance_of(in);
                    f.si = r.frequency;
                    f.note =
                        "full steps/s; the band of ±20 % is " + in.words.speed(r.low) + " to " + in.words.speed(r.high);
                    work(f, in, "f_n", "√(N_r T_H/(J_R + J_L))/2π", "sqrt(N*T_H/J)/(2*pi)",
                        {{"N", numbers(in).teeth}, {"T_H", in.results.can->model->holding(false)},
                            {"J", whole_inertia(*in.results.inertia)}},
                        "swing of a rotor about its step");
                },
            .read_from = source,
            .meaning = "Natural frequency in full steps/s, open loop"},
        {.key = "stepper.resonance_low",
            .label = "Resonance from",
            .kind = Kind::frequency,
            .needs = swing | pulses,
            .applies = swings,
            .fill =
                [](Figure& f, In in) {
                    f.si = resonance_of(in).low / numbers(in).step;
                    f.note = "full steps/s, " + in.words.speed(resonance_of(in).low);
                    if (in.workings) f.read_from = "0.8 times the natural frequency";
                },
            .read_from = source,
            .meaning = "Band about it, from"},
        {.key = "stepper.resonance_high",
            .label = "Resonance up to",
            .kind = Kind::frequency,
            .needs = swing | pulses,
            .applies = swings,
            .fill =
                [](Figure& f, In in) {
                    f.si = resonance_of(in).high / numbers(in).step;
                    f.note = "full steps/s, " + in.words.speed(resonance_of(in).high);
                    if (in.workings) f.read_from = "1.2 times the natural frequency";
                },
            .read_from = source,
            .meaning = "Band about it, up to"},
        {.key = "stepper.resonance_time",
            .label = "In resonance",
            .kind = Kind::time,
            .needs = swing | pulses | speeds,
            .applies = swings,
            .fill =
                [](Figure& f, In in) {
                    const SteppingResonance r = resonance_of(in);
                    f.si = r.altogether();
                    f.note = r.stays.empty() ? std::string("the cycle never is")
                                             : std::to_string(r.stays.size()) + " times a cycle, " +
                                                   format_number(r.longest(), 3) + " s at the longest";
                    if (in.workings) f.read_from = "the speed of the cycle within the band, span by span";
                },
            .read_from = source,
            .meaning = "Time the cycle spends in that band"},
        {.key = "stepper.start_rate",
            .label = "Start rate with the load",
            .kind = Kind::frequency,
            .needs = travel | inertia | ratio_inertia | rotor | pulses,
            .applies = starts,
            .fill =
                [](Figure& f, In in) {
                    f.si = numbers(in).start_rate_with(in.results.inertia->load, in.results.inertia->rotor);
                    f.note = "full steps/s without a ramp, " + in.words.speed(f.si * numbers(in).step);
                    work(f, in, "f_start", "f_0/√(1 + J_L/J_R)", "f/sqrt(1+J_L/J_R)",
                        {{"f", numbers(in).start_rate}, {"J_L", in.results.inertia->load},
                            {"J_R", in.results.inertia->rotor}},
                        practice);
                },
            .read_from = source,
            .meaning = "Full steps/s it starts with this load without a ramp; absent where the sheet gives none"},
        {.key = "stepper.pulse_rate",
            .label = "Pulse rate at top speed",
            .kind = Kind::frequency,
            .needs = speeds | pulses,
            .applies = of_stepper,
            .fill =
                [](Figure& f, In in) {
                    f.si = micro(in) * steps_per_second(numbers(in), in.state.demand->peak_speed);
                    f.unit = "kHz";
                    work(f, in, "f", "N ω/α", "N*w/a",
                        {{"N", micro(in)}, {"w", in.state.demand->peak_speed}, {"a", numbers(in).step}});
                },
            .read_from = source,
            .meaning = "Microsteps a second at the cycle's top speed"},
        {.key = "stepper.pulse_speed",
            .label = "Speed at the controller's limit",
            .kind = Kind::angular_speed,
            .needs = pulses,
            .applies = pulses_limited,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.axis.drive.pulse_limit.si * numbers(in).step / micro(in);
                    work(f, in, "ω", "f_c α/N", "f*a/N",
                        {{"f", in.axis.drive.pulse_limit.si}, {"a", numbers(in).step}, {"N", micro(in)}});
                },
            .read_from = source,
            .meaning = "Speed of the motor at the controller's pulse limit"},
        {.key = "stepper.microsteps_possible",
            .label = "Microsteps possible",
            .kind = Kind::number,
            .needs = speeds | pulses,
            .applies = pulses_limited,
            .fill =
                [](Figure& f, In in) {
                    f.si = microsteps_possible(numbers(in), in.state.demand->peak_speed, in.axis.drive.pulse_limit.si);
                    f.note = "at the top speed of the cycle and this controller, as a power of two up to 256";
                    if (in.workings) f.read_from = "pulses a second at the top speed of the cycle";
                },
            .read_from = source,
            .meaning = "Largest power of two up to 256 that the controller can pulse at the top speed; 0: not even "
                       "full steps"},
    };
    return rows;
}

} // namespace fulmox

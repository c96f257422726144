#include "core/demand/emergency.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/match/torque_limit.h"
#include "core/motor/stepper.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr const char* drive_sheet = "datasheet of the drive";

const Missing no_continuous{"/drive/continuous_current", "continuous current of the drive"};

void judge_overload(Limit& l, In in) {
    const Drive& d = in.axis.drive;
    const auto& model = in.state.motor->can.model;
    if (!model) return lacks(l, {no_constant(in)});
    if (!d.continuous_current.given()) return lacks(l, {no_continuous});
    if (!in.state.overload) return set_cannot_say(l, "saturation keeps the motor from giving what the cycle needs");
    const OverloadIntegral& o = *in.state.overload;
    std::vector<Missing> missing = model->weakens() ? lacks_of_model(in) : std::vector<Missing>();
    if (o.greatest > 0 && !d.peak_current.given())
        missing.push_back({"/drive/peak_current", "peak current of the drive"});
    if (o.greatest > 0 && !d.peak_time.given()) missing.push_back({"/drive/peak_time", "peak duration of the drive"});
    if (!missing.empty()) return lacks(l, std::move(missing), o.greatest > 0 ? "exceeds the continuous rating" : "");
    l.used = o.greatest;
    l.allowed = o.budget;
    if (too_little_to_say(l, in)) return;
    if (o.greatest == 0) {
        // without a budget: its continuous current over a cycle
        l.allowed = std::isnan(o.budget) ? o.continuous * o.continuous * in.state.demand->cycle_time : o.budget;
        if (!conclude(l, in, drive_sheet)) return;
        l.reason = "the current never exceeds the continuous rating";
        return;
    }
    if (in.workings) {
        const MotorConditions& c = in.state.motor->can.model->conditions();
        l.working.push_back(working_line("W", "(I_p² − I_c²) t_p", "(I_p^2-I_c^2)*t_p",
            {{"I_p", c.drive_peak}, {"I_c", c.drive_continuous}, {"t_p", in.axis.drive.peak_time.si}}, o.budget,
            Kind::current_squared_time, "from empty"));
    }
    if (!conclude(l, in, drive_sheet)) return;
    if (o.trips)
        l.reason = "the drive trips in cycle " + format_number(o.trip_cycle, 6) + " after " +
                   format_number(o.trip_time, 3) + " s of it";
    else
        l.reason = in.words.say(o.greatest, l.kind) + " of " + in.words.say(o.budget, l.kind) + " beyond " +
                   format_number(o.continuous, 3) + " A at the most";
    if (l.state != LimitState::fits) l.remedy = "A larger drive, shorter peaks, or more time between them.";
}

bool has_standstill(In in) { return has_servo_drive(in) && in.axis.drive.standstill_share.given(); }

void judge_standstill(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    if (!u.can.model) return lacks(l, {no_constant(in)});
    if (!in.axis.drive.continuous_current.given()) return lacks(l, {no_continuous});
    const double holds = in.state.demand->holding_torque;
    l.used = u.can.model->without_voltage_limit(holds, 0).current;
    l.allowed = in.axis.drive.standstill_share.si * u.can.model->conditions().drive_continuous;
    if (!conclude(l, in, drive_sheet)) return;
    l.reason = format_number(l.used, 3) + " A to hold " + in.words.torque(holds) + ", of " +
               format_number(l.allowed, 3) + " A that the drive gives at standstill";
    if (l.state != LimitState::fits) l.remedy = "A brake in long holds, a counterbalance, or a larger drive.";
}

bool has_any_drive(In in) { return in.axis.has_drive(); }

void judge_highest(Limit& l, In in) {
    const Drive& d = in.axis.drive;
    if (!conclude(l, in,
            {held_against(
                d.highest_bus(), d.highest_voltage, "/drive/highest_voltage", "highest bus voltage of the drive")},
            drive_sheet))
        return;
    l.reason = format_number(l.used, 4) + " V with mains high, of " + format_number(l.allowed, 4) +
               " V; braking raises it further";
    if (l.state != LimitState::fits) l.remedy = "A lower bus, or a drive for a higher one.";
}

void judge_lowest(Limit& l, In in) {
    // as a share of what there is, so that less is better
    Clause c{in.axis.drive.lowest_voltage.si, in.axis.drive.lowest_bus()};
    if (!in.axis.drive.lowest_voltage.given())
        c.missing.push_back({"/drive/lowest_voltage", "lowest bus voltage of the drive"});
    if (!conclude(l, in, {c}, drive_sheet)) return;
    l.reason = "the drive works from " + format_number(l.used, 4) + " V; the bus falls to " +
               format_number(l.allowed, 4) + " V with mains low";
    if (l.state != LimitState::fits) l.remedy = "A higher bus, or a drive for a lower one.";
}

bool has_dial(In in) { return in.axis.driven() && in.axis.motor.stepper() && has_any_drive(in); }

void judge_dial(Limit& l, In in) {
    const Drive& d = in.axis.drive;
    const bool peak = d.dial == AmperesAs::peak;
    l.used = d.phase_current.given() ? d.phase_current.si
                                     : stepper_numbers(in.axis.motor).current * (peak ? std::numbers::sqrt2 : 1);
    if (!conclude(l, in,
            {held_against(l.used, d.most_current, "/drive/most_current", "highest setting of the drive's dial")},
            drive_sheet))
        return;
    if (l.state == LimitState::tight) l.state = LimitState::fits; // a dial turned up to its end is no risk
    l.reason = Text(d.phase_current.given() ? "set to " : "as the motor is rated, ") + format_number(l.used, 3) +
               " A " + (peak ? "peak" : "RMS") + "; the dial goes up to " + format_number(l.allowed, 3) + " A";
    if (l.state != LimitState::fits) l.remedy = "A drive with more phase current, or less current and less torque.";
}

// The torque limit holds in an emergency stop too.
bool has_limited_stop(In in) { return stop_is_limited(in.axis); }

void judge_stop(Limit& l, In in) {
    if (!in.state.demand) return set_cannot_say(l, "the demand is not known");
    const Demand& d = *in.state.demand;
    l.used = d.stop_torque_asked;
    l.allowed = in.axis.drive.torque_limit.si;
    if (!conclude(l, in, "torque limit as programmed")) return;
    if (d.stop_asked <= 0) {
        l.reason = "it never moves";
        return;
    }
    l.reason = in.words.torque(l.used) + " to stop in " + in.words.say(d.stop_asked, Kind::time) + ", of " +
               in.words.torque(l.allowed) + " that the torque limit permits";
    if (d.stops_in_time) return;
    l.reason += d.stop_ends ? "; with that it takes " + in.words.say(d.stop_time, Kind::time)
                            : Text("; with that it never stops");
    l.remedy = d.stop_ends ? "A longer emergency stop, or a higher torque limit." : "A higher torque limit.";
}

void judge_drive_current(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    if (!u.can.model) return lacks(l, {no_constant(in)});
    const MotorConditions& c = u.can.model->conditions();
    const Drive& drive = in.axis.drive;
    // where the bus does not reach, the currents are too small
    const bool more = u.beyond_voltage && u.can.model->weakens();
    const auto clause = [&](double used, double allowed, const QuantityBase& given, const char* key, const char* name) {
        Clause out{used, allowed};
        if (!given.given()) out = {used, no_number, {{std::string("/drive/") + key, name}}};
        if (u.can.model->weakens())
            for (Missing& m : lacks_of_model(in)) out.missing.push_back(std::move(m));
        return out;
    };
    const std::vector<Clause> clauses{
        clause(u.peak_current, c.drive_peak, drive.peak_current, "peak_current", "peak current of the drive"),
        clause(u.rms_current, c.drive_continuous, drive.continuous_current, "continuous_current",
            "continuous current of the drive")};
    if (more && std::none_of(clauses.begin(), clauses.end(), [](const Clause& x) { return x.use() > 1; }))
        return set_cannot_say(l, not_reached);
    const auto worst = conclude(l, in, clauses, "drive datasheet; currents of torque and speed");
    if (!worst) return;
    const bool peak = *worst == 0;
    l.reason = format_number(l.used, 3) + " A of " + format_number(l.allowed, 3) + " A" +
               (u.can.model->numbers().sine_driven ? " RMS" : "") + (peak ? ", peak" : ", RMS over the cycle");
    if (l.state != LimitState::fits)
        l.remedy = "A larger drive, a winding with more torque per ampere, or gentler moves.";
}

} // namespace

Rows drive_rows() {
    using namespace need;
    constexpr const char* source = "the parts between motor and load, and the demand at them";
    Rows rows{.section = Section::drive};
    rows.limits = {
        {.key = "drive_current",
            .label = "Drive current",
            .kind = Kind::current,
            .needs = need::demand | current | temperatures,
            .part = "drive",
            .of_motor = true,
            .applies = has_servo_drive,
            .judge = judge_drive_current,
            .meaning = "RMS and peak current against the drive's, the tighter; cannot be said where one of them is not "
                       "given; present where a drive is in place"},
        {.key = "drive_stop",
            .label = "Drive, emergency stop",
            .kind = Kind::torque,
            .needs = need::demand | stop,
            .part = "drive",
            .applies = has_limited_stop,
            .judge = judge_stop,
            .allowed_by = {"/drive/torque_limit"},
            .meaning = "Torque of an emergency stop in the time that is asked, against the torque limit; present where "
                       "both are given"},
        {.key = "drive_overload",
            .label = "Drive, I²t",
            .kind = Kind::current_squared_time,
            .needs = of_overload,
            .reads = AxisResult::overload,
            .part = "drive",
            .of_motor = true,
            .applies = has_servo_drive,
            .judge = judge_overload,
            .allowed_by = {"/drive/peak_time"},
            .meaning = "Greatest ∫(I² − I_c²) dt of all cycles, from empty and never below zero, against (I_p² − I_c²) "
                       "t_p; A²s. `used` is null where it grows from cycle to cycle"},
        {.key = "drive_standstill",
            .label = "Drive, standstill",
            .kind = Kind::current,
            .needs = need::demand | current | temperatures | drive_overload,
            .part = "drive",
            .of_motor = true,
            .applies = has_standstill,
            .judge = judge_standstill,
            .allowed_by = {"/drive/standstill_share"},
            .meaning = "Current to hold at rest against the share of the continuous current the drive gives near 0 Hz"},
        {.key = "drive_highest",
            .label = "Drive, bus at its highest",
            .kind = Kind::voltage,
            .needs = voltage | drive_window,
            .part = "drive",
            .applies = has_any_drive,
            .judge = judge_highest,
            .allowed_by = {"/drive/highest_voltage"},
            .asked_by = {"/drive/mains_rise"},
            .meaning = "Bus voltage with mains high against the highest the drive works at"},
        {.key = "drive_dial",
            .label = "Drive, dial",
            .kind = Kind::current,
            .needs = current | drive_overload,
            .part = "drive",
            .of_motor = true,
            .applies = has_dial,
            .judge = judge_dial,
            .allowed_by = {"/drive/most_current"},
            .asked_by = {"/drive/phase_current"},
            .meaning = "Phase current a stepper is set to against the most that the dial of its drive goes up to, in "
                       "the amperes of the dial"},
        {.key = "drive_lowest",
            .label = "Drive, bus at its lowest",
            .kind = Kind::voltage,
            .needs = voltage | drive_window,
            .part = "drive",
            .applies = has_any_drive,
            .judge = judge_lowest,
            .asked_by = {"/drive/lowest_voltage"},
            .meaning = "Lowest voltage the drive works at against the bus with mains low"},
    };
    rows.figures = {
        {.key = "drive.torque_limit",
            .label = "Torque limit to program",
            .kind = Kind::torque,
            .needs = travel | need::force | need::losses | need::thread | need::stage | need::coupling |
                     need::buckling | motor_shaft,
            .applies = [](In in) { return turns(in) && !torque_limit(in.axis, in.load, in.policy).part.empty(); },
            .fill =
                [](Figure& f, In in) {
                    const TorqueLimit t = torque_limit(in.axis, in.load, in.policy);
                    f.si = t.torque;
                    f.note = "so that " + t.name + " is asked for no more than its sheet permits";
                },
            .read_from = source,
            .meaning = "Torque limit to program, so that no part downstream is asked for more than its sheet permits"},
        {.key = "drive.overload",
            .label = "Drive, most I²t",
            .kind = Kind::current_squared_time,
            .needs = need::demand | current | resistance | temperatures | voltage | drive_overload,
            .reads = AxisResult::overload,
            .applies =
                [](In in) {
                    return in.axis.driven() && !in.axis.motor.stepper() && in.axis.drive.continuous_current.given() &&
                           (in.waits || in.state.overload);
                },
            .fill =
                [](Figure& f, In in) {
                    f.si = std::isfinite(in.state.overload->greatest) ? in.state.overload->greatest : no_number;
                    f.note = std::isfinite(f.si) ? "beyond the continuous current" : "it grows from cycle to cycle";
                },
            .read_from = source,
            .meaning = "Greatest ∫(I² − I_c²) dt, A²s; null where it grows from cycle to cycle"},
    };
    return rows;
}

} // namespace fulmox

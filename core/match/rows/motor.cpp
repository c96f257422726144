#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/stepper.h"
#include "core/match/rows/subjects.h"
#include "core/match/rows/workings.h"
#include "core/match/stepping.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

// What the peak curve leaves out, so that it promises too much: of the motor where it follows from the constants, and
// of the drive where its peak current is not given.
std::vector<Missing> lacks_of_peak(In in) {
    const Capability& c = in.state.motor->can;
    std::vector<Missing> out;
    if (c.peak_by_model) {
        out = lacks_of_model(in);
        const MotorNumbers& n = c.model->numbers();
        if (!n.stepper && !(n.peak_current > 0) && !(n.peak_torque > 0))
            out.push_back({"/motor/electric/peak_current", "peak current of the motor"});
    }
    if (has_servo_drive(in) && !in.axis.drive.peak_current.given())
        out.push_back({"/drive/peak_current", "peak current of the drive"});
    return out;
}

// The same of what may run continuously; a sheet's curve tells it without the drive.
std::vector<Missing> lacks_of_continuous(In in, bool with_drive) {
    if (!in.state.motor->can.continuous_by_model) return {};
    std::vector<Missing> out = lacks_of_model(in);
    if (with_drive && has_servo_drive(in) && !in.axis.drive.continuous_current.given())
        out.push_back({"/drive/continuous_current", "continuous current of the drive"});
    return out;
}

void judge_speed(Limit& l, In in) {
    const Demand& d = *in.state.demand;
    const Capability& c = in.state.motor->can;
    l.used = d.peak_speed;
    l.allowed = c.max_speed;
    l.share = in.policy.speed_share.si;
    if (in.workings) {
        const LoadModel& m = d.load;
        if (m.path == LoadModel::Path::straight && !m.motion.rotary && !m.motion.direct)
            l.working.push_back(working_line("ω", "v i/r", "v*i/r",
                {{"v", in.results.motion->peak_speed}, {"i", m.ratio}, {"r", m.radius}}, d.peak_speed,
                Kind::angular_speed, "kinematics"));
        if (std::isfinite(c.mechanical_speed))
            l.working.push_back(working_line("ω_max",
                c.peak_by_model ? "min(ω_mech, end of torque at this bus)" : "min(ω_mech, ω_curve · U/U_0)",
                "min(w_m, w_c)", {{"w_m", c.mechanical_speed}, {"w_c", c.peak.end()}}, c.max_speed, Kind::angular_speed,
                c.peak_by_model ? "voltage equations of the machine, the worse of cold and hot"
                                : "estimate: the end of the peak curve moves with the bus voltage"));
    }
    if (!conclude_but_for(l, in, c.peak_by_model ? lacks_of_model(in) : std::vector<Missing>(), "motor datasheet"))
        return;
    l.reason =
        in.words.speed(l.used) + " of " + in.words.speed(l.allowed) +
        (c.mechanical_speed <= c.peak.end() ? ", the mechanical limit" : ", where the bus voltage ends the peak curve");
    if (l.state != LimitState::fits)
        l.remedy = remedies(
            {travel_remedy(in.axis, true), "more time for the fastest move", "a faster motor", "a higher bus voltage"});
}

void judge_peak_torque(Limit& l, In in) {
    if (open_loop(in.axis)) return judge_pull_out(l, in);
    const MotorUse& u = *in.state.motor;
    const Demand& d = *in.state.demand;
    l.used = std::abs(u.worst_peak.torque);
    l.allowed = u.worst_peak_allowed;
    l.share = in.policy.peak_torque_share.si;
    if (in.workings) l.working.push_back(sum_of_causes(u.worst_peak));
    if (!conclude_but_for(l, in, lacks_of_peak(in), "motor datasheet, peak curve at the actual bus voltage")) return;
    const bool starting = l.used > 0 && u.worst_peak.speed == 0 && u.worst_peak.torque == d.breakaway.torque;
    l.reason = in.words.torque(l.used) + (starting ? " to break away" : "") + " at " +
               in.words.speed(std::abs(u.worst_peak.speed)) + ", " + format_number(u.worst_peak.time, 3) +
               " s into the cycle; the curve gives " + in.words.torque(l.allowed) + " there";
    if (l.state != LimitState::fits)
        l.remedy = remedies({"gentler acceleration", "less moving mass",
            motion_of(in.axis.mechanism).has & Motion::inclination ? "a counterbalance" : "",
            std::holds_alternative<Screw>(in.axis.mechanism)   ? "another lead"
            : motion_of(in.axis.mechanism).has & Motion::shaft ? "another ratio"
                                                               : "",
            motion_of(in.axis.mechanism).direct ? "a motor with more peak force" : "a motor with more peak torque"});
}

void rms_working(Limit& l, In in) {
    const Working w = rms_sum(*in.state.demand, in.axis.cycle.segments.size());
    l.working.insert(l.working.end(), w.begin(), w.end());
}

void judge_heat_by_loss(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    l.share = in.policy.continuous_share.si;
    if (std::isnan(u.heat_allowed) && u.can.continuous_by_model) return set_cannot_say(l, not_reached);
    if (std::isnan(u.heat_allowed))
        return set_cannot_say(l, "the cycle runs up to " + in.words.speed(in.state.demand->peak_speed) +
                                     ", the continuous curve ends at " + in.words.speed(u.can.continuous.end()) +
                                     " and is not extrapolated");
    l.used = u.heat_torque;
    l.allowed = u.heat_allowed;
    if (in.workings) {
        rms_working(l, in);
        l.working.push_back(working_line("allowed", "√(mean of T_c'(ω)²)", "sqrt(max(0, m))", {{"m", u.heat_left}},
            l.allowed, Kind::torque,
            u.can.continuous_by_model
                ? "heat of the current at every torque and speed, and of iron and friction by the rated point"
                : "loss method: the fall of the continuous curve is iron and friction heat"));
    }
    if (!conclude_but_for(l, in, lacks_of_continuous(in, false), "IEC 60034-1 S1 rating; loss method")) return;
    // nothing is left for copper, whatever the torque
    if (u.heat_left < 0) l.state = LimitState::over;
    l.reason = u.heat_left <= 0
                   ? Text("iron and friction losses alone exceed what this motor may dissipate here")
                   : (u.can.continuous_by_model ? "equivalent continuous torque " : "RMS torque ") +
                         in.words.torque(l.used) + " of " + in.words.torque(l.allowed) + " at the speeds of the cycle";
    if (l.state != LimitState::fits)
        l.remedy =
            "More dwell, gentler ramps, counterbalance, brake in long holds, or a motor with more continuous torque.";
}

void judge_heat_by_point(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    const Demand& d = *in.state.demand;
    const bool mean = in.policy.point_speed == PointSpeed::mean;
    const double speed = mean ? d.mean_speed : d.rms_speed;
    const std::string which = mean ? "mean" : "RMS";
    l.used = d.rms_torque;
    l.allowed = mean ? u.point_at_mean : u.point_at_rms;
    l.share = in.policy.continuous_share.si;
    if (std::isnan(l.allowed)) return set_cannot_say(l, "the " + which + " speed lies beyond the continuous curve");
    if (in.workings) {
        rms_working(l, in);
        l.working.push_back(continuous_by_point(u.can, speed, l.allowed, which));
    }
    if (!conclude_but_for(l, in, lacks_of_continuous(in, true), "IEC 60034-1 S1 rating; point method")) return;
    l.reason = in.words.torque(l.used) + " RMS at " + in.words.speed(speed) + " " + which +
               " speed; the continuous curve gives " + in.words.torque(l.allowed);
    if (l.state != LimitState::fits)
        l.remedy = "As for continuous heat; the point method is the stricter school for cycles with short fast parts.";
}

void judge_holding(Limit& l, In in) {
    if (open_loop(in.axis)) return judge_stepper_holding(l, in);
    const Demand& d = *in.state.demand;
    const MotorUse& u = *in.state.motor;
    l.used = d.holding_torque;
    l.allowed = u.can.continuous_stall();
    l.share = in.policy.continuous_share.si;
    if (in.workings) l.working.push_back(continuous_at_rest(u.can));
    if (!conclude_but_for(l, in, lacks_of_continuous(in, true), "motor datasheet, standstill torque")) return;
    l.reason = in.words.torque(l.used) + " to hold" +
               (in.axis.credit_friction_at_rest ? ", friction credited" : ", friction not credited");
    if (l.state != LimitState::fits)
        l.remedy = remedies({"a counterbalance", "a brake that holds in dwells", travel_remedy(in.axis, false)});
}

// The cycle's largest current against what the magnets and the winding bear.
void judge_motor_current(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    if (!u.can.model) return lacks(l, {no_constant(in)});
    l.used = u.peak_current;
    l.allowed = u.can.model->numbers().peak_current;
    if (too_little_to_say(l, in)) return;
    if (!conclude_but_for(l, in, u.can.model->weakens() ? lacks_of_model(in) : std::vector<Missing>(),
            "motor datasheet, peak current"))
        return;
    l.reason = format_number(l.used, 3) + " A of " + format_number(l.allowed, 3) + " A" +
               (u.can.model->numbers().sine_driven ? " RMS, hot" : ", hot");
    if (l.state != LimitState::fits)
        l.remedy =
            "Gentler acceleration, or set the drive below the motor's peak current: beyond it magnets may lose flux.";
}

// What the cycle needs by the constants, of what the bus at its lowest lets the drive make.
void judge_voltage(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    const ElectricModel& m = *u.can.model;
    const Drive& drive = in.axis.drive;
    l.used = u.voltage;
    l.allowed = m.voltage_there();
    l.share = in.policy.voltage_share.value_or(1);
    if (in.workings && m.numbers().sine_driven)
        l.working.push_back(working_line("U", "√3 · share of a phase · reserve · bus (1 − δ_m)(1 − δ_d)",
            "sqrt(3)*s*m*U_b*(1-d_m)*(1-d_d)",
            {{"s", m.conditions().phase_share}, {"m", m.conditions().reserve}, {"U_b", drive.bus_voltage.si},
                {"d_m", drive.mains_tolerance.value_or(0)}, {"d_d", drive.bus_droop.value_or(0)}},
            l.allowed, Kind::voltage, "modulation of the drive; peak between the lines"));
    else if (in.workings)
        l.working.push_back(working_line("U", "bus (1 − δ_m)(1 − δ_d)", "U_b*(1-d_m)*(1-d_d)",
            {{"U_b", drive.bus_voltage.si}, {"d_m", drive.mains_tolerance.value_or(0)},
                {"d_d", drive.bus_droop.value_or(0)}},
            l.allowed, Kind::voltage, "DC bus"));
    // without resistance, inductance or pole pairs it is a lower bound: it may be over, but it cannot fit
    if (std::vector<Missing> left_out = lacks_of_model(in); !left_out.empty() && l.used <= l.allowed)
        return lacks(l, std::move(left_out),
            "at least " + format_number(l.used, 3) + " of " + format_number(l.allowed, 3) + " V");
    if (!conclude(l, in, "voltage equations of the machine, the worse of cold and hot")) return;
    l.reason = format_number(l.used, 3) + " V between the " +
               (m.numbers().base == EmfBase::dc ? "terminals" : "lines") + " at the most, of " +
               format_number(l.allowed, 3) + " V with the bus at its lowest";
    if (l.state != LimitState::fits)
        l.remedy =
            "A winding of fewer volts per speed, a higher bus, less speed or torque at speed, or field weakening.";
}

// The rotor's own share is counted too: part of it never passes the shaft.
void judge_shaft(Limit& l, In in) {
    const Demand& d = *in.state.demand;
    l.used = std::max({std::abs(d.peak.torque), d.holding_torque, d.emergency_torque});
    l.allowed = in.axis.motor.shaft_torque.si;
    // with a no-load torque the efficiency is that at the rated torque; without one more is lost, which helps to stop
    std::vector<Missing> missing;
    for (std::size_t i = 0; i < in.axis.stages.size(); ++i)
        if (const Stage& s = in.axis.stages[i]; s.no_load_torque.value_or(0) > 0 && !s.rated_torque.given())
            missing.push_back({"/stages/" + std::to_string(i) + "/rated_torque",
                "rated torque of " + (s.name.empty() ? "stage " + std::to_string(i + 1) : s.name)});
    if (!conclude_but_for(l, in, std::move(missing), "motor datasheet, shaft")) return;
    l.reason = in.words.torque(l.used) + " at the most" +
               (d.emergency_torque == l.used ? ", in the emergency stop" : "") +
               ", the rotor's own share included, of " + in.words.torque(l.allowed);
    if (known_peak(in)) l.reason += "; the motor's own peak is " + in.words.torque(known_peak(in)->peak.stall());
    if (l.state != LimitState::fits) l.remedy = "Gentler acceleration, a ratio, or a motor with a stronger shaft.";
}

// What a spinning motor puts on the bus once the drive lets go.
void judge_open_circuit(Limit& l, In in) {
    if (!in.state.motor->can.model) return lacks(l, {no_constant(in)});
    const ElectricModel& m = *in.state.motor->can.model;
    const double speed = in.state.demand->peak_speed;
    l.used = m.open_circuit_emf(speed);
    l.allowed = in.axis.drive.trip_voltage.si;
    if (in.workings)
        l.working.push_back(
            working_line("E", "E per speed, cold · ω", "K*w", {{"K", m.open_circuit_emf(1)}, {"w", speed}}, l.used,
                Kind::voltage, "open-circuit EMF between lines, cold magnets"));
    if (!conclude(l, in, "drive datasheet, overvoltage trip")) return;
    l.reason = format_number(l.used, 3) + " V between the lines at top speed, of " + format_number(l.allowed, 3) + " V";
    if (l.state != LimitState::fits)
        l.remedy = "A lower top speed, a winding with a lower voltage constant, or a drive rated for the back-EMF when "
                   "disabled.";
}

void judge_brush_speed(Limit& l, In in) {
    l.used = in.state.demand->peak_speed;
    l.allowed = std::get<BrushedMotor>(in.axis.motor.electric).brush_speed.si;
    if (!conclude(l, in, "motor datasheet, brushes")) return;
    l.reason = in.words.speed(l.used) + " of " + in.words.speed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "A lower speed, or a motor without brushes.";
}

const ElectricModel* model_of(In in) {
    return in.state.motor && in.state.motor->can.model ? &*in.state.motor->can.model : nullptr;
}

bool has_motor_current(In in) {
    return in.axis.driven() && std::visit(
                                   [](const auto& m) {
                                       if constexpr (requires { m.peak_current; }) return m.peak_current.given();
                                       return false;
                                   },
                                   in.axis.motor.electric);
}

// A winding for 24 V on a bus of 320 V turns well in the calculation and not for long in the machine.
void judge_bus_rating(Limit& l, In in) {
    constexpr double most = 2;
    const double rated = rated_voltage(in.axis.motor);
    l.used = in.axis.drive.bus_voltage.si;
    l.allowed = most * rated;
    if (in.workings)
        l.working.push_back(
            working_line("U_max", "2 · rated voltage", "2*U_n", {{"U_n", rated}}, l.allowed, Kind::voltage, practice));
    if (!conclude(l, in, practice)) return;
    l.reason = "bus of " + format_number(l.used, 4) + " V, motor rated " + format_number(rated, 4) +
               " V; above twice that, insulation, ripple and brushes are outside their rating";
    if (l.state != LimitState::fits) l.remedy = "A lower bus, or a winding for this voltage.";
}

bool has_rated_voltage(In in) { return has_motor(in) && rated_voltage(in.axis.motor) > 0; }

bool has_voltage(In in) {
    const ElectricModel* m = model_of(in);
    // a sheet's own curve speaks for a motor whose constants are not all there
    return m && !m->weakens() && (m->approximate().empty() || in.state.motor->can.peak_by_model);
}

bool has_shaft(In in) { return in.axis.driven() && turns(in) && in.axis.motor.shaft_torque.given(); }

bool has_trip(In in) { return in.axis.driven() && in.axis.drive.trip_voltage.given(); }

bool has_brush_speed(In in) {
    const auto* m = std::get_if<BrushedMotor>(&in.axis.motor.electric);
    return in.axis.driven() && m && m->brush_speed.given();
}

// the current of an open-loop stepper is no image of its torque
bool by_loss(In in) { return !open_loop(in.axis) && in.policy.heat_judge != HeatJudge::point; }

bool by_point(In in) { return !open_loop(in.axis) && in.policy.heat_judge != HeatJudge::loss; }

bool has_servo(In in) { return has_motor(in) && !open_loop(in.axis); }

bool has_constant(In in) { return has_motor(in) && in.axis.motor.has_constant(); }

bool has_resistance(In in) {
    return has_constant(in) && std::visit([](const auto& m) { return m.resistance.given(); }, in.axis.motor.electric);
}

// Below the voltage knee, without saturation and friction of its own, current is torque over its constant.
bool plain_current(In in) {
    const MotorNumbers& n = in.results.can->model->numbers();
    return !n.stepper && !in.results.can->model->conditions().weakening && n.saturation == 0 && n.friction() == 0;
}

Text current_note(In in) {
    std::string out = in.results.can->model->numbers().stepper       ? "A RMS of a phase, hot"
                      : in.results.can->model->numbers().sine_driven ? "A RMS of the line, hot"
                                                                     : "A of the DC link, hot";
    if (in.state.motor->beyond_voltage) out += "; by its constants the bus does not reach all of the cycle";
    return Text(out);
}

} // namespace

Rows motor_rows() {
    using namespace need;
    constexpr const char* source = "the demand on the curves of the motor, span by span";
    Rows rows{.section = Section::motor};
    rows.limits = {
        {.key = "speed",
            .label = "Top speed",
            .kind = Kind::angular_speed,
            .needs = speeds | peak_curve | voltage | top_speed,
            .part = "motor",
            .of_motor = true,
            .applies = always,
            .judge = judge_speed,
            .allowed_by = {"/motor/max_speed"},
            .meaning = "Top speed"},
        {.key = "peak_torque",
            .label = "Peak torque on curve",
            .direct_label = "Peak force on curve",
            .open_loop_label = "Pull-out torque",
            .kind = Kind::torque,
            .needs = need::demand | peak_curve | voltage,
            .part = "motor",
            .of_motor = true,
            .applies = always,
            .judge = judge_peak_torque,
            .meaning = "Peak torque on curve; of an open-loop stepper against the share of its pull-out torque that "
                       "the policy allows"},
        {.key = "continuous_loss",
            .label = "Continuous heat",
            .kind = Kind::torque,
            .needs = need::demand | continuous_curve | surroundings,
            .part = "motor",
            .of_motor = true,
            .applies = by_loss,
            .judge = judge_heat_by_loss,
            .meaning = "Continuous heat; not of an open-loop stepper, nor where the policy judges by the point method"},
        {.key = "continuous_point",
            .label = "Continuous torque, point",
            .direct_label = "Continuous force, point",
            .kind = Kind::torque,
            .needs = need::demand | continuous_curve | surroundings | peak_curve | voltage,
            .part = "motor",
            .of_motor = true,
            .applies = by_point,
            .judge = judge_heat_by_point,
            .meaning = "Continuous torque, point; at the mean or the RMS speed, as the policy says"},
        {.key = "holding",
            .label = "Holding at rest",
            .kind = Kind::torque,
            .needs = need::load | continuous_curve | surroundings,
            .part = "motor",
            .of_motor = true,
            .applies = always,
            .judge = judge_holding,
            .meaning = "Holding at rest"},
        {.key = "motor_current",
            .label = "Motor peak current",
            .kind = Kind::current,
            .needs = need::demand | current | temperatures,
            .part = "motor",
            .of_motor = true,
            .applies = has_motor_current,
            .judge = judge_motor_current,
            .meaning =
                "Largest current of the cycle against the motor's peak current; present where the sheet gives one"},
        {.key = "voltage",
            .label = "Voltage, bus at its lowest",
            .kind = Kind::voltage,
            .needs = need::demand | current | temperatures | voltage | resistance,
            .part = "drive",
            .of_motor = true,
            .applies = has_voltage,
            .judge = judge_voltage,
            .meaning = "Peak between the lines (terminals) the cycle needs by the constants, of what the bus at its "
                       "lowest lets the drive make; not present where the field is weakened"},
        {.key = "bus_rating",
            .label = "Bus against rated voltage",
            .kind = Kind::voltage,
            .needs = current | voltage,
            .part = "motor",
            .of_motor = true,
            .applies = has_rated_voltage,
            .judge = judge_bus_rating,
            .allowed_by = {"/motor/electric/rated_voltage"},
            .meaning = "Bus voltage against twice the motor's rated voltage; present where the sheet gives one"},
        {.key = "shaft",
            .label = "Motor shaft",
            .kind = Kind::torque,
            .needs = need::demand | stop | motor_shaft,
            .part = "motor",
            .of_motor = true,
            .applies = has_shaft,
            .judge = judge_shaft,
            .allowed_by = {"/motor/shaft_torque"},
            .meaning = "Largest torque of cycle and emergency stop, the rotor's own share included, against what the "
                       "shaft carries; present where the sheet gives it"},
        {.key = "open_circuit_emf",
            .label = "Open-circuit EMF",
            .kind = Kind::voltage,
            .needs = speeds | current | temperatures | voltage,
            .part = "drive",
            .of_motor = true,
            .applies = has_trip,
            .judge = judge_open_circuit,
            .allowed_by = {"/drive/trip_voltage"},
            .meaning =
                "EMF at top speed, cold magnets, against the drive's overvoltage trip; present where it is given"},
        {.key = "brush_speed",
            .label = "Brush speed",
            .kind = Kind::angular_speed,
            .needs = speeds | top_speed,
            .part = "motor",
            .of_motor = true,
            .applies = has_brush_speed,
            .judge = judge_brush_speed,
            .allowed_by = {"/motor/electric/brush_speed"},
            .meaning = "Greatest speed of the brushes; present where the sheet gives one"},
    };
    rows.figures = {
        {.key = "motor.max_speed",
            .label = "Top speed at this bus",
            .kind = Kind::angular_speed,
            .needs = peak_curve | voltage | top_speed,
            .applies = has_motor,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.can->max_speed;
                    if (std::isfinite(in.results.can->mechanical_speed))
                        work(f, in, "ω_max", "min(ω_mech, ω_curve · U/U_0)", "min(w_m, w_c)",
                            {{"w_m", in.results.can->mechanical_speed}, {"w_c", in.results.can->peak.end()}},
                            "estimate: the end of the peak curve moves with the bus voltage");
                },
            .read_from = source,
            .meaning = "Top speed at this bus"},
        {.key = "motor.continuous_stall",
            .label = "Continuous torque here",
            .kind = Kind::torque,
            .needs = continuous_curve | surroundings,
            .applies = has_servo,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.can->continuous_stall();
                    f.note = "at this ambient and altitude";
                    if (in.workings) f.working = {continuous_at_rest(*in.results.can)};
                },
            .read_from = source,
            .meaning = "Continuous torque here, at this ambient and altitude"},
        {.key = "motor.continuous_at_mean_speed",
            .label = "Continuous torque, mean speed",
            .kind = Kind::torque,
            .needs = speeds | continuous_curve | surroundings | peak_curve | voltage,
            .applies = has_servo,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.motor->point_at_mean;
                    f.note = std::isnan(f.si) ? "the mean speed lies beyond the continuous curve" : "point method";
                    if (in.workings && !std::isnan(f.si))
                        f.working = {continuous_by_point(*in.results.can, in.state.demand->mean_speed, f.si, "mean")};
                },
            .read_from = source,
            .meaning = "Continuous torque at the mean speed; null beyond the curve"},
        {.key = "motor.continuous_at_rms_speed",
            .label = "Continuous torque, RMS speed",
            .kind = Kind::torque,
            .needs = speeds | continuous_curve | surroundings | peak_curve | voltage,
            .applies = has_servo,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.motor->point_at_rms;
                    f.note = std::isnan(f.si) ? "the RMS speed lies beyond the continuous curve" : "point method";
                    if (in.workings && !std::isnan(f.si))
                        f.working = {continuous_by_point(*in.results.can, in.state.demand->rms_speed, f.si, "RMS")};
                },
            .read_from = source,
            .meaning = "Continuous torque at the RMS speed; null beyond the curve"},
        {.key = "motor.heat_use",
            .label = "Heat used, loss method",
            .kind = Kind::number,
            .needs = need::demand | continuous_curve | surroundings,
            .applies = has_servo,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.motor->heat_use();
                    f.unit = "%";
                    f.note = std::isnan(f.si) ? "the cycle runs beyond the continuous curve" : "";
                    if (std::isfinite(f.si) && in.state.motor->heat_left > 0)
                        work(f, in, "use",
                            in.results.can->continuous_by_model ? "T_eq/√(mean[T_c'(ω)²])" : "T_rms/√(mean[T_c'(ω)²])",
                            "T/sqrt(m)", {{"T", in.state.motor->heat_torque}, {"m", in.state.motor->heat_left}},
                            in.results.can->continuous_by_model
                                ? "heat of the current at every torque and speed"
                                : "loss method: the fall of the continuous curve is iron and friction heat");
                },
            .read_from = source,
            .meaning = "Heat used, loss method"},
        {.key = "motor.acceleration",
            .label = "Acceleration at top speed",
            .kind = Kind::angular_acceleration,
            .needs = need::demand | ratio_inertia | peak_curve | voltage,
            .applies = [](In in) { return has_motor(in) && turns(in) && inertia_given(in); },
            .fill =
                [](Figure& f, In in) {
                    const double torque = in.state.motor->can.peak.at(in.state.demand->peak_speed);
                    f.si = torque / (in.results.inertia->load + in.results.inertia->rotor);
                    f.note = "what the peak torque there would give rotor and load; a larger rotor may be slower";
                    work(f, in, "α", "T_p/(J_L + J_R)", "T/(J_L+J_R)",
                        {{"T", torque}, {"J_L", in.results.inertia->load}, {"J_R", in.results.inertia->rotor}},
                        "equation of motion");
                },
            .read_from = source,
            .meaning = "What the peak torque at the cycle's top speed gives rotor and load; motors are compared by it"},
        {.key = "motor.rms_current",
            .label = "RMS current",
            .kind = Kind::current,
            .needs = need::demand | current | temperatures,
            .reads = AxisResult::currents,
            .applies = has_constant,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.motor->rms_current;
                    f.note = current_note(in);
                    if (plain_current(in))
                        work(f, in, "I_rms", "T_rms/K_t, hot", "T/K",
                            {{"T", in.state.demand->rms_torque}, {"K", in.results.can->model->torque_of(1, true)}},
                            "torque constant at the hot motor's temperature");
                    else if (in.workings)
                        f.read_from = "current at every torque and speed of the cycle, by quadrature";
                },
            .read_from = source,
            .meaning = "RMS current over the cycle, hot: A RMS of the line, or of a stepper's phase; A of the DC link "
                       "of a DC machine"},
        {.key = "motor.peak_current",
            .label = "Peak current",
            .kind = Kind::current,
            .needs = need::demand | current | temperatures,
            .reads = AxisResult::currents,
            .applies = has_constant,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.motor->peak_current;
                    f.note = current_note(in);
                    if (in.workings) f.read_from = "current at every torque and speed of the cycle; the largest, hot";
                },
            .read_from = source,
            .meaning = "Largest current of the cycle, hot, in the same amperes"},
        {.key = "motor.copper_loss",
            .label = "Copper loss",
            .kind = Kind::power,
            .needs = need::demand | current | resistance | temperatures,
            .applies = has_resistance,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.motor->copper_loss;
                    f.note = "mean over the cycle, hot";
                    const MotorNumbers& n = in.results.can->model->numbers();
                    if (n.sine_driven)
                        work(f, in, "P", n.stepper ? "m I² R (235 + θ)/255" : "1.5 I² R_LL (235 + θ)/255",
                            n.stepper ? "m*I^2*R*(235+t)/255" : "1.5*I^2*R*(235+t)/255",
                            {{"m", n.phases}, {"I", in.state.motor->rms_current},
                                {"R", n.stepper ? n.resistance / 2 : n.resistance},
                                {"t", in.results.can->model->conditions().hot}},
                            n.stepper ? "every phase its share; IEC 60034-1"
                                      : "line quantities: the winding type cancels; IEC 60034-1");
                    else if (in.workings)
                        f.read_from = "copper and brushes at every current of the cycle, by quadrature";
                },
            .read_from = source,
            .meaning = "Copper loss, hot, mean over the cycle"},
    };
    return rows;
}

} // namespace fulmox

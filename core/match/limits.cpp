#include "core/match/limits.h"

#include "core/drivetrain/screw_limits.h"
#include "core/load/screw.h"
#include "core/match/drivetrain_rows.h"
#include "core/match/heat_rows.h"
#include "core/match/stage_rows.h"
#include "core/match/stepper_rows.h"
#include "core/match/words.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {

namespace {

constexpr const char* practice = "common practice, no source";

const char* no_motor = "no motor is chosen yet; page 4 has a catalogue";

bool has_motor(const LimitInput& in) { return in.axis.driven(); }
const char* motor_missing(const LimitInput& in) {
    if (in.axis.motor.empty()) return no_motor;
    return motion_of(in.axis.mechanism).direct ? "a motor that turns cannot drive it; a linear motor can"
                                               : "a linear motor cannot turn a shaft";
}

} // namespace

std::string travel_remedy(const Axis& axis, bool more) {
    const auto one = [&](const char* larger, const char* smaller) { return std::string(more ? larger : smaller); };
    const Mechanism& m = axis.mechanism;
    if (motion_of(m).direct) return {};
    if (std::holds_alternative<Screw>(m)) return one("a longer lead", "a shorter lead");
    if (std::holds_alternative<RackPinion>(m)) return one("a larger pinion", "a smaller pinion");
    if (std::holds_alternative<BeltDrive>(m) || std::holds_alternative<Conveyor>(m))
        return one("a larger pulley", "a smaller pulley");
    if (std::holds_alternative<Hoist>(m)) return one("a larger drum", "a smaller drum");
    return one("a lower ratio", "a higher ratio");
}

std::string remedies(std::vector<std::string> each) {
    std::erase(each, std::string());
    std::string out;
    for (std::size_t i = 0; i < each.size(); ++i)
        out += (i == 0 ? "" : i + 1 < each.size() ? ", " : each.size() == 2 ? " or " : ", or ") + each[i];
    if (!out.empty()) out.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(out.front())));
    return out.empty() ? out : out + ".";
}

bool closed(Limit& l, const LimitInput& in, std::string source) {
    l.source = std::move(source);
    judge(l);
    if (l.state == LimitState::cannot_say) {
        l.working.clear();
        l.reason = std::isnan(l.share) ? "the policy \"" + in.policy.name + "\" gives no share for it"
                                       : "its numbers are not known";
        return false;
    }
    if (in.workings && l.allowed > 0 && std::isfinite(l.used) && std::isfinite(l.allowed))
        l.working.push_back(working_line("used/allowed", "used / allowed", "used/allowed",
            {{"used", l.used}, {"allowed", l.allowed}}, l.used / l.allowed, Kind::number));
    return true;
}

void cannot(Limit& l, Text why) {
    l.state = LimitState::cannot_say;
    l.reason = std::move(why);
}

void lacks(Limit& l, std::vector<Missing> missing, const Text& known) {
    l.working.clear();
    std::string names;
    for (const Missing& m : missing) names += (names.empty() ? "" : ", ") + m.name;
    cannot(l, (known.empty() ? Text() : known + "; ") + ("not given: " + names));
    l.missing = std::move(missing);
}

std::optional<std::size_t> conclude(
    Limit& l, const LimitInput& in, const std::vector<Clause>& clauses, std::string source) {
    l.source = source;
    std::vector<Missing> missing;
    const auto worst = worst_of(clauses, missing);
    if (!worst) {
        if (missing.empty())
            cannot(l, "its numbers are not known");
        else
            lacks(l, std::move(missing));
        return std::nullopt;
    }
    l.used = clauses[*worst].used;
    l.allowed = clauses[*worst].allowed;
    if (!closed(l, in, std::move(source))) return std::nullopt;
    return worst;
}

Clause held_against(double used, const QuantityBase& allowed, const std::string& path, const std::string& name) {
    if (allowed.given()) return {used, allowed.si};
    return {used, no_number, {{path, name}}};
}

bool too_little_to_say(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    if (!u.beyond_voltage || !u.can.model->weakens() || l.used > l.allowed) return false;
    cannot(l, not_reached);
    return true;
}

WorkingLine sum_of_causes(const ShaftPoint& p) {
    static constexpr const char* symbols[] = {"T_L", "T_M", "T_f", "T_l", "T_g", "T_x"};
    WorkingValues v;
    std::string sum;
    for (std::size_t k = 0; k < p.state.part.size(); ++k) {
        v.emplace_back(symbols[k], p.state.part[k]);
        sum += (k == 0 ? "" : "+") + std::string(symbols[k]);
    }
    return working_line("T", "load inertia + rotor + friction + losses + gravity + process", sum, v, p.torque,
        Kind::torque, "equation of motion at the motor shaft");
}

namespace {

// The model's continuous torque from its current.
WorkingLine continuous_of_model(const Capability& c, double speed, double allowed) {
    const TorqueBound b = c.model->continuous(speed);
    const MotorNumbers& n = c.model->numbers();
    const std::string source = std::string("limited by ") + bound_words(b.bound);
    const double per_ampere = c.model->constant_of_axis();
    if (n.saturation > 0)
        return working_line("T_c", "K i_q (1 − β (i_q/I_p)²), hot; K per ampere of i_q", "K*i*(1-beta*(i/I_p)^2)",
            {{"K", per_ampere}, {"i", b.iq}, {"beta", n.saturation}, {"I_p", c.model->saturates_at()}}, allowed,
            Kind::torque, source);
    return working_line("T_c", "K i_q − T_f, hot; K per ampere of i_q", "max(0, K*i-T_f)",
        {{"K", per_ampere}, {"i", b.iq},
            {"T_f", speed == 0  ? 0
                    : n.stepper ? n.stepper->detent + n.stepper->friction
                                : n.friction()}},
        allowed, Kind::torque, source);
}

} // namespace

WorkingLine continuous_at_rest(const Capability& c) {
    if (c.continuous_by_model) return continuous_of_model(c, 0, c.continuous_stall());
    return working_line("allowed", "T_c(0) √f", "T_c0*sqrt(f)", {{"T_c0", c.continuous.stall()}, {"f", c.heat_factor}},
        c.continuous_stall(), Kind::torque, "IEC 60034-1: ambient and altitude; the motor's derating");
}

WorkingLine continuous_by_point(const Capability& c, double speed, double allowed, const std::string& which) {
    if (c.continuous_by_model) return continuous_of_model(c, speed, allowed);
    return working_line("T_c'(ω)",
        "√(T_c(ω)² − (1 − f) max(T_c(0), T_c(ω))²) at the " + which + " speed, not above the peak curve",
        "min(sqrt(max(0, T_c^2-(1-f)*max(T_c0, T_c)^2)), T_p)",
        {{"f", c.heat_factor}, {"T_c0", c.continuous.stall()}, {"T_c", c.continuous.at(speed)},
            {"T_p", c.peak.at(speed)}},
        allowed, Kind::torque, "IEC 60034-1: ambient and altitude; the motor's derating");
}

Working rms_sum(const Demand& d, std::size_t segments) {
    const std::vector<double> heat = heat_by_segment(d, segments);
    WorkingValues v{{"T_c", d.cycle_time}};
    std::string sum;
    const bool each = segments <= 12;
    double whole = 0;
    for (std::size_t i = 0; i < segments; ++i) {
        whole += heat[i];
        if (!each) continue;
        const std::string name = "H" + std::to_string(i + 1);
        v.emplace_back(name, heat[i]);
        sum += (i == 0 ? "" : "+") + name;
    }
    if (!each) {
        v.emplace_back("H", whole);
        sum = "H";
    }
    return {working_line("T_rms", each ? "√(Σ ∫T² dt / T_cycle), segment by segment" : "√(Σ ∫T² dt / T_cycle)",
        "sqrt((" + sum + ")/T_c)", v, d.rms_torque, Kind::torque,
        "root mean square over the whole cycle, dwell included")};
}

Missing no_constant(const LimitInput& in) {
    return in.axis.motor.linear()
               ? Missing{"/motor/electric/force_constant", "force or voltage constant of the motor"}
               : Missing{"/motor/electric/torque_constant", "torque or voltage constant of the motor"};
}

std::vector<Missing> lacks_of_model(const LimitInput& in) {
    std::vector<Missing> out;
    if (!in.so_far.motor || !in.so_far.motor->can.model) return out;
    for (const char* key : in.so_far.motor->can.model->left_out()) {
        std::string name = key;
        std::replace(name.begin(), name.end(), '_', ' ');
        out.push_back({std::string("/motor/electric/") + key, name + " of the motor"});
    }
    return out;
}

namespace {

bool has_servo_drive(const LimitInput& in) { return in.axis.has_drive() && !in.axis.motor.stepper(); }

// What the peak curve leaves out, so that it promises too much: of the motor where it follows from the constants, and
// of the drive where its peak current is not given.
std::vector<Missing> lacks_of_peak(const LimitInput& in) {
    const Capability& c = in.so_far.motor->can;
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
std::vector<Missing> lacks_of_continuous(const LimitInput& in, bool with_drive) {
    if (!in.so_far.motor->can.continuous_by_model) return {};
    std::vector<Missing> out = lacks_of_model(in);
    if (with_drive && has_servo_drive(in) && !in.axis.drive.continuous_current.given())
        out.push_back({"/drive/continuous_current", "continuous current of the drive"});
    return out;
}

// Judges where `used` and `allowed` are there but may promise too much.
[[nodiscard]] bool closed_but_for(Limit& l, const LimitInput& in, std::vector<Missing> missing, std::string source) {
    if (missing.empty() || std::isnan(l.used) || std::isnan(l.allowed) || std::isnan(l.share))
        return closed(l, in, std::move(source));
    Limit by_the_rest = l;
    if (closed(by_the_rest, in, source) && by_the_rest.state == LimitState::over) {
        l = std::move(by_the_rest);
        return true;
    }
    l.source = std::move(source);
    lacks(l, std::move(missing));
    return false;
}

void judge_speed(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    const Capability& c = in.so_far.motor->can;
    l.used = d.peak_speed;
    l.allowed = c.max_speed;
    l.share = in.policy.speed_share.si;
    if (in.workings) {
        const LoadModel& m = d.load;
        if (m.path == LoadModel::Path::straight && !m.motion.rotary && !m.motion.direct)
            l.working.push_back(working_line("ω", "v i/r", "v*i/r",
                {{"v", in.so_far.motion->peak_speed}, {"i", m.ratio}, {"r", m.radius}}, d.peak_speed,
                Kind::angular_speed, "kinematics"));
        if (std::isfinite(c.mechanical_speed))
            l.working.push_back(working_line("ω_max",
                c.peak_by_model ? "min(ω_mech, end of torque at this bus)" : "min(ω_mech, ω_curve · U/U_0)",
                "min(w_m, w_c)", {{"w_m", c.mechanical_speed}, {"w_c", c.peak.end()}}, c.max_speed, Kind::angular_speed,
                c.peak_by_model ? "voltage equations of the machine, the worse of cold and hot"
                                : "estimate: the end of the peak curve moves with the bus voltage"));
    }
    if (!closed_but_for(l, in, c.peak_by_model ? lacks_of_model(in) : std::vector<Missing>(), "motor datasheet"))
        return;
    l.reason =
        words(in).speed(l.used) + " of " + words(in).speed(l.allowed) +
        (c.mechanical_speed <= c.peak.end() ? ", the mechanical limit" : ", where the bus voltage ends the peak curve");
    if (l.state != LimitState::fits)
        l.remedy = remedies(
            {travel_remedy(in.axis, true), "more time for the fastest move", "a faster motor", "a higher bus voltage"});
}

void judge_peak_torque(Limit& l, const LimitInput& in) {
    if (open_loop(in.axis)) return judge_pull_out(l, in);
    const MotorUse& u = *in.so_far.motor;
    const Demand& d = *in.so_far.demand;
    l.used = std::abs(u.worst_peak.torque);
    l.allowed = u.worst_peak_allowed;
    l.share = in.policy.peak_torque_share.si;
    if (in.workings) l.working.push_back(sum_of_causes(u.worst_peak));
    if (!closed_but_for(l, in, lacks_of_peak(in), "motor datasheet, peak curve at the actual bus voltage")) return;
    const bool starting = l.used > 0 && u.worst_peak.speed == 0 && u.worst_peak.torque == d.breakaway.torque;
    l.reason = words(in).torque(l.used) + (starting ? " to break away" : "") + " at " +
               words(in).speed(std::abs(u.worst_peak.speed)) + ", " + format_number(u.worst_peak.time, 3) +
               " s into the cycle; the curve gives " + words(in).torque(l.allowed) + " there";
    if (l.state != LimitState::fits)
        l.remedy = remedies({"gentler acceleration", "less moving mass",
            motion_of(in.axis.mechanism).has & Motion::inclination ? "a counterbalance" : "",
            std::holds_alternative<Screw>(in.axis.mechanism)   ? "another lead"
            : motion_of(in.axis.mechanism).has & Motion::shaft ? "another ratio"
                                                               : "",
            motion_of(in.axis.mechanism).direct ? "a motor with more peak force" : "a motor with more peak torque"});
}

void rms_working(Limit& l, const LimitInput& in) {
    const Working w = rms_sum(*in.so_far.demand, in.axis.cycle.segments.size());
    l.working.insert(l.working.end(), w.begin(), w.end());
}

void judge_heat_by_loss(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    l.share = in.policy.continuous_share.si;
    if (std::isnan(u.heat_allowed) && u.can.continuous_by_model) return cannot(l, not_reached);
    if (std::isnan(u.heat_allowed))
        return cannot(l, "the cycle runs up to " + words(in).speed(in.so_far.demand->peak_speed) +
                             ", the continuous curve ends at " + words(in).speed(u.can.continuous.end()) +
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
    if (!closed_but_for(l, in, lacks_of_continuous(in, false), "IEC 60034-1 S1 rating; loss method")) return;
    // nothing is left for copper, whatever the torque
    if (u.heat_left < 0) l.state = LimitState::over;
    l.reason = u.heat_left <= 0 ? Text("iron and friction alone take more than this motor may lose here")
                                : (u.can.continuous_by_model ? "equivalent continuous torque " : "RMS torque ") +
                                      words(in).torque(l.used) + " of " + words(in).torque(l.allowed) +
                                      " at the speeds of the cycle";
    if (l.state != LimitState::fits)
        l.remedy =
            "More dwell, gentler ramps, counterbalance, brake in long holds, or a motor with more continuous torque.";
}

void judge_heat_by_point(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    const Demand& d = *in.so_far.demand;
    const bool mean = in.policy.point_speed == PointSpeed::mean;
    const double speed = mean ? d.mean_speed : d.rms_speed;
    const std::string which = mean ? "mean" : "RMS";
    l.used = d.rms_torque;
    l.allowed = mean ? u.point_at_mean : u.point_at_rms;
    l.share = in.policy.continuous_share.si;
    if (std::isnan(l.allowed)) return cannot(l, "the " + which + " speed lies beyond the continuous curve");
    if (in.workings) {
        rms_working(l, in);
        l.working.push_back(continuous_by_point(u.can, speed, l.allowed, which));
    }
    if (!closed_but_for(l, in, lacks_of_continuous(in, true), "IEC 60034-1 S1 rating; point method")) return;
    l.reason = words(in).torque(l.used) + " RMS at " + words(in).speed(speed) + " " + which +
               " speed; the continuous curve gives " + words(in).torque(l.allowed);
    if (l.state != LimitState::fits)
        l.remedy = "As for continuous heat; the point method is the stricter school for cycles with short fast parts.";
}

void judge_holding(Limit& l, const LimitInput& in) {
    if (open_loop(in.axis)) return judge_stepper_holding(l, in);
    const Demand& d = *in.so_far.demand;
    const MotorUse& u = *in.so_far.motor;
    l.used = d.holding_torque;
    l.allowed = u.can.continuous_stall();
    l.share = in.policy.continuous_share.si;
    if (in.workings) l.working.push_back(continuous_at_rest(u.can));
    if (!closed_but_for(l, in, lacks_of_continuous(in, true), "motor datasheet, standstill torque")) return;
    l.reason = words(in).torque(l.used) + " to hold" +
               (in.axis.credit_friction_at_rest ? ", friction credited" : ", friction not credited");
    if (l.state != LimitState::fits)
        l.remedy = remedies({"a counterbalance", "a brake that holds in dwells", travel_remedy(in.axis, false)});
}

void judge_inertia_ratio(Limit& l, const LimitInput& in) {
    const InertiaStatement& i = *in.so_far.inertia;
    if (!i.told) return cannot(l, "the demand is given without the inertia of its load");
    l.used = i.ratio();
    l.allowed = in.policy.inertia_ratio_over.si;
    l.share = in.policy.inertia_ratio_tight.si / l.allowed;
    if (in.workings)
        l.working.push_back(working_line("J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
            {{"J_L", i.load}, {"J_M", i.rotor}}, i.ratio(), Kind::number, practice));
    if (!closed(l, in, practice)) return;
    l.reason = format_number(i.ratio(), 3) + " : 1";
    if (i.ratio_least() < i.ratio() * 0.995)
        l.reason += " at the most over the cycle, " + format_number(i.ratio_least(), 3) + " : 1 at the least";
    if (l.used < 0.5) l.reason += "; far below 1, the rotor spends the torque on itself: is the motor too big?";
    if (l.state != LimitState::fits)
        l.remedy = remedies(
            {std::holds_alternative<Screw>(in.axis.mechanism) ? "a thinner screw" : "", travel_remedy(in.axis, false),
                "a rotor with more inertia", "a stiffer drivetrain and a policy that says so"});
}

void judge_brake(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    // web tension and the like want a brake only where one is asked to hold them
    const bool held = d.brake_torque >= d.fall_torque;
    const double torque = d.load.tension ? d.brake_torque : d.static_torque;
    l.used = in.policy.brake_static_factor.si * torque;
    const std::vector<ActingBrake> brakes = acting_brakes(in.axis, d.load);
    if (brakes.empty() && !has_motor(in)) return cannot(l, motor_missing(in));
    l.allowed = braking_torque(brakes); // of those whose torque is known
    std::vector<Missing> missing;
    for (const ActingBrake& b : brakes)
        if (std::isnan(b.holds)) missing.push_back({b.field("static_torque"), "torque of " + b.name});
    if (in.workings && !std::isnan(l.used))
        l.working.push_back(working_line("needed", "factor × holding torque", "K*T",
            {{"K", in.policy.brake_static_factor.si}, {"T", torque}}, l.used, Kind::torque, practice));
    // with more torque it could only hold better
    if (!missing.empty() && l.used > l.allowed) {
        l.source = practice;
        return lacks(l, std::move(missing));
    }
    if (!closed(l, in, practice)) return;
    const char* by_friction =
        d.static_torque_friction == 0 ? "; friction may hold it, but that is not to be relied on" : "";
    if (l.allowed == 0) {
        l.reason = held ? "no brake, but a dwell in which the brake holds needs " + words(in).torque(d.brake_torque)
                        : "no brake: without power " + words(in).torque(torque) + " drive the load down" + by_friction;
        l.remedy = "A motor with a holding brake, and mechanical support for work under the load.";
    } else {
        l.reason = words(in).torque(l.allowed) + " static against " +
                   format_number(in.policy.brake_static_factor.si, 2) + " × " + words(in).torque(torque) +
                   (held ? ", held in a dwell" : "");
        if (brakes.size() > 1) l.reason += "; what both brakes hold together";
        if (l.state == LimitState::over)
            l.remedy = remedies({"a larger brake", "a counterbalance", travel_remedy(in.axis, false)});
    }
}

void judge_critical(Limit& l, const LimitInput& in) {
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    if (!s.root_diameter.given()) return lacks(l, {{"/mechanism/root_diameter", "root diameter of the screw"}});
    ScrewBound bound = critical_speed(s, in.workings);
    l.used = in.so_far.demand->mechanism_peak_speed;
    l.allowed = bound.value;
    l.share = in.policy.critical_speed_share.si;
    l.working = std::move(bound.working);
    if (!closed(l, in, "Euler–Bernoulli beam")) return;
    l.reason = words(in).speed(l.used) + " of " + words(in).speed(l.allowed) + " over " +
               words(in).say(bound.length, Kind::length) + " free length";
    if (l.state != LimitState::fits) l.remedy = "Longer lead, thicker screw, shorter free length, or a fixed far end.";
}

void judge_buckling(Limit& l, const LimitInput& in) {
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    if (!s.root_diameter.given()) return lacks(l, {{"/mechanism/root_diameter", "root diameter of the screw"}});
    const Demand& d = *in.so_far.demand;
    ScrewBound bound = buckling_load(s, in.workings);
    l.used = d.axial_force();
    l.allowed = bound.value;
    l.share = in.policy.buckling_share.si;
    l.working = std::move(bound.working);
    // a stocky screw yields before it buckles
    std::vector<Missing> missing;
    if (!s.yield_strength.given() && l.used > 0)
        missing.push_back({"/mechanism/yield_strength", "yield strength of the screw"});
    if (!closed_but_for(l, in, std::move(missing), "Euler")) return;
    l.reason = words(in).say(l.used, Kind::force) + " largest axial force" +
               (d.axial_emergency > d.axial_peak ? ", in the emergency stop" : "") + ", taken as compression; " +
               (s.yield_strength.given() ? "Euler's or Johnson's" : "Euler's") + " load is " +
               words(in).say(l.allowed, Kind::force);
    if (l.state != LimitState::fits) l.remedy = "Thicker screw, shorter loaded length, fixed ends.";
}

void judge_speed_value(Limit& l, const LimitInput& in) {
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    const double turns = in.so_far.demand->mechanism_peak_speed / (2 * std::numbers::pi);
    l.used = s.diameter.si * turns;
    l.allowed = s.speed_value.si;
    if (in.workings)
        l.working.push_back(working_line("d n", "d · ω/2π", "d*w/(2*pi)",
            {{"d", s.diameter.si}, {"w", in.so_far.demand->mechanism_peak_speed}}, l.used, Kind::speed, practice));
    if (!closed(l, in, "nut datasheet")) return;
    const auto feed = [](double v) { return Text::of(v, Kind::speed, 4, "mm/min", "in/min"); };
    l.reason = feed(l.used) + " of " + feed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "Longer lead, thinner screw, or a nut with another ball return.";
}

// The cycle's largest current against what the magnets and the winding bear.
void judge_motor_current(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    if (!u.can.model) return lacks(l, {no_constant(in)});
    l.used = u.peak_current;
    l.allowed = u.can.model->numbers().peak_current;
    if (too_little_to_say(l, in)) return;
    if (!closed_but_for(l, in, u.can.model->weakens() ? lacks_of_model(in) : std::vector<Missing>(),
            "motor datasheet, peak current"))
        return;
    l.reason = format_number(l.used, 3) + " A of " + format_number(l.allowed, 3) + " A" +
               (u.can.model->numbers().sine_driven ? " RMS, hot" : ", hot");
    if (l.state != LimitState::fits)
        l.remedy =
            "Gentler acceleration, or set the drive below the motor's peak current: beyond it magnets may lose flux.";
}

void judge_drive_current(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
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
        return cannot(l, not_reached);
    const auto worst = conclude(l, in, clauses, "drive datasheet; currents of torque and speed");
    if (!worst) return;
    const bool peak = *worst == 0;
    l.reason = format_number(l.used, 3) + " A of " + format_number(l.allowed, 3) + " A" +
               (u.can.model->numbers().sine_driven ? " RMS" : "") + (peak ? ", peak" : ", RMS over the cycle");
    if (l.state != LimitState::fits)
        l.remedy = "A larger drive, a winding with more torque per ampere, or gentler moves.";
}

// What the cycle needs by the constants, of what the bus at its lowest lets the drive make.
void judge_voltage(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
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
    if (!closed(l, in, "voltage equations of the machine, the worse of cold and hot")) return;
    l.reason = format_number(l.used, 3) + " V between the " +
               (m.numbers().base == EmfBase::dc ? "terminals" : "lines") + " at the most, of " +
               format_number(l.allowed, 3) + " V with the bus at its lowest";
    if (l.state != LimitState::fits)
        l.remedy =
            "A winding of fewer volts per speed, a higher bus, less speed or torque at speed, or field weakening.";
}

// The rotor's own share is counted too: part of it never passes the shaft.
void judge_shaft(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    l.used = std::max({std::abs(d.peak.torque), d.holding_torque, d.emergency_torque});
    l.allowed = in.axis.motor.shaft_torque.si;
    // with a no-load torque the efficiency is that at the rated torque; without one more is lost, which helps to stop
    std::vector<Missing> missing;
    for (std::size_t i = 0; i < in.axis.stages.size(); ++i)
        if (const Stage& s = in.axis.stages[i]; s.no_load_torque.value_or(0) > 0 && !s.rated_torque.given())
            missing.push_back({"/stages/" + std::to_string(i) + "/rated_torque",
                "rated torque of " + (s.name.empty() ? "stage " + std::to_string(i + 1) : s.name)});
    if (!closed_but_for(l, in, std::move(missing), "motor datasheet, shaft")) return;
    l.reason = words(in).torque(l.used) + " at the most" +
               (d.emergency_torque == l.used ? ", in the emergency stop" : "") +
               ", the rotor's own share included, of " + words(in).torque(l.allowed);
    if (in.so_far.can) l.reason += "; the motor's own peak is " + words(in).torque(in.so_far.can->peak.stall());
    if (l.state != LimitState::fits) l.remedy = "Gentler acceleration, a ratio, or a motor with a stronger shaft.";
}

// What a spinning motor puts on the bus once the drive lets go.
void judge_open_circuit(Limit& l, const LimitInput& in) {
    if (!in.so_far.motor->can.model) return lacks(l, {no_constant(in)});
    const ElectricModel& m = *in.so_far.motor->can.model;
    const double speed = in.so_far.demand->peak_speed;
    l.used = m.open_circuit_emf(speed);
    l.allowed = in.axis.drive.trip_voltage.si;
    if (in.workings)
        l.working.push_back(
            working_line("E", "E per speed, cold · ω", "K*w", {{"K", m.open_circuit_emf(1)}, {"w", speed}}, l.used,
                Kind::voltage, "open-circuit EMF between lines, cold magnets"));
    if (!closed(l, in, "drive datasheet, overvoltage trip")) return;
    l.reason = format_number(l.used, 3) + " V between the lines at top speed, of " + format_number(l.allowed, 3) + " V";
    if (l.state != LimitState::fits)
        l.remedy =
            "A lower top speed, a winding of fewer volts per speed, or a drive that bears the EMF when it lets go.";
}

void judge_brush_speed(Limit& l, const LimitInput& in) {
    l.used = in.so_far.demand->peak_speed;
    l.allowed = std::get<BrushedMotor>(in.axis.motor.electric).brush_speed.si;
    if (!closed(l, in, "motor datasheet, brushes")) return;
    l.reason = words(in).speed(l.used) + " of " + words(in).speed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "A lower speed, or a motor without brushes.";
}

// a linear motor has no rotor to compare the load with
bool turns(const LimitInput& in) { return !motion_of(in.axis.mechanism).direct || !in.axis.driven(); }
// a policy that does not judge the ratio asks for nothing
bool judges_ratio(const LimitInput& in) { return turns(in) && in.policy.inertia_ratio_over.given(); }

const ElectricModel* model_of(const LimitInput& in) {
    return in.so_far.motor && in.so_far.motor->can.model ? &*in.so_far.motor->can.model : nullptr;
}
bool has_motor_current(const LimitInput& in) {
    return in.axis.driven() && std::visit(
                                   [](const auto& m) {
                                       if constexpr (requires { m.peak_current; }) return m.peak_current.given();
                                       return false;
                                   },
                                   in.axis.motor.electric);
}
bool has_drive_current(const LimitInput& in) { return in.axis.driven() && has_servo_drive(in); }
// A winding for 24 V on a bus of 320 V turns well in the calculation and not for long in the machine.
void judge_bus_rating(Limit& l, const LimitInput& in) {
    constexpr double most = 2;
    const double rated = rated_voltage(in.axis.motor);
    l.used = in.axis.drive.bus_voltage.si;
    l.allowed = most * rated;
    if (in.workings)
        l.working.push_back(
            working_line("U_max", "2 · rated voltage", "2*U_n", {{"U_n", rated}}, l.allowed, Kind::voltage, practice));
    if (!closed(l, in, practice)) return;
    l.reason = "bus of " + format_number(l.used, 4) + " V, motor rated " + format_number(rated, 4) +
               " V; beyond twice that insulation, ripple and brushes are not vouched for";
    if (l.state != LimitState::fits) l.remedy = "A lower bus, or a winding for this voltage.";
}

bool has_rated_voltage(const LimitInput& in) { return has_motor(in) && rated_voltage(in.axis.motor) > 0; }
bool has_voltage(const LimitInput& in) {
    const ElectricModel* m = model_of(in);
    // a sheet's own curve speaks for a motor whose constants are not all there
    return m && !m->weakens() && (m->approximate().empty() || in.so_far.motor->can.peak_by_model);
}
bool has_shaft(const LimitInput& in) { return in.axis.driven() && turns(in) && in.axis.motor.shaft_torque.given(); }
bool has_trip(const LimitInput& in) { return in.axis.driven() && in.axis.drive.trip_voltage.given(); }
bool has_brush_speed(const LimitInput& in) {
    const auto* m = std::get_if<BrushedMotor>(&in.axis.motor.electric);
    return in.axis.driven() && m && m->brush_speed.given();
}

bool always(const LimitInput&) { return true; }
// the current of an open-loop stepper is no image of its torque
bool by_loss(const LimitInput& in) { return !open_loop(in.axis) && in.policy.heat_judge != HeatJudge::point; }
bool by_point(const LimitInput& in) { return !open_loop(in.axis) && in.policy.heat_judge != HeatJudge::loss; }
bool wants_brake(const LimitInput& in) {
    return in.so_far.demand && (in.so_far.demand->fall_torque > 0 || in.so_far.demand->brake_torque > 0);
}
bool has_screw(const LimitInput& in) { return std::holds_alternative<Screw>(in.axis.mechanism); }
bool screw_turns(const LimitInput& in) { // where the nut turns the screw stands
    return has_screw(in) && std::get<Screw>(in.axis.mechanism).turns == ScrewTurns::screw;
}
bool has_speed_value(const LimitInput& in) {
    return has_screw(in) && std::get<Screw>(in.axis.mechanism).speed_value.given();
}

} // namespace

namespace {

// Which fields allow more of a row, and which ask more of it. Below the axis; "*" stands for any stage.
struct Moves {
    const char* key;
    std::vector<const char*> allowed_by, asked_by;
};
const std::vector<Moves>& moves() {
    static const std::vector<Moves> all{
        {"speed", {"/motor/max_speed"}, {}},
        {"shaft", {"/motor/shaft_torque"}, {}},
        {"brush_speed", {"/motor/electric/brush_speed"}, {}},
        {"open_circuit_emf", {"/drive/trip_voltage"}, {}},
        {"brake", {"/motor/brake_torque", "/brake/static_torque"}, {}},
        {"stage_peak", {"/stages/*/peak_torque", "/stages/*/peak_share"}, {}},
        {"stage_emergency", {"/stages/*/emergency_torque"}, {}},
        {"stage_mean_speed", {"/stages/*/nominal_speed"}, {}},
        {"stage_speed", {"/stages/*/top_speed"}, {}},
        {"stage_ratchet", {"/stages/*/ratchet_torque"}, {}},
        {"stage_stops", {"/stages/*/emergency_stops"}, {"/drive/emergency_stops"}},
        {"stage_radial", {"/stages/*/radial_rating"}, {"/stages/*/radial_load"}},
        {"stage_axial", {"/stages/*/axial_rating"}, {"/stages/*/axial_load"}},
        {"stage_tilting", {"/stages/*/tilting_rating"}, {"/stages/*/tilting_moment"}},
        {"coupling", {"/coupling/allowable_torque"}, {"/coupling/service_factor"}},
        {"coupling_speed", {"/coupling/top_speed"}, {}},
        {"coupling_alignment", {"/coupling/angular_allowed", "/coupling/parallel_allowed", "/coupling/axial_allowed"},
            {"/coupling/angular", "/coupling/parallel", "/coupling/axial"}},
        {"brake_energy", {"/motor/brake_stop_energy", "/brake/stop_energy"}, {}},
        {"drive_stop", {"/drive/torque_limit"}, {}},
        {"drive_overload", {"/drive/peak_time"}, {}},
        {"drive_standstill", {"/drive/standstill_share"}, {}},
        {"drive_highest", {"/drive/highest_voltage"}, {"/drive/mains_rise"}},
        {"drive_lowest", {}, {"/drive/lowest_voltage"}},
        {"drive_dial", {"/drive/most_current"}, {"/drive/phase_current"}},
        {"speed_value", {"/mechanism/speed_value"}, {}},
        {"buckling", {"/mechanism/yield_strength"}, {}},
        {"screw_life", {"/mechanism/dynamic_rating"}, {"/mechanism/life_asked"}},
        {"screw_static", {"/mechanism/static_rating"}, {}},
        {"precision", {"/accuracy/asked"}, {"/accuracy/other", "/accuracy/encoder_accuracy"}},
        {"housing_temperature", {"/motor/housing_limit"}, {}},
        {"pulse_rate", {"/drive/pulse_limit", "/drive/pulse_input"}, {}},
        {"bus_rating", {"/motor/electric/rated_voltage"}, {}},
    };
    return all;
}

} // namespace

const std::vector<LimitRow>& limit_rows() {
    using namespace need;
    constexpr need::Bits heat = continuous_curve | surroundings;
    static const std::vector<LimitRow> rows = [] {
        std::vector<LimitRow> all{
            {"speed", "Top speed", Kind::angular_speed, speeds | peak_curve | voltage | top_speed, true, always,
                judge_speed},
            {"peak_torque", "Peak torque on curve", Kind::torque, need::demand | peak_curve | voltage, true, always,
                judge_peak_torque, "Peak force on curve", "Pull-out torque"},
            {"continuous_loss", "Continuous heat", Kind::torque, need::demand | heat, true, by_loss,
                judge_heat_by_loss},
            {"continuous_point", "Continuous torque, point", Kind::torque, need::demand | heat | peak_curve | voltage,
                true, by_point, judge_heat_by_point, "Continuous force, point"},
            {"holding", "Holding at rest", Kind::torque, need::load | heat, true, always, judge_holding},
            {"motor_current", "Motor peak current", Kind::current, need::demand | current | temperatures, true,
                has_motor_current, judge_motor_current},
            {"drive_current", "Drive current", Kind::current, need::demand | current | temperatures, true,
                has_drive_current, judge_drive_current},
            {"voltage", "Voltage, bus at its lowest", Kind::voltage,
                need::demand | current | temperatures | voltage | resistance, true, has_voltage, judge_voltage},
            {"bus_rating", "Bus against rated voltage", Kind::voltage, current | voltage, true, has_rated_voltage,
                judge_bus_rating},
            {"shaft", "Motor shaft", Kind::torque, need::demand | stop | motor_shaft, true, has_shaft, judge_shaft},
            {"open_circuit_emf", "Open-circuit EMF", Kind::voltage, speeds | current | temperatures | voltage, true,
                has_trip, judge_open_circuit},
            {"brush_speed", "Brush speed", Kind::angular_speed, speeds | top_speed, true, has_brush_speed,
                judge_brush_speed},
            {"inertia_ratio", "Inertia ratio", Kind::number, travel | inertia | ratio_inertia | rotor, true,
                judges_ratio, judge_inertia_ratio},
            {"brake", "Holding brake", Kind::torque, need::load | motor_brake, false, wants_brake, judge_brake},
            {"critical_speed", "Screw critical speed", Kind::angular_speed, speeds | bending, false, screw_turns,
                judge_critical},
            {"buckling", "Screw buckling", Kind::force, need::load | stop | need::buckling, false, has_screw,
                judge_buckling},
            {"speed_value", "Screw d × n", Kind::speed, speeds | ball_return, false, has_speed_value,
                judge_speed_value},
        };
        // those of steppers and temperatures after what a motor must hold
        const auto holding = std::find_if(
            all.begin(), all.end(), [](const LimitRow& r) { return std::string_view(r.key) == "holding"; });
        std::vector<LimitRow> more = stepper_limit_rows();
        for (const LimitRow& row : heat_limit_rows()) more.push_back(row);
        all.insert(holding + 1, more.begin(), more.end());
        // gearhead, coupling, brake and drive before the screw
        const auto screw = std::find_if(
            all.begin(), all.end(), [](const LimitRow& r) { return std::string_view(r.key) == "critical_speed"; });
        more = stage_limit_rows();
        for (const LimitRow& row : drivetrain_limit_rows()) more.push_back(row);
        all.insert(screw, more.begin(), more.end());
        for (LimitRow& row : all)
            for (const Moves& m : moves())
                if (std::string_view(m.key) == row.key) {
                    row.allowed_by = m.allowed_by;
                    row.asked_by = m.asked_by;
                }
        return all;
    }();
    return rows;
}

const LimitRow* limit_row(std::string_view key) {
    const auto& rows = limit_rows();
    const auto row = std::find_if(rows.begin(), rows.end(), [&](const LimitRow& r) { return key == r.key; });
    return row == rows.end() ? nullptr : &*row;
}

std::vector<Limit> judge_all(const LimitInput& in, const Waiting& waiting) {
    std::vector<Limit> out;
    for (const LimitRow& row : limit_rows()) {
        const need::Bits needs = needs_of(row, in.axis);
        const bool blocked = waiting.blocks(needs);
        LimitInput seen = in;
        if (blocked) seen.so_far.demand = nullptr;
        if (!row.applies(seen)) continue;
        Limit l;
        l.key = row.key;
        l.label = row.direct_label && motion_of(in.axis.mechanism).direct ? row.direct_label
                  : row.open_loop_label && open_loop(in.axis)             ? row.open_loop_label
                                                                          : row.label;
        l.kind = row.kind;
        l.used = l.allowed = std::nan("");
        if (blocked) {
            const bool by_the_rest = row.over_by != 0 && !waiting.blocks(row.over_by) && in.so_far.demand;
            if (by_the_rest) row.judge(l, in);
            if (!by_the_rest || l.state != LimitState::over) {
                l.working.clear();
                l.used = l.allowed = std::nan("");
                cannot(l, waiting.words(needs));
                l.missing = waiting.unknowns(needs);
                l.accepted = !l.missing.empty() && std::all_of(l.missing.begin(), l.missing.end(),
                                                       [&](const Missing& m) { return in.axis.accepts(m.path); });
            }
        } else if (row.of_motor && !has_motor(in)) {
            cannot(l, motor_missing(in));
        } else {
            row.judge(l, in);
            if (row.of_motor && in.so_far.can && in.so_far.can->model &&
                (needs_on(needs, in.axis) & (need::current | need::voltage)) != 0 && l.state != LimitState::cannot_say)
                if (const std::string words = tighter_words(in.so_far.can->model->numbers()); !words.empty())
                    l.reason += "; " + words;
            // whatever is not said in numbers of its own is an unknown of its own
            if (l.state == LimitState::cannot_say && l.missing.empty())
                l.missing.push_back({"limit/" + l.key, l.label});
            if (l.state == LimitState::cannot_say)
                l.accepted = std::all_of(
                    l.missing.begin(), l.missing.end(), [&](const Missing& m) { return in.axis.accepts(m.path); });
        }
        out.push_back(std::move(l));
    }
    return out;
}

} // namespace fulmox

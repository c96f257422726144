#include "core/match/limits.h"

#include "core/drivetrain/screw_limits.h"
#include "core/load/screw.h"
#include "core/quantity/format.h"

#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {

namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();
constexpr const char* practice = "common practice, no source";

Limit make(const char* key, const char* label, Kind kind) {
    Limit l;
    l.key = key;
    l.label = label;
    l.kind = kind;
    l.used = l.allowed = nan;
    return l;
}

Limit cannot(Limit l, std::string why) {
    l.state = LimitState::cannot_say;
    l.reason = std::move(why);
    return l;
}

std::string rpm(double w) { return format_quantity(w, *find_unit("rpm")); }
std::string newton_metre(double t) { return format_quantity(t, Kind::torque, UnitSystem::si); }

const char* no_demand = "the demand is not known yet; see what is missing on pages 1 and 2";
const char* no_motor = "no motor is chosen yet; page 4 has a catalogue";

bool has_motor(const LimitInput& in) { return in.so_far.motor != nullptr && !motion_of(in.axis.mechanism).direct; }
const char* motor_missing(const LimitInput& in) {
    return motion_of(in.axis.mechanism).direct
               ? "a rotary motor cannot drive it; linear motors are not in the catalogue"
               : no_motor;
}

// "allowed" lines that every limit ends with
void close(Limit& l, const LimitInput& in, std::string source) {
    l.source = std::move(source);
    judge(l);
    if (in.workings && !std::isnan(l.used) && l.allowed > 0 && std::isfinite(l.used))
        l.working.push_back(working_line("used/allowed", "used / allowed", "used/allowed",
            {{"used", l.used}, {"allowed", l.allowed}}, l.used / l.allowed, Kind::number));
}

Limit speed(const LimitInput& in) {
    Limit l = make("speed", "Top speed", Kind::angular_speed);
    if (!in.so_far.demand) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
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
        l.working.push_back(working_line("ω_max", "min(ω_mech, ω_curve · U/U_0)", "min(w_m, w_c)",
            {{"w_m", c.mechanical_speed}, {"w_c", c.peak.end()}}, c.max_speed, Kind::angular_speed,
            "estimate: the end of the peak curve moves with the bus voltage"));
    }
    close(l, in, "motor datasheet");
    l.reason =
        rpm(l.used) + " of " + rpm(l.allowed) +
        (c.mechanical_speed <= c.peak.end() ? ", the mechanical limit" : ", where the bus voltage ends the peak curve");
    if (l.state != LimitState::fits)
        l.remedy = "Longer lead, more time for the fastest move, a faster motor or a higher bus voltage.";
    return l;
}

Limit peak_torque(const LimitInput& in) {
    Limit l = make("peak_torque", "Peak torque on curve", Kind::torque);
    if (!in.so_far.demand) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
    const MotorUse& u = *in.so_far.motor;
    const Demand& d = *in.so_far.demand;
    l.used = std::abs(u.worst_peak.torque);
    l.allowed = u.worst_peak_allowed;
    l.share = in.policy.peak_torque_share.si;
    if (in.workings) {
        const ShaftState& s = u.worst_peak.state;
        const double carried = s.torque - d.load.rotor_inertia * s.acceleration;
        l.working.push_back(working_line("T", "T_load + J_M α", "T_load+J_M*alpha",
            {{"T_load", carried}, {"J_M", d.load.rotor_inertia}, {"alpha", s.acceleration}}, u.worst_peak.torque,
            Kind::torque, "equation of motion at the motor shaft"));
    }
    close(l, in, "motor datasheet, peak curve at the actual bus voltage");
    l.reason = newton_metre(l.used) + " at " + rpm(std::abs(u.worst_peak.speed)) + ", " +
               format_number(u.worst_peak.time, 3) + " s into the cycle; the curve gives " + newton_metre(l.allowed) +
               " there";
    if (l.state != LimitState::fits)
        l.remedy =
            "Gentler acceleration, less moving mass, counterbalance, another lead, or a motor with more peak torque.";
    return l;
}

void rms_working(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    const std::size_t n = in.axis.cycle.segments.size();
    WorkingValues v{{"T_c", d.cycle_time}};
    std::string sum;
    if (n <= 12) {
        const std::vector<double> heat = heat_by_segment(d, n);
        for (std::size_t i = 0; i < n; ++i) {
            const std::string name = "H" + std::to_string(i + 1);
            v.emplace_back(name, heat[i]);
            sum += (i == 0 ? "" : "+") + name;
        }
    } else {
        v.emplace_back("H", d.rms_torque * d.rms_torque * d.cycle_time);
        sum = "H";
    }
    l.working.push_back(working_line("T_rms", n <= 12 ? "√(Σ ∫T² dt / T_cycle), segment by segment" : "√(∫T² dt / T_cycle)", "sqrt((" + sum + ")/T_c)", v,
        d.rms_torque, Kind::torque, "root mean square over the whole cycle, dwell included"));
}

Limit heat_by_loss(const LimitInput& in) {
    Limit l = make("continuous_loss", "Continuous heat", Kind::torque);
    if (!in.so_far.demand) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
    const MotorUse& u = *in.so_far.motor;
    const double stall = u.can.continuous.stall();
    l.share = in.policy.continuous_share.si;
    if (std::isnan(u.loss_use))
        return cannot(l, "the cycle runs up to " + rpm(in.so_far.demand->peak_speed) +
                             ", the continuous curve ends at " + rpm(u.can.continuous.end()) +
                             " and is not extrapolated");
    // torque at standstill that would heat as much
    l.allowed = u.can.continuous_stall();
    l.used = std::sqrt(std::max(0.0, u.loss_mean));
    if (in.workings) {
        rms_working(l, in);
        const double t2 = in.so_far.demand->rms_torque * in.so_far.demand->rms_torque;
        l.working.push_back(working_line("T_heat", "√(T_rms² + mean[T_c(0)² − T_c(ω)²])", "sqrt(T_rms^2+P_w)",
            {{"T_rms", in.so_far.demand->rms_torque}, {"P_w", u.loss_mean - t2}}, l.used, Kind::torque,
            "loss method: the fall of the continuous curve is iron and friction heat"));
        l.working.push_back(working_line("allowed", "T_c(0) √f", "T_c0*sqrt(f)",
            {{"T_c0", stall}, {"f", u.can.heat_factor}}, l.allowed, Kind::torque, "IEC 60034-1: ambient and altitude"));
    }
    close(l, in, "IEC 60034-1 S1 rating; loss method");
    l.reason = "heat as of " + newton_metre(l.used) + " at standstill, of " + newton_metre(l.allowed) + " continuous";
    if (l.state != LimitState::fits)
        l.remedy =
            "More dwell, gentler ramps, counterbalance, brake in long holds, or a motor with more continuous torque.";
    return l;
}

Limit heat_by_point(const LimitInput& in) {
    Limit l = make("continuous_point", "Continuous torque, point", Kind::torque);
    if (!in.so_far.demand) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
    const MotorUse& u = *in.so_far.motor;
    const Demand& d = *in.so_far.demand;
    l.used = d.rms_torque;
    l.allowed = u.point_allowed;
    l.share = in.policy.continuous_share.si;
    if (std::isnan(l.allowed)) return cannot(l, "the RMS speed lies beyond the continuous curve");
    if (in.workings) {
        rms_working(l, in);
        const double stall = u.can.continuous.stall();
        const double there = u.can.continuous.at(d.rms_speed);
        l.working.push_back(
            working_line("T_c'(ω)", "√(f T_c(0)² − (T_c(0)² − T_c(ω)²)) at the RMS speed, not above the peak curve",
                "min(sqrt(max(0, f*T_c0^2-(T_c0^2-T_c^2))), T_p)",
                {{"f", u.can.heat_factor}, {"T_c0", stall}, {"T_c", there}, {"T_p", u.can.peak.at(d.rms_speed)}},
                l.allowed, Kind::torque, "IEC 60034-1: ambient and altitude"));
    }
    close(l, in, "IEC 60034-1 S1 rating; point method");
    l.reason = newton_metre(l.used) + " RMS at " + rpm(d.rms_speed) + " RMS; the continuous curve gives " +
               newton_metre(l.allowed);
    if (l.state != LimitState::fits)
        l.remedy = "As for continuous heat; the point method is the stricter school for cycles with short fast parts.";
    return l;
}

Limit holding(const LimitInput& in) {
    Limit l = make("holding", "Holding at rest", Kind::torque);
    if (!in.so_far.demand) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
    const Demand& d = *in.so_far.demand;
    const MotorUse& u = *in.so_far.motor;
    l.used = d.holding_torque;
    l.allowed = u.can.continuous_stall();
    l.share = in.policy.continuous_share.si;
    if (in.workings)
        l.working.push_back(working_line("allowed", "T_c(0) √f", "T_c0*sqrt(f)",
            {{"T_c0", u.can.continuous.stall()}, {"f", u.can.heat_factor}}, l.allowed, Kind::torque, "IEC 60034-1"));
    close(l, in, "motor datasheet, standstill torque");
    l.reason = newton_metre(l.used) + " to hold" +
               (in.axis.credit_friction_at_rest ? ", friction credited" : ", friction not credited");
    if (l.state != LimitState::fits) l.remedy = "Counterbalance, let the brake hold in dwells, shorter lead.";
    return l;
}

Limit inertia_ratio(const LimitInput& in) {
    Limit l = make("inertia_ratio", "Inertia ratio", Kind::number);
    if (!in.so_far.inertia) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
    const InertiaStatement& i = *in.so_far.inertia;
    if (!in.policy.inertia_ratio_over.given()) {
        l.used = i.ratio();
        return cannot(l, "the policy \"" + in.policy.name + "\" does not judge the ratio");
    }
    l.used = i.ratio();
    l.allowed = in.policy.inertia_ratio_over.si;
    l.share = in.policy.inertia_ratio_tight.si / l.allowed;
    if (in.workings)
        l.working.push_back(working_line("J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
            {{"J_L", i.load}, {"J_M", i.rotor}}, i.ratio(), Kind::number, practice));
    close(l, in, practice);
    l.reason = format_number(i.ratio(), 3) + " : 1";
    if (i.ratio_least() < i.ratio() * 0.995)
        l.reason += " at the most over the cycle, " + format_number(i.ratio_least(), 3) + " : 1 at the least";
    if (l.used < 0.5) l.reason += "; far below 1, the rotor spends the torque on itself: is the motor too big?";
    if (l.state != LimitState::fits)
        l.remedy = "Thinner or shorter screw, a ratio, a rotor with more inertia, or a stiffer coupling and a policy "
                   "that says so.";
    return l;
}

Limit brake(const LimitInput& in) {
    Limit l = make("brake", "Holding brake", Kind::torque);
    if (!in.so_far.demand) return cannot(l, no_demand);
    if (!has_motor(in)) return cannot(l, motor_missing(in));
    const Demand& d = *in.so_far.demand;
    l.used = in.policy.brake_static_factor.si * d.static_torque;
    l.allowed = in.axis.motor.brake_torque.value_or(0);
    if (in.workings)
        l.working.push_back(working_line("needed", "factor × holding torque", "K*T",
            {{"K", in.policy.brake_static_factor.si}, {"T", d.static_torque}}, l.used, Kind::torque, practice));
    close(l, in, practice);
    if (l.allowed == 0) {
        l.reason = "no brake: without power " + newton_metre(d.static_torque) + " drive the load down" +
                   (d.static_torque_friction == 0 ? "; friction may hold it, but that is not to be relied on" : "");
        l.remedy = "A motor with a holding brake, and mechanical support for work under the load.";
    } else {
        l.reason = newton_metre(l.allowed) + " static against " + format_number(in.policy.brake_static_factor.si, 2) +
                   " × " + newton_metre(d.static_torque);
        if (l.state == LimitState::over) l.remedy = "A larger brake, a counterbalance, or a shorter lead.";
    }
    return l;
}

Limit coupling(const LimitInput& in) {
    Limit l = make("coupling", "Coupling, peak", Kind::torque);
    if (!in.so_far.demand) return cannot(l, no_demand);
    const Demand& d = *in.so_far.demand;
    const double carried = std::max(d.coupling_peak, d.coupling_emergency);
    l.used = carried * in.axis.coupling.service_factor.si;
    if (!in.axis.coupling.rated_torque.given()) return cannot(l, "no allowable torque is given for the coupling");
    l.allowed = in.axis.coupling.rated_torque.si;
    if (in.workings)
        l.working.push_back(working_line("T_k", "K · max(cycle, emergency stop)", "K*max(T_c, T_e)",
            {{"K", in.axis.coupling.service_factor.si}, {"T_c", d.coupling_peak}, {"T_e", d.coupling_emergency}},
            l.used, Kind::torque, practice));
    close(l, in, practice);
    l.reason = newton_metre(carried) + " carried at the instant" +
               (d.coupling_emergency > d.coupling_peak ? " of the emergency stop" : " of the peak") +
               ", with service factor " + newton_metre(l.used);
    if (has_motor(in)) l.reason += "; the motor's own peak is " + newton_metre(in.so_far.motor->can.peak.stall());
    if (l.state != LimitState::fits)
        l.remedy = "A larger coupling, or a torque limit in the drive. Never size it on the rated torque.";
    return l;
}

Limit critical(const LimitInput& in) {
    Limit l = make("critical_speed", "Screw critical speed", Kind::angular_speed);
    if (!in.so_far.demand) return cannot(l, no_demand);
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    if (!s.root_diameter.given()) return cannot(l, "no root diameter is given");
    const double length = s.free_length.value_or(s.length.si);
    l.used = in.so_far.demand->mechanism_peak_speed;
    l.allowed = critical_speed(s.root_diameter.si, length, s.elastic_modulus.si, s.density.si, s.fixity);
    l.share = in.policy.critical_speed_share.si;
    if (in.workings)
        l.working.push_back(working_line("ω_c", "λ²/L² √(E I/(ρ A)), √(I/A) = d_r/4", "lambda^2/L^2*sqrt(E/rho)*d/4",
            {{"lambda", bending_root(s.fixity)}, {"L", length}, {"E", s.elastic_modulus.si}, {"rho", s.density.si},
                {"d", s.root_diameter.si}},
            l.allowed, Kind::angular_speed, "Euler–Bernoulli beam"));
    close(l, in, "Euler–Bernoulli beam");
    l.reason = rpm(l.used) + " of " + rpm(l.allowed) + " over " + format_number(length * 1e3) + " mm free length";
    if (l.state != LimitState::fits) l.remedy = "Longer lead, thicker screw, shorter free length, or a fixed far end.";
    return l;
}

Limit buckling(const LimitInput& in) {
    Limit l = make("buckling", "Screw buckling", Kind::force);
    if (!in.so_far.demand) return cannot(l, no_demand);
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    if (!s.root_diameter.given()) return cannot(l, "no root diameter is given");
    const double length = s.loaded_length.value_or(s.free_length.value_or(s.length.si));
    l.used = in.so_far.demand->axial_peak;
    l.allowed = buckling_load(s.root_diameter.si, length, s.elastic_modulus.si, s.fixity);
    l.share = in.policy.buckling_share.si;
    if (in.workings)
        l.working.push_back(working_line("F_b", "N π² E I/L², I = π d_r⁴/64", "N*pi^2*E*pi*d^4/64/L^2",
            {{"N", euler_factor(s.fixity)}, {"E", s.elastic_modulus.si}, {"d", s.root_diameter.si}, {"L", length}},
            l.allowed, Kind::force, "Euler"));
    close(l, in, "Euler");
    l.reason = format_quantity(l.used, Kind::force, UnitSystem::si) +
               " largest axial force, taken as compression; Euler's load is " +
               format_quantity(l.allowed, Kind::force, UnitSystem::si);
    if (l.state != LimitState::fits) l.remedy = "Thicker screw, shorter loaded length, fixed ends.";
    return l;
}

Limit speed_value(const LimitInput& in) {
    Limit l = make("speed_value", "Screw d × n", Kind::speed);
    if (!in.so_far.demand) return cannot(l, no_demand);
    const Screw& s = std::get<Screw>(in.axis.mechanism);
    const double turns = in.so_far.demand->mechanism_peak_speed / (2 * std::numbers::pi);
    l.used = s.diameter.si * turns;
    l.allowed = s.speed_value.si;
    if (in.workings)
        l.working.push_back(working_line("d n", "d · ω/2π", "d*w/(2*pi)",
            {{"d", s.diameter.si}, {"w", in.so_far.demand->mechanism_peak_speed}}, l.used, Kind::speed, practice));
    close(l, in, "nut datasheet");
    l.reason =
        format_quantity(l.used, *find_unit("mm/min")) + " of " + format_quantity(l.allowed, *find_unit("mm/min"));
    if (l.state != LimitState::fits) l.remedy = "Longer lead, thinner screw, or a nut with another ball return.";
    return l;
}

bool falls_without_power(const LimitInput& in) {
    return in.so_far.demand && in.so_far.demand->static_torque > 0 && !in.so_far.demand->load.tension;
}

} // namespace

std::vector<Limit> judge_all(const LimitInput& in) {
    std::vector<Limit> out{
        speed(in), peak_torque(in), heat_by_loss(in), heat_by_point(in), holding(in), inertia_ratio(in)};
    if (falls_without_power(in)) out.push_back(brake(in));
    if (in.axis.coupling.rated_torque.given() || in.axis.coupling.inertia.given()) out.push_back(coupling(in));
    if (const auto* screw = std::get_if<Screw>(&in.axis.mechanism)) {
        if (screw->turns == ScrewTurns::screw) out.push_back(critical(in)); // where the nut turns the screw stands
        out.push_back(buckling(in));
        if (std::get<Screw>(in.axis.mechanism).speed_value.given()) out.push_back(speed_value(in));
    }
    return out;
}

} // namespace fulmox

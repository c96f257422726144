#include "core/match/drivetrain_rows.h"
#include "core/demand/emergency.h"
#include "core/match/stepper_rows.h"
#include "core/motor/stepper.h"

#include "core/demand/emergency.h"
#include "core/drivetrain/screw_life.h"
#include "core/drivetrain/screw_limits.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {

namespace {

constexpr const char* practice = "common practice, no source";
constexpr const char* of_coupling = "datasheet of the coupling";
constexpr const char* of_brake = "datasheet of the brake";
constexpr const char* of_drive = "datasheet of the drive";

bool turns(const LimitInput& in) { return (motion_of(in.axis.mechanism).has & Motion::shaft) != 0; }

bool has_coupling(const LimitInput& in) { return turns(in) && in.axis.coupling.there(); }

void judge_coupling(Limit& l, const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    if (!c.rated_torque.given()) return lacks(l, {{"/coupling/allowable_torque", "allowable torque of the coupling"}});
    if (!in.so_far.coupling) return cannot(l, "the demand is not known");
    const CouplingUse& u = *in.so_far.coupling;
    const double carried = u.judged(), by_cycle = std::max(u.cycle, u.emergency);
    l.used = carried * c.service_factor.si;
    l.allowed = c.rated_torque.si;
    if (!u.bounded && l.used <= l.allowed)
        return cannot(l, !in.so_far.can ? "the cycle carries " + words(in).torque(carried) +
                                              "; what the motor could put through it is not known"
                                        : "the cycle carries " + words(in).torque(carried) +
                                              "; how the motor's torque is shared is not known");
    const CouplingUse::Worst worst = u.worst(&CouplingBounds::shared);
    const double shared = u.bounded ? std::abs(worst.bounds.shared) : 0;
    if (in.workings) {
        if (u.bounded)
            l.working.push_back(working_line("T_s", "(T_m − T_x) J_L/J + T_x", "(T_m-T_x)*s+T_x",
                {{"T_m", worst.bounds.motor_peak}, {"T_x", worst.bounds.external}, {"s", worst.bounds.load_share}},
                worst.bounds.shared, Kind::torque,
                worst.of == CouplingUse::stop ? "the part of the motor's emergency torque that goes on to the load"
                                              : "the part of the motor's peak torque that goes on to the load"));
        l.working.push_back(working_line("T_k", "K · max(cycle, emergency stop, shared)", "K*max(T_c, T_e, T_s)",
            {{"K", c.service_factor.si}, {"T_c", u.cycle}, {"T_e", u.emergency}, {"T_s", shared}}, l.used, Kind::torque,
            practice));
    }
    if (!closed(l, in, practice)) return;
    if (shared > by_cycle)
        l.reason = words(in).torque(carried) + " of the motor's peak go through it" +
                   (in.axis.drive.torque_limit.given() ? ", limited by the drive" : "") +
                   "; the cycle itself asks for " + words(in).torque(by_cycle);
    else
        l.reason =
            words(in).torque(carried) + " carried at the instant" +
            (u.emergency > u.cycle ? " of the emergency stop" : " of the peak, standstill and breakaway included");
    l.reason += ", with service factor " + words(in).torque(l.used);
    if (u.bounded)
        l.reason += "; a step of torque may swing to " +
                    words(in).torque(std::abs(u.worst(&CouplingBounds::first_swing).bounds.first_swing));
    if (l.state == LimitState::fits) return;
    // a torque limit helps where the motor could give more than the cycle needs of it, and the coupling is rated for
    // that
    bool by_limit = u.bounded && !open_loop(in.axis) && u.cycle * c.service_factor.si <= l.allowed &&
                    worst.bounds.load_share > 0 &&
                    !(worst.of == CouplingUse::stop && in.axis.drive.emergency_torque.given());
    double at_motor = infinite;
    if (by_limit && shared * c.service_factor.si > l.allowed) {
        const double of_motor = worst.of == CouplingUse::stop ? u.emergency_motor_torque : u.motor_torque;
        const double may = std::copysign(l.allowed / c.service_factor.si, worst.bounds.shared);
        const double through = (may - worst.bounds.external) / worst.bounds.load_share + worst.bounds.external;
        at_motor = std::abs(through / worst.bounds.motor_peak) * of_motor;
        by_limit = at_motor >= std::abs(in.so_far.demand->peak.torque);
    }
    const bool longer_stop =
        u.emergency * c.service_factor.si > l.allowed || in.so_far.demand->emergency_torque > at_motor;
    l.remedy = remedies({"a larger coupling", !by_limit     ? ""
                                              : longer_stop ? "a torque limit in the drive with a longer emergency stop"
                                                            : "a torque limit in the drive"}) +
               " Never size it on the rated torque.";
}

void judge_coupling_speed(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    const auto worst = conclude(l, in,
        {held_against(d.load.coupling_at_mechanism ? d.mechanism_peak_speed : d.peak_speed, in.axis.coupling.top_speed,
            "/coupling/top_speed", "top speed of the coupling")},
        of_coupling);
    if (!worst) return;
    l.reason = words(in).speed(l.used) + " of " + words(in).speed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "A balanced coupling, or one for higher speeds.";
}

void judge_alignment(Limit& l, const LimitInput& in) {
    const Misalignment m = misalignment(in.axis.coupling);
    if (in.workings && m.missing.empty()) {
        WorkingValues v;
        std::string sum;
        const Coupling& c = in.axis.coupling;
        const auto add = [&](const char* name, const QuantityBase& has, const QuantityBase& may) {
            v.emplace_back(name, has.si);
            v.emplace_back(std::string(name) + "_k", may.si);
            sum += (sum.empty() ? "" : "+") + std::string(name) + "/" + name + "_k";
        };
        add("alpha", c.angular, c.angular_allowed);
        add("r", c.parallel, c.parallel_allowed);
        add("a", c.axial, c.axial_allowed);
        l.working.push_back(
            working_line("Σ", "sum of misalignment over what each allows", sum, v, m.sum, Kind::number, practice));
    }
    // the sum of those that are known is enough to be over
    if (!conclude(l, in, {{m.sum, 1, m.missing}}, practice)) return;
    l.reason = "angular, parallel and axial together: " + format_number(100 * l.used, 3) + " % of what it allows" +
               (m.missing.empty() ? "" : ", by those that are given alone");
    if (l.state != LimitState::fits) l.remedy = "A better seat, or a coupling that allows more misalignment.";
}

// Nominal diameters are equal or they are not; what is allowed is the rounding of an inch size.
constexpr double same_diameter = 1e-3; // of the diameter

void judge_fits(Limit& l, const LimitInput& in, const std::vector<Mating>& fits, const char* remedy) {
    std::vector<Clause> clauses;
    for (const Mating& m : fits) {
        Clause c{m.apart() / m.wants, same_diameter};
        if (!m.missing.path.empty()) c.missing.push_back(m.missing);
        clauses.push_back(std::move(c));
    }
    const auto worst = conclude(l, in, clauses, "nominal diameters are equal; common practice, no source");
    if (!worst) return;
    const Mating& m = fits[*worst];
    l.used = m.apart();
    l.allowed = same_diameter * m.wants;
    const auto say = [&](double d) { return words(in).say(d, Kind::length); };
    if (l.state == LimitState::over) {
        l.reason = Text(m.what + ": ") + say(m.has) + " on " + say(m.wants);
        l.remedy = remedy;
        return;
    }
    // equal within rounding is equal
    l.state = LimitState::fits;
    std::string names;
    for (const Mating& each : fits) names += (names.empty() ? "" : ", ") + each.what;
    l.reason = "equal: " + names;
}

// no coupling stands between the motor and the first stage
bool mates_motor(const Axis& axis) { return !axis.coupling.there() || axis.coupling.place != CouplingPlace::motor; }

// A shaft of the axis, and what it is called where its diameter is not given.
struct Shaft {
    const QuantityBase& diameter;
    Missing missing;
};
Shaft driving_shaft(const Axis& axis) {
    static const Quantity<Kind::length> none;
    if (axis.stages.empty() || axis.coupling.place == CouplingPlace::motor)
        return {axis.driven() ? axis.motor.shaft_diameter : none, {"/motor/shaft_diameter", "shaft of the motor"}};
    const std::size_t last = axis.stages.size() - 1;
    return {axis.stages[last].output_shaft,
        {"/stages/" + std::to_string(last) + "/output_shaft", "output shaft of the last stage"}};
}
Shaft driven_shaft(const Axis& axis) {
    return {axis.coupling.driven_shaft, {"/coupling/driven_shaft", "shaft on the load's side of the coupling"}};
}

bool has_bores(const LimitInput& in) {
    return turns(in) && (in.axis.coupling.driving_bore.given() || in.axis.coupling.driven_bore.given());
}
void judge_bores(Limit& l, const LimitInput& in) {
    judge_fits(l, in, coupling_fits(in.axis), "Another bore; equal diameters on both sides save a special coupling.");
    const Coupling& c = in.axis.coupling;
    if (l.state == LimitState::fits && !(c.driving_bore.given() && c.driven_bore.given()))
        l.reason += std::string("; no bore given on the ") + (c.driving_bore.given() ? "load's" : "motor's") + " side";
}

// Each shaft against the largest bore, and the smallest bore against each shaft.
void judge_range(Limit& l, const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    std::vector<Clause> clauses;
    const Shaft shafts[]{driving_shaft(in.axis), driven_shaft(in.axis)};
    for (const Shaft& s : shafts)
        for (const bool largest : {true, false}) {
            const QuantityBase &bore = largest ? c.largest_bore : c.smallest_bore, &shaft = s.diameter;
            Clause clause{largest ? shaft.si : bore.si, largest ? bore.si : shaft.si};
            if (!shaft.given()) clause.missing.push_back(s.missing);
            if (!bore.given())
                clause.missing.push_back(largest ? Missing{"/coupling/largest_bore", "largest bore of the coupling"}
                                                 : Missing{"/coupling/smallest_bore", "smallest bore of the coupling"});
            clauses.push_back(std::move(clause));
        }
    const auto worst = conclude(l, in, clauses, practice);
    if (!worst) return;
    const bool too_large = *worst % 2 == 0;
    const auto say = [&](double d) { return words(in).say(d, Kind::length); };
    if (l.state == LimitState::over) {
        l.reason = too_large
                       ? Text("a shaft of ") + say(l.used) + "; its hubs are bored up to " + say(l.allowed)
                       : Text("a shaft of ") + say(l.allowed) + "; its hubs are bored from " + say(l.used) + " on";
        l.remedy = "Another size of coupling, or another journal.";
        return;
    }
    // a bore as large as the shaft is what is wanted, not a reserve used up
    l.state = LimitState::fits;
    l.reason = Text("both shafts, ") + say(std::min(shafts[0].diameter.si, shafts[1].diameter.si)) + " and " +
               say(std::max(shafts[0].diameter.si, shafts[1].diameter.si)) + ", are within its bores";
}
bool has_mating(const LimitInput& in) { return turns(in) && !stage_fits(in.axis).empty(); }
void judge_mating(Limit& l, const LimitInput& in) {
    judge_fits(l, in, stage_fits(in.axis), "An adapter, a bushing, or a gearhead for this motor.");
}

bool wants_brake(const LimitInput& in) {
    return in.so_far.demand && !acting_brakes(in.axis, in.so_far.demand->load).empty();
}

// What of the brakes is not given.
std::vector<Missing> lacks_of(const std::vector<ActingBrake>& brakes, bool torque, bool delay) {
    std::vector<Missing> out;
    for (const ActingBrake& b : brakes) {
        if (torque && std::isnan(b.slips)) out.push_back({b.field("static_torque"), "torque of " + b.name});
        if (delay && std::isnan(b.delay)) out.push_back({b.field("apply_time"), "engagement time of " + b.name});
    }
    return out;
}

void judge_brake_stop(Limit& l, const LimitInput& in) {
    if (!in.so_far.brake) return cannot(l, "the demand is given without the inertia of its load");
    const BrakeStop& b = *in.so_far.brake;
    l.used = b.driving;
    l.allowed = 0;
    for (const ActingBrake& each : b.brakes)
        if (!std::isnan(each.slips)) l.allowed += each.slips;
    // torque that only balances the load never stops it
    const bool never_stops = l.used >= l.allowed && l.used > 0;
    if (std::vector<Missing> missing = lacks_of(b.brakes, true, false); !missing.empty() && never_stops) {
        l.source = of_brake;
        return lacks(l, std::move(missing));
    }
    if (!closed(l, in, of_brake)) return;
    const bool stand_in =
        std::any_of(b.brakes.begin(), b.brakes.end(), [](const ActingBrake& x) { return !x.slips_known; });
    if (never_stops) l.state = LimitState::over;
    if (l.state == LimitState::over) {
        l.reason = words(in).torque(l.used) + " drive the load on, and the brake slips with " +
                   words(in).torque(l.allowed) + ": it never stops";
        l.remedy = "A larger brake, a counterbalance, and mechanical support for work under the load.";
        return;
    }
    l.reason = words(in).torque(l.allowed) + (stand_in ? " (holding torque; no dynamic torque given)" : "") +
               " against " + words(in).torque(l.used) + " that drive on";
    if (!b.delays_known) {
        l.reason += "; the stopping distance needs the brake engagement time";
        return;
    }
    const PowerLoss& w = b.worst(&PowerLoss::distance);
    const bool rotary = motion_of(in.axis.mechanism).rotary;
    const Kind way = rotary ? Kind::angle : Kind::length;
    l.reason += "; without power it stops in " + words(in).say(w.time, Kind::time) + " and at most " +
                words(in).say(w.distance, way);
    if (b.driving > 0) l.reason += ", from standstill it drops " + words(in).say(b.standing.distance, way);
}

// Heat of one stop, brake by brake.
void judge_brake_energy(Limit& l, const LimitInput& in) {
    if (!in.so_far.brake) return cannot(l, "the demand is given without the inertia of its load");
    const BrakeStop& b = *in.so_far.brake;
    std::vector<Clause> clauses;
    const std::vector<Missing> unknown = lacks_of(b.brakes, true, true);
    for (std::size_t i = 0; i < b.brakes.size(); ++i) {
        const ActingBrake& each = b.brakes[i];
        Clause c{unknown.empty() ? 0 : no_number, each.energy, unknown};
        for (const auto* loss : {b.forward ? &*b.forward : nullptr, b.backward ? &*b.backward : nullptr, &b.standing})
            if (loss && unknown.empty()) c.used = std::max(c.used, loss->stops ? loss->energies[i] : infinite);
        if (std::isnan(each.energy))
            c.missing.push_back({each.field("stop_energy"), "energy that " + each.name + " takes in a stop"});
        clauses.push_back(std::move(c));
    }
    const auto worst = conclude(l, in, clauses, of_brake);
    if (!worst) return;
    l.reason = std::isinf(l.used)
                   ? Text("it never stops")
                   : words(in).say(l.used, Kind::energy) + " in one stop from top speed without power, of " +
                         words(in).say(l.allowed, Kind::energy) + " that " + b.brakes[*worst].name + " takes";
    if (b.estimate) l.reason += "; gravity and inertia as where the power fails";
    if (l.state != LimitState::fits) l.remedy = "A brake for more energy, less speed, or less inertia.";
}

// the current of a stepper is set, and its drive gives it continuously
bool has_servo_drive(const LimitInput& in) {
    return in.axis.driven() && !in.axis.motor.stepper() && in.axis.has_drive();
}
const Missing no_continuous{"/drive/continuous_current", "continuous current of the drive"};

void judge_overload(Limit& l, const LimitInput& in) {
    const Drive& d = in.axis.drive;
    const auto& model = in.so_far.motor->can.model;
    if (!model) return lacks(l, {no_constant(in)});
    if (!d.continuous_current.given()) return lacks(l, {no_continuous});
    if (!in.so_far.overload) return cannot(l, "saturation does not let the motor give what the cycle asks for");
    const OverloadIntegral& o = *in.so_far.overload;
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
        l.allowed = std::isnan(o.budget) ? o.continuous * o.continuous * in.so_far.demand->cycle_time : o.budget;
        if (!closed(l, in, of_drive)) return;
        l.reason = "the current never exceeds the continuous rating";
        return;
    }
    if (in.workings) {
        const MotorConditions& c = in.so_far.motor->can.model->conditions();
        l.working.push_back(working_line("W", "(I_p² − I_c²) t_p", "(I_p^2-I_c^2)*t_p",
            {{"I_p", c.drive_peak}, {"I_c", c.drive_continuous}, {"t_p", in.axis.drive.peak_time.si}}, o.budget,
            Kind::current_squared_time, "from empty"));
    }
    if (!closed(l, in, of_drive)) return;
    if (o.trips)
        l.reason = "the drive trips in cycle " + format_number(o.trip_cycle, 6) + " after " +
                   format_number(o.trip_time, 3) + " s of it";
    else
        l.reason = words(in).say(o.greatest, l.kind) + " of " + words(in).say(o.budget, l.kind) + " beyond " +
                   format_number(o.continuous, 3) + " A at the most";
    if (l.state != LimitState::fits) l.remedy = "A larger drive, shorter peaks, or more time between them.";
}

bool has_standstill(const LimitInput& in) { return has_servo_drive(in) && in.axis.drive.standstill_share.given(); }
void judge_standstill(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    if (!u.can.model) return lacks(l, {no_constant(in)});
    if (!in.axis.drive.continuous_current.given()) return lacks(l, {no_continuous});
    const double holds = in.so_far.demand->holding_torque;
    l.used = u.can.model->without_voltage_limit(holds, 0).current;
    l.allowed = in.axis.drive.standstill_share.si * u.can.model->conditions().drive_continuous;
    if (!closed(l, in, of_drive)) return;
    l.reason = format_number(l.used, 3) + " A to hold " + words(in).torque(holds) + ", of " +
               format_number(l.allowed, 3) + " A that the drive gives at standstill";
    if (l.state != LimitState::fits) l.remedy = "A brake in long holds, a counterbalance, or a larger drive.";
}

bool has_any_drive(const LimitInput& in) { return in.axis.has_drive(); }
void judge_highest(Limit& l, const LimitInput& in) {
    const Drive& d = in.axis.drive;
    if (!conclude(l, in,
            {held_against(
                d.highest_bus(), d.highest_voltage, "/drive/highest_voltage", "highest bus voltage of the drive")},
            of_drive))
        return;
    l.reason = format_number(l.used, 4) + " V with mains high, of " + format_number(l.allowed, 4) +
               " V; braking raises it further";
    if (l.state != LimitState::fits) l.remedy = "A lower bus, or a drive for a higher one.";
}
void judge_lowest(Limit& l, const LimitInput& in) {
    // as a share of what there is, so that less is better
    Clause c{in.axis.drive.lowest_voltage.si, in.axis.drive.lowest_bus()};
    if (!in.axis.drive.lowest_voltage.given())
        c.missing.push_back({"/drive/lowest_voltage", "lowest bus voltage of the drive"});
    if (!conclude(l, in, {c}, of_drive)) return;
    l.reason = "the drive works from " + format_number(l.used, 4) + " V; the bus falls to " +
               format_number(l.allowed, 4) + " V with mains low";
    if (l.state != LimitState::fits) l.remedy = "A higher bus, or a drive for a lower one.";
}

bool has_dial(const LimitInput& in) { return in.axis.driven() && in.axis.motor.stepper() && has_any_drive(in); }
void judge_dial(Limit& l, const LimitInput& in) {
    const Drive& d = in.axis.drive;
    const bool peak = d.dial == AmperesAs::peak;
    l.used = d.phase_current.given() ? d.phase_current.si
                                     : stepper_numbers(in.axis.motor).current * (peak ? std::numbers::sqrt2 : 1);
    if (!conclude(l, in,
            {held_against(l.used, d.most_current, "/drive/most_current", "highest setting of the drive's dial")},
            of_drive))
        return;
    if (l.state == LimitState::tight) l.state = LimitState::fits; // a dial turned up to its end is no risk
    l.reason = Text(d.phase_current.given() ? "set to " : "as the motor is rated, ") + format_number(l.used, 3) +
               " A " + (peak ? "peak" : "RMS") + "; the dial goes up to " + format_number(l.allowed, 3) + " A";
    if (l.state != LimitState::fits) l.remedy = "A drive with more phase current, or less current and less torque.";
}

// a spectrum stands in for the cycle
need::Bits life_needs(const Axis& axis) {
    const auto* s = std::get_if<Screw>(&axis.mechanism);
    return s && !s->spectrum.empty() ? need::screw_life | need::travel : need::load | need::screw_life;
}
const Screw* screw_of(const LimitInput& in) { return std::get_if<Screw>(&in.axis.mechanism); }
bool asks_life(const LimitInput& in) { return screw_of(in) && screw_of(in)->life_asked.given(); }
// The torque limit holds in an emergency stop too.
bool has_limited_stop(const LimitInput& in) { return stop_is_limited(in.axis); }
void judge_stop(Limit& l, const LimitInput& in) {
    if (!in.so_far.demand) return cannot(l, "the demand is not known");
    const Demand& d = *in.so_far.demand;
    l.used = d.stop_torque_asked;
    l.allowed = in.axis.drive.torque_limit.si;
    if (!closed(l, in, "torque limit as programmed")) return;
    if (d.stop_asked <= 0) {
        l.reason = "it never moves";
        return;
    }
    l.reason = words(in).torque(l.used) + " to stop in " + words(in).say(d.stop_asked, Kind::time) + ", of " +
               words(in).torque(l.allowed) + " that the torque limit permits";
    if (d.stops_in_time) return;
    l.reason += d.stop_ends ? "; with that it takes " + words(in).say(d.stop_time, Kind::time)
                            : Text("; with that it never stops");
    l.remedy = d.stop_ends ? "A longer emergency stop, or a higher torque limit." : "A higher torque limit.";
}

void judge_screw_life(Limit& l, const LimitInput& in) {
    const Screw& s = *screw_of(in);
    if (!s.dynamic_rating.given()) return lacks(l, {{"/mechanism/dynamic_rating", "dynamic load rating of the nut"}});
    const ScrewLife life = screw_life(s, in.so_far.demand);
    l.used = s.life_asked.si;
    l.allowed = life.hours * 3600; // one that never turns lasts for ever
    if (in.workings && !life.preloaded && std::isfinite(life.revolutions))
        l.working.push_back(working_line("L_h", "(C/F_m)³ 10⁶ · 2π/ω_m", "(C/F_m)^3*1e6*2*pi/w_m",
            {{"C", s.dynamic_rating.si}, {"F_m", life.mean_load}, {"w_m", life.mean_speed}}, life.hours * 3600,
            Kind::time, "ISO 3408-5, from memory"));
    if (!closed(l, in, "ISO 3408-5, from memory")) return;
    if (std::isinf(life.hours)) {
        l.reason = "it carries nothing, or never turns";
        return;
    }
    l.reason = words(in).say(l.used, Kind::time) + " asked, of " + words(in).say(l.allowed, Kind::time) +
               "; mean load " + words(in).say(life.mean_load, Kind::force) + " weighted by turns" +
               (life.typed ? ", by the spectrum that is typed" : "") +
               (life.preloaded ? ", and the preload in both halves of the nut" : "");
    if (l.state != LimitState::fits) l.remedy = "A nut with a higher rating, a longer lead, or less load at speed.";
}
bool has_static_rating(const LimitInput& in) { return screw_of(in) && screw_of(in)->static_rating.given(); }
void judge_screw_static(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    l.used = d.axial_force();
    l.allowed = screw_of(in)->static_rating.si;
    if (!closed(l, in, "datasheet of the nut")) return;
    l.reason = words(in).say(l.used, Kind::force) + " largest axial force" +
               (d.axial_emergency > d.axial_peak ? ", in the emergency stop" : "") + ", of " +
               words(in).say(l.allowed, Kind::force);
    if (l.state != LimitState::fits) l.remedy = "A larger nut, or gentler moves.";
}

// an open-loop stepper lags behind its place under its torque
need::Bits precision_needs(const Axis& axis) {
    const need::Bits all =
        need::load | need::precision | need::stiffness | need::bending | need::buckling | need::pulses;
    return open_loop(axis) ? all | need::demand | need::current | need::temperatures : all;
}
bool asks_precision(const LimitInput& in) {
    return in.axis.accuracy.asked.given() && !std::holds_alternative<Winder>(in.axis.mechanism);
}
void judge_precision(Limit& l, const LimitInput& in) {
    l.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
    if (!in.so_far.precision) return cannot(l, "the demand is not known");
    const PrecisionBudget& b = *in.so_far.precision;
    const bool worst = in.axis.accuracy.judged_by == ErrorSum::worst;
    l.used = worst ? b.worst : b.squares;
    l.allowed = in.axis.accuracy.asked.si;
    if (!b.missing.empty() && l.used <= l.allowed)
        return lacks(l, b.missing, Text("± ") + words(in).say(l.used, l.kind) + " by what is given");
    if (in.workings && !b.terms.empty()) l.working.push_back(precision_working(b, worst, l.kind));
    if (!closed(l, in, practice)) return;
    const auto largest = std::max_element(
        b.terms.begin(), b.terms.end(), [](const ErrorTerm& x, const ErrorTerm& y) { return x.error < y.error; });
    l.reason = "± " + words(in).say(b.worst, l.kind) + " in the worst case, ± " + words(in).say(b.squares, l.kind) +
               " by the root of the squares";
    if (largest != b.terms.end()) l.reason += "; most of it: " + largest->label;
    if (l.state != LimitState::fits)
        l.remedy =
            std::holds_alternative<Screw>(in.axis.mechanism)
                ? "Less backlash, a stiffer or finer screw, a scale at the load, or compensation of the lead error."
                : "Less backlash, a stiffer mechanism, or a scale at the load.";
}

} // namespace

double Mating::apart() const { return std::abs(has - wants); }

WorkingLine precision_working(const PrecisionBudget& b, bool worst, Kind kind) {
    WorkingValues v;
    std::string sum, windups;
    for (std::size_t i = 0; i < b.terms.size(); ++i) {
        const std::string name = "e" + std::to_string(i + 1);
        v.emplace_back(name, b.terms[i].error);
        if (!worst && b.terms[i].key.starts_with("windup"))
            windups += (windups.empty() ? "" : "+") + name;
        else
            sum += (sum.empty() ? "" : "+") + name + (worst ? "" : "^2");
    }
    if (!windups.empty()) sum += (sum.empty() ? "(" : "+(") + windups + ")^2";
    return working_line("e", worst ? "sum of all errors, ±" : "root of the sum of squares, the windups together, ±",
        worst ? sum : "sqrt(" + sum + ")", v, worst ? b.worst : b.squares, kind, practice);
}

std::vector<Mating> coupling_fits(const Axis& axis) {
    std::vector<Mating> out;
    const auto add = [&](const char* what, const QuantityBase& bore, const Shaft& shaft) {
        if (bore.given())
            out.push_back({what, bore.si, shaft.diameter.si, shaft.diameter.given() ? Missing{} : shaft.missing});
    };
    add("bore on the motor's side", axis.coupling.driving_bore, driving_shaft(axis));
    add("bore on the load's side", axis.coupling.driven_bore, driven_shaft(axis));
    return out;
}

std::vector<Mating> stage_fits(const Axis& axis) {
    std::vector<Mating> out;
    for (std::size_t k = 0; k < axis.stages.size(); ++k) {
        const Stage& s = axis.stages[k];
        const std::string name = s.name.empty() ? "stage " + std::to_string(k + 1) : s.name;
        const auto add = [&](const char* what, const QuantityBase& has, const QuantityBase* wants, Missing missing) {
            if (!has.given()) return;
            const bool given = wants && wants->given();
            out.push_back(
                {name + ", " + what, has.si, given ? wants->si : no_number, given ? Missing{} : std::move(missing)});
        };
        if (k > 0) {
            add("input bore and shaft before it", s.input_bore, &axis.stages[k - 1].output_shaft,
                {"/stages/" + std::to_string(k - 1) + "/output_shaft", "output shaft of the stage before it"});
            continue;
        }
        if (!mates_motor(axis)) continue;
        const Motor* motor = axis.driven() ? &axis.motor : nullptr;
        add("input bore and shaft of the motor", s.input_bore, motor ? &motor->shaft_diameter : nullptr,
            {"/motor/shaft_diameter", "shaft of the motor"});
        if (!s.adapter.empty()) continue;
        add("pilot", s.pilot, motor ? &motor->pilot : nullptr, {"/motor/pilot", "pilot of the motor"});
        add("bolt circle", s.bolt_circle, motor ? &motor->bolt_circle : nullptr,
            {"/motor/bolt_circle", "bolt circle of the motor"});
    }
    return out;
}

Misalignment misalignment(const Coupling& c) {
    Misalignment out;
    const auto add = [&](const QuantityBase& has, const QuantityBase& may, const std::string& name) {
        if (!may.given())
            out.missing.push_back({"/coupling/" + name + "_allowed", name + " allowance of the coupling"});
        if (!has.given()) out.missing.push_back({"/coupling/" + name, "actual " + name + " misalignment"});
        if (may.given() && has.given()) out.sum += has.si / may.si;
    };
    add(c.angular, c.angular_allowed, "angular");
    add(c.parallel, c.parallel_allowed, "parallel");
    add(c.axial, c.axial_allowed, "axial");
    return out;
}

TorqueLimit torque_limit(const Axis& axis, const LoadModel& load, const Policy& policy) {
    TorqueLimit out;
    out.torque = infinite;
    const auto by = [&](std::string part, std::string name, double torque) {
        if (!(torque < out.torque)) return;
        out = {std::move(part), std::move(name), torque};
    };
    // driven back, as in a stop, a stage passes on more than it does forwards
    const auto passes = [](double backward) { return backward > 0 ? std::max(1.0, 1 / backward) : 1.0; };
    double ahead = 1;
    for (std::size_t k = 0; k < axis.stages.size() && k < load.stages.size(); ++k) {
        const Stage& s = axis.stages[k];
        ahead *= load.stages[k].ratio * passes(load.stages[k].backward);
        if (s.peak_torque.given())
            by("stage_" + std::to_string(k + 1), s.name.empty() ? "stage " + std::to_string(k + 1) : s.name,
                s.peak_torque.si * s.peak_share.value_or(1) / ahead);
    }
    if (const Coupling& c = axis.coupling; c.rated_torque.given())
        by("coupling", "the coupling",
            c.rated_torque.si / c.service_factor.si / (load.coupling_at_mechanism ? ahead : 1));
    if (const auto* s = std::get_if<Screw>(&axis.mechanism); s && s->root_diameter.given())
        by("screw", "the screw, buckling",
            policy.buckling_share.value_or(1) * buckling_load(*s, false).value * std::abs(load.radius) /
                (ahead * passes(load.efficiency_backward)));
    if (axis.driven() && axis.motor.shaft_torque.given()) by("shaft", "the motor's shaft", axis.motor.shaft_torque.si);
    if (out.part.empty()) out.torque = no_number;
    return out;
}

std::vector<LimitRow> drivetrain_limit_rows() {
    using namespace need;
    constexpr Bits coupling_needs = need::load | stop | need::coupling;
    constexpr Bits brakes = need::load | motor_brake | need::brake_stop | rotor | ratio_inertia;
    constexpr Bits currents = need::demand | current | resistance | temperatures | voltage;
    return {
        {"coupling", "Coupling, peak", Kind::torque, coupling_needs | rotor | ratio_inertia | peak_curve | voltage,
            false, has_coupling, judge_coupling, nullptr, nullptr, nullptr, coupling_needs},
        {"coupling_speed", "Coupling, speed", Kind::angular_speed, speeds | need::coupling_speed, false, has_coupling,
            judge_coupling_speed},
        {"coupling_alignment", "Coupling, misalignment", Kind::number, alignment, false, has_coupling, judge_alignment},
        {"coupling_bores", "Coupling, bores", Kind::length, coupling_fit, false, has_bores, judge_bores},
        {"coupling_range", "Coupling, bore size", Kind::length, coupling_fit, false, has_coupling, judge_range},
        {"stage_mating", "Gearhead on motor", Kind::length, coupling_fit, false, has_mating, judge_mating},
        {"brake_stop", "Brake, stopping", Kind::torque, brakes, false, wants_brake, judge_brake_stop},
        {"brake_energy", "Brake, energy of a stop", Kind::energy, brakes, false, wants_brake, judge_brake_energy},
        {"drive_stop", "Drive, emergency stop", Kind::torque, need::demand | stop, false, has_limited_stop, judge_stop},
        {"drive_overload", "Drive, I²t", Kind::current_squared_time, currents | drive_overload, true, has_servo_drive,
            judge_overload},
        {"drive_standstill", "Drive, standstill", Kind::current, need::demand | current | temperatures | drive_overload,
            true, has_standstill, judge_standstill},
        {"drive_highest", "Drive, bus at its highest", Kind::voltage, voltage | drive_window, false, has_any_drive,
            judge_highest},
        {"drive_dial", "Drive, dial", Kind::current, current | drive_overload, true, has_dial, judge_dial},
        {"drive_lowest", "Drive, bus at its lowest", Kind::voltage, voltage | drive_window, false, has_any_drive,
            judge_lowest},
        {"screw_life", "Screw life", Kind::time, need::load | need::screw_life, false, asks_life, judge_screw_life,
            nullptr, nullptr, life_needs},
        {"screw_static", "Screw, static load", Kind::force, need::load | stop | need::screw_life, false,
            has_static_rating, judge_screw_static},
        {"precision", "Precision", Kind::length,
            need::load | need::precision | need::stiffness | bending | buckling | pulses, false, asks_precision,
            judge_precision, nullptr, nullptr, precision_needs},
    };
}

} // namespace fulmox

#include "core/match/drivetrain_rows.h"
#include "core/motor/stepper.h"

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

bool has_coupling(const LimitInput& in) {
    return turns(in) && (in.axis.coupling.rated_torque.given() || in.axis.coupling.inertia.given());
}

void judge_coupling(Limit& l, const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    if (!c.rated_torque.given()) return cannot(l, "no allowable torque is given for the coupling");
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
    if (l.state != LimitState::fits)
        l.remedy = "A larger coupling, or a torque limit in the drive. Never size it on the rated torque.";
}

bool has_coupling_speed(const LimitInput& in) { return turns(in) && in.axis.coupling.top_speed.given(); }
void judge_coupling_speed(Limit& l, const LimitInput& in) {
    const Demand& d = *in.so_far.demand;
    l.used = d.load.coupling_at_mechanism ? d.mechanism_peak_speed : d.peak_speed;
    l.allowed = in.axis.coupling.top_speed.si;
    if (!closed(l, in, of_coupling)) return;
    l.reason = words(in).speed(l.used) + " of " + words(in).speed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "A balanced coupling, or one for higher speeds.";
}

bool has_alignment(const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    return turns(in) && (c.angular_allowed.given() || c.parallel_allowed.given() || c.axial_allowed.given());
}
void judge_alignment(Limit& l, const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    l.used = misalignment(c);
    l.allowed = 1;
    if (std::isnan(l.used)) return cannot(l, "what assembly will hold is not given");
    if (in.workings) {
        WorkingValues v;
        std::string sum;
        const auto add = [&](const char* name, const QuantityBase& has, const QuantityBase& may) {
            if (!may.given()) return;
            v.emplace_back(name, has.si);
            v.emplace_back(std::string(name) + "_k", may.si);
            sum += (sum.empty() ? "" : "+") + std::string(name) + "/" + name + "_k";
        };
        add("alpha", c.angular, c.angular_allowed);
        add("r", c.parallel, c.parallel_allowed);
        add("a", c.axial, c.axial_allowed);
        l.working.push_back(
            working_line("Σ", "sum of misalignment over what each allows", sum, v, l.used, Kind::number, practice));
    }
    if (!closed(l, in, practice)) return;
    l.reason = "angular, parallel and axial together take " + format_number(100 * l.used, 3) + " % of what it bears";
    if (l.state != LimitState::fits) l.remedy = "A better seat, or a coupling that bears more misalignment.";
}

// Nominal diameters are equal or they are not; what is allowed is the rounding of an inch size.
constexpr double same_diameter = 1e-3; // of the diameter

void judge_fits(Limit& l, const LimitInput& in, const std::vector<Mating>& fits, const char* remedy) {
    const auto worst = std::max_element(fits.begin(), fits.end(),
        [](const Mating& a, const Mating& b) { return a.apart() / a.wants < b.apart() / b.wants; });
    if (worst == fits.end()) return cannot(l, "one diameter of each pair is not given");
    l.used = worst->apart();
    l.allowed = same_diameter * worst->wants;
    if (!closed(l, in, "nominal diameters are equal; common practice, no source")) return;
    const auto say = [&](double d) { return words(in).say(d, Kind::length); };
    l.reason = l.state == LimitState::fits ? Text("the diameters that are given are equal")
                                           : Text(worst->what + ": ") + say(worst->has) + " on " + say(worst->wants);
    if (l.state != LimitState::fits) l.remedy = remedy;
}

// no coupling stands between the motor and the first stage
bool mates_motor(const Axis& axis) { return !axis.coupling.there() || axis.coupling.place != CouplingPlace::motor; }
// the shaft on the motor's side; null: it is not the axis' to say
const QuantityBase* driving_shaft(const Axis& axis) {
    if (axis.stages.empty() || axis.coupling.place == CouplingPlace::motor)
        return axis.driven() ? &axis.motor.shaft_diameter : nullptr;
    return &axis.stages.back().output_shaft;
}
bool has_bores(const LimitInput& in) {
    return turns(in) && (in.axis.coupling.driving_bore.given() || in.axis.coupling.driven_bore.given());
}
void judge_bores(Limit& l, const LimitInput& in) {
    judge_fits(l, in, coupling_fits(in.axis), "Another bore; equal diameters on both sides save a special coupling.");
}
bool has_range(const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    return turns(in) && c.there() && (c.smallest_bore.given() || c.largest_bore.given());
}
// The larger shaft against the largest bore, or the smallest bore against the smaller shaft, whatever is worse.
void judge_range(Limit& l, const LimitInput& in) {
    const Coupling& c = in.axis.coupling;
    const QuantityBase* ends[] = {driving_shaft(in.axis), &c.driven_shaft};
    bool all = true;
    double large = 0, small = std::numeric_limits<double>::infinity();
    for (const QuantityBase* q : ends)
        if (q && q->given()) {
            large = std::max(large, q->si);
            small = std::min(small, q->si);
        } else {
            all = false;
        }
    if (large == 0) return cannot(l, "neither shaft is given");
    const double above = c.largest_bore.given() ? large / c.largest_bore.si : 0,
                 below = c.smallest_bore.given() ? c.smallest_bore.si / small : 0;
    const bool too_large = above >= below;
    l.used = too_large ? large : c.smallest_bore.si;
    l.allowed = too_large ? c.largest_bore.si : small;
    if (!closed(l, in, "common practice, no source")) return;
    // a bore as large as the shaft is what is wanted, not a reserve used up
    if (l.state == LimitState::tight) l.state = LimitState::fits;
    const auto say = [&](double d) { return words(in).say(d, Kind::length); };
    if (l.state == LimitState::over) {
        l.reason = too_large ? Text("a shaft of ") + say(large) + "; its hubs are bored up to " + say(l.allowed)
                             : Text("a shaft of ") + say(small) + "; its hubs are bored from " + say(l.used) + " on";
        l.remedy = "Another size of coupling, or another journal.";
        return;
    }
    if (!all) return cannot(l, "the shaft on one side is not given");
    l.reason = Text("both shafts, ") + say(small) + " and " + say(large) + ", are within its bores";
}
bool has_mating(const LimitInput& in) {
    if (!turns(in)) return false;
    const auto says = [](const Stage& s) { return s.input_bore.given() || s.pilot.given() || s.bolt_circle.given(); };
    const auto& stages = in.axis.stages;
    return std::any_of(stages.begin() + (mates_motor(in.axis) ? 0 : std::min<std::ptrdiff_t>(1, std::ssize(stages))),
        stages.end(), says);
}
void judge_mating(Limit& l, const LimitInput& in) {
    judge_fits(l, in, stage_fits(in.axis), "An adapter, a bushing, or a gearhead for this motor.");
}

bool wants_brake(const LimitInput& in) {
    return in.so_far.demand && !acting_brakes(in.axis, in.so_far.demand->load).empty();
}

void judge_brake_stop(Limit& l, const LimitInput& in) {
    if (!in.so_far.brake) return cannot(l, "the demand is given without the inertia of its load");
    const BrakeStop& b = *in.so_far.brake;
    l.used = b.driving;
    for (const ActingBrake& each : b.brakes) l.allowed = (std::isnan(l.allowed) ? 0 : l.allowed) + each.slips;
    if (!closed(l, in, of_brake)) return;
    const bool stand_in =
        std::any_of(b.brakes.begin(), b.brakes.end(), [](const ActingBrake& x) { return !x.slips_known; });
    // torque that only balances the load never stops it
    if (l.used >= l.allowed && l.used > 0) l.state = LimitState::over;
    if (l.state == LimitState::over) {
        l.reason = words(in).torque(l.used) + " drive the load on, and the brake slips with " +
                   words(in).torque(l.allowed) + ": it never stops";
        l.remedy = "A larger brake, a counterbalance, and mechanical support for work under the load.";
        return;
    }
    l.reason = words(in).torque(l.allowed) + (stand_in ? " (the holding torque, for want of the dynamic one)" : "") +
               " against " + words(in).torque(l.used) + " that drive on";
    if (!b.delays_known) {
        l.reason += "; how far it goes waits for the time until the brake bites";
        return;
    }
    const PowerLoss& w = b.worst(&PowerLoss::distance);
    const bool rotary = motion_of(in.axis.mechanism).rotary;
    const Kind way = rotary ? Kind::angle : Kind::length;
    l.reason += "; without power it stops in " + words(in).say(w.time, Kind::time) + " and " +
                words(in).say(w.distance, way) + " at the most";
    if (b.driving > 0) l.reason += ", from standstill it drops " + words(in).say(b.standing.distance, way);
}

bool has_brake_energy(const LimitInput& in) {
    if (!wants_brake(in)) return false;
    const std::vector<ActingBrake> brakes = acting_brakes(in.axis, in.so_far.demand->load);
    return std::any_of(brakes.begin(), brakes.end(), [](const ActingBrake& b) { return !std::isnan(b.energy); });
}
void judge_brake_energy(Limit& l, const LimitInput& in) {
    if (!in.so_far.brake) return cannot(l, "the demand is given without the inertia of its load");
    const BrakeStop& b = *in.so_far.brake;
    if (!b.delays_known) return cannot(l, "the time until the brake bites is not given");
    double most = -1;
    const ActingBrake* of = nullptr;
    for (const auto* loss : {b.forward ? &*b.forward : nullptr, b.backward ? &*b.backward : nullptr, &b.standing}) {
        if (!loss) continue;
        for (std::size_t i = 0; i < b.brakes.size(); ++i) {
            const ActingBrake& each = b.brakes[i];
            if (std::isnan(each.energy)) continue;
            const double used = loss->stops ? loss->energies[i] : infinite;
            if (used / each.energy <= most) continue;
            most = used / each.energy;
            of = &each;
            l.used = used;
            l.allowed = each.energy;
        }
    }
    if (!of || !closed(l, in, of_brake)) return;
    l.reason = std::isinf(l.used)
                   ? Text("it never stops")
                   : words(in).say(l.used, Kind::energy) + " in one stop from top speed without power, of " +
                         words(in).say(l.allowed, Kind::energy) + " that " + of->name + " takes";
    if (b.estimate) l.reason += "; gravity and inertia as where the power fails";
    if (l.state != LimitState::fits) l.remedy = "A brake for more energy, less speed, or less inertia.";
}

// the current of a stepper is set, and its drive gives it for good
bool has_overload(const LimitInput& in) {
    return in.axis.driven() && !in.axis.motor.stepper() && in.axis.drive.continuous_current.given() &&
           in.axis.drive.peak_current.given();
}
void judge_overload(Limit& l, const LimitInput& in) {
    if (!in.so_far.overload)
        return cannot(l, in.so_far.motor->can.model ? "saturation does not let the motor give what the cycle asks for"
                                                    : "the motor gives no constant to tell its current by");
    const OverloadIntegral& o = *in.so_far.overload;
    if (o.greatest > 0 && std::isnan(o.budget))
        return cannot(
            l, "the current goes above what the drive gives for good; how long it gives its peak is not said");
    l.used = o.greatest;
    l.allowed = o.budget;
    if (too_little_to_say(l, in)) return;
    if (o.greatest == 0) {
        // without a budget: whatever the drive gives for good over a cycle
        l.allowed = std::isnan(o.budget) ? o.continuous * o.continuous * in.so_far.demand->cycle_time : o.budget;
        if (!closed(l, in, of_drive)) return;
        l.reason = "the current never goes above what the drive gives for good";
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

bool has_standstill(const LimitInput& in) {
    return in.axis.driven() && !in.axis.motor.stepper() && in.axis.drive.standstill_share.given() &&
           in.axis.drive.continuous_current.given();
}
void judge_standstill(Limit& l, const LimitInput& in) {
    const MotorUse& u = *in.so_far.motor;
    if (!u.can.model) return cannot(l, "the motor gives no constant to tell its current by");
    const double holds = in.so_far.demand->holding_torque;
    l.used = u.can.model->without_voltage_limit(holds, 0).current;
    l.allowed = in.axis.drive.standstill_share.si * u.can.model->conditions().drive_continuous;
    if (!closed(l, in, of_drive)) return;
    l.reason = format_number(l.used, 3) + " A to hold " + words(in).torque(holds) + ", of " +
               format_number(l.allowed, 3) + " A that the drive gives at standstill";
    if (l.state != LimitState::fits) l.remedy = "A brake in long holds, a counterbalance, or a larger drive.";
}

bool has_highest(const LimitInput& in) { return in.axis.drive.highest_voltage.given(); }
void judge_highest(Limit& l, const LimitInput& in) {
    l.used = in.axis.drive.highest_bus();
    l.allowed = in.axis.drive.highest_voltage.si;
    if (!closed(l, in, of_drive)) return;
    l.reason = format_number(l.used, 4) + " V with mains high, of " + format_number(l.allowed, 4) +
               " V; what braking returns comes on top";
    if (l.state != LimitState::fits) l.remedy = "A lower bus, or a drive for a higher one.";
}
bool has_lowest(const LimitInput& in) { return in.axis.drive.lowest_voltage.given(); }
void judge_lowest(Limit& l, const LimitInput& in) {
    // as a share of what there is, so that less is better
    l.used = in.axis.drive.lowest_voltage.si;
    l.allowed = in.axis.drive.lowest_bus();
    if (!closed(l, in, of_drive)) return;
    l.reason = "the drive works from " + format_number(l.used, 4) + " V; the bus falls to " +
               format_number(l.allowed, 4) + " V with mains low";
    if (l.state != LimitState::fits) l.remedy = "A higher bus, or a drive for a lower one.";
}

bool has_dial(const LimitInput& in) { return in.axis.motor.stepper() && in.axis.drive.most_current.given(); }
void judge_dial(Limit& l, const LimitInput& in) {
    const Drive& d = in.axis.drive;
    const bool peak = d.dial == AmperesAs::peak;
    l.used = d.phase_current.given() ? d.phase_current.si
                                     : stepper_numbers(in.axis.motor).current * (peak ? std::numbers::sqrt2 : 1);
    l.allowed = d.most_current.si;
    if (!closed(l, in, of_drive)) return;
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
bool asks_life(const LimitInput& in) {
    const Screw* s = screw_of(in);
    return s && s->dynamic_rating.given() && s->life_asked.given();
}
void judge_screw_life(Limit& l, const LimitInput& in) {
    const Screw& s = *screw_of(in);
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
    if (!b.missing.empty() && l.used <= l.allowed) {
        std::string names;
        for (const std::string& m : b.missing) names += (names.empty() ? "" : ", ") + m;
        return cannot(l, "± " + words(in).say(l.used, l.kind) + " by what is known; not given: " + names);
    }
    if (in.workings && !b.terms.empty()) {
        WorkingValues v;
        std::string sum, letters;
        for (std::size_t i = 0; i < b.terms.size(); ++i) {
            const std::string name = "e" + std::to_string(i + 1);
            v.emplace_back(name, b.terms[i].error);
            sum += (i == 0 ? "" : "+") + name + (worst ? "" : "^2");
        }
        l.working.push_back(working_line("e", worst ? "sum of all errors, ±" : "root of the sum of squares, ±",
            worst ? sum : "sqrt(" + sum + ")", v, l.used, l.kind, practice));
    }
    if (!closed(l, in, practice)) return;
    const auto largest = std::max_element(
        b.terms.begin(), b.terms.end(), [](const ErrorTerm& x, const ErrorTerm& y) { return x.error < y.error; });
    l.reason = "± " + words(in).say(b.worst, l.kind) + " in the worst case, ± " + words(in).say(b.squares, l.kind) +
               " by the root of the squares";
    if (largest != b.terms.end()) l.reason += "; most of it: " + largest->label;
    if (l.state != LimitState::fits)
        l.remedy = "Less backlash, a stiffer or finer screw, a scale at the load, or compensation of the lead error.";
}

} // namespace

double Mating::apart() const { return std::abs(has - wants); }

std::vector<Mating> coupling_fits(const Axis& axis) {
    std::vector<Mating> out;
    const Coupling& c = axis.coupling;
    const bool at_motor = axis.stages.empty() || c.place == CouplingPlace::motor;
    const QuantityBase& driving = at_motor ? static_cast<const QuantityBase&>(axis.motor.shaft_diameter)
                                           : static_cast<const QuantityBase&>(axis.stages.back().output_shaft);
    if (c.driving_bore.given() && driving.given() && (!at_motor || axis.driven()))
        out.push_back({"bore on the motor's side", c.driving_bore.si, driving.si});
    if (c.driven_bore.given() && c.driven_shaft.given())
        out.push_back({"bore on the load's side", c.driven_bore.si, c.driven_shaft.si});
    return out;
}

std::vector<Mating> stage_fits(const Axis& axis) {
    std::vector<Mating> out;
    for (std::size_t k = 0; k < axis.stages.size(); ++k) {
        const Stage& s = axis.stages[k];
        const std::string name = s.name.empty() ? "stage " + std::to_string(k + 1) : s.name;
        const bool with_motor = k == 0 && axis.driven();
        const auto add = [&](const char* what, const QuantityBase& has, const QuantityBase& wants) {
            if (has.given() && wants.given()) out.push_back({name + ", " + what, has.si, wants.si});
        };
        if (k == 0 && !mates_motor(axis)) continue;
        if (with_motor)
            add("input bore and shaft of the motor", s.input_bore, axis.motor.shaft_diameter);
        else if (k > 0)
            add("input bore and shaft before it", s.input_bore, axis.stages[k - 1].output_shaft);
        if (!with_motor || !s.adapter.empty()) continue;
        add("pilot", s.pilot, axis.motor.pilot);
        add("bolt circle", s.bolt_circle, axis.motor.bolt_circle);
    }
    return out;
}

double misalignment(const Coupling& c) {
    double sum = 0;
    const auto add = [&](const QuantityBase& has, const QuantityBase& may) {
        if (may.given()) sum += has.given() ? has.si / may.si : no_number;
    };
    add(c.angular, c.angular_allowed);
    add(c.parallel, c.parallel_allowed);
    add(c.axial, c.axial_allowed);
    return sum;
}

TorqueLimit torque_limit(const Axis& axis, const LoadModel& load, const Policy& policy) {
    TorqueLimit out;
    out.torque = infinite;
    const auto by = [&](std::string part, std::string name, double torque) {
        if (!(torque < out.torque)) return;
        out = {std::move(part), std::move(name), torque};
    };
    double ahead = 1;
    for (std::size_t k = 0; k < axis.stages.size() && k < load.stages.size(); ++k) {
        const Stage& s = axis.stages[k];
        ahead *= load.stages[k].ratio;
        if (s.peak_torque.given())
            by("stage_" + std::to_string(k + 1), s.name.empty() ? "stage " + std::to_string(k + 1) : s.name,
                s.peak_torque.si * s.peak_share.value_or(1) / ahead);
    }
    if (const Coupling& c = axis.coupling; c.rated_torque.given())
        by("coupling", "the coupling",
            c.rated_torque.si / c.service_factor.si / (load.coupling_at_mechanism ? load.ratio : 1));
    if (const auto* s = std::get_if<Screw>(&axis.mechanism); s && s->root_diameter.given())
        by("screw", "the screw, buckling",
            policy.buckling_share.value_or(1) * buckling_load(*s, false).value * std::abs(load.radius) / load.ratio);
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
        {"coupling_speed", "Coupling, speed", Kind::angular_speed, speeds | need::coupling_speed, false,
            has_coupling_speed, judge_coupling_speed},
        {"coupling_alignment", "Coupling, misalignment", Kind::number, alignment, false, has_alignment,
            judge_alignment},
        {"coupling_bores", "Coupling, bores", Kind::length, coupling_fit, false, has_bores, judge_bores},
        {"coupling_range", "Coupling, size of its bores", Kind::length, coupling_fit, false, has_range, judge_range},
        {"stage_mating", "Gearhead on motor", Kind::length, coupling_fit, false, has_mating, judge_mating},
        {"brake_stop", "Brake, stopping", Kind::torque, brakes, false, wants_brake, judge_brake_stop},
        {"brake_energy", "Brake, energy of a stop", Kind::energy, brakes, false, has_brake_energy, judge_brake_energy},
        {"drive_overload", "Drive, I²t", Kind::current_squared_time, currents | drive_overload, true, has_overload,
            judge_overload},
        {"drive_standstill", "Drive, standstill", Kind::current, need::demand | current | temperatures | drive_overload,
            true, has_standstill, judge_standstill},
        {"drive_highest", "Drive, bus at its highest", Kind::voltage, voltage | drive_window, false, has_highest,
            judge_highest},
        {"drive_dial", "Drive, dial", Kind::current, current | drive_overload, true, has_dial, judge_dial},
        {"drive_lowest", "Drive, bus at its lowest", Kind::voltage, voltage | drive_window, false, has_lowest,
            judge_lowest},
        {"screw_life", "Screw life", Kind::time, need::load | need::screw_life, false, asks_life, judge_screw_life,
            nullptr, nullptr, life_needs},
        {"screw_static", "Screw, static load", Kind::force, need::load | stop | need::screw_life, false,
            has_static_rating, judge_screw_static},
        {"precision", "Precision", Kind::length,
            need::load | need::precision | need::stiffness | bending | buckling | pulses, false, asks_precision,
            judge_precision},
    };
}

} // namespace fulmox

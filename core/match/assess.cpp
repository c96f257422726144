#include "core/match/assess.h"

#include "core/demand/closed_form.h"
#include "core/load/screw.h"
#include "core/match/limits.h"
#include "core/match/words.h"
#include "core/model/validate.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <new>
#include <numbers>

namespace fulmox {

namespace {

bool blocked(const Problems& problems, const std::string& prefix) {
    return std::any_of(problems.begin(), problems.end(),
        [&](const Problem& p) { return p.severity == Severity::error && p.path.starts_with(prefix); });
}

class Figures {
  public:
    Figures(std::vector<Figure>& out, bool workings) : out_(out), workings_(workings) {}
    Figure& put(const char* key, const char* label, Kind kind, double si, std::string note = {}) {
        return out_.emplace_back(Figure{key, label, kind, si, std::move(note), {}, ""});
    }
    template <class F>
    Figure& put(const char* key, const char* label, Kind kind, double si, std::string note, F&& working) {
        Figure& f = put(key, label, kind, si, std::move(note));
        if (workings_) f.working = working();
        return f;
    }

  private:
    std::vector<Figure>& out_;
    bool workings_;
};

constexpr double nan = std::numeric_limits<double>::quiet_NaN();
constexpr double most_turns = 10'000; // of a cycle whose torque depends on the angle

std::string when(const ShaftPoint& p, const Words& words) {
    return "at " + format_number(p.time, 3) + " s and " + words.speed(std::abs(p.speed));
}

void motion_figures(Figures f, const Trajectory& t, const Motion& m) {
    f.put("motion.cycle_time", "Cycle time", Kind::time, t.duration);
    f.put("motion.cycles_per_hour", "Cycles per hour", Kind::frequency, 1 / t.duration, "", [&] {
         return Working{working_line("f", "1/T", "1/T", {{"T", t.duration}}, 1 / t.duration, Kind::frequency)};
     }).unit = "cycles/h";
    const auto moves = static_cast<double>(t.moves);
    f.put("motion.moves_per_hour", "Moves per hour", Kind::frequency, moves / t.duration,
         format_number(moves) + (t.moves == 1 ? " move a cycle" : " moves a cycle"),
         [&] {
             return Working{working_line("f_m", "moves a cycle/T", "n/T", {{"n", moves}, {"T", t.duration}},
                 moves / t.duration, Kind::frequency)};
         })
        .unit = "moves/h";
    f.put("motion.duty", "Moving share", Kind::number, t.duty(), "", [&] {
         return Working{working_line("duty", "moving time/cycle time", "t_m/T",
             {{"t_m", t.moving_time}, {"T", t.duration}}, t.duty(), Kind::number)};
     }).unit = "%";
    const auto kind = [&](Order o) { return motion_kind(o, m.rotary); };
    f.put("motion.stroke", "Stroke", kind(Order::position), t.stroke());
    f.put("motion.advance", "Advance per cycle", kind(Order::position), t.advance);
    f.put("motion.path", "Path per cycle", kind(Order::position), t.path);
    f.put("motion.path_per_year", "Path per year", kind(Order::speed), t.path / t.duration, "running day and night",
         [&] {
             return Working{working_line(
                 "d_a", "path/T", "d/T", {{"d", t.path}, {"T", t.duration}}, t.path / t.duration, kind(Order::speed))};
         })
        .unit = m.rotary ? "Mrev/year" : "km/year";
    f.put("motion.peak_speed", "Peak speed", kind(Order::speed), t.peak_speed);
    f.put("motion.peak_acceleration", "Peak acceleration", kind(Order::acceleration), t.peak_acceleration);
    if (std::isfinite(t.peak_jerk)) f.put("motion.peak_jerk", "Peak jerk", kind(Order::jerk), t.peak_jerk);
}

void demand_figures(Figures f, const Demand& d, const Axis& axis, const Words& words) {
    const auto torque = [&](const char* key, const char* label, const ShaftPoint& p) {
        return f.put(key, label, Kind::torque, p.torque, when(p, words), [&] { return Working{sum_of_causes(p)}; });
    };
    const auto at_some_instant = [&](const char* key, const char* label, const ShaftPoint& p, const char* never) {
        if (p.torque == 0)
            f.put(key, label, Kind::torque, nan, never);
        else
            torque(key, label, p);
    };
    if (d.breakaway.torque != 0) {
        torque("demand.peak_torque", "Peak with breakaway", d.peak);
        torque("demand.peak_running_torque", "Peak, running", d.peak_running);
        torque("demand.breakaway_torque", words.word("Breakaway torque", "Breakaway force"), d.breakaway).note =
            "to start from rest against static friction, " + when(d.breakaway, words);
    } else {
        torque("demand.peak_torque", words.word("Peak torque", "Peak force"), d.peak);
    }
    f.put("demand.rms_torque", words.word("RMS torque", "RMS force"), Kind::torque, d.rms_torque,
        "over the whole cycle, dwell included", [&] { return rms_sum(d, axis.cycle.segments.size()); });
    at_some_instant("demand.peak_motoring_torque", "Peak while driving", d.peak_motoring, "the motor never drives");
    at_some_instant("demand.peak_braking_torque", "Peak while braking", d.peak_braking, "the motor never brakes");
    f.put("demand.holding_torque", words.word("Holding torque", "Holding force"), Kind::torque, d.holding_torque,
        "at rest, by the motor");
    f.put("demand.static_torque", words.word("Torque to hold the load", "Force to hold the load"), Kind::torque,
        d.static_torque, "friction not credited; with friction " + words.torque(d.static_torque_friction));
    if (d.stop_time > 0)
        f.put("demand.emergency_torque", "Emergency stop", Kind::torque, d.emergency_torque,
            "from top speed in " + words.say(d.stop_time, Kind::time) + ", worst case");
    else
        f.put("demand.emergency_torque", "Emergency stop", Kind::torque, nan,
            "no time and no distance of a stop is given");
    if (!words.direct)
        f.put("demand.coupling_torque", "Torque through the coupling", Kind::torque, d.coupling_torque(),
            d.coupling_emergency > d.coupling_peak ? "in the emergency stop" : "standstill and breakaway included");
    f.put("demand.peak_speed", words.word("Peak shaft speed", "Peak speed"), Kind::angular_speed, d.peak_speed);
    f.put("demand.mean_speed", "Mean speed", Kind::angular_speed, d.mean_speed);
    f.put("demand.rms_speed", "RMS speed", Kind::angular_speed, d.rms_speed);
    f.put("demand.peak_power", "Peak power", Kind::power, d.peak_power, "at the motor, driving");
    f.put("demand.peak_return", "Peak power returned", Kind::power, d.peak_return, "at the motor, braking");
    f.put("demand.energy_delivered", "Energy per cycle", Kind::energy, d.energy_delivered);
    f.put("demand.energy_returned", "Energy returned per cycle", Kind::energy, d.energy_returned);
    const bool rotary = (d.load.motion.rotary && !d.load.motion.linear_force) || d.load.path == LoadModel::Path::winder;
    f.put("demand.axial_force", rotary ? "Largest load torque" : "Largest load force",
        rotary ? Kind::torque : Kind::force, d.axial_force(),
        d.axial_emergency > d.axial_peak ? "in the emergency stop" : "standstill and breakaway included");
    for (int k = 0; k < cause_count; ++k) {
        const auto cause = static_cast<Cause>(k);
        f.put((std::string("demand.rms_share.") + cause_key(cause)).c_str(), cause_label(cause), Kind::number,
             d.rms_torque > 0 ? d.rms_share[static_cast<std::size_t>(k)] : nan, "share of the RMS torque squared")
            .unit = "%";
    }
}

void load_figures(
    Figures f, const Axis& axis, const InertiaStatement& i, const LoadModel& m, const Words& words, bool workings) {
    const auto* screw = std::get_if<Screw>(&axis.mechanism);
    if (m.path == LoadModel::Path::straight && !m.motion.rotary && !m.motion.direct)
        f.put("load.transmission_radius", "Travel per radian", Kind::length_per_angle, m.radius, "", [&] {
             return screw ? Working{working_line(
                                "r", "l/2π", "l/(2*pi)", {{"l", screw->lead.si}}, m.radius, Kind::length_per_angle)}
                          : Working{};
         }).unit = "mm/rev";
    if (m.ratio != 1 || !m.stages.empty())
        f.put("load.ratio", "Ratio of the stages", Kind::number, m.ratio, "motor speed over mechanism speed");
    Working thread;
    if (screw) thread = screw_efficiency(*screw, workings).working;
    const bool computed = screw && !screw->efficiency.given();
    f.put("load.efficiency_forward", "Efficiency, driving", Kind::number, m.efficiency_forward,
         computed ? "from the thread" : "as given")
        .working = thread;
    f.put("load.efficiency_backward", "Efficiency, driven back", Kind::number, m.efficiency_backward,
         m.efficiency_backward <= 0 ? "self-locking" : "")
        .working = thread;
    if (!words.direct) f.put("load.shaft_drag", "Drag at the shaft", Kind::torque, m.shaft_drag);
    f.put("load.inertia", words.word("Load inertia", "Moving mass"), Kind::inertia, i.load,
        words.word("largest over the cycle, at the motor shaft", "largest over the cycle"), [&] {
            Working w;
            WorkingValues v;
            std::string sum;
            for (const InertiaShare& share : i.shares) {
                if (share.rotor_side) continue;
                v.emplace_back("J_" + share.key, share.at_shaft);
                sum += (sum.empty() ? "" : "+") + ("J_" + share.key);
                w.insert(w.end(), share.working.begin(), share.working.end());
            }
            w.push_back(working_line("J_L", "Σ J at the shaft", sum, v, i.load, Kind::inertia, "sum of the statement"));
            return w;
        });
    f.put("load.inertia_least", words.word("Load inertia, least over the cycle", "Moving mass, least over the cycle"),
        Kind::inertia, i.load_least);
    if (i.rotor > 0) {
        f.put("load.rotor_inertia", "Rotor inertia", Kind::inertia, i.rotor, "with motor brake");
        f.put("load.inertia_ratio", "Inertia ratio", Kind::number, i.ratio(), "", [&] {
            return Working{working_line("J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
                {{"J_L", i.load}, {"J_M", i.rotor}}, i.ratio(), Kind::number)};
        });
    }
}

void motor_figures(Figures f, const MotorUse& u, const Demand& d, const Axis& axis) {
    f.put("motor.max_speed", "Top speed at this bus", Kind::angular_speed, u.can.max_speed);
    f.put("motor.continuous_stall", "Continuous torque here", Kind::torque, u.can.continuous_stall(),
        "at this ambient and altitude");
    f.put("motor.continuous_at_mean_speed", "Continuous torque, mean speed", Kind::torque, u.point_at_mean,
        std::isnan(u.point_at_mean) ? "the mean speed lies beyond the continuous curve" : "point method");
    f.put("motor.continuous_at_rms_speed", "Continuous torque, RMS speed", Kind::torque, u.point_at_rms,
        std::isnan(u.point_at_rms) ? "the RMS speed lies beyond the continuous curve" : "point method");
    f.put("motor.heat_use", "Heat used, loss method", Kind::number, u.loss_use,
         std::isnan(u.loss_use) ? "the cycle runs beyond the continuous curve" : "")
        .unit = "%";
    if (axis.motor.torque_constant.given()) {
        const double k = axis.motor.torque_constant.si;
        f.put("motor.rms_current", "RMS current", Kind::current, u.rms_current, "A RMS, line", [&] {
            return Working{working_line("I_rms", "T_rms/K_t", "T/K", {{"T", d.rms_torque}, {"K", k}}, u.rms_current,
                Kind::current, "torque constant per RMS ampere")};
        });
        f.put("motor.peak_current", "Current at peak torque", Kind::current, u.peak_current, "A RMS, line", [&] {
            return Working{working_line("I_p", "T_p/K_t", "T/K", {{"T", std::abs(d.peak.torque)}, {"K", k}},
                u.peak_current, Kind::current, "torque constant per RMS ampere")};
        });
        if (axis.motor.resistance.given())
            f.put("motor.copper_loss", "Copper loss, 20 °C", Kind::power, u.copper_loss, "mean over the cycle", [&] {
                return Working{working_line("P", "1.5 I² R_LL", "1.5*I^2*R",
                    {{"I", u.rms_current}, {"R", axis.motor.resistance.si}}, u.copper_loss, Kind::power,
                    "line quantities: the winding type cancels")};
            });
    }
}

void ratio_figures(Figures f, const Demand& d) {
    if (d.load.rotor_inertia <= 0 || d.load.motion.direct || !(d.sums.c > 0)) return;
    const auto side = motor_side(d);
    const double j = side.inertia;
    const auto& sums = side.sums;
    const double best = best_ratio(sums, j);
    if (!(best > 0) || !std::isfinite(best)) return;
    f.put("demand.best_ratio", "Best ratio for least heat", Kind::number, best,
        "for all that turns with this motor, an ideal stage before the mechanism", [&] {
            return Working{working_line("i*", "(mean D²/(mean α² J²))^(1/4)", "(a/(c*J^2))^0.25",
                {{"a", sums.a}, {"c", sums.c}, {"J", j}}, best, Kind::number, "closed form of the RMS torque")};
        });
    f.put("demand.best_ratio_rms", "RMS torque at the best ratio", Kind::torque, least_rms(sums, j), "", [&] {
        return Working{working_line("T_rms", "√(2 J (mean D α + √(mean D² mean α²)))", "sqrt(2*J*(b+sqrt(a*c)))",
            {{"J", j}, {"a", sums.a}, {"b", sums.b}, {"c", sums.c}}, least_rms(sums, j), Kind::torque,
            "closed form of the RMS torque")};
    });
    f.put(
        "demand.best_ratio_speed", "Motor speed at the best ratio", Kind::angular_speed, best * d.mechanism_peak_speed);
}

void cautions(Problems& out, const Axis& axis, const std::string& path, const Assessment& a) {
    const auto add = [&](const char* field, std::string where, std::string text) {
        out.push_back({Severity::caution, path + where, field, std::move(text)});
    };
    if (a.demand && a.demand->fall_torque > 0)
        add("Load", "/load/inclination",
            "The load can fall. A holding brake or a servo at standstill is no safety function: support the load "
            "mechanically for work under it, "
            "and assess the risk (ISO 12100, ISO 13849-1, IEC 61800-5-2, IEC 60204-1).");
    if (a.demand && a.demand->load.path == LoadModel::Path::winder)
        add("Rolls", "/mechanism/winds",
            "Running rolls draw in hands and clothing: guards and a safe inching mode belong to the machine "
            "(ISO 12100, ISO 13849-1).");
    if (axis.drive.bus_voltage.given() && axis.drive.bus_voltage.si > 60)
        add("Bus voltage", "/drive/bus_voltage",
            "Above 60 V DC: protect against touch, and after switch-off wait and measure, the bus stays charged (IEC "
            "60204-1). Local code and a qualified person decide.");
    if (axis.credit_friction_at_rest)
        add("Friction at rest", "/credit_friction_at_rest",
            "Friction is credited at standstill. It varies with wear and lubrication; never rely on it for safety.");
}

void flags(Problems& out, const Axis& axis, const std::string& path, const Assessment& a, UnitSystem system) {
    if (!a.inertia) return;
    std::vector<const InertiaShare*> order;
    for (const InertiaShare& s : a.inertia->shares) order.push_back(&s);
    std::sort(order.begin(), order.end(), [](auto* x, auto* y) { return x->at_shaft > y->at_shaft; });
    if (order.size() > 1 && order[1]->at_shaft > 0 && order[0]->at_shaft > 1000 * order[1]->at_shaft)
        out.push_back({Severity::suspicious, path, order[0]->label,
            "its inertia is more than a thousand times the next largest. Did you mean another unit?"});
    if (!axis.motor.empty() && a.motor && a.motor->can.speed_scale != 1)
        out.push_back({Severity::suspicious, path + "/drive/bus_voltage", "Bus voltage",
            "the curves were drawn at " + axis.motor.curve_voltage.text + "; their speeds are scaled by " +
                format_number(a.motor->can.speed_scale, 3) + ", an estimate"});
    bool asks_brake = false;
    for (const Segment& s : axis.cycle.segments)
        if (const auto* d = std::get_if<Dwell>(&s.what)) asks_brake = asks_brake || d->brake_holds;
    if (a.motion && motion_of(axis.mechanism).has & Motion::payload && !a.motion->phases.empty()) {
        const double first = axis.load.payload.si, last = a.motion->phases.back().payload.value_or(first);
        if (std::abs(last - first) > 1e-9 * std::max(first, last))
            out.push_back({Severity::suspicious, path + "/cycle/segments", "Cycle",
                "it ends with a payload of " + format_quantity(last, Kind::mass, system) + " but begins with " +
                    format_quantity(first, Kind::mass, system) + "; it repeats with what it begins with"});
    }
    if (asks_brake && !axis.motor.empty() && !motion_of(axis.mechanism).direct && !axis.motor.brake_torque.given())
        out.push_back({Severity::suspicious, path + "/cycle/segments", "Brake holds",
            "a dwell lets the brake hold, but the motor has no brake"});
}

std::vector<SchoolView> schools(const Machine& machine, const Axis& axis, const InertiaStatement& i) {
    std::vector<SchoolView> out;
    for (const Policy& p : machine.policies) {
        SchoolView v{p.name, LimitState::cannot_say, "does not judge the ratio", p.name == axis.policy};
        if (p.inertia_ratio_over.given() && p.inertia_ratio_tight.given() && i.rotor > 0) {
            Limit l;
            l.used = i.ratio();
            l.allowed = p.inertia_ratio_over.si;
            l.share = p.inertia_ratio_tight.si / p.inertia_ratio_over.si;
            judge(l);
            v.state = l.state;
            v.words = "tight above " + format_number(p.inertia_ratio_tight.si) + ", over above " +
                      format_number(p.inertia_ratio_over.si);
        }
        out.push_back(std::move(v));
    }
    return out;
}

// Kinds of shaft quantities on a linear motor: what stands for torque is a force.
void make_direct(Assessment& a) {
    const auto direct = [](Kind k) {
        switch (k) {
        case Kind::torque:
            return Kind::force;
        case Kind::inertia:
            return Kind::mass;
        case Kind::angular_speed:
            return Kind::speed;
        default:
            return k;
        }
    };
    for (Figure& f : a.figures) {
        f.kind = direct(f.kind);
        for (WorkingLine& w : f.working) w.kind = direct(w.kind);
    }
    for (Limit& l : a.limits) {
        l.kind = direct(l.kind);
        for (WorkingLine& w : l.working) w.kind = direct(w.kind);
    }
}

// A reckoning that left the numbers a machine can hold: the values are legal, but far from anything real.
Problem beyond(const std::string& path, const char* field, const std::string& what) {
    return {Severity::error, path, field,
        "the " + what + " is no finite number with these values; one of them is far too large or too small"};
}

std::optional<std::string> not_finite(const Trajectory& t) {
    for (const auto& [name, value] : {std::pair("cycle time", t.duration), std::pair("path", t.path),
             std::pair("position", t.lowest + t.highest), std::pair("speed", t.peak_speed),
             std::pair("acceleration", t.peak_acceleration), std::pair("advance", t.advance)})
        if (!std::isfinite(value)) return name;
    return std::nullopt;
}

struct AtFill {
    Demand demand;
    std::optional<std::string> wrong; // a result that is no finite number
    std::optional<MotorUse> use;
    std::vector<Limit> limits;
};

void keep_worst(std::vector<Limit>& worst, std::vector<Limit> now, const std::string& state) {
    for (Limit& l : now) {
        if (l.key != "inertia_ratio") l.reason += " (roll " + state + ")";
        const auto same = std::find_if(worst.begin(), worst.end(), [&](const Limit& w) { return w.key == l.key; });
        if (same == worst.end())
            worst.push_back(std::move(l));
        else if (l.state != LimitState::cannot_say &&
                 (same->state == LimitState::cannot_say || l.utilisation() > same->utilisation()))
            *same = std::move(l);
    }
}

} // namespace

std::vector<Carried> carried_over(const Trajectory& t, double first) {
    std::vector<Carried> out;
    for (const Phase& p : t.phases) {
        const double payload = p.payload.value_or(first);
        const bool again = !out.empty() && out.back().payload == payload && out.back().highest >= p.lowest &&
                           out.back().lowest <= p.highest;
        if (!again) out.push_back({payload, p.lowest, p.highest});
        out.back().lowest = std::min(out.back().lowest, p.lowest);
        out.back().highest = std::max(out.back().highest, p.highest);
    }
    return out;
}

std::string figure_text(const Figure& f, UnitSystem system) {
    return *f.unit ? format_quantity(f.si, *find_unit(f.unit, f.kind)) : format_quantity(f.si, f.kind, system);
}

const Figure* Assessment::figure(std::string_view key) const {
    for (const Figure& f : figures)
        if (f.key == key) return &f;
    return nullptr;
}

const Limit* Assessment::limit(std::string_view key) const {
    for (const Limit& l : limits)
        if (l.key == key) return &l;
    return nullptr;
}

bool Assessment::exceeded() const { return count(limits).over > 0; }
bool Assessment::fits() const { return !has_errors(problems) && !exceeded(); }

namespace {

Assessment reckon(const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options) {
    Assessment a;
    a.problems = validate(axis, path, &machine.materials);
    Figures figures(a.figures, options.workings);
    const bool site_wrong = has_errors(validate_site(machine));
    bool cycle_wrong = blocked(a.problems, path + "/cycle");
    const Words words(machine, motion_of(axis.mechanism));
    if (!axis.motor.empty() && !has_errors(a.problems)) {
        const double scale = axis.drive.bus_voltage.si / axis.motor.curve_voltage.si;
        if (!std::isnormal(scale * axis.motor.peak.back().speed.si))
            a.problems.push_back(
                beyond(path + "/drive/bus_voltage", "Bus voltage", "speed of the peak curve at this bus"));
    }
    const bool motor_wrong = blocked(a.problems, path + "/motor") || blocked(a.problems, path + "/drive");
    bool load_wrong = false;
    for (const char* part : {"/load", "/mechanism", "/coupling", "/bodies", "/stages"})
        load_wrong = load_wrong || blocked(a.problems, path + part);
    Axis without_motor;
    const Axis* taken = &axis;
    if (motor_wrong && !axis.motor.empty()) { // the demand is still worth showing, without the rotor
        without_motor = axis;
        without_motor.motor = Motor{};
        taken = &without_motor;
    }
    const Motion moves = motion_of(axis.mechanism);
    if (!cycle_wrong) {
        Plan planned = plan(axis.cycle, moves, machine.unit_system);
        cycle_wrong = has_errors(planned.problems);
        for (Problem& p : planned.problems) {
            p.path = path + "/cycle" + p.path;
            a.problems.push_back(std::move(p));
        }
        if (!cycle_wrong && planned.motion.duration <= 0) {
            cycle_wrong = true;
            a.problems.push_back({Severity::error, path + "/cycle/segments", "Segments",
                "the cycle takes no time; add a move or a dwell"});
        }
        if (const auto what = cycle_wrong ? std::nullopt : not_finite(planned.motion)) {
            cycle_wrong = true;
            a.problems.push_back(beyond(path + "/cycle/segments", "Segments", *what + " of the cycle"));
        }
        if (!cycle_wrong) {
            a.motion = std::move(planned.motion);
            motion_figures(figures, *a.motion, moves);
        }
    }
    if (!load_wrong && !site_wrong)
        if (const auto what = not_finite(load_model(machine, *taken))) {
            load_wrong = true;
            a.problems.push_back(beyond(path + "/mechanism", "Mechanism", *what));
        }
    if (a.motion && !load_wrong && !site_wrong) {
        a.inertia =
            inertia_statement(machine, *taken, carried_over(*a.motion, first_payload(*taken)), options.workings);
        if (!std::isfinite(a.inertia->load) || !std::isfinite(a.inertia->rotor)) {
            a.inertia.reset();
            load_wrong = true;
            a.problems.push_back(beyond(path + "/mechanism", "Mechanism", "load inertia"));
        }
    }
    static const Policy fallback = shipped_policies().front();
    const Policy* policy = find_policy(machine, axis.policy);
    const bool motor_known = !taken->motor.empty() && !motor_wrong && !moves.direct;
    const auto judge_now = [&](const Demand* d, const MotorUse* use) {
        const Known known{a.motion ? &*a.motion : nullptr, a.inertia ? &*a.inertia : nullptr, d, use};
        return judge_all({machine, *taken, policy ? *policy : fallback, known, options.workings});
    };
    // where torque depends on the angle every turn is gone through but for those at constant speed
    if (a.motion && !load_wrong && moves.rotary && load_model(machine, *taken).position_dependent())
        if (const double turns = path_at_changing_speed(*a.motion) / (2 * std::numbers::pi); turns > most_turns) {
            a.problems.push_back({Severity::error, path + "/cycle/segments", "Cycle",
                "its speed changes over " + format_number(turns, 4) +
                    " turns; where torque depends on the angle at most " + format_number(most_turns) +
                    " such turns a cycle are reckoned"});
            load_wrong = true;
        }
    if (const auto* w = std::get_if<Winder>(&taken->mechanism);
        w && a.motion && !load_wrong && fill_states(*taken, {a.motion->below(), a.motion->above()}).empty()) {
        a.problems.push_back({Severity::error, path + "/cycle/segments", "Cycle",
            "it moves " + words.say(a.motion->stroke(), Kind::length) + " of web one way, but the roll holds " +
                words.say(full_web(*w), Kind::length)});
        load_wrong = true;
    }
    if (std::holds_alternative<Winder>(taken->mechanism) && a.motion && !load_wrong &&
        a.motion->pieces.size() > most_repeated_pieces / fill_count) {
        a.problems.push_back({Severity::error, path + "/cycle/segments", "Cycle",
            "it has " + std::to_string(a.motion->pieces.size()) + " pieces of motion; a winder is reckoned at " +
                std::to_string(fill_count) + " fills, and then at most " +
                std::to_string(most_repeated_pieces / fill_count) + " pieces are"});
        load_wrong = true;
    }
    if (a.motion && !load_wrong && !site_wrong) {
        const std::vector<FillState> states = fill_states(*taken, {a.motion->below(), a.motion->above()});
        std::vector<LoadModel> loads;
        for (const FillState& state : states) loads.push_back(load_model(machine, *taken, state.web));
        std::vector<AtFill> fills(states.size());
        std::vector<Demand> at_fill = demands(loads, *a.motion, *taken, [&](std::size_t i, const Demand& d) {
            AtFill& f = fills[i];
            f.wrong = d.not_finite();
            if (f.wrong) return;
            if (motor_known) f.use = motor_use(d, capability(taken->motor, taken->drive, machine.site), taken->motor);
            f.limits = judge_now(&d, f.use ? &*f.use : nullptr);
        });
        for (std::size_t i = 0; i < fills.size(); ++i) {
            fills[i].demand = std::move(at_fill[i]);
            if (fills[i].wrong && !load_wrong) {
                load_wrong = true; // no part of it is to be trusted
                a.problems.push_back(beyond(path + "/mechanism", "Demand", *fills[i].wrong));
            }
        }
        if (!load_wrong) {
            // a winder is judged at every fill; each limit keeps its worst, and what is shown is the fill of most heat
            std::size_t shown = 0;
            for (std::size_t i = 0; states.size() > 1 && i < states.size(); ++i) {
                const Demand& d = fills[i].demand;
                keep_worst(a.limits, std::move(fills[i].limits), states[i].name);
                const std::string key = "demand.fill_" + std::to_string(i);
                a.fills.push_back({states[i].name, states[i].web, d.rms_torque, std::abs(d.peak.torque), d.peak_speed});
                figures.put((key + ".rms_torque").c_str(), ("RMS torque, " + states[i].name).c_str(), Kind::torque,
                    d.rms_torque);
                figures.put((key + ".peak_torque").c_str(), ("Peak torque, " + states[i].name).c_str(), Kind::torque,
                    d.peak.torque);
                if (d.rms_torque > fills[shown].demand.rms_torque) shown = i;
                a.fill_shown = states[shown].name;
            }
            if (states.size() == 1) a.limits = std::move(fills[0].limits);
            a.demand = std::move(fills[shown].demand);
            a.motor = std::move(fills[shown].use);
            load_figures(figures, *taken, *a.inertia, a.demand->load, words, options.workings);
            demand_figures(figures, *a.demand, *taken, words);
            if (motor_known) motor_figures(figures, *a.motor, *a.demand, *taken);
            ratio_figures(figures, *a.demand);
        }
    }
    if (!policy)
        a.problems.push_back({Severity::error, path + "/policy", "Policy",
            "\"" + axis.policy + "\" is not a policy of this project; judged by \"" + fallback.name + "\" meanwhile"});
    if (a.limits.empty()) a.limits = judge_now(nullptr, nullptr);
    if (a.inertia) a.schools = schools(machine, *taken, *a.inertia);
    cautions(a.problems, axis, path, a);
    flags(a.problems, axis, path, a, machine.unit_system);
    if (moves.direct) make_direct(a);
    return a;
}

} // namespace

// A reckoning that fails is a problem of its axis; everything else lives on.
Assessment assess(const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options) {
    std::string why;
    try {
        return reckon(machine, axis, path, options);
    } catch (const std::bad_alloc&) {
        why = "it needs more memory than there is; the cycle is too long";
    } catch (const std::exception& e) {
        why = e.what();
    }
    Assessment a;
    a.problems = validate(axis, path, &machine.materials);
    a.problems.push_back({Severity::error, path, "Axis", "it cannot be reckoned with these values: " + why});
    static const Policy fallback = shipped_policies().front();
    const Policy* policy = find_policy(machine, axis.policy);
    a.limits = judge_all({machine, axis, policy ? *policy : fallback, {}, false});
    return a;
}

Assessment assess(const Machine& machine, std::size_t axis, AssessOptions options) {
    return assess(machine, machine.axes.at(axis), "/axes/" + std::to_string(axis), options);
}

} // namespace fulmox

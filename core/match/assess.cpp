#include "core/match/assess.h"

#include "core/demand/closed_form.h"
#include "core/load/screw.h"
#include "core/match/limits.h"
#include "core/model/validate.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>

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

std::string when(const ShaftPoint& p) {
    return "at " + format_number(p.time, 3) + " s and " + format_quantity(std::abs(p.speed), *find_unit("rpm"));
}

void motion_figures(Figures f, const Trajectory& t, const Motion& m) {
    f.put("motion.cycle_time", "Cycle time", Kind::time, t.duration);
    f.put("motion.cycles_per_hour", "Cycles per hour", Kind::frequency, 1 / t.duration, "", [&] {
         return Working{working_line("f", "1/T", "1/T", {{"T", t.duration}}, 1 / t.duration, Kind::frequency)};
     }).unit = "moves/h";
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

Working peak_working(const Demand& d) {
    const ShaftState& s = d.peak.state;
    const double j = d.load.rotor_inertia;
    return {working_line("T", "T_load + J_M α", "T_load+J*alpha",
        {{"T_load", s.torque - j * s.acceleration}, {"J", j}, {"alpha", s.acceleration}}, s.torque, Kind::torque,
        "equation of motion at the motor shaft")};
}

void demand_figures(Figures f, const Demand& d) {
    f.put("demand.peak_torque", "Peak torque", Kind::torque, d.peak.torque, when(d.peak),
        [&] { return peak_working(d); });
    f.put("demand.rms_torque", "RMS torque", Kind::torque, d.rms_torque, "over the whole cycle, dwell included", [&] {
        double heat = d.rms_torque * d.rms_torque * d.cycle_time;
        return Working{working_line(
            "T_rms", "√(∫T² dt / T)", "sqrt(H/T)", {{"H", heat}, {"T", d.cycle_time}}, d.rms_torque, Kind::torque)};
    });
    f.put("demand.peak_motoring_torque", "Peak while driving", Kind::torque, d.peak_motoring.torque,
        when(d.peak_motoring));
    f.put(
        "demand.peak_braking_torque", "Peak while braking", Kind::torque, d.peak_braking.torque, when(d.peak_braking));
    if (d.breakaway.torque != 0)
        f.put("demand.breakaway_torque", "Breakaway torque", Kind::torque, d.breakaway.torque,
            "to start from rest against static friction, " + when(d.breakaway));
    f.put("demand.holding_torque", "Holding torque", Kind::torque, d.holding_torque, "at rest, by the motor");
    f.put("demand.static_torque", "Torque to hold the load", Kind::torque, d.static_torque,
        "friction not credited; with friction " +
            format_quantity(d.static_torque_friction, Kind::torque, UnitSystem::si));
    f.put("demand.emergency_torque", "Emergency stop", Kind::torque, d.emergency_torque,
        d.emergency_torque > 0 ? "from top speed, worst payload and direction" : "no stop time given");
    f.put("demand.coupling_torque", "Torque through the coupling", Kind::torque,
        std::max(d.coupling_peak, d.coupling_emergency));
    f.put("demand.peak_speed", "Peak shaft speed", Kind::angular_speed, d.peak_speed);
    f.put("demand.mean_speed", "Mean speed", Kind::angular_speed, d.mean_speed);
    f.put("demand.rms_speed", "RMS speed", Kind::angular_speed, d.rms_speed);
    f.put("demand.peak_power", "Peak power", Kind::power, d.peak_power, "at the shaft, driving");
    f.put("demand.peak_return", "Peak power returned", Kind::power, d.peak_return, "at the shaft, braking");
    f.put("demand.energy_delivered", "Energy per cycle", Kind::energy, d.energy_delivered);
    f.put("demand.energy_returned", "Energy returned per cycle", Kind::energy, d.energy_returned);
    const bool rotary = (d.load.motion.rotary && !d.load.motion.linear_force) || d.load.path == LoadModel::Path::winder;
    f.put("demand.axial_force", rotary ? "Largest load torque" : "Largest load force",
        rotary ? Kind::torque : Kind::force, d.axial_peak);
    for (int k = 0; k < cause_count; ++k) {
        static constexpr const char* keys[] = {"demand.rms_share.load_inertia", "demand.rms_share.rotor",
            "demand.rms_share.friction", "demand.rms_share.gravity", "demand.rms_share.process"};
        f.put(keys[k], cause_label(static_cast<Cause>(k)), Kind::number, d.rms_share[static_cast<std::size_t>(k)],
             "share of the RMS torque squared")
            .unit = "%";
    }
}

void load_figures(Figures f, const Axis& axis, const InertiaStatement& i, const LoadModel& m, bool workings) {
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
    f.put("load.shaft_drag", "Drag at the shaft", Kind::torque, m.shaft_drag);
    f.put("load.inertia", "Load inertia", Kind::inertia, i.load, "largest over the cycle, at the motor shaft", [&] {
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
    f.put("load.inertia_least", "Load inertia, least over the cycle", Kind::inertia, i.load_least);
    if (i.rotor > 0) {
        f.put("load.rotor_inertia", "Rotor inertia", Kind::inertia, i.rotor, "with motor brake");
        f.put("load.inertia_ratio", "Inertia ratio", Kind::number, i.ratio(), "", [&] {
            return Working{working_line("J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
                {{"J_L", i.load}, {"J_M", i.rotor}}, i.ratio(), Kind::number)};
        });
    }
}

void motor_figures(Figures f, const MotorUse& u, const Axis& axis) {
    f.put("motor.max_speed", "Top speed at this bus", Kind::angular_speed, u.can.max_speed);
    f.put("motor.continuous_stall", "Continuous torque here", Kind::torque, u.can.continuous_stall(),
        "at this ambient and altitude");
    f.put("motor.heat_use", "Heat used, loss method", Kind::number, u.loss_use).unit = "%";
    if (axis.motor.torque_constant.given()) {
        f.put("motor.rms_current", "RMS current", Kind::current, u.rms_current, "A RMS, line", [&] {
            return Working{working_line("I_rms", "T_rms/K_t", "T/K",
                {{"T", u.rms_current * axis.motor.torque_constant.si}, {"K", axis.motor.torque_constant.si}},
                u.rms_current, Kind::current)};
        });
        f.put("motor.peak_current", "Current at peak torque", Kind::current, u.peak_current, "A RMS, line");
        if (axis.motor.resistance.given())
            f.put("motor.copper_loss", "Copper loss, 20 °C", Kind::power, u.copper_loss, "mean over the cycle", [&] {
                return Working{working_line("P", "1.5 I² R_LL", "1.5*I^2*R",
                    {{"I", u.rms_current}, {"R", axis.motor.resistance.si}}, u.copper_loss, Kind::power,
                    "line quantities: the winding type cancels")};
            });
    }
}

void ratio_figures(Figures f, const Demand& d) {
    const double j = d.load.rotor_inertia;
    if (j <= 0 || !(d.sums.c > 0)) return;
    const double best = best_ratio(d.sums, j);
    f.put("demand.best_ratio", "Best ratio for least heat", Kind::number, best,
        "for this rotor, an ideal stage before the mechanism", [&] {
            return Working{working_line("i*", "(mean D²/(mean α² J²))^(1/4)", "(a/(c*J^2))^0.25",
                {{"a", d.sums.a}, {"c", d.sums.c}, {"J", j}}, best, Kind::number, "closed form of the RMS torque")};
        });
    f.put("demand.best_ratio_rms", "RMS torque at the best ratio", Kind::torque, least_rms(d.sums, j), "", [&] {
        return Working{working_line("T_rms", "√(2 J (mean D α + √(mean D² mean α²)))", "sqrt(2*J*(b+sqrt(a*c)))",
            {{"J", j}, {"a", d.sums.a}, {"b", d.sums.b}, {"c", d.sums.c}}, least_rms(d.sums, j), Kind::torque,
            "closed form of the RMS torque")};
    });
    f.put(
        "demand.best_ratio_speed", "Motor speed at the best ratio", Kind::angular_speed, best * d.mechanism_peak_speed);
}

void cautions(Problems& out, const Axis& axis, const std::string& path, const Assessment& a) {
    const auto add = [&](const char* field, std::string where, std::string text) {
        out.push_back({Severity::caution, path + where, field, std::move(text)});
    };
    if (a.demand && a.demand->static_torque > 0 && !a.demand->load.tension)
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

void flags(Problems& out, const Axis& axis, const std::string& path, const Assessment& a) {
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
    if (asks_brake && !axis.motor.empty() && !axis.motor.brake_torque.given())
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

bool winds_too_much(const Axis& axis, const Trajectory& motion) {
    const auto* w = std::get_if<Winder>(&axis.mechanism);
    return w && std::abs(motion.advance) > full_web(*w) * (1 + 1e-12);
}

struct AtFill {
    Demand demand;
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

Assessment assess(const Machine& machine, const Axis& axis, const std::string& path, AssessOptions options) {
    Assessment a;
    a.problems = validate(axis, path, &machine.materials);
    Figures figures(a.figures, options.workings);
    const bool site_wrong = has_errors(validate_site(machine));
    bool cycle_wrong = blocked(a.problems, path + "/cycle");
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
        Plan planned = plan(axis.cycle, moves);
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
        if (!cycle_wrong) {
            a.motion = std::move(planned.motion);
            motion_figures(figures, *a.motion, moves);
        }
    }
    if (!load_wrong && !cycle_wrong) a.inertia = inertia_statement(machine, *taken, options.workings);
    static const Policy fallback = shipped_policies().front();
    const Policy* policy = find_policy(machine, axis.policy);
    const bool motor_known = !taken->motor.empty() && !motor_wrong;
    const auto judge_now = [&](const Demand* d, const MotorUse* use) {
        const Known known{a.motion ? &*a.motion : nullptr, a.inertia ? &*a.inertia : nullptr, d, use};
        return judge_all({machine, *taken, policy ? *policy : fallback, known, options.workings});
    };
    if (a.motion && !load_wrong && !site_wrong && winds_too_much(*taken, *a.motion)) {
        const Winder& w = std::get<Winder>(taken->mechanism);
        a.problems.push_back({Severity::error, path + "/cycle/segments", "Cycle",
            "it winds " + format_number(std::abs(a.motion->advance), 4) + " m of web, but the roll holds " +
                format_number(full_web(w), 4) + " m"});
        load_wrong = true;
    }
    if (a.motion && !load_wrong && !site_wrong) {
        const std::vector<FillState> states = fill_states(*taken, a.motion->advance);
        std::vector<LoadModel> loads;
        for (const FillState& state : states) loads.push_back(load_model(machine, *taken, state.web));
        std::vector<AtFill> fills(states.size());
        std::vector<Demand> at_fill = demands(loads, *a.motion, *taken, [&](std::size_t i, const Demand& d) {
            AtFill& f = fills[i];
            if (motor_known) f.use = motor_use(d, capability(taken->motor, taken->drive, machine.site), taken->motor);
            f.limits = judge_now(&d, f.use ? &*f.use : nullptr);
        });
        for (std::size_t i = 0; i < fills.size(); ++i) fills[i].demand = std::move(at_fill[i]);
        // a winder is judged at every fill; each limit keeps its worst, and what is shown is the fill of most heat
        std::size_t shown = 0;
        for (std::size_t i = 0; states.size() > 1 && i < states.size(); ++i) {
            const Demand& d = fills[i].demand;
            keep_worst(a.limits, std::move(fills[i].limits), states[i].name);
            const std::string key = "demand.fill_" + std::to_string(i);
            a.fills.push_back({states[i].name, states[i].web, d.rms_torque, std::abs(d.peak.torque), d.peak_speed});
            figures.put(
                (key + ".rms_torque").c_str(), ("RMS torque, " + states[i].name).c_str(), Kind::torque, d.rms_torque);
            figures.put((key + ".peak_torque").c_str(), ("Peak torque, " + states[i].name).c_str(), Kind::torque,
                d.peak.torque);
            if (d.rms_torque > fills[shown].demand.rms_torque) shown = i;
            a.fill_shown = states[shown].name;
        }
        if (states.size() == 1) a.limits = std::move(fills[0].limits);
        a.demand = std::move(fills[shown].demand);
        a.motor = std::move(fills[shown].use);
        load_figures(figures, *taken, *a.inertia, a.demand->load, options.workings);
        demand_figures(figures, *a.demand);
        if (motor_known) motor_figures(figures, *a.motor, *taken);
        ratio_figures(figures, *a.demand);
    }
    if (!policy)
        a.problems.push_back({Severity::error, path + "/policy", "Policy",
            "\"" + axis.policy + "\" is not a policy of this project; judged by \"" + fallback.name + "\" meanwhile"});
    if (a.limits.empty()) a.limits = judge_now(nullptr, nullptr);
    if (a.inertia) a.schools = schools(machine, *taken, *a.inertia);
    cautions(a.problems, axis, path, a);
    flags(a.problems, axis, path, a);
    if (moves.direct) make_direct(a);
    return a;
}

Assessment assess(const Machine& machine, std::size_t axis, AssessOptions options) {
    return assess(machine, machine.axes.at(axis), "/axes/" + std::to_string(axis), options);
}

} // namespace fulmox

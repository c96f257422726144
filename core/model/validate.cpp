#include "core/model/validate.h"

#include "core/model/walk.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace fulmox {

namespace {

using std::numbers::pi;

void error(Problems& out, std::string path, const char* field, std::string message) {
    out.push_back({Severity::error, std::move(path), field, std::move(message)});
}

void check_curve(Problems& out, const std::vector<CurvePoint>& curve, const std::string& path, const char* label,
    bool from_rest = true, const char* instead = "") {
    if (curve.size() < 2) {
        error(out, path, label,
            "found " + std::to_string(curve.size()) + (curve.size() == 1 ? " point" : " points") +
                "; a curve needs at least 2" + instead);
        return;
    }
    if (from_rest && curve[0].speed.given() && curve[0].speed.si != 0)
        error(out, path + "/0/speed", "Speed", "found " + curve[0].speed.text + "; the first point stands at 0 rpm");
    for (std::size_t i = 1; i < curve.size(); ++i)
        if (curve[i].speed.given() && curve[i - 1].speed.given() && !(curve[i].speed.si > curve[i - 1].speed.si))
            error(out, path + "/" + std::to_string(i) + "/speed", "Speed",
                "found " + curve[i].speed.text + " after " + curve[i - 1].speed.text + "; speeds must rise");
}

// Of a thread that slides: what its efficiency, and the drag of its preload, need of the thread.
void check_sliding_thread(Problems& out, const Screw& s, const std::string& path) {
    if (s.starts.given() && std::abs(s.starts.si - std::round(s.starts.si)) > 1e-9)
        error(out, path + "/starts", "Starts", "found " + s.starts.text + "; it must be a whole number");
    if (s.pitch.given() && s.lead.given() && s.pitch.si > s.lead.si * (1 + 1e-9))
        error(out, path + "/pitch", "Pitch",
            "found " + s.pitch.text + "; it cannot exceed the lead " + s.lead.text + ", which is pitch × starts");
    else if (s.pitch.given() && s.starts.given() && s.lead.given() &&
             std::abs(s.pitch.si * s.starts.si - s.lead.si) > 1e-6 * s.lead.si)
        error(out, path + "/pitch", "Pitch",
            "found " + s.pitch.text + " with " + s.starts.text + " starts; pitch × starts must be the lead " +
                s.lead.text);
    else if (s.pitch.given() && s.lead.given() &&
             std::abs(s.lead.si / s.pitch.si - std::round(s.lead.si / s.pitch.si)) > 1e-3)
        out.push_back({Severity::suspicious, path + "/pitch", "Pitch",
            "the lead " + s.lead.text + " is no whole multiple of the pitch " + s.pitch.text});
    const bool empty = s.starts.text.empty() && s.pitch.text.empty() && s.pitch_diameter.text.empty();
    const bool for_drag = s.nut_preload.value_or(0) > 0 && !s.preload_drag.given();
    if (empty && s.efficiency.text.empty())
        error(out, path + "/starts", "Starts",
            "the efficiency waits for it: give the number of starts, the pitch or the pitch diameter of the thread");
    else if (empty && for_drag)
        error(out, path + "/starts", "Starts",
            "the drag of the preload waits for it: give the number of starts, the pitch or the pitch diameter");
    const double pitch = thread_pitch(s);
    if (!s.pitch_diameter.given() && s.diameter.given() && pitch >= 2 * s.diameter.si)
        error(out, path + "/starts", "Starts",
            "a pitch of " + format_quantity(pitch, Kind::length, UnitSystem::si) + " leaves no pitch diameter of the " +
                s.diameter.text + " thread; lead, starts or pitch do not fit it");
}

void check_screw(Problems& out, const Screw& s, const std::string& path) {
    if (s.thread == Thread::trapezoidal) check_sliding_thread(out, s, path);
    if (s.thread == Thread::roller && s.efficiency.text.empty())
        error(out, path + "/efficiency", "Efficiency, driving",
            "missing; a planetary roller screw needs its efficiency given, above 0, at most 1");
    if (s.pitch_diameter.given() && s.diameter.given() && s.pitch_diameter.si > s.diameter.si)
        error(out, path + "/pitch_diameter", "Pitch diameter",
            "found " + s.pitch_diameter.text + "; it cannot exceed the outer diameter " + s.diameter.text);
    if (s.pitch_diameter.given() && s.root_diameter.given() && s.pitch_diameter.si < s.root_diameter.si)
        error(out, path + "/pitch_diameter", "Pitch diameter",
            "found " + s.pitch_diameter.text + "; it cannot be smaller than the root diameter " + s.root_diameter.text);
    if (s.root_diameter.given() && s.diameter.given() && s.root_diameter.si >= s.diameter.si)
        error(out, path + "/root_diameter", "Root diameter",
            "found " + s.root_diameter.text + "; it must be smaller than the outer diameter " + s.diameter.text);
    if (s.lead.given() && s.diameter.given() && s.lead.si > 3 * s.diameter.si)
        out.push_back({Severity::suspicious, path + "/lead", "Lead",
            s.lead.text + " is more than three times the diameter " + s.diameter.text + ". Is it mm?"});
    if (s.free_length.given() && s.length.given() && s.free_length.si > s.length.si)
        error(out, path + "/free_length", "Unsupported length",
            "found " + s.free_length.text + "; it cannot exceed the screw length " + s.length.text);
    if (s.efficiency.given() && s.efficiency_back.given() && s.efficiency_back.si > s.efficiency.si)
        out.push_back({Severity::suspicious, path + "/efficiency_back", "Efficiency, back",
            s.efficiency_back.text + " is better than the driving efficiency " + s.efficiency.text});
    if (s.collar_friction.given() && s.collar_friction.si > 0 && s.collar_diameter.text.empty() &&
        s.thread == Thread::trapezoidal && !s.efficiency.given())
        error(out, path + "/collar_diameter", "Collar diameter", "missing, but a collar friction is given");
}

void check_smaller(Problems& out, const QuantityBase& small, const QuantityBase& large, const std::string& path,
    const char* field, const std::string& than) {
    if (small.given() && large.given() && small.si >= large.si)
        error(out, path, field, "found " + small.text + "; it must be smaller than " + than + " " + large.text);
}

struct MechanismCheck {
    Problems& out;
    const Axis& axis;
    std::string path;

    void operator()(const Screw& s) {
        check_screw(out, s, path);
        if (s.thread == Thread::roller || s.efficiency.given()) return;
        // with everything given the thread may still be one that cannot be turned
        const double flank = s.thread == Thread::trapezoidal ? std::cos(s.flank_half_angle.si) : 1;
        if (s.thread_friction.si * s.lead.si >= pi * pitch_diameter(s) * flank)
            error(out, path + "/thread_friction", "Thread friction",
                "with " + s.thread_friction.text + " and a lead of " + s.lead.text +
                    " the thread jams: allowed is less than π d_m cos α_t over the lead");
    }
    void operator()(const SliderCrank& s) {
        check_smaller(out, s.crank, s.rod, path + "/crank", "Crank radius", "the rod,");
    }
    void operator()(const Winder& w) {
        check_smaller(
            out, w.core_diameter, w.roll_diameter, path + "/core_diameter", "Core diameter", "the full roll,");
    }
    void operator()(const Conveyor& c) {
        whole(c.pulleys, "pulleys", "Further pulleys");
        whole(c.rollers, "rollers", "Carrying rollers");
    }
    void operator()(const BeltDrive& b) {
        whole(b.idlers, "idlers", "Idlers");
        if (b.motor_seat == MotorSeat::rides && !b.riding_mass.given() && !axis.motor.mass.given())
            out.push_back({Severity::suspicious, path + "/riding_mass", "Motor and gearhead",
                "the motor rides, but neither its mass here nor that of the chosen motor is known; it counts as "
                "nothing"});
    }
    void operator()(const Hoist& h) { whole(h.falls, "falls", "Falls of rope"); }
    void operator()(const RackPinion& r) { whole(r.teeth, "teeth", "Teeth of the pinion"); }
    template <class T> void operator()(const T&) {}

    void whole(const QuantityBase& q, const char* key, const char* label) {
        if (q.given() && std::abs(q.si - std::round(q.si)) > 1e-9)
            error(out, path + "/" + key, label, "found " + q.text + "; it must be a whole number");
    }
};

void check_bodies(Problems& out, const Axis& axis, const std::vector<Material>* materials, const std::string& path) {
    for (std::size_t i = 0; i < axis.bodies.size(); ++i) {
        const Body& b = axis.bodies[i];
        const std::string at = path + "/bodies/" + std::to_string(i);
        if (const auto* h = std::get_if<HollowCylinder>(&b.shape))
            check_smaller(out, h->inner_diameter, h->outer_diameter, at + "/shape/inner_diameter", "Inner diameter",
                "the outer diameter");
        const bool no_volume = std::holds_alternative<ThinRing>(b.shape) || std::holds_alternative<Rod>(b.shape) ||
                               std::holds_alternative<PointMass>(b.shape);
        const bool known = std::holds_alternative<KnownInertia>(b.shape);
        if (b.place == BodyPlace::shaft && motion_of(axis.mechanism).direct)
            out.push_back({Severity::suspicious, at + "/place", "Place",
                "it turns with a shaft, which a linear drive has not; it counts as nothing"});
        if (b.mass.given()) continue;
        if (no_volume || (known && b.offset.value_or(0) > 0))
            error(out, at + "/mass", "Mass", "missing; this shape has no volume to calculate it from");
        else if (!known && materials && std::none_of(materials->begin(), materials->end(), [&](const Material& m) {
                     return m.name == b.material && m.density.given();
                 }))
            error(out, at + "/material", "Material",
                "\"" + b.material + "\" is not in the table of materials; add it there, or give the mass");
    }
}

// The window takes in at least two samples to each side and never reaches beyond the recording.
void check_window(Problems& out, const Trace& t, const std::string& at) {
    const std::size_t n = t.samples.rows();
    if (!t.window.given() || n < 5) return;
    const double length = t.samples.at(n - 1, 0) - t.samples.at(0, 0), step = length / static_cast<double>(n - 1);
    if (t.window.si < 4 * step * (1 - 1e-9) || t.window.si > length * (1 + 1e-9))
        error(out, at + "window", "Smoothing window",
            "found " + t.window.text + "; allowed for this recording is " + format_number(4e3 * step, 4) + " ms (two " +
                "samples to each side) to " + format_number(1e3 * length, 4) + " ms (its length)");
}

void check_segments(Problems& out, const Cycle& cycle, const std::string& path) {
    if (cycle.segments.empty()) error(out, path + "/segments", "Segments", "the cycle has no segment; add a move");
    for (std::size_t i = 0; i < cycle.segments.size(); ++i) {
        const std::string at = path + "/segments/" + std::to_string(i) + "/what/";
        if (const auto* m = std::get_if<MoveInTime>(&cycle.segments[i].what)) {
            if (m->law == Law::trapezoid && m->acceleration_share.given() && m->deceleration_share.given() &&
                m->acceleration_share.si + m->deceleration_share.si > 1 + 1e-12)
                error(out, at + "acceleration_share", "Accelerating",
                    "found " + m->acceleration_share.text + " with " + m->deceleration_share.text +
                        " decelerating; the two shares add to 1 at most");
        }
        if (const auto* t = std::get_if<Trace>(&cycle.segments[i].what)) {
            check_window(out, *t, at);
            for (std::size_t k = 1; k < t->samples.rows(); ++k)
                if (!(t->samples.at(k, 0) > t->samples.at(k - 1, 0))) {
                    error(out, at + "samples", "Samples",
                        "time goes from " + std::to_string(t->samples.at(k - 1, 0)) + " s to " +
                            std::to_string(t->samples.at(k, 0)) + " s in row " + std::to_string(k + 1) +
                            "; times must rise");
                    break;
                }
        }
    }
}

Problems check_fields(FieldRefs fields) {
    Problems out;
    for (const FieldRef& f : fields)
        if (auto p = check(f)) out.push_back(std::move(*p));
    return out;
}

void check_policy(Problems& out, const Policy& p, const std::string& path) {
    if (p.pull_out_tight.value_or(0.5) > p.pull_out_over.value_or(0.65))
        error(out, path + "/pull_out_tight", "Pull-out, tight above",
            "it cannot exceed the share that is over, " +
                std::string(p.pull_out_over.given() ? p.pull_out_over.text : "65 %"));
    if (p.inertia_ratio_tight.given() != p.inertia_ratio_over.given())
        error(out, path + "/inertia_ratio_over", "Inertia ratio, over above", "give both inertia ratios or neither");
    else if (p.inertia_ratio_tight.given() && p.inertia_ratio_tight.si > p.inertia_ratio_over.si)
        error(out, path + "/inertia_ratio_tight", "Inertia ratio, tight above",
            "found " + p.inertia_ratio_tight.text + "; it cannot exceed the ratio that is over, " +
                p.inertia_ratio_over.text);
}

} // namespace

namespace {

// Pairs of which neither can be right with the other.
void check_stages(Problems& out, const Axis& axis, const std::string& path) {
    if (!(motion_of(axis.mechanism).has & Motion::shaft)) return;
    for (std::size_t i = 0; i < axis.stages.size(); ++i) {
        const Stage& s = axis.stages[i];
        const std::string at = path + "/stages/" + std::to_string(i) + "/";
        if (const double driving = s.driving();
            s.no_load_torque.given() && s.rated_torque.given() && driving > 0 && s.ratio.given()) {
            const double most = (1 / driving - 1) * s.rated_torque.si / s.ratio.si;
            if (s.no_load_torque.si > most * (1 + 1e-9))
                error(out, at + "no_load_torque", "No-load torque",
                    "found " + s.no_load_torque.text + "; with an efficiency of " + format_number(driving, 4) +
                        " at the rated torque all losses together are " + format_number(most, 4) + " N·m at the input");
        }
        const auto rises = [&](const QuantityBase& low, const QuantityBase& high, const char* key, const char* label,
                               const char* than) {
            if (low.given() && high.given() && low.si > high.si)
                out.push_back({Severity::suspicious, at + key, label,
                    "found " + high.text + ", less than the " + than + " of " + low.text});
        };
        rises(s.rated_torque, s.peak_torque, "peak_torque", "Peak torque", "rated torque");
        rises(s.peak_torque, s.emergency_torque, "emergency_torque", "Emergency torque", "peak torque");
        rises(s.nominal_speed, s.top_speed, "top_speed", "Highest input speed", "nominal speed");
    }
}

void check_drive(Problems& out, const Axis& axis, const std::string& path) {
    const Drive& d = axis.drive;
    const std::string at = path + "/drive/";
    if (axis.motor.stepper()) return;
    if (d.continuous_current.given() && d.peak_current.given() && d.peak_current.si < d.continuous_current.si)
        error(out, at + "peak_current", "Drive peak current",
            "found " + d.peak_current.text + ", less than the continuous " + d.continuous_current.text);
    if (d.lowest_voltage.given() && d.highest_voltage.given() && d.lowest_voltage.si > d.highest_voltage.si)
        error(out, at + "highest_voltage", "Drive works up to",
            "found " + d.highest_voltage.text + ", less than the lowest, " + d.lowest_voltage.text);
}

void check_brakes(Problems& out, const Axis& axis, const std::string& path) {
    const auto slips = [&](const QuantityBase& holds, const BrakeStopping& s, const std::string& place) {
        if (holds.given() && s.dynamic_torque.given() && s.dynamic_torque.si > holds.si)
            out.push_back({Severity::suspicious, path + place, "Brake torque, slipping",
                "found " + s.dynamic_torque.text + ", more than it holds at rest, " + holds.text});
    };
    if (axis.driven() && !axis.motor.linear())
        slips(axis.motor.brake_torque, axis.motor.brake_stopping, "/motor/brake_dynamic_torque");
    if (motion_of(axis.mechanism).has & Motion::shaft)
        slips(axis.brake.static_torque, axis.brake.stopping, "/brake/dynamic_torque");
}

void check_stepper(Problems& out, const Motor& motor, const std::string& path) {
    std::visit(
        [&](const auto& m) {
            if constexpr (requires { m.holding_torque; }) {
                const std::string own = path + "electric/";
                if (!m.holding_torque.given())
                    error(out, own + "holding_torque", "Holding torque", "missing; every torque follows from it");
                if (!m.rated_current.given())
                    error(out, own + "rated_current", "Rated phase current",
                        "missing; torque per ampere and heat follow from it");
                if (motor.peak.empty() && !m.inductance.given())
                    error(out, own + "inductance", "Phase inductance",
                        "neither it nor a pull-out curve of the sheet is given; torque at speed depends on it");
                if (motor.peak.empty() && !m.resistance.given() && !m.rated_voltage.given())
                    error(out, own + "resistance", "Phase resistance",
                        "neither it nor the rated voltage nor a pull-out curve of the sheet is given");
            }
        },
        motor.electric);
    if (!motor.continuous.empty()) check_curve(out, motor.continuous, path + "continuous", "Continuous curve");
    if (!motor.peak.empty()) check_curve(out, motor.peak, path + "peak", "Pull-out curve", false);
    if (!motor.pull_in.empty()) check_curve(out, motor.pull_in, path + "pull_in", "Pull-in curve", false);
}

void check_motor(Problems& out, const Motor& m, const std::string& path) {
    if (m.linear()) {
        if (!m.has_constant())
            error(out, path + "electric/force_constant", "Force constant",
                "neither force nor voltage constant is given; a linear motor has no curve without one");
        if (!m.has_rating() && !m.rated_by_heat())
            error(out, path + "electric/continuous_force", "Continuous force",
                "no continuous rating is given; give the continuous force or current, or the thermal resistance with "
                "the "
                "resistance of the winding");
    } else if (m.stepper()) {
        check_stepper(out, m, path);
    } else {
        // without points the constants of the sheet tell it, where there are any
        const bool follows = m.has_constant() && (m.has_rating() || m.rated_by_heat());
        if (!m.continuous.empty() || !follows)
            check_curve(out, m.continuous, path + "continuous", "Continuous curve", true,
                m.has_constant() && m.continuous.empty()
                    ? "; a standstill or rated torque is enough, or the thermal resistance with the resistance of the "
                      "winding"
                    : "");
        if (!m.peak.empty() || !m.has_constant()) check_curve(out, m.peak, path + "peak", "Peak curve");
    }
}

} // namespace

Problems contradictions(const Axis& axis) {
    Problems out;
    check_stages(out, axis, "");
    check_brakes(out, axis, "");
    check_drive(out, axis, "");
    if (!axis.motor.empty()) check_motor(out, axis.motor, "/motor/");
    return out;
}

// The const_casts below are confined to reading: a walk hands out pointers, and check() does not write.
Problems validate(const Axis& axis, const std::string& path, const std::vector<Material>* materials, bool in_range) {
    const bool no_motor = !axis.driven();
    const std::string motor = path + "/motor/";
    Problems out = in_range ? Problems() : check_quantities(axis, path, no_motor ? path + "/motor" : "");
    if (no_motor && axis.drive.bus_voltage.text.empty()) // nobody asks for it yet
        std::erase_if(out, [&](const Problem& p) { return p.path == path + "/drive/bus_voltage"; });
    for (Problem p : axis.unread) {
        if (no_motor && p.path.starts_with("/motor")) continue;
        p.path = path + p.path;
        out.push_back(std::move(p));
    }
    std::visit(MechanismCheck{out, axis, path + "/mechanism"}, axis.mechanism);
    check_bodies(out, axis, materials, path);
    check_segments(out, axis.cycle, path + "/cycle");
    check_stages(out, axis, path);
    check_brakes(out, axis, path);
    if (!no_motor) check_drive(out, axis, path);
    if (!no_motor) check_motor(out, axis.motor, motor);
    return out;
}

Problems validate_site(const Machine& machine) {
    Problems out = check_fields(walk(const_cast<Site&>(machine.site), "/site"));
    for (Problem& p : check_fields(walk(const_cast<Operation&>(machine.operation), "/operation")))
        out.push_back(std::move(p));
    return out;
}

Problems validate(const Machine& machine) {
    Machine& m = const_cast<Machine&>(machine);
    Problems out = validate_site(machine);
    std::set<std::string> names;
    for (std::size_t i = 0; i < m.policies.size(); ++i) {
        const std::string path = "/policies/" + std::to_string(i);
        for (Problem& p : check_fields(walk(m.policies[i], path))) out.push_back(std::move(p));
        check_policy(out, m.policies[i], path);
        if (!names.insert(m.policies[i].name).second)
            error(out, path + "/name", "Policy",
                "\"" + m.policies[i].name + "\" is the name of two policies; names must differ");
    }
    std::set<std::string> materials;
    for (std::size_t i = 0; i < m.materials.size(); ++i) {
        const std::string path = "/materials/" + std::to_string(i);
        for (Problem& p : check_fields(walk(m.materials[i], path))) out.push_back(std::move(p));
        if (!materials.insert(m.materials[i].name).second)
            error(out, path + "/name", "Material",
                "\"" + m.materials[i].name + "\" is the name of two materials; names must differ");
    }
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        const std::string path = "/axes/" + std::to_string(i);
        for (Problem& p : validate(m.axes[i], path, &m.materials)) out.push_back(std::move(p));
        if (!find_policy(m, m.axes[i].policy))
            error(out, path + "/policy", "Policy", "\"" + m.axes[i].policy + "\" is not a policy of this project");
    }
    return out;
}

const Policy* find_policy(const Machine& machine, const std::string& name) {
    for (const Policy& p : machine.policies)
        if (p.name == name) return &p;
    return nullptr;
}

} // namespace fulmox

#include "core/model/validate.h"

#include "core/model/walk.h"

#include <set>

namespace fulmox {

namespace {

void error(Problems& out, std::string path, const char* field, std::string message) {
    out.push_back({Severity::error, std::move(path), field, std::move(message)});
}

void check_curve(Problems& out, const std::vector<CurvePoint>& curve, const std::string& path, const char* label) {
    if (curve.size() < 2) {
        error(out, path, label, "found " + std::to_string(curve.size()) + " points; a curve needs at least 2");
        return;
    }
    if (curve[0].speed.given() && curve[0].speed.si != 0)
        error(out, path + "/0/speed", label, "found " + curve[0].speed.text + "; the first point stands at 0 rpm");
    for (std::size_t i = 1; i < curve.size(); ++i)
        if (curve[i].speed.given() && curve[i - 1].speed.given() && !(curve[i].speed.si > curve[i - 1].speed.si))
            error(out, path + "/" + std::to_string(i) + "/speed", label,
                "found " + curve[i].speed.text + " after " + curve[i - 1].speed.text + "; speeds must rise");
}

void check_screw(Problems& out, const Screw& s, const std::string& path) {
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
    if (s.collar_friction.given() && s.collar_friction.si > 0 && !s.collar_diameter.given() &&
        s.thread == Thread::trapezoidal)
        error(out, path + "/collar_diameter", "Collar diameter", "it is missing, but a collar friction is given");
}

void check_segments(Problems& out, const Cycle& cycle, const std::string& path) {
    if (cycle.segments.empty()) error(out, path + "/segments", "Segments", "the cycle has no segment; add a move");
    for (std::size_t i = 0; i < cycle.segments.size(); ++i) {
        const auto* m = std::get_if<MoveInTime>(&cycle.segments[i].what);
        if (!m || !m->acceleration_share.given() || !m->deceleration_share.given()) continue;
        if (m->acceleration_share.si + m->deceleration_share.si > 1 + 1e-12)
            error(out, path + "/segments/" + std::to_string(i) + "/what/acceleration_share", "Accelerating",
                "found " + m->acceleration_share.text + " with " + m->deceleration_share.text +
                    " decelerating; the two shares add to 1 at most");
    }
}

Problems check_fields(FieldRefs fields) {
    Problems out;
    for (const FieldRef& f : fields)
        if (auto p = check(f)) out.push_back(std::move(*p));
    return out;
}

void check_policy(Problems& out, const Policy& p, const std::string& path) {
    if (p.inertia_ratio_tight.given() != p.inertia_ratio_over.given())
        error(out, path + "/inertia_ratio_over", "Inertia ratio, over above", "give both inertia ratios or neither");
    else if (p.inertia_ratio_tight.given() && p.inertia_ratio_tight.si > p.inertia_ratio_over.si)
        error(out, path + "/inertia_ratio_tight", "Inertia ratio, tight above",
            "found " + p.inertia_ratio_tight.text + "; it cannot exceed the ratio that is over, " +
                p.inertia_ratio_over.text);
}

} // namespace

// The const_casts below are confined to reading: a walk hands out pointers, and check() does not write.
Problems validate(const Axis& axis, const std::string& path) {
    const bool no_motor = axis.motor.empty();
    const std::string motor = path + "/motor/";
    Problems out;
    for (const FieldRef& f : walk(const_cast<Axis&>(axis), path)) {
        if (no_motor && f.path.starts_with(motor)) continue;
        if (auto p = check(f)) out.push_back(std::move(*p));
    }
    if (const auto* screw = std::get_if<Screw>(&axis.mechanism)) check_screw(out, *screw, path + "/mechanism");
    check_segments(out, axis.cycle, path + "/cycle");
    if (!no_motor) {
        check_curve(out, axis.motor.continuous, motor + "continuous", "Continuous curve");
        check_curve(out, axis.motor.peak, motor + "peak", "Peak curve");
    }
    return out;
}

Problems validate_site(const Machine& machine) { return check_fields(walk(const_cast<Site&>(machine.site), "/site")); }

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
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        const std::string path = "/axes/" + std::to_string(i);
        for (Problem& p : validate(m.axes[i], path)) out.push_back(std::move(p));
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

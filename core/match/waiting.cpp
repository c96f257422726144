#include "core/match/waiting.h"

#include "core/model/walk.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cstdlib>

namespace fulmox {

namespace {

// What the field at a place serves, or the nearest around it that is described.
need::Bits served_by(const FieldRefs& fields, std::string path) {
    for (;;) {
        for (const FieldRef& f : fields)
            if (f.path == path) return f.serves;
        const std::size_t cut = path.rfind('/');
        if (cut == std::string::npos || cut == 0) return need::everything;
        path.resize(cut);
    }
}

bool is_wrong(const FieldRef& f) {
    const auto p = check(f);
    return p && p->severity == Severity::error;
}

void stand_in(FieldRef& f) {
    const QuantitySpec& spec = f.quantity_spec;
    const Unit& unit = spec_unit(spec, f.kind);
    const Range& r = spec.range;
    const double plain = r.min < 0 && r.max > 0 ? 0 : !r.open_min ? r.min : std::min(1.0, (r.min + r.max) / 2);
    f.quantity->si = to_si(plain, unit);
    f.quantity->text = format_number(plain, 12) + " " + spec.unit;
}

} // namespace

Waiting::Waiting(const Machine& machine, const Axis& axis, const std::string& path, const Problems& problems)
    : axis_(axis), path_(path) {
    if (!has_errors(problems)) return;
    Axis copy = axis;
    FieldRefs fields = walk(copy, path);
    Site site = machine.site;
    for (FieldRef& f : walk(site, "/site")) fields.push_back(std::move(f));
    Operation operation = machine.operation;
    for (FieldRef& f : walk(operation, "/operation")) fields.push_back(std::move(f));
    for (const Problem& p : problems)
        if (p.severity == Severity::error) add(p, served_by(fields, p.path));
}

need::Bits needs_on(need::Bits needs, const Axis& axis) {
    if (!axis.driven()) return needs;
    const bool along = motion_of(axis.mechanism).direct; // a linear motor has no points of speed and torque
    constexpr need::Bits by_constants =
        need::current | need::resistance | need::voltage | need::temperatures | need::top_speed;
    if ((needs & need::peak_curve) && (along || axis.motor.peak.empty())) needs |= by_constants;
    if ((needs & need::continuous_curve) && (along || axis.motor.continuous.empty()))
        needs |= by_constants | need::surroundings;
    // the bus affects the current only where the field is weakened for it
    const bool weakens =
        axis.drive.field_weakening && (along || std::holds_alternative<SineMotor>(axis.motor.electric));
    if ((needs & need::current) && weakens) needs |= need::voltage;
    if (const auto* two = std::get_if<TwoPhaseStepper>(&axis.motor.electric);
        two && two->control == StepperControl::position && (needs & need::current))
        needs |= need::voltage | need::resistance;
    return needs;
}

void Waiting::add(const Problem& problem, need::Bits serves) {
    mask_ |= serves;
    entries_.push_back({serves, problem.path, field_and_place(problem.field, problem.path)});
}

void Waiting::unknown(const Missing& missing, const std::string& label, need::Bits serves) {
    mask_ |= serves;
    entries_.push_back({serves, path_ + missing.path, label, missing});
}

std::vector<Missing> Waiting::unknowns(need::Bits needs) const {
    std::vector<Missing> out;
    for (const Entry& e : entries_) {
        if ((e.serves & needs) == 0) continue;
        if (e.unknown.path.empty()) return {};
        out.push_back(e.unknown);
    }
    return out;
}

std::vector<Missing> Waiting::fields(need::Bits needs) const {
    std::vector<Missing> out;
    for (const Entry& e : entries_)
        if ((e.serves & needs) != 0 &&
            std::none_of(out.begin(), out.end(), [&](const Missing& m) { return m.name == e.name; }))
            out.push_back({e.path, e.name});
    return out;
}

void Waiting::also(need::Bits serves, need::Bits more) {
    for (Entry& e : entries_)
        if ((e.serves & serves) != 0) mask_ |= e.serves |= more;
}

std::string Waiting::words(need::Bits needs) const {
    constexpr std::size_t most = 4;
    std::vector<std::string> names;
    std::size_t more = 0;
    for (const Entry& e : entries_) {
        if ((e.serves & needs) == 0 || std::ranges::count(names, e.name) > 0) continue;
        if (names.size() < most)
            names.push_back(e.name);
        else
            ++more;
    }
    if (names.empty()) return {};
    std::string out = "waits for: ";
    for (const std::string& n : names) out += (&n == names.data() ? "" : "; ") + n;
    if (more > 0) out += " and " + std::to_string(more) + " more";
    return out;
}

Axis Waiting::with_stand_ins() const {
    Axis out = axis_;
    const bool no_motor = !out.driven();
    for (FieldRef& f : walk(out, path_)) {
        if (no_motor && f.path.starts_with(path_ + "/motor/")) continue; // it stays without one
        if (is_wrong(f)) stand_in(f);
    }
    // of a body whose weight cannot be found
    const std::string bodies = path_ + "/bodies/";
    for (const Entry& e : entries_)
        if (e.path.starts_with(bodies))
            if (const std::size_t i = std::strtoul(e.path.c_str() + bodies.size(), nullptr, 10); i < out.bodies.size())
                out.bodies[i].mass = Quantity<Kind::mass>("0 kg");
    // curves without points enough, or whose points do not rise
    const auto curve = [&](std::vector<CurvePoint>& points, need::Bits serves) {
        if (!blocks(serves)) return;
        points.assign(2, CurvePoint{});
        points[0].speed = Quantity<Kind::angular_speed>("0 rpm");
        points[1].speed = Quantity<Kind::angular_speed>("1000000 rpm");
        for (CurvePoint& p : points) p.torque = Quantity<Kind::torque>("1 N·m");
    };
    if (!out.motor.empty() && !out.motor.linear()) {
        curve(out.motor.peak, need::peak_curve);
        curve(out.motor.continuous, need::continuous_curve);
        if (!out.motor.pull_in.empty()) curve(out.motor.pull_in, need::pull_in);
    }
    return out;
}

Site Waiting::with_stand_ins(Site site) {
    for (FieldRef& f : walk(site, "/site"))
        if (is_wrong(f)) stand_in(f);
    return site;
}

std::size_t Waiting::known_segments() const {
    std::size_t known = axis_.cycle.segments.size();
    const std::string segments = path_ + "/cycle/segments/";
    for (const Entry& e : entries_) {
        if ((e.serves & need::cycle) == 0) continue;
        if (!e.path.starts_with(segments)) {
            if (e.path.starts_with(path_ + "/cycle/start")) return 0;
            continue;
        }
        known = std::min<std::size_t>(known, std::strtoul(e.path.c_str() + segments.size(), nullptr, 10));
    }
    return known;
}

} // namespace fulmox

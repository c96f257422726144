#include "core/match/sensitivity.h"

#include "core/demand/demand.h"
#include "core/match/waiting.h"
#include "core/model/validate.h"
#include "core/model/walk.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace fulmox {

namespace {

bool demand_waits(const Machine& machine, const Axis& axis, const std::string& path) {
    Problems problems = validate(axis, path, &machine.materials);
    for (Problem& p : validate_site(machine)) problems.push_back(std::move(p));
    return Waiting(machine, axis, path, problems).blocks(need::demand);
}

// The demand of most heat over the fills of a winder; nothing where the cycle cannot be planned.
std::optional<Demand> demand_now(const Machine& m, const Axis& axis) {
    const Plan p = plan(axis.cycle, motion_of(axis.mechanism));
    if (has_errors(p.problems) || p.motion.duration <= 0) return std::nullopt;
    std::optional<Demand> out;
    for (const FillState& f : fill_states(axis, {p.motion.below(), p.motion.above()})) {
        Demand d = demand(load_model(m, axis, f.web), p.motion, axis);
        if (!out || d.rms_torque > out->rms_torque) out = std::move(d);
    }
    return out;
}

double measure_of(const Demand& d, Measure m) {
    return m == Measure::rms_torque ? d.rms_torque : std::abs(d.peak.torque);
}

// "Table plate: Diameter": a body or stage is told by its name.
std::string owned_label(const Axis& axis, const std::string& own, const std::string& label) {
    for (const bool body : {true, false}) {
        const std::string head = body ? "/bodies/" : "/stages/";
        if (!own.starts_with(head)) continue;
        const auto index = static_cast<std::size_t>(std::stoul(own.substr(head.size())));
        const std::string& name = body ? axis.bodies[index].name : axis.stages[index].name;
        return (name.empty() ? (body ? "Body " : "Stage ") + std::to_string(index + 1) : name) + ": " + label;
    }
    return label;
}

bool within(const QuantitySpec& spec, Kind kind, double si) {
    const Unit& u = spec_unit(spec, kind);
    const double low = to_si(spec.range.min, u), high = to_si(spec.range.max, u);
    return (spec.range.open_min ? si > low : si >= low) && (spec.range.open_max ? si < high : si <= high);
}

} // namespace

std::vector<Influence> influences(
    const Machine& machine, std::size_t index, Measure measure, const std::function<bool()>& go_on) {
    std::vector<Influence> out;
    const std::string path = "/axes/" + std::to_string(index);
    if (demand_waits(machine, machine.axes.at(index), path)) return out;
    Machine copy = machine;
    Axis& axis = copy.axes[index];
    const auto here = demand_now(copy, axis);
    if (!here) return out;
    const double base = measure_of(*here, measure);
    FieldRefs fields = walk(axis, path);
    for (FieldRef& f : walk(copy.site, "/site")) fields.push_back(std::move(f));
    for (FieldRef& f : fields) {
        if (go_on && !go_on()) break;
        if (f.type != FieldRef::Type::quantity || !f.active || !f.quantity->given() || f.quantity->si == 0) continue;
        const std::string_view own = std::string_view(f.path).substr(f.path.starts_with(path) ? path.size() : 0);
        const bool motor = own.starts_with("/motor/") && !own.ends_with("inertia");
        if (motor || own.starts_with("/drive/") || own.ends_with("/window")) continue;
        // whole numbers are not known to a tenth
        static constexpr std::string_view counts[]{
            "/teeth", "/times", "/segments", "/falls", "/count", "/idlers", "/pulleys", "/rollers"};
        if (f.kind == Kind::number &&
            std::ranges::any_of(counts, [&](std::string_view end) { return own.ends_with(end); }))
            continue;
        QuantityBase& q = *f.quantity;
        const double was = q.si;
        const double step = q.tolerance > 0 ? q.tolerance : 0.1 * std::abs(was);
        Influence i{f.path, owned_label(axis, std::string(own), f.label()),
            q.tolerance > 0 ? "± " + format_quantity(q.tolerance, q.unit ? *q.unit : si_unit(f.kind), 3) : "± 10 %",
            base, base};
        for (const double side : {-1.0, 1.0}) {
            const double moved = was + side * step;
            if (!within(f.quantity_spec, f.kind, moved)) continue;
            q.si = moved;
            if (const auto d = demand_now(copy, axis)) (side < 0 ? i.low : i.high) = measure_of(*d, measure);
        }
        q.si = was;
        if (i.swing() > 1e-9 * std::abs(base)) out.push_back(std::move(i));
    }
    std::stable_sort(
        out.begin(), out.end(), [](const Influence& a, const Influence& b) { return a.swing() > b.swing(); });
    return out;
}

std::vector<LawRow> compare_laws(
    const Machine& machine, std::size_t index, std::size_t segment, const std::function<bool()>& go_on) {
    std::vector<LawRow> out;
    Axis axis = machine.axes.at(index);
    if (segment >= axis.cycle.segments.size()) return out;
    auto* move = std::get_if<MoveInTime>(&axis.cycle.segments[segment].what);
    if (!move || demand_waits(machine, axis, "")) return out;
    const Law chosen = move->law;
    for (std::size_t k = 0; k < std::size(laws); ++k) {
        if (go_on && !go_on()) return {};
        move->law = static_cast<Law>(k);
        const auto d = demand_now(machine, axis);
        if (!d) return {};
        const Plan p = plan(axis.cycle, motion_of(axis.mechanism));
        LawRow row;
        row.law = move->law;
        row.chosen = move->law == chosen;
        row.peak_torque = std::abs(d->peak.torque);
        row.rms_torque = d->rms_torque;
        const std::vector<Piece> unit = unit_law(move->law, move->acceleration_share.value_or(1.0 / 3),
            move->deceleration_share.value_or(1.0 / 3), move->rounding.value_or(0));
        const LawCoefficients c = coefficients(unit);
        double distance = 0;
        for (const Phase& f : p.motion.phases)
            if (f.segment == segment) {
                const Piece& first = p.motion.at(f.start + f.duration * 1e-9);
                const Piece& last = p.motion.at(f.start + f.duration * (1 - 1e-9));
                distance = std::abs(last.position(last.duration) - first.position(0));
            }
        const double t = move->duration.si;
        row.peak_speed = c.cv * distance / t;
        row.peak_acceleration = c.ca * distance / (t * t);
        row.jerk = c.cj * distance / (t * t * t);
        out.push_back(row);
    }
    return out;
}

} // namespace fulmox

#include "core/report/drivetrain_report.h"

#include "core/drivetrain/screw_layout.h"
#include "core/drivetrain/screw_life.h"
#include "core/drivetrain/screw_limits.h"
#include "core/match/mating.h"
#include "core/match/torque_limit.h"
#include "core/quantity/not_finite.h"

#include <algorithm>

namespace fulmox {

Value coupling_json(const Axis& axis, const Assessment& a) {
    if (!a.coupling) return nullptr;
    const CouplingUse& u = *a.coupling;
    const Coupling& c = axis.coupling;
    const double factor = c.service_factor.value_or(1);
    const auto asks = [&](double torque) {
        return Value{{"value", finite(torque)}, {"rating", finite(std::abs(torque) * factor)}};
    };
    const auto bounds = [&](const CouplingBounds& b) {
        return Value{{"motor_peak_bound", asks(b.motor_peak)}, {"shared_bound", asks(b.shared)},
            {"first_swing", asks(b.first_swing)}};
    };
    const auto both = [&](CouplingUse::Case of) -> Value {
        if (!u.bounded) return nullptr;
        return Value{{"motor_torque", finite(of == CouplingUse::motor ? u.motor_torque : u.emergency_motor_torque)},
            {"forward", bounds(u.bounds[of][CouplingUse::forward])},
            {"backward", bounds(u.bounds[of][CouplingUse::backward])}};
    };
    const auto range = [](double low, double high) { return Value{{"least", finite(low)}, {"most", finite(high)}}; };
    const double none = no_number;
    return {{"shaft", axis.stages.empty() || c.place == CouplingPlace::motor ? "motor" : "mechanism"},
        {"service_factor", finite(factor)}, {"cycle_torque", asks(u.cycle)},
        {"emergency_stop_torque", asks(u.stops ? u.emergency : none)},
        {"external_torque", range(u.external_least, u.external_most)},
        {"load_share", u.bounded ? range(u.load_share_least, u.load_share_most) : range(none, none)},
        {"motor_peak", both(CouplingUse::motor)}, {"emergency_stop", both(CouplingUse::stop)},
        {"judged", asks(u.judged())},
        {"misalignment", finite(misalignment(c).missing.empty() ? misalignment(c).sum : no_number)}};
}

Value brake_json(const Axis& axis, const Assessment& a) {
    if (!a.brake) return nullptr;
    const BrakeStop& b = *a.brake;
    const bool rotary = motion_of(axis.mechanism).rotary;
    Value brakes = Value::array();
    for (const ActingBrake& one : b.brakes)
        brakes.push_back({{"name", one.name}, {"place", one.path}, {"static_torque", finite(one.holds)},
            {"dynamic_torque", finite(one.slips)}, {"dynamic_known", one.slips_known},
            {"apply_time", finite(one.delay)}, {"stop_energy", finite(one.energy)}});
    const auto loss = [&](const PowerLoss* l) -> Value {
        if (!l || !b.delays_known) return nullptr;
        const auto known = [&](double x) { return finite(l->stops ? x : no_number); };
        return Value{{"stops", l->stops}, {"speed_when_it_engages", finite(l->engages_at)},
            {"energy", known(l->energy)}, {"time", known(l->time)}, {"distance", known(l->distance)}};
    };
    return {{"brakes", std::move(brakes)}, {"driving_torque", finite(b.driving)}, {"estimate", b.estimate},
        {"distance_unit", rotary ? "rad" : "m"}, {"forward", loss(b.forward ? &*b.forward : nullptr)},
        {"backward", loss(b.backward ? &*b.backward : nullptr)}, {"standing", loss(&b.standing)}};
}

Value drive_json(const Machine& machine, const Axis& axis, const Assessment& a) {
    const DriveCurrents* c = a.currents.get();
    const double none = no_number;
    Value limit = nullptr;
    if (a.demand && !motion_of(axis.mechanism).direct) {
        const TorqueLimit t = torque_limit(axis, a.demand->load, policy_of(machine, axis));
        if (!t.part.empty()) limit = {{"torque", finite(t.torque)}, {"part", t.part}, {"name", t.name}};
    }
    Value overload = nullptr;
    if (a.overload) {
        const OverloadIntegral& o = *a.overload;
        overload = {{"greatest", finite(o.greatest)}, {"first_cycle", finite(o.first_cycle)},
            {"net_per_cycle", finite(o.net)}, {"budget", finite(o.budget)},
            {"trips", std::isnan(o.budget) ? Value(nullptr) : Value(o.trips)},
            {"trip_cycle", o.trips ? finite(o.trip_cycle) : Value(nullptr)},
            {"trip_time", o.trips ? finite(o.trip_time) : Value(nullptr)}};
    }
    return {{"amperes", !c       ? Value(nullptr)
                        : c->rms ? Value("rms")
                                 : Value("dc")},
        {"peak_current", finite(c ? c->peak : none)}, {"rms_current", finite(c ? c->over_cycle : none)},
        {"continuous_allowed", finite(c ? c->drive_continuous : none)},
        {"peak_allowed", finite(c ? c->drive_peak : none)},
        {"currents_left", finite(drive_share(axis.drive, machine.site))}, {"overload", std::move(overload)},
        {"torque_limit", std::move(limit)}};
}

// Lengths in m, speeds in rad/s, loads in N; null where its ends are not described or something is missing.
Value plan_json(const Axis& axis, const Screw& s, const Assessment& a) {
    if (!s.ends.said()) return nullptr;
    const ScrewLayout l = screw_layout(axis, a.motion ? a.motion->stroke() : no_number);
    if (!l.missing.empty()) return nullptr;
    const auto sections_json = [](const std::vector<ScrewSection>& sections) {
        static constexpr const char* names[] = {"journal", "lock_thread", "seat", "screw"};
        Value out = Value::array();
        for (const ScrewSection& part : sections)
            out.push_back({{"of", names[static_cast<std::size_t>(part.of)]}, {"from", finite(part.from)},
                {"to", finite(part.to)}, {"diameter", finite(part.diameter)}});
        return out;
    };
    Value places = Value::array(), warnings = Value::array();
    for (const ScrewLayout::Place& p : l.places)
        places.push_back({{"nut", finite(p.at)}, {"loaded_length", finite(p.loaded)},
            {"buckling_load", finite(p.buckling)}, {"critical_speed", finite(p.critical_speed)}});
    for (const Text& w : l.warnings) warnings.push_back(w.in(UnitSystem::si));
    return {{"length", finite(l.length)}, {"free_length", finite(l.free_length)},
        {"loaded_length", finite(l.loaded_length)}, {"bearing_from", finite(l.first_bearing)},
        {"critical_speed", finite(l.critical_speed)}, {"sections", sections_json(l.sections)},
        {"nut_sections", sections_json(l.nut_sections)}, {"places", std::move(places)},
        {"warnings", std::move(warnings)}};
}

Value screw_json(const Axis& axis, const Assessment& a) {
    const auto* s = std::get_if<Screw>(&axis.mechanism);
    if (!s) return nullptr;
    Value speeds = nullptr, buckling = nullptr, life = nullptr;
    const auto known = [&](const char* figure) {
        const Figure* f = a.figure(figure);
        return f && !f->waits;
    };
    const bool sized =
        s->root_diameter.given() && s->length.given() && s->elastic_modulus.given() && s->density.given();
    if (sized) {
        const auto by_ends = [&](auto&& bound) {
            Value out = Value::object();
            Screw other = *s;
            for (std::size_t k = 0; k < std::size(Screw::fixities); ++k) {
                other.fixity = static_cast<EndFixity>(k);
                out[Screw::fixities[k].key] = finite(bound(other));
            }
            return out;
        };
        const auto speed = [](const Screw& x) { return critical_speed(x, false).value; };
        const auto load = [](const Screw& x) { return buckling_load(x, false).value; };
        if (s->turns == ScrewTurns::screw && known("screw.critical_speed"))
            speeds = {{"ends", Screw::fixities[static_cast<std::size_t>(s->fixity)].key}, {"value", finite(speed(*s))},
                {"by_ends", by_ends(speed)}};
        if (known("screw.buckling_load"))
            buckling = {{"ends", Screw::fixities[static_cast<std::size_t>(s->fixity)].key}, {"value", finite(load(*s))},
                {"by_ends", by_ends(load)}};
    }
    if (a.screw_life) {
        const ScrewLife& l = *a.screw_life;
        life = {{"by_spectrum", l.typed}, {"mean_load", finite(l.mean_load)}, {"mean_speed", finite(l.mean_speed)},
            {"revolutions", finite(l.revolutions)}, {"hours", finite(l.hours)}, {"travel", finite(l.travel)}};
    }
    return {{"critical_speed", std::move(speeds)}, {"buckling_load", std::move(buckling)}, {"life", std::move(life)},
        {"plan", plan_json(axis, *s, a)}};
}

Value stiffness_json(const Assessment& a) {
    if (!a.stiffness) return nullptr;
    const StiffnessStatement& s = *a.stiffness;
    Value elements = Value::array();
    for (const Spring& e : s.springs)
        elements.push_back({{"key", e.key}, {"label", e.label}, {"stiffness", finite(e.own)},
            {"stiffness_unit", e.axial ? "N/m" : "N·m/rad"}, {"at_motor", finite(e.at_motor)},
            {"compliance_share", finite(s.total / e.at_motor)}});
    const auto list = [](const std::vector<double>& hertz) {
        Value out = Value::array();
        for (const double f : hertz) out.push_back(finite(f));
        return out;
    };
    const auto bandwidth = [](double antiresonance) {
        return Value{{"slow", finite(StiffnessStatement::slow_bandwidth(antiresonance))},
            {"fast", finite(StiffnessStatement::fast_bandwidth(antiresonance))}};
    };
    Value two = nullptr, chain = nullptr;
    if (s.two.load > 0)
        two = {{"motor_inertia", finite(s.two.motor)}, {"load_inertia", finite(s.two.load)},
            {"antiresonance", finite(s.two.antiresonance)}, {"resonance", finite(s.two.resonance)},
            {"bandwidth", bandwidth(s.two.antiresonance)}};
    if (!s.resonances.empty())
        chain = {{"antiresonances", list(s.antiresonances)}, {"resonances", list(s.resonances)},
            {"bandwidth", bandwidth(s.antiresonances.front())}};
    return {{"elements", std::move(elements)}, {"total", finite(s.total)},
        {"softest", s.springs.empty() ? Value(nullptr) : Value(s.springs[s.softest].key)}, {"two_body", std::move(two)},
        {"chain", std::move(chain)}};
}

Value precision_json(const Axis& axis, const Assessment& a) {
    if (!a.precision) return nullptr;
    const PrecisionBudget& b = *a.precision;
    Value terms = Value::array(), places = Value::array();
    for (const ErrorTerm& t : b.terms)
        terms.push_back(
            {{"key", t.key}, {"label", t.label}, {"error", finite(t.error)}, {"grows_with_stroke", t.grows}});
    for (const PrecisionBudget::Place& p : b.over_stroke)
        places.push_back({{"from_start", finite(p.from_start)}, {"worst_case", finite(p.worst)},
            {"root_sum_square", finite(p.squares)}});
    return {{"unit", motion_of(axis.mechanism).rotary ? "rad" : "m"}, {"terms", std::move(terms)},
        {"worst_case", finite(b.worst)}, {"root_sum_square", finite(b.squares)},
        {"asked", finite(axis.accuracy.asked.given() ? axis.accuracy.asked.si : no_number)},
        {"missing", missing_json(b.missing)}, {"over_stroke", std::move(places)}};
}

} // namespace fulmox

#include "core/drivetrain/coupling_bounds.h"
#include "core/drivetrain/load_side.h"

#include "core/quantity/not_finite.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>

namespace fulmox {

namespace {

// Torque and inertia of the motor's side as the shaft behind all stages sees them.
struct Seen {
    double torque, inertia;
};

Seen at_mechanism(const LoadModel& m, double torque, double inertia, bool braking) {
    inertia += m.motor_side;
    for (const StageModel& s : m.stages) {
        // driven back it takes more from the load than the motor holds; what locks lets nothing through
        const double kept = braking && s.backward > 0 ? 1 / s.backward : s.forward;
        inertia = (inertia + s.inertia) * s.ratio * s.ratio * kept;
        torque *= s.ratio * kept;
    }
    return {torque, inertia};
}

} // namespace

double most_torque(const Capability* can) {
    if (!can || can->peak.empty()) return no_number;
    double most = 0;
    for (const double w : can->peak.speeds()) most = std::max(most, can->peak.at(w));
    return most;
}

double CouplingUse::judged() const {
    double most = std::max(cycle, emergency);
    if (bounded)
        for (const auto& one : bounds)
            for (const CouplingBounds& b : one) most = std::max(most, std::abs(b.shared));
    return most;
}

CouplingUse coupling_use(const Demand& d, const Axis& axis, const Capability* can, bool inertia_known) {
    const LoadModel& m = d.load;
    CouplingUse out;
    out.cycle = d.coupling_peak;
    out.emergency = d.coupling_emergency;
    const LoadSide side(m, m.coupling_at_mechanism);
    out.motor_torque = most_torque(can);
    out.emergency_motor_torque = axis.drive.emergency_torque.given() ? axis.drive.emergency_torque.si : [&] {
        double most = out.motor_torque;
        if (can)
            for (const double w : can->braking.speeds()) most = std::max(most, can->braking.at(w));
        return most;
    }();
    out.bounded = inertia_known && m.rotor_inertia > 0 && std::isfinite(out.motor_torque);
    std::array<Seen, 2> seen{};
    if (out.bounded)
        for (const bool stop : {false, true}) {
            const double torque = stop ? out.emergency_motor_torque : out.motor_torque;
            seen[stop] = m.coupling_at_mechanism ? at_mechanism(m, torque, m.rotor_inertia, stop)
                                                 : Seen{torque, m.rotor_inertia};
            for (const int way : {0, 1}) {
                CouplingBounds& b = out.bounds[stop][static_cast<std::size_t>(way)];
                b.motor_peak = way == 0 ? seen[stop].torque : -seen[stop].torque;
                b.shared = b.first_swing = way == 0 ? -no_bound : no_bound;
            }
        }
    bool any = false;
    const auto look = [&](double q, double payload, double process) {
        const double inertia = side.inertia(q, payload), external = side.external(q, payload, process);
        out.external_least = any ? std::min(out.external_least, external) : external;
        out.external_most = any ? std::max(out.external_most, external) : external;
        any = true;
        if (!out.bounded) return;
        for (const std::size_t which : {0u, 1u}) {
            const double share = inertia / (inertia + seen[which].inertia);
            if (which == 0) {
                out.load_share_least = std::min(out.load_share_least, share);
                out.load_share_most = std::max(out.load_share_most, share);
            }
            for (const std::size_t way : {0u, 1u}) {
                const double side_of = way == 0 ? 1 : -1;
                CouplingBounds& b = out.bounds[which][way];
                const double part = (side_of * seen[which].torque - external) * share;
                const auto beyond = [&](double now, double most) { return side_of * now > side_of * most; };
                if (beyond(external + part, b.shared)) {
                    b.shared = external + part;
                    b.external = external;
                    b.load_share = share;
                }
                if (beyond(external + 2 * part, b.first_swing)) b.first_swing = external + 2 * part;
            }
        }
    };
    for (const Span& s : d.spans) {
        const double from = s.start - s.piece.start;
        const auto at = [&](double u) {
            look(s.piece.position(from + u * s.duration), s.payload, s.process_at(s.start + u * s.duration));
        };
        if (m.position_dependent() && s.direction != 0) {
            for (const double u : span_nodes().at) at(u);
        } else {
            at(0);
            if (s.process_rate != 0) at(1);
        }
    }
    if (!m.position_dependent() || !out.bounded) return out;
    // between the nodes of those spans that come near the largest of each figure
    for (const std::size_t which : {0u, 1u})
        for (const double side_of : {1.0, -1.0})
            for (const double part : {1.0, 2.0}) { // the shared bound, the first swing
                const CouplingBounds& now = out.bounds[which][side_of > 0 ? 0 : 1];
                const double most = side_of * (part == 1 ? now.shared : now.first_swing);
                for (const Span& s : d.spans) {
                    if (s.direction == 0) continue;
                    const double from = s.start - s.piece.start;
                    const auto figure = [&](double u) {
                        const double q = s.piece.position(from + u * s.duration);
                        const double inertia = side.inertia(q, s.payload);
                        const double external = side.external(q, s.payload, s.process_at(s.start + u * s.duration));
                        const double share = inertia / (inertia + seen[which].inertia);
                        return side_of * external + part * (seen[which].torque - side_of * external) * share;
                    };
                    const SpanNodes& nodes = span_nodes();
                    std::size_t best = 0;
                    std::array<double, span_node_count> of{};
                    for (std::size_t i = 0; i < of.size(); ++i) {
                        of[i] = figure(nodes.at[i]);
                        if (of[i] > of[best]) best = i;
                    }
                    constexpr double near = 0.95;
                    if (!(of[best] >= near * most)) continue;
                    const double low = nodes.at[best == 0 ? 0 : best - 1];
                    const double high = nodes.at[std::min(best + 1, nodes.at.size() - 1)];
                    std::uintmax_t tries = 40;
                    const double u = boost::math::tools::brent_find_minima(
                        [&](double x) { return -figure(x); }, low, high, 24, tries)
                                         .first;
                    look(s.piece.position(from + u * s.duration), s.payload, s.process_at(s.start + u * s.duration));
                }
            }
    return out;
}

} // namespace fulmox

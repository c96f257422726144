#include "core/drivetrain/coupling_bounds.h"
#include "core/drivetrain/cycle_places.h"
#include "core/drivetrain/load_side.h"

#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <functional>

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

CouplingUse::Worst CouplingUse::worst(double CouplingBounds::*figure) const {
    Worst out{motor, forward, bounds[motor][forward]};
    for (const Case of : {motor, stop})
        for (const Direction way : {forward, backward})
            if (std::abs(bounds[of][way].*figure) > std::abs(out.bounds.*figure)) out = {of, way, bounds[of][way]};
    return out;
}

double CouplingUse::judged() const {
    const double most = std::max(cycle, emergency);
    return bounded ? std::max(most, std::abs(worst(&CouplingBounds::shared).bounds.shared)) : most;
}

CouplingUse coupling_use(const Demand& d, const Axis& axis, const Capability* can, bool inertia_known) {
    const LoadModel& m = d.load;
    CouplingUse out;
    out.cycle = d.coupling_peak;
    out.emergency = d.coupling_emergency;
    out.stops = d.stop_time > 0;
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
    std::vector<std::function<double(double, double, double)>> figures;
    if (out.bounded && m.position_dependent())
        for (const std::size_t which : {0u, 1u})
            for (const double side_of : {1.0, -1.0})
                for (const double part : {1.0, 2.0}) // the shared bound, the first swing
                    figures.emplace_back([&, which, side_of, part](double q, double payload, double process) {
                        const double inertia = side.inertia(q, payload), external = side.external(q, payload, process);
                        const double share = inertia / (inertia + seen[which].inertia);
                        return side_of * external + part * (seen[which].torque - side_of * external) * share;
                    });
    over_places(cycle_places(d), look, figures);
    return out;
}

} // namespace fulmox

#include "core/demand/stages.h"

#include "core/demand/span_polynomial.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

LoadModel beyond_stage(const LoadModel& load, std::size_t stage) {
    LoadModel out = load;
    out.rotor_inertia = out.motor_side = 0;
    out.stages.assign(load.stages.begin() + static_cast<std::ptrdiff_t>(stage) + 1, load.stages.end());
    out.ratio = 1;
    for (const StageModel& s : out.stages) out.ratio *= s.ratio;
    out.coupling_at_mechanism = false; // what a coupling would carry there, standing still too, the stage carries
    return out;
}

std::vector<StageUse> stage_uses(const LoadModel& load, const Trajectory& motion, const Axis& axis,
    const std::function<bool(const Stage&)>& wanted) {
    std::vector<StageUse> out;
    for (std::size_t k = 0; k < load.stages.size(); ++k) {
        const Stage& stage = axis.stages[k];
        if (wanted && !wanted(stage)) continue;
        const LoadModel beyond = beyond_stage(load, k);
        const Demand d = demand(beyond, motion, axis);
        if (d.not_finite()) continue;
        const double ratio = load.stages[k].ratio;
        StageUse use;
        use.stage = k;
        use.exponent = stage.exponent.value_or(3);
        use.rms = d.rms_torque;
        use.peak = d.coupling_peak;
        use.emergency = stage.stop_torque.given() ? stage.stop_torque.si : d.coupling_emergency;
        use.mean_speed = d.mean_speed * ratio;
        use.peak_speed = d.peak_speed * ratio;
        // powers of the share of the largest, lest they overflow
        double most = 0, turned = 0, weighted = 0, moves = 0;
        for (const SpanSamples& s : d.samples)
            for (const double t : s.torque) most = std::max(most, std::abs(t));
        for (std::size_t i = 0; i < d.spans.size(); ++i) {
            const Span& s = d.spans[i];
            if (s.direction == 0) continue;
            moves += s.lasting();
            const SpanSamples& at = d.samples[i];
            const auto wear = [&](double speed, double torque) {
                const double share = std::abs(torque) / most;
                // the usual exponent needs no logarithm
                return std::abs(speed) * (use.exponent == 3 ? share * share * share : std::pow(share, use.exponent));
            };
            double worn = 0;
            for (std::size_t n = 0; n < span_node_count; ++n) {
                turned += span_nodes().weight[n] * s.lasting() * std::abs(at.speed[n]);
                if (most > 0) worn += span_nodes().weight[n] * wear(at.speed[n], at.torque[n]);
            }
            // where the torque changes its sign a power of it has a kink, and a high power of one that changes much is
            // steeper than the quadrature follows
            const NodeRange range = range_of(at.torque);
            constexpr std::size_t parts = 4;
            if (most > 0 && !range.changes_sign() &&
                (range.high - range.low) * use.exponent > 0.5 * std::max(range.high, -range.low)) {
                const SpanPolynomial speed(at.speed), torque(at.torque);
                worn = 0;
                for (std::size_t e = 0; e < parts; ++e)
                    worn += integral([&](double u) { return wear(speed(u), torque(u)); },
                        static_cast<double>(e) / parts, static_cast<double>(e + 1) / parts);
            }
            if (most > 0 && range.changes_sign()) {
                const SpanPolynomial speed(at.speed), torque(at.torque);
                const SignEdges edges = sign_edges(at.torque, range);
                worn = 0;
                for (std::size_t e = 1; e < edges.count; ++e)
                    worn += integral([&](double u) { return wear(speed(u), torque(u)); }, edges.u[e - 1], edges.u[e]);
            }
            weighted += s.lasting() * worn;
        }
        use.turned = turned;
        use.worn = weighted * std::pow(most, use.exponent);
        if (turned > 0) use.equivalent = most * std::pow(weighted / turned, 1 / use.exponent);
        if (moves > 0) use.moving_speed = use.mean_speed * d.cycle_time / moves;
        out.push_back(use);
    }
    return out;
}

} // namespace fulmox

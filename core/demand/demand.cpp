#include "core/demand/demand.h"

#include "core/demand/account.h"
#include "core/demand/emergency.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <oneapi/tbb/parallel_for.h>

namespace fulmox {

const char* cause_key(Cause c) {
    static constexpr std::array names{"load_inertia", "rotor", "friction", "losses", "gravity", "process"};
    return names.at(static_cast<std::size_t>(c));
}

const char* cause_label(Cause c) {
    static constexpr std::array names{"Load inertia", "Rotor", "Friction", "Losses", "Gravity", "Process"};
    return names.at(static_cast<std::size_t>(c));
}

ShaftState Demand::at(double t) const {
    const Span& s = span_at(t);
    if (s.times <= 1) return evaluate(load, s, t);
    const double folded = s.first_turn + std::fmod(t - s.first_turn, s.turn);
    return evaluate(load, span_at(folded), folded);
}

const Span& Demand::span_at(double t) const {
    const auto it =
        std::upper_bound(spans.begin(), spans.end(), t, [](double value, const Span& s) { return value < s.start; });
    return it == spans.begin() ? spans.front() : *std::prev(it);
}

std::optional<std::string> Demand::not_finite() const {
    const std::pair<const char*, double> numbers[]{{"RMS torque", rms_torque}, {"peak torque", peak.torque},
        {"peak while driving", peak_motoring.torque}, {"peak while braking", peak_braking.torque},
        {"holding torque", holding_torque}, {"torque to hold the load", static_torque}, {"peak speed", peak_speed},
        {"mean speed", mean_speed}, {"RMS speed", rms_speed}, {"peak power", peak_power},
        {"peak power returned", peak_return}, {"energy per cycle", energy_delivered},
        {"energy returned", energy_returned}, {"emergency stop", emergency_torque},
        {"torque through the coupling", coupling_torque()}, {"force at the load", axial_force()},
        {"emergency stop", coupling_emergency + axial_emergency}, {"sums of the torque", sums.a + sums.b + sums.c}};
    for (const auto& [name, value] : numbers)
        if (!std::isfinite(value)) return name;
    for (const double share : rms_share)
        if (!std::isfinite(share)) return "share of the RMS torque";
    return std::nullopt;
}

MotorSide motor_side(const Demand& d) {
    // what sits on the motor's shaft turns with the mechanism as long as there is no stage
    const double own = d.load.with_motor;
    QuadraticSums s = d.sums;
    s.a += own * (own * d.sums.c - 2 * d.sums.b);
    s.b -= own * d.sums.c;
    return {d.load.rotor_inertia + d.load.motor_side + own, {std::max(0.0, s.a), s.b, s.c}};
}

namespace {

// The pieces of motion with what each segment carries, from the first to the one before the last.
class Course {
  public:
    Course(const Trajectory& motion, const Axis& axis) : motion_(motion), axis_(axis), payload_(first_payload(axis)) {}

    double payload(const Phase& p) const { return p.payload.value_or(payload_); }
    void run(const LoadModel& load, std::size_t first, std::size_t last, DemandAccumulator& account) const {
        const std::size_t room = (load.position_dependent() ? 3 : 1) * (last - first) + 16;
        account.d.spans.reserve(room);
        account.d.samples.reserve(room);
        std::function<void(const Span&)> start;
        if (load.breakaway > 1) start = [&](const Span& s) { account.start(s); };
        Sweep sweep(
            load, [&](const Span& s, const SpanStates& states) { account(s, states); }, start,
            1e-9 * motion_.peak_speed);
        for (std::size_t i = first; i < last; ++i) {
            const Piece& p = motion_.pieces[i];
            const Segment& segment = axis_.cycle.segments[p.segment];
            const Phase& phase = motion_.phases[p.playing];
            Span s;
            s.start = p.start;
            s.duration = p.duration;
            s.piece = p;
            s.payload = payload(phase);
            const double pushed = segment.process_force.value_or(0);
            if (segment.process_force_end.given() && phase.duration > 0)
                s.process_rate = (segment.process_force_end.si - pushed) / phase.duration;
            s.process = pushed + s.process_rate * (p.start - phase.start);
            s.friction_factor = phase.friction;
            if (const auto* dwell = std::get_if<Dwell>(&segment.what); dwell && dwell->brake_holds)
                s.regime = Regime::braked;
            sweep.cut(s);
        }
    }

  private:
    const Trajectory& motion_;
    const Axis& axis_;
    double payload_; // at the start of the cycle
};

} // namespace

void demands(const std::vector<LoadModel>& loads, const Trajectory& motion, const Axis& axis,
    const std::function<void(std::size_t, Demand)>& then, const std::function<void()>& between) {
    const Course course(motion, axis);
    const std::vector<double> payloads = payloads_of(motion, first_payload(axis));
    const StopCases stops = stop_cases(motion, first_payload(axis));
    double least_friction = motion.phases.empty() ? 1 : motion.phases.front().friction;
    for (const Phase& p : motion.phases) least_friction = std::min(least_friction, p.friction);
    // parts of a fixed size, so that the sums do not depend on the number of cores
    constexpr std::size_t part = 256;
    const std::size_t pieces = motion.pieces.size(), parts = std::max<std::size_t>(1, (pieces + part - 1) / part);
    std::vector<DemandAccumulator> accounts;
    accounts.reserve(loads.size() * parts);
    for (const LoadModel& load : loads)
        for (std::size_t k = 0; k < parts; ++k) accounts.emplace_back(load);
    std::vector<std::atomic<std::size_t>> open(loads.size()); // parts not yet done
    for (auto& each : open) each = parts;
    const auto run = [&](std::size_t i) {
        if (between) between();
        const std::size_t load = i / parts, first = i % parts * part;
        course.run(loads[load], first, std::min(first + part, pieces), accounts[i]);
        if (--open[load] > 0) return;
        DemandAccumulator& whole = accounts[load * parts];
        std::size_t spans = 0;
        for (std::size_t k = 0; k < parts; ++k) spans += accounts[load * parts + k].d.spans.size();
        whole.d.spans.reserve(spans);
        whole.d.samples.reserve(spans);
        for (std::size_t k = 1; k < parts; ++k) whole.add(std::move(accounts[load * parts + k]));
        whole.close(motion.duration, payloads, least_friction);
        Demand d = std::move(whole.d);
        d.load = loads[load];
        emergency_stop(d, axis, motion, stops);
        then(load, std::move(d));
    };
    if (accounts.size() == 1)
        run(0);
    else
        tbb::parallel_for(std::size_t{0}, accounts.size(), run);
}

Demand demand(const LoadModel& load, const Trajectory& motion, const Axis& axis) {
    Demand out;
    demands({load}, motion, axis, [&](std::size_t, Demand d) { out = std::move(d); });
    return out;
}

std::vector<double> heat_by_segment(const Demand& d, std::size_t segments) {
    std::vector<double> out(segments, 0.0);
    const SpanNodes& nodes = span_nodes();
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        if (s.regime == Regime::braked) continue;
        for (std::size_t i = 0; i < nodes.at.size(); ++i)
            out[s.piece.segment] += nodes.weight[i] * s.lasting() * std::pow(d.samples[k].torque[i], 2);
    }
    return out;
}

} // namespace fulmox

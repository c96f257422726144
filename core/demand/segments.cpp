#include "core/demand/segments.h"

#include "core/demand/span_polynomial.h"

#include <cmath>

namespace fulmox {

namespace {

void take_hold(SegmentDemand& of, const Demand& d, const Span& s, const SpanSamples& at) {
    const bool brake = s.regime == Regime::braked;
    const double q = s.piece.position(0);
    const double torque = brake ? holding_torque(d.load, q, s.payload, s.process, false) : at.torque[0];
    if (!of.hold || std::abs(torque) > std::abs(of.hold->torque)) of.hold = Hold{s.start, torque, s.payload, brake};
}

// between the nodes too, by the polynomial, and there by the shaft itself
void take_peak(SegmentDemand& of, const Demand& d, const Span& s, const SpanSamples& at) {
    for (const double sign : {1.0, -1.0}) {
        const NodeRange range = sign > 0 ? range_of(at.torque) : range_of(at.torque).turned();
        const double floor = of.peak ? std::abs(of.peak->torque) : 0;
        if (range.stays_below(floor) && of.peak) continue;
        const SpanExtreme most = largest(at.torque, sign, range, floor);
        if (of.peak && most.value <= floor) continue;
        const double time = s.start + most.u * s.duration;
        const ShaftState state = evaluate(d.load, s, time);
        if (!of.peak || std::abs(state.torque) > floor)
            of.peak = ShaftPoint{time, state.speed, state.torque, s.piece.segment, state};
    }
}

} // namespace

std::vector<SegmentDemand> by_segment(const Demand& d, std::size_t segments) {
    std::vector<SegmentDemand> out(segments);
    const std::vector<double> heat = heat_by_segment(d, segments);
    double whole = 0;
    for (const double each : heat) whole += each;
    for (std::size_t k = 0; k < d.spans.size(); ++k) {
        const Span& s = d.spans[k];
        SegmentDemand& of = out.at(s.piece.segment);
        of.duration += s.lasting();
        if (s.direction == 0) take_hold(of, d, s, d.samples[k]);
        if (s.regime == Regime::braked) continue;
        take_peak(of, d, s, d.samples[k]);
        for (const double speed : d.samples[k].speed) of.peak_speed = std::max(of.peak_speed, std::abs(speed));
    }
    for (std::size_t i = 0; i < segments; ++i) {
        if (out[i].duration > 0) out[i].rms_torque = std::sqrt(heat[i] / out[i].duration);
        if (whole > 0) out[i].heat_share = heat[i] / whole;
    }
    return out;
}

} // namespace fulmox

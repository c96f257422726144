#include "core/motion/trajectory.h"

#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

Trapezoid trapezoid_in_time(double distance, double time, double a, double b) {
    const double v = distance / (time * (1 - (a + b) / 2));
    return {v, a * time, std::max(0.0, (1 - a - b) * time), b * time};
}

Trapezoid trapezoid_by_limits(double distance, double speed, double a, double b) {
    const double ramps = speed * speed / 2 * (1 / a + 1 / b);
    if (distance >= ramps) return {speed, speed / a, (distance - ramps) / speed, speed / b};
    const double v = std::sqrt(2 * distance / (1 / a + 1 / b));
    return {v, v / a, 0, v / b};
}

namespace {

struct Planner {
    Trajectory out;
    double now = 0;
    double position = 0;
    std::size_t segment = 0;

    void piece(double duration, double velocity, double acceleration) {
        if (duration <= 0) return;
        Piece p{now, duration, {position, velocity, acceleration / 2, 0}, segment};
        now += duration;
        position = p.position(duration);
        out.pieces.push_back(p);
    }
    void rest(double duration) { piece(duration, 0, 0); }
    void move(double distance, const Trapezoid& t) {
        const double sign = distance < 0 ? -1 : 1;
        const double from = position;
        if (t.accelerating > 0) piece(t.accelerating, 0, sign * t.peak_speed / t.accelerating);
        piece(t.cruising, sign * t.peak_speed, 0);
        if (t.decelerating > 0) piece(t.decelerating, sign * t.peak_speed, -sign * t.peak_speed / t.decelerating);
        position = from + distance; // no drift from rounding over many segments
        out.moving_time += t.duration();
        out.peak_speed = std::max(out.peak_speed, t.peak_speed);
        if (t.accelerating > 0) out.peak_acceleration = std::max(out.peak_acceleration, t.peak_speed / t.accelerating);
        if (t.decelerating > 0) out.peak_acceleration = std::max(out.peak_acceleration, t.peak_speed / t.decelerating);
        out.path += std::abs(distance);
    }
    void operator()(const MoveInTime& m) {
        const double d = m.distance.si;
        if (d == 0)
            rest(m.duration.si);
        else
            move(d, trapezoid_in_time(std::abs(d), m.duration.si, m.acceleration_share.si, m.deceleration_share.si));
    }
    void operator()(const MoveByLimits& m) {
        const double d = m.distance.si;
        const double a = m.acceleration.si;
        if (d != 0) move(d, trapezoid_by_limits(std::abs(d), m.speed.si, a, m.deceleration.value_or(a)));
    }
    void operator()(const Dwell& m) { rest(m.duration.si); }
};

} // namespace

Trajectory plan(const Cycle& cycle) {
    Planner planner;
    for (const Segment& s : cycle.segments) {
        planner.out.segment_start.push_back(planner.now);
        std::visit(planner, s.what);
        planner.out.lowest = std::min(planner.out.lowest, planner.position);
        planner.out.highest = std::max(planner.out.highest, planner.position);
        ++planner.segment;
    }
    planner.out.segment_start.push_back(planner.now);
    planner.out.duration = planner.now;
    planner.out.advance = planner.position;
    return std::move(planner.out);
}

const Piece& Trajectory::at(double t) const {
    const auto it =
        std::upper_bound(pieces.begin(), pieces.end(), t, [](double value, const Piece& p) { return value < p.start; });
    return it == pieces.begin() ? pieces.front() : *std::prev(it);
}

Problems review(const Trajectory& t, const std::string& cycle_path) {
    Problems out;
    if (std::abs(t.advance) > 1e-9 * std::max(t.path, 1e-6))
        out.push_back({Severity::suspicious, cycle_path + "/segments", "Cycle",
            "it ends " + format_number(t.advance * 1e3) + " mm from where it began; a linear axis must return"});
    return out;
}

} // namespace fulmox

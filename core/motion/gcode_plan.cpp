#include "core/motion/gcode.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

using Vector = std::array<double, gcode_axes>;

// Change of each axis per unit of path.
Vector tangent(const GcodeMove& m, double share) {
    Vector t{};
    if (m.length <= 0) return t;
    for (std::size_t i = 0; i < gcode_axes; ++i) t[i] = (m.to[i] - m.from[i]) / m.length;
    if (m.arc) {
        const double angle = m.start_angle + share * m.sweep;
        t[static_cast<std::size_t>(m.first)] = -m.radius * std::sin(angle) * m.sweep / m.length;
        t[static_cast<std::size_t>(m.second)] = m.radius * std::cos(angle) * m.sweep / m.length;
    }
    return t;
}

struct Pace {
    double speed = 0;        // along the path
    double acceleration = 0; // along the path
};

Pace limit_of(const GcodeMove& m, const std::array<AxisLimits, gcode_axes>& axes) {
    Pace l{1e9, 1e9};
    const auto bind = [&](std::size_t axis, double share, double part) {
        if (share <= 1e-12) return;
        l.speed = std::min(l.speed, axes[axis].speed / share);
        l.acceleration = std::min(l.acceleration, part * axes[axis].acceleration / share);
    };
    const Vector t = tangent(m, 0);
    for (std::size_t i = 0; i < gcode_axes; ++i) {
        const bool in_plane = m.arc && (static_cast<int>(i) == m.first || static_cast<int>(i) == m.second);
        if (!in_plane) bind(i, std::abs(t[i]), 1);
    }
    if (m.arc) {
        // half of the acceleration squared for the bend, half for the change of speed
        const double part = 1 / std::numbers::sqrt2;
        const double share = std::abs(m.radius * m.sweep / m.length);
        for (const int i : {m.first, m.second}) {
            const auto axis = static_cast<std::size_t>(i);
            bind(axis, share, part);
            l.speed = std::min(l.speed, std::sqrt(part * axes[axis].acceleration * m.radius) / share);
        }
    }
    if (m.feed > 0) l.speed = std::min(l.speed, m.feed);
    return l;
}

// Speed through the corner between two moves.
double corner_speed(const GcodeMove& a, const GcodeMove& b, double acceleration, double deviation) {
    if (a.dwell > 0 || b.dwell > 0) return 0;
    const Vector ta = tangent(a, 1), tb = tangent(b, 0);
    double dot = 0, na = 0, nb = 0;
    for (std::size_t i = 0; i < gcode_axes; ++i) {
        dot += ta[i] * tb[i];
        na += ta[i] * ta[i];
        nb += tb[i] * tb[i];
    }
    const double cosine = -dot / std::sqrt(na * nb); // of the angle between the paths; −1 goes straight on
    if (cosine < -1 + 1e-9) return 1e9;
    if (cosine > 1 - 1e-9) return 0;
    const double half = std::sqrt((1 - cosine) / 2);
    return std::sqrt(acceleration * deviation * half / (1 - half));
}

class PathWriter {
  public:
    PathWriter(const std::array<bool, gcode_axes>& uses) : uses_(uses) {}

    std::array<std::vector<double>, gcode_axes> rows;
    double now = 0;

    // One stretch of constant acceleration along the path, from arc length s at speed v for a time.
    void stretch(const GcodeMove& m, double s, double v, double a, double duration) {
        if (duration < 1e-12) return; // rounding of the arithmetic, not a stretch of motion
        const double covered = v * duration + a * duration * duration / 2;
        // bends are written every few degrees so that the quintic between knots follows the circle
        constexpr double most = 6 * std::numbers::pi / 180;
        const int parts =
            m.arc ? 1 + static_cast<int>(std::min(std::abs(m.sweep * covered / m.length) / most, 1e6)) : 1;
        knot(m, s, v, a, now);
        for (int i = 1; i <= parts; ++i) {
            const double t =
                i == parts ? duration : duration * i / parts; // so that the next stretch begins at this time
            knot(m, s + v * t + a * t * t / 2, v + a * t, a, now + t);
        }
        now += duration;
    }
    void rest(const GcodeMove& m, double duration) {
        for (const double t : {now, now + duration})
            for (std::size_t i = 0; i < gcode_axes; ++i) put(i, t, m.to[i], 0, 0);
        now += duration;
    }

  private:
    const std::array<bool, gcode_axes>& uses_;

    void put(std::size_t axis, double t, double x, double v, double a) {
        if (!uses_[axis]) return;
        std::vector<double>& r = rows[axis];
        const std::size_t n = r.size();
        // the same state again: nothing new
        if (n >= 4 && r[n - 4] == t && r[n - 3] == x && r[n - 2] == v && r[n - 1] == a) return;
        r.insert(r.end(), {t, x, v, a});
    }
    void knot(const GcodeMove& m, double s, double v, double a, double t) {
        const double share = m.length > 0 ? s / m.length : 0;
        for (std::size_t i = 0; i < gcode_axes; ++i) {
            const double slope = m.length > 0 ? (m.to[i] - m.from[i]) / m.length : 0;
            double x = m.from[i] + slope * s, dx = slope * v, ddx = slope * a;
            if (m.arc && (static_cast<int>(i) == m.first || static_cast<int>(i) == m.second)) {
                const double angle = m.start_angle + share * m.sweep;
                const double rate = m.sweep / m.length * v, change = m.sweep / m.length * a;
                const double c = m.radius * std::cos(angle), k = m.radius * std::sin(angle);
                if (static_cast<int>(i) == m.first) {
                    x = m.centre_first + c;
                    dx = -k * rate;
                    ddx = -c * rate * rate - k * change;
                } else {
                    x = m.centre_second + k;
                    dx = c * rate;
                    ddx = -k * rate * rate + c * change;
                }
            }
            put(i, t, x, dx, ddx);
        }
    }
};

} // namespace

Result<GcodePlan, Problem> plan_gcode(const GcodeProgram& program, const GcodeOptions& options) {
    using Out = Result<GcodePlan, Problem>;
    const std::vector<GcodeMove>& moves = program.moves;
    const std::size_t n = moves.size();
    for (std::size_t i = 0; i < gcode_axes; ++i)
        if (program.uses[i] && !(options.limits[i].speed > 0 && options.limits[i].acceleration > 0))
            return Out::failure({Severity::error, "", std::string("Axis ") + gcode_letters[i],
                "speed and acceleration must be greater than 0"});
    std::vector<Pace> limit(n);
    std::vector<double> entry(n + 1, 0.0); // speed at the start of each move; the last is the end
    for (std::size_t k = 0; k < n; ++k)
        if (moves[k].dwell <= 0) limit[k] = limit_of(moves[k], options.limits);
    for (std::size_t k = 1; k < n; ++k) {
        const double a = std::min(limit[k - 1].acceleration, limit[k].acceleration);
        entry[k] = std::min(
            {limit[k - 1].speed, limit[k].speed, corner_speed(moves[k - 1], moves[k], a, options.junction_deviation)});
    }
    const auto reachable = [&](double v, std::size_t k) {
        return std::sqrt(v * v + 2 * limit[k].acceleration * moves[k].length);
    };
    for (std::size_t k = n; k-- > 0;) entry[k] = std::min(entry[k], reachable(entry[k + 1], k));
    for (std::size_t k = 0; k < n; ++k) entry[k + 1] = std::min(entry[k + 1], reachable(entry[k], k));
    PathWriter writer(program.uses);
    GcodePlan out;
    for (std::size_t k = 0; k < n; ++k) {
        if (options.progress && k % 1024 == 0 &&
            !options.progress(0.5 + 0.5 * static_cast<double>(k) / static_cast<double>(n)))
            return Out::failure({Severity::error, "", "G-code", "cancelled", moves[k].line});
        const GcodeMove& m = moves[k];
        if (m.dwell > 0) {
            writer.rest(m, m.dwell);
            continue;
        }
        const double a = limit[k].acceleration, v0 = entry[k], v1 = entry[k + 1];
        const double peak = std::min(limit[k].speed, std::sqrt(a * m.length + (v0 * v0 + v1 * v1) / 2));
        const double up = std::max(0.0, (peak - v0) / a), down = std::max(0.0, (peak - v1) / a);
        const double s_up = (v0 + peak) / 2 * up, s_down = (peak + v1) / 2 * down;
        const double cruise = std::max(0.0, (m.length - s_up - s_down) / peak);
        writer.stretch(m, 0, v0, a, up);
        writer.stretch(m, s_up, peak, 0, cruise);
        writer.stretch(m, m.length - s_down, peak, -a, down);
        out.length += m.length;
    }
    out.duration = writer.now;
    out.moves = n;
    out.skipped = program.skipped;
    for (std::size_t i = 0; i < gcode_axes; ++i)
        if (program.uses[i])
            out.knots[i] = Samples{std::make_shared<const std::vector<double>>(std::move(writer.rows[i])), 4};
    return out;
}

} // namespace fulmox

#include "core/motor/curves.h"

#include "core/motor/constants.h"
#include "core/motor/model.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr double flagged = 0.1;
using motor_constants::zero_celsius;

struct Off {
    double speed = 0, entered = 0, implied = 0, factor = 1; // entered over the nearer of cold and hot
};

// How far a torque lies outside the model between cold and hot.
Off against(double speed, double entered, double cold, double hot) {
    const double low = std::min(cold, hot), high = std::max(cold, hot);
    const double implied = entered < low ? low : entered > high ? high : entered;
    return {speed, entered, implied, entered / implied};
}

bool farther(const Off& now, const Off& worst) {
    return worst.implied == 0 || std::abs(std::log(now.factor)) > std::abs(std::log(worst.factor));
}

std::string speed_words(double speed) { return format_number(speed * 30 / std::numbers::pi, 4) + " rpm"; }

SheetPair pair_of(
    const char* key, std::string label, std::vector<std::string> fields, const Off& worst, const char* cause) {
    SheetPair p;
    p.key = key;
    p.label = std::move(label) + ", " + speed_words(worst.speed);
    p.fields = std::move(fields);
    p.kind = Kind::torque;
    p.entered = worst.entered;
    p.implied = worst.implied;
    p.factor = worst.factor;
    p.tolerance = flagged;
    const double off = std::abs(p.factor - 1);
    p.verdict = off <= 0.04 ? Verdict::agrees : off <= flagged ? Verdict::within_tolerance : Verdict::contradicts;
    if (p.verdict == Verdict::contradicts) p.note = cause;
    return p;
}

bool usable(const std::vector<CurvePoint>& points) {
    return points.size() >= 2 && std::all_of(points.begin(), points.end(), [](const CurvePoint& p) {
        return p.speed.given() && p.torque.given() && p.speed.si >= 0 && p.torque.si >= 0;
    });
}

// A pull-out curve lies below the model, which knows no iron loss, the more the faster; above it, or at half of it,
// voltage or current are not those stated.
constexpr double pull_out_above = 0.15, pull_out_below = 0.5;

void check_pull_out(std::vector<SheetPair>& out, const Motor& motor, const MotorNumbers& n) {
    if (!usable(motor.peak) || !motor.curve_voltage.given() || !(n.stepper->curve_amplitude > 0)) return;
    Drive drive;
    drive.bus_voltage = motor.curve_voltage;
    drive.phase_current.si = n.stepper->curve_amplitude / std::numbers::sqrt2;
    const ElectricModel model(n, motor_conditions(motor, drive, Site()));
    if (!model.known() || !model.approximate().empty()) return;
    Off worst;
    for (const CurvePoint& p : motor.peak) {
        const double cold = model.peak(p.speed.si, Quadrant::motoring, false).torque;
        const double hot = model.peak(p.speed.si, Quadrant::motoring, true).torque;
        if (!(std::min(cold, hot) > 0) || !(p.torque.si > 0)) continue;
        const Off now = against(p.speed.si, p.torque.si, cold, hot);
        // what lies above weighs more: below, iron loss explains much
        const auto weight = [](const Off& o) {
            const double off = std::log(o.factor);
            return off > 0 ? off / std::log(1 + pull_out_above) : off / std::log(pull_out_below);
        };
        if (worst.implied == 0 || weight(now) > weight(worst)) worst = now;
    }
    if (worst.implied == 0) return;
    SheetPair p = pair_of("peak/model", "Pull-out curve against the model", {"peak", "curve_voltage"}, worst, "");
    p.tolerance = pull_out_above;
    p.verdict = p.factor > 1 + pull_out_above || p.factor < pull_out_below ? Verdict::contradicts
                : p.factor <= 1.05 && p.factor >= 0.75                     ? Verdict::agrees
                                                                           : Verdict::within_tolerance;
    p.note =
        p.verdict == Verdict::agrees             ? ""
        : p.verdict == Verdict::within_tolerance ? "the model knows no iron loss, and a chopper is no source of sines"
        : p.factor > 1 ? "more than its constants give: the voltage or the current of the curve may be higher than "
                         "stated, or peak amperes be taken for RMS"
                       : "less than half of what its constants give: the voltage or the current of the curve may be "
                         "lower than stated, or the inductance be that of another connection";
    out.push_back(std::move(p));
}

} // namespace

std::vector<SheetPair> check_curves(const Motor& motor) {
    std::vector<SheetPair> out;
    MotorNumbers n = motor_numbers(motor);
    n.take_first_constant();
    if (motor.stepper()) {
        if (n.stepper) check_pull_out(out, motor, n);
        return out;
    }
    // what is made of a rating would be compared with itself
    if (motor.linear() || !(n.k > 0) || n.k_from_rating || !motor.curve_voltage.given()) return out;
    MotorConditions c;
    c.bus = motor.curve_voltage.si;
    c.phase_share = 1 / std::numbers::sqrt3;
    c.hot = motor.winding_limit.value_or(zero_celsius + 20) - zero_celsius;
    const ElectricModel model(n, c);
    if (usable(motor.peak) && (n.peak_current > 0 || n.peak_torque > 0)) {
        Off worst;
        const double corner = std::min(model.corner_speed(false), model.corner_speed(true));
        for (const CurvePoint& p : motor.peak) {
            const double cold = model.peak(p.speed.si, Quadrant::motoring, false).torque;
            const double hot = model.peak(p.speed.si, Quadrant::motoring, true).torque;
            // beyond the no-load speed the end of the curve is a pair of its own
            if (!(cold > 0) || !(p.torque.si > 0)) continue;
            const Off now = against(p.speed.si, p.torque.si, cold, hot);
            if (farther(now, worst)) worst = now;
        }
        const char* cause =
            worst.speed <= corner ? "below the knee the current alone decides: peak current or torque constant are of "
                                    "another convention, or saturate more than the peak point tells"
            : worst.factor > 1
                ? "beyond the knee the voltage decides: the curve may be drawn with field weakening or "
                  "at a higher bus than stated, or the inductance be that of another winding"
                : "beyond the knee the voltage decides: the curve may keep a reserve of voltage, be drawn "
                  "at low mains, or stop at what a drive gives";
        if (worst.implied > 0)
            out.push_back(
                pair_of("peak/constants", "Peak curve against constants", {"peak", "peak_current"}, worst, cause));
    }
    if (usable(motor.continuous) && model.rated()) {
        Off worst;
        for (const CurvePoint& p : motor.continuous) {
            if (!(p.torque.si > 0) || (n.rated_speed > 0 && p.speed.si > n.rated_speed * (1 + 1e-9))) continue;
            // without a rated speed only the standstill torque is told
            if (!(n.rated_speed > 0) && p.speed.si > 0) continue;
            const TorqueBound b = model.continuous(p.speed.si);
            if (b.bound == BoundBy::voltage || !(b.torque > 0)) continue;
            // the rating is hot: there is no cold side to it
            const Off now = against(p.speed.si, p.torque.si, b.torque, b.torque);
            if (farther(now, worst)) worst = now;
        }
        if (worst.implied > 0)
            out.push_back(
                pair_of("continuous/ratings", "Continuous curve against ratings", {"continuous", "rated_torque"}, worst,
                    "curve and ratings may be of different ambients, winding rises or mountings"));
    }
    return out;
}

namespace {

struct Ratings {
    double stall = no_number, rated = no_number, speed = no_number, peak = no_number;
};

Ratings ratings_of(const Motor& motor) {
    return std::visit(
        [](const auto& m) {
            Ratings r;
            if constexpr (requires { m.rated_speed; }) {
                const auto si = [](const QuantityBase& q) { return q.given() ? q.si : no_number; };
                r.rated = si(m.rated_torque);
                r.speed = si(m.rated_speed);
                r.peak = si(m.peak_torque);
                // the stall torque of a DC sheet is no rating
                if constexpr (requires { m.no_load_speed; })
                    r.stall = r.rated;
                else
                    r.stall = si(m.stall_torque);
            }
            return r;
        },
        motor.electric);
}

CurvePoint point(double speed, double torque) {
    CurvePoint p;
    p.speed = Quantity<Kind::angular_speed>(format_number(speed * 30 / std::numbers::pi, 5) + " rpm");
    p.torque = Quantity<Kind::torque>(format_number(torque, 4) + " N·m");
    return p;
}

} // namespace

Result<RatedCurves, std::string> curves_from_ratings(const Motor& motor) {
    using Out = Result<RatedCurves, std::string>;
    const Ratings r = ratings_of(motor);
    const double top = motor.max_speed.given() ? motor.max_speed.si : no_number;
    std::string missing;
    for (const auto& [value, label] : {std::pair(r.stall, "standstill torque"), {r.rated, "rated torque"},
             {r.speed, "rated speed"}, {r.peak, "peak torque"}, {top, "maximum speed"}})
        if (!(value > 0)) missing += (missing.empty() ? "" : ", ") + std::string(label);
    if (motor.linear()) return Out::failure("a linear motor has no curve of points");
    if (!missing.empty()) return Out::failure("waits for: " + missing);
    if (r.rated > r.stall * (1 + 1e-9))
        return Out::failure("the rated torque is above the standstill torque; allowed is at most that");
    if (r.peak < r.stall)
        return Out::failure("the peak torque is below the standstill torque; allowed is at least that");
    if (r.speed > top * (1 + 1e-9))
        return Out::failure("the rated speed is above the maximum speed; allowed is at most that");
    RatedCurves out;
    const double fall = (r.stall * r.stall - r.rated * r.rated) / (r.speed * r.speed);
    const auto continuous = [&](double w) { return std::sqrt(std::max(0.0, r.stall * r.stall - fall * w * w)); };
    constexpr int steps = 6;
    for (int i = 0; i <= steps; ++i) {
        const double w = top * i / steps;
        out.continuous.push_back(point(w, continuous(w)));
    }
    out.peak = {point(0, r.peak), point(r.speed, r.peak)};
    if (top > r.speed * (1 + 1e-9)) out.peak.push_back(point(top, std::max(continuous(top), 0.0)));
    return out;
}

} // namespace fulmox

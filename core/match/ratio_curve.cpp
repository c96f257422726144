#include "core/match/ratio_curve.h"

#include "core/match/assess.h"
#include "core/match/stepping.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <oneapi/tbb/parallel_for.h>

namespace fulmox {

namespace {

Quantity<Kind::number> number(double v) { return Quantity<Kind::number>(format_number(v, 15)); }

RatioPoint point_of(const Machine& machine, const Axis& like, const std::string& path, std::size_t stage, double ratio,
    const std::function<bool()>& go_on) {
    Axis axis = like;
    // one that is only thought of has no sheet that could be asked
    if (stage >= axis.stages.size()) axis.stages.emplace_back().kind = StageKind::gears;
    Stage& s = axis.stages[std::min(stage, axis.stages.size() - 1)];
    s.ratio = number(ratio);
    s.ratio.si = ratio; // as it is, not as it is written
    const Assessment a =
        assess(machine, axis, path, {.workings = false, .figures = true, .cautions = false, .go_on = go_on});
    const double none = std::nan("");
    const auto use = [&](const char* key) {
        const Limit* l = a.limit(key);
        return l ? l->utilisation() : none;
    };
    const auto figure = [&](const char* key) {
        const Figure* f = a.figure(key);
        return f && !f->waits ? f->si : none;
    };
    RatioPoint p;
    p.ratio = ratio;
    p.motor_speed = a.demand ? a.demand->peak_speed : none;
    p.peak_torque = std::abs(figure("demand.peak_torque"));
    if (const Figure* f = a.figure("demand.peak_torque"); f && f->waits) p.waits = f->note;
    p.rms_torque = figure("demand.rms_torque");
    p.inertia_ratio = a.inertia && a.inertia->rotor > 0 ? a.inertia->ratio() : none;
    p.speed = use("speed");
    p.peak = use("peak_torque");
    p.heat = open_loop(axis) ? use("phase_current") : use("continuous_loss");
    p.power = figure("energy.mean_power");
    p.precision =
        a.precision ? (axis.accuracy.judged_by == ErrorSum::worst ? a.precision->worst : a.precision->squares) : none;
    p.tightest = none;
    if (a.limits.empty()) return p;
    const Limit& worst = a.limits[*deciding(a.limits)];
    p.state = worst.state;
    p.tightest = worst.utilisation();
    p.limit = worst.label;
    return p;
}

} // namespace

double RatioPoint::motor_share() const {
    double most = std::nan("");
    for (const double x : {speed, peak, heat}) {
        if (std::isnan(x)) return x; // what is not known may be the worst
        most = std::isnan(most) ? x : std::max(most, x);
    }
    return most;
}

RatioPoint at_ratio(const Machine& machine, std::size_t axis, std::size_t stage, double ratio) {
    return point_of(machine, machine.axes.at(axis), "/axes/" + std::to_string(axis), stage, ratio, {});
}

RatioCurve ratio_curve(const Machine& machine, std::size_t index, std::size_t stage, double low, double high,
    std::size_t count, const std::function<bool()>& go_on) {
    RatioCurve out;
    const Axis& axis = machine.axes.at(index);
    out.present =
        stage < axis.stages.size() && axis.stages[stage].ratio.given() ? axis.stages[stage].ratio.si : std::nan("");
    out.speed_limit = std::nan("");
    if (!(low > 0) || !(high > low) || count < 2) return out;
    out.points.resize(count);
    const std::string path = "/axes/" + std::to_string(index);
    std::atomic<bool> left = false;
    tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) {
        if (left || (go_on && !go_on())) {
            left = true;
            return;
        }
        const double share = static_cast<double>(i) / static_cast<double>(count - 1);
        try {
            out.points[i] = point_of(machine, axis, path, stage, low * std::pow(high / low, share), go_on);
        } catch (const Interrupted&) {
            left = true;
        }
    });
    if (left) {
        out.points.clear();
        return out;
    }
    const auto least =
        std::min_element(out.points.begin(), out.points.end(), [](const RatioPoint& a, const RatioPoint& b) {
            const double x = a.motor_share(), y = b.motor_share();
            return std::isnan(y) ? !std::isnan(x) : x < y;
        });
    const auto share_at = [&](double ratio) { return point_of(machine, axis, path, stage, ratio, {}); };
    if (std::isfinite(least->motor_share())) {
        // between the neighbours, by the golden section
        const auto i = static_cast<std::size_t>(least - out.points.begin());
        double a = std::log(out.points[i > 0 ? i - 1 : i].ratio),
               b = std::log(out.points[std::min(i + 1, count - 1)].ratio);
        constexpr double g = 0.6180339887498949;
        RatioPoint best = *least;
        for (int k = 0; k < 18 && !(go_on && !go_on()); ++k) {
            const RatioPoint one = share_at(std::exp(b - g * (b - a))), two = share_at(std::exp(a + g * (b - a)));
            const RatioPoint& better = two.motor_share() < one.motor_share() ? two : one;
            if (better.motor_share() < best.motor_share()) best = better;
            (two.motor_share() < one.motor_share() ? a : b) =
                std::log(two.motor_share() < one.motor_share() ? one.ratio : two.ratio);
        }
        out.best = best;
    }
    for (std::size_t i = 1; i < count; ++i) {
        const RatioPoint &p = out.points[i - 1], &q = out.points[i];
        if (!(p.speed <= 1) || !(q.speed > 1)) continue;
        // the speed of the motor is its ratio times that of what it turns
        out.speed_limit = p.ratio / p.speed;
        if (!(out.speed_limit <= q.ratio)) out.speed_limit = q.ratio;
        break;
    }
    return out;
}

} // namespace fulmox

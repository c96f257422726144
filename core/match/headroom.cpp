#include "core/match/headroom.h"

#include "core/quantity/format.h"

#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <functional>

namespace fulmox {

namespace {

struct Lever {
    const char* key;
    const char* label;
    Kind kind;
    std::function<double(const Axis&)> value; // SI, 0: the lever does not exist here
    std::function<void(Axis&, double)> scale; // by a factor
};

template <class M, class F> void each_move(Axis& a, F&& f) {
    for (Segment& s : a.cycle.segments)
        if (auto* m = std::get_if<M>(&s.what)) f(*m);
}

template <class M, class F> double largest(const Axis& a, F&& f) {
    double most = 0;
    for (const Segment& s : a.cycle.segments)
        if (const auto* m = std::get_if<M>(&s.what)) most = std::max(most, std::abs(f(*m)));
    return most;
}

bool has(const Axis& a, unsigned bit) { return (motion_of(a.mechanism).has & bit) != 0; }

std::vector<Lever> levers(const Motion& motion) {
    const auto kind = [&](Order o) { return motion_kind(o, motion.rotary); };
    return {
        {"payload", "payload", Kind::mass,
            [](const Axis& a) {
                if (!has(a, Motion::payload)) return 0.0;
                double most = a.load.payload.si;
                for (const Segment& s : a.cycle.segments) most = std::max(most, s.payload.value_or(0));
                return most;
            },
            [](Axis& a, double k) {
                a.load.payload.si *= k;
                for (Segment& s : a.cycle.segments) s.payload.si *= k;
            }},
        {"carriage", "carriage", Kind::mass,
            [](const Axis& a) { return has(a, Motion::carriage) ? a.load.carriage_mass.si : 0.0; },
            [](Axis& a, double k) { a.load.carriage_mass.si *= k; }},
        {"move_time", "move time", Kind::time,
            [](const Axis& a) { return largest<MoveInTime>(a, [](const MoveInTime& m) { return m.duration.si; }); },
            [](Axis& a, double k) { each_move<MoveInTime>(a, [k](MoveInTime& m) { m.duration.si *= k; }); }},
        {"acceleration", "acceleration limit", kind(Order::acceleration),
            [](const Axis& a) {
                return largest<MoveByLimits>(a, [](const MoveByLimits& m) { return m.acceleration.si; });
            },
            [](Axis& a, double k) {
                each_move<MoveByLimits>(a, [k](MoveByLimits& m) {
                    m.acceleration.si *= k;
                    m.deceleration.si *= k;
                });
            }},
        {"speed", "speed limit", kind(Order::speed),
            [](const Axis& a) { return largest<MoveByLimits>(a, [](const MoveByLimits& m) { return m.speed.si; }); },
            [](Axis& a, double k) { each_move<MoveByLimits>(a, [k](MoveByLimits& m) { m.speed.si *= k; }); }},
        {"stroke", motion.rotary ? "angle" : "stroke", kind(Order::position),
            [](const Axis& a) {
                return std::max(largest<MoveInTime>(a, [](const MoveInTime& m) { return m.distance.si; }),
                    largest<MoveByLimits>(a, [](const MoveByLimits& m) { return m.distance.si; }));
            },
            [](Axis& a, double k) {
                each_move<MoveInTime>(a, [k](MoveInTime& m) { m.distance.si *= k; });
                each_move<MoveByLimits>(a, [k](MoveByLimits& m) { m.distance.si *= k; });
            }},
        {"lead", "lead", Kind::length,
            [](const Axis& a) {
                const auto* s = std::get_if<Screw>(&a.mechanism);
                return s ? s->lead.si : 0.0;
            },
            [](Axis& a, double k) { std::get<Screw>(a.mechanism).lead.si *= k; }},
        {"ratio", "ratio of the first stage", Kind::number,
            [](const Axis& a) { return a.stages.empty() ? 0.0 : a.stages.front().ratio.si; },
            [](Axis& a, double k) { a.stages.front().ratio.si *= k; }},
        {"friction", "guide friction", Kind::number,
            [](const Axis& a) { return has(a, Motion::guides) ? a.load.guide_friction.si : 0.0; },
            [](Axis& a, double k) { a.load.guide_friction.si *= k; }},
        {"stop_time", "stop time", Kind::time, [](const Axis& a) { return a.drive.stop_time.value_or(0); },
            [](Axis& a, double k) { a.drive.stop_time.si *= k; }},
    };
}

std::string text_of(const Lever& l, double value, double factor, UnitSystem system) {
    const double change = value * (factor - 1);
    const std::string amount = format_quantity(std::abs(change), l.kind, system, 2);
    return (change > 0 ? "+" : "−") + amount + " " + l.label;
}

} // namespace

std::vector<Headroom> headroom(
    const Machine& machine, std::size_t index, const std::string& key, const std::function<bool()>& go_on) {
    std::vector<Headroom> out;
    const Axis& axis = machine.axes.at(index);
    const std::string path = "/axes/" + std::to_string(index);
    const auto margin = [&](const Axis& a) {
        if (go_on && !go_on()) return std::nan("");
        const Assessment now = assess(machine, a, path, {.workings = false, .figures = false, .cautions = false});
        const Limit* l = now.limit(key);
        if (!l || l->state == LimitState::cannot_say || !(l->allowed > 0)) return std::nan("");
        // a motor that runs away has no temperature; the border of it is looked for all the same
        return std::min(l->used / l->allowed / l->share - 1, 1e6);
    };
    const double here = margin(axis);
    if (std::isnan(here)) return out;
    for (const Lever& lever : levers(motion_of(axis.mechanism))) {
        const double value = lever.value(axis);
        if (!(value > 0)) continue;
        const auto at = [&](double logarithm) {
            Axis a = axis;
            lever.scale(a, std::exp(logarithm));
            return margin(a);
        };
        // walk outwards until the margin changes sign, the nearer side first
        constexpr double step = 0.25;
        constexpr double most = 3.0; // a factor of 20
        for (double reach = step; reach <= most; reach += step) {
            double found = 0;
            for (const double side : {1.0, -1.0}) {
                const double from = side * (reach - step);
                const double to = side * reach;
                const double f0 = reach == step ? here : at(from);
                const double f1 = at(to);
                if (std::isnan(f0) || std::isnan(f1) || f0 * f1 >= 0) continue;
                std::uintmax_t tries = 40;
                const auto [a, b] = boost::math::tools::toms748_solve(at, std::min(from, to), std::max(from, to),
                    from < to ? f0 : f1, from < to ? f1 : f0, boost::math::tools::eps_tolerance<double>(24), tries);
                found = (a + b) / 2;
                break;
            }
            if (found == 0) continue;
            const double factor = std::exp(found);
            out.push_back({lever.key, lever.label, text_of(lever, value, factor, machine.unit_system), factor});
            break;
        }
    }
    return out;
}

} // namespace fulmox

#include "core/drivetrain/brake_stop.h"

#include "core/drivetrain/cycle_places.h"
#include "core/drivetrain/load_side.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <string_view>
#include <tuple>

namespace fulmox {

namespace {

// A stop with constant inertia and constant torque of the load: constant acceleration between the instants at which
// a brake engages and the axis stands.
PowerLoss stop_from(double speed, double load_torque, double inertia, const std::vector<ActingBrake>& brakes) {
    PowerLoss out;
    out.energies.assign(brakes.size(), 0.0);
    std::vector<double> engages;
    for (const ActingBrake& b : brakes) engages.push_back(b.delay);
    std::sort(engages.begin(), engages.end());
    double t = 0, w = speed;
    bool bitten = false;
    for (;;) {
        double braking = 0, next = infinite;
        for (const ActingBrake& b : brakes) {
            if (b.delay <= t)
                braking += b.slips;
            else
                next = std::min(next, b.delay);
        }
        if (!bitten && engages.front() <= t) {
            bitten = true;
            out.engages_at = std::abs(w);
        }
        double way = sign(w);
        if (way == 0) {
            // it stays where the brakes hold it, else it goes where the load pulls
            if (std::abs(load_torque) <= braking) {
                if (next == infinite || load_torque == 0 || braking > 0) break;
            }
            way = -sign(load_torque);
            if (way == 0) {
                t = next;
                if (next == infinite) break;
                continue;
            }
            if (std::abs(load_torque) == braking) {
                out.stops = false;
                break;
            }
        }
        const double a = (-load_torque - way * braking) / inertia;
        const double to_rest = w != 0 && a * way < 0 ? -w / a : infinite;
        const double lasts = std::min(to_rest, next - t);
        if (std::isinf(lasts)) {
            out.stops = false;
            break;
        }
        const double angle = std::abs(w * lasts + a * lasts * lasts / 2);
        out.distance += angle;
        for (std::size_t i = 0; i < brakes.size(); ++i)
            if (brakes[i].delay <= t) out.energies[i] += brakes[i].slips * angle;
        t = lasts == to_rest ? t + lasts : next;
        w = lasts == to_rest ? 0 : w + a * lasts;
        out.time = t;
    }
    if (!bitten) out.engages_at = 0;
    for (const double e : out.energies) out.energy += e;
    return out;
}

void keep_worse(PowerLoss& worst, PowerLoss now, double travel) {
    now.distance *= travel;
    worst.stops = worst.stops && now.stops;
    for (double PowerLoss::*figure :
        {&PowerLoss::engages_at, &PowerLoss::time, &PowerLoss::distance, &PowerLoss::energy})
        worst.*figure = std::max(worst.*figure, now.*figure);
    worst.energies.resize(now.energies.size());
    for (std::size_t i = 0; i < now.energies.size(); ++i)
        worst.energies[i] = std::max(worst.energies[i], now.energies[i]);
}

} // namespace

std::vector<ActingBrake> acting_brakes(const Axis& axis, const LoadModel& load) {
    std::vector<ActingBrake> out;
    if (load.motion.direct) return out;
    const auto add = [&](std::string name, const char* path, double holds, const BrakeStopping& s, double slower) {
        ActingBrake b;
        b.name = std::move(name);
        b.path = path;
        b.holds = holds / slower;
        b.slips = s.dynamic_torque.given() ? s.dynamic_torque.si / slower : b.holds; // NaN where neither is given
        b.slips_known = s.dynamic_torque.given();
        b.delay = s.apply_time.given() ? s.apply_time.si : no_number;
        b.energy = s.stop_energy.given() ? s.stop_energy.si : no_number;
        out.push_back(std::move(b));
    };
    if (axis.driven() && axis.motor.brake_torque.given())
        add("the brake in the motor", "/motor", axis.motor.brake_torque.si, axis.motor.brake_stopping, 1);
    if (axis.brake.there())
        add(axis.brake.name.empty() ? "the brake" : axis.brake.name, "/brake", axis.brake.static_torque.si,
            axis.brake.stopping, axis.brake.place == CouplingPlace::mechanism ? load.ratio : 1);
    return out;
}

std::string ActingBrake::field(const std::string& key) const {
    if (std::string_view(path) == "/brake") return "/brake/" + key;
    return "/motor/brake_" + (key == "static_torque" ? "torque" : key);
}

const PowerLoss& BrakeStop::worst(double PowerLoss::*figure) const {
    const PowerLoss* out = &standing;
    for (const auto* one : {&forward, &backward})
        if (*one && (!(*one)->stops || (**one).*figure > out->*figure)) out = &**one;
    return *out;
}

double braking_torque(const std::vector<ActingBrake>& brakes) {
    double sum = 0;
    for (const ActingBrake& b : brakes)
        if (!std::isnan(b.holds)) sum += b.holds;
    return sum;
}

std::optional<BrakeStop> brake_stop(const Demand& d, const Axis& axis, bool inertia_known) {
    BrakeStop out;
    const LoadModel& m = d.load;
    out.brakes = acting_brakes(axis, m);
    if (out.brakes.empty() || !inertia_known) return std::nullopt;
    // how far it goes needs what each brake slips with, too
    out.delays_known = std::none_of(out.brakes.begin(), out.brakes.end(),
        [](const ActingBrake& b) { return std::isnan(b.delay) || std::isnan(b.slips); });
    out.estimate = m.position_dependent();
    out.driving = d.fall_torque;
    const LoadSide side(m, false);
    // a shaft may turn backwards while the axis moves forwards
    const double turned = m.path == LoadModel::Path::straight ? sign(m.radius) : 1;
    for (const Span& each : d.spans) {
        if (each.direction * turned > 0 && !out.forward) out.forward.emplace();
        if (each.direction * turned < 0 && !out.backward) out.backward.emplace();
    }
    const auto look = [&](double q, double payload, double) {
        const double torque = m.tension ? 0 : side.external(q, payload, 0);
        if (!out.delays_known) return;
        const double inertia = side.inertia(q, payload) + m.rotor_inertia;
        // of the cycle's coordinate for each turn of the motor
        const double travel = (m.path == LoadModel::Path::straight    ? std::abs(m.radius)
                                  : m.path == LoadModel::Path::winder ? m.roll_radius(m.web_start + m.web_sign * q)
                                                                      : 1) /
                              m.ratio;
        const auto from = [&](double speed) { return stop_from(speed, torque, inertia, out.brakes); };
        if (out.forward) keep_worse(*out.forward, from(turned * d.peak_speed), travel);
        if (out.backward) keep_worse(*out.backward, from(-turned * d.peak_speed), travel);
        keep_worse(out.standing, from(0), travel);
    };
    // what pushes is gone with the power
    CyclePlaces places = cycle_places(d);
    for (CyclePlace& p : places.stretches) p.process = 0, p.friction = 1, p.moves = true;
    std::sort(places.stretches.begin(), places.stretches.end(), [](const CyclePlace& x, const CyclePlace& y) {
        return std::tuple(x.payload, x.low, x.high) < std::tuple(y.payload, y.low, y.high);
    });
    places.stretches.erase(std::unique(places.stretches.begin(), places.stretches.end(),
                               [](const CyclePlace& x, const CyclePlace& y) {
                                   return std::tuple(x.payload, x.low, x.high) == std::tuple(y.payload, y.low, y.high);
                               }),
        places.stretches.end());
    over_places(places, look, {});
    return out;
}

} // namespace fulmox

#include "core/drivetrain/screw_life.h"

#include "core/demand/evaluate.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

// Loads weighted by revolutions: of the load alone, and of the two halves of a preloaded nut.
class Loads {
  public:
    explicit Loads(double preload) : preload_(preload) {}

    /// A force over an angle that the nut turns, N and rad, ≥ 0.
    void add(double force, double angle) {
        const double lifts = 2 * std::numbers::sqrt2 * preload_;
        const double pressed = preload_ > 0 && force < lifts ? preload_ * std::pow(1 + force / lifts, 1.5) : force;
        turned_ += angle;
        alone_ += angle * force * force * force;
        pressed_ += angle * pressed * pressed * pressed;
        const double left = pressed - force;
        relieved_ += angle * left * left * left;
    }
    double turned() const { return turned_; }
    double alone() const { return mean(alone_); }
    double pressed() const { return mean(pressed_); }
    double relieved() const { return mean(relieved_); }

  private:
    double preload_;
    double turned_ = 0, alone_ = 0, pressed_ = 0, relieved_ = 0;

    double mean(double cubes) const { return turned_ > 0 ? std::cbrt(cubes / turned_) : 0; }
};

// A load has one nut half under it when it pushes and the other when it pulls: both are taken as under the larger.
void over_cycle(Loads& loads, const Demand& d) {
    const SpanNodes& nodes = span_nodes();
    SpanStates states;
    for (const Span& s : d.spans) {
        if (s.direction == 0) continue;
        evaluate_nodes(d.load, s, states);
        const auto [low, high] = std::minmax_element(states.load_force.begin(), states.load_force.end());
        if (*low * *high >= 0) {
            for (std::size_t i = 0; i < span_node_count; ++i)
                loads.add(std::abs(states.load_force[i]),
                    nodes.weight[i] * s.lasting() * std::abs(states.mechanism_speed[i]));
            continue;
        }
        // where the force changes its sign its cube has a kink: finer parts
        constexpr std::size_t parts = 8;
        for (std::size_t k = 0; k < parts; ++k) {
            Span part = s;
            part.duration = s.duration / parts;
            part.start = s.start + static_cast<double>(k) * part.duration;
            evaluate_nodes(d.load, part, states);
            for (std::size_t i = 0; i < span_node_count; ++i)
                loads.add(std::abs(states.load_force[i]),
                    nodes.weight[i] * part.lasting() * std::abs(states.mechanism_speed[i]));
        }
    }
}

} // namespace

ScrewLife screw_life(const Screw& s, const Demand* d) {
    ScrewLife out;
    const double preload = s.nut_preload.value_or(0);
    out.preloaded = preload > 0;
    out.typed = !s.spectrum.empty();
    Loads loads(preload);
    double time = 0;
    if (out.typed) {
        for (const LoadShare& l : s.spectrum) {
            loads.add(std::abs(l.force.si), std::abs(l.speed.si) * l.share.si);
            time += l.share.si;
        }
    } else if (d) {
        over_cycle(loads, *d);
        time = d->cycle_time;
    }
    out.mean_load = loads.alone();
    out.mean_speed = time > 0 ? loads.turned() / time : 0;
    if (!s.dynamic_rating.given()) {
        out.revolutions = out.hours = out.travel = no_number;
        return out;
    }
    const auto of = [&](double load) { return load > 0 ? 1e6 * std::pow(s.dynamic_rating.si / load, 3) : infinite; };
    if (out.preloaded) {
        constexpr double e = 10.0 / 9;
        const double one = of(loads.pressed()), other = of(loads.relieved());
        out.revolutions = std::pow(std::pow(one, -e) + std::pow(other, -e), -1 / e);
    } else {
        out.revolutions = of(out.mean_load);
    }
    if (!(loads.turned() > 0)) out.revolutions = infinite;
    out.hours = out.mean_speed > 0 ? out.revolutions * 2 * std::numbers::pi / out.mean_speed / 3600 : infinite;
    out.travel = out.revolutions * s.lead.si;
    return out;
}

} // namespace fulmox

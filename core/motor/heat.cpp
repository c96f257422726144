#include "core/motor/heat.h"

#include "core/quantity/not_finite.h"

// math.h first: this Boost calls isnan unqualified
#include <math.h>

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>

namespace fulmox {

namespace {

constexpr double hottest = 3000; // °C, beyond which nothing settles

// x' = A x + u for two bodies, exactly.
struct Linear {
    double a = 0, b = 0, c = 0, d = 0; // A by rows
    double u = 0, v = 0;
};

using State = std::array<double, 2>;

State slope(const Linear& l, const State& x) { return {l.a * x[0] + l.b * x[1] + l.u, l.c * x[0] + l.d * x[1] + l.v}; }

// E(t) = e^{At} and its integral, of a matrix with real eigenvalues.
struct Flow {
    std::array<double, 4> e{}, integral{};
};

Flow flow(const Linear& l, double t) {
    const double middle = (l.a + l.d) / 2, half = (l.a - l.d) / 2;
    const double root = std::sqrt(std::max(0.0, half * half + l.b * l.c));
    const double first = middle + root, second = middle - root;
    const double e1 = std::exp(first * t), e2 = std::exp(second * t);
    // divided differences, kept apart from 0/0
    const auto grown = [t](double rate) { return std::abs(rate * t) < 1e-9 ? t : std::expm1(rate * t) / rate; };
    const double i1 = grown(first), i2 = grown(second);
    const bool apart = root * t > 1e-7;
    const double de = apart ? (e1 - e2) / (2 * root) : t * std::exp(middle * t);
    const double di =
        apart ? (i1 - i2) / (2 * root)
              : (std::abs(middle * t) < 1e-5 ? t * t / 2 : (t * std::exp(middle * t) - grown(middle)) / middle);
    const double me = (e1 + e2) / 2, mi = (i1 + i2) / 2;
    Flow f;
    f.e = {me + de * half, de * l.b, de * l.c, me - de * half};
    f.integral = {mi + di * half, di * l.b, di * l.c, mi - di * half};
    return f;
}

State carried(const Flow& f, const Linear& l, const State& x) {
    return {f.e[0] * x[0] + f.e[1] * x[1] + f.integral[0] * l.u + f.integral[1] * l.v,
        f.e[2] * x[0] + f.e[3] * x[1] + f.integral[2] * l.u + f.integral[3] * l.v};
}

// What the copper loss is multiplied by at these temperatures.
double growth(const ThermalMotor& m, double winding, double magnet) {
    const double copper = (235 + winding) / (235 + m.reference);
    const double flux = (1 - m.flux_fall * (magnet - 20)) / (1 - m.flux_fall * (m.reference - 20));
    return flux > 0 ? copper / (flux * flux) : infinite;
}

// Temperatures that mean losses keep.
Temperatures kept(const ThermalMotor& m, double copper, double other) {
    const double housing = m.ambient + (m.resistance - m.winding_resistance) * (copper + other);
    return {housing + m.winding_resistance * copper, housing};
}
double magnets(const ThermalMotor& m, const Temperatures& t) { return m.two_bodies() ? t.housing : t.winding; }

// The copper loss that keeps itself; nothing below runaway: infinite. The growth is convex, so that Newton from below
// comes to the lowest root, or runs away.
double kept_copper(const ThermalMotor& m, double at_reference, double other) {
    if (!(at_reference > 0)) return 0;
    double p = 0;
    for (int i = 0; i < 200; ++i) {
        const auto off = [&](double at) {
            const Temperatures t = kept(m, at, other);
            return at_reference * growth(m, t.winding, magnets(m, t)) - at;
        };
        const double f = off(p);
        if (!std::isfinite(f)) return infinite;
        if (std::abs(f) <= 1e-13 * at_reference) return p;
        const double h = 1e-6 * (p + at_reference), by = (off(p + h) - f) / h;
        if (!(by < 0)) return infinite;
        p -= f / by;
        if (kept(m, p, other).winding > hottest) return infinite;
    }
    return p;
}

// The stretches as linear systems about given mean temperatures; x is the rise over ambient.
class HeatedCycle {
  public:
    HeatedCycle(const ThermalMotor& m, const std::vector<HeatStretch>& stretches, const Temperatures& about) : m_(m) {
        const double outer = m.resistance - m.winding_resistance;
        const double flux = 1 - m.flux_fall * (magnets(m, about) - 20);
        const double at = growth(m, about.winding, magnets(m, about));
        const double by_winding = at / (235 + about.winding), by_magnet = at * 2 * m.flux_fall / flux;
        for (const HeatStretch& s : stretches) {
            if (!(s.lasts > 0)) continue;
            Linear l;
            // loss = copper (at + by_winding (θ_w − about) + by_magnet (θ_m − about))
            const double base = s.copper * (at + by_winding * (m.ambient - about.winding) +
                                               by_magnet * (m.ambient - magnets(m, about)));
            if (m.two_bodies()) {
                const double c1 = m.winding_time_constant / m.winding_resistance, c2 = m.time_constant / outer;
                l.a = (s.copper * by_winding - 1 / m.winding_resistance) / c1;
                l.b = (s.copper * by_magnet + 1 / m.winding_resistance) / c1;
                l.c = 1 / m.winding_resistance / c2;
                l.d = -(1 / m.winding_resistance + 1 / outer) / c2;
                l.u = base / c1;
                l.v = s.other / c2;
            } else {
                const double c1 = one_body_time() / m.resistance;
                l.a = (s.copper * (by_winding + by_magnet) - 1 / m.resistance) / c1;
                l.u = (base + s.other) / c1;
                l.d = -1 / one_body_time(); // stands for nothing
            }
            steps_.push_back({s.lasts, l, flow(l, s.lasts)});
            time_ += s.lasts;
        }
    }

    double time() const { return time_; }

    State turn(State x) const {
        for (const Step& s : steps_) x = carried(s.flow, s.system, x);
        return x;
    }
    // x after the cycle = M x + b
    std::pair<std::array<double, 4>, State> map() const {
        const State b = turn({0, 0}), p = turn({1, 0}), q = turn({0, 1});
        return {{p[0] - b[0], q[0] - b[0], p[1] - b[1], q[1] - b[1]}, b};
    }

    struct Extremes {
        State highest{-infinite, -infinite}, lowest{infinite, infinite}, mean{0, 0};
    };
    Extremes extremes(State x) const {
        Extremes out;
        for (const Step& s : steps_) {
            look(out, x);
            const State end = carried(s.flow, s.system, x);
            // between the ends a temperature may turn once
            for (std::size_t k = 0; k < 2; ++k)
                if (slope(s.system, x)[k] * slope(s.system, end)[k] < 0) look(out, turning(s, x, k));
            for (std::size_t k = 0; k < 2; ++k) out.mean[k] += mean_of(s, x)[k] * s.lasts / time_;
            x = end;
        }
        look(out, x);
        return out;
    }
    // s from this state until the winding's rise reaches `rise` in this turn of the cycle; infinite: it does not
    double reaches(State x, double rise) const {
        double t = 0;
        for (const Step& s : steps_) {
            const State end = carried(s.flow, s.system, x);
            State top = end;
            double by = s.lasts;
            if (slope(s.system, x)[0] * slope(s.system, end)[0] < 0) {
                const auto [at, state] = turns_at(s, x, 0);
                if (state[0] > end[0]) top = state, by = at;
            }
            if (x[0] >= rise) return t;
            if (top[0] >= rise) {
                double low = 0, high = by;
                for (int i = 0; i < 60; ++i) {
                    const double middle = (low + high) / 2;
                    (carried(flow(s.system, middle), s.system, x)[0] < rise ? low : high) = middle;
                }
                return t + high;
            }
            t += s.lasts;
            x = end;
        }
        return infinite;
    }

  private:
    struct Step {
        double lasts;
        Linear system;
        Flow flow;
    };
    const ThermalMotor& m_;
    std::vector<Step> steps_;
    double time_ = 0;

    double one_body_time() const { return std::isnan(m_.time_constant) ? m_.winding_time_constant : m_.time_constant; }
    static void look(Extremes& out, const State& x) {
        for (std::size_t k = 0; k < 2; ++k) {
            out.highest[k] = std::max(out.highest[k], x[k]);
            out.lowest[k] = std::min(out.lowest[k], x[k]);
        }
    }
    static std::pair<double, State> turns_at(const Step& s, const State& x, std::size_t k) {
        const bool rises = slope(s.system, x)[k] > 0;
        double low = 0, high = s.lasts;
        State now = x;
        for (int i = 0; i < 50; ++i) {
            const double middle = (low + high) / 2;
            now = carried(flow(s.system, middle), s.system, x);
            ((slope(s.system, now)[k] > 0) == rises ? low : high) = middle;
        }
        return {low, now};
    }
    static State turning(const Step& s, const State& x, std::size_t k) { return turns_at(s, x, k).second; }
    // over the stretch, by Simpson between four parts
    static State mean_of(const Step& s, const State& x) {
        State sum{0, 0};
        constexpr std::array weights{1.0, 4.0, 2.0, 4.0, 1.0};
        const Flow quarter = flow(s.system, s.lasts / 4);
        State now = x;
        for (std::size_t i = 0; i < weights.size(); ++i) {
            for (std::size_t k = 0; k < 2; ++k) sum[k] += weights[i] / 12 * now[k];
            if (i + 1 < weights.size()) now = carried(quarter, s.system, now);
        }
        return sum;
    }
};

// The state that a turn leaves as it is; nothing where turns drive it up.
bool fixed_point(const std::array<double, 4>& m, const State& b, State& x) {
    const double trace = m[0] + m[3], det = m[0] * m[3] - m[1] * m[2];
    const double root = std::sqrt(std::max(0.0, trace * trace / 4 - det));
    if (!(trace / 2 + root < 1)) return false;
    const double p = 1 - m[0], q = -m[1], r = -m[2], s = 1 - m[3], d = p * s - q * r;
    x = {(b[0] * s - q * b[1]) / d, (p * b[1] - r * b[0]) / d};
    return true;
}

// Turn by turn from cold; the loss is drawn straight again wherever the winding has warmed by a fifth of the way.
double from_cold(const ThermalMotor& m, const std::vector<HeatStretch>& stretches, double ripple) {
    const double rise = m.limit - m.ambient;
    if (rise <= 0) return 0;
    constexpr int parts = 5, most = 2'000'000;
    State x{0, 0};
    int turns = 0;
    for (int part = 0; part < parts; ++part) {
        const double until = part + 1 < parts ? rise * (part + 1) / parts : infinite;
        if (x[0] >= until) continue;
        const double about = std::min((part + 0.5) / parts, 1.0) * rise,
                     body = m.two_bodies() ? x[1] + about - x[0] : about;
        const HeatedCycle cycle(m, stretches, {m.ambient + about, m.ambient + std::max(0.0, body)});
        const auto [map, b] = cycle.map();
        while (x[0] < until) {
            // turns that cannot come there are only counted
            if (x[0] + ripple >= 0.98 * rise)
                if (const double t = cycle.reaches(x, rise); std::isfinite(t)) return turns * cycle.time() + t;
            const State next{map[0] * x[0] + map[1] * x[1] + b[0], map[2] * x[0] + map[3] * x[1] + b[1]};
            if (++turns > most || std::abs(next[0] - x[0]) + std::abs(next[1] - x[1]) < 1e-12 * rise) return infinite;
            x = next;
        }
    }
    return infinite;
}

} // namespace

bool ThermalMotor::knows_times() const {
    if (two_bodies()) return time_constant > 0 && winding_time_constant > 0;
    return time_constant > 0 || winding_time_constant > 0;
}

bool ThermalMotor::knows_winding() const { return winding_time_constant > 0 && (two_bodies() || !(time_constant > 0)); }

SteadyHeat steady_heat(const ThermalMotor& m, const std::vector<HeatStretch>& stretches) {
    SteadyHeat out;
    double time = 0, copper = 0;
    for (const HeatStretch& s : stretches) {
        time += s.lasts;
        copper += s.lasts * s.copper;
        out.other += s.lasts * s.other;
    }
    if (!(time > 0) || !(m.resistance > 0) || !std::isfinite(copper + out.other)) {
        out.settles = false;
        out.mean = {no_number, no_number};
        out.copper = out.other = no_number;
        return out;
    }
    copper /= time;
    out.other /= time;
    out.copper = kept_copper(m, copper, out.other);
    out.settles = std::isfinite(out.copper);
    out.mean = out.settles ? kept(m, out.copper, out.other) : Temperatures{infinite, infinite};
    if (!m.knows_times()) return out;
    Temperatures about = out.settles ? out.mean : Temperatures{m.limit, std::min(m.limit, m.ambient + 60)};
    // the loss of a ripple is a little more than that of its mean: twice is enough
    for (int i = 0; i < 3 && out.settles; ++i) {
        const HeatedCycle cycle(m, stretches, about);
        const auto [map, b] = cycle.map();
        State x{0, 0};
        if (!fixed_point(map, b, x)) {
            out.settles = false;
            break;
        }
        const HeatedCycle::Extremes e = cycle.extremes(x);
        const auto body = [&](const State& s) {
            return Temperatures{m.ambient + s[0], m.ambient + (m.two_bodies() ? s[1] : s[0])};
        };
        out.mean = body(e.mean);
        out.highest = body(e.highest).winding;
        out.lowest = body(e.lowest).winding;
        out.housing_highest = body(e.highest).housing;
        out.housing_lowest = body(e.lowest).housing;
        about = out.mean;
    }
    if (!out.settles) {
        out.mean = {infinite, infinite};
        out.highest = out.housing_highest = infinite;
    }
    const HeatedCycle cold(m, stretches, {m.ambient, m.ambient});
    out.after_first = m.ambient + cold.turn({0, 0})[0];
    if (out.settles && out.highest <= m.limit) {
        out.time_to_limit = infinite;
        return out;
    }
    const double ripple = out.settles ? out.highest - out.lowest : m.limit - m.ambient;
    out.time_to_limit = from_cold(m, stretches, ripple);
    return out;
}

GreatestLoad greatest_that_settles(const ThermalMotor& m, double copper, double other) {
    if (!(copper > 0)) return {infinite, no_number};
    // p/(copper growth) has one summit over the loss p
    const auto square = [&](double p) {
        const Temperatures t = kept(m, p, other);
        return p / (copper * growth(m, t.winding, magnets(m, t)));
    };
    const double most = (hottest - m.ambient) / m.resistance;
    const auto best = boost::math::tools::brent_find_minima([&](double p) { return -square(p); }, 0.0, most, 50);
    const double factor = std::sqrt(std::max(0.0, -best.second));
    const bool summit = best.first < 0.98 * most;
    // without a summit the copper alone lets it grow to 1/(R P) and never there
    if (!summit) {
        const double slope = copper * m.resistance / (235 + m.reference);
        return {std::sqrt(1 / slope), infinite};
    }
    return {factor, kept(m, best.first, other).winding};
}

GreatestLoad greatest_within_limit(const ThermalMotor& m, double copper, double other) {
    if (!(copper > 0)) return {infinite, no_number};
    const double outer = m.resistance - m.winding_resistance;
    const double p = (m.limit - m.ambient - outer * other) / m.resistance;
    if (!(p > 0)) return {0, m.limit};
    const Temperatures t = kept(m, p, other);
    return {std::sqrt(p / (copper * growth(m, m.limit, magnets(m, t)))), m.limit};
}

double overload_time(const ThermalMotor& m, double ratio, double prior) {
    const double r2 = ratio * ratio;
    if (!m.knows_times()) return no_number;
    if (!(r2 > 1)) return infinite;
    if (prior >= 1) return 0;
    if (!m.two_bodies()) {
        const double tau = m.knows_winding() ? m.winding_time_constant : m.time_constant;
        return tau * std::log((r2 - prior) / (r2 - 1));
    }
    // rises in shares of the permitted one: 1 is the continuous torque, continuously
    const double inner = m.winding_resistance / m.resistance, outer = 1 - inner;
    const double c1 = m.winding_time_constant / inner, c2 = m.time_constant / outer;
    Linear l;
    l.a = -1 / inner / c1;
    l.b = 1 / inner / c1;
    l.c = 1 / inner / c2;
    l.d = -(1 / inner + 1 / outer) / c2;
    l.u = r2 / c1;
    const State start{prior, prior * outer};
    double high = m.winding_time_constant;
    const auto rise = [&](double t) { return carried(flow(l, t), l, start)[0]; };
    while (rise(high) < 1) {
        high *= 2;
        if (!(high < 1e12)) return infinite;
    }
    double low = 0;
    for (int i = 0; i < 100; ++i) {
        const double middle = (low + high) / 2;
        (rise(middle) < 1 ? low : high) = middle;
    }
    return high;
}

} // namespace fulmox

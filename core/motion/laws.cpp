#include "core/motion/laws.h"

#include <algorithm>
#include <boost/math/quadrature/gauss.hpp>
#include <boost/math/tools/toms748_solve.hpp>
#include <limits>
#include <numbers>

namespace fulmox {

using std::numbers::pi;

namespace {

// Chains pieces, each given by its acceleration, so that position and velocity are continuous.
class Chain {
  public:
    std::vector<Piece> pieces;

    void polynomial(double duration, std::initializer_list<double> acceleration) {
        Piece p = begin(duration);
        double k = 2;
        for (const double a : acceleration) {
            p.c[static_cast<std::size_t>(k)] = a / (k * (k - 1));
            ++k;
        }
        p.degree = std::max(2, static_cast<int>(k) - 1);
        end(p);
    }
    // acceleration = peak · sin(ω τ + φ)
    void sine(double duration, double peak, double omega, double phase) {
        Piece p = begin(duration);
        p.omega = omega;
        p.phase = phase;
        p.amplitude = -peak / (omega * omega);
        p.c[0] -= p.amplitude * std::sin(phase);
        p.c[1] -= p.amplitude * omega * std::cos(phase);
        end(p);
    }
    // so that the chain covers unit distance
    std::vector<Piece> scaled() {
        for (Piece& p : pieces) {
            for (double& c : p.c) c /= position_;
            p.amplitude /= position_;
        }
        return std::move(pieces);
    }

  private:
    double time_ = 0, position_ = 0, velocity_ = 0;

    Piece begin(double duration) const {
        Piece p;
        p.start = time_;
        p.duration = duration;
        p.c[0] = position_;
        p.c[1] = velocity_;
        return p;
    }
    void end(const Piece& p) {
        time_ += p.duration;
        position_ = p.position(p.duration);
        velocity_ = p.velocity(p.duration);
        pieces.push_back(p);
    }
};

// One polynomial of position, cut at the given instants.
std::vector<Piece> cut_polynomial(const std::array<double, 8>& c, int degree, std::initializer_list<double> cuts) {
    std::vector<Piece> out;
    double from = 0;
    const auto add = [&](double to) {
        Piece p;
        p.start = from;
        p.duration = to - from;
        p.degree = degree;
        // Taylor shift to the start of the piece
        std::array<double, 8> shifted = c;
        for (std::size_t i = 0; i < 8; ++i)
            for (std::size_t k = 7; k-- > i;) shifted[k] += from * shifted[k + 1];
        p.c = shifted;
        out.push_back(p);
        from = to;
    };
    for (const double t : cuts) add(t);
    add(1);
    return out;
}

std::vector<Piece> trapezoid(double a, double b, double s) {
    Chain c;
    const auto ramp = [&](double duration, double sign) {
        if (duration <= 0) return;
        const double jerk = s * duration / 2;
        const double peak = sign / (duration * (1 - s / 2));
        if (jerk <= 0) return c.polynomial(duration, {peak});
        c.polynomial(jerk, {0, peak / jerk});
        if (duration - 2 * jerk > 0) c.polynomial(duration - 2 * jerk, {peak});
        c.polynomial(jerk, {peak, -peak / jerk});
    };
    ramp(a, 1);
    const double cruise = 1 - a - b;
    if (cruise > 1e-12) c.polynomial(cruise, {0});
    ramp(b, -1);
    return c.scaled();
}

} // namespace

std::vector<Piece> unit_law(Law law, double a, double b, double rounding) {
    Chain c;
    const auto quarters = [&](std::initializer_list<std::pair<double, double>> spans, double omega, double phase) {
        for (const auto& [from, to] : spans) c.sine(to - from, 1, omega, omega * from + phase);
    };
    switch (law) {
    case Law::trapezoid:
        return trapezoid(a, b, rounding);
    case Law::parabolic:
        return cut_polynomial({0, 0, 3, -2}, 3, {0.5});
    case Law::simple_harmonic:
        quarters({{0, 0.5}, {0.5, 1}}, pi, pi / 2);
        return c.scaled();
    case Law::cycloidal:
        quarters({{0, 0.25}, {0.25, 0.5}, {0.5, 0.75}, {0.75, 1}}, 2 * pi, 0);
        return c.scaled();
    case Law::modified_trapezoid:
        c.sine(0.125, 1, 4 * pi, 0);
        c.polynomial(0.25, {1});
        c.sine(0.125, 1, 4 * pi, pi / 2);
        c.sine(0.125, 1, 4 * pi, pi);
        c.polynomial(0.25, {-1});
        c.sine(0.125, 1, 4 * pi, 3.5 * pi);
        return c.scaled();
    case Law::modified_sine:
        c.sine(0.125, 1, 4 * pi, 0);
        quarters({{0.125, 0.5}, {0.5, 0.875}}, 4 * pi / 3, pi / 3);
        c.sine(0.125, 1, 4 * pi, 3.5 * pi);
        return c.scaled();
    case Law::polynomial_345: {
        const double k = std::sqrt(3.0) / 6;
        return cut_polynomial({0, 0, 0, 10, -15, 6}, 5, {0.5 - k, 0.5, 0.5 + k});
    }
    case Law::polynomial_4567: {
        const double k = std::sqrt(5.0) / 10;
        return cut_polynomial({0, 0, 0, 0, 35, -84, 70, -20}, 7, {0.5 - k, 0.5, 0.5 + k});
    }
    }
    return {};
}

LawCoefficients coefficients(const std::vector<Piece>& unit) {
    LawCoefficients out;
    double squares = 0;
    double before = 0;
    for (const Piece& p : unit) {
        if (std::abs(p.acceleration(0) - before) > 1e-9 * (1 + std::abs(before)))
            out.cj = std::numeric_limits<double>::infinity();
        before = p.acceleration(p.duration);
        constexpr int steps = 16;
        for (int i = 0; i <= steps; ++i) {
            const double t = p.duration * i / steps;
            out.cv = std::max(out.cv, std::abs(p.velocity(t)));
            out.ca = std::max(out.ca, std::abs(p.acceleration(t)));
            out.cj = std::max(out.cj, std::abs(p.jerk(t)));
        }
        squares += boost::math::quadrature::gauss<double, 15>::integrate(
            [&](double t) { return p.acceleration(t) * p.acceleration(t); }, 0.0, p.duration);
    }
    if (std::abs(before) > 1e-9) out.cj = std::numeric_limits<double>::infinity();
    out.cr = std::sqrt(squares);
    return out;
}

namespace {

Ramp ramp_to(double speed, double a, double jerk) {
    if (jerk <= 0) return {speed / a, 0, a};
    if (speed >= a * a / jerk) return {speed / a + a / jerk, a / jerk, a};
    const double t = std::sqrt(speed / jerk);
    return {2 * t, t, jerk * t};
}

// Distance of both ramps; each is point-symmetric, so it covers its speed times half its time.
double ramp_distance(double speed, double a, double b, double jerk) {
    return speed / 2 * (ramp_to(speed, a, jerk).duration + ramp_to(speed, b, jerk).duration);
}

double highest_speed(double d, double a, double b, double jerk) {
    if (jerk <= 0) return std::sqrt(2 * d / (1 / a + 1 / b));
    if (a == b) {
        // v²/a + v a/j = d, or 2 v √(v/j) = d where the acceleration is not reached
        const double v = a / 2 * (std::sqrt(a * a / (jerk * jerk) + 4 * d / a) - a / jerk);
        if (v >= a * a / jerk) return v;
        return std::cbrt(d * d * jerk / 4);
    }
    const auto over = [&](double v) { return ramp_distance(v, a, b, jerk) / d - 1; };
    double high = std::sqrt(2 * d / (1 / a + 1 / b)); // jerk only lengthens ramps
    std::uintmax_t most = 200;
    const auto [lo, hi] = boost::math::tools::toms748_solve(
        over, high * 1e-9, high * (1 + 1e-12), boost::math::tools::eps_tolerance<double>(52), most);
    return (lo + hi) / 2;
}

} // namespace

Profile profile_in_time(double distance, double time, double a, double b, double rounding) {
    const double v = distance / (time * (1 - (a + b) / 2));
    const auto ramp = [&](double t) { return Ramp{t, rounding * t / 2, t > 0 ? v / (t * (1 - rounding / 2)) : 0}; };
    return {v, ramp(a * time), std::max(0.0, (1 - a - b) * time), ramp(b * time)};
}

Profile profile_by_limits(double distance, double speed, double a, double b, double jerk) {
    const double ramps = ramp_distance(speed, a, b, jerk);
    const double v = distance >= ramps ? speed : highest_speed(distance, a, b, jerk);
    return {v, ramp_to(v, a, jerk), distance >= ramps ? (distance - ramps) / speed : 0, ramp_to(v, b, jerk)};
}

} // namespace fulmox

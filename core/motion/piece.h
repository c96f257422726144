// One stretch of planned motion in closed form.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>

namespace fulmox {

/// Position is Σ c_k τ^k + A sin(ω τ + φ) with τ = t − start: every law of the trade is a chain of these. SI, rad or m.
struct Piece {
    double start = 0;
    double duration = 0;
    std::array<double, 8> c{};
    int degree = 2; ///< highest k that is not zero
    double amplitude = 0;
    double omega = 0;
    double phase = 0;
    std::size_t segment = 0; ///< index into the cycle
    std::size_t playing = 0; ///< index of the playing it belongs to
    bool one_way = false;    ///< does not reverse inside, but perhaps by rounding at its ends

    double position(double tau) const {
        double p = c[static_cast<std::size_t>(degree)];
        for (int k = degree - 1; k >= 0; --k) p = p * tau + c[static_cast<std::size_t>(k)];
        return amplitude == 0 ? p : p + amplitude * std::sin(omega * tau + phase);
    }
    double velocity(double tau) const {
        double p = 0;
        for (int k = degree; k >= 1; --k) p = p * tau + k * c[static_cast<std::size_t>(k)];
        return amplitude == 0 ? p : p + amplitude * omega * std::cos(omega * tau + phase);
    }
    double acceleration(double tau) const {
        double p = 0;
        for (int k = degree; k >= 2; --k) p = p * tau + k * (k - 1) * c[static_cast<std::size_t>(k)];
        return amplitude == 0 ? p : p - amplitude * omega * omega * std::sin(omega * tau + phase);
    }
    double jerk(double tau) const { return state(tau).jerk; }
    struct State {
        double position, velocity, acceleration, jerk;
    };
    /// All four at once.
    State state(double tau) const {
        double x = c[static_cast<std::size_t>(degree)], v = 0, a = 0, j = 0;
        for (int k = degree - 1; k >= 0; --k) {
            j = j * tau + a;
            a = a * tau + v;
            v = v * tau + x;
            x = x * tau + c[static_cast<std::size_t>(k)];
        }
        a *= 2;
        j *= 6;
        if (amplitude == 0) return {x, v, a, j};
        const double s = amplitude * std::sin(omega * tau + phase);
        const double k = amplitude * std::cos(omega * tau + phase);
        return {x + s, v + omega * k, a - omega * omega * s, j - omega * omega * omega * k};
    }
    bool at_rest() const {
        for (std::size_t k = 1; k < c.size(); ++k)
            if (c[k] != 0) return false;
        return amplitude == 0;
    }
    void stop() {
        for (std::size_t k = 1; k < c.size(); ++k) c[k] = 0;
        amplitude = 0;
        degree = 2;
    }
    /// Acceleration is constant.
    bool uniform() const { return degree <= 2 && amplitude == 0; }
};

} // namespace fulmox

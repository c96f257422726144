#include "core/motion/trace.h"

#include <Eigen/Dense>
#include <algorithm>

namespace fulmox {

namespace {

using Fit = Eigen::Matrix<double, 3, Eigen::Dynamic>; // weights of value, first and second derivative at the sample

// Least-squares cubic over scaled times u; weights that turn the window's values into the fit at u = 0.
Fit weights(const std::vector<double>& u, double scale) {
    const auto n = static_cast<Eigen::Index>(u.size());
    Eigen::Matrix<double, Eigen::Dynamic, 4> a(n, 4);
    for (Eigen::Index i = 0; i < n; ++i) {
        const double x = u[static_cast<std::size_t>(i)] / scale;
        a.row(i) << 1, x, x * x, x * x * x;
    }
    const Eigen::Matrix4d normal = a.transpose() * a;
    const Eigen::Matrix<double, 4, Eigen::Dynamic> solved = normal.ldlt().solve(a.transpose());
    Fit out(3, n);
    out.row(0) = solved.row(0);
    out.row(1) = solved.row(1) / scale;
    out.row(2) = 2 * solved.row(2) / (scale * scale);
    return out;
}

bool evenly_sampled(const Samples& s) {
    const std::size_t n = s.rows();
    const double step = (s.at(n - 1, 0) - s.at(0, 0)) / static_cast<double>(n - 1);
    for (std::size_t i = 1; i < n; ++i)
        if (std::abs(s.at(i, 0) - s.at(i - 1, 0) - step) > 1e-4 * step) return false;
    return true;
}

double typical_step(const Samples& s) {
    return (s.at(s.rows() - 1, 0) - s.at(0, 0)) / static_cast<double>(s.rows() - 1);
}

} // namespace

std::size_t half_window(const Trace& trace) {
    const std::size_t n = trace.samples.rows();
    std::size_t half = 10;
    if (trace.window.given()) {
        const double wanted = trace.window.si / typical_step(trace.samples) / 2;
        half = wanted > static_cast<double>(n) ? n : static_cast<std::size_t>(wanted + 0.5);
    }
    return std::clamp<std::size_t>(half, 2, std::max<std::size_t>(2, (n - 1) / 2));
}

std::vector<Smoothed> smooth(const Trace& trace) {
    const Samples& s = trace.samples;
    const std::size_t n = s.rows();
    const std::size_t half = half_window(trace);
    const std::size_t width = std::min(n, 2 * half + 1);
    std::vector<Smoothed> out(n);
    const bool even = evenly_sampled(s);
    Fit centred;
    std::vector<double> u(width);
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t first = std::min(i < half ? 0 : i - half, n - width);
        const bool centre = i == first + half;
        const Fit* fit = &centred;
        Fit own;
        if (!even || !centre || centred.cols() == 0) {
            for (std::size_t k = 0; k < width; ++k) u[k] = s.at(first + k, 0) - s.at(i, 0);
            own = weights(u, std::max(std::abs(u.front()), std::abs(u.back())));
            if (even && centre) centred = own;
            fit = &own;
        }
        double value = 0, first_derivative = 0, second_derivative = 0;
        // about the sample's own value, so that a large offset costs no digits
        const double base = s.at(i, 1);
        for (std::size_t k = 0; k < width; ++k) {
            const double y = s.at(first + k, 1) - base;
            const auto c = static_cast<Eigen::Index>(k);
            value += (*fit)(0, c) * y;
            first_derivative += (*fit)(1, c) * y;
            second_derivative += (*fit)(2, c) * y;
        }
        out[i].time = s.at(i, 0);
        if (trace.of == TraceOf::position) {
            out[i].position = base + value;
            out[i].velocity = first_derivative;
            out[i].acceleration = second_derivative;
        } else {
            out[i].velocity = base + value;
            out[i].acceleration = first_derivative;
        }
    }
    if (trace.of == TraceOf::velocity)
        for (std::size_t i = 1; i < n; ++i) {
            const double h = out[i].time - out[i - 1].time;
            out[i].position = out[i - 1].position + h / 2 * (out[i].velocity + out[i - 1].velocity) +
                              h * h / 12 * (out[i - 1].acceleration - out[i].acceleration);
        }
    return out;
}

double removed_noise(const Trace& trace, const std::vector<Smoothed>& smoothed) {
    double sum = 0;
    for (std::size_t i = 0; i < smoothed.size(); ++i) {
        const double kept = trace.of == TraceOf::position ? smoothed[i].position : smoothed[i].velocity;
        sum += std::pow(trace.samples.at(i, 1) - kept, 2);
    }
    return smoothed.empty() ? 0 : std::sqrt(sum / static_cast<double>(smoothed.size()));
}

Piece quintic(const Smoothed& a, const Smoothed& b) {
    Piece p;
    p.duration = b.time - a.time;
    p.degree = 5;
    const double h = p.duration;
    // what is left beyond constant acceleration; over a short stretch rounding alone would be an enormous jerk
    const auto left = [](double rest, double size) {
        return std::abs(rest) > 16 * std::numeric_limits<double>::epsilon() * size ? rest : 0;
    };
    const double time = std::max(std::abs(a.time), std::abs(b.time));
    const double speed = std::max(std::abs(a.velocity), std::abs(b.velocity));
    const double hardest = std::max(std::abs(a.acceleration), std::abs(b.acceleration));
    const double d = left(b.position - a.position - a.velocity * h - a.acceleration * h * h / 2,
        std::abs(a.position) + std::abs(b.position) + time * (speed + h * hardest));
    const double dv = left(b.velocity - a.velocity - a.acceleration * h, speed + time * hardest);
    const double da = left(b.acceleration - a.acceleration, hardest);
    const double h3 = h * h * h;
    p.c = {a.position, a.velocity, a.acceleration / 2, (10 * d - 4 * dv * h + da * h * h / 2) / h3,
        (-15 * d + 7 * dv * h - da * h * h) / (h3 * h), (6 * d - 3 * dv * h + da * h * h / 2) / (h3 * h * h)};
    return p;
}

namespace {

// Velocity as a cubic through both ends; position its integral.
Piece quartic(const Smoothed& a, const Smoothed& b) {
    Piece p;
    p.duration = b.time - a.time;
    p.degree = 4;
    const double h = p.duration;
    const double dv = (b.velocity - a.velocity) / h;
    const double k2 = (3 * dv - 2 * a.acceleration - b.acceleration) / h;
    const double k3 = (a.acceleration + b.acceleration - 2 * dv) / (h * h);
    p.c = {a.position, a.velocity, a.acceleration / 2, k2 / 3, k3 / 4};
    return p;
}

} // namespace

std::vector<Piece> trace_pieces(const Trace& trace) {
    const std::vector<Smoothed> s = smooth(trace);
    std::vector<Piece> out;
    out.reserve(s.size());
    for (std::size_t i = 1; i < s.size(); ++i)
        out.push_back(trace.of == TraceOf::position ? quintic(s[i - 1], s[i]) : quartic(s[i - 1], s[i]));
    return out;
}

std::vector<Piece> knot_pieces(const Samples& k) {
    std::vector<Piece> out;
    out.reserve(k.rows());
    const auto state = [&](std::size_t i) { return Smoothed{k.at(i, 0), k.at(i, 1), k.at(i, 2), k.at(i, 3)}; };
    for (std::size_t i = 1; i < k.rows(); ++i) {
        const Smoothed a = state(i - 1);
        const Smoothed b = state(i);
        // a step of acceleration at a knot is written as two rows at one time
        if (b.time > a.time) out.push_back(quintic(a, b));
    }
    return out;
}

} // namespace fulmox

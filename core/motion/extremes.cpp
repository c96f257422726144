#include "core/motion/extremes.h"

#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>

namespace fulmox {

namespace {

using Coefficients = std::array<double, 8>;

double at(const Coefficients& c, int degree, double x) {
    double y = c[static_cast<std::size_t>(degree)];
    for (int k = degree - 1; k >= 0; --k) y = y * x + c[static_cast<std::size_t>(k)];
    return y;
}

Coefficients slope_of(const Coefficients& c, int degree) {
    Coefficients out{};
    for (int k = 1; k <= degree; ++k) out[static_cast<std::size_t>(k - 1)] = k * c[static_cast<std::size_t>(k)];
    return out;
}

// Σ |c_k| h^k from k on: no value within (0, h) exceeds it
double bound(const Coefficients& c, int degree, double h, int from) {
    double sum = 0;
    for (int k = degree; k >= from; --k) sum = sum * h + std::abs(c[static_cast<std::size_t>(k)]);
    return sum * std::pow(h, from);
}

double largest_inside(const Coefficients& c, int degree, double h, double known) {
    if (degree < 2 || bound(c, degree, h, 0) <= known) return 0;
    // between its ends it leaves the straight line by at most h²/8 of its second derivative
    double sag = 0;
    for (int k = degree; k >= 2; --k) sag = sag * h + k * (k - 1) * std::abs(c[static_cast<std::size_t>(k)]);
    if (std::max(std::abs(c[0]), std::abs(at(c, degree, h))) + sag * h * h / 8 <= known) return 0;
    double most = 0;
    for (const double x : zeros_inside(slope_of(c, degree), degree - 1, h))
        most = std::max(most, std::abs(at(c, degree, x)));
    return most;
}

} // namespace

std::vector<double> zeros_inside(const Coefficients& c, int degree, double h) {
    std::vector<double> out;
    if (degree < 1 || !(h > 0)) return out;
    if (std::abs(c[0]) > bound(c, degree, h, 1)) return out;
    if (degree == 1) {
        const double x = -c[0] / c[1];
        if (c[1] != 0 && x > 0 && x < h) out.push_back(x);
        return out;
    }
    if (degree == 2 && c[2] != 0) {
        const double square = c[1] * c[1] - 4 * c[2] * c[0];
        if (!(square > 0)) return out; // it touches zero at most
        // the sum that takes nothing away
        const double q = -(c[1] + std::copysign(std::sqrt(square), c[1])) / 2;
        for (const double x : {q / c[2], c[0] / q})
            if (x > 0 && x < h) out.push_back(x);
        std::sort(out.begin(), out.end());
        return out;
    }
    // between the zeros of its slope it is monotone
    std::vector<double> borders = zeros_inside(slope_of(c, degree), degree - 1, h);
    borders.push_back(h);
    double from = 0, y0 = c[0];
    for (const double to : borders) {
        const double y1 = at(c, degree, to);
        if (y0 * y1 < 0) {
            std::uintmax_t most = 100;
            const auto [low, high] = boost::math::tools::toms748_solve([&](double x) { return at(c, degree, x); }, from,
                to, y0, y1, boost::math::tools::eps_tolerance<double>(52), most);
            out.push_back((low + high) / 2);
        } else if (y1 == 0 && to < h) {
            out.push_back(to);
        }
        from = to;
        y0 = y1 != 0 ? y1 : y0;
    }
    return out;
}

std::vector<double> acceleration_zeros(const Piece& p) {
    const int degree = std::max(p.degree, 2);
    return zeros_inside(slope_of(slope_of(p.c, degree), degree - 1), degree - 2, p.duration);
}

bool may_be_slow(const Piece& p, double slow) {
    const int degree = std::max(p.degree, 2);
    return std::abs(p.c[1]) <= slow + bound(slope_of(p.c, degree), degree - 1, p.duration, 1);
}

std::vector<Piece> cut_at_speed(const Piece& p, double slow) {
    if (!may_be_slow(p, slow)) return {p};
    const double h = p.duration;
    const int degree = std::max(p.degree, 2);
    Coefficients v = slope_of(p.c, degree);
    std::vector<double> borders;
    const double begin = v[0];
    for (const double side : {slow, -slow}) {
        v[0] = begin - side;
        for (const double x : zeros_inside(v, degree - 1, h)) borders.push_back(x);
    }
    std::sort(borders.begin(), borders.end());
    borders.push_back(h);
    std::vector<Piece> out;
    double from = 0;
    for (const double to : borders) {
        if (to - from <= 0) continue;
        Piece part = p;
        part.start = p.start + from;
        part.duration = to - from;
        for (std::size_t i = 0; i < part.c.size(); ++i)
            for (std::size_t k = part.c.size() - 1; k-- > i;) part.c[k] += from * part.c[k + 1];
        out.push_back(part);
        from = to;
    }
    return out;
}

PieceExtremes extremes(const Piece& p, double known_speed, double known_acceleration, double known_jerk, double noise) {
    PieceExtremes out;
    const double h = p.duration;
    const int degree = std::max(p.degree, 2);
    const Coefficients v = slope_of(p.c, degree), a = slope_of(v, degree - 1), j = slope_of(a, degree - 2);
    out.speed = largest_inside(v, degree - 1, h, known_speed);
    out.acceleration = largest_inside(a, degree - 2, h, known_acceleration);
    out.jerk = largest_inside(j, degree - 3, h, known_jerk);
    std::vector<double> zeros = zeros_inside(v, degree - 1, h);
    if (zeros.empty()) return out;
    // how fast it goes between two zeros; by rounding alone it goes nowhere
    double fastest = 0;
    std::vector<double> borders{0};
    borders.insert(borders.end(), zeros.begin(), zeros.end());
    borders.push_back(h);
    std::vector<double> reached;
    for (std::size_t i = 1; i < borders.size(); ++i) {
        double most = 0;
        for (int k = 0; k <= 4; ++k) {
            const double x = borders[i - 1] + (borders[i] - borders[i - 1]) * k / 4;
            const double speed = at(v, degree - 1, x);
            if (std::abs(speed) > std::abs(most)) most = speed;
        }
        reached.push_back(most);
        fastest = std::max(fastest, std::abs(most));
    }
    double before = 0; // the last stretch that went anywhere
    for (std::size_t i = 0; i < reached.size(); ++i) {
        if (std::abs(reached[i]) <= std::max(1e-9 * fastest, noise)) continue;
        if (before * reached[i] < 0) out.reversals.push_back(borders[i]);
        before = reached[i];
    }
    return out;
}

} // namespace fulmox

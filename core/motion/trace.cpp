#include "core/motion/trace.h"

#include <algorithm>
#include <limits>

namespace fulmox {

namespace {

// The second derivative of the smoothed samples. Straight lines have jumps of slope d_i at the samples and nothing in
// between, so that it is Σ d_i k((t − t_i)/w)/w with k = 15/16 (1 − u²)², a quartic in t until a sample enters or
// leaves the window. Its coefficients are carried along and calculated again before rounding adds up.
class SecondDerivative {
  public:
    SecondDerivative(const Samples& s, double half) : s_(s), w_(half) {}

    /// Moves to the instant `t`; `first` and `last` are the samples in the window then, the last excluded.
    void go_to(double t, std::size_t first, std::size_t last) {
        const std::size_t width = last - first;
        if (fresh_ && steps_++ < std::max<std::size_t>(64, width)) {
            shift((t - at_) / w_);
            at_ = t;
            for (; last_ < last; ++last_) add(last_, 1);
            for (; first_ < first; ++first_) add(first_, -1);
        } else {
            at_ = t;
            c_ = {};
            for (std::size_t i = first; i < last; ++i) add(i, 1);
            first_ = first;
            last_ = last;
            fresh_ = true;
            steps_ = 0;
        }
    }
    /// Coefficients of (τ − t)/w, the instant gone to, for the second derivative by time.
    const std::array<double, 5>& coefficients() const { return c_; }
    double value(double t) const {
        const double u = (t - at_) / w_;
        double y = c_[4];
        for (std::size_t k = 4; k-- > 0;) y = y * u + c_[k];
        return y;
    }
    double slope(std::size_t i) const { return (s_.at(i + 1, 1) - s_.at(i, 1)) / (s_.at(i + 1, 0) - s_.at(i, 0)); }

  private:
    const Samples& s_;
    double w_;
    double at_ = 0;
    std::array<double, 5> c_{};
    std::size_t first_ = 0, last_ = 0, steps_ = 0;
    bool fresh_ = false;

    void add(std::size_t i, double sign) {
        const double d = sign * 15.0 / 16 * (slope(i) - slope(i - 1)) / w_;
        const double c = (at_ - s_.at(i, 0)) / w_, c2 = c * c;
        c_[0] += d * (1 - 2 * c2 + c2 * c2);
        c_[1] += d * 4 * (c2 * c - c);
        c_[2] += d * (6 * c2 - 2);
        c_[3] += d * 4 * c;
        c_[4] += d;
    }
    void shift(double by) {
        for (std::size_t i = 0; i < c_.size(); ++i)
            for (std::size_t k = c_.size() - 1; k-- > i;) c_[k] += by * c_[k + 1];
    }
};

// Value and first derivative of the smoothed samples at an instant whose window lies within the recording.
std::pair<double, double> smoothed_at(const Samples& s, double half, double t) {
    // the integral of k over (−1, u), and that of it: k is even, its mean 0
    const auto step = [](double u) { return 0.5 + 15.0 / 16 * u * (1 - u * u * (2.0 / 3 - u * u / 5)); };
    const auto ramp = [](double u) {
        const double u2 = u * u;
        return u / 2 + 15.0 / 16 * u2 * (0.5 - u2 * (1.0 / 6 - u2 / 30)) + 5.0 / 32;
    };
    // from the left edge of the window on the samples are a line and a kink at each sample inside
    std::size_t i = 0;
    const double left = t - half;
    while (i + 2 < s.rows() && s.at(i + 1, 0) <= left) ++i;
    const auto slope = [&](std::size_t k) { return (s.at(k + 1, 1) - s.at(k, 1)) / (s.at(k + 1, 0) - s.at(k, 0)); };
    double first = slope(i), value = s.at(i, 1) + first * (t - s.at(i, 0));
    double before = first;
    for (std::size_t k = i + 1; k + 1 < s.rows() && s.at(k, 0) < t + half; ++k) {
        const double now = slope(k), u = (t - s.at(k, 0)) / half;
        first += (now - before) * step(u);
        value += (now - before) * half * ramp(u);
        before = now;
    }
    return {value, first};
}

double typical_step(const Samples& s) {
    return (s.at(s.rows() - 1, 0) - s.at(0, 0)) / static_cast<double>(s.rows() - 1);
}

} // namespace

double half_width(const Trace& trace) {
    if (trace.window.given()) return trace.window.si / 2;
    const auto fit = (trace.samples.rows() - 1) / 2;
    return static_cast<double>(std::clamp<std::size_t>(10, 2, std::max<std::size_t>(2, fit))) *
           typical_step(trace.samples);
}

std::vector<Piece> trace_pieces(const Trace& trace) {
    const Samples& s = trace.samples;
    const std::size_t n = s.rows();
    const double start = s.at(0, 0), end = s.at(n - 1, 0), w = std::min(half_width(trace), (end - start) / 2);
    const double from = start + w, to = std::max(end - w, from);
    // where samples enter and leave the window; those that do so together, but for rounding, count once
    std::vector<double> borders{from};
    std::size_t entering = 0, leaving = 0;
    const double together = 1e-7 * typical_step(s);
    for (;;) {
        while (entering < n && s.at(entering, 0) - w <= borders.back() + together) ++entering;
        while (leaving < n && s.at(leaving, 0) + w <= borders.back() + together) ++leaving;
        const double next =
            std::min(entering < n ? s.at(entering, 0) - w : to, leaving < n ? s.at(leaving, 0) + w : to);
        if (next >= to - together) break;
        borders.push_back(next);
    }
    if (to > from) borders.push_back(to);
    SecondDerivative curve(s, w);
    const auto [value, slope] = smoothed_at(s, w, from);
    double g = value, g1 = slope;
    const bool of_position = trace.of == TraceOf::position;
    double position = of_position ? g : 0;
    std::vector<Piece> out;
    out.reserve(borders.size() + 1);
    // a piece whose smoothed column has these derivatives at its start; the rest of the second one by powers of τ/w
    const auto lay = [&](double begin, double duration, const std::array<double, 5>& second) {
        Piece p;
        p.start = begin;
        p.duration = duration;
        std::array<double, 7> c{g, g1};
        double power = 1;
        for (std::size_t k = 0; k < second.size(); ++k, power /= w)
            c[k + 2] = second[k] * power / static_cast<double>((k + 1) * (k + 2));
        if (of_position) {
            std::copy(c.begin(), c.end(), p.c.begin());
            p.degree = 6;
        } else {
            p.c[0] = position;
            for (std::size_t k = 0; k < c.size(); ++k) p.c[k + 1] = c[k] / static_cast<double>(k + 1);
            p.degree = 7;
        }
        while (p.degree > 2 && p.c[static_cast<std::size_t>(p.degree)] == 0) --p.degree;
        out.push_back(p);
        const Piece::State last = p.state(duration);
        position = last.position;
        g = of_position ? last.position : last.velocity;
        g1 = of_position ? last.velocity : last.acceleration;
    };
    const auto window_at = [&](double t, std::size_t& first, std::size_t& last) {
        while (first + 1 < n && s.at(first, 0) <= t - w + together) ++first;
        while (last + 1 < n && s.at(last, 0) < t + w - together) ++last;
    };
    // the first and the last sample are the ends of lines, not kinks
    std::size_t first = 1, last = 1;
    window_at(from, first, last);
    curve.go_to(from, first, last);
    const auto edge = [&](double t) { return of_position ? curve.value(t) : 0.0; };
    {
        // back from the first full window to the beginning at constant acceleration
        const double second = edge(from), v = g1 - second * w, x = g - g1 * w + second * w * w / 2;
        const double there = position;
        g = x;
        g1 = v;
        position = of_position ? x : there - (x * w + v * w * w / 2 + second * w * w * w / 6);
        lay(start, w, {second});
        // no drift from rounding
        g = value;
        g1 = slope;
        position = of_position ? value : there;
    }
    for (std::size_t i = 0; i + 1 < borders.size(); ++i) {
        const double middle = (borders[i] + borders[i + 1]) / 2;
        std::size_t a = first, b = last;
        while (a + 1 < n && s.at(a, 0) <= middle - w) ++a;
        while (b + 1 < n && s.at(b, 0) < middle + w) ++b;
        first = a;
        last = b;
        curve.go_to(borders[i], first, last);
        lay(borders[i], borders[i + 1] - borders[i], curve.coefficients());
    }
    lay(to, end - to, {edge(to)});
    return out;
}

double removed_noise(const Trace& trace, const std::vector<Piece>& pieces) {
    const std::size_t n = trace.samples.rows();
    if (pieces.empty() || n == 0) return 0;
    const double w = std::min(half_width(trace), (trace.samples.at(n - 1, 0) - trace.samples.at(0, 0)) / 2);
    const double inside = w * w / 14; // half the variance of the weight, w²/7
    double sum = 0;
    std::size_t at = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const double t = trace.samples.at(i, 0);
        while (at + 1 < pieces.size() && pieces[at + 1].start <= t) ++at;
        const Piece& p = pieces[at];
        const double tau = std::clamp(t - p.start, 0.0, p.duration);
        const Piece::State s = p.state(tau);
        const double kept =
            trace.of == TraceOf::position ? s.position - inside * s.acceleration : s.velocity - inside * s.jerk;
        sum += (trace.samples.at(i, 1) - kept) * (trace.samples.at(i, 1) - kept);
    }
    return std::sqrt(sum / static_cast<double>(n));
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

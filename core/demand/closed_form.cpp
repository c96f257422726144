#include "core/demand/closed_form.h"

#include "core/demand/evaluate.h"
#include "core/demand/span_polynomial.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace fulmox {

namespace {

double cross(const HullPoint& o, const HullPoint& a, const HullPoint& b) {
    return (a.torque - o.torque) * (b.acceleration - o.acceleration) -
           (a.acceleration - o.acceleration) * (b.torque - o.torque);
}

// Andrew's monotone chain.
std::vector<HullPoint> convex_hull(std::vector<HullPoint> p) {
    const auto less = [](const HullPoint& a, const HullPoint& b) {
        return a.torque < b.torque || (a.torque == b.torque && a.acceleration < b.acceleration);
    };
    const auto same = [](const HullPoint& a, const HullPoint& b) {
        return a.torque == b.torque && a.acceleration == b.acceleration;
    };
    std::sort(p.begin(), p.end(), less);
    p.erase(std::unique(p.begin(), p.end(), same), p.end());
    if (p.size() < 3) return p;
    std::vector<HullPoint> hull;
    const auto chain = [&](auto from, auto to, std::size_t base) {
        for (auto it = from; it != to; ++it) {
            while (hull.size() >= base + 2 && cross(hull[hull.size() - 2], hull.back(), *it) <= 0) hull.pop_back();
            hull.push_back(*it);
        }
        hull.pop_back();
    };
    chain(p.begin(), p.end(), 0);
    chain(p.rbegin(), p.rend(), hull.size());
    return hull;
}

// Leaves out corners that lie within a tolerance of the line between those kept; scales make both axes alike.
std::vector<HullPoint> thinned(std::vector<HullPoint> hull, double torque, double acceleration, double tolerance) {
    if (hull.size() < 4 || torque <= 0 || acceleration <= 0) return hull;
    std::vector<HullPoint> out{hull.front()};
    // from the stretch between a and b
    const auto away = [&](const HullPoint& a, const HullPoint& b, const HullPoint& p) {
        const double dx = (b.torque - a.torque) / torque, dy = (b.acceleration - a.acceleration) / acceleration;
        const double px = (p.torque - a.torque) / torque, py = (p.acceleration - a.acceleration) / acceleration;
        const double squared = dx * dx + dy * dy;
        const double along = squared > 0 ? std::clamp((px * dx + py * dy) / squared, 0.0, 1.0) : 0;
        return std::hypot(px - along * dx, py - along * dy);
    };
    std::size_t anchor = 0;
    for (std::size_t i = 1; i < hull.size(); ++i) {
        const HullPoint& next = hull[(i + 1) % hull.size()];
        for (std::size_t k = anchor + 1; k <= i; ++k)
            if (away(hull[anchor], next, hull[k]) > tolerance) {
                out.push_back(hull[i]);
                anchor = i;
                break;
            }
    }
    return out;
}

// The polygon of the points furthest out in eight directions: what lies well inside it is no corner of the hull.
class Frame {
  public:
    void scale(double torque, double acceleration) {
        torque_ = torque > 0 ? torque : 1;
        acceleration_ = acceleration > 0 ? acceleration : 1;
    }
    void widen(double torque, double acceleration) {
        const double x = torque / torque_, y = acceleration / acceleration_;
        const std::array<double, 4> reach{x, y, x + y, x - y};
        for (std::size_t k = 0; k < reach.size(); ++k) {
            if (empty_ || reach[k] > most_[k]) most_[k] = reach[k], corner_[k] = {x, y};
            if (empty_ || reach[k] < least_[k]) least_[k] = reach[k], corner_[4 + k] = {x, y};
        }
        empty_ = false;
    }
    void close() {
        if (empty_) return;
        polygon_ = convex_hull({corner_.begin(), corner_.end()});
        HullPoint centre;
        for (const HullPoint& p : polygon_) {
            centre.torque += p.torque / static_cast<double>(polygon_.size());
            centre.acceleration += p.acceleration / static_cast<double>(polygon_.size());
        }
        // a margin for what rises between the nodes
        for (HullPoint& p : polygon_) {
            p.torque = centre.torque + 0.98 * (p.torque - centre.torque);
            p.acceleration = centre.acceleration + 0.98 * (p.acceleration - centre.acceleration);
        }
    }
    bool inside(double torque, double acceleration) const {
        if (polygon_.size() < 3) return false;
        const HullPoint p{torque / torque_, acceleration / acceleration_};
        for (std::size_t i = 0; i < polygon_.size(); ++i)
            if (cross(polygon_[i], polygon_[(i + 1) % polygon_.size()], p) <= 0) return false;
        return true;
    }

  private:
    double torque_ = 1, acceleration_ = 1;
    std::array<double, 4> most_{}, least_{};
    std::array<HullPoint, 8> corner_{};
    std::vector<HullPoint> polygon_;
    bool empty_ = true;
};

// Where torque is linear in acceleration the extremes of acceleration tell the hull; laws have theirs at their ends.
bool straight(const Demand& d, const Span& s) {
    if (d.load.position_dependent() || d.load.fan != 0) return false;
    return s.piece.uniform() || (s.piece.one_way && d.load.viscous == 0 && s.process_rate == 0);
}

std::array<double, 3> factors(double forward, double backward) { return {1 / forward, backward, 1}; }

QuadraticSums combined(const ClosedForm& f, double forward, double backward) {
    const auto k = factors(forward, backward);
    QuadraticSums s;
    for (std::size_t r = 0; r < k.size(); ++r) {
        s.a += k[r] * k[r] * f.sums[r].a;
        s.b += k[r] * f.sums[r].b;
        s.c += f.sums[r].c;
    }
    return s;
}

// Torque and acceleration at the mechanism's shaft over one span.
struct Stretch {
    double direction = 0;
    double share = 0; // of the cycle
    bool straight = false;
    SpanPolynomial::Nodes torque, acceleration;
    SignEdges edges; // between them power comes from one side
    // 0 motoring, 1 generating, 2 standstill
    std::size_t side(double t) const { return direction == 0 ? 2 : t * direction >= 0 ? 0 : 1; }
};

// Collects what may be a corner of a hull.
class Corners {
  public:
    explicit Corners(const Demand& d) {
        SpanStates states;
        for (const Span& s : d.spans) {
            if (s.regime == Regime::braked || s.duration <= 0) continue;
            evaluate_nodes(d.load, s, states);
            const auto& torque = states.mechanism_torque;
            stretches_.push_back({s.direction, s.lasting() / d.cycle_time, straight(d, s), torque,
                states.mechanism_acceleration, s.direction == 0 ? SignEdges{} : sign_edges(torque, range_of(torque))});
            for (std::size_t i = 0; i < span_node_count; ++i) {
                torque_ = std::max(torque_, std::abs(states.mechanism_torque[i]));
                acceleration_ = std::max(acceleration_, std::abs(states.mechanism_acceleration[i]));
            }
        }
        for (Frame& f : frames_) f.scale(torque_, acceleration_);
    }

    // a span whose torque changes its sign has power of both sides
    std::array<QuadraticSums, 3> sums() const {
        std::array<QuadraticSums, 3> out;
        for (const Stretch& s : stretches_) {
            const SpanPolynomial t(s.torque), a(s.acceleration);
            for (std::size_t k = 1; k < s.edges.count; ++k) {
                const double from = s.edges.u[k - 1], to = s.edges.u[k];
                QuadraticSums& q = out[s.side(t((from + to) / 2))];
                q.a += s.share * integral([&](double u) { return t(u) * t(u); }, from, to);
                q.b += s.share * integral([&](double u) { return t(u) * a(u); }, from, to);
                q.c += s.share * integral([&](double u) { return a(u) * a(u); }, from, to);
            }
        }
        return out;
    }

    std::array<Hull, 3> hulls() {
        std::vector<const Stretch*> curved;
        for (const Stretch& s : stretches_) {
            if (seen_before(s)) continue;
            if (s.straight) {
                take_straight(s);
                continue;
            }
            curved.push_back(&s);
            for (std::size_t i = 0; i < span_node_count; ++i)
                frames_[s.side(s.torque[i])].widen(s.torque[i], s.acceleration[i]);
        }
        for (Frame& f : frames_) f.close();
        for (const Stretch* s : curved) take_curved(*s);
        const double tolerance = curved.empty() ? 1e-13 : 1e-5;
        std::array<Hull, 3> out;
        for (std::size_t r = 0; r < out.size(); ++r)
            out[r] = Hull(thinned(convex_hull(std::move(points_[r])), torque_, acceleration_, tolerance));
        return out;
    }

  private:
    std::vector<Stretch> stretches_;
    double torque_ = 0, acceleration_ = 0; // the largest
    std::array<Frame, 3> frames_;
    std::array<std::vector<HullPoint>, 3> points_;
    std::set<std::array<long, 5>> seen_;

    // cycles repeat their moves: a span with the same points is not gone through again
    bool seen_before(const Stretch& s) {
        const auto part = [](double value, double largest) {
            return largest > 0 ? std::lround(value / largest * 1e9) : 0;
        };
        return !seen_
                    .insert({std::lround(s.direction), part(s.torque.front(), torque_),
                        part(s.torque[span_node_count / 2], torque_), part(s.acceleration.front(), acceleration_),
                        part(s.acceleration.back(), acceleration_)})
                    .second;
    }
    void put(const Stretch& s, HullPoint p) { points_[s.side(p.torque)].push_back(p); }
    // where the power changes its side both sides end
    void put_zeros(const Stretch& s) {
        if (s.edges.count == 2) return;
        const SpanPolynomial acceleration(s.acceleration);
        for (std::size_t i = 1; i + 1 < s.edges.count; ++i)
            for (const std::size_t side : {0, 1}) points_[side].push_back({0, acceleration(s.edges.u[i])});
    }
    void take_straight(const Stretch& s) {
        const auto& a = s.acceleration;
        const auto [low, high] = std::minmax_element(a.begin(), a.end());
        for (const auto at : {a.begin(), low, high, a.end() - 1})
            put(s, {s.torque[static_cast<std::size_t>(at - a.begin())], *at});
        put_zeros(s);
    }
    void take_curved(const Stretch& s) {
        bool outside = false;
        for (std::size_t i = 0; i < span_node_count && !outside; ++i)
            outside = !frames_[s.side(s.torque[i])].inside(s.torque[i], s.acceleration[i]);
        if (!outside) return;
        // a curved path is followed more closely than the quadrature needs
        const SpanPolynomial torque(s.torque), acceleration(s.acceleration);
        constexpr int steps = 64;
        for (int i = 0; i <= steps; ++i) {
            const double u = static_cast<double>(i) / steps;
            const HullPoint p{torque(u), acceleration(u)};
            if (!frames_[s.side(p.torque)].inside(p.torque, p.acceleration)) put(s, p);
        }
        put_zeros(s);
    }
};

} // namespace

Hull::Hull(std::vector<HullPoint> corners) : corners_(std::move(corners)) {
    if (corners_.size() <= few) return;
    double torque = 0, acceleration = 0;
    std::size_t last = 0; // of most torque
    for (std::size_t i = 0; i < corners_.size(); ++i) {
        torque = std::max(torque, std::abs(corners_[i].torque));
        acceleration = std::max(acceleration, std::abs(corners_[i].acceleration));
        if (corners_[i].torque >= corners_[last].torque) last = i;
    }
    if (torque > 0 && acceleration > 0) acceleration_to_torque_ = acceleration / torque;
    guide(lower_, 0, last + 1, -1);
    guide(upper_, last, corners_.size() + 1 - last, 1);
}

// The angle's share in the half turn from +D by +α to −D, y ≥ 0; it need not be even, only rise.
double Hull::direction(double x, double y) const {
    const double up = y * acceleration_to_torque_, whole = std::abs(x) + up;
    return whole > 0 ? 0.5 - 0.5 * x / whole : 0;
}

void Hull::guide(Side& side, std::size_t begin, std::size_t count, double sign) {
    auto& steps = side.steps;
    const auto edge = [&](const HullPoint& from, const HullPoint& to) {
        return direction(sign * (to.acceleration - from.acceleration), std::max(0.0, sign * (from.torque - to.torque)));
    };
    for (std::size_t i = 0; i < count; ++i) {
        const HullPoint& next = corners_[(begin + i) % corners_.size()];
        // corners that lie together but for rounding may turn the wrong way
        while (steps.size() > 1 && edge(steps.back().corner, next) < steps[steps.size() - 2].until) steps.pop_back();
        if (!steps.empty()) steps.back().until = edge(steps.back().corner, next);
        steps.push_back({next, 2});
    }
    std::size_t at = 0;
    for (int c = 0; c <= cells; ++c) {
        while (steps[at].until < static_cast<double>(c) / cells) ++at;
        side.first[static_cast<std::size_t>(c)] = static_cast<std::uint16_t>(at);
    }
}

const HullPoint& Hull::Side::furthest(double direction) const {
    const Step* s = &steps[first[static_cast<std::size_t>(direction * cells)]];
    while (s->until < direction) ++s;
    return s->corner;
}

double Hull::reach(double x, double y) const {
    if (corners_.size() <= few) { // looking at them all is quicker
        double furthest = 0;
        for (const HullPoint& p : corners_) furthest = std::max(furthest, std::abs(x * p.torque + y * p.acceleration));
        return furthest;
    }
    if (y < 0) x = -x, y = -y;
    const double d = direction(x, y);
    if (std::isnan(d)) return d;
    const HullPoint &most = upper_.furthest(d), &least = lower_.furthest(d);
    return std::max(x * most.torque + y * most.acceleration, -(x * least.torque + y * least.acceleration));
}

ClosedForm closed_form(const Demand& d) {
    ClosedForm out;
    out.peak_speed = d.mechanism_peak_speed;
    Corners corners(d);
    out.sums = corners.sums();
    out.hulls = corners.hulls();
    return out;
}

double ClosedForm::rms_torque(double ratio, double inertia, double forward, double backward) const {
    const QuadraticSums s = combined(*this, forward, backward);
    const double ji = inertia * ratio;
    return std::sqrt(std::max(0.0, s.a / (ratio * ratio) + 2 * s.b * inertia + s.c * ji * ji));
}

double ClosedForm::peak_torque(double ratio, double inertia, double forward, double backward) const {
    const auto k = factors(forward, backward);
    double most = 0;
    for (std::size_t r = 0; r < k.size(); ++r) most = std::max(most, hulls[r].reach(k[r] / ratio, inertia * ratio));
    return most;
}

double best_ratio(const QuadraticSums& s, double inertia) {
    return s.c > 0 && inertia > 0 ? std::pow(s.a / (s.c * inertia * inertia), 0.25) : 0;
}

double least_rms(const QuadraticSums& s, double inertia) {
    return std::sqrt(std::max(0.0, 2 * inertia * (s.b + std::sqrt(s.a * s.c))));
}

double ClosedForm::best_ratio(double inertia, double forward, double backward) const {
    return fulmox::best_ratio(combined(*this, forward, backward), inertia);
}

double ClosedForm::least_rms(double inertia, double forward, double backward) const {
    return fulmox::least_rms(combined(*this, forward, backward), inertia);
}

} // namespace fulmox

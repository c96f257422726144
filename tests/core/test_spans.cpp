// The quadrature of a span, the polynomial between its nodes, and a demand cut into parts.
#include "core/demand/span_polynomial.h"
#include "core/match/assess.h"
#include "core/motor/capability.h"
#include "core/report/json_report.h"
#include "tests/mechanisms.h"

#include <atomic>
#include <boost/math/tools/roots.hpp>
#include <cmath>
#include <cstring>
#include <oneapi/tbb/global_control.h>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

using Coefficients = std::array<double, span_node_count>;

double power_series(const Coefficients& c, double u) {
    double y = 0;
    for (std::size_t k = c.size(); k-- > 0;) y = y * u + c[k];
    return y;
}

SpanPolynomial::Nodes at_nodes(const Coefficients& c) {
    SpanPolynomial::Nodes out{};
    for (std::size_t i = 0; i < out.size(); ++i) out[i] = power_series(c, span_nodes().at[i]);
    return out;
}

Coefficients any_polynomial() {
    Coefficients c{};
    for (double& x : c) x = *rc::gen::inRange(-1000, 1001) / 100.0;
    return c;
}

} // namespace

TEST_CASE("nodes and weights, Abramowitz and Stegun, table 25.6, n = 8") {
    const double x[]{0.2092992179, 0.5917001814, 0.8717401485, 1},
        w[]{0.4124587947, 0.3411226925, 0.2107042272, 2.0 / 56};
    const SpanNodes& n = span_nodes();
    for (std::size_t i = 0; i < 4; ++i) {
        CHECK(n.at[4 + i] == Approx((1 + x[i]) / 2).epsilon(1e-9));
        CHECK(n.at[3 - i] == Approx((1 - x[i]) / 2).margin(1e-10));
        CHECK(n.weight[4 + i] == Approx(w[i] / 2).epsilon(1e-9));
        CHECK(n.weight[3 - i] == n.weight[4 + i]);
    }
    CHECK(n.at.front() == 0);
    CHECK(n.at.back() == 1);
    // exact to degree 13, not to 14
    for (int degree = 0; degree <= 14; ++degree) {
        double sum = 0;
        for (std::size_t i = 0; i < span_node_count; ++i) sum += n.weight[i] * std::pow(n.at[i], degree);
        const double off = std::abs(sum * (degree + 1) - 1);
        INFO(degree);
        CHECK((degree <= 13 ? off < 1e-14 : off > 1e-8));
    }
}

TEST_CASE("a polynomial of degree 7 comes back from its nodes, with its slope and its integral") {
    const bool holds = rc::check([] {
        const Coefficients c = any_polynomial();
        const SpanPolynomial p(at_nodes(c));
        double size = 1;
        for (const double x : c) size += std::abs(x);
        for (int i = 0; i <= 20; ++i) {
            const double u = i / 20.0;
            RC_ASSERT(std::abs(p(u) - power_series(c, u)) < 1e-12 * size);
            double slope = 0;
            for (std::size_t k = c.size() - 1; k > 0; --k) slope = slope * u + static_cast<double>(k) * c[k];
            RC_ASSERT(std::abs(p.slope(u) - slope) < 1e-10 * size);
        }
        const double from = *rc::gen::inRange(0, 50) / 100.0, to = from + *rc::gen::inRange(1, 51) / 100.0;
        double exact = 0;
        for (std::size_t k = 0; k < c.size(); ++k) {
            const double n = static_cast<double>(k) + 1;
            exact += c[k] / n * (std::pow(to, n) - std::pow(from, n));
        }
        RC_ASSERT(std::abs(integral(p, from, to) - exact) < 1e-12 * size);
    });
    REQUIRE(holds);
}

TEST_CASE("where a quantity passes a level, against Boost's root finder") {
    const bool holds = rc::check([] {
        const Coefficients c = any_polynomial();
        const auto v = at_nodes(c);
        const SpanPolynomial p(v);
        const NodeRange r = range_of(v);
        const double level = r.low + (r.high - r.low) * *rc::gen::inRange(5, 96) / 100.0;
        for (std::size_t i = 0; i + 1 < v.size(); ++i) {
            if ((v[i] < level) == (v[i + 1] < level)) continue;
            const double from = span_nodes().at[i], to = span_nodes().at[i + 1];
            const double u = p.crossing(level, from, to, v[i], v[i + 1]);
            RC_ASSERT(u >= from && u <= to);
            std::uintmax_t rounds = 200;
            const auto found = boost::math::tools::toms748_solve([&](double x) { return power_series(c, x) - level; },
                from, to, v[i] - level, v[i + 1] - level, boost::math::tools::eps_tolerance<double>(50), rounds);
            // several crossings may lie between two nodes; any of them will do
            if (std::abs(u - found.first) > 1e-6)
                RC_ASSERT(std::abs(power_series(c, u) - level) < 1e-9 * (1 + r.high - r.low));
        }
    });
    REQUIRE(holds);
}

TEST_CASE("stretches of one sign, and the largest value between the nodes") {
    int crossed = 0;
    const bool holds = rc::check([&] {
        Coefficients c = any_polynomial();
        c[0] -= power_series(c, *rc::gen::inRange(1, 100) / 100.0); // zero somewhere inside
        const auto v = at_nodes(c);
        const NodeRange r = range_of(v);
        const SignEdges e = sign_edges(v, r);
        RC_ASSERT(e.u[0] == 0.0);
        RC_ASSERT(e.u[e.count - 1] == 1.0);
        crossed += static_cast<int>(e.count) - 2;
        for (std::size_t i = 0; i + 1 < e.count; ++i) RC_ASSERT(e.u[i] <= e.u[i + 1]);
        for (std::size_t i = 1; i + 1 < e.count; ++i)
            RC_ASSERT(std::abs(power_series(c, e.u[i])) < 1e-6 * (r.high - r.low));
        for (const double sign : {1.0, -1.0}) {
            const SpanExtreme x = largest(v, sign, sign > 0 ? r : r.turned(), -1e300);
            double fine = -1e300;
            for (int i = 0; i <= 4000; ++i) fine = std::max(fine, sign * power_series(c, i / 4000.0));
            RC_ASSERT(x.u >= 0 && x.u <= 1);
            RC_ASSERT(x.value >= fine - 2e-3 * (r.high - r.low));
            RC_ASSERT(std::abs(x.value - sign * power_series(c, x.u)) < 1e-9 * (1 + std::abs(x.value)));
        }
    });
    REQUIRE(holds);
    CHECK(crossed > 50);
}

TEST_CASE("the largest value of a smooth quantity is found between the nodes to 1e-9") {
    for (const double shift : {0.05, 0.13, 0.31, 0.5, 0.77, 0.96}) {
        SpanPolynomial::Nodes v{};
        for (std::size_t i = 0; i < v.size(); ++i) v[i] = 3 - std::pow(span_nodes().at[i] - shift, 2);
        const SpanExtreme x = largest(v, 1, range_of(v), 0);
        CHECK(x.value == Approx(3).epsilon(1e-9));
        CHECK(x.u == Approx(shift).margin(1e-4));
        // a floor nothing can reach: the largest node will do
        CHECK(largest(v, 1, range_of(v), 100).value <= 3);
    }
}

TEST_CASE("the same bits on one core and on many") {
    for (const char* kind : {"screw", "arm", "winder"}) {
        INFO(kind);
        Machine m = with_long_cycle(machine_with(kind), 1200);
        if (std::string(kind) == "winder") // winds on and on otherwise
            for (Segment& s : m.axes[0].cycle.segments)
                if (auto* mv = std::get_if<MoveInTime>(&s.what)) mv->distance.si *= 0.01;
        const auto on = [&](std::size_t cores) {
            const tbb::global_control limit(tbb::global_control::max_allowed_parallelism, cores);
            return assessment_json(m, {assess(m, 0)}, {}, {});
        };
        const std::string one = on(1);
        CHECK(one.find("demand.rms_torque") != std::string::npos);
        for (int again = 0; again < 3; ++again) CHECK(on(8) == one);
    }
}

TEST_CASE("a cycle of a thousand moves is the cycle of ten a hundred times over, and the same bits every time") {
    for (const char* kind : {"screw", "slider_crank", "table", "winder"}) {
        INFO(kind);
        Machine once = with_long_cycle(machine_with(kind), 12);
        if (std::string(kind) == "winder") // winds on and on otherwise
            for (Segment& s : once.axes[0].cycle.segments)
                if (auto* mv = std::get_if<MoveInTime>(&s.what)) mv->distance.si *= 0.01;
        Machine often = once;
        auto& list = often.axes[0].cycle.segments;
        for (int i = 1; i < 100; ++i)
            list.insert(list.end(), once.axes[0].cycle.segments.begin(), once.axes[0].cycle.segments.end());
        const Demand a = demand_of(once), b = demand_of(often), c = demand_of(often);
        CHECK(b.spans.size() > 1000);
        CHECK(b.cycle_time == Approx(100 * a.cycle_time));
        CHECK(b.rms_torque == Approx(a.rms_torque).epsilon(1e-9));
        CHECK(b.rms_speed == Approx(a.rms_speed).epsilon(1e-9));
        CHECK(b.energy_delivered == Approx(100 * a.energy_delivered).epsilon(1e-9));
        CHECK(b.energy_returned == Approx(100 * a.energy_returned).epsilon(1e-9));
        CHECK(std::abs(b.peak.torque) == Approx(std::abs(a.peak.torque)).epsilon(1e-9));
        CHECK(b.coupling_peak == Approx(a.coupling_peak).epsilon(1e-9));
        CHECK(b.peak_power == Approx(a.peak_power).epsilon(1e-9));
        for (std::size_t k = 0; k < cause_count; ++k) CHECK(b.rms_share[k] == Approx(a.rms_share[k]).margin(1e-9));
        for (std::size_t i = 0; i + 1 < b.spans.size(); ++i)
            REQUIRE(b.spans[i].start + b.spans[i].duration == Approx(b.spans[i + 1].start).epsilon(1e-12));
        CHECK(std::memcmp(&b.rms_torque, &c.rms_torque, sizeof(double)) == 0);
        CHECK(std::memcmp(&b.energy_delivered, &c.energy_delivered, sizeof(double)) == 0);
        CHECK(b.peak.time == c.peak.time);
        CHECK(b.spans.size() == c.spans.size());
    }
}

TEST_CASE("peaks, powers, worst point and loss of every mechanism against a fine sampling") {
    for (const Option& kind : mechanism_kinds()) {
        INFO(kind.key);
        Machine m = with_long_cycle(machine_with(kind.key), 6);
        const auto* w = std::get_if<Winder>(&m.axes[0].mechanism);
        const Demand d = demand_of(m, w ? full_web(*w) / 2 : 0);
        // a motor of three times the torque and 1.4 times the speed this axis wants
        Motor motor = m.axes[0].motor;
        motor.peak.clear();
        motor.continuous.clear();
        for (int i = 0; i < 6; ++i) {
            const double speed = d.peak_speed * 1.4 * i / 5, droop = 1 - 0.02 * i * i;
            CurvePoint p;
            p.speed.si = speed;
            p.torque.si = 3 * std::abs(d.peak.torque) * droop;
            p.speed.text = p.torque.text = "given";
            motor.peak.push_back(p);
            p.torque.si = 1.2 * d.rms_torque * droop;
            motor.continuous.push_back(p);
        }
        const MotorUse use = motor_use(d, capability(motor, m.axes[0].drive, m.site));
        double peak = 0, motoring = 0, braking = 0, power = 0, back = 0, fastest = 0, coupling = 0, worst = 0, left = 0;
        const double stall = use.can.continuous.stall();
        for (const Span& s : d.spans) {
            constexpr int steps = 400; // by Simpson's rule
            for (int i = 0; i <= steps; ++i) {
                const ShaftState e = evaluate(d.load, s, s.start + s.duration * i / steps);
                const double p = e.torque * e.speed, t = std::abs(e.torque);
                peak = std::max(peak, t);
                if (p > 0) motoring = std::max(motoring, t);
                if (p < 0) braking = std::max(braking, t);
                power = std::max(power, p);
                back = std::max(back, -p);
                fastest = std::max(fastest, std::abs(e.speed));
                coupling = std::max(coupling, std::abs(e.coupling_torque));
                worst = std::max(worst, t / use.can.peak.at(e.speed));
                const double c = use.can.continuous.at(e.speed);
                const double weight = (i == 0 || i == steps ? 1 : i % 2 ? 4 : 2) / (3.0 * steps);
                left += weight * s.duration * (c * c - (1 - use.can.heat_factor) * stall * stall);
            }
        }
        CHECK(std::abs(d.peak.torque) == Approx(peak).epsilon(1e-4));
        CHECK(std::abs(d.peak.torque) >= peak * (1 - 1e-9));
        CHECK(std::abs(d.peak_motoring.torque) == Approx(motoring).epsilon(1e-3));
        CHECK(std::abs(d.peak_braking.torque) == Approx(braking).epsilon(1e-3).margin(1e-9));
        CHECK(d.peak_power == Approx(power).epsilon(1e-4));
        CHECK(d.peak_return == Approx(back).epsilon(1e-3).margin(1e-9));
        CHECK(d.peak_speed == Approx(fastest).epsilon(1e-6));
        CHECK(d.coupling_peak == Approx(coupling).epsilon(1e-4).margin(1e-12));
        CHECK(use.worst_peak_use == Approx(worst).epsilon(1e-4));
        CHECK(use.heat_use() == Approx(d.rms_torque / std::sqrt(left / d.cycle_time)).epsilon(1e-5));
        const ShaftState there = d.at(use.worst_peak.time);
        CHECK(
            std::abs(use.worst_peak.torque) / use.can.peak.at(there.speed) == Approx(use.worst_peak_use).epsilon(1e-3));
    }
}

TEST_CASE("turns at constant speed that are alike are gone through once and count as often as they come") {
    for (const char* key : {"table", "slider_crank", "scotch_yoke"}) {
        // the same run once in one segment and once in segments of less than three turns, which are gone through
        const auto run = [&](int parts) {
            Machine m = machine_with(key);
            SpeedChange up, down;
            up.speed = MotionQuantity<Order::speed>("60 rpm");
            up.duration = down.duration = Quantity<Kind::time>("0.4 s");
            down.speed = MotionQuantity<Order::speed>("0 rpm");
            std::vector<Segment> segments(static_cast<std::size_t>(parts) + 2);
            segments.front().what = up;
            segments.back().what = down;
            for (int i = 1; i <= parts; ++i) {
                ConstantSpeed c;
                c.duration = Quantity<Kind::time>(parts == 1 ? "48 s" : "2.4 s");
                segments[static_cast<std::size_t>(i)].what = c;
            }
            m.axes[0].cycle.segments = segments;
            return assess(m, 0);
        };
        const Assessment once = run(1), all = run(20);
        INFO(key);
        REQUIRE(once.demand);
        REQUIRE(all.demand);
        CHECK(once.demand->spans.size() < all.demand->spans.size() / 5);
        double lasting = 0;
        for (const Span& s : once.demand->spans) lasting += s.lasting();
        CHECK(lasting == Approx(once.demand->cycle_time).epsilon(1e-12));
        int compared = 0;
        for (const Figure& f : all.figures) {
            const Figure* other = once.figure(f.key.c_str());
            INFO(f.key);
            REQUIRE(other);
            if (!std::isfinite(f.si)) continue;
            // heat and energy are those of the mean of a turn
            const bool of_means = f.key.starts_with("heat.") || f.key.starts_with("energy.");
            CHECK(other->si == Approx(f.si).epsilon(of_means ? 5e-2 : 1e-9).margin(1e-12));
            ++compared;
        }
        CHECK(compared > 20);
        for (const double t : {0.1, 0.5, 7.77, 31.4, 48.2, 48.7})
            CHECK(once.demand->at(t).torque == Approx(all.demand->at(t).torque).epsilon(1e-9).margin(1e-12));
    }
}

// Laws, ramps, segment kinds, and the cycles they make.
#include "core/demand/closed_form.h"
#include "core/motion/trajectory.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <numbers>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

Segment in_time(const char* distance, const char* time, Law law = Law::trapezoid) {
    Segment s;
    MoveInTime m;
    m.distance = MotionQuantity<Order::position>(distance);
    m.duration = Quantity<Kind::time>(time);
    m.law = law;
    s.what = m;
    return s;
}

template <class T> Segment segment(T what) {
    Segment s;
    s.what = std::move(what);
    return s;
}

Cycle cycle(std::vector<Segment> segments) {
    Cycle c;
    c.segments = std::move(segments);
    return c;
}

std::string first_error(const Plan& p) {
    for (const Problem& x : p.problems)
        if (x.severity == Severity::error) return x.path + ": " + x.message;
    return "";
}

// Every piece begins where the one before it ends, in position and speed; derivatives agree with differences.
void continuous(const Trajectory& t, bool smooth_acceleration) {
    for (std::size_t i = 0; i < t.pieces.size(); ++i) {
        const Piece& p = t.pieces[i];
        if (i > 0) {
            const Piece& o = t.pieces[i - 1];
            const double scale = 1 + t.peak_speed;
            CHECK(p.position(0) == Approx(o.position(o.duration)).margin(1e-10 * (1 + t.path)));
            CHECK(p.velocity(0) == Approx(o.velocity(o.duration)).margin(1e-9 * scale));
            if (smooth_acceleration)
                CHECK(p.acceleration(0) == Approx(o.acceleration(o.duration)).margin(1e-7 * (1 + t.peak_acceleration)));
        }
        const double h = 1e-4 * p.duration, m = 0.4 * p.duration;
        CHECK((p.position(m + h) - p.position(m - h)) / (2 * h) ==
              Approx(p.velocity(m)).epsilon(1e-6).margin(1e-6 * t.peak_speed));
        CHECK((p.velocity(m + h) - p.velocity(m - h)) / (2 * h) ==
              Approx(p.acceleration(m)).epsilon(1e-6).margin(1e-6 * (t.peak_acceleration + 1e-9)));
        CHECK((p.acceleration(m + h) - p.acceleration(m - h)) / (2 * h) ==
              Approx(p.jerk(m)).epsilon(1e-5).margin(1e-5 * t.peak_acceleration / p.duration));
        const Piece::State s = p.state(m);
        CHECK(s.position == Approx(p.position(m)).margin(1e-12));
        CHECK(s.velocity == Approx(p.velocity(m)).margin(1e-12));
        CHECK(s.acceleration == Approx(p.acceleration(m)).margin(1e-9));
    }
}

} // namespace

TEST_CASE("every law goes from rest to rest over its distance, smoothly where it should") {
    for (std::size_t k = 0; k < std::size(laws); ++k) {
        INFO(laws[k].key);
        const Law law = static_cast<Law>(k);
        const Plan p = plan(cycle({in_time("300 mm", "0.7 s", law), in_time("-300 mm", "0.5 s", law)}));
        REQUIRE(p.problems.empty());
        const bool jumps = law == Law::trapezoid || law == Law::parabolic || law == Law::simple_harmonic;
        continuous(p.motion, !jumps);
        CHECK(p.motion.highest == Approx(0.3));
        CHECK(p.motion.duration == Approx(1.2));
        CHECK(p.motion.path == Approx(0.6));
        CHECK(std::abs(p.motion.advance) < 1e-12);
        CHECK(std::isinf(p.motion.peak_jerk) == jumps);
        const LawCoefficients c = coefficients(unit_law(law));
        CHECK(p.motion.peak_speed == Approx(c.cv * 0.3 / 0.5));
        CHECK(p.motion.peak_acceleration == Approx(c.ca * 0.3 / 0.25));
    }
}

TEST_CASE("the shortest ramp is that of the motion, and a bandwidth of 3 to 5 over it settles within it") {
    const auto of = [](std::vector<Segment> segments) { return plan(cycle(std::move(segments))).motion; };
    // 0.6 s in thirds
    const Trajectory thirds =
        of({in_time("300 mm", "0.6 s", Law::trapezoid), in_time("-300 mm", "0.9 s", Law::trapezoid)});
    CHECK(thirds.shortest_ramp == Approx(0.2));
    CHECK(thirds.least_bandwidth() == Approx(15 / (2 * std::numbers::pi)));
    CHECK(thirds.ample_bandwidth() == Approx(25 / (2 * std::numbers::pi)));
    // these are in their ramps all the time, half of it each way
    for (const Law law : {Law::parabolic, Law::simple_harmonic, Law::cycloidal, Law::modified_sine, Law::polynomial_345,
             Law::polynomial_4567}) {
        INFO(static_cast<int>(law));
        CHECK(of({in_time("300 mm", "0.6 s", law), in_time("-300 mm", "0.9 s", law)}).shortest_ramp == Approx(0.3));
    }
    // rounding belongs to the ramp, and a ramp of less than a tenth of the peak speed is none
    const auto to = [](const char* speed, const char* time) {
        SpeedChange c;
        c.speed = MotionQuantity<Order::speed>(speed);
        c.duration = Quantity<Kind::time>(time);
        c.rounding = Quantity<Kind::number>("0.5");
        return segment(c);
    };
    CHECK(of({to("1 m/s", "0.5 s"), to("1.09 m/s", "0.01 s"), to("0", "0.4 s")}).shortest_ramp == Approx(0.4));
    CHECK(of({to("1 m/s", "0.5 s"), to("1.2 m/s", "0.01 s"), to("0", "0.4 s")}).shortest_ramp == Approx(0.01));
    Dwell rest;
    rest.duration = Quantity<Kind::time>("1 s");
    CHECK(std::isinf(of({segment(rest)}).shortest_ramp));
}

TEST_CASE("a rounded trapezoid: jerk takes its share, the peak acceleration grows by 1/(1 − s/2)") {
    for (const double s : {0.0, 0.25, 0.5, 1.0}) {
        const LawCoefficients c = coefficients(unit_law(Law::trapezoid, 1.0 / 3, 1.0 / 3, s));
        CHECK(c.cv == Approx(1.5));
        CHECK(c.ca == Approx(4.5 / (1 - s / 2)));
        if (s > 0) CHECK(c.cj == Approx(4.5 / (1 - s / 2) / (s / 6)));
    }
}

TEST_CASE("S-curves cover their distance within every limit, and some limit always binds") {
    const bool holds = rc::check([] {
        const auto positive = [](double low, double high) {
            return low * std::pow(high / low, *rc::gen::inRange(0, 1001) / 1000.0);
        };
        const double d = positive(1e-4, 10), v = positive(1e-2, 5), a = positive(0.1, 50), b = positive(0.1, 50),
                     j = positive(1, 5000);
        const bool equal = *rc::gen::arbitrary<bool>();
        const Profile p = profile_by_limits(d, v, a, equal ? a : b, j);
        const double covered = p.peak_speed * (p.up.duration / 2 + p.cruising + p.down.duration / 2);
        RC_ASSERT(std::abs(covered - d) <= 1e-9 * d);
        RC_ASSERT(p.peak_speed <= v * (1 + 1e-9));
        RC_ASSERT(p.up.acceleration <= a * (1 + 1e-9));
        RC_ASSERT(p.down.acceleration <= (equal ? a : b) * (1 + 1e-9));
        RC_ASSERT(p.up.acceleration <= j * p.up.jerk_time * (1 + 1e-9));
        // the speed each ramp reaches
        const auto reached = [](const Ramp& r) { return r.acceleration * (r.duration - r.jerk_time); };
        RC_ASSERT(std::abs(reached(p.up) / p.peak_speed - 1) < 1e-9);
        RC_ASSERT(std::abs(reached(p.down) / p.peak_speed - 1) < 1e-9);
        RC_ASSERT(p.cruising == 0 || std::abs(p.peak_speed / v - 1) < 1e-9);
    });
    REQUIRE(holds);
}

TEST_CASE("the degenerate S-curves in closed form") {
    // handbook 02; v 1 m/s, a 2 m/s², j 20 m/s³: the ramp takes v/a + a/j = 0.6 s, both ramps cover 0.6 m
    CHECK(profile_by_limits(1, 1, 2, 2, 20).duration() == Approx(1.2 + 0.4));
    // speed not reached, acceleration reached: v²/a + v a/j = d
    const Profile s = profile_by_limits(0.2, 1, 2, 2, 20);
    CHECK(s.cruising == 0);
    CHECK(s.peak_speed * s.peak_speed / 2 + s.peak_speed * 0.1 == Approx(0.2));
    // neither reached: d = 2 v √(v/j), T = 4 ∛(d/2j)
    const Profile t = profile_by_limits(0.001, 1, 2, 2, 20);
    CHECK(t.up.acceleration < 2);
    CHECK(t.duration() == Approx(4 * std::cbrt(0.001 / 40)));
    // acceleration not reached, speed reached: a ramp takes 2 √(v/j)
    const Profile u = profile_by_limits(1, 0.1, 2, 2, 20);
    CHECK(u.up.duration == Approx(2 * std::sqrt(0.1 / 20)));
    CHECK(u.up.acceleration < 2);
}

TEST_CASE("targets, jogs, speed changes, constant speed and repeats make one closed cycle") {
    MoveByLimits to;
    to.distance = MotionQuantity<Order::position>("120 mm");
    to.reference = Reference::target;
    to.speed = MotionQuantity<Order::speed>("200 mm/s");
    to.acceleration = MotionQuantity<Order::acceleration>("2 m/s²");
    to.jerk = MotionQuantity<Order::jerk>("40 m/s³");
    MoveByLimits home = to;
    home.distance = MotionQuantity<Order::position>("0 mm");
    SpeedChange faster;
    faster.speed = MotionQuantity<Order::speed>("100 mm/s");
    faster.duration = Quantity<Kind::time>("0.2 s");
    faster.rounding = Quantity<Kind::number>("0.5");
    ConstantSpeed on;
    on.distance = MotionQuantity<Order::position>("50 mm");
    SpeedChange stop = faster;
    stop.speed = MotionQuantity<Order::speed>("0 mm/s");
    Jog back;
    back.speed = MotionQuantity<Order::speed>("-100 mm/s");
    back.acceleration = MotionQuantity<Order::acceleration>("1 m/s²");
    back.duration = Quantity<Kind::time>("0.8 s");
    Repeat again;
    again.segments = Quantity<Kind::number>("2");
    again.times = Quantity<Kind::number>("3");
    const Plan p = plan(
        cycle({segment(faster), segment(on), segment(stop), segment(back), segment(to), segment(home), segment(again)}),
        {false, false, false, Motion::carriage});
    INFO(first_error(p));
    REQUIRE(p.problems.empty());
    continuous(p.motion, false);
    // ramps 0.2 s at mean 50 mm/s: 10 + 50 + 10 mm forth, the jog 100 mm/s × (0.8 − 0.1) s back
    CHECK(p.motion.phases[3].start == Approx(0.2 + 0.5 + 0.2));
    CHECK(p.motion.at(0.9).position(0) == Approx(0.07));
    CHECK(p.motion.highest == Approx(0.12));
    CHECK(std::abs(p.motion.advance) < 1e-12);
    REQUIRE(p.motion.phases.size() == 4 + 2 * 3);
    CHECK(p.motion.phases[9].segment == 5);
    CHECK(p.motion.phase_at(p.motion.duration - 1e-6).segment == 5);
}

TEST_CASE("an axis that never stops begins and ends at its speed") {
    Cycle c;
    c.start_speed = MotionQuantity<Order::speed>("0.5 m/s");
    SpeedChange slow;
    slow.speed = MotionQuantity<Order::speed>("0.2 m/s");
    slow.duration = Quantity<Kind::time>("1 s");
    SpeedChange fast = slow;
    fast.speed = MotionQuantity<Order::speed>("0.5 m/s");
    c.segments = {segment(slow), segment(fast)};
    const Plan p = plan(c, {false, false, false, 0});
    CHECK(p.problems.empty());
    CHECK(p.motion.advance == Approx(0.7));
    c.segments.pop_back();
    CHECK_THAT(first_error(plan(c)), Contains("ends at") && Contains("begins at"));
}

TEST_CASE("cycles that cannot be are refused with the segment and the remedy") {
    SpeedChange go;
    go.speed = MotionQuantity<Order::speed>("1 m/s");
    go.duration = Quantity<Kind::time>("1 s");
    CHECK_THAT(
        first_error(plan(cycle({segment(go), in_time("1 m", "1 s")}))), Contains("/segments/1") && Contains("runs at"));
    ConstantSpeed never;
    never.distance = MotionQuantity<Order::position>("10 mm");
    CHECK_THAT(first_error(plan(cycle({segment(never)}))), Contains("/segments/0") && Contains("never covered"));
    ConstantSpeed both = never;
    both.duration = Quantity<Kind::time>("1 s");
    CHECK_THAT(first_error(plan(cycle({segment(both)}))), Contains("either"));
    Jog brief;
    brief.speed = MotionQuantity<Order::speed>("1 m/s");
    brief.acceleration = MotionQuantity<Order::acceleration>("1 m/s²");
    brief.duration = Quantity<Kind::time>("0.5 s");
    CHECK_THAT(first_error(plan(cycle({segment(brief)}))), Contains("ramps alone"));
    CHECK_THAT(first_error(plan(cycle({segment(Repeat{})}))), Contains("stand before it"));
    Repeat many;
    many.times = Quantity<Kind::number>("10000");
    std::vector<Segment> deep{in_time("1 mm", "1 s")};
    for (int i = 0; i < 9; ++i) deep.push_back(segment(many));
    CHECK(!first_error(plan(cycle(deep))).empty()); // refused, not run for ever
    CHECK_THAT(first_error(plan(cycle({segment(Trace{})}))), Contains("fewer than 5 samples"));
}

TEST_CASE("the hull's answer is the full answer on random cycles, mechanisms and laws") {
    for (const Option& kind : mechanism_kinds()) {
        const std::string key = kind.key;
        const Machine base = machine_with(key);
        if (motion_of(base.axes[0].mechanism).direct) continue;
        INFO(key);
        const bool holds = rc::check([&] {
            Machine m = base;
            m.axes[0].motor = Motor{};
            const int law = *rc::gen::inRange(0, static_cast<int>(std::size(laws)));
            for (Segment& s : m.axes[0].cycle.segments)
                if (auto* mv = std::get_if<MoveInTime>(&s.what)) {
                    mv->law = static_cast<Law>(law);
                    mv->duration.si *= *rc::gen::inRange(50, 200) * 0.01;
                }
            const ClosedForm f = closed_form(demand_of(m));
            const double ratio = *rc::gen::inRange(5, 200) * 0.1, inertia = *rc::gen::inRange(1, 300) * 1e-5;
            const double eta = *rc::gen::inRange(60, 101) * 0.01;
            Stage s;
            s.ratio.si = ratio;
            s.ratio.text = "x";
            s.efficiency.si = eta;
            s.efficiency.text = "x";
            m.axes[0].stages = {s};
            m.axes[0].motor = demo().axes[0].motor;
            m.axes[0].motor.rotor_inertia.si = inertia;
            m.axes[0].motor.brake_inertia = {};
            const Demand full = demand_of(m);
            RC_ASSERT(std::abs(f.rms_torque(ratio, inertia, eta, 2 - 1 / eta) / full.rms_torque - 1) < 1e-7);
            // between the nodes of a curved path the hull is a chord
            const double slack =
                m.axes[0].load.viscous.given() || demand_of(m).load.position_dependent() || key == "fan" ? 2e-4 : 1e-6;
            RC_ASSERT(
                std::abs(f.peak_torque(ratio, inertia, eta, 2 - 1 / eta) / std::abs(full.peak.torque) - 1) < slack);
        });
        REQUIRE(holds);
    }
}

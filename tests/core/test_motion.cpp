#include "core/motion/trajectory.h"
#include "tests/demo.h"

#include <cmath>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("trapezoid by limits is the least time, and becomes a triangle") {
    // d ≥ v²/a: T = d/v + v/a; else T = 2 √(d/a). Handbook 02, elementary kinematics.
    const Profile t = profile_by_limits(1, 0.5, 2, 2);
    CHECK(t.duration() == Approx(1 / 0.5 + 0.5 / 2));
    CHECK(t.peak_speed == 0.5);
    const Profile s = profile_by_limits(0.01, 0.5, 2, 2);
    CHECK(s.duration() == Approx(2 * std::sqrt(0.01 / 2)));
    CHECK(s.cruising == 0);
    // unequal limits: 2/(1/a + 1/b) stands for a
    const Profile u = profile_by_limits(0.01, 10, 2, 6);
    CHECK(u.duration() == Approx(2 * std::sqrt(0.01 / 3)));
    CHECK(u.peak_speed == Approx(2 * u.up.duration));
    CHECK(u.peak_speed == Approx(6 * u.down.duration));
}

TEST_CASE("trapezoids cover their distance and stay within limits, for random limits") {
    const bool holds = rc::check([] {
        const auto positive = [] { return *rc::gen::inRange(1, 100000) * 1e-4; };
        const double d = positive(), v = positive(), a = positive(), b = positive();
        const Profile t = profile_by_limits(d, v, a, b);
        const double covered = t.peak_speed * (t.up.duration / 2 + t.cruising + t.down.duration / 2);
        RC_ASSERT(std::abs(covered - d) < 1e-12 * std::max(1.0, d));
        RC_ASSERT(t.peak_speed <= v * (1 + 1e-12));
        RC_ASSERT(t.peak_speed <= a * t.up.duration * (1 + 1e-12));
    });
    REQUIRE(holds);
}

TEST_CASE("1/3 trapezoid: Cv, Ca and the heat of the acceleration") {
    // VDI 2143-1: Cv 1.5, Ca 4.5, RMS acceleration 4.5 √(2/3)
    const Profile t = profile_in_time(1, 1, 1.0 / 3, 1.0 / 3);
    CHECK(t.peak_speed == Approx(1.5));
    CHECK(t.peak_speed / t.up.duration == Approx(4.5));
    const Profile triangle = profile_in_time(1, 1, 0.5, 0.5);
    CHECK(triangle.peak_speed == Approx(2));
    CHECK(triangle.peak_speed / triangle.up.duration == Approx(4));
}

TEST_CASE("the plan is continuous and comes back") {
    const Machine m = demo();
    const Trajectory t = plan(m.axes[0].cycle).motion;
    double x = 0, v = 0, at = 0;
    for (const Piece& p : t.pieces) {
        CHECK(p.start == Approx(at).margin(1e-12));
        CHECK(p.position(0) == Approx(x).margin(1e-12));
        CHECK(p.velocity(0) == Approx(v).margin(1e-12));
        x = p.position(p.duration);
        v = p.velocity(p.duration);
        at = p.start + p.duration;
        // the derivative of position is velocity
        const double h = p.duration / 1000, mid = p.duration / 2;
        CHECK((p.position(mid + h) - p.position(mid - h)) / (2 * h) == Approx(p.velocity(mid)).margin(1e-9));
        CHECK((p.velocity(mid + h) - p.velocity(mid - h)) / (2 * h) == Approx(p.acceleration(mid)).margin(1e-9));
    }
    CHECK(at == Approx(t.duration));
    CHECK(std::abs(t.advance) < 1e-15);
    CHECK(t.stroke() == Approx(0.4));
    CHECK(t.path == Approx(0.8));
    CHECK(t.moving_time + 0.75 == Approx(t.duration));
    CHECK(plan(m.axes[0].cycle, motion_of(m.axes[0].mechanism)).problems.empty());
}

TEST_CASE("an axis that does not return is flagged") {
    Machine m = demo();
    set(m, "/cycle/segments/2/what/distance", "-390 mm");
    const Problems p = plan(m.axes[0].cycle, motion_of(m.axes[0].mechanism)).problems;
    REQUIRE(p.size() == 1);
    CHECK(p[0].severity == Severity::suspicious);
    CHECK(p[0].message.find("10 mm") != std::string::npos);
}

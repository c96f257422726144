#include "core/load/bodies.h"
#include "core/load/screw.h"
#include "core/load/statement.h"
#include "tests/demo.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("the statement adds up and follows the lead squared") {
    Machine m = demo();
    const InertiaStatement a = inertia_statement(m, m.axes[0], over_cycle(m), true);
    double load = 0;
    for (const InertiaShare& s : a.shares)
        if (!s.rotor_side) load += s.at_shaft;
    CHECK(a.load == Approx(load).epsilon(1e-14));
    const auto share = [](const InertiaStatement& i, const std::string& key) {
        for (const InertiaShare& s : i.shares)
            if (s.key == key) return s.at_shaft;
        return -1.0;
    };
    set(m, "/mechanism/lead", "2 mm");
    const InertiaStatement b = inertia_statement(m, m.axes[0], over_cycle(m), true);
    // a fifth of the lead gives a 25th of the inertia
    CHECK(share(b, "payload") == Approx(share(a, "payload") / 25));
    CHECK(share(b, "screw") == Approx(share(a, "screw")));
    CHECK(a.ratio() == Approx(a.load / a.rotor));
    CHECK(a.ratio_least() < a.ratio());
}

TEST_CASE("reflected inertia is what the kinetic energy says") {
    const Machine m = demo();
    const InertiaStatement s = inertia_statement(m, m.axes[0], over_cycle(m), false);
    const Screw& screw = std::get<Screw>(m.axes[0].mechanism);
    const double omega = 3.7;
    const double v = omega * screw_radius(screw);
    const double mass = 11 + 34;
    const double turning = screw_inertia(screw) + m.axes[0].coupling.inertia.si;
    CHECK(0.5 * s.load * omega * omega == Approx(0.5 * mass * v * v + 0.5 * turning * omega * omega).epsilon(1e-12));
}

TEST_CASE("a counterweight adds inertia and takes its weight off gravity") {
    Machine m = demo();
    const LoadModel without = load_model(m, m.axes[0]);
    set(m, "/load/counterweight", "35 kg");
    const LoadModel with = load_model(m, m.axes[0]);
    CHECK(with.moving_mass == Approx(without.moving_mass + 35));
    CHECK(with.weight_mass == without.weight_mass);
    CHECK(with.counterbalance == Approx(35 * 9.80665));
}

TEST_CASE("efficiency: given, given both ways, from the thread, self-locking") {
    Screw s;
    s.lead = Quantity<Kind::length>("10 mm");
    s.diameter = Quantity<Kind::length>("20 mm");
    s.efficiency = Quantity<Kind::number>("0.9");
    CHECK(screw_efficiency(s, false).backward == Approx(2 - 1 / 0.9));
    s.efficiency_back = Quantity<Kind::number>("-0.1");
    CHECK(screw_efficiency(s, false).backward == Approx(-0.1));
    s.efficiency = {};
    s.efficiency_back = {};
    const Efficiency ball = screw_efficiency(s, false);
    CHECK(ball.forward > 0.95);
    CHECK(ball.backward < ball.forward);
    s.thread = Thread::trapezoidal;
    s.lead = Quantity<Kind::length>("4 mm");
    s.thread_friction = Quantity<Kind::number>("0.15");
    s.starts = Quantity<Kind::number>("1");
    const Efficiency sliding = screw_efficiency(s, false);
    CHECK(sliding.forward < 0.5);
    CHECK(sliding.backward < 0); // stays put by itself
    // the ball formula is the sliding one for a square thread without collar
    s.flank_half_angle = Quantity<Kind::angle>("0 deg");
    const Efficiency square = screw_efficiency(s, false);
    Screw same = s;
    same.thread = Thread::ball;
    same.root_diameter = Quantity<Kind::length>("16 mm");
    s.pitch_diameter = same.pitch_diameter = Quantity<Kind::length>("18 mm");
    CHECK(screw_efficiency(s, false).forward == Approx(screw_efficiency(same, false).forward));
    CHECK(screw_efficiency(s, false).backward == Approx(screw_efficiency(same, false).backward));
    CHECK(square.forward < 1);
}

TEST_CASE("bodies agree with integration over their volume") {
    // hollow cylinder, 2000 thin rings
    const double density = 7850, outer = 0.04, inner = 0.01, length = 0.3;
    double mass = 0, inertia = 0;
    const int n = 2000;
    for (int i = 0; i < n; ++i) {
        const double r0 = inner / 2 + (outer - inner) / 2 * i / n, r1 = inner / 2 + (outer - inner) / 2 * (i + 1) / n;
        const double m = density * M_PI * (r1 * r1 - r0 * r0) * length;
        mass += m;
        inertia += m * (r0 * r0 + r1 * r1) / 2;
    }
    CHECK(body::hollow_cylinder(mass, outer, inner) == Approx(inertia).epsilon(1e-9));
    CHECK(body::cylinder(body::cylinder_mass(density, outer, length), outer) -
              body::cylinder(body::cylinder_mass(density, inner, length), inner) ==
          Approx(inertia).epsilon(1e-9));
    CHECK(body::offset(1, 2, 3) == 19);
    CHECK(body::point_mass(2, 3) == 18);
}

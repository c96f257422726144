// What must hold for any axis, whatever the numbers.
#include "core/demand/closed_form.h"
#include "core/match/headroom.h"
#include "tests/demo.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

double random(int from, int to, double unit = 1) { return *rc::gen::inRange(from, to + 1) * unit; }

template <Kind K> Quantity<K> exactly(double si) {
    Quantity<K> q;
    q.si = si;
    q.unit = &si_unit(K);
    q.text = std::to_string(si) + " " + std::string(q.unit->symbol);
    return q;
}

Segment move(double distance, double duration) {
    Segment s;
    MoveInTime m;
    m.distance = exactly<Kind::length>(distance);
    m.duration = exactly<Kind::time>(duration);
    s.what = m;
    return s;
}

Segment rest(double duration) {
    Segment s;
    Dwell d;
    d.duration = exactly<Kind::time>(duration);
    s.what = d;
    return s;
}

Machine random_axis() {
    Machine m = demo();
    Axis& a = m.axes[0];
    a.load.inclination = exactly<Kind::angle>(random(-90, 90) * M_PI / 180);
    a.load.payload = exactly<Kind::mass>(random(0, 80));
    a.load.guide_friction = exactly<Kind::number>(random(0, 20, 0.01));
    a.load.viscous = exactly<Kind::damping>(random(0, 300));
    std::get<Screw>(a.mechanism).efficiency = exactly<Kind::number>(random(35, 100, 0.01));
    std::get<Screw>(a.mechanism).lead = exactly<Kind::length>(random(2, 30, 1e-3));
    a.cycle.segments.clear();
    const double d = random(20, 400, 1e-3);
    a.cycle.segments.push_back(move(d, random(300, 2000, 1e-3)));
    a.cycle.segments.push_back(rest(random(50, 1500, 1e-3)));
    a.cycle.segments.push_back(move(-d, random(300, 2000, 1e-3)));
    return m;
}

bool close(double a, double b, double relative = 1e-9) {
    return std::abs(a - b) <= relative * std::max(std::abs(a), std::abs(b)) + 1e-12;
}

} // namespace

TEST_CASE("an axis seen from the other end asks for the same torque with the other sign") {
    const bool holds = rc::check([] {
        Machine m = random_axis();
        const Demand d = demand_of(m);
        m.axes[0].load.inclination.si *= -1;
        for (Segment& s : m.axes[0].cycle.segments)
            if (auto* mv = std::get_if<MoveInTime>(&s.what)) mv->distance.si *= -1;
        const Demand e = demand_of(m);
        RC_ASSERT(close(d.rms_torque, e.rms_torque));
        RC_ASSERT(close(std::abs(d.peak.torque), std::abs(e.peak.torque)));
        RC_ASSERT(close(d.energy_delivered, e.energy_delivered, 1e-7));
        for (const double t : {0.1, 0.37, 0.8}) {
            const double at = t * d.cycle_time;
            RC_ASSERT(close(d.at(at).torque, -e.at(at).torque));
        }
    });
    REQUIRE(holds);
}

TEST_CASE("the cycle said twice over is the same cycle") {
    const bool holds = rc::check([] {
        Machine m = random_axis();
        const Demand d = demand_of(m);
        const auto once = m.axes[0].cycle.segments;
        m.axes[0].cycle.segments.insert(m.axes[0].cycle.segments.end(), once.begin(), once.end());
        const Demand e = demand_of(m);
        RC_ASSERT(close(e.cycle_time, 2 * d.cycle_time));
        RC_ASSERT(close(e.rms_torque, d.rms_torque));
        RC_ASSERT(close(e.mean_speed, d.mean_speed));
        RC_ASSERT(close(e.energy_delivered, 2 * d.energy_delivered, 1e-7));
        RC_ASSERT(close(std::abs(e.peak.torque), std::abs(d.peak.torque)));
    });
    REQUIRE(holds);
}

TEST_CASE("a dwell cut in two is the same dwell") {
    const bool holds = rc::check([] {
        Machine m = random_axis();
        const Demand d = demand_of(m);
        auto& segments = m.axes[0].cycle.segments;
        const double whole = std::get<Dwell>(segments[1].what).duration.si;
        segments[1] = rest(whole * 0.3);
        segments.insert(segments.begin() + 2, rest(whole * 0.7));
        const Demand e = demand_of(m);
        RC_ASSERT(close(d.rms_torque, e.rms_torque));
        RC_ASSERT(close(d.holding_torque, e.holding_torque));
    });
    REQUIRE(holds);
}

TEST_CASE("energy in is energy out plus what friction keeps: never more comes back than was put in") {
    const bool holds = rc::check([] {
        const Machine m = random_axis();
        const Demand d = demand_of(m);
        RC_ASSERT(d.energy_returned <= d.energy_delivered * (1 + 1e-9) + 1e-9);
        // a full cycle ends as it began: the difference is friction and nothing else, and friction only takes
        double friction = 0;
        for (const Span& s : d.spans) {
            const int n = 200;
            for (int i = 0; i < n; ++i) {
                const ShaftState e = evaluate(d.load, s, s.start + s.duration * (i + 0.5) / n);
                for (const Cause c : {Cause::friction, Cause::losses})
                    friction += e.part[static_cast<std::size_t>(c)] * e.speed * s.duration / n;
            }
        }
        RC_ASSERT(std::abs(friction - (d.energy_delivered - d.energy_returned)) <= 1e-3 * d.energy_delivered + 1e-6);
    });
    REQUIRE(holds);
}

TEST_CASE("more dwell, less heat on a level axis; slower moves need less of everything that accelerates") {
    const bool holds = rc::check([] {
        Machine m = random_axis();
        m.axes[0].load.inclination.si = 0;
        const Demand d = demand_of(m);
        std::get<Dwell>(m.axes[0].cycle.segments[1].what).duration.si *= 3;
        const Demand longer = demand_of(m);
        RC_ASSERT(longer.rms_torque < d.rms_torque);
        RC_ASSERT(close(std::abs(longer.peak.torque), std::abs(d.peak.torque)));
        for (Segment& s : m.axes[0].cycle.segments)
            if (auto* mv = std::get_if<MoveInTime>(&s.what)) mv->duration.si *= 2;
        const Demand slower = demand_of(m);
        RC_ASSERT(close(slower.peak_speed, d.peak_speed / 2));
        RC_ASSERT(std::abs(slower.peak.torque) <= std::abs(d.peak.torque) * (1 + 1e-12));
    });
    REQUIRE(holds);
}

TEST_CASE("the hull holds every point and no more than it needs") {
    const bool holds = rc::check([] {
        Machine m = random_axis();
        m.axes[0].motor = Motor{};
        const Demand d = demand_of(m);
        const ClosedForm f = closed_form(d);
        for (const Hull& of : f.hulls) {
            const auto& hull = of.corners();
            for (std::size_t i = 0; i + 2 < hull.size(); ++i) {
                const auto& a = hull[i];
                const auto& b = hull[i + 1];
                const auto& c = hull[i + 2];
                const double turn = (b.torque - a.torque) * (c.acceleration - a.acceleration) -
                                    (b.acceleration - a.acceleration) * (c.torque - a.torque);
                RC_ASSERT(turn > 0); // convex, and no three in a line
            }
        }
        // in any direction the extreme of all points is attained on the hulls
        const double angle = random(0, 360) * M_PI / 180;
        double all = -INFINITY;
        double kept = -INFINITY;
        const auto value = [&](double t, double a) { return std::cos(angle) * t + std::sin(angle) * a * 1e-4; };
        for (const Span& s : d.spans)
            for (const double t : {s.start, s.start + s.duration / 3, s.start + s.duration}) {
                const ShaftState e = evaluate(d.load, s, t);
                all = std::max(all, value(e.mechanism_torque, e.acceleration));
            }
        for (const Hull& hull : f.hulls)
            for (const HullPoint& p : hull.corners()) kept = std::max(kept, value(p.torque, p.acceleration));
        RC_ASSERT(kept >= all - 1e-9 * std::abs(all) - 1e-12);
    });
    REQUIRE(holds);
}

TEST_CASE("a hull's reach in any direction is the furthest of all its corners") {
    const auto check = [](const Hull& hull, double x, double y) {
        double furthest = 0;
        for (const HullPoint& p : hull.corners())
            furthest = std::max(furthest, std::abs(x * p.torque + y * p.acceleration));
        return std::abs(hull.reach(x, y) - furthest) <= 1e-12 * furthest;
    };
    const auto all_around = [&](const Hull& hull) {
        double most = 0, fastest = 0;
        for (const HullPoint& p : hull.corners())
            most = std::max(most, std::abs(p.torque)), fastest = std::max(fastest, std::abs(p.acceleration));
        const double alike = most > 0 && fastest > 0 ? most / fastest : 1;
        for (int degree = 0; degree < 360; ++degree) {
            const double x = std::cos(degree * M_PI / 180), y = std::sin(degree * M_PI / 180);
            for (const double scale : {1.0, 1e-3, 1e3})
                if (!check(hull, x, y * alike * scale)) return degree;
        }
        return check(hull, 0, 0) && check(hull, -1, 0) && check(hull, 0, -1) ? 360 : -1;
    };
    CHECK(all_around(Hull()) == 360);
    CHECK(all_around(Hull({{2, 3}})) == 360);
    CHECK(all_around(Hull({{-1, 3}, {2, -5}})) == 360);
    CHECK(all_around(Hull({{1, 0}, {2, 0}})) == 360);  // nothing accelerates
    CHECK(all_around(Hull({{0, -4}, {0, 7}})) == 360); // nothing but the rotor
    // two corners of least and of most torque, of least and of most acceleration
    CHECK(all_around(Hull({{-2, -1}, {-1, -2}, {1, -2}, {2, -1}, {2, 1}, {1, 2}, {-1, 2}, {-2, 1}})) == 360);
    // a corner twice but for rounding, which turns the wrong way
    CHECK(all_around(Hull({{-2, -1}, {-1, -2}, {1, -2}, {1 + 3e-16, -2 + 8e-16}, {2, -1}, {2, 1}, {1, 2}, {-1, 2}})) ==
          360);
    for (const int corners : {3, 6, 7, 17, 400}) {
        std::vector<HullPoint> round;
        for (int i = 0; i < corners; ++i) {
            const double angle = -M_PI + 2 * M_PI * i / corners;
            round.push_back({0.3 + 2 * std::cos(angle), 1e4 * std::sin(angle) - 2e3});
        }
        CHECK(all_around(Hull(round)) == 360);
    }
    const bool holds = rc::check([&] {
        Machine m = random_axis();
        m.axes[0].motor = Motor{};
        for (const Hull& hull : closed_form(demand_of(m)).hulls) RC_ASSERT(all_around(hull) == 360);
    });
    REQUIRE(holds);
}

TEST_CASE("limits never improve when the load grows, and headroom has the sign of the state") {
    const bool holds = rc::check([] {
        Machine m = random_axis();
        const Assessment a = assess(m, 0, {.workings = false});
        RC_PRE(a.demand.has_value());
        m.axes[0].load.payload.si += random(1, 30);
        const Assessment b = assess(m, 0, {.workings = false});
        for (const char* key : {"inertia_ratio", "holding", "brake"}) {
            const Limit* x = a.limit(key);
            const Limit* y = b.limit(key);
            if (!x || !y) continue;
            RC_ASSERT(y->used >= x->used * (1 - 1e-12));
        }
    });
    REQUIRE(holds);
    const Machine m = demo();
    const Assessment a = assess(m, 0);
    for (const Limit& l : a.limits)
        for (const Headroom& h : headroom(m, 0, l.key)) {
            INFO(l.key << " " << h.text);
            CHECK(h.factor > 0);
            if (h.key == "payload" || h.key == "carriage") CHECK((h.factor > 1) == (l.used <= l.allowed * l.share));
        }
}

TEST_CASE("a span boundary is where something switches, and nothing switches inside") {
    const bool holds = rc::check([] {
        const Machine m = random_axis();
        const Demand d = demand_of(m);
        double at = 0;
        for (const Span& s : d.spans) {
            RC_ASSERT(close(s.start, at));
            at = s.start + s.duration;
            const ShaftState begins = evaluate(d.load, s, s.start + s.duration * 1e-6);
            const ShaftState ends = evaluate(d.load, s, s.start + s.duration * (1 - 1e-6));
            const double first = begins.torque, last = ends.torque;
            const double middle = evaluate(d.load, s, s.start + s.duration / 2).torque;
            // the side of the load's power decides the efficiency, that of the motor's decides nothing
            RC_ASSERT(begins.load_force * ends.load_force >= -1e-12);
            // torque is linear within a span for trapezoids
            RC_ASSERT(std::abs(middle - (first + last) / 2) <= 1e-9 * (std::abs(first) + std::abs(last)) + 1e-12);
        }
        RC_ASSERT(close(at, d.cycle_time));
    });
    REQUIRE(holds);
}

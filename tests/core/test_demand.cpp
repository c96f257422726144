#include "core/demand/closed_form.h"
#include "core/demand/demand.h"
#include "tests/demo.h"
#include "tests/mechanism_texts.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <numeric>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// A bare vertical screw: 40 kg, 10 mm lead, no friction, given efficiency.
Machine plain(const char* efficiency, const char* back, const char* inclination = "90 deg") {
    Machine m = demo();
    set(m, "/load/inclination", inclination);
    set(m, "/load/carriage_mass", "40 kg");
    set(m, "/load/payload", "0 kg");
    set(m, "/load/guide_friction", "0");
    set(m, "/load/seal_drag", "");
    set(m, "/mechanism/preload_drag", "");
    set(m, "/mechanism/bearing_drag", "");
    set(m, "/mechanism/efficiency", efficiency);
    set(m, "/mechanism/efficiency_back", back);
    m.axes[0].cycle.segments.clear();
    Segment s;
    MoveInTime move;
    move.distance = Quantity<Kind::length>("300 mm");
    move.duration = Quantity<Kind::time>("3 s");
    s.what = move;
    m.axes[0].cycle.segments.push_back(s);
    move.distance = Quantity<Kind::length>("-300 mm");
    s.what = move;
    m.axes[0].cycle.segments.push_back(s);
    return m;
}

// A random cycle of moves and dwells with payload and process forces, ending where it began.
Machine random_machine() {
    Machine m = demo();
    const auto number = [](int from, int to) { return *rc::gen::inRange(from, to); };
    set(m, "/load/inclination", std::to_string(number(-90, 91)) + " deg");
    set(m, "/load/viscous", std::to_string(number(0, 200)) + " N·s/m");
    set(m, "/load/seal_drag", std::to_string(number(0, 100)) + " N");
    set(m, "/mechanism/efficiency", std::to_string(number(40, 101)) + " / 100");
    m.axes[0].cycle.segments.clear();
    double position = 0;
    const int n = number(1, 7);
    for (int i = 0; i < n; ++i) {
        Segment s;
        const int d = i + 1 == n ? -static_cast<int>(position) : number(-400, 401);
        if (number(0, 3) == 0) {
            Dwell dwell;
            dwell.duration = Quantity<Kind::time>(std::to_string(number(1, 900)) + " ms");
            dwell.brake_holds = number(0, 2) == 1;
            s.what = dwell;
        } else if (number(0, 2) == 0) {
            MoveInTime move;
            move.distance = Quantity<Kind::length>(std::to_string(d) + " mm");
            move.duration = Quantity<Kind::time>(std::to_string(number(200, 2000)) + " ms");
            position += d;
            s.what = move;
        } else {
            MoveByLimits move;
            move.distance = Quantity<Kind::length>(std::to_string(d) + " mm");
            move.speed = Quantity<Kind::speed>(std::to_string(number(50, 900)) + " mm/s");
            move.acceleration = Quantity<Kind::acceleration>(std::to_string(number(1, 30)) + " m/s²");
            position += d;
            s.what = move;
        }
        s.payload = Quantity<Kind::mass>(std::to_string(number(0, 60)) + " kg");
        s.process_force = Quantity<Kind::force>(std::to_string(number(-300, 301)) + " N");
        m.axes[0].cycle.segments.push_back(s);
    }
    Segment last;
    Dwell rest;
    rest.duration = Quantity<Kind::time>("100 ms");
    last.what = rest;
    m.axes[0].cycle.segments.push_back(last);
    return m;
}

} // namespace

TEST_CASE("gravity torque by hand, raising and lowering at constant speed") {
    const double r = 0.01 / (2 * M_PI);
    const double weight = 40 * 9.80665;
    const Demand d = demand_of(plain("0.8", ""));
    // middle of the first and of the second cruise
    CHECK(d.at(1.5).torque == Approx(weight * r / 0.8));
    CHECK(d.at(4.5).torque == Approx(weight * r * (2 - 1 / 0.8)));
    const Demand locking = demand_of(plain("0.3", "-0.2"));
    // self-locking: the motor must drive the load down, the torque has the sign of the motion
    CHECK(locking.at(4.5).torque == Approx(weight * r * -0.2));
    CHECK(locking.at(4.5).speed < 0);
    CHECK(locking.at(4.5).torque * locking.at(4.5).speed > 0);
}

TEST_CASE("at rest friction and efficiency are not credited unless asked for") {
    Machine m = demo();
    const double r = 0.01 / (2 * M_PI);
    const double weight = (11 + 34) * 9.80665;
    Demand d = demand_of(m);
    CHECK(d.static_torque == Approx(weight * r));
    CHECK(d.holding_torque == Approx(weight * r));
    CHECK(d.static_torque_friction < d.static_torque);
    m.axes[0].credit_friction_at_rest = true;
    d = demand_of(m);
    CHECK(d.holding_torque == Approx(d.static_torque_friction));
    // a self-locking screw: F r without credit, 0 with it
    set(m, "/mechanism/efficiency_back", "-0.1");
    d = demand_of(m);
    CHECK(d.static_torque == Approx(weight * r));
    CHECK(d.static_torque_friction == 0);
}

TEST_CASE("a dwell held by the brake takes no torque") {
    Machine m = demo();
    const double before = demand_of(m).rms_torque;
    std::get<Dwell>(m.axes[0].cycle.segments[1].what).brake_holds = true;
    std::get<Dwell>(m.axes[0].cycle.segments[3].what).brake_holds = true;
    const Demand d = demand_of(m);
    CHECK(d.at(1.0).torque == 0);
    CHECK(d.rms_torque < before);
    CHECK(d.holding_torque == 0);
    CHECK(d.static_torque > 0);
}

TEST_CASE("RMS agrees with brute force, the parts with the whole, the energy with the forces") {
    const bool holds = rc::check([] {
        const Machine m = random_machine();
        const Demand d = demand_of(m);
        // midpoints of 400 slices per span, far finer than anything that changes
        double heat = 0, energy = 0, time = 0;
        double peak = 0;
        for (const Span& s : d.spans) {
            const int n = 400;
            time += s.duration;
            for (int i = 0; i < n; ++i) {
                const ShaftState e = evaluate(d.load, s, s.start + s.duration * (i + 0.5) / n);
                heat += e.torque * e.torque * s.duration / n;
                energy += e.torque * e.speed * s.duration / n;
                peak = std::max(peak, std::abs(e.torque));
                const double sum = std::accumulate(e.part.begin(), e.part.end(), 0.0);
                if (s.regime != Regime::braked) RC_ASSERT(std::abs(sum - e.torque) < 1e-9 * (1 + std::abs(e.torque)));
                // inside a span the load power keeps its sign
                if (s.regime == Regime::motoring) RC_ASSERT(e.load_force * e.speed >= -1e-6);
                if (s.regime == Regime::generating) RC_ASSERT(e.load_force * e.speed <= 1e-6);
            }
        }
        RC_ASSERT(std::abs(time - d.cycle_time) < 1e-9);
        const double rms = std::sqrt(heat / time);
        RC_ASSERT(std::abs(rms - d.rms_torque) <= 1e-5 * rms);
        RC_ASSERT(std::abs(energy - (d.energy_delivered - d.energy_returned)) <
                  1e-6 * (d.energy_delivered + d.energy_returned) + 1e-9);
        RC_ASSERT(std::abs(d.peak.torque) >= peak * (1 - 1e-12));
        if (rms > 0) RC_ASSERT(std::abs(std::accumulate(d.rms_share.begin(), d.rms_share.end(), 0.0) - 1) < 1e-9);
    });
    REQUIRE(holds);
}

TEST_CASE("closed forms and hulls give what the whole calculation gives, for any ratio and rotor") {
    const bool holds = rc::check([] {
        Machine m = random_machine();
        m.axes[0].motor = Motor{};
        const Demand d = demand_of(m);
        const ClosedForm f = closed_form(d);
        const double ratio = *rc::gen::inRange(10, 1000) / 100.0;
        const double inertia = *rc::gen::inRange(1, 1000) * 1e-6;
        const double forward = *rc::gen::inRange(50, 101) / 100.0;
        const double backward = 2 - 1 / forward;
        double heat = 0, peak = 0;
        for (const Span& s : d.spans) {
            if (s.regime == Regime::braked) continue;
            const int n = 300;
            for (int i = 0; i <= n; ++i) {
                const ShaftState e = evaluate(d.load, s, s.start + s.duration * i / n);
                const double power = e.mechanism_torque * s.direction;
                const double k = s.direction == 0 ? 1 : power >= 0 ? 1 / forward : backward;
                const double t = k * e.mechanism_torque / ratio + inertia * ratio * e.acceleration;
                heat += t * t * s.duration / n * (i == 0 || i == n ? 0.5 : 1);
                peak = std::max(peak, std::abs(t));
            }
        }
        const double rms = std::sqrt(heat / d.cycle_time);
        RC_ASSERT(std::abs(f.rms_torque(ratio, inertia, forward, backward) - rms) <= 2e-5 * rms + 1e-12);
        RC_ASSERT(std::abs(f.peak_torque(ratio, inertia, forward, backward) - peak) <= 1e-9 * peak + 1e-12);
        // the best ratio really is: no neighbour is better, and the least RMS is attained there
        const double best = f.best_ratio(inertia, forward, backward);
        if (best > 0) {
            const double least = f.least_rms(inertia, forward, backward);
            RC_ASSERT(std::abs(f.rms_torque(best, inertia, forward, backward) - least) <= 1e-6 * least + 1e-9);
            RC_ASSERT(f.rms_torque(best * 1.02, inertia, forward, backward) >= least * (1 - 1e-6));
            RC_ASSERT(f.rms_torque(best / 1.02, inertia, forward, backward) >= least * (1 - 1e-6));
        }
    });
    REQUIRE(holds);
}

TEST_CASE("with the rotor in, ratio one gives the demand itself") {
    Machine m = demo();
    const Demand with = demand_of(m);
    const double rotor = with.load.rotor_inertia;
    m.axes[0].motor = Motor{};
    const ClosedForm f = closed_form(demand_of(m));
    CHECK(f.rms_torque(1, rotor) == Approx(with.rms_torque).epsilon(1e-12));
    CHECK(f.peak_torque(1, rotor) == Approx(std::abs(with.peak.torque)).epsilon(1e-12));
}

TEST_CASE("pure inertia: the best ratio matches load and rotor") {
    // textbook identity: i* = √(J_L/J_M), where the reflected load equals the rotor
    Machine m = plain("1", "1", "0 deg");
    m.axes[0].motor = Motor{};
    const Demand d = demand_of(m);
    const ClosedForm f = closed_form(d);
    const double load = 40 * std::pow(0.01 / (2 * M_PI), 2) + d.load.own_inertia;
    const double rotor = 2e-5;
    CHECK(f.best_ratio(rotor) == Approx(std::sqrt(load / rotor)).epsilon(1e-9));
    CHECK(f.peak_torque(f.best_ratio(rotor), rotor) <= f.peak_torque(1.01 * f.best_ratio(rotor), rotor));
}

TEST_CASE("the emergency stop takes the worst payload and direction") {
    Machine m = plain("1", "1");
    set(m, "/drive/stop_time", "0.1 s");
    const Demand d = demand_of(m);
    const double r = 0.01 / (2 * M_PI);
    const double alpha = d.peak_speed / 0.1;
    const double turning = d.load.own_inertia + d.load.rotor_inertia;
    // stopping a fall: weight and inertia add up
    CHECK(d.emergency_torque == Approx(40 * 9.80665 * r + (turning + 40 * r * r) * alpha));
}

TEST_CASE("static friction has to give way before anything accelerates, and helps to hold only where it is credited") {
    Machine m = demo();
    Axis& a = m.axes[0];
    set(m, "/load/guide_friction", "0.2");
    set(m, "/load/inclination", "0 deg");
    set(m, "/load/viscous", "");
    set(m, "/load/seal_drag", "10 N");
    CHECK(demand_of(m).breakaway.torque == 0);
    CHECK(!assess(m, 0).figure("demand.breakaway_torque"));
    set(m, "/load/breakaway", "3");
    const LoadModel l = load_model(m, a);
    const Demand d = demand_of(m);
    double heaviest = 0;
    for (const double p : payloads_of(plan(a.cycle).motion, first_payload(a))) heaviest = std::max(heaviest, p);
    // 3 × (μ m g + seals), through the screw, and its own drag
    const double friction = 3 * (0.2 * (l.weight_mass + heaviest) * l.gravity + 10);
    CHECK(std::abs(d.breakaway.torque) ==
          Approx(friction * l.radius / l.efficiency_forward + l.shaft_drag).epsilon(1e-12));
    CHECK(d.breakaway.speed == 0);
    CHECK(assess(m, 0).figure("demand.breakaway_torque")->si == d.breakaway.torque);
    CHECK(d.coupling_peak >= std::abs(d.breakaway.torque));
    // heat is of the motion alone
    Machine without = m;
    set(without, "/load/breakaway", "");
    CHECK(demand_of(without).rms_torque == d.rms_torque);
    // it judges the motor where it is the largest demand on the curve, at standstill
    set(m, "/load/breakaway", "10");
    const Assessment stuck = assess(m, 0);
    CHECK(stuck.motor->worst_peak.speed == 0);
    CHECK(stuck.limit("peak_torque")->used == Approx(std::abs(stuck.demand->breakaway.torque)));
    // held on an incline: friction is credited with its static value, and only where asked for
    set(m, "/load/inclination", "70 deg");
    set(m, "/load/breakaway", "2");
    const double free = std::abs(holding_torque(load_model(m, a), 0, 0, 0, false));
    const double credited = std::abs(holding_torque(load_model(m, a), 0, 0, 0, true));
    set(m, "/load/breakaway", "1");
    CHECK(credited < std::abs(holding_torque(load_model(m, a), 0, 0, 0, true)));
    CHECK(free == std::abs(holding_torque(load_model(m, a), 0, 0, 0, false)));
}

TEST_CASE("an emergency stop of a crank finds its worst place, between the places looked at too") {
    Machine m = testing::turned_into(demo(), "slider_crank");
    set(m, "/drive/stop_time", "0.05 s");
    const Plan p = plan(m.axes[0].cycle, motion_of(m.axes[0].mechanism));
    const LoadModel l = load_model(m, m.axes[0]);
    const Demand d = demand(l, p.motion, m.axes[0]);
    double most = 0;
    const double v = p.motion.peak_speed, alpha = v / 0.05;
    const std::vector<double> payloads = payloads_of(p.motion, first_payload(m.axes[0]));
    for (int i = 0; i <= 2000; ++i)
        for (const double payload :
            {*std::min_element(payloads.begin(), payloads.end()), *std::max_element(payloads.begin(), payloads.end())})
            for (const double way : {1.0, -1.0})
                for (int k = 0; k <= 40; ++k) {
                    Span s;
                    const double t = 0.05 * k / 40;
                    s.duration = s.piece.duration = 0.05;
                    s.piece.c = {p.motion.lowest + p.motion.stroke() * i / 2000, way * v, -way * alpha / 2};
                    s.payload = payload;
                    s.regime = Regime::motoring;
                    s.direction = way;
                    s.load_direction = way * (path_at(l, s.piece.position(t)).first < 0 ? -1 : 1);
                    most = std::max(most, std::abs(evaluate(l, s, t).torque));
                }
    CHECK(d.emergency_torque >= most * (1 - 1e-3));
    CHECK(d.emergency_torque <= most * (1 + 1e-3));
}

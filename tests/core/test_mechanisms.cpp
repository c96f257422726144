// Every mechanism: energy, gravity, efficiency, stages.
#include "core/demand/sweep.h"
#include "core/model/validate.h"
#include "tests/mechanisms.h"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <cmath>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// Takes away everything that is not inertia.
Machine lossless(const std::string& key) {
    Machine m = machine_with(key);
    m.site.gravity = Quantity<Kind::acceleration>("0 m/s²");
    for (FieldRef& f : walk(m)) {
        if (f.type != FieldRef::Type::quantity) continue;
        for (const char* end : {"/drag", "/belt_drag", "/friction_torque", "/constant_torque", "/reference_torque",
                 "/seal_drag", "/guide_friction", "/viscous", "/tension", "/bearing_drag", "/preload_drag",
                 "/counterbalance", "/guide_preload"})
            if (f.path.ends_with(end) && f.quantity->given()) f.quantity->si = 0;
        if (f.path.ends_with("/efficiency") && !f.path.starts_with("/policies")) f.quantity->si = 1;
        if (f.path.ends_with("/efficiency_back")) *f.quantity = QuantityBase{};
    }
    return m;
}

// Where the load of a mechanism is when its cycle stands at q: written down again, not taken from the core.
double load_position(const Mechanism& m, double q) {
    if (const auto* c = std::get_if<SliderCrank>(&m))
        return c->crank.si * std::cos(q) + std::sqrt(std::pow(c->rod.si, 2) - std::pow(c->crank.si * std::sin(q), 2));
    if (const auto* y = std::get_if<ScotchYoke>(&m)) return y->crank.si * std::sin(q);
    return q;
}

// Travel of the load for a turn of the input shaft, from the definition of the mechanism.
double turn_travel(const Mechanism& m) {
    const double pi = M_PI;
    if (const auto* s = std::get_if<Screw>(&m)) return s->lead.si;
    if (const auto* r = std::get_if<RackPinion>(&m)) return pi * r->module.si * r->teeth.si;
    if (const auto* b = std::get_if<BeltDrive>(&m)) return b->teeth.si * b->pitch.si;
    if (const auto* c = std::get_if<Conveyor>(&m)) return pi * (c->pulley_diameter.si + c->belt_thickness.si);
    if (const auto* f = std::get_if<FeedRolls>(&m)) return pi * f->roll_diameter.si;
    if (const auto* h = std::get_if<Hoist>(&m)) return pi * h->drum_diameter.si / h->falls.si;
    if (const auto* f = std::get_if<FreeForm>(&m)) return f->travel.si;
    if (const auto* g = std::get_if<GivenDemand>(&m)) return g->lead.si;
    if (std::holds_alternative<LinearMotor>(m)) return 2 * pi; // a metre of "shaft" is a metre of load
    return 2 * pi;                                             // rotary: a turn is a turn
}

double screw_inertia_by_hand(const Screw& s) {
    const double d = s.root_diameter.given() ? (s.diameter.si + s.root_diameter.si) / 2 : s.diameter.si;
    return s.density.si * M_PI * std::pow(d, 4) / 32 * s.length.si;
}

// Kinetic energy at the speed of the load and of the shaft, part by part.
double kinetic_energy(const Machine& m, double load_speed, double shaft_speed) {
    const Axis& a = m.axes[0];
    const Mechanism& x = a.mechanism;
    const auto half = [](double j, double w) { return j * w * w / 2; };
    const auto or_zero = [](const QuantityBase& q) { return q.given() ? q.si : 0.0; };
    double e = 0;
    const Motion motion = motion_of(x);
    if (motion.has & Motion::carriage) e += half(a.load.carriage_mass.si, load_speed);
    const double payload = first_payload(a);
    if (motion.has & Motion::payload) {
        double v = load_speed;
        if (const auto* t = std::get_if<RotaryTable>(&x)) v = load_speed * t->payload_radius.si;
        if (const auto* t = std::get_if<Arm>(&x)) v = load_speed * t->payload_radius.si;
        e += half(payload, v);
    }
    if (const auto* s = std::get_if<Screw>(&x)) e += half(screw_inertia_by_hand(*s), shaft_speed);
    if (const auto* r = std::get_if<RackPinion>(&x)) e += half(r->pinion_inertia.si, shaft_speed);
    if (const auto* b = std::get_if<BeltDrive>(&x))
        e += half(b->pulley_inertia.si, shaft_speed) + half(b->belt_mass.si, load_speed) +
             b->idlers.si * half(b->idler_inertia.si, load_speed / (b->idler_diameter.si / 2));
    if (const auto* c = std::get_if<Conveyor>(&x))
        e += (1 + c->pulleys.si) * half(c->pulley_inertia.si, shaft_speed) + half(c->belt_mass.si, load_speed) +
             c->rollers.si *
                 half(c->roller_inertia.si, load_speed / (c->roller_diameter.si / 2 + c->belt_thickness.si / 2));
    if (const auto* f = std::get_if<FeedRolls>(&x))
        e += half(f->roll_inertia.si, shaft_speed) +
             half(f->follower_inertia.si, load_speed / (f->follower_diameter.si / 2));
    if (const auto* h = std::get_if<Hoist>(&x)) e += half(h->drum_inertia.si, shaft_speed);
    if (const auto* t = std::get_if<RotaryTable>(&x)) e += half(t->table_inertia.si, shaft_speed);
    if (const auto* t = std::get_if<Arm>(&x))
        e += half(t->arm_mass.si * std::pow(2 * t->arm_centre.si, 2) / 3, shaft_speed);
    if (const auto* c = std::get_if<SliderCrank>(&x)) e += half(c->crank_inertia.si, shaft_speed);
    if (const auto* c = std::get_if<ScotchYoke>(&x)) e += half(c->crank_inertia.si, shaft_speed);
    if (const auto* f = std::get_if<Fan>(&x)) e += half(f->rotor_inertia.si, shaft_speed);
    if (const auto* f = std::get_if<FreeForm>(&x)) e += half(or_zero(f->inertia), shaft_speed);
    return e + half(a.motor.rotor_inertia.si + or_zero(a.motor.brake_inertia), shaft_speed);
}

} // namespace

TEST_CASE("the torque of every mechanism is the change of its kinetic energy, friction and gravity apart") {
    for (const Option& kind : mechanism_kinds()) {
        const std::string key = kind.key;
        if (key == "winder") continue; // mass arrives at web speed; checked against scipy
        INFO(key);
        const Machine m = lossless(key);
        const Demand d = demand_of(m);
        const Trajectory t = plan(m.axes[0].cycle, motion_of(m.axes[0].mechanism)).motion;
        const auto at = [&](double time) { return t.at(time).position(time - t.at(time).start); };
        double work = 0;
        int checked = 0;
        for (const Span& s : d.spans) {
            const SpanNodes& nodes = span_nodes();
            for (std::size_t i = 0; i < nodes.at.size(); ++i) {
                const ShaftState e = evaluate(d.load, s, s.start + nodes.at[i] * s.duration);
                work += nodes.weight[i] * s.duration * e.torque * e.speed;
            }
            const double end = s.start + s.duration;
            if (end >= t.duration || s.direction == 0) continue;
            const double h = 1e-5;
            const Mechanism& x = m.axes[0].mechanism;
            const double load_speed = (load_position(x, at(end + h)) - load_position(x, at(end - h))) / (2 * h);
            const double q_speed = (at(end + h) - at(end - h)) / (2 * h);
            const double shaft = q_speed * 2 * M_PI / turn_travel(x);
            const double energy = kinetic_energy(m, load_speed, shaft);
            CHECK(work == Approx(energy).epsilon(2e-4).margin(1e-4 * d.energy_delivered));
            ++checked;
        }
        CHECK(checked >= 4);
        // all of it comes back
        CHECK(d.energy_delivered == Approx(d.energy_returned).epsilon(1e-9));
    }
}

TEST_CASE("the load side of the statement is the inertia the torque shows") {
    for (const Option& kind : mechanism_kinds()) {
        const std::string key = kind.key;
        if (key == "demand") continue; // its demand holds the inertia already
        INFO(key);
        Machine m = lossless(key);
        m.axes[0].motor = Motor{};
        const InertiaStatement s = inertia_statement(m, m.axes[0], {}, true);
        double most = 0;
        for (const Span& span :
            demand_of(m, key == "winder" ? full_web(std::get<Winder>(m.axes[0].mechanism)) : 0).spans)
            for (const double k : {0.01, 0.5, 0.99}) {
                // the same span with the speed taken out: only J α is left
                Span still = span;
                const double at = span.piece.position(span.start + k * span.duration - span.piece.start);
                still.piece.c = {at, 1e-9, 0.5};
                still.piece.degree = 2;
                still.piece.amplitude = 0;
                still.piece.start = still.start = 0;
                still.direction = still.load_direction = 1;
                still.regime = Regime::motoring;
                double web = key == "winder" ? full_web(std::get<Winder>(m.axes[0].mechanism)) : 0;
                if (key == "winder") still.piece.c[0] = 0;
                const ShaftState e = evaluate(load_model(m, m.axes[0], web), still, 0);
                most = std::max(most, e.torque / e.acceleration);
            }
        // a crank within the stroke of the cycle may not pass its fastest place exactly
        const bool crank = key == "slider_crank" || key == "scotch_yoke";
        CHECK(most <= s.load * (1 + 1e-9));
        CHECK(most == Approx(s.load).epsilon(crank ? 0.05 : 1e-9));
        CHECK(s.load_least <= s.load);
        double sum = 0;
        for (const InertiaShare& i : s.shares) sum += i.at_shaft;
        CHECK(sum == Approx(s.load));
    }
}

TEST_CASE("every mechanism is assessed with all its limits, and its file comes back") {
    for (const Option& kind : mechanism_kinds()) {
        const std::string key = kind.key;
        INFO(key);
        const Machine m = machine_with(key);
        const Problems problems = validate(m.axes[0], "/axes/0", &m.materials);
        INFO((problems.empty() ? "" : to_text(problems[0])));
        CHECK(!has_errors(problems));
        const Assessment a = assess(m, 0);
        REQUIRE(a.demand);
        CHECK(a.demand->rms_torque > 0);
        CHECK(a.demand->peak.torque != 0);
        CHECK(a.limits.size() >= 6);
        double shares = 0;
        for (const double s : a.demand->rms_share) shares += s;
        CHECK(shares == Approx(1));
        const auto again = read_project(write_project(m));
        REQUIRE(again);
        CHECK(!again->read_only);
        CHECK(again->machine == m);
    }
}

TEST_CASE("the RMS of every mechanism under every law is good to 1e-9, of a short rod to 1e-7") {
    const auto adaptive = [](const Demand& d) {
        double heat = 0;
        for (const Span& s : d.spans)
            heat += boost::math::quadrature::gauss_kronrod<double, 31>::integrate(
                [&](double t) { return std::pow(evaluate(d.load, s, t).torque, 2); }, s.start, s.start + s.duration, 8,
                1e-12);
        return std::sqrt(heat / d.cycle_time);
    };
    for (const Option& kind : mechanism_kinds()) {
        for (std::size_t law = 0; law < std::size(laws); ++law) {
            INFO(kind.key << " " << laws[law].key);
            Machine m = machine_with(kind.key);
            for (Segment& s : m.axes[0].cycle.segments)
                if (auto* mv = std::get_if<MoveInTime>(&s.what)) mv->law = static_cast<Law>(law);
            const Demand d = demand_of(m);
            CHECK(d.rms_torque == Approx(adaptive(d)).epsilon(1e-9));
        }
    }
    for (const char* rod : {"60 mm", "50 mm", "44 mm", "41 mm"}) {
        INFO(rod);
        Machine m = machine_with("slider_crank");
        set(m, "/mechanism/rod", rod);
        const Demand d = demand_of(m);
        CHECK(d.rms_torque == Approx(adaptive(d)).epsilon(1e-7));
    }
}

TEST_CASE("stages divide torque, multiply speed, and add their inertia at their input") {
    for (const Option& kind : mechanism_kinds()) {
        const std::string key = kind.key;
        if (motion_of(machine_with(key).axes[0].mechanism).direct) continue;
        INFO(key);
        Machine m = machine_with(key);
        m.axes[0].motor = Motor{};
        const Demand plain = demand_of(m);
        Stage s;
        s.ratio = Quantity<Kind::number>("4");
        s.efficiency = Quantity<Kind::number>("1");
        m.axes[0].stages = {s, s};
        const Demand geared = demand_of(m);
        CHECK(geared.peak_speed == Approx(16 * plain.peak_speed));
        CHECK(geared.rms_torque == Approx(plain.rms_torque / 16));
        CHECK(std::abs(geared.peak.torque) == Approx(std::abs(plain.peak.torque) / 16).epsilon(1e-7));
        // by hand for one instant: losses first, then inertia, stage after stage
        m.axes[0].stages[0].efficiency = m.axes[0].stages[1].efficiency = Quantity<Kind::number>("0.8");
        m.axes[0].stages[0].inertia = m.axes[0].stages[1].inertia = Quantity<Kind::inertia>("2 kg·cm²");
        const Demand lossy = demand_of(m);
        for (const double part : {0.05, 0.11, 0.3, 0.42}) {
            const double t = part * lossy.cycle_time;
            const ShaftState e = lossy.at(t);
            if (e.mechanism_speed == 0) continue;
            const auto through = [&](double torque, double accel) {
                const double kept = torque * e.mechanism_speed >= 0 ? 1 / 0.8 : 2 - 1 / 0.8;
                return torque * kept / 4 + 2e-4 * accel;
            };
            const double once = through(e.mechanism_torque, e.mechanism_acceleration * 4);
            const double twice = through(once, e.mechanism_acceleration * 16);
            CHECK(e.torque == Approx(twice));
            CHECK(e.speed == Approx(16 * e.mechanism_speed));
        }
    }
}

TEST_CASE("a tilted table swings its eccentric load; a level one does not") {
    Machine m = machine_with("table");
    set(m, "/mechanism/friction_torque", "");
    set(m, "/mechanism/losses/efficiency", "1");
    set(m, "/load/payload", "3 kg");
    m.axes[0].motor = Motor{};
    // m g sin δ e, at the angle where it stands level: 3 · g · sin 30° · 0.2
    CHECK(demand_of(m).static_torque == Approx(3 * m.site.gravity.si * 0.5 * 0.2).epsilon(1e-6));
    set(m, "/mechanism/tilt", "0 deg");
    CHECK(demand_of(m).static_torque < 1e-12);
    // a body opposite balances it
    set(m, "/mechanism/tilt", "90 deg");
    Body b;
    b.shape = PointMass{};
    b.mass = Quantity<Kind::mass>("6 kg");
    b.offset = Quantity<Kind::length>("100 mm");
    b.offset_angle = Quantity<Kind::angle>("180 deg");
    m.axes[0].bodies = {b};
    CHECK(demand_of(m).static_torque < 1e-9);
}

TEST_CASE("an arm holds m g r cos of its angle") {
    Machine m = machine_with("arm");
    set(m, "/load/payload", "2 kg");
    set(m, "/mechanism/losses/efficiency", "1");
    m.axes[0].motor = Motor{};
    const LoadModel l = load_model(m, m.axes[0]);
    const double g = m.site.gravity.si;
    for (const double q : {-1.0, 0.0, 0.7, 2.5})
        CHECK(holding_torque(l, q, 2, 0, false) ==
              Approx((4 * 0.25 + 2 * 0.5) * g * std::cos(q - M_PI / 6)).margin(1e-12));
}

TEST_CASE("a hoist: falls halve speed and load, the counterweight takes its weight off and adds its mass") {
    Machine m = machine_with("hoist");
    m.axes[0].motor = Motor{};
    set(m, "/load/payload", "300 kg");
    set(m, "/load/carriage_mass", "100 kg");
    set(m, "/load/guide_friction", "0");
    const double g = m.site.gravity.si;
    CHECK(demand_of(m).static_torque == Approx(400 * g * 0.08 / 2));
    const double before = inertia_statement(m, m.axes[0], {}, false).load;
    set(m, "/load/counterweight", "250 kg");
    CHECK(demand_of(m).static_torque == Approx(150 * g * 0.08 / 2));
    CHECK(inertia_statement(m, m.axes[0], {}, false).load - before == Approx(250 * 0.04 * 0.04));
}

TEST_CASE("a fan wants torque with the square of speed, always against the motion") {
    Machine m = machine_with("fan");
    set(m, "/mechanism/losses/efficiency", "1");
    const LoadModel l = load_model(m, m.axes[0]);
    Span s;
    s.duration = s.piece.duration = 1;
    s.regime = Regime::motoring;
    const double reference = 1500 * M_PI / 30;
    for (const double speed : {reference, reference / 2, -reference}) {
        s.piece.c = {0, speed};
        s.direction = s.load_direction = speed > 0 ? 1 : -1;
        const double k = speed / reference;
        CHECK(evaluate(l, s, 0.5).torque == Approx(3 * k * std::abs(k)));
    }
}

TEST_CASE("what cannot be said of one fill of a winder cannot be said of the winder") {
    Machine m = machine_with("winder");
    const Assessment before = assess(m, 0);
    REQUIRE(before.fills->size() == 5);
    REQUIRE(before.limit("continuous_loss")->state != LimitState::cannot_say);
    // the continuous curve ends between the speeds of the empty and of the full roll
    const double middle = (before.fills->front().peak_speed + before.fills->back().peak_speed) / 2;
    auto& curve = m.axes[0].motor.continuous;
    curve.resize(2);
    curve[0].torque = curve[1].torque = Quantity<Kind::torque>("1000 N·m");
    curve[0].speed = Quantity<Kind::angular_speed>("0 rpm");
    curve[1].speed = Quantity<Kind::angular_speed>(std::to_string(middle) + " rad/s");
    const Assessment a = assess(m, 0);
    const Limit& l = *a.limit("continuous_loss");
    CHECK(l.state == LimitState::cannot_say);
    CHECK_THAT(l.reason.in(UnitSystem::si), Catch::Matchers::Contains("(roll empty)"));
    // what is over at another fill is over all the same
    curve[0].torque = curve[1].torque = Quantity<Kind::torque>("0.001 N·m");
    CHECK(assess(m, 0).limit("continuous_loss")->state == LimitState::over);
}

TEST_CASE(
    "a winder: speed falls and inertia grows with the roll, tension stays on at rest, and the worst fill judges") {
    Machine m = machine_with("winder");
    const Winder& w = std::get<Winder>(m.axes[0].mechanism);
    // R² = R_core² + s h/π at the full roll
    const LoadModel full = load_model(m, m.axes[0], full_web(w));
    CHECK(full.roll_radius(full.web_start) == Approx(0.2));
    CHECK(load_model(m, m.axes[0]).roll_radius(0) == Approx(0.038));
    const Assessment a = assess(m, 0);
    REQUIRE(a.fills);
    const std::vector<FillUse>& fills = *a.fills;
    REQUIRE(fills.size() == 5);
    for (std::size_t i = 1; i < fills.size(); ++i) CHECK(fills[i].peak_speed < fills[i - 1].peak_speed);
    double most = 0;
    for (const FillUse& f : fills) most = std::max(most, f.rms_torque);
    CHECK(a.demand->rms_torque == most);
    CHECK(a.limit("speed")->used == Approx(fills[0].peak_speed)); // the empty core turns fastest
    CHECK(a.limit("speed")->reason.in(UnitSystem::si).find("empty") != std::string::npos);
    CHECK(a.limit("holding")->reason.in(UnitSystem::si).find("full") != std::string::npos);
    CHECK(holding_torque(full, 0, 0, 0, false) == Approx(60 * 0.2));
    m.axes[0].cycle.segments.resize(1);
    std::get<MoveInTime>(m.axes[0].cycle.segments[0].what).distance = MotionQuantity<Order::position>("1e6 mm");
    Machine greedy = m;
    std::get<Winder>(greedy.axes[0].mechanism).roll_diameter = Quantity<Kind::length>("77 mm");
    const Assessment b = assess(greedy, 0);
    CHECK(has_errors(b.problems));
    CHECK(!b.demand);
}

TEST_CASE("the turning nut leaves the screw out, a riding motor rides") {
    Machine m = machine_with("screw");
    const double with_screw = load_model(m, m.axes[0]).own_inertia;
    set(m, "/mechanism/nut_inertia", "3 kg·cm²");
    std::get<Screw>(m.axes[0].mechanism).turns = ScrewTurns::nut;
    CHECK(load_model(m, m.axes[0]).own_inertia == Approx(3e-4));
    CHECK(with_screw != Approx(3e-4));
    CHECK(!assess(m, 0).limit("critical_speed"));
    m = machine_with("belt");
    const double fixed = load_model(m, m.axes[0]).moving_mass;
    std::get<BeltDrive>(m.axes[0].mechanism).motor_seat = MotorSeat::rides;
    CHECK(load_model(m, m.axes[0]).moving_mass == Approx(fixed + m.axes[0].motor.mass.si));
    set(m, "/mechanism/riding_mass", "7 kg");
    CHECK(load_model(m, m.axes[0]).moving_mass == Approx(fixed + 7));
}

TEST_CASE("crank as long as its rod and core as large as its roll are refused by name") {
    Machine m = machine_with("slider_crank");
    set(m, "/mechanism/crank", "150 mm");
    Problems p = validate(m.axes[0], "/axes/0");
    REQUIRE(has_errors(p));
    CHECK(p[0].path == "/axes/0/mechanism/crank");
    CHECK(p[0].message.find("150 mm") != std::string::npos);
    m = machine_with("winder");
    set(m, "/mechanism/core_diameter", "400 mm");
    p = validate(m.axes[0], "/axes/0");
    REQUIRE(has_errors(p));
    CHECK(p[0].path == "/axes/0/mechanism/core_diameter");
    CHECK(!assess(m, 0).demand);
}

// Gearheads beyond their cycle, stiffness, precision and the screw.
#include "core/drivetrain/precision.h"
#include "core/drivetrain/screw_life.h"
#include "core/drivetrain/screw_limits.h"
#include "core/drivetrain/stiffness.h"
#include "core/match/mating.h"
#include "core/match/torque_limit.h"
#include "tests/catch.h"
#include "tests/drivetrain.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("compliances turned to the motor's shaft, and the chain of a screw axis") {
    // k = G I_p/L, A E/L and (lead/2π)²: Euler–Bernoulli and mechanics of materials
    const Assessment a = of_lift();
    REQUIRE(a.stiffness);
    const double d = 0.0171, e = 206e9, length = 0.62, turn = 0.01 / (2 * half_circle);
    const auto at = [&](const char* key) {
        for (const Spring& s : a.stiffness->springs)
            if (s.key == key) return s.at_motor;
        FAIL(key);
        return 0.0;
    };
    CHECK(at("coupling") == 3500);
    CHECK(at("screw_torsion") == Approx(e / 2.6 * half_circle * std::pow(d, 4) / 32 / length));
    CHECK(at("screw_axial") == Approx(e * half_circle * d * d / 4 / length * turn * turn));
    CHECK(at("nut") == Approx(250e6 * turn * turn));
    double compliance = 0;
    for (const Spring& s : a.stiffness->springs) compliance += 1 / s.at_motor;
    CHECK(a.stiffness->total == Approx(1 / compliance));
    CHECK(a.stiffness->springs[a.stiffness->softest].key == "screw_axial");
    const TwoBody& two = a.stiffness->two;
    CHECK(two.resonance / two.antiresonance == Approx(std::sqrt(1 + two.load / two.motor)));
    // with one compliance between two bodies the chain is the two bodies
    Machine m = plain(1e-4);
    m.axes[0].coupling.stiffness = Quantity<Kind::torsional_stiffness>("1000 N·m/rad");
    const Assessment one = assess(m, 0);
    REQUIRE(one.stiffness->resonances.size() == 1);
    CHECK(one.stiffness->resonances[0] == Approx(one.stiffness->two.resonance));
    CHECK(one.stiffness->antiresonances[0] == Approx(one.stiffness->two.antiresonance));
    // nothing gives way: no number
    m.axes[0].coupling.stiffness = {};
    CHECK(assess(m, 0).stiffness->resonances.empty());
    CHECK(!assess(m, 0).figure("stiffness.total"));
}

TEST_CASE("terms of the precision budget at the load") {
    Machine m = demo();
    Axis& a = m.axes[0];
    a.accuracy.asked = MotionQuantity<Order::position>("0.1 mm");
    const Assessment was = assess(m, 0);
    REQUIRE(was.precision);
    const auto term = [&](const Assessment& x, const char* key) {
        for (const ErrorTerm& t : x.precision->terms)
            if (t.key == key) return t.error;
        return std::nan("");
    };
    CHECK(term(was, "encoder_counts") == Approx(0.01 / 1048576 / 2));
    CHECK(term(was, "encoder_accuracy") == Approx(40.0 / 3600 / 360 * 0.01));
    CHECK(term(was, "lead_error") == Approx(23e-6 * 400 / 300));      // a stroke of 400 mm
    CHECK(term(was, "thermal_growth") == Approx(11.7e-6 * 4 * 0.62)); // from the fixed bearing to the nut's far end
    double worst = 0, squares = 0;
    double windup = 0; // both of the same springs: one term
    for (const ErrorTerm& t : was.precision->terms) {
        worst += t.error;
        (t.key.starts_with("windup") ? windup : squares) += t.key.starts_with("windup") ? t.error : t.error * t.error;
    }
    squares += windup * windup;
    CHECK(was.precision->worst == Approx(worst));
    CHECK(was.precision->squares == Approx(std::sqrt(squares)));
    CHECK(limit_of_axis(was, "precision").used == Approx(worst));
    CHECK(limit_of_axis(was, "precision").state == LimitState::fits);
    CHECK(was.precision->over_stroke.front().worst < was.precision->over_stroke.back().worst);
    // below 300 mm the lead error stays what it is
    CHECK(was.precision->over_stroke[0].worst == Approx(worst - term(was, "lead_error") + 23e-6 - 11.7e-6 * 4 * 0.4));
    // what is missing keeps it from fitting, and not from being over
    a.accuracy.encoder_counts = {};
    CHECK(limit_of_axis(assess(m, 0), "precision").state == LimitState::cannot_say);
    a.accuracy.asked = MotionQuantity<Order::position>("0.01 mm");
    CHECK(limit_of_axis(assess(m, 0), "precision").state == LimitState::over);
    // backlash of a gearhead: half of it, at its output
    Machine geared = demo();
    const Assessment shuttle = assess(geared, 1);
    CHECK(
        term(shuttle, "backlash_stage_1") == Approx(8.0 / 60 * half_circle / 180 / 2 * 36 * 0.005 / (2 * half_circle)));
}

TEST_CASE("a no-load torque makes the sheet's efficiency that at the rated torque") {
    Machine m = demo();
    Axis& a = m.axes[1];
    a.stages[0].no_load_torque = Quantity<Kind::torque>("0.03 N·m");
    const Stage& s = a.stages[0];
    const double inner = inner_efficiency(s);
    // T/(i η) at the rated torque, by both ways
    CHECK(s.rated_torque.si / s.ratio.si / s.efficiency.si ==
          Approx(s.rated_torque.si / s.ratio.si / inner + s.no_load_torque.si));
    CHECK(inner > s.efficiency.si);
    const Assessment with = assess(m, 1);
    REQUIRE(with.demand);
    CHECK(with.demand->rms_torque != Approx(assess(demo(), 1).demand->rms_torque).epsilon(1e-4));
    // more than the efficiency leaves cannot be
    a.stages[0].no_load_torque = Quantity<Kind::torque>("0.2 N·m");
    const Assessment wrong = assess(m, 1);
    CHECK(has_errors(wrong.problems));
    CHECK(limit_of_axis(wrong, "peak_torque").state == LimitState::cannot_say);
}

TEST_CASE("what a strain wave gear asks beside others, and loads at the output of a gearhead") {
    const auto read = read_project(file_text("tests/fixtures/strain-wave.fulmox"));
    REQUIRE(read);
    const Machine m = read->machine;
    const Assessment a = assess(m, 0);
    CHECK(limit_of_axis(a, "stage_ratchet").allowed == 150);
    CHECK(limit_of_axis(a, "stage_stops").used == 200);
    CHECK(limit_of_axis(a, "stage_tilting").used == 25);
    CHECK(limit_of_axis(a, "stage_peak").allowed == Approx(0.9 * 90));
    Machine other = m;
    other.axes[0].stages[0].kind = StageKind::planetary; // what was typed for the other kind has no effect
    CHECK(!assess(other, 0).limit("stage_ratchet"));
    other.axes[0].drive.emergency_stops = {};
    CHECK(limit_of_axis(assess(other, 0), "stage_stops").state == LimitState::cannot_say);
    other.axes[0].stages[0].tilting_moment = {};
    CHECK(limit_of_axis(assess(other, 0), "stage_tilting").state == LimitState::cannot_say);
}

TEST_CASE("motor and gearhead mate, or the limit says where they do not") {
    Machine m = demo();
    CHECK(limit_of_axis(assess(m, 1), "stage_mating").state == LimitState::fits);
    m.axes[1].stages[0].pilot = Quantity<Kind::length>("50 mm");
    m.axes[1].motor.pilot = Quantity<Kind::length>("70 mm");
    CHECK(limit_of_axis(assess(m, 1), "stage_mating").state == LimitState::over);
    m.axes[1].stages[0].adapter = "ring 70 to 50";
    CHECK(limit_of_axis(assess(m, 1), "stage_mating").state == LimitState::fits);
    m.axes[1].stages[0].input_bore = Quantity<Kind::length>("19 mm");
    CHECK(limit_of_axis(assess(m, 1), "stage_mating").state == LimitState::over);
    // a coupling between them, and the gearhead need not fit the motor
    m.axes[1].coupling.rated_torque = Quantity<Kind::torque>("20 N·m");
    CHECK(!assess(m, 1).limit("stage_mating"));
}

TEST_CASE("an odd number of gears that turn back turns the mechanism the other way") {
    Machine m = demo();
    const auto note = [&] { return assess(m, 1).figure("load.ratio")->note.in(UnitSystem::si); };
    CHECK_THAT(note(), !Catch::Matchers::Contains("the other way"));
    m.axes[1].stages[0].turns_back = true;
    CHECK_THAT(note(), Catch::Matchers::Contains("the other way"));
    m.axes[1].stages.push_back(m.axes[1].stages[0]);
    CHECK_THAT(note(), !Catch::Matchers::Contains("the other way"));
}

namespace {

Screw& ask_for_life(Axis& a) {
    Screw& s = std::get<Screw>(a.mechanism);
    s.dynamic_rating = Quantity<Kind::force>("12 kN");
    s.life_asked = Quantity<Kind::time>("20000 h");
    return s;
}

} // namespace

TEST_CASE("life of a screw by its cycle against small steps, by a spectrum, and under preload") {
    // ISO 3408-5, from memory: L = (C/F_m)³ 10⁶, F_m cubic mean weighted by revolutions
    Machine m = demo();
    Axis& a = m.axes[0];
    Screw& s = ask_for_life(a);
    const Assessment was = assess(m, 0);
    REQUIRE(was.demand);
    double cubes = 0, turned = 0;
    constexpr int steps = 400'000;
    for (int i = 0; i < steps; ++i) {
        const ShaftState e = was.demand->at(was.demand->cycle_time * (i + 0.5) / steps);
        const double w = std::abs(e.mechanism_speed) * was.demand->cycle_time / steps;
        cubes += w * std::pow(std::abs(e.load_force), 3);
        turned += w;
    }
    const ScrewLife life = screw_life(s, &*was.demand);
    CHECK(life.mean_load == Approx(std::cbrt(cubes / turned)).epsilon(1e-4));
    CHECK(life.mean_speed == Approx(turned / was.demand->cycle_time).epsilon(1e-4));
    CHECK(life.revolutions == Approx(1e6 * std::pow(12e3 / life.mean_load, 3)));
    CHECK(life.hours == Approx(life.revolutions / (life.mean_speed * 3600 / (2 * half_circle))));
    CHECK(life.travel == Approx(life.revolutions * 0.01));
    CHECK(limit_of_axis(was, "screw_life").state == LimitState::fits);
    CHECK(was.figure("screw.life")->si == Approx(life.hours * 3600));
    // preload costs life, and half a nut without load costs none
    s.nut_preload = Quantity<Kind::force>("1000 N");
    CHECK(screw_life(s, &*was.demand).hours < life.hours);
    // a constant load of 2√2 times the preload lifts one half off: that of the other is the load alone
    LoadShare one;
    one.force = Quantity<Kind::force>("2828.42712474619 N");
    one.speed = Quantity<Kind::angular_speed>("300 rpm");
    one.share = Quantity<Kind::number>("100 %");
    s.spectrum = {one};
    CHECK(screw_life(s, nullptr).revolutions == Approx(1e6 * std::pow(12e3 / 2828.42712474619, 3)).epsilon(1e-6));
    // a spectrum by hand: 2 kN at 100 rpm for 30 %, 1 kN at 400 rpm for 50 %, standing else
    s.nut_preload = {};
    s.spectrum.assign(3, one);
    const auto load = [&](std::size_t i, const char* force, const char* speed, const char* share) {
        s.spectrum[i].force = Quantity<Kind::force>(force);
        s.spectrum[i].speed = Quantity<Kind::angular_speed>(speed);
        s.spectrum[i].share = Quantity<Kind::number>(share);
    };
    load(0, "2000 N", "100 rpm", "30 %");
    load(1, "1000 N", "400 rpm", "50 %");
    load(2, "5000 N", "0 rpm", "20 %");
    const ScrewLife typed = screw_life(s, nullptr);
    CHECK(typed.mean_load == Approx(std::cbrt((8e9 * 30 + 1e9 * 200) / 230)));
    CHECK(typed.mean_speed * 60 / (2 * half_circle) == Approx(230));
    // it waits for nothing of the cycle
    Machine half = m;
    half.axes[0].cycle.segments[0].what = MoveInTime{};
    const Assessment by_spectrum = assess(half, 0);
    CHECK(!by_spectrum.demand);
    CHECK(limit_of_axis(by_spectrum, "screw_life").used == s.life_asked.si);
    CHECK(limit_of_axis(by_spectrum, "screw_life").state == LimitState::fits);
}

TEST_CASE("a screw that never turns lasts for ever, and its motor has all of its peak torque left") {
    Machine m = demo();
    Axis& a = m.axes[0];
    ask_for_life(a);
    a.load.inclination = Quantity<Kind::angle>("0 deg");
    Dwell rest;
    rest.duration = Quantity<Kind::time>("1 s");
    a.cycle.segments.assign(1, Segment{});
    a.cycle.segments[0].what = rest;
    const Assessment is = assess(m, 0);
    const Limit& life = limit_of_axis(is, "screw_life");
    CHECK(life.state == LimitState::fits);
    CHECK(std::isinf(life.allowed));
    CHECK(life.utilisation() == 0);
    const Limit& peak = limit_of_axis(is, "peak_torque");
    CHECK(peak.state == LimitState::fits);
    CHECK(peak.used == 0);
    CHECK(peak.allowed == Approx(is.can->peak.stall()));
}

TEST_CASE("a stocky screw yields before it buckles") {
    // Johnson's parabola meets Euler's curve at half the yield strength
    const double d = 0.02, e = 206e9, yield = 400e6, area = half_circle * d * d / 4;
    const double meets = d / 4 * std::sqrt(2 * half_circle * half_circle * e / yield);
    CHECK(compression_load(d, meets * 0.999999, e, yield, EndFixity::supported_supported) ==
          Approx(area * yield / 2).epsilon(1e-5));
    CHECK(compression_load(d, meets * 1.000001, e, yield, EndFixity::supported_supported) ==
          Approx(area * yield / 2).epsilon(1e-5));
    CHECK(compression_load(d, 1e-6, e, yield, EndFixity::supported_supported) == Approx(area * yield));
    CHECK(compression_load(d, 2, e, yield, EndFixity::fixed_fixed) ==
          Approx(buckling_load(d, 2, e, EndFixity::fixed_fixed)));
    Machine m = demo();
    const double euler = limit_of_axis(assess(m, 0), "buckling").allowed;
    std::get<Screw>(m.axes[0].mechanism).yield_strength = Quantity<Kind::pressure>("300 MPa");
    CHECK(limit_of_axis(assess(m, 0), "buckling").allowed < euler);
}

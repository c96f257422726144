// What the cycle asks of gearheads and other stages, and how their sheets are held against it.
#include "core/demand/stages.h"
#include "core/match/assess.h"
#include "core/match/stage_life.h"
#include "tests/catch.h"
#include "tests/demo.h"

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr double a_minute = std::numbers::pi / 30;
constexpr std::size_t shuttle_axis = 1, table_axis = 2;

template <Kind K> Quantity<K> q(const std::string& text) { return Quantity<K>(text); }

Stage stage(const char* ratio, const char* efficiency = "1") {
    Stage s;
    s.ratio = q<Kind::number>(ratio);
    s.efficiency = q<Kind::number>(efficiency);
    return s;
}

// A demand of even pieces at a shaft behind the stages: durations s, speeds rpm, torques N·m.
struct Piece3 {
    double lasts, speed, torque;
};
Machine given(const std::vector<Piece3>& pieces, std::vector<Stage> stages) {
    Machine m = demo();
    Axis a;
    a.name = "given";
    GivenDemand d;
    a.mechanism = d;
    a.stages = std::move(stages);
    a.policy = m.axes[0].policy;
    double before = 0;
    const auto change = [&](double speed) {
        if (speed == before) return;
        SpeedChange c;
        c.speed.text = std::to_string(speed) + " rpm";
        c.duration = q<Kind::time>("0.000001 s");
        Segment s;
        s.what = c;
        a.cycle.segments.push_back(s);
        before = speed;
    };
    for (const Piece3& p : pieces) {
        change(p.speed);
        Segment run;
        const auto lasts = q<Kind::time>(std::to_string(p.lasts) + " s");
        if (p.speed == 0) {
            Dwell rest;
            rest.duration = lasts;
            run.what = rest;
        } else {
            ConstantSpeed turns;
            turns.duration = lasts;
            run.what = turns;
        }
        run.process_force.text = std::to_string(p.torque) + " N·m";
        a.cycle.segments.push_back(run);
    }
    change(0);
    m.axes.clear();
    m.axes.push_back(a);
    reread_motion(m.axes.at(0));
    return m;
}

const Limit& limit_of(const Assessment& a, const char* key) {
    const Limit* l = a.limit(key);
    INFO(key);
    REQUIRE(l);
    return *l;
}

} // namespace

TEST_CASE("behind a stage lies an axis without it") {
    const Machine m = demo();
    const Assessment a = assess(m, table_axis);
    REQUIRE(a.demand);
    REQUIRE(a.stages->size() == 1);
    // at every instant: what the stage gives is what the mechanism takes, and turns as fast
    const LoadModel beyond = beyond_stage(a.demand->load, 0);
    CHECK(beyond.stages.empty());
    CHECK(beyond.rotor_inertia == 0);
    for (const Span& s : a.demand->spans) {
        if (s.direction == 0) continue;
        const double t = s.start + 0.37 * s.duration;
        const ShaftState whole = evaluate(a.demand->load, s, t), seen = evaluate(beyond, s, t);
        CHECK(seen.torque == Approx(whole.mechanism_torque));
        CHECK(seen.speed * 16 == Approx(whole.speed));
    }
    CHECK(a.stages->at(0).peak_speed == Approx(a.demand->peak_speed));
    CHECK(a.stages->at(0).mean_speed == Approx(a.demand->mean_speed));
}

TEST_CASE("equivalent torque is the mean of powers weighted by turns") {
    // (Σ n t T^q / Σ n t)^(1/q), the sum of the handbooks of gearheads; identity, worked out here
    const std::vector<Piece3> pieces{{1, 600, 4}, {2, 1200, 1}, {0.5, 300, 9}, {3, 0, 20}};
    for (const double exponent : {3.0, 10.0 / 3, 6.6}) {
        Stage s = stage("5", "0.9");
        s.rated_torque = q<Kind::torque>("10 N·m");
        s.exponent = q<Kind::number>(std::to_string(exponent));
        const Assessment a = assess(given(pieces, {s}), 0);
        REQUIRE(a.stages->size() == 1);
        double over = 0, under = 0;
        for (const Piece3& p : pieces) {
            over += p.speed * p.lasts * std::pow(p.torque, exponent);
            under += p.speed * p.lasts;
        }
        INFO(exponent);
        CHECK(a.stages->at(0).equivalent == Approx(std::pow(over / under, 1 / exponent)).epsilon(1e-4));
        CHECK(limit_of(a, "stage_equivalent").used == Approx(a.stages->at(0).equivalent));
        // standing still drops out of wear, not of the largest torque
        CHECK(a.stages->at(0).peak == Approx(20));
        CHECK(a.stages->at(0).mean_speed == Approx(5 * under / 6.5 * a_minute).epsilon(1e-4));
        CHECK(a.stages->at(0).moving_speed == Approx(5 * under / 3.5 * a_minute).epsilon(1e-4));
    }
    // an even torque is its own equivalent, whatever the exponent
    Stage s = stage("2");
    s.exponent = q<Kind::number>("17");
    CHECK(assess(given({{1, 600, 4}, {1, 100, 4}}, {s}), 0).stages->at(0).equivalent == Approx(4).epsilon(1e-6));
}

TEST_CASE("of several stages each is seen at its own shafts, and the worst is judged") {
    Stage first = stage("3", "0.95"), second = stage("4", "0.9");
    first.name = "belt";
    second.name = "gearhead";
    second.inertia = q<Kind::inertia>("2 kg·cm²");
    first.peak_torque = q<Kind::torque>("2 N·m");
    Machine m = given({{1, 100, 6}, {1, 0, 0}}, {first, second});
    const Assessment a = assess(m, 0);
    REQUIRE(a.stages->size() == 2);
    CHECK(a.stages->at(1).peak >= 6);
    CHECK(a.stages->at(1).peak_speed == Approx(400 * a_minute));
    CHECK(a.stages->at(0).peak_speed == Approx(1200 * a_minute));
    // at even speed the belt gives 6/(4 · 0.9)
    const Span* even = nullptr;
    for (const Span& s : a.demand->spans)
        if (s.duration > 0.5 && s.direction != 0) even = &s;
    REQUIRE(even);
    CHECK(evaluate(beyond_stage(a.demand->load, 0), *even, even->start + 0.1).torque == Approx(6 / 3.6));
    // the one whose sheet is silent is named, and not taken for fitting
    CHECK(limit_of(a, "stage_peak").state == LimitState::over); // by the belt
    m.axes.at(0).stages[0].peak_torque = q<Kind::torque>("1e6 N·m");
    const Assessment silent = assess(m, 0);
    CHECK(limit_of(silent, "stage_peak").state == LimitState::cannot_say);
    CHECK_THAT(limit_of(silent, "stage_peak").reason.in(UnitSystem::si), Contains("peak torque of gearhead (stage 2)"));
    m.axes.at(0).stages[1].peak_torque = q<Kind::torque>("5 N·m");
    CHECK(limit_of(assess(m, 0), "stage_peak").state == LimitState::over);
    m.axes.at(0).stages[1].peak_torque = q<Kind::torque>("1e6 N·m");
    m.axes.at(0).stages[0].peak_torque = q<Kind::torque>("1 N·m");
    CHECK(limit_of(assess(m, 0), "stage_peak").reason.in(UnitSystem::si).find("belt") != std::string::npos);
}

TEST_CASE("limits of a stage move the right way, and wait only for what they need") {
    const Machine m = demo();
    const Assessment was = assess(m, shuttle_axis);
    for (const char* key : {"stage_peak", "stage_equivalent", "stage_emergency", "stage_mean_speed", "stage_speed"})
        CHECK(limit_of(was, key).state == LimitState::fits);
    const auto with = [&](auto change) {
        Machine changed = m;
        change(changed.axes.at(shuttle_axis));
        return assess(changed, shuttle_axis);
    };
    CHECK(limit_of(with([](Axis& a) { a.stages[0].peak_torque = q<Kind::torque>("3 N·m"); }), "stage_peak").state ==
          LimitState::over);
    CHECK(limit_of(with([](Axis& a) { a.stages[0].rated_torque = q<Kind::torque>("2 N·m"); }), "stage_equivalent")
              .state == LimitState::over);
    CHECK(limit_of(with([](Axis& a) { a.drive.stop_time = q<Kind::time>("0.02 s"); }), "stage_emergency").used >
          limit_of(was, "stage_emergency").used * 5);
    const Assessment endless = with([](Axis& a) { a.drive.stop_time = {}; });
    CHECK(!endless.limit("stage_emergency")); // nobody asks for a stop
    CHECK(limit_of(endless, "stage_peak").state == LimitState::fits);
    CHECK(limit_of(
              with([](Axis& a) { a.stages[0].nominal_speed = q<Kind::angular_speed>("500 rpm"); }), "stage_mean_speed")
              .state == LimitState::over);
    // without a sheet, or a motor, or on an axis without stages
    const Assessment bare = with([](Axis& a) {
        a.stages[0].peak_torque = {};
        a.stages[0].rated_torque = {};
        a.motor = {};
    });
    for (const char* key : {"stage_peak", "stage_equivalent"}) { // a gearhead has such ratings
        CHECK(limit_of(bare, key).state == LimitState::cannot_say);
        CHECK(limit_of(bare, key).missing.size() == 1);
    }
    CHECK(limit_of(bare, "stage_speed").state == LimitState::fits);
    CHECK(!assess(m, 0).limit("stage_peak"));
    // what somebody typed half silences the stage and nothing else
    const Assessment half = with([](Axis& a) {
        a.stages[0].peak_torque.text = "8 N·";
        a.stages[0].peak_torque.si = NAN;
    });
    for (const Limit& l : was.limits) {
        INFO(l.key);
        const Limit* now = half.limit(l.key);
        const bool by_sheet = l.key.starts_with("stage_") && l.key != "stage_mating" && l.key != "stage_radial" &&
                              l.key != "stage_axial" && l.key != "stage_tilting";
        if (by_sheet)
            CHECK((!now || now->state == LimitState::cannot_say));
        else
            CHECK((now && now->state == l.state));
    }
}

TEST_CASE("a load that hangs from a gearhead counts at rest, whoever holds it") {
    Machine m = demo();
    Axis& lift = m.axes.at(0);
    Stage s = stage("2", "0.95");
    s.peak_torque = q<Kind::torque>("5 N·m");
    lift.stages = {s};
    const Assessment a = assess(m, 0);
    REQUIRE(a.stages->size() == 1);
    CHECK(a.stages->at(0).peak >= a.demand->static_torque * 2 * (1 - 1e-9));
    CHECK(a.stages->at(0).peak >= std::abs(a.demand->peak.state.mechanism_torque));
}

TEST_CASE("what the motor could give at a stage, and how long a stage lasts") {
    const Machine m = demo();
    const Assessment a = assess(m, shuttle_axis);
    REQUIRE(a.can);
    const Stage& s = m.axes.at(shuttle_axis).stages[0];
    CHECK(motor_peak_at(m.axes.at(shuttle_axis), a.demand->load, &*a.can, 0) ==
          Approx(a.can->peak.stall() * s.ratio.si * s.efficiency.si));
    CHECK(std::isnan(motor_peak_at(m.axes.at(shuttle_axis), a.demand->load, nullptr, 0)));
    StageUse use;
    use.equivalent = s.rated_torque.si / 2;
    use.exponent = 3;
    use.mean_speed = s.nominal_speed.si / 4;
    CHECK(stage_life(s, use) == Approx(20000 * 3600.0 * 8 * 4));
    use.equivalent = 0;
    CHECK(std::isinf(stage_life(s, use)));
    Stage silent = s;
    silent.life = {};
    CHECK(std::isnan(stage_life(silent, use)));
}

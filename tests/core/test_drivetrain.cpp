// Coupling, brake and drive.
#include "core/drivetrain/brake_stop.h"
#include "core/match/coupling_kinds.h"
#include "core/match/mating.h"
#include "core/match/torque_limit.h"
#include "core/motor/overload_integral.h"
#include "core/quantity/format.h"
#include "core/report/json_report.h"
#include "tests/catch.h"
#include "tests/drivetrain.h"

#include <cmath>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

TEST_CASE("a coupling is held against what the motor can put through it, not against the cycle alone") {
    // common practice, no source: (T_peak − T_ext) J_L/J + T_ext
    const double r = 0.01 / (2 * half_circle), load = 5 * r * r;
    Machine m = plain(load); // half of the inertia on each side
    Axis& a = m.axes[0];
    a.coupling.rated_torque = Quantity<Kind::torque>("3 N·m");
    a.coupling.service_factor = Quantity<Kind::number>("1.5");
    const Assessment was = assess(m, 0);
    REQUIRE(was.coupling);
    const CouplingUse& u = *was.coupling;
    REQUIRE(u.bounded);
    const double external = 5 * 9.80665 * r, peak = 3.81;
    CHECK(u.motor_torque == Approx(peak));
    CHECK(u.external_most == Approx(external));
    CHECK(u.load_share_most == Approx(0.5).epsilon(1e-6));
    const auto& motor = u.bounds[CouplingUse::motor];
    CHECK(motor[0].motor_peak == Approx(peak));
    CHECK(motor[0].shared == Approx((peak - external) / 2 + external).epsilon(1e-6));
    CHECK(motor[0].first_swing == Approx(peak).epsilon(1e-6)); // twice the half
    CHECK(motor[1].motor_peak == Approx(-peak));
    CHECK(motor[1].shared == Approx((-peak - external) / 2 + external).epsilon(1e-6));
    const Limit& l = limit_of_axis(was, "coupling");
    CHECK(l.used == Approx(1.5 * motor[0].shared));
    CHECK(l.state == LimitState::fits);
    // what the drive leaves of the peak is what counts
    a.drive.torque_limit = Quantity<Kind::torque>("2 N·m");
    CHECK(assess(m, 0).coupling->bounds[0][0].shared == Approx((2 - external) / 2 + external).epsilon(1e-6));
    a.drive.torque_limit = {};
    // the motor's torque in an emergency stop may be typed
    a.drive.emergency_torque = Quantity<Kind::torque>("6 N·m");
    const Assessment typed = assess(m, 0);
    CHECK(typed.coupling->bounds[0][0].shared == Approx(motor[0].shared));
    CHECK(typed.coupling->bounds[1][0].shared == Approx((6 - external) / 2 + external).epsilon(1e-6));
    CHECK(limit_of_axis(typed, "coupling").used == Approx(1.5 * ((6 - external) / 2 + external)).epsilon(1e-6));
}

TEST_CASE("without a motor a coupling may be over, and never fits") {
    const auto with = [](const char* rating) {
        return of_lift([&](Axis& a) {
            a.motor = {};
            a.coupling.rated_torque = Quantity<Kind::torque>(rating);
        });
    };
    CHECK(limit_of_axis(with("0.5 N·m"), "coupling").state == LimitState::over);
    const Assessment plenty = with("500 N·m");
    CHECK(limit_of_axis(plenty, "coupling").state == LimitState::cannot_say);
    // a half-typed point of the peak curve: over is said, fits is not
    const auto half = [](const char* rating) {
        return of_lift([&](Axis& a) {
            a.motor.peak[1].torque.text = "3 N·";
            a.motor.peak[1].torque.si = NAN;
            a.coupling.rated_torque = Quantity<Kind::torque>(rating);
        });
    };
    CHECK(limit_of_axis(half("0.5 N·m"), "coupling").state == LimitState::over);
    const Assessment waits = half("500 N·m");
    CHECK(limit_of_axis(waits, "coupling").state == LimitState::cannot_say);
    CHECK_THAT(limit_of_axis(waits, "coupling").reason.in(UnitSystem::si), Catch::Matchers::Contains("waits for: "));
    // nor does a demand that is given without its inertia
    Machine m = demo();
    GivenDemand g;
    m.axes[0].mechanism = g;
    m.axes[0].accuracy = {};
    m.axes[0].coupling.rated_torque = Quantity<Kind::torque>("500 N·m");
    const Assessment given = assess(m, 0);
    if (const Limit* l = given.limit("coupling")) CHECK(l->state == LimitState::cannot_say);
}

TEST_CASE("a coupling behind a gearhead carries the geared torque") {
    Machine m = plain(2e-5);
    Axis& a = m.axes[0];
    Stage s;
    s.ratio = Quantity<Kind::number>("5");
    s.efficiency = Quantity<Kind::number>("0.9");
    s.inertia = Quantity<Kind::inertia>("1e-5 kg·m²");
    a.stages = {s};
    a.coupling.place = CouplingPlace::mechanism;
    a.coupling.rated_torque = Quantity<Kind::torque>("100 N·m");
    const Assessment was = assess(m, 0);
    REQUIRE(was.coupling);
    const double r = 0.01 / (2 * half_circle), load = 5 * r * r, external = 5 * 9.80665 * r;
    // the equation of motion of both sides with the loss of the gearhead between them
    const double torque = 3.81 * 5 * 0.9, motor = (2e-5 + 1e-5) * 25 * 0.9;
    CHECK(was.coupling->bounds[0][0].shared ==
          Approx((torque - external) * load / (load + motor) + external).epsilon(1e-5));
    // driven back, as in a stop, more of the motor's torque is felt there
    const double back = 2 - 1 / 0.9, stopped = 3.81 * 5 / back, felt = (2e-5 + 1e-5) * 25 / back;
    CHECK(was.coupling->bounds[1][1].shared ==
          Approx((-stopped - external) * load / (load + felt) + external).epsilon(1e-5));
}

TEST_CASE("bores, misalignment and speed of a coupling") {
    CHECK(limit_of_axis(of_lift(), "coupling_bores").state == LimitState::fits);
    const Assessment wrong = of_lift([](Axis& a) { a.coupling.driving_bore = Quantity<Kind::length>("16 mm"); });
    CHECK(limit_of_axis(wrong, "coupling_bores").state == LimitState::over);
    CHECK_THAT(limit_of_axis(wrong, "coupling_bores").reason.in(UnitSystem::si),
        Catch::Matchers::Contains("16 mm") && Catch::Matchers::Contains("14 mm"));
    // an inch size rounded to hundredths is the same size
    CHECK(limit_of_axis(of_lift([](Axis& a) {
        a.coupling.driven_bore = Quantity<Kind::length>("0.5 in");
        a.coupling.driven_shaft = Quantity<Kind::length>("12.7 mm");
    }),
              "coupling_bores")
              .state == LimitState::fits);
    const Assessment unknown = of_lift([](Axis& a) {
        a.coupling.driven_shaft = {};
        a.motor.shaft_diameter = {};
    });
    CHECK(limit_of_axis(unknown, "coupling_bores").state == LimitState::cannot_say);
    // 0.2/1 + 0.05/0.15 + 0.15/0.5
    CHECK(limit_of_axis(of_lift(), "coupling_alignment").used == Approx(0.2 + 1.0 / 3 + 0.3));
    CHECK(limit_of_axis(of_lift([](Axis& a) { a.coupling.axial = {}; }), "coupling_alignment").state ==
          LimitState::cannot_say);
    CHECK(limit_of_axis(of_lift([](Axis& a) { a.coupling.top_speed = Quantity<Kind::angular_speed>("4000 rpm"); }),
              "coupling_speed")
              .state == LimitState::over);
    // without any coupling nothing is judged
    const Assessment none = of_lift([](Axis& a) { a.coupling = {}; });
    for (const Limit& l : none.limits) CHECK(!l.key.starts_with("coupling"));
}

TEST_CASE("a stop without power is that of constant deceleration, the delay included") {
    // ½ J ω² T_b/(T_b − T_g) with ω after the delay; equation of motion
    Machine m = plain(1e-4);
    Axis& a = m.axes[0];
    a.motor.brake_torque = Quantity<Kind::torque>("2 N·m");
    a.motor.brake_stopping.dynamic_torque = Quantity<Kind::torque>("1.5 N·m");
    a.motor.brake_stopping.apply_time = Quantity<Kind::time>("0.04 s");
    a.motor.brake_stopping.stop_energy = Quantity<Kind::energy>("500 J");
    const Assessment was = assess(m, 0);
    REQUIRE(was.brake);
    REQUIRE(was.brake->delays_known);
    const double r = 0.01 / (2 * half_circle), inertia = 1e-4 + 5 * r * r + was.demand->load.own_inertia;
    const double gravity = 5 * 9.80665 * r, top = was.demand->peak_speed;
    const auto stop = [&](double start, double pull) { // pull > 0 drives on
        const double engages = start + pull / inertia * 0.04;
        PowerLoss out;
        out.engages_at = engages;
        out.energy = inertia * engages * engages / 2 * 1.5 / (1.5 - pull);
        out.time = 0.04 + engages * inertia / (1.5 - pull);
        out.distance =
            r * (start * 0.04 + pull / inertia * 0.04 * 0.04 / 2 + engages * engages * inertia / 2 / (1.5 - pull));
        return out;
    };
    REQUIRE(was.brake->forward);
    REQUIRE(was.brake->backward);
    for (const auto& [got, want] : {std::pair(*was.brake->forward, stop(top, -gravity)),
             std::pair(*was.brake->backward, stop(top, gravity)), std::pair(was.brake->standing, stop(0, gravity))}) {
        CHECK(got.stops);
        CHECK(got.engages_at == Approx(want.engages_at).epsilon(1e-9));
        CHECK(got.energy == Approx(want.energy).epsilon(1e-9));
        CHECK(got.time == Approx(want.time).epsilon(1e-9));
        CHECK(got.distance == Approx(want.distance).epsilon(1e-9));
    }
    CHECK(limit_of_axis(was, "brake_energy").used == Approx(was.brake->backward->energy));
    // a brake that slips with less than the load pulls never stops it: never a number, never fits
    a.motor.brake_stopping.dynamic_torque = Quantity<Kind::torque>("0.05 N·m");
    const Assessment slips = assess(m, 0);
    CHECK(limit_of_axis(slips, "brake_stop").state == LimitState::over);
    CHECK(limit_of_axis(slips, "brake_energy").state == LimitState::over);
    CHECK(!slips.brake->backward->stops);
    CHECK(std::isnan(slips.figure("brake.drop")->si));
    const auto json = nlohmann::json::parse(assessment_json(m, {slips}, {}, {}));
    CHECK(json["axes"][0]["brake"]["backward"]["energy"].is_null());
    CHECK(json["axes"][0]["brake"]["backward"]["stops"] == false);
    // without the delay nothing is said of distance and energy
    a.motor.brake_stopping.dynamic_torque = {};
    a.motor.brake_stopping.apply_time = {};
    const Assessment unknown = assess(m, 0);
    CHECK(limit_of_axis(unknown, "brake_energy").state == LimitState::cannot_say);
    CHECK(!unknown.figure("brake.stop_energy"));
    CHECK_THAT(limit_of_axis(unknown, "brake_stop").reason.in(UnitSystem::si),
        Catch::Matchers::Contains("no dynamic torque given"));
}

TEST_CASE("a load thrown upwards comes back before a late brake engages, and two brakes share the work") {
    Machine m = plain(1e-5);
    Axis& a = m.axes[0];
    a.motor.brake_torque = Quantity<Kind::torque>("2 N·m");
    a.motor.brake_stopping.apply_time = Quantity<Kind::time>("2 s");
    const Assessment late = assess(m, 0);
    const double r = 0.01 / (2 * half_circle), gravity = 5 * 9.80665 * r;
    const double inertia = 1e-5 + 5 * r * r + late.demand->load.own_inertia, top = late.demand->peak_speed;
    CHECK(late.brake->forward->engages_at == Approx(std::abs(top - gravity / inertia * 2)).epsilon(1e-9));
    // work of the brake: what the load has at the bite and what it gives on the way to rest
    const double w = late.brake->forward->engages_at;
    CHECK(late.brake->forward->energy == Approx(inertia * w * w / 2 * 2 / (2 - gravity)).epsilon(1e-9));
    // a second one on the mechanism's shaft, at once
    a.brake.static_torque = Quantity<Kind::torque>("1 N·m");
    a.brake.stopping.apply_time = Quantity<Kind::time>("0 s");
    a.brake.place = CouplingPlace::mechanism;
    const Assessment both = assess(m, 0);
    REQUIRE(both.brake->brakes.size() == 2);
    CHECK(limit_of_axis(both, "brake").allowed == Approx(3));
    CHECK(both.brake->standing.distance == 0);
    CHECK(both.brake->standing.energy == 0);
    CHECK(both.brake->backward->energies[0] == 0); // it stands before the motor's brake engages
    CHECK(both.brake->backward->energy == Approx(inertia * top * top / 2 / (1 - gravity)).epsilon(1e-9));
    // its inertia counts with the load there, with the rotor on the motor's shaft
    a.brake.inertia = Quantity<Kind::inertia>("3e-5 kg·m²");
    const double load = assess(m, 0).inertia->load, rotor = assess(m, 0).inertia->rotor;
    a.brake.place = CouplingPlace::motor;
    CHECK(assess(m, 0).inertia->load == Approx(load - 3e-5));
    CHECK(assess(m, 0).inertia->rotor == Approx(rotor + 3e-5));
}

TEST_CASE("the overload of a drive against adding up small steps, cycle after cycle") {
    Machine m = demo();
    for (const auto& [continuous, peak, time] :
        {std::tuple("1.9 A", "8 A", "0.5 s"), std::tuple("1.75 A", "3.1 A", "0.2 s"), std::tuple("1.2 A", "4 A", "2 s"),
            std::tuple("2.9 A", "4 A", "0.001 s")}) {
        INFO(continuous);
        Axis& a = m.axes[0];
        a.drive.continuous_current = Quantity<Kind::current>(continuous);
        a.drive.peak_current = Quantity<Kind::current>(peak);
        a.drive.peak_time = Quantity<Kind::time>(time);
        const Assessment was = assess(m, 0);
        REQUIRE(was.overload);
        const double ic = a.drive.continuous_current.si, ip = a.drive.peak_current.si;
        CHECK(was.overload->budget == Approx((ip * ip - ic * ic) * a.drive.peak_time.si));
        // current by current over the cycle
        std::vector<double> squares;
        constexpr int steps = 200'000;
        const double dt = was.demand->cycle_time / steps;
        for (int i = 0; i < steps; ++i) {
            const double t = (i + 0.5) * dt;
            const ShaftState s = was.demand->at(t);
            const bool braked = was.demand->span_at(t).regime == Regime::braked;
            const double current = braked ? 0 : was.motor->can.model->draw(s.torque, s.speed, true).current;
            squares.push_back(current * current - ic * ic);
        }
        double filled = 0, most = 0, trip_time = 0;
        int trip_cycle = 0;
        for (int cycle = 1; cycle <= 200 && trip_cycle == 0; ++cycle)
            for (int i = 0; i < steps; ++i) {
                filled = std::max(0.0, filled + squares[static_cast<std::size_t>(i)] * dt);
                most = std::max(most, filled);
                if (filled > was.overload->budget) {
                    trip_cycle = cycle;
                    trip_time = (i + 1) * dt;
                    break;
                }
            }
        CHECK(was.overload->trips == (trip_cycle > 0));
        if (trip_cycle > 0) {
            CHECK(was.overload->trip_cycle == trip_cycle);
            CHECK(was.overload->trip_time == Approx(trip_time).margin(2e-4));
            CHECK(limit_of_axis(was, "drive_overload").state == LimitState::over);
        } else {
            CHECK(was.overload->greatest == Approx(most).epsilon(1e-3));
            CHECK(limit_of_axis(was, "drive_overload").state == LimitState::fits);
        }
    }
    // above what it gives continuously, and nobody says for how long
    m.axes[0].drive.peak_time = {};
    m.axes[0].drive.continuous_current = Quantity<Kind::current>("1.9 A");
    CHECK(limit_of_axis(assess(m, 0), "drive_overload").state == LimitState::cannot_say);
}

TEST_CASE("a drive's currents, as derated, shape what the motor gives") {
    Machine m = demo();
    Axis& a = m.axes[0];
    a.drive.peak_current = Quantity<Kind::current>("5 A");
    const Assessment was = assess(m, 0);
    const double hot = was.can->model->torque_of(5, true);
    CHECK(was.can->peak.stall() == Approx(hot));
    CHECK(was.can->peak_bound(0, false) == BoundBy::drive_current);
    // 2 % for each K beyond 40 °C, 1 % for each 100 m beyond 1000 m
    m.site.ambient = Quantity<Kind::temperature>("45 °C");
    m.site.altitude = Quantity<Kind::length>("1500 m");
    a.drive.derates_from = Quantity<Kind::temperature>("40 °C");
    a.drive.derating_rate = Quantity<Kind::number>("2 %");
    a.drive.derates_above = Quantity<Kind::length>("1000 m");
    a.drive.altitude_rate = Quantity<Kind::number>("1 %");
    CHECK(drive_share(a.drive, m.site) == Approx(0.9 * 0.95));
    CHECK(assess(m, 0).can->peak.stall() == Approx(was.can->model->torque_of(5 * 0.9 * 0.95, true)));
    // a torque limit is seen in curve and bound
    a.drive.torque_limit = Quantity<Kind::torque>("1 N·m");
    const Assessment limited = assess(m, 0);
    CHECK(limited.can->peak.stall() == 1);
    CHECK(limited.can->peak_bound(0, false) == BoundBy::torque_limit);
    CHECK(limit_of_axis(limited, "peak_torque").allowed <= 1);
    // windows of the bus
    a.drive.highest_voltage = Quantity<Kind::voltage>("340 V");
    a.drive.mains_rise = Quantity<Kind::number>("10 %");
    a.drive.lowest_voltage = Quantity<Kind::voltage>("300 V");
    const Assessment windows = assess(m, 0);
    CHECK(limit_of_axis(windows, "drive_highest").state == LimitState::over);
    CHECK(limit_of_axis(windows, "drive_highest").used == Approx(352));
    CHECK(limit_of_axis(windows, "drive_lowest").state == LimitState::fits);
}

TEST_CASE("the torque limit to program is that of the weakest part") {
    const Assessment a = of_lift();
    const Figure* f = a.figure("drive.torque_limit");
    REQUIRE(f);
    CHECK(f->si == Approx(10 / 1.5)); // the coupling with its service factor
    const Assessment geared = of_lift([](Axis& x) {
        Stage s;
        s.name = "small one";
        s.ratio = Quantity<Kind::number>("4");
        s.efficiency = Quantity<Kind::number>("0.9");
        s.peak_torque = Quantity<Kind::torque>("8 N·m");
        x.stages = {s};
    });
    // driven back, as in a stop, the stage passes on 1/(2 − 1/0.9) of what the motor holds
    CHECK(geared.figure("drive.torque_limit")->si == Approx(2 * (2 - 1 / 0.9)));
    CHECK_THAT(geared.figure("drive.torque_limit")->note.in(UnitSystem::si), Catch::Matchers::Contains("small one"));
}

TEST_CASE("in the demo one coupling is right by rated torque only, and one gearhead fails only in the emergency stop") {
    const Machine m = demo();
    const auto axis = std::find_if(m.axes.begin(), m.axes.end(), [](const Axis& a) { return a.name == "Edge wiper"; });
    REQUIRE(axis != m.axes.end());
    const Assessment a = assess(m, static_cast<std::size_t>(axis - m.axes.begin()));
    const double rated = 0.64 * axis->stages[0].ratio.si * axis->coupling.service_factor.si;
    CHECK(rated < axis->coupling.rated_torque.si);
    CHECK(limit_of_axis(a, "coupling").state == LimitState::over);
    CHECK(limit_of_axis(a, "stage_emergency").state == LimitState::over);
    for (const char* key : {"stage_peak", "stage_equivalent", "stage_mean_speed", "stage_speed"})
        CHECK(limit_of_axis(a, key).state == LimitState::fits);
}

TEST_CASE("a drive that does not read the encoder, or take the commands, is pointed out") {
    const auto said = [](const Assessment& a, const char* path) {
        return std::any_of(a.problems.begin(), a.problems.end(),
            [&](const Problem& p) { return p.severity == Severity::suspicious && p.path.ends_with(path); });
    };
    Machine m = demo();
    Drive& d = m.axes[0].drive;
    d.encoder = Feedback::resolver;
    CHECK(!said(assess(m, 0), "/drive/encoder")); // nobody says what the drive reads
    d.reads_serial = true;
    CHECK(said(assess(m, 0), "/drive/encoder"));
    d.reads_resolver = true;
    CHECK(!said(assess(m, 0), "/drive/encoder"));
    d.controller = Command::pulses;
    d.takes_network = true;
    CHECK(said(assess(m, 0), "/drive/controller"));
    d.takes_pulses = true;
    CHECK(!said(assess(m, 0), "/drive/controller"));
}

TEST_CASE("the pulse input of a drive counts as that of the controller does") {
    Machine m = demo();
    const auto axis =
        std::find_if(m.axes.begin(), m.axes.end(), [](const Axis& a) { return a.name == "Sampling slide"; });
    const auto index = static_cast<std::size_t>(axis - m.axes.begin());
    REQUIRE(index < m.axes.size());
    CHECK(limit_of_axis(assess(m, index), "pulse_rate").allowed == 50e3);
    m.axes[index].drive.pulse_input = Quantity<Kind::frequency>("20 kHz");
    CHECK(limit_of_axis(assess(m, index), "pulse_rate").allowed == 20e3);
    m.axes[index].drive.pulse_limit = {};
    CHECK(limit_of_axis(assess(m, index), "pulse_rate").allowed == 20e3);
}

TEST_CASE("bounds of a coupling on a crank are those of its worst angle, however often it comes by") {
    // by going through the cycle in small steps
    Machine m = demo();
    const auto axis = std::find_if(m.axes.begin(), m.axes.end(), [](const Axis& a) { return a.name == "Edge wiper"; });
    const auto index = static_cast<std::size_t>(axis - m.axes.begin());
    const Assessment a = assess(m, index);
    REQUIRE(a.coupling);
    REQUIRE(a.coupling->bounded);
    const LoadModel& l = a.demand->load;
    const double braking = m.axes[index].stages[0].efficiency_back.value_or(2 - 1 / l.stages[0].forward);
    double most = 0;
    constexpr int steps = 200'000;
    for (int i = 0; i < steps; ++i) {
        const Span& s = a.demand->span_at(a.demand->cycle_time * i / steps);
        const double q = s.piece.position(a.demand->cycle_time * i / steps - s.piece.start);
        const double hold =
            holding_torque(l, q, s.payload, s.process_at(a.demand->cycle_time * i / steps), false) * l.ratio;
        const double r = path_at(l, q).first, load = (l.moving_mass + s.payload) * r * r + l.own_inertia;
        for (const double side : {1.0, -1.0})
            for (const bool stop : {false, true}) {
                const double kept = stop ? 1 / braking : l.stages[0].forward;
                const double torque =
                    side * (stop ? a.coupling->emergency_motor_torque : a.coupling->motor_torque) * l.ratio * kept;
                const double motor = (l.rotor_inertia + l.motor_side + l.stages[0].inertia) * l.ratio * l.ratio * kept;
                most = std::max(most, std::abs((torque - hold) * load / (load + motor) + hold));
            }
    }
    CHECK(a.coupling->judged() == Approx(most).epsilon(1e-6));
}

TEST_CASE("a worm by its lead angle: the formula of a screw, by hand") {
    Stage s;
    s.kind = StageKind::worm;
    s.ratio = Quantity<Kind::number>("30");
    s.lead_angle = Quantity<Kind::angle>("6 deg");
    s.mesh_friction = Quantity<Kind::number>("0.06");
    // tan ρ = 0.06/cos 20° = 0.0638507, ρ = 3.65341°; tan 6° = 0.1051042, tan 9.65341° = 0.1700963
    CHECK_THAT(s.driving(), Catch::Matchers::WithinAbs(0.1051042 / 0.1700963, 2e-6));
    CHECK_THAT(s.back(), Catch::Matchers::WithinAbs(std::tan((6 - 3.65341) * M_PI / 180) / 0.1051042, 2e-5));
    // below the friction angle it locks
    s.lead_angle = Quantity<Kind::angle>("3 deg");
    CHECK(s.back() < 0);
    // of another kind the fields have no effect
    s.kind = StageKind::planetary;
    CHECK(s.driving() == s.efficiency.si);
    Machine m = demo();
    Axis& a = m.axes[1];
    a.stages[0].kind = StageKind::worm;
    a.stages[0].no_load_torque = {};
    a.stages[0].lead_angle = Quantity<Kind::angle>("20 deg");
    a.stages[0].mesh_friction = Quantity<Kind::number>("0.05");
    const double forward = a.stages[0].driving(), back = a.stages[0].back();
    const Assessment by_lead = assess(m, 1);
    a.stages[0].lead_angle = {};
    a.stages[0].efficiency = Quantity<Kind::number>(format_number(forward, 17));
    a.stages[0].efficiency_back = Quantity<Kind::number>(format_number(back, 17));
    const Assessment typed = assess(m, 1);
    CHECK_THAT(by_lead.demand->rms_torque, Catch::Matchers::WithinRel(typed.demand->rms_torque, 1e-12));
    // without the friction of the mesh nothing that depends on it is known
    a.stages[0].lead_angle = Quantity<Kind::angle>("20 deg");
    a.stages[0].mesh_friction = {};
    CHECK(assess(m, 1).limit("peak_torque")->state == LimitState::cannot_say);
    CHECK(assess(m, 1).limit("speed")->state != LimitState::cannot_say);
}

TEST_CASE("the torque of a gearhead in an emergency stop may be typed") {
    Machine m = demo();
    Axis& a = m.axes[1];
    REQUIRE(a.stages[0].emergency_torque.given());
    a.stages[0].stop_torque = Quantity<Kind::torque>("7.5 N·m");
    CHECK(assess(m, 1).limit("stage_emergency")->used == 7.5);
    a.drive.stop_time = {};
    a.drive.stop_distance = {};
    const Assessment without = assess(m, 1);
    CHECK(without.limit("stage_emergency")->used == 7.5);
    CHECK_THAT(without.limit("stage_emergency")->reason.in(UnitSystem::si), Contains("as typed"));
    a.stages[0].stop_torque = {};
    CHECK(!assess(m, 1).limit("stage_emergency")); // nobody asks for a stop
}

TEST_CASE("why not by kind of coupling: only what is known speaks against one") {
    Machine m = demo();
    Axis& a = m.axes[0];
    a.coupling.angular = {};
    a.coupling.parallel = {};
    a.accuracy = {};
    a.questions = {};
    const auto against = [&](CouplingKind kind) {
        std::string out;
        const auto all = coupling_kinds(a, assess(m, 0));
        CHECK(all.size() == std::size(Coupling::kinds) - 1);
        for (const CouplingAdvice& k : all)
            if (k.kind == kind)
                for (const Text& t : k.against) out += t.in(UnitSystem::si) + "\n";
        return out;
    };
    // 4.2 : 1 and nothing told of assembly: only the speed of 4800 rpm tells, against the slow one
    CHECK(against(CouplingKind::disc).empty());
    CHECK(against(CouplingKind::sleeve).empty());
    CHECK_THAT(against(CouplingKind::oldham), Contains("4800"));
    a.coupling.parallel = Quantity<Kind::length>("0.3 mm");
    CHECK_THAT(against(CouplingKind::disc), Contains("0.3 mm parallel"));
    CHECK_THAT(against(CouplingKind::sleeve), Contains("it permits none"));
    CHECK_THAT(against(CouplingKind::oldham), !Contains("parallel"));
    CHECK(against(CouplingKind::jaw).find("inertia") == std::string::npos);
    a.load.payload = Quantity<Kind::mass>("120 kg");
    CHECK_THAT(against(CouplingKind::jaw), Contains("times the rotor's inertia"));
    CHECK_THAT(against(CouplingKind::disc), !Contains("inertia"));
    a.accuracy.asked = MotionQuantity<Order::position>("0.05 mm");
    CHECK_THAT(against(CouplingKind::slit), Contains("winds up"));
    // without a motor nothing is said of an inertia ratio
    a.motor = Motor{};
    CHECK_THAT(against(CouplingKind::jaw), !Contains("rotor"));
}

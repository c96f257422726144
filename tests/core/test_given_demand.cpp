// A demand that comes from elsewhere: its table, and process forces that change over a segment.
#include "core/files/demand_text.h"
#include "core/match/assess.h"
#include "tests/demo.h"
#include "tests/mechanism_texts.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

constexpr double one_rpm = 2 * M_PI / 60;

// A trapezoid of the trade: 0.2 s up to 3000 rpm with 2 N·m, 0.5 s at speed with 0.4 N·m, 0.2 s down with −1.2 N·m,
// 0.6 s at rest.
constexpr const char* table = "duration [s];start speed [rpm];end speed [rpm];start torque [N·m];end torque [N·m]\n"
                              "0,2;0;3000;2;2\n0,5;3000;3000;0,4;0,4\n0,2;3000;0;-1,2;-1,2\n0,6;0;0;0;0\n";

Machine with_demand(const char* text, DemandAt at = DemandAt::shaft) {
    Machine m = demo();
    Axis& a = m.axes[0];
    GivenDemand g;
    g.at = at;
    g.lead = Quantity<Kind::length>("10 mm");
    a.mechanism = g;
    a.coupling = {};
    a.load = {};
    const DemandText read = read_demand_text(text, at == DemandAt::screw);
    REQUIRE(read.wrong.empty());
    a.cycle = read.cycle;
    reread_motion(a);
    return m;
}

} // namespace

TEST_CASE("a demand given at the motor is what the motor gives, but for its rotor") {
    Machine m = with_demand(table);
    m.axes[0].motor.rotor_inertia = Quantity<Kind::inertia>("0 kg·cm² + 1e-12 kg·m²");
    m.axes[0].motor.brake_inertia = {};
    const Assessment a = assess(m, 0);
    REQUIRE(!has_errors(a.problems));
    CHECK(a.demand->cycle_time == Approx(1.5));
    CHECK(a.demand->peak.torque == Approx(2));
    CHECK(a.demand->rms_torque == Approx(std::sqrt((4 * 0.2 + 0.16 * 0.5 + 1.44 * 0.2) / 1.5)));
    CHECK(a.demand->peak_speed == Approx(3000 * one_rpm));
    CHECK(a.demand->energy_returned == Approx(1.2 * 3000 * one_rpm * 0.1));
    // with a rotor: its acceleration comes on top
    Machine turned = m;
    turned.axes[0].motor.rotor_inertia = Quantity<Kind::inertia>("1 kg·cm²");
    const double more = 1e-4 * 3000 * one_rpm / 0.2;
    CHECK(assess(turned, 0).demand->peak.torque == Approx(2 + more));
    // the rest is judged as of any axis
    for (const char* key : {"speed", "peak_torque", "continuous_loss", "continuous_point", "holding"}) {
        INFO(key);
        REQUIRE(a.limit(key));
        CHECK(a.limit(key)->state != LimitState::cannot_say);
    }
}

TEST_CASE("the load's inertia of a given demand is in it already: the ratio wants it, the torque does not") {
    Machine m = with_demand(table);
    const Assessment without = assess(m, 0);
    CHECK(without.limit("inertia_ratio")->state == LimitState::cannot_say);
    CHECK_THAT(without.limit("inertia_ratio")->reason.in(UnitSystem::si), Contains("load inertia not given"));
    CHECK(std::isnan(without.inertia->ratio()));
    CHECK(!without.figure("load.inertia"));
    for (const SchoolView& s : without.schools) CHECK(s.state == LimitState::cannot_say);
    std::get<GivenDemand>(m.axes[0].mechanism).inertia = Quantity<Kind::inertia>("2 kg·cm²");
    const Assessment with = assess(m, 0);
    CHECK(with.limit("inertia_ratio")->used == Approx(2e-4 / with.inertia->rotor));
    CHECK(with.demand->peak.torque == without.demand->peak.torque);
    CHECK(with.demand->rms_torque == without.demand->rms_torque);
    // one that cannot be read silences the ratio alone
    std::get<GivenDemand>(m.axes[0].mechanism).inertia.text = "two";
    std::get<GivenDemand>(m.axes[0].mechanism).inertia.si = std::nan("");
    const Assessment wrong = assess(m, 0);
    CHECK(wrong.limit("inertia_ratio")->state == LimitState::cannot_say);
    CHECK(wrong.limit("peak_torque")->state == without.limit("peak_torque")->state);
}

TEST_CASE("a demand given behind a reduction or at a screw comes to the motor by ratio, lead and efficiency") {
    Machine m = with_demand(table);
    m.axes[0].motor.rotor_inertia = Quantity<Kind::inertia>("0 kg·cm² + 1e-12 kg·m²");
    m.axes[0].motor.brake_inertia = {};
    Stage s;
    s.ratio = Quantity<Kind::number>("5");
    s.efficiency = Quantity<Kind::number>("0.9");
    m.axes[0].stages = {s};
    const Assessment a = assess(m, 0);
    CHECK(a.demand->peak.torque == Approx(2 / (5 * 0.9)));
    CHECK(a.demand->peak_speed == Approx(5 * 3000 * one_rpm));
    CHECK(a.demand->peak_braking.torque == Approx(-1.2 / 5 * (2 - 1 / 0.9)));
    Machine screw = with_demand("0.1,0,200,500,700\n0.1,200,0,-300,-100\n", DemandAt::screw);
    screw.axes[0].motor.rotor_inertia = Quantity<Kind::inertia>("0 kg·cm² + 1e-12 kg·m²");
    screw.axes[0].motor.brake_inertia = {};
    std::get<GivenDemand>(screw.axes[0].mechanism).losses.efficiency = Quantity<Kind::number>("0.8");
    const Assessment b = assess(screw, 0);
    CHECK(b.demand->peak.torque == Approx(700 * 0.01 / (2 * M_PI) / 0.8));
    CHECK(b.demand->peak_speed == Approx(0.2 / 0.01 * 2 * M_PI));
}

TEST_CASE("a process force that changes over a segment counts at every instant of it") {
    Machine m = with_demand("0.4,0,0,0,2\n0.4,0,1000,2,-1\n0.2,1000,0,-1,3\n0.5,0,0,3,3\n");
    m.axes[0].motor.rotor_inertia = Quantity<Kind::inertia>("0 kg·cm² + 1e-12 kg·m²");
    m.axes[0].motor.brake_inertia = {};
    const Assessment a = assess(m, 0);
    REQUIRE(!has_errors(a.problems));
    // ∫ of a straight line squared: (a² + ab + b²)/3
    const auto square = [](double x, double y) { return (x * x + x * y + y * y) / 3; };
    const double mean = (0.4 * square(0, 2) + 0.4 * square(2, -1) + 0.2 * square(-1, 3) + 0.5 * 9) / 1.5;
    CHECK(a.demand->rms_torque == Approx(std::sqrt(mean)));
    CHECK(a.demand->peak.torque == Approx(3));
    CHECK(a.demand->holding_torque == Approx(3));
    CHECK(a.demand->at(0.2).torque == Approx(1));
    CHECK(a.demand->at(0.6).torque == Approx(0.5));
    // repeated, each playing begins again
    Segment again;
    Repeat r;
    r.segments = Quantity<Kind::number>("4");
    r.times = Quantity<Kind::number>("2");
    again.what = r;
    m.axes[0].cycle.segments.push_back(again);
    CHECK(assess(m, 0).demand->rms_torque == Approx(std::sqrt(mean)));
    // held by the brake, what is pushed with is the brake's at either end
    Dwell braked;
    braked.duration = Quantity<Kind::time>("1 s");
    braked.brake_holds = true;
    m.axes[0].cycle.segments[0].what = braked;
    m.axes[0].cycle.segments[0].process_force_end = MotionQuantity<Order::force>("-4 N·m");
    CHECK(assess(m, 0).demand->brake_torque == Approx(4));
}

TEST_CASE("friction that is credited at rest holds a growing force up to where it slips") {
    Machine m = demo();
    Axis& a = m.axes[0];
    set(m, "/load/inclination", "0 deg");
    set(m, "/load/guide_friction", "0.1");
    set(m, "/load/guide_preload", "");
    set(m, "/load/seal_drag", "");
    set(m, "/load/breakaway", "1");
    set(m, "/load/payload", "0 kg");
    set(m, "/load/carriage_mass", "10 kg");
    a.credit_friction_at_rest = true;
    Segment s;
    Dwell d;
    d.duration = Quantity<Kind::time>("1 s");
    s.what = d;
    s.process_force = MotionQuantity<Order::force>("-300 N");
    s.process_force_end = MotionQuantity<Order::force>("500 N");
    a.cycle = {};
    a.cycle.segments = {s};
    reread_motion(a);
    const Assessment got = assess(m, 0);
    REQUIRE(got.demand);
    // the mean square, by a sum over many instants
    double sum = 0;
    constexpr int n = 200000;
    for (int i = 0; i < n; ++i) {
        const double force = -300 + 800 * (i + 0.5) / n;
        sum += std::pow(holding_torque(got.demand->load, 0, 0, force, true), 2) / n;
    }
    CHECK(sum > 0);
    CHECK(got.demand->rms_torque == Approx(std::sqrt(sum)).epsilon(1e-6));
}

TEST_CASE("a demand table is read with its heading in any order, and names what does not fit") {
    const DemandText turned = read_demand_text(
        "torque end (lb·in),torque start (lb·in),speed start (rpm),speed end (rpm),time (ms)\n10,5,0,1000,250\n",
        false);
    REQUIRE(turned.wrong.empty());
    REQUIRE(turned.cycle.segments.size() == 1);
    CHECK(turned.cycle.segments[0].process_force.text == "5 lb·in");
    CHECK(turned.cycle.segments[0].process_force_end.text == "10 lb·in");
    CHECK(std::get<SpeedChange>(turned.cycle.segments[0].what).duration.si == Approx(0.25));
    const DemandText bad =
        read_demand_text("0.1,0,1000,1,1\n0.1,900,0,1,1\n-1,1000,0,1,1\n0.1,1000,fast,1,1\n0.1,1000,0,1\n"
                         "0.1,1000,0,1,1\n",
            false);
    REQUIRE(bad.wrong.size() == 4);
    CHECK_THAT(bad.wrong[0], Contains("line 2 begins with 900 rpm, the row before it ends with 1000 rpm"));
    CHECK_THAT(bad.wrong[1], Contains("line 3, duration: \"-1\": allowed is a time above 0 s"));
    CHECK_THAT(bad.wrong[2], Contains("line 4, end speed: \"fast\""));
    CHECK_THAT(bad.wrong[3], Contains("line 5 has 4 columns"));
    CHECK(bad.cycle.segments.size() == 2); // the good rows
    const DemandText half = read_demand_text("time,speed,torque,note,more\n1,2,3,4,5\n", false);
    CHECK(half.cycle.segments.empty());
    CHECK_THAT(half.wrong.at(0), Contains("does not name: end speed, end torque"));
    CHECK_THAT(
        read_demand_text("duration [kg];start speed;end speed;start torque;end torque\n1;0;0;0;0\n", false).wrong.at(0),
        Contains("\"kg\" of the heading is no unit of duration"));
    // one that never stops begins and ends with its speed
    const DemandText running = read_demand_text("1\t500\t500\t1,5\t2\n", false);
    CHECK(running.cycle.start_speed.text == "500 rpm");
    CHECK(std::holds_alternative<ConstantSpeed>(running.cycle.segments.at(0).what));
    CHECK(read_demand_text("", false).cycle.segments.empty());
}

// Steppers: one set of ratings under every connection, what steps come to, and how an axis with one is judged.
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/match/stepping.h"
#include "core/model/validate.h"
#include "core/motor/sheet.h"
#include "core/motor/stepper.h"
#include "core/quantity/format.h"
#include "tests/catch.h"
#include "tests/demo.h"

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using std::numbers::pi;
using std::numbers::sqrt2;

namespace {

constexpr double rpm = pi / 30;
constexpr std::size_t slide = 6, by_position = 10;

Motor two_phase(StepperRating rated = StepperRating::four_leads) {
    Motor m;
    m.name = "two";
    TwoPhaseStepper s;
    s.rated_as = rated;
    s.holding_torque = Quantity<Kind::torque>("1.2 N·m");
    s.rated_current = Quantity<Kind::current>("2 A");
    s.resistance = Quantity<Kind::resistance>("1.65 Ω");
    s.inductance = Quantity<Kind::inductance>("4 mH");
    m.electric = s;
    m.rotor_inertia = Quantity<Kind::inertia>("0.28 kg·cm²");
    return m;
}

Drive at(const char* bus, const char* current = "", AmperesAs dial = AmperesAs::rms) {
    Drive d;
    d.bus_voltage = Quantity<Kind::voltage>(bus);
    if (*current) d.phase_current = Quantity<Kind::current>(current);
    d.dial = dial;
    return d;
}

ElectricModel model(const Motor& m, const Drive& d) { return {motor_numbers(m), motor_conditions(m, d, Site{})}; }

} // namespace

TEST_CASE("teeth and steps of hybrid steppers") {
    // common practice, no source: 50 teeth, two phases: 7.2° a tooth, 1.8° a step; 100 teeth 0.9°; five-phase 0.72°,
    // 0.36°
    Motor m = two_phase();
    CHECK(stepper_numbers(m).teeth == Approx(50));
    CHECK(stepper_numbers(m).steps_per_turn() == Approx(200));
    CHECK(360 / stepper_numbers(m).teeth == Approx(7.2));
    std::get<TwoPhaseStepper>(m.electric).step_angle = Quantity<Kind::angle>("0.9 deg");
    CHECK(stepper_numbers(m).teeth == Approx(100));
    FivePhaseStepper five;
    m.electric = five;
    CHECK(stepper_numbers(m).teeth == Approx(50));
    CHECK(stepper_numbers(m).steps_per_turn() == Approx(500));
    five.step_angle = Quantity<Kind::angle>("0.36 deg");
    m.electric = five;
    CHECK(stepper_numbers(m).teeth == Approx(100));
}

TEST_CASE("rated voltage over rated current is the resistance") {
    // common practice, no source: 3.3 V, 2 A
    Motor m = two_phase();
    auto& s = std::get<TwoPhaseStepper>(m.electric);
    s.resistance = {};
    s.rated_voltage = Quantity<Kind::voltage>("3.3 V");
    CHECK(stepper_numbers(m).resistance == Approx(1.65));
    s.resistance = Quantity<Kind::resistance>("3.3 Ω");
    const auto pairs = check_sheet(m);
    REQUIRE(pairs.size() == 1);
    CHECK(pairs[0].verdict == Verdict::contradicts);
    CHECK(pairs[0].factor == Approx(0.5));
}

TEST_CASE("half coils in series and in parallel") {
    // from the turns in series: 0.707 I, 2R, 4L, 2K; and 1.414 I, R/2, L, K; a half coil holds 1/√2 of either
    const Motor m = two_phase(StepperRating::half_coil);
    const auto all = connections(m);
    REQUIRE(all.size() == 3);
    const StepperNumbers &half = all[0], &series = all[1], &parallel = all[2];
    CHECK(half.current == Approx(2));
    CHECK(series.current == Approx(2 / sqrt2));
    CHECK(parallel.current == Approx(2 * sqrt2));
    CHECK(series.resistance == Approx(2 * half.resistance));
    CHECK(parallel.resistance == Approx(half.resistance / 2));
    CHECK(series.inductance == Approx(4 * half.inductance));
    CHECK(parallel.inductance == Approx(half.inductance));
    CHECK(series.constant == Approx(2 * half.constant));
    CHECK(parallel.constant == Approx(half.constant));
    CHECK(half.holding == Approx(series.holding / sqrt2));
    CHECK(parallel.holding == Approx(series.holding));
    for (const StepperNumbers& n : all) // the same copper, the same heat
        CHECK(n.current * n.current * n.resistance == Approx(half.current * half.current * half.resistance));
    // whichever they are rated in, they come to the same
    Motor rated = m;
    auto& s = std::get<TwoPhaseStepper>(rated.electric);
    s.rated_as = StepperRating::parallel;
    s.rated_current = Quantity<Kind::current>(format_number(2 * sqrt2, 15) + " A");
    s.resistance = Quantity<Kind::resistance>("0.825 Ω");
    s.holding_torque = Quantity<Kind::torque>(format_number(1.2 * sqrt2, 15) + " N·m");
    const auto again = connections(rated);
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(again[i].current == Approx(all[i].current));
        CHECK(again[i].resistance == Approx(all[i].resistance));
        CHECK(again[i].inductance == Approx(all[i].inductance));
        CHECK(again[i].constant == Approx(all[i].constant));
        CHECK(again[i].holding == Approx(all[i].holding));
    }
}

TEST_CASE("what the dial means decides the holding torque") {
    Motor m = two_phase();
    m.winding_limit = Quantity<Kind::temperature>("130 °C");
    Drive d = at("36 V", "2 A", AmperesAs::rms);
    d.hot = Quantity<Kind::temperature>("20 °C"); // its constants are of 20 °C
    CHECK(model(m, d).holding(false) == Approx(1.2));
    d.dial = AmperesAs::peak;
    CHECK(model(m, d).holding(false) == Approx(1.2 / sqrt2));
    d.phase_current = {};
    CHECK(model(m, d).holding(false) == Approx(1.2)); // as it is rated
    d.idle_current = Quantity<Kind::number>("50 %");
    CHECK(model(m, d).holding(true) == Approx(0.6));
    CHECK(model(m, d).idle_draw().copper_loss == Approx(2 * 1 * 1 * 1.65));
    CHECK(model(m, d).draw(0.1, 10, true).copper_loss == Approx(2 * 2 * 2 * 1.65)); // whatever the load
}

TEST_CASE("five phases hold 3.078 and 3.236 times one of them") {
    Motor m;
    FivePhaseStepper s;
    s.holding_torque = Quantity<Kind::torque>("1 N·m");
    s.rated_current = Quantity<Kind::current>("1.4 A");
    m.electric = s;
    CHECK(stepper_numbers(m).constant == Approx(1 / (3.0776835 * 1.4)).epsilon(1e-6));
    s.phases_on = PhasesOn::five;
    m.electric = s;
    CHECK(stepper_numbers(m).constant == Approx(1 / (3.2360680 * 1.4)).epsilon(1e-6));
    // by adding up the phases: each at its 72°, its current so directed that it helps
    for (const int on : {4, 5}) {
        double most = 0;
        for (int a = 0; a < 3600; ++a) {
            const double at = a * 2 * pi / 3600;
            std::vector<double> each;
            for (int k = 0; k < 5; ++k) each.push_back(std::abs(std::cos(at - k * 2 * pi / 5)));
            std::sort(each.rbegin(), each.rend());
            double sum = 0;
            for (int k = 0; k < on; ++k) sum += each[static_cast<std::size_t>(k)];
            most = std::max(most, sum);
        }
        CHECK(most == Approx(on == 4 ? 3.0776835 : 3.2360680).epsilon(1e-6));
    }
    CHECK(voltage_share(FivePhaseBridge::star) == Approx(0.5));
    CHECK(voltage_share(FivePhaseBridge::pentagon_72) == Approx(0.5877853).epsilon(1e-6));
    CHECK(voltage_share(FivePhaseBridge::pentagon_144) == Approx(0.9510565).epsilon(1e-6));
}

TEST_CASE("microsteps, deflection, resonance and start rate") {
    const StepperNumbers n = stepper_numbers(two_phase());
    // common practice, no source: a sixteenth of a step has 9.8 % of the holding torque
    CHECK(n.microstep_torque(1, 16) == Approx(0.0980171).epsilon(1e-5));
    CHECK(n.microstep_torque(1, 1) == Approx(1));
    CHECK(n.deflection(1, 1) == Approx(pi / 2 / 50)); // a full step at full torque
    CHECK(n.deflection(0.5, 1) == Approx(std::asin(0.5) / 50));
    CHECK(std::isnan(n.deflection(1.01, 1)));
    CHECK(n.resonance(1.2, 0.6e-4) == Approx(std::sqrt(50 * 1.2 / 0.6e-4) / (2 * pi)));
    StepperNumbers started = n;
    started.start_rate = 1000;
    CHECK(started.start_rate_with(3e-5, 1e-5) == Approx(500));
    CHECK(steps_per_second(n, 300 * rpm) == Approx(1000));
    // arithmetic: 50 000 steps a turn at 300 rpm are 250 000 pulses a second
    CHECK(250 * steps_per_second(n, 300 * rpm) == Approx(250'000));
    CHECK(microsteps_possible(n, 300 * rpm, 250e3) == 128);
    CHECK(microsteps_possible(n, 300 * rpm, 999) == 0);
}

TEST_CASE("a sheet's pull-out curve goes with voltage and current") {
    Motor m = two_phase();
    for (const auto& [n, t] : {std::pair("60 rpm", "1 N·m"), {"600 rpm", "0.8 N·m"}, {"1200 rpm", "0.4 N·m"}}) {
        CurvePoint p;
        p.speed = Quantity<Kind::angular_speed>(n);
        p.torque = Quantity<Kind::torque>(t);
        m.peak.push_back(p);
    }
    m.curve_voltage = Quantity<Kind::voltage>("24 V");
    const Capability same = capability(m, at("24 V"), Site{});
    CHECK(same.peak.at(600 * rpm) == Approx(0.8));
    CHECK(same.peak.at(0) == Approx(1)); // held down to rest, not extrapolated upwards
    CHECK(same.peak.at(1300 * rpm) == 0);
    const Capability twice = capability(m, at("48 V"), Site{});
    CHECK(twice.peak.at(1200 * rpm) == Approx(0.8));
    // half the current: half the torque, up to twice the speed
    const Capability weak = capability(m, at("24 V", "1 A"), Site{});
    CHECK(weak.torque_scale == Approx(0.5));
    CHECK(weak.peak.at(1200 * rpm) == Approx(0.4));
    // the curve was taken at the peak of the sine
    auto& s = std::get<TwoPhaseStepper>(m.electric);
    s.curve_current = Quantity<Kind::current>("2 A");
    s.curve_amperes = AmperesAs::peak;
    CHECK(capability(m, at("24 V"), Site{}).torque_scale == Approx(sqrt2));
}

TEST_CASE("an open-loop slide is tight above half of its pull-out torque and over above 65 %") {
    const Machine m = demo();
    const Assessment a = assess(m, slide);
    const Limit* l = a.limit("peak_torque");
    REQUIRE(l);
    CHECK(l->state == LimitState::tight);
    CHECK(l->allowed == Approx(0.65 * a.motor->worst_peak_allowed));
    CHECK(l->share == Approx(0.5 / 0.65));
    CHECK_THAT(l->reason.in(UnitSystem::si), Contains("not measured") && Contains("open loop"));
    // heat by torque says nothing of a current that flows at rest
    CHECK(!a.limit("continuous_loss"));
    CHECK(!a.limit("continuous_point"));
    CHECK(a.limit("phase_current"));
    CHECK(a.limit("resonance"));
    for (const char* key : {"stepper.holding_torque", "stepper.microstep_torque", "stepper.deflection",
             "stepper.resonance", "stepper.start_rate", "stepper.pulse_rate", "heat.winding_highest", "energy.year"}) {
        INFO(key);
        REQUIRE(a.figure(key));
        CHECK(std::isfinite(a.figure(key)->si));
    }
    const auto said = [&](const char* words) {
        return std::any_of(a.problems.begin(), a.problems.end(), [&](const Problem& p) {
            return p.severity == Severity::caution && p.message.find(words) != std::string::npos;
        });
    };
    CHECK(said("home it"));
    CHECK(said("burn skin"));
    // another share of the policy
    Machine other = m;
    for (Policy& p : other.policies) p.pull_out_over = Quantity<Kind::number>("55 %");
    CHECK(assess(other, slide).limit("peak_torque")->state == LimitState::over);
    // commutated by position there is no such reserve, and the current follows the load
    const Assessment p = assess(m, by_position);
    CHECK(p.limit("peak_torque")->allowed == Approx(p.motor->worst_peak_allowed));
    CHECK(p.limit("continuous_loss"));
    CHECK(!p.limit("phase_current"));
    CHECK(!p.limit("resonance"));
    CHECK(p.motor->rms_current < 0.3 * a.motor->rms_current);
}

TEST_CASE("the better winding, the higher bus: what a stepper gives at speed is the voltage's") {
    Machine m = demo();
    const double now = assess(m, slide).limit("peak_torque")->utilisation();
    m.axes[slide].drive.bus_voltage = Quantity<Kind::voltage>("36 V");
    CHECK(assess(m, slide).limit("peak_torque")->utilisation() < 0.7 * now);
    // more torque is not more speed: a larger stepper of the same bus may be slower
    const std::vector<Motor> catalogue = read_motors(file_text("data/catalogue/motors.json"))->motors;
    m = demo();
    const auto take = [&](const char* name) {
        for (const Motor& c : catalogue)
            if (c.name == name) m.axes[slide].motor = c;
        REQUIRE(m.axes[slide].motor.name == name);
        m.axes[slide].drive.phase_current = {};
        return assess(m, slide);
    };
    const Assessment small = take("Lark 42-045-12"), large = take("Lark 42-080-12");
    CHECK(large.figure("stepper.holding_torque")->si > 1.5 * small.figure("stepper.holding_torque")->si);
    CHECK(large.figure("motor.acceleration")->si < small.figure("motor.acceleration")->si);
    CHECK(large.limit("peak_torque")->utilisation() > small.limit("peak_torque")->utilisation());
}

TEST_CASE("a dial above the rating, microsteps that nothing pulses, a start too fast, a dwell in resonance") {
    Machine m = demo();
    Drive& d = m.axes[slide].drive;
    d.dial = AmperesAs::rms;
    d.phase_current = Quantity<Kind::current>("1.8 A");
    d.idle_current = {};
    const Assessment hot = assess(m, slide);
    CHECK(hot.limit("phase_current")->state == LimitState::over);
    CHECK_THAT(hot.limit("phase_current")->reason.in(UnitSystem::si), Contains("2.25 times the heat"));
    CHECK(hot.limit("housing_temperature")->state == LimitState::over);
    d.microsteps = Quantity<Kind::number>("256");
    const Assessment fast = assess(m, slide);
    CHECK(fast.limit("pulse_rate")->state == LimitState::over);
    CHECK_THAT(fast.limit("pulse_rate")->remedy.in(UnitSystem::si), Contains("8 microsteps"));
    d.ramp_start = Quantity<Kind::angular_speed>("600 rpm");
    CHECK(assess(m, slide).limit("start_rate")->state == LimitState::over);
    d = demo().axes[slide].drive;
    const double f = assess(m, slide).figure("stepper.resonance")->si;
    d.microsteps = Quantity<Kind::number>("1");
    const double speed = f / 200 * 8e-3; // on the screw of 8 mm lead
    for (Segment& s : m.axes[slide].cycle.segments)
        if (auto* move = std::get_if<MoveByLimits>(&s.what))
            move->speed = MotionQuantity<Order::speed>(format_number(speed, 12) + " m/s");
    const Assessment slow = assess(m, slide);
    CHECK(slow.limit("resonance")->state == LimitState::over);
    CHECK(slow.figure("stepper.resonance_time")->si > 1);
    d.microsteps = Quantity<Kind::number>("8");
    CHECK(assess(m, slide).limit("resonance")->state == LimitState::tight);
}

TEST_CASE("what a stepper's sheet leaves out silences what needs it, and no more") {
    const Machine whole = demo();
    const auto without = [&](auto change) {
        Machine m = whole;
        change(std::get<TwoPhaseStepper>(m.axes[slide].motor.electric), m.axes[slide]);
        return assess(m, slide);
    };
    const auto waits = [](const Assessment& a, const char* key, const char* words) {
        INFO(key);
        const Limit* l = a.limit(key);
        REQUIRE(l);
        CHECK(l->state == LimitState::cannot_say);
        CHECK_THAT(l->reason.in(UnitSystem::si), Contains(words));
    };
    const Assessment coil = without([](TwoPhaseStepper& s, Axis&) { s.inductance = {}; });
    waits(coil, "peak_torque", "inductance");
    waits(coil, "speed", "inductance");
    CHECK(coil.limit("phase_current")->state == LimitState::fits);
    CHECK(coil.limit("holding")->state == LimitState::fits);
    const Assessment bus = without([](TwoPhaseStepper&, Axis& a) { a.drive.bus_voltage = {}; });
    waits(bus, "peak_torque", "Bus voltage");
    CHECK(bus.limit("phase_current")->state == LimitState::fits);
    CHECK(bus.limit("resonance")->state != LimitState::cannot_say);
    const Assessment torque = without([](TwoPhaseStepper& s, Axis&) { s.holding_torque = {}; });
    waits(torque, "holding", "Holding torque");
    waits(torque, "resonance", "Holding torque");
    CHECK(torque.limit("pulse_rate")->state == LimitState::fits);
    const Assessment start = without([](TwoPhaseStepper& s, Axis&) { s.start_rate = {}; });
    waits(start, "start_rate", "start rate of the datasheet not given");
    CHECK(!start.figure("stepper.start_rate"));
    // fields of a servo's drive have no effect on a stepper, and the other way round
    Machine m = whole;
    const Assessment before = assess(m, slide);
    m.axes[slide].drive.continuous_current = Quantity<Kind::current>("0.01 A");
    m.axes[slide].drive.peak_current = Quantity<Kind::current>("0.01 A");
    m.axes[slide].drive.top_frequency = Quantity<Kind::frequency>("1 Hz");
    m.axes[slide].drive.field_weakening = true;
    const Assessment after = assess(m, slide);
    REQUIRE(after.limits.size() == before.limits.size());
    for (std::size_t i = 0; i < after.limits.size(); ++i) {
        INFO(after.limits[i].key);
        CHECK(after.limits[i].used == before.limits[i].used);
        CHECK(after.limits[i].allowed == before.limits[i].allowed);
    }
}

TEST_CASE("stays in a band of speed") {
    const Machine m = demo();
    const Assessment a = assess(m, slide);
    REQUIRE(a.demand);
    // a ramp of 2.5 m/s² crosses 20 to 40 rad/s of a screw of 8 mm lead in 20 · 8e-3/2π/2.5 s, up and down
    const double crossing = 20 * 8e-3 / (2 * pi) / 2.5;
    const auto stays = stays_between(*a.demand, 20, 40);
    CHECK(stays.size() == 8);
    for (const Stay& s : stays) CHECK(s.lasts == Approx(crossing).epsilon(1e-9));
    double all = 0;
    for (const Stay& s : stays_between(*a.demand, -1, 1e9)) all += s.lasts;
    CHECK(all == Approx(a.demand->cycle_time));
    CHECK(stays_between(*a.demand, 1e6, 2e6).empty());
}

TEST_CASE("a stepper with a pull-in curve starts against its load, or not") {
    Machine m = demo();
    Axis& axis = m.axes.at(slide);
    const auto point = [](const char* speed, const char* torque) {
        CurvePoint p;
        p.speed = Quantity<Kind::angular_speed>(speed);
        p.torque = Quantity<Kind::torque>(torque);
        return p;
    };
    // straight lines, so that the value can be calculated by hand
    axis.motor.pull_in = {point("0 rpm", "0.3 N·m"), point("300 rpm", "0 N·m")};
    axis.drive.ramp_start = Quantity<Kind::angular_speed>("60 rpm");
    axis.drive.phase_current = {};
    const Assessment a = assess(m, slide);
    const Limit* l = a.limit("pull_in");
    REQUIRE(l);
    const double ratio = a.figure("inertia.ratio") ? a.figure("inertia.ratio")->si : a.inertia->load / a.inertia->rotor;
    CHECK(l->allowed == Approx(0.3 * (1 - 60 * std::sqrt(1 + ratio) / 300)));
    // horizontal: friction at the breakaway of its guides is all there is beside acceleration
    CHECK(l->used > 0);
    CHECK(l->used < a.demand->peak_running.torque);
    CHECK(l->state == LimitState::fits);
    // half of the current, half of the torque; more than the curve's raises nothing
    axis.drive.phase_current = Quantity<Kind::current>("0.6 A");
    CHECK(assess(m, slide).limit("pull_in")->allowed == Approx(l->allowed / 2));
    axis.drive.phase_current = Quantity<Kind::current>("2.4 A");
    CHECK(assess(m, slide).limit("pull_in")->allowed == Approx(l->allowed));
    axis.drive.phase_current = {};
    // beyond the end of the curve it does not start at all
    axis.drive.ramp_start = Quantity<Kind::angular_speed>("250 rpm");
    CHECK(assess(m, slide).limit("pull_in")->state == LimitState::over);
    // without the curve, or a start of the ramps, there is no such limit; other motors have none
    axis.motor.pull_in.clear();
    CHECK(!assess(m, slide).limit("pull_in"));
    m = demo();
    m.axes.at(slide).drive.ramp_start = {};
    CHECK(!assess(m, slide).limit("pull_in"));
    CHECK(!assess(m, by_position).limit("pull_in"));
    // a curve that is wrong silences this limit and no other
    m = demo();
    m.axes.at(slide).motor.pull_in = {point("0 rpm", "0.3 N·m"), point("0 rpm", "0.2 N·m")};
    const Assessment was = assess(demo(), slide), bad = assess(m, slide);
    CHECK(bad.limit("pull_in")->state == LimitState::cannot_say);
    for (const Limit& each : was.limits) {
        INFO(each.key);
        if (each.key != "pull_in") CHECK(bad.limit(each.key.c_str())->state == each.state);
    }
}

TEST_CASE("a sheet's pull-out curve is held against the model at its own voltage and current") {
    Motor m = two_phase();
    m.max_speed = Quantity<Kind::angular_speed>("3000 rpm");
    m.curve_voltage = Quantity<Kind::voltage>("48 V");
    const ElectricModel model(motor_numbers(m), motor_conditions(m, at("48 V"), Site()));
    const auto curve = [&](double factor) {
        m.peak.clear();
        for (const double n : {100.0, 300.0, 600.0, 1000.0, 1500.0}) {
            CurvePoint p;
            p.speed = Quantity<Kind::angular_speed>(std::to_string(n) + " rpm");
            p.torque = Quantity<Kind::torque>(
                std::to_string(factor * model.peak(n * rpm, Quadrant::motoring, true).torque) + " N·m");
            m.peak.push_back(p);
        }
    };
    const auto verdict = [&] {
        for (const SheetPair& p : check_sheet(m))
            if (p.key == "peak/model") return std::optional(p.verdict);
        return std::optional<Verdict>();
    };
    curve(0.97);
    CHECK(verdict() == Verdict::agrees);
    curve(0.6);
    CHECK(verdict() == Verdict::within_tolerance);
    curve(0.4);
    CHECK(verdict() == Verdict::contradicts);
    curve(1.7); // drawn at more volts than stated
    CHECK(verdict() == Verdict::contradicts);
    // without inductance or a voltage there is nothing to compare with
    std::get<TwoPhaseStepper>(m.electric).inductance = {};
    CHECK(!verdict());
    std::get<TwoPhaseStepper>(m.electric).inductance = Quantity<Kind::inductance>("4 mH");
    m.curve_voltage = {};
    CHECK(!verdict());
}

// Motors by their constants: every kind, its conditions, its limits.
#include "core/match/assess.h"
#include "core/motor/model.h"
#include "tests/demo.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double one_rpm = 2 * M_PI / 60;

// A machine in round numbers: k = 0.1 V·s/rad, R = 0.5 Ω and L = 2 mH of a phase, five pole pairs.
Motor sine_motor() {
    Motor m;
    m.name = "round";
    m.rotor_inertia = Quantity<Kind::inertia>("0.5 kg·cm²");
    m.max_speed = Quantity<Kind::angular_speed>("6000 rpm");
    SineMotor s;
    s.torque_constant = Quantity<Kind::torque_constant>("0.15 N·m/A");
    s.torque_per = TorquePer::peak;
    s.resistance = Quantity<Kind::resistance>("1 Ω");
    s.inductance = Quantity<Kind::inductance>("4 mH");
    s.pole_pairs = Quantity<Kind::number>("5");
    s.amperes = AmperesAs::peak;
    s.peak_current = Quantity<Kind::current>("20 A");
    s.stall_torque = Quantity<Kind::torque>("1 N·m");
    m.electric = s;
    return m;
}

MotorConditions at_20(double bus) {
    MotorConditions c;
    c.bus = bus;
    c.phase_share = 1 / std::sqrt(3.0);
    c.hot = 20;
    return c;
}

const Limit& limit_of(const Assessment& a, const char* key) {
    const Limit* l = a.limit(key);
    if (!l) throw std::runtime_error(key);
    return *l;
}

} // namespace

TEST_CASE("the peak holds to the corner and ends where the EMF takes the voltage") {
    const ElectricModel m(motor_numbers(sine_motor()), at_20(100));
    REQUIRE(m.known());
    const double volts = 100 / std::sqrt(3.0), k = 0.1, r = 0.5, l = 2e-3, i = 20;
    CHECK(m.peak(0, Quadrant::motoring).torque == Approx(1.5 * k * i));
    CHECK(m.peak(0, Quadrant::motoring).bound == BoundBy::motor_current);
    const double corner = m.corner_speed(false);
    CHECK(std::pow(r * i + k * corner, 2) + std::pow(5 * corner * l * i, 2) == Approx(volts * volts));
    CHECK(m.peak(corner * 0.999, Quadrant::motoring).torque == Approx(1.5 * k * i));
    CHECK(m.peak(corner * 1.01, Quadrant::motoring).bound == BoundBy::voltage);
    CHECK(m.no_load_speed(true) == Approx(volts / k));
    CHECK(m.peak(volts / k * 1.0001, Quadrant::motoring).torque == 0);
    // above it the EMF drives the current through the drive: nobody can say how much it brakes
    CHECK(std::isnan(m.peak(volts / k * 1.01, Quadrant::braking).torque));
    CHECK(m.peak(volts / k * 0.5, Quadrant::braking).torque > m.peak(volts / k * 0.5, Quadrant::motoring).torque);
}

TEST_CASE("field weakening goes on beyond it, and never ends where the current exceeds the characteristic one") {
    MotorConditions c = at_20(100);
    c.weakening = true;
    const ElectricModel m(motor_numbers(sine_motor()), c);
    CHECK(m.characteristic_current() == Approx(0.1 / (5 * 2e-3) / std::sqrt(2.0)));
    CHECK(std::isinf(m.motoring_end(true)));
    const double w = 2 * m.no_load_speed(true);
    const TorqueBound b = m.peak(w, Quadrant::motoring);
    CHECK(b.torque > 0);
    CHECK(b.id < 0);
    CHECK(b.voltage == Approx(100 / std::sqrt(3.0)));
    const MotorDraw d = m.draw(0.5 * b.torque, w, true);
    REQUIRE(d.possible);
    CHECK(d.id < 0);
    CHECK(d.current > 0.5 * b.torque / 0.15 / std::sqrt(2.0)); // more than torque over its constant
    c.drive_peak = 5 / std::sqrt(2.0);                         // below the characteristic current of 10 A
    CHECK(std::isfinite(ElectricModel(motor_numbers(sine_motor()), c).motoring_end(true)));
}

TEST_CASE("modulation, drive current, saturation and a hot motor each bound what they bound") {
    Motor motor = sine_motor();
    MotorConditions c = at_20(100);
    const double space_vector = ElectricModel(motor_numbers(motor), c).no_load_speed(true);
    c.phase_share = 0.5;
    CHECK(ElectricModel(motor_numbers(motor), c).no_load_speed(true) == Approx(space_vector * std::sqrt(3.0) / 2));
    c = at_20(100);
    c.drive_peak = 10 / std::sqrt(2.0);
    CHECK(ElectricModel(motor_numbers(motor), c).peak(0, Quadrant::motoring).bound == BoundBy::drive_current);
    CHECK(ElectricModel(motor_numbers(motor), c).peak(0, Quadrant::motoring).torque == Approx(1.5));
    c = at_20(100);
    c.hot = 120;
    const ElectricModel hot(motor_numbers(motor), c);
    CHECK(hot.peak(0, Quadrant::motoring).torque == Approx(3 * (1 - 0.0011 * 100)));
    CHECK(hot.draw(1, 0, true).copper_loss ==
          Approx(1.5 * std::pow(1 / (0.15 * 0.89), 2) * 0.5 * 1.3922).epsilon(1e-4));    // IEC 60034-1: × 1.3922
    std::get<SineMotor>(motor.electric).peak_torque = Quantity<Kind::torque>("2.4 N·m"); // of 3 N·m without saturation
    CHECK(motor_numbers(motor).saturation == Approx(0.2));
    const ElectricModel saturated(motor_numbers(motor), at_20(100));
    CHECK(saturated.peak(0, Quadrant::motoring).torque == Approx(2.4));
    CHECK(saturated.draw(2.4, 0, true).current == Approx(20 / std::sqrt(2.0)));
    CHECK(!saturated.draw(3, 0, true).possible); // the torque turns before
    CHECK(saturated.turning_current() == Approx(20 / std::sqrt(0.6) / std::sqrt(2.0)));
}

TEST_CASE("a torque that saturation does not let through has no current, and nothing that rests on it fits") {
    Machine m = demo();
    auto& s = std::get<SineMotor>(m.axes[0].motor.electric);
    s.peak_torque = Quantity<Kind::torque>("1.1 N·m"); // the cycle asks for 1.23
    s.peak_current = Quantity<Kind::current>("3.2 A");
    s.stall_torque = s.rated_torque = {};
    const Assessment a = assess(m, 0);
    REQUIRE(a.motor);
    CHECK(std::isnan(a.motor->peak_current));
    CHECK(std::isnan(a.motor->rms_current));
    CHECK(limit_of(a, "motor_current").state == LimitState::cannot_say);
    CHECK(std::isnan(a.figure("motor.rms_current")->si));
}

TEST_CASE("a sheet that only rates rotation holds 0.707 of it at rest") {
    Motor motor = sine_motor();
    auto& s = std::get<SineMotor>(motor.electric);
    s.stall_torque = {};
    s.rated_torque = Quantity<Kind::torque>("0.9 N·m");
    s.rated_speed = Quantity<Kind::angular_speed>("2000 rpm");
    const ElectricModel m(motor_numbers(motor), at_20(100));
    CHECK(m.standstill_derated());
    CHECK(m.continuous(0).torque == Approx(0.9 * std::sqrt(0.5)));
    CHECK(m.continuous(100).torque == Approx(0.9));
    s.rated_torque = {};
    CHECK(!ElectricModel(motor_numbers(motor), at_20(100)).rated());
    CHECK(std::isnan(ElectricModel(motor_numbers(motor), at_20(100)).continuous(0).torque));
}

TEST_CASE("a brushed motor runs on a straight line, its friction in the way from the first turn on") {
    Motor motor;
    motor.max_speed = Quantity<Kind::angular_speed>("6000 rpm");
    BrushedMotor b;
    b.torque_constant = Quantity<Kind::torque_constant>("0.05 N·m/A");
    b.resistance = Quantity<Kind::resistance>("1 Ω");
    b.no_load_current = Quantity<Kind::current>("0.4 A");
    b.peak_current = Quantity<Kind::current>("10 A");
    b.brush_drop = Quantity<Kind::voltage>("1 V");
    b.magnet = Magnet::ferrite;
    motor.electric = b;
    const ElectricModel m(motor_numbers(motor), at_20(25));
    CHECK(m.peak(0, Quadrant::motoring).torque == Approx(0.5));
    CHECK(m.peak(1, Quadrant::motoring).torque == Approx(0.5 - 0.02));
    const double w = 400; // (25 − 1 − 20)/1 = 4 A
    CHECK(m.peak(w, Quadrant::motoring).torque == Approx(0.05 * 4 - 0.02));
    CHECK(m.no_load_speed(true) == Approx((24 - 0.4) / 0.05));
    const auto best = m.best_efficiency();
    REQUIRE(best);
    CHECK(best->efficiency > 0.6);
    CHECK(best->efficiency < 1);
}

TEST_CASE("a forcer rides, and the pull of its iron core presses on the guides") {
    Machine m = demo();
    const Assessment was = assess(m, 7);
    REQUIRE(was.demand);
    auto& forcer = std::get<LinearForcer>(m.axes[7].motor.electric);
    const double rides = forcer.forcer_mass.si;
    forcer.forcer_mass = Quantity<Kind::mass>("0 kg + 2 kg");
    const Assessment heavier = assess(m, 7);
    const double a = was.motion->peak_acceleration, mu = m.axes[7].load.guide_friction.si;
    const double change = heavier.demand->peak.torque - was.demand->peak.torque;
    CHECK(change == Approx((2 - rides) * (a + mu * 9.80665)).epsilon(1e-3));
    forcer.core = ForcerCore::iron;
    forcer.attraction = Quantity<Kind::force>("500 N");
    CHECK(assess(m, 7).demand->peak.torque - heavier.demand->peak.torque == Approx(mu * 500).epsilon(1e-3));
    forcer.core = ForcerCore::ironless; // the field is hidden then, and has no effect
    CHECK(assess(m, 7).demand->peak.torque == heavier.demand->peak.torque);
}

TEST_CASE("peak amperes of a drive taken for RMS ones and an EMF over the trip are limits that say so") {
    Machine m = demo();
    auto& drive = m.axes[0].drive;
    const double peak = assess(m, 0).motor->peak_current;
    drive.continuous_current = Quantity<Kind::current>(std::to_string(peak) + " A");
    drive.peak_current = Quantity<Kind::current>(std::to_string(peak * 1.2) + " A");
    CHECK(limit_of(assess(m, 0), "drive_current").state == LimitState::fits);
    drive.amperes = AmperesAs::peak;
    CHECK(limit_of(assess(m, 0), "drive_current").state == LimitState::over);
    CHECK(limit_of(assess(m, 0), "drive_current").allowed == Approx(peak * 1.2 / std::sqrt(2.0)));
    drive.trip_voltage = Quantity<Kind::voltage>("190 V");
    const Assessment a = assess(m, 0);
    const double k = 0.482 / (1.5 * std::sqrt(2.0));
    CHECK(limit_of(a, "open_circuit_emf").used == Approx(std::sqrt(3.0) * k * 4800 * one_rpm));
    CHECK(limit_of(a, "open_circuit_emf").state == LimitState::over);
    auto& s = std::get<SineMotor>(m.axes[0].motor.electric);
    s.peak_current = Quantity<Kind::current>(std::to_string(peak * 0.9) + " A");
    CHECK(limit_of(assess(m, 0), "motor_current").state == LimitState::over);
    auto& brushes = std::get<BrushedMotor>(m.axes[8].motor.electric);
    CHECK(limit_of(assess(m, 8), "brush_speed").state == LimitState::fits);
    brushes.brush_speed = Quantity<Kind::angular_speed>("2100 rpm");
    CHECK(limit_of(assess(m, 8), "brush_speed").state == LimitState::over);
}

TEST_CASE(
    "without points of the sheet the constants make the curves, and an axis without either waits for them by name") {
    Machine m = demo();
    Motor& motor = m.axes[0].motor;
    const Assessment by_points = assess(m, 0);
    motor.peak.clear();
    motor.continuous.clear();
    const Assessment by_constants = assess(m, 0);
    CHECK(!has_errors(by_constants.problems));
    REQUIRE(by_constants.can);
    CHECK(by_constants.can->peak_by_model);
    for (const char* key : {"peak_torque", "continuous_loss", "continuous_point", "holding", "speed"}) {
        INFO(key);
        CHECK(limit_of(by_constants, key).state != LimitState::cannot_say);
    }
    CHECK(by_constants.can->continuous_stall() == Approx(by_points.can->continuous_stall()).epsilon(0.01));
    auto& s = std::get<SineMotor>(motor.electric);
    s.torque_constant = {};
    s.voltage_constant = {};
    const Assessment neither = assess(m, 0);
    CHECK(has_errors(neither.problems));
    CHECK(limit_of(neither, "peak_torque").state == LimitState::cannot_say);
    CHECK(limit_of(neither, "inertia_ratio").state == limit_of(by_points, "inertia_ratio").state);
}

#include "core/motor/capability.h"
#include "tests/demo.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

std::vector<CurvePoint> points(std::initializer_list<std::pair<double, double>> list) {
    std::vector<CurvePoint> out;
    for (const auto& [n, t] : list) {
        CurvePoint p;
        p.speed = Quantity<Kind::angular_speed>(std::to_string(n) + " rpm");
        p.torque = Quantity<Kind::torque>(std::to_string(t) + " N·m");
        out.push_back(p);
    }
    return out;
}

double rpm(double n) { return n * 2 * M_PI / 60; }

} // namespace

TEST_CASE("curves pass through their points, stay between them, and are never extrapolated") {
    const SpeedTorqueCurve c(points({{0, 3}, {1000, 3}, {2000, 2.8}, {3000, 1.5}, {3500, 0.2}}), 1);
    CHECK(c.at(0) == Approx(3));
    CHECK(c.at(rpm(2000)) == Approx(2.8));
    CHECK(c.at(rpm(3500)) == Approx(0.2));
    CHECK(c.at(rpm(3501)) == 0);
    CHECK(c.at(-rpm(2000)) == Approx(2.8));
    double before = 3;
    for (int n = 0; n <= 3500; n += 10) { // monotone data give a monotone curve
        CHECK(c.at(rpm(n)) <= before + 1e-12);
        before = c.at(rpm(n));
    }
    const SpeedTorqueCurve straight(points({{0, 2}, {1000, 1}}), 1);
    CHECK(straight.at(rpm(250)) == Approx(1.75));
}

TEST_CASE("another bus voltage moves the knee, not the torque") {
    Machine m = demo();
    const Capability at_320 = capability(m.axes[0].motor, m.axes[0].drive, m.site);
    set(m, "/drive/bus_voltage", "160 V");
    const Capability at_160 = capability(m.axes[0].motor, m.axes[0].drive, m.site);
    CHECK(at_160.peak.stall() == at_320.peak.stall());
    CHECK(at_160.peak.at(rpm(2000)) == Approx(at_320.peak.at(rpm(4000))));
    CHECK(at_160.max_speed == Approx(rpm(3000)));
    CHECK(at_320.max_speed == Approx(rpm(6000)));
}

TEST_CASE("permitted heat by ambient and altitude") {
    // IEC 60034-1: rated at 40 °C and 1000 m; 1 % less rise per 100 m above
    CHECK(permitted_heat(155, 40, 40, 0) == 1);
    CHECK(permitted_heat(155, 40, 97.5, 0) == Approx(0.5));
    CHECK(permitted_heat(155, 40, 40, 2000) == Approx(0.9));
    CHECK(permitted_heat(155, 40, 97.5, 2000) == Approx(0.45));
    CHECK(permitted_heat(155, 40, 160, 0) == 0);
    Machine m = demo();
    m.site.ambient = Quantity<Kind::temperature>("60 °C");
    const Capability c = capability(m.axes[0].motor, m.axes[0].drive, m.site);
    const double f = (155.0 - 60) / (155 - 40);
    CHECK(c.continuous_stall() == Approx(1.35 * std::sqrt(f)));
    // iron and friction heat do not shrink: at speed the loss is more than √f
    CHECK(c.continuous_at(rpm(5000)) < std::sqrt(f) * c.continuous.at(rpm(5000)));
    m.site.ambient = Quantity<Kind::temperature>("10 °C");
    CHECK(capability(m.axes[0].motor, m.axes[0].drive, m.site).heat_factor == 1); // no credit for a cool room
}

TEST_CASE("the two schools of heat agree at constant speed") {
    Machine m = demo();
    set(m, "/load/inclination", "0 deg");
    m.axes[0].cycle.segments.clear();
    Segment s;
    MoveByLimits move; // all but constant speed: ramps of a thousandth of the time
    move.distance = Quantity<Kind::length>("1000 m");
    move.speed = Quantity<Kind::speed>("500 mm/s");
    move.acceleration = Quantity<Kind::acceleration>("1 m/s²");
    s.what = move;
    s.process_force = Quantity<Kind::force>("300 N");
    m.axes[0].cycle.segments.push_back(s);
    const Assessment a = assess(m, 0);
    REQUIRE(a.motor);
    const double point = a.demand->rms_torque / a.motor->point_at_rms;
    const double tc0 = a.motor->can.continuous.stall();
    const double tc = a.motor->can.continuous.at(a.demand->rms_speed);
    CHECK(tc < 0.99 * tc0);
    CHECK(a.motor->heat_use() == Approx(point).epsilon(2e-3));
}

TEST_CASE("the worst point on the curve is the worst of a fine sampling") {
    Machine m = demo();
    for (const char* bus : {"320 V", "240 V", "200 V"}) {
        set(m, "/drive/bus_voltage", bus);
        const Assessment a = assess(m, 0);
        double worst = 0;
        for (const Span& s : a.demand->spans)
            for (int i = 0; i <= 2000; ++i) {
                const ShaftState e = evaluate(a.demand->load, s, s.start + s.duration * i / 2000);
                const double allowed = a.motor->can.peak.at(e.speed);
                worst = std::max(worst, allowed > 0 ? std::abs(e.torque) / allowed : INFINITY);
            }
        INFO(bus);
        if (std::isinf(worst))
            CHECK(std::isinf(a.motor->worst_peak_use));
        else
            CHECK(a.motor->worst_peak_use == Approx(worst).epsilon(1e-6));
    }
}

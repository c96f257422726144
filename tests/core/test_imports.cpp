// Motion from outside: traces and G-code.
#include "core/files/trace_file.h"
#include "core/motion/gcode.h"
#include "core/motion/trace.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

const Motion straight{false, false, false, Motion::carriage};
const Motion about{true, false, false, 0};

std::string why(const std::string& text, const Motion& m = straight) {
    const auto r = read_trace(text, m);
    REQUIRE(!r);
    return "line " + std::to_string(r.error().line) + ": " + r.error().message;
}

std::string gcode_error(const std::string& text) {
    const auto r = read_gcode(text);
    REQUIRE(!r);
    return "line " + std::to_string(r.error().line) + ": " + r.error().message;
}

GcodePlan planned(const std::string& text, double speed = 1, double acceleration = 2) {
    const auto r = read_gcode(text);
    INFO((r ? "" : r.error().message));
    REQUIRE(r);
    GcodeOptions o;
    o.limits.fill({speed, acceleration});
    auto p = plan_gcode(*r, o);
    REQUIRE(p);
    return *p;
}

} // namespace

TEST_CASE("a trace of constant acceleration comes back within 1 %, noise and uneven sampling notwithstanding") {
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 1e-5);
    std::uniform_real_distribution<double> jitter(0.5, 1.5);
    for (const bool even : {true, false}) {
        std::string text = "time [ms], position [mm]\n";
        double t = 0;
        while (t < 1) {
            text += std::to_string(t * 1e3) + "," + std::to_string((1.5 * t * t + noise(random)) * 1e3) + "\n";
            t += 0.002 * (even ? 1 : jitter(random));
        }
        auto r = read_trace(text, straight);
        REQUIRE(r);
        r->trace.window = Quantity<Kind::time>("200 ms");
        // from the first instant to the last, between the samples too
        const auto pieces = trace_pieces(r->trace);
        for (const Piece& p : pieces)
            for (const double part : {0.0, 0.3, 0.7, 1.0})
                CHECK(p.acceleration(part * p.duration) == Approx(3).epsilon(0.01));
        // what the smoothing took away is the noise that was put in
        CHECK(removed_noise(r->trace, pieces) == Approx(1e-5).epsilon(0.15));
    }
}

TEST_CASE("a trace of velocity gives position and acceleration, and one of a law the law's torque") {
    std::string text = "t;v\n";
    text = "time [s];velocity [mm/s]\n";
    for (int i = 0; i <= 400; ++i) {
        const double t = i / 400.0;
        text += std::to_string(t) + ";" + std::to_string(200 * (1 - std::cos(2 * M_PI * t))) + "\n";
    }
    const auto r = read_trace(text, straight);
    REQUIRE(r);
    CHECK(r->trace.of == TraceOf::velocity);
    const auto pieces = trace_pieces(r->trace);
    CHECK(pieces.back().position(pieces.back().duration) - pieces.front().position(0) == Approx(0.2).epsilon(5e-4));
    // the cycloid as a law against the same recorded
    Machine by_law = machine_with("belt");
    Machine by_trace = by_law;
    MoveInTime m;
    m.distance = MotionQuantity<Order::position>("200 mm");
    m.duration = Quantity<Kind::time>("1 s");
    m.law = Law::cycloidal;
    Segment back;
    m.distance = MotionQuantity<Order::position>("-200 mm");
    back.what = m;
    m.distance = MotionQuantity<Order::position>("200 mm");
    Segment there;
    there.what = m;
    by_law.axes[0].cycle.segments = {there, back};
    Segment recorded;
    recorded.what = r->trace;
    by_trace.axes[0].cycle.segments = {recorded, back};
    const Demand a = demand_of(by_law), b = demand_of(by_trace);
    CHECK(b.rms_torque == Approx(a.rms_torque).epsilon(2e-3));
    CHECK(std::abs(b.peak.torque) == Approx(std::abs(a.peak.torque)).epsilon(5e-3));
}

TEST_CASE("headers, separators, decimal commas, line ends and comments are read as stated") {
    const auto semicolon = read_trace(
        "\xEF\xBB\xBF# a comment\r\nTime (s);Position/mm\r\n0;1,5\r\n0,1;2,5\r\n0,2;3\r\n0,3;4\r\n0,4;5\r\n", straight);
    REQUIRE(semicolon);
    CHECK(semicolon->trace.samples.at(0, 1) == Approx(0.0015));
    CHECK(semicolon->trace.samples.at(1, 0) == Approx(0.1));
    CHECK(semicolon->notes.size() == 1);
    const auto tabs =
        read_trace("current [A]\ttime [ms]\tspeed [rpm]\n9\t5\t10\n9\t6\t20\n9\t7\t30\n9\t8\t30\n9\t9\t30\n", about);
    REQUIRE(tabs);
    CHECK(tabs->trace.samples.at(0, 0) == 0); // time begins at 0
    CHECK(tabs->trace.samples.at(2, 1) == Approx(M_PI));
    CHECK_THAT(tabs->notes.at(0), Contains("current"));
    const auto spaced = read_trace("t [s], x [in]\n0,1\n1,2\n2,3\n3,4\n4,5", straight);
    REQUIRE(spaced);
    CHECK(spaced->trace.samples.at(3, 1) == Approx(0.1016));
}

TEST_CASE("bad traces are refused with their line and what is wanted") {
    const std::string head = "time [s],position [mm]\n";
    CHECK_THAT(why(""), Contains("empty"));
    CHECK_THAT(why("a,b\n1,2\n"), Contains("line 1") && Contains("wanted are"));
    CHECK_THAT(why("time,position [mm]\n1,2\n"), Contains("names no unit"));
    CHECK_THAT(why("time [s],position [deg]\n1,2\n"), Contains("no unit of length"));
    CHECK_THAT(why("time [s],position [mm]\n1,2\n", about), Contains("no unit of angle"));
    CHECK_THAT(why(head + "0,1\n1,2\n1,3\n2,4\n"), Contains("line 4") && Contains("does not rise"));
    CHECK_THAT(why(head + "0,1\n2,2\n1,3\n2,4\n"), Contains("line 4"));
    CHECK_THAT(why(head + "0,1\n1,nan\n2,3\n3,4\n"), Contains("line 3") && Contains("nan"));
    CHECK_THAT(why(head + "0,1\n1,1e999\n2,3\n3,4\n"), Contains("line 3"));
    CHECK_THAT(why(head + "0,1\n1,2 mm\n2,3\n3,4\n"), Contains("line 3") && Contains("2 mm"));
    CHECK_THAT(why(head + "0,1\n1\n"), Contains("line 3") && Contains("found 1 columns"));
    CHECK_THAT(why(head + "0,0,5\n"), Contains("decimal comma"));
    CHECK_THAT(why(head + "0,1\n1,2\n2,3\n"), Contains("at least 5"));
    CHECK_THAT(
        why(file_text("tests/cases/faults/F08-trace-overflows.csv")), Contains("line 3") && Contains("too large"));
    CHECK_THAT(
        why(file_text("tests/cases/faults/F08b-trace-underflows.csv")), Contains("line 3") && Contains("too small"));
    CHECK_THAT(why(head + "0,1\n.1,2\n.2,3\n.3,4\n.4,4\n9,5\n9.1,5\n"), Contains("line 7") && Contains("gap"));
}

TEST_CASE("motion goes out as CSV and comes back") {
    Machine m = machine_with("belt");
    for (Segment& each : m.axes[0].cycle.segments) each.payload = {}; // a trace carries one
    const Demand d = demand_of(m);
    const Trajectory t = plan(m.axes[0].cycle, straight).motion;
    const std::string csv = motion_csv(t, straight, &d, 0.001);
    CHECK(csv.starts_with("time [s],position [mm],velocity [m/s]"));
    auto r = read_trace(csv, straight);
    REQUIRE(r);
    CHECK(r->trace.samples.rows() == 1701);
    Machine again = m;
    Segment s;
    r->trace.window = Quantity<Kind::time>("8 ms");
    s.what = r->trace;
    again.axes[0].cycle.segments = {s};
    CHECK(demand_of(again).rms_torque == Approx(d.rms_torque).epsilon(0.01));
}

TEST_CASE("G-code: lengths and times of straight lines by hand") {
    // 1 m/s, 2 m/s²: 100 mm at F6000 (0.1 m/s): 0.1/0.1 + 0.1/2 s
    const GcodePlan a = planned("G21 G90 G1 X100 F6000");
    CHECK(a.length == Approx(0.1));
    CHECK(a.duration == Approx(1 + 0.05));
    // a diagonal rapid: both axes at 1 m/s make √2 m/s and 2 √2 m/s²; 500 × 500 mm
    const GcodePlan b = planned("g0 x500 y500");
    CHECK(b.length == Approx(std::sqrt(0.5)));
    CHECK(b.duration == Approx(2 * std::sqrt(0.5 / 2)));
    // straight on through a point does not slow down; a full reversal stops
    CHECK(planned("G1 X50 F6000\nX100").duration == Approx(1.05));
    CHECK(planned("G1 X50 F6000\nX0").duration == Approx(2 * (0.5 + 0.05)));
    // a right angle: v² = a δ sin 45°/(1 − sin 45°)
    const double v = std::sqrt(2 * 2e-5 * std::sqrt(0.5) / (1 - std::sqrt(0.5)));
    const double saved = 2 * (v - v * v / 0.1 / 2) / 2; // each ramp begins at v
    CHECK(planned("G1 X50 F6000\nY50").duration == Approx(2 * 0.55 - saved).epsilon(1e-9));
    CHECK(planned("G20 G91 G1 X1 F60\nX1\nG4 P2").length == Approx(0.0508));
    CHECK(planned("G91 G1 X10 F600\nG4 P0.5\nX-10").duration == Approx(2 * (1 + 0.005) + 0.5));
    CHECK(planned("G93 G1 X100 F30").duration == Approx(2 + 0.025)); // the move takes 1/30 min
    CHECK(planned("G1 A360 F3600").knots[3].at(planned("G1 A360 F3600").knots[3].rows() - 1, 1) == Approx(2 * M_PI));
}

TEST_CASE("G-code: full circles by hand, and what the axes do on them") {
    const GcodePlan p = planned("G17 G2 X0 Y0 I30 J0 F3000", 10, 10);
    CHECK(p.length == Approx(2 * M_PI * 0.03));
    const double a = 10 / std::sqrt(2.0), v = 0.05;
    CHECK(p.duration == Approx(p.length / v + v / a));
    // every instant on the circle of 30 mm about (30, 0), at constant speed in the middle
    const auto x = knot_pieces(p.knots[0]), y = knot_pieces(p.knots[1]);
    REQUIRE(x.size() == y.size());
    double worst = 0, fastest = 0, hardest = 0;
    for (std::size_t i = 0; i < x.size(); ++i)
        for (const double k : {0.0, 0.3, 0.7}) {
            const double t = k * x[i].duration;
            worst = std::max(worst, std::abs(std::hypot(x[i].position(t) - 0.03, y[i].position(t)) - 0.03));
            fastest = std::max(fastest, std::hypot(x[i].velocity(t), y[i].velocity(t)));
            hardest = std::max(hardest, std::abs(x[i].acceleration(t)));
        }
    CHECK(worst < 1e-9);
    CHECK(fastest == Approx(v).epsilon(1e-6));
    CHECK(hardest <= 10 * (1 + 1e-6));
    // clockwise from (0, 0) about (30, 0): up first
    CHECK(y.front().velocity(y.front().duration) > 0);
    CHECK(planned("G3 X0 Y0 I30 J0 F3000", 10, 10).knots[1].at(2, 2) < 0);
    // by radius: the short and the long way round
    CHECK(planned("G2 X60 Y0 R30 F600").length == Approx(M_PI * 0.03));
    CHECK(planned("G2 X30 Y30 R30 F600").length == Approx(M_PI / 2 * 0.03));
    CHECK(planned("G2 X30 Y30 R-30 F600").length == Approx(3 * M_PI / 2 * 0.03));
    CHECK(planned("G18 G2 X60 Z0 R30 F600").length == Approx(M_PI * 0.03));
    CHECK(planned("G19 G3 Y60 Z0 R30 F600").knots[0].rows() == 0);
    // a helix
    CHECK(planned("G2 X0 Y0 Z10 I30 F600").length == Approx(std::hypot(2 * M_PI * 0.03, 0.01)));
}

TEST_CASE("G-code: no axis ever exceeds its limits, and positions end where the program says") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(-80, 80);
    std::string text = "G90 G21\n";
    double x = 0, y = 0, z = 0;
    for (int i = 0; i < 300; ++i) {
        x = place(random), y = place(random), z = place(random);
        text += (i % 3 ? "G1 X" : "G0 X") + std::to_string(x) + " Y" + std::to_string(y) + " Z" + std::to_string(z) +
                " F9000\n";
    }
    const GcodePlan p = planned(text, 0.3, 3);
    for (std::size_t axis = 0; axis < 3; ++axis)
        for (const Piece& piece : knot_pieces(p.knots[axis]))
            for (const double k : {0.0, 0.5, 1.0}) {
                CHECK(std::abs(piece.velocity(k * piece.duration)) <= 0.3 * (1 + 1e-9));
                CHECK(std::abs(piece.acceleration(k * piece.duration)) <= 3 * (1 + 1e-6));
            }
    CHECK(p.knots[0].at(p.knots[0].rows() - 1, 1) == Approx(x * 1e-3).margin(1e-9));
    CHECK(p.knots[2].at(p.knots[2].rows() - 1, 1) == Approx(z * 1e-3).margin(1e-9));
}

TEST_CASE("G-code that cannot be trusted stops with its line; harmless words are listed") {
    CHECK_THAT(gcode_error("G1 X10"), Contains("line 1") && Contains("without a feed"));
    CHECK_THAT(gcode_error("X10"), Contains("before any of G0"));
    CHECK_THAT(gcode_error("\nG5 X1 Y1 F100"), Contains("line 2") && Contains("G5"));
    CHECK_THAT(gcode_error("G1 X10 F100\nG2 X20 Y0 I3 J0"), Contains("line 2") && Contains("does not meet"));
    CHECK_THAT(gcode_error("G2 X50 Y0 R10 F100"), Contains("does not meet") && Contains("50 mm"));
    CHECK_THAT(gcode_error("G2 X0 Y0 R10 F100"), Contains("circle"));
    CHECK_THAT(gcode_error("G1 X1,5 F100"), Contains("comma"));
    CHECK_THAT(gcode_error("G1 X F100"), Contains("followed by a number"));
    CHECK_THAT(gcode_error("G1 X1 (half"), Contains("does not end"));
    CHECK_THAT(gcode_error("G1 X1 F100\nO100"), Contains("O100"));
    CHECK_THAT(gcode_error("G1 X1 F0"), Contains("greater than 0"));
    CHECK_THAT(gcode_error("(nothing)\n%\n"), Contains("moves nothing"));
    // what calls other parts of a program, or moves one part against the rest, is not guessed at
    CHECK_THAT(gcode_error("G1 X1 F100\nM98 P1000"), Contains("line 2") && Contains("M98"));
    CHECK_THAT(gcode_error("G1 X1 F100\nM99"), Contains("M99"));
    CHECK_THAT(gcode_error("G54 G1 X1 F100\nG55\nX2"), Contains("line 2") && Contains("work offset"));
    CHECK_THAT(gcode_error("G10 L2 P1 X5"), Contains("not understood"));
    // an F means 1/min under G93 and mm/min under G94: neither is taken for the other
    CHECK_THAT(gcode_error("G93 G1 X10 F30\nG94\nX20"), Contains("line 3") && Contains("without a feed"));
    CHECK_THAT(gcode_error("G1 X10 F600\nG93 X20"), Contains("line 2") && Contains("feed"));
    CHECK(read_gcode("G93 G1 X10 F30\nG94 X20 F600"));
    // a program ends at M2 or M30, whatever stands below
    const auto ended = read_gcode("O1234\nG1 X10 F600\nX20 M30\nX500 what is this");
    REQUIRE(ended);
    CHECK(ended->moves.size() == 2);
    CHECK(ended->skipped.front().message.find("O1234") != std::string::npos);
    const auto ok = read_gcode("%\nN10 g21 g90 m3 s2000 t1 (spindle)\nN20 G54 G1 X 10 F 600 ; here\nn30 y5\nG28 X0\n%");
    REQUIRE(ok);
    CHECK(ok->skipped.size() == 4);
    CHECK(ok->skipped[0].line == 2);
    CHECK(ok->moves.size() == 3);
    // cancelled when the caller says so
    std::string many;
    for (int i = 0; i < 5000; ++i) many += "G0 X" + std::to_string(i % 2) + "\n";
    CHECK(!read_gcode(many, [](double) { return false; }));
}

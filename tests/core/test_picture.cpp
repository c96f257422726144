// Curves read off pictures: scales by two marks on an axis, what is wrong with marks, and what a curve becomes.
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/motor/picture_reading.h"
#include "tests/catch.h"
#include "tests/demo.h"

#include <cmath>
#include <numbers>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr double turn_a_minute = std::numbers::pi / 30;

void place(auto& mark, double column, double row) {
    mark.column = Quantity<Kind::number>(std::to_string(column));
    mark.row = Quantity<Kind::number>(std::to_string(row));
}

// 0 to 3000 rpm from column 100 to 700, 0 to 2 N·m from row 500 up to 100.
CurvePicture upright() {
    CurvePicture p;
    p.name = "curves.png";
    p.image.base64 = std::make_shared<const std::string>("AAAA");
    place(p.speed_1, 100, 510);
    place(p.speed_2, 700, 510);
    place(p.torque_1, 90, 500);
    place(p.torque_2, 90, 100);
    p.speed_1.speed = Quantity<Kind::angular_speed>("0 rpm");
    p.speed_2.speed = Quantity<Kind::angular_speed>("3000 rpm");
    p.torque_1.torque = Quantity<Kind::torque>("0 N·m");
    p.torque_2.torque = Quantity<Kind::torque>("2 N·m");
    return p;
}

PictureCurve curve(std::vector<double> points) {
    PictureCurve c;
    c.points = {std::make_shared<const std::vector<double>>(std::move(points)), 2};
    return c;
}

std::string only_wrong(const CurvePicture& p) {
    const PictureReading r(p);
    INFO((r.wrong().empty() ? "nothing is wrong" : r.wrong().back()));
    REQUIRE(r.wrong().size() == 1);
    return r.wrong().front();
}

} // namespace

TEST_CASE("A picture is read by two marks on each axis") {
    const PictureReading r(upright());
    REQUIRE(r.wrong().empty());
    CHECK(r.odd().empty());
    const auto v = r.at({400, 300});
    CHECK(v.speed == Approx(1500 * turn_a_minute));
    CHECK(v.torque == Approx(1.0));
    // by column and row alone: where else along the grid line a mark was set does not matter
    CurvePicture elsewhere = upright();
    place(elsewhere.speed_2, 700, 120);
    place(elsewhere.torque_1, 650, 500);
    CHECK(PictureReading(elsewhere).at({400, 300}).speed == Approx(1500 * turn_a_minute));
    CHECK(PictureReading(elsewhere).at({400, 300}).torque == Approx(1.0));
    const auto half = r.half_pixel({400, 300});
    CHECK(half.speed == Approx(2.5 * turn_a_minute));
    CHECK(half.torque == Approx(0.0025));
}

TEST_CASE("Axes the other way round, logarithmic scales and pulses") {
    SECTION("torque across, speed upwards") {
        CurvePicture p = upright();
        p.lie = PictureLie::speed_up;
        place(p.speed_1, 90, 500);
        place(p.speed_2, 90, 100);
        place(p.torque_1, 100, 510);
        place(p.torque_2, 700, 510);
        const auto v = PictureReading(p).at({250, 400});
        CHECK(v.speed == Approx(750 * turn_a_minute));
        CHECK(v.torque == Approx(0.5));
    }
    SECTION("equal distances are equal ratios") {
        CurvePicture p = upright();
        p.speed_scale = p.torque_scale = PictureScale::logarithmic;
        p.speed_1.speed = Quantity<Kind::angular_speed>("10 rpm");
        p.speed_2.speed = Quantity<Kind::angular_speed>("1000 rpm");
        p.torque_1.torque = Quantity<Kind::torque>("0.01 N·m");
        p.torque_2.torque = Quantity<Kind::torque>("100 N·m");
        const auto v = PictureReading(p).at({400, 300});
        CHECK(v.speed == Approx(100 * turn_a_minute));
        CHECK(v.torque == Approx(1.0));
    }
    SECTION("pulses become speed by the step of a pulse") {
        CurvePicture p = upright();
        p.speed_as = SpeedRead::pulses;
        p.pulse_angle = Quantity<Kind::angle>("1.8°");
        p.speed_1.rate = Quantity<Kind::frequency>("0 Hz");
        p.speed_2.rate = Quantity<Kind::frequency>("10 kHz");
        // 5000 full steps a second of 200 a turn are 25 turns a second
        CHECK(PictureReading(p).at({400, 300}).speed == Approx(1500 * turn_a_minute));
    }
}

TEST_CASE("Whatever the scale, what is read lies where it was clicked") {
    const bool holds = rc::check([] {
        const auto number = [](double low, double high) {
            return low + (high - low) * (*rc::gen::inRange(0, 1'000'001)) / 1e6;
        };
        CurvePicture p = upright();
        const double turned = number(-0.3, 0.3), across = number(200, 4000), up = number(200, 4000);
        const double c = number(0, 500), r = number(500, 5000);
        const bool tilted = *rc::gen::arbitrary<bool>();
        p.lie = tilted ? PictureLie::tilted : *rc::gen::element(PictureLie::speed_across, PictureLie::speed_up);
        const double a = tilted ? turned : p.lie == PictureLie::speed_up ? -std::numbers::pi / 2 : 0;
        // beside the axes they belong to, where an upright reading does not care
        const auto put = [&](auto& mark, double along, double angle, double aside) {
            place(mark, c + along * std::cos(angle) - aside * std::sin(angle),
                r + along * std::sin(angle) + aside * std::cos(angle));
        };
        const double aside = tilted ? 0 : number(-100, 100);
        put(p.speed_1, 0, a, tilted ? 7 : aside);
        put(p.speed_2, across, a, tilted ? 7 : 0);
        put(p.torque_1, 0, a - std::numbers::pi / 2, tilted ? -3 : aside);
        put(p.torque_2, up, a - std::numbers::pi / 2, tilted ? -3 : 0);
        const bool log_speed = *rc::gen::arbitrary<bool>(), log_torque = *rc::gen::arbitrary<bool>();
        p.speed_scale = log_speed ? PictureScale::logarithmic : PictureScale::linear;
        p.torque_scale = log_torque ? PictureScale::logarithmic : PictureScale::linear;
        p.speed_1.speed = Quantity<Kind::angular_speed>("20 rpm");
        p.speed_2.speed = Quantity<Kind::angular_speed>("4000 rpm");
        p.torque_1.torque = Quantity<Kind::torque>("0.05 N·m");
        p.torque_2.torque = Quantity<Kind::torque>("3 N·m");
        const PictureReading reading(p);
        RC_ASSERT(reading.wrong().empty());
        // worked out here from fractions along the axes, there by its map
        const double fs = number(0, 1), ft = number(0, 1);
        const auto value = [](double low, double high, double f, bool log) {
            return log ? low * std::pow(high / low, f) : low + f * (high - low);
        };
        const double speed = value(20 * turn_a_minute, 4000 * turn_a_minute, fs, log_speed),
                     torque = value(0.05, 3, ft, log_torque);
        const double s = fs * across, t = ft * up, b = a - std::numbers::pi / 2;
        const PictureReading::Place at{c + s * std::cos(a) + t * std::cos(b), r + s * std::sin(a) + t * std::sin(b)};
        const auto v = reading.at(at);
        // askew, the marks lie 7 and 3 beside the axes, which shifts nothing along them
        RC_ASSERT(std::abs(v.speed - speed) < 1e-4 * speed);
        RC_ASSERT(std::abs(v.torque - torque) < 1e-4 * torque);
        const auto back = reading.place_of(v);
        RC_ASSERT(back.has_value());
        RC_ASSERT(std::hypot(back->column - at.column, back->row - at.row) < 1e-6);
    });
    CHECK(holds);
}

TEST_CASE("What is wrong with the marks is said for each") {
    CHECK(PictureReading(CurvePicture{}).wrong().size() == 9); // no picture, four places, four values
    CurvePicture p = upright();
    p.image = {};
    CHECK(only_wrong(p) == "there is no picture yet");
    p = upright();
    p.speed_2.column = {};
    CHECK(only_wrong(p) == "the second mark of speed is not placed yet");
    p = upright();
    p.torque_1.torque = Quantity<Kind::torque>("abc");
    CHECK(only_wrong(p) == "the first mark of torque has no value yet");
    p = upright();
    p.torque_2.torque = p.torque_1.torque;
    CHECK(only_wrong(p) == "both marks of torque say 0 N·m; two values are needed");
    p = upright();
    place(p.speed_2, 101, 20); // far apart, but not along the axis
    CHECK_THAT(only_wrong(p), Contains("the marks of speed lie 1 pixels apart by their columns; at least 2"));
    p = upright();
    p.lie = PictureLie::tilted;
    CHECK(PictureReading(p).wrong().empty());
    place(p.torque_2, 690, 520);
    CHECK_THAT(only_wrong(p), Contains("the same way"));
    p = upright();
    p.speed_scale = PictureScale::logarithmic;
    CHECK(only_wrong(p) == "a mark of speed says 0 rpm; on a logarithmic scale a value is greater than 0");
    p = upright();
    p.speed_as = SpeedRead::pulses; // two values and the angle are missing
    CHECK(PictureReading(p).wrong().size() == 3);
    // two things wrong at once are two sentences
    p = upright();
    p.speed_1.row = {};
    p.torque_2.torque = {};
    CHECK(PictureReading(p).wrong().size() == 2);
}

TEST_CASE("A picture scanned askew is pointed out") {
    CurvePicture p = upright();
    const double a = 2 * std::numbers::pi / 180;
    place(p.speed_1, 100, 500);
    place(p.speed_2, 100 + 600 * std::cos(a), 500 + 600 * std::sin(a));
    place(p.torque_1, 100, 500);
    place(p.torque_2, 100 + 400 * std::sin(a), 500 - 400 * std::cos(a));
    const PictureReading r(p);
    CHECK(r.wrong().empty());
    REQUIRE(r.odd().size() == 1);
    CHECK_THAT(r.odd().front(), Contains("lean by 2°"));
    // one mark beside its axis is no sign of that
    place(p.torque_2, 140, 100);
    p.speed_2.row = p.speed_1.row;
    CHECK(PictureReading(p).odd().empty());
}

TEST_CASE("A curve is taken by speed, with as many digits as the picture has") {
    const CurvePicture p = upright();
    const PickedCurve c = pick_curve(p, curve({550.5, 260, 100, 100, 400, 300}));
    REQUIRE(c.wrong.empty());
    REQUIRE(c.points.size() == 3);
    CHECK(c.points[0].speed.text == "0.0 rpm");
    CHECK(c.points[0].torque.text == "2.0000 N·m");
    CHECK(c.points[1].speed.text == "1500.0 rpm");
    CHECK(c.points[2].speed.text == "2252.5 rpm");
    CHECK(c.points[2].torque.text == "1.2000 N·m");
    CHECK(c.points[2].torque.standing == InputSource::datasheet);
    CHECK(c.points[2].torque.note == "read off curves.png");
    // in the units of the picture
    CurvePicture inches = p;
    inches.torque_2.torque = Quantity<Kind::torque>("300 oz·in");
    inches.torque_1.torque = Quantity<Kind::torque>("0 oz·in");
    CHECK(pick_curve(inches, curve({100, 100, 700, 500})).points.front().torque.text == "300.00 oz·in");
}

TEST_CASE("Points that make no curve are named") {
    const CurvePicture p = upright();
    const auto wrong = [&](std::vector<double> points) {
        const PickedCurve c = pick_curve(p, curve(std::move(points)));
        CHECK(c.points.empty());
        return c.wrong.empty() ? std::string() : c.wrong.front();
    };
    CHECK(wrong({}) == "the curve has 0 of at least two points");
    CHECK(wrong({200, 200}) == "the curve has 1 of at least two points");
    CHECK(wrong({200, 200, 400, 300, 200.1, 250}) ==
          "points 1 and 3 lie at the same speed; a curve has one torque at each");
    CHECK(wrong({200, 200, 80, 250}) == "point 2 reads a speed of -100 rpm; nothing below 0 is taken");
    CHECK(wrong({200, 200, 300, 510}) == "point 2 reads a torque of -0.05 N·m; nothing below 0 is taken");
    // on an axis, as well as a hand can set it
    const PickedCurve c = pick_curve(p, curve({99.4, 200, 300, 500.9}));
    REQUIRE(c.wrong.empty());
    CHECK(c.points.front().speed.si == 0);
    CHECK(c.points.back().torque.si == 0);
    // a logarithmic scale far beyond its marks
    CurvePicture log = p;
    log.torque_scale = PictureScale::logarithmic;
    log.torque_1.torque = Quantity<Kind::torque>("1 mN·m");
    place(log.torque_2, 90, 497);
    CHECK_THAT(pick_curve(log, curve({200, -90000, 300, 400})).wrong.front(), Contains("no number"));
}

TEST_CASE("A picture, its marks and its points stay in the project") {
    Machine m = demo();
    CurvePicture p = upright();
    p.image.base64 = std::make_shared<const std::string>("iVBORw0KGgo=");
    p.curves.push_back(curve({100, 100, 400.25, 300}));
    p.curves.back().of = CurveOf::continuous;
    m.axes.at(0).motor.pictures = {p};
    const auto back = read_project(write_project(m));
    REQUIRE(back);
    CHECK(back->problems.empty());
    CHECK(back->machine.axes.at(0).motor.pictures == m.axes.at(0).motor.pictures);
    CHECK(back->machine == m);
    CHECK(p.image.size() == 8);

    const auto change = [&](const std::string& from, const std::string& to) {
        std::string text = write_project(m);
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        return read_project(text.replace(at, from.size(), to));
    };
    for (const char* bad : {"iVBORw0KGg=", "iVBO Rw0KGgo=", "iVBORw0K===="}) {
        const auto broken = change("iVBORw0KGgo=", bad);
        REQUIRE(broken);
        INFO(bad);
        REQUIRE(broken->machine.axes.at(0).unread.size() == 1);
        CHECK(broken->machine.axes.at(0).unread.front().path == "/motor/pictures/0/image");
        CHECK_THAT(broken->machine.axes.at(0).unread.front().message, Contains("base64"));
        CHECK(broken->read_only); // else saving would lose it
    }
}

TEST_CASE("Pictures larger than a file can keep are refused") {
    Machine m = demo();
    CurvePicture p = upright();
    p.image.base64 = std::make_shared<const std::string>(std::string((CurvePicture::largest / 3 + 1) * 4, 'A'));
    m.axes.at(0).motor.pictures = {p};
    const auto one = overfull(m);
    REQUIRE(one);
    CHECK_THAT(one->message, Contains("at most 16 MB"));
    p.image.base64 = std::make_shared<const std::string>(std::string(CurvePicture::largest / 3 * 4, 'A'));
    m.axes.at(0).motor.pictures = {p, p};
    CHECK(!overfull(m));
    m.axes.at(1).motor.pictures = {p};
    const auto all = overfull(m);
    REQUIRE(all);
    CHECK_THAT(all->message, Contains("at most 40 MB"));
}

TEST_CASE("What a picture has wrong silences nothing") {
    const Machine m = demo();
    const Assessment before = assess(m, 0);
    Machine with = m;
    CurvePicture p;
    p.speed_1.speed = Quantity<Kind::angular_speed>("half a");
    p.pulse_angle = Quantity<Kind::angle>("0°");
    with.axes.at(0).motor.pictures = {p};
    const Assessment after = assess(with, 0);
    REQUIRE(before.limits.size() == after.limits.size());
    for (std::size_t i = 0; i < before.limits.size(); ++i) {
        INFO(before.limits[i].key);
        CHECK(before.limits[i].state == after.limits[i].state);
    }
}

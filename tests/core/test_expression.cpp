#include "core/quantity/expression.h"
#include "core/quantity/quantity.h"

#include "tests/catch.h"
#include <rapidcheck.h>

using namespace fulmox;

namespace {

double si(const char* text, Kind kind, const char* bare = nullptr) {
    const auto r = read_quantity(text, kind, bare ? *find_unit(bare, kind) : si_unit(kind));
    INFO(text << (r ? "" : ": " + r.error().message));
    REQUIRE(r);
    return r->si;
}

std::string why_not(const std::string& text, Kind kind) {
    const auto r = read_quantity(text, kind, si_unit(kind));
    INFO(text);
    REQUIRE(!r);
    return r.error().message;
}

using Catch::Matchers::Contains;

} // namespace

TEST_CASE("arithmetic with units") {
    CHECK(si("2*35 mm + 1 in", Kind::length) == Approx(0.0954));
    CHECK(si("12 lb", Kind::mass) == Approx(5.44310844));
    CHECK(si("10", Kind::length, "mm") == Approx(0.01));
    CHECK(si("2+3", Kind::length, "mm") == Approx(0.005));
    CHECK(si("(1 + 2) * 5 mm", Kind::length) == Approx(0.015));
    CHECK(si("10 N / 2 mm", Kind::stiffness) == Approx(5000));
    CHECK(si("20 mm / 4", Kind::length) == Approx(0.005));
    CHECK(si("-5 mm", Kind::length) == Approx(-0.005));
    CHECK(si("sqrt(2) * 1 m", Kind::length) == Approx(std::sqrt(2.0)));
    CHECK(si("pi * 80 mm", Kind::length) == Approx(0.2513274123));
    CHECK(si("2^3 mm", Kind::length) == Approx(0.008));
    CHECK(si("1/3", Kind::number) == Approx(1.0 / 3));
    CHECK(si("85 %", Kind::number) == Approx(0.85));
    CHECK(si("2 × 6 N", Kind::force) == Approx(12));
    CHECK(si("5 kN − 200 N", Kind::force) == Approx(4800));
}

TEST_CASE("inch fractions and grouped digits") {
    CHECK(si("7/8 in", Kind::length) == Approx(0.875 * 0.0254));
    CHECK(si("1 1/2 in", Kind::length) == Approx(1.5 * 0.0254));
    CHECK(si("50 000 mm", Kind::length) == Approx(50));
    CHECK(si("1 250 000 mm", Kind::length) == Approx(1250));
    CHECK_THAT(why_not("50 00 mm", Kind::length), Contains("two numbers"));
}

TEST_CASE("a comma is refused and never read as 15") {
    for (const char* text : {"1,5 mm", "1,500 mm", "1.500,5 mm", "12 kg ± 0,5 kg"}) {
        const auto r =
            read_quantity(text, text[0] == '1' && text[1] == '2' ? Kind::mass : Kind::length, si_unit(Kind::length));
        INFO(text);
        REQUIRE(!r);
        CHECK_THAT(r.error().message, Contains("comma"));
    }
}

TEST_CASE("tolerances") {
    const auto r = read_quantity("12 kg ± 10 %", Kind::mass, si_unit(Kind::mass));
    REQUIRE(r);
    CHECK(r->si == 12);
    CHECK(r->tolerance == Approx(1.2));
    CHECK(read_quantity("12 kg +/- 500 g", Kind::mass, si_unit(Kind::mass))->tolerance == Approx(0.5));
    CHECK(read_quantity("12 ± 0.5 kg", Kind::mass, *find_unit("lb"))->si == 12);
    CHECK(read_quantity("12 kg ± 0.5", Kind::mass, *find_unit("lb"))->tolerance == Approx(0.5));
    CHECK(read_quantity("0.005 ± 20 %", Kind::number, si_unit(Kind::number))->tolerance == Approx(0.001));
    CHECK(read_quantity("40 °C ± 5 °C", Kind::temperature, si_unit(Kind::temperature))->tolerance == Approx(5));
    CHECK_THAT(why_not("12 kg ± -1 kg", Kind::mass), Contains("negative"));
    CHECK_THAT(why_not("12 kg ± 1 mm", Kind::mass), Contains("tolerance"));
}

TEST_CASE("torque and inertia look-alikes are told apart and the right ones named") {
    struct Pair {
        const char* torque;
        const char* inertia;
    };
    for (const Pair& p : {Pair{"oz·in", "oz·in²"}, {"lb-in", "lb-in2"}, {"kg·cm", "kg·cm²"}, {"lb in", "lb in^2"},
             {"g·cm", "g·cm²"}, {"lb·in", "lb·in·s²"}, {"oz-in", "oz-in-s2"}, {"lb·ft", "lb·ft²"}}) {
        const std::string torque = std::string("5 ") + p.torque;
        const std::string inertia = std::string("5 ") + p.inertia;
        INFO(torque << " | " << inertia);
        CHECK(read_quantity(torque, Kind::torque, si_unit(Kind::torque)));
        CHECK(read_quantity(inertia, Kind::inertia, si_unit(Kind::inertia)));
        const std::string a = why_not(inertia, Kind::torque);
        CHECK_THAT(
            a, Contains("moment of inertia") && Contains("torque is wanted") && Contains("oz·in") && Contains("N·m"));
        const std::string b = why_not(torque, Kind::inertia);
        CHECK_THAT(b, Contains("torque") && Contains("moment of inertia is wanted") && Contains("kg·cm²") &&
                          Contains("lb·in·s²"));
    }
    // weight-based and mass-based inertia differ by g
    CHECK(si("1 lb·in·s²", Kind::inertia) / si("1 lb·in²", Kind::inertia) == Approx(9.80665 / 0.0254));
    CHECK_THAT(why_not("5 J", Kind::torque), Contains("energy"));
    CHECK_THAT(why_not("5 kg", Kind::force), Contains("mass") && Contains("kgf"));
    CHECK_THAT(why_not("5 lb", Kind::force), Contains("lbf"));
    CHECK_THAT(why_not("50 Hz", Kind::angular_speed), Contains("frequency"));
    CHECK_THAT(why_not("5 furlong", Kind::length), Contains("not a known unit") && Contains("mm"));
}

TEST_CASE("a forgotten turn is refused rather than wrong by two pi") {
    CHECK(si("2000 mm/min / (20 mm/rev)", Kind::angular_speed) == Approx(100 * 2 * M_PI / 60));
    CHECK_THAT(why_not("2000 mm/min / 20 mm", Kind::angular_speed), Contains("per rev"));
    CHECK(si("10 mm/rev", Kind::length) == Approx(0.01));
    CHECK(si("1.27 N·m * 3000 rpm", Kind::power) == Approx(1.27 * 3000 * 2 * M_PI / 60));
    const auto hertz = evaluate("3000 rpm");
    REQUIRE(hertz);
    CHECK(!convert(*hertz, *find_unit("Hz")));
    CHECK(*convert(*evaluate("3000 rpm / 1 rev"), *find_unit("Hz")) == Approx(50));
}

TEST_CASE("temperatures have an origin") {
    CHECK(si("40 °C", Kind::temperature) == Approx(313.15));
    CHECK(si("104 °F", Kind::temperature) == Approx(313.15));
    CHECK(si("40 °C + 5 K", Kind::temperature) == Approx(318.15));
    CHECK_THAT(why_not("2 * 40 °C", Kind::temperature), Contains("°C"));
}

TEST_CASE("what is no value is refused in words") {
    CHECK_THAT(why_not("", Kind::length), Contains("empty"));
    CHECK_THAT(why_not("   ", Kind::length), Contains("empty"));
    CHECK_THAT(why_not("abc", Kind::length), Contains("not a known unit"));
    CHECK_THAT(why_not("nan", Kind::length), Contains("not a number"));
    CHECK_THAT(why_not("inf mm", Kind::length), Contains("not a number"));
    CHECK_THAT(why_not("1e999 mm", Kind::length), Contains("too large"));
    CHECK_THAT(why_not("1e308 m * 1e10", Kind::length), Contains("too large"));
    CHECK_THAT(why_not("1/0 mm", Kind::length), Contains("division by zero"));
    CHECK_THAT(why_not("(2 mm", Kind::length), Contains("bracket"));
    CHECK_THAT(why_not("2 mm)", Kind::length), Contains("not expected"));
    CHECK_THAT(why_not("5 mm + 3 kg", Kind::length), Contains("cannot add"));
    CHECK_THAT(why_not("1.2.3 mm", Kind::length), Contains("decimal point"));
    CHECK_THAT(why_not(std::string(500, '1'), Kind::length), Contains("characters"));
    CHECK_THAT(why_not(std::string(60, '(') + "1", Kind::length), Contains("nested"));
}

TEST_CASE("a bare number is stored with its unit") {
    const auto stored = [](const char* text, Kind kind, const char* unit) {
        const auto r = read_quantity(text, kind, *find_unit(unit, kind));
        REQUIRE(r);
        const std::string full = with_unit(text, *r);
        const auto again = read_quantity(full, kind, si_unit(kind));
        INFO(full);
        REQUIRE(again);
        CHECK(again->si == Approx(r->si).epsilon(1e-15));
        CHECK(again->tolerance == Approx(r->tolerance).epsilon(1e-15));
        return full;
    };
    CHECK(stored("10", Kind::length, "mm") == "10 mm");
    CHECK(stored("2+3", Kind::length, "mm") == "(2+3) mm");
    CHECK(stored("12 ± 0.5", Kind::mass, "lb") == "12 lb ± 0.5");
    CHECK(stored("85", Kind::number, "%") == "85 %");
    CHECK(stored("12 kg ± 10 %", Kind::mass, "lb") == "12 kg ± 10 %");
}

TEST_CASE("sums and products of random quantities agree with plain arithmetic") {
    const bool holds = rc::check("a u + b w", [] {
        const auto lengths = units_of(Kind::length);
        const auto& u = **rc::gen::elementOf(lengths);
        const auto& w = **rc::gen::elementOf(lengths);
        const int a = *rc::gen::inRange(1, 10000);
        const int b = *rc::gen::inRange(1, 10000);
        const std::string text =
            std::to_string(a) + " " + std::string(u.symbol) + " + " + std::to_string(b) + "*2 " + std::string(w.symbol);
        const auto r = read_quantity(text, Kind::length, si_unit(Kind::length));
        RC_ASSERT(static_cast<bool>(r));
        const double want = a * u.factor + 2.0 * b * w.factor;
        RC_ASSERT(std::abs(r->si - want) <= 1e-12 * want);
    });
    REQUIRE(holds);
}

TEST_CASE("any text gives a value or an error, never a crash") {
    const bool holds = rc::check([](const std::string& text) {
        for (const Kind k : {Kind::length, Kind::torque, Kind::temperature, Kind::number}) {
            const auto r = read_quantity(text, k, si_unit(k));
            if (r)
                RC_ASSERT(std::isfinite(r->si) && r->tolerance >= 0);
            else
                RC_ASSERT(!r.error().message.empty());
        }
        evaluate(text);
    });
    REQUIRE(holds);
}

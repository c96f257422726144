// Heat over the cycle: means, ripple, overload and runaway, against closed forms and a plain integration in small
// steps.
#include "core/drivetrain/bearing.h"
#include "core/match/assess.h"
#include "core/motor/constants.h"
#include "core/motor/heat.h"
#include "tests/catch.h"
#include "tests/demo.h"

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

ThermalMotor one_body() {
    ThermalMotor m;
    m.resistance = 1.2;
    m.time_constant = 1500;
    m.ambient = 30;
    m.limit = 130;
    m.reference = 20;
    return m;
}

ThermalMotor two_bodies() {
    ThermalMotor m = one_body();
    m.winding_resistance = 0.35;
    m.winding_time_constant = 20;
    return m;
}

// The heat balance in steps of Runge and Kutta, over many cycles.
struct Stepped {
    double highest = 0, lowest = 1e9, housing = 0;
};
Stepped integrate(const ThermalMotor& m, const std::vector<HeatStretch>& cycle, double from, double cycles, int steps) {
    const bool two = m.two_bodies();
    const double outer = m.resistance - m.winding_resistance;
    const auto slope = [&](double w, double h, const HeatStretch& s) {
        const double magnet = two ? h : w;
        const double flux = (1 - m.flux_fall * (magnet - 20)) / (1 - m.flux_fall * (m.reference - 20));
        const double p = s.copper * (235 + w) / (235 + m.reference) / flux / flux;
        if (!two)
            return std::pair((p + s.other - (w - m.ambient) / m.resistance) / (m.time_constant / m.resistance), 0.0);
        const double across = (w - h) / m.winding_resistance;
        return std::pair((p - across) / (m.winding_time_constant / m.winding_resistance),
            (across + s.other - (h - m.ambient) / outer) / (m.time_constant / outer));
    };
    double w = from, h = two ? m.ambient + (from - m.ambient) * outer / m.resistance : from;
    Stepped out;
    for (int n = 0; n < cycles; ++n) {
        if (n == cycles - 1) out = {};
        for (const HeatStretch& s : cycle)
            for (int i = 0; i < steps; ++i) {
                const double dt = s.lasts / steps;
                const auto a = slope(w, h, s), b = slope(w + dt / 2 * a.first, h + dt / 2 * a.second, s),
                           c = slope(w + dt / 2 * b.first, h + dt / 2 * b.second, s),
                           d = slope(w + dt * c.first, h + dt * c.second, s);
                w += dt / 6 * (a.first + 2 * b.first + 2 * c.first + d.first);
                h += dt / 6 * (a.second + 2 * b.second + 2 * c.second + d.second);
                out.highest = std::max(out.highest, w);
                out.lowest = std::min(out.lowest, w);
                out.housing = std::max(out.housing, h);
            }
    }
    return out;
}

const std::vector<HeatStretch> bursts{{4, 120, 3}, {10, 12, 5}, {2, 200, 0}, {30, 0, 0}};

} // namespace

TEST_CASE("a constant loss comes to the closed form of one body") {
    ThermalMotor m = one_body();
    const SteadyHeat h = steady_heat(m, {{100, 40, 0}});
    // θ = a + R P (235 + θ)/255
    const double by = 1.2 * 40 / 255, winding = (30 + by * 235) / (1 - by);
    CHECK(h.settles);
    CHECK(h.mean.winding == Approx(winding).epsilon(1e-9));
    CHECK(h.highest == Approx(winding).epsilon(1e-9));
    CHECK(h.lowest == Approx(winding).epsilon(1e-9));
    CHECK(h.copper == Approx(40 * (235 + winding) / 255).epsilon(1e-9));
    CHECK(std::isinf(h.time_to_limit));
    // copper from 20 to 120 °C: × 1.3922, IEC 60034-1
    m.resistance = 100 / 40.0 / 1.392156863;
    m.ambient = 20;
    CHECK(steady_heat(m, {{100, 40, 0}}).mean.winding == Approx(120).epsilon(1e-6));
    // iron heats the housing: past the winding's own resistance only by its share
    const SteadyHeat two = steady_heat(two_bodies(), {{100, 40, 10}});
    CHECK(two.mean.housing == Approx(30 + 0.85 * (two.copper + 10)).epsilon(1e-9));
    CHECK(two.mean.winding == Approx(two.mean.housing + 0.35 * two.copper).epsilon(1e-9));
}

TEST_CASE("steady ripple against integration in small steps") {
    for (const bool two : {false, true})
        for (const double fall : {0.0, 0.0011}) {
            ThermalMotor m = two ? two_bodies() : one_body();
            m.time_constant = 60; // so that the integration comes to rest
            m.flux_fall = fall;
            INFO(two << " " << fall);
            const SteadyHeat h = steady_heat(m, bursts);
            REQUIRE(h.settles);
            const Stepped s = integrate(m, bursts, h.mean.winding, 60, 400);
            // what is left is the growth of the loss within the ripple beyond its straight line
            CHECK(h.highest == Approx(s.highest).margin(0.15));
            CHECK(h.lowest == Approx(s.lowest).margin(0.15));
            if (two) CHECK(h.housing_highest == Approx(s.housing).margin(0.1));
            const Stepped first = integrate(m, bursts, m.ambient, 1, 400);
            CHECK(first.highest > h.after_first - 0.5);
        }
}

TEST_CASE("time to the limit, and none where it is never reached") {
    ThermalMotor m = one_body();
    // without growth by temperature it would be τ ln(P R/(P R − ΔT)); with it, by the loop that grows with the loss
    const double p = 140, by = 1.2 * p / 255;
    const double slower = 1500 / (1 - by), rise = 1.2 * p * (235 + 30) / 255 / (1 - by);
    const SteadyHeat h = steady_heat(m, {{1, p, 0}});
    CHECK(h.time_to_limit == Approx(-slower * std::log(1 - 100 / rise)).epsilon(1e-3));
    CHECK(std::isinf(steady_heat(m, {{1, 20, 0}}).time_to_limit));
}

TEST_CASE("a loss that grows faster than its heat leaves runs away") {
    ThermalMotor m = one_body();
    m.flux_fall = 0.002; // ferrite
    // by scanning: the largest loss at which some temperature keeps itself
    const auto keeps = [&](double copper) {
        for (double t = 30; t < 500; t += 0.05) {
            const double flux = 1 - 0.002 * (t - 20);
            if (flux <= 0) break;
            if (30 + 1.2 * copper * (235 + t) / 255 / flux / flux <= t) return true;
        }
        return false;
    };
    double low = 1, high = 400;
    for (int i = 0; i < 40; ++i) {
        const double middle = (low + high) / 2;
        (keeps(middle) ? low : high) = middle;
    }
    CHECK(steady_heat(m, {{1, 0.99 * low, 0}}).settles);
    const SteadyHeat gone = steady_heat(m, {{1, 1.01 * low, 0}});
    CHECK(!gone.settles);
    double w = 30, seconds = 0;
    for (; w < m.limit; seconds += 0.5) {
        const double flux = 1 - 0.002 * (w - 20);
        w += 0.5 * (1.01 * low * (235 + w) / 255 / flux / flux - (w - 30) / 1.2) / (1500 / 1.2);
    }
    CHECK(gone.time_to_limit == Approx(seconds).epsilon(0.03));
    const GreatestLoad g = greatest_that_settles(m, 1, 0);
    CHECK(g.factor * g.factor == Approx(low).epsilon(2e-3));
    CHECK(g.winding > 30);
    const GreatestLoad l = greatest_within_limit(m, 1, 0);
    CHECK(steady_heat(m, {{1, l.factor * l.factor, 0}}).mean.winding == Approx(m.limit).epsilon(1e-6));
    // copper alone comes near 255/R and never there
    m.flux_fall = 0;
    CHECK(greatest_that_settles(m, 1, 0).factor == Approx(std::sqrt(255 / 1.2)).epsilon(1e-6));
    CHECK(std::isinf(greatest_that_settles(m, 1, 0).winding));
}

TEST_CASE("overload time by the winding's own time constant") {
    ThermalMotor m = one_body();
    m.winding_time_constant = 40;
    m.time_constant = ThermalMotor::unknown;
    // t = τ ln((r² − h)/(r² − 1))
    CHECK(overload_time(m, 3, 0.2) == Approx(40 * std::log((9 - 0.2) / 8)));
    CHECK(overload_time(m, 2, 0) == Approx(40 * std::log(4.0 / 3)));
    CHECK(std::isinf(overload_time(m, 1, 0.5)));
    CHECK(m.knows_winding());
    // only the motor's: the same form, many times too long, and said so
    CHECK(!one_body().knows_winding());
    CHECK(overload_time(one_body(), 3, 0.2) == Approx(1500 * std::log(8.8 / 8)));
    CHECK(std::isnan(overload_time(ThermalMotor{}, 3, 0)));
    // two bodies: against steps
    const ThermalMotor two = two_bodies();
    for (const double r : {1.5, 3.0})
        for (const double h : {0.0, 0.6}) {
            const double inner = 0.35 / 1.2, outer = 1 - inner, c1 = 20 / inner, c2 = 1500 / outer;
            double w = h, b = h * outer, t = 0;
            const double dt = 1e-3;
            while (w < 1) {
                const double across = (w - b) / inner;
                w += dt * (r * r - across) / c1;
                b += dt * (across - b / outer) / c2;
                t += dt;
            }
            INFO(r << " " << h);
            CHECK(overload_time(two, r, h) == Approx(t).epsilon(2e-3));
        }
}

TEST_CASE("two wrong time constants say nothing rather than something") {
    ThermalMotor m = two_bodies();
    m.winding_time_constant = ThermalMotor::unknown;
    CHECK(!m.knows_times());
    const SteadyHeat h = steady_heat(m, bursts);
    CHECK(h.settles);
    CHECK(std::isnan(h.highest));
    CHECK(std::isfinite(h.mean.winding));
    m.resistance = ThermalMotor::unknown;
    CHECK(!steady_heat(m, bursts).settles);
}

TEST_CASE("the winding of an axis: judged with its own time constant, and not without") {
    Machine m = demo();
    const Assessment a = assess(m, 0);
    REQUIRE(a.heat);
    CHECK(a.limit("winding_temperature")->state == LimitState::fits);
    CHECK(a.figure("heat.winding_highest")->si - 273.15 == Approx(a.heat->heat.highest));
    CHECK(a.heat->heat.highest > a.heat->heat.lowest);
    m.axes[0].motor.winding_time_constant = {};
    m.axes[0].motor.winding_resistance = {};
    const Assessment less = assess(m, 0);
    CHECK(less.limit("winding_temperature")->state == LimitState::cannot_say);
    CHECK_THAT(less.limit("winding_temperature")->reason.in(UnitSystem::si), Contains("at least"));
    // too hot in the mean it is over all the same
    m.site.ambient = Quantity<Kind::temperature>("119 °C");
    CHECK(assess(m, 0).limit("winding_temperature")->state == LimitState::over);
    // without any it is not judged, the mean is still said
    m = demo();
    m.axes[0].motor.winding_time_constant = m.axes[0].motor.thermal_time_constant = {};
    m.axes[0].motor.winding_resistance = {};
    CHECK(!assess(m, 0).limit("winding_temperature"));
    CHECK(std::isfinite(assess(m, 0).figure("heat.winding_mean")->si));
    // a resistance that does not fit in: said, not calculated
    m = demo();
    m.axes[0].motor.winding_resistance = Quantity<Kind::thermal_resistance>("1000 K/W");
    CHECK_THAT(assess(m, 0).limit("winding_temperature")->reason.in(UnitSystem::si), Contains("waits for: a thermal"));
}

TEST_CASE("which heat school judges is the policy's") {
    Machine m = demo();
    for (const auto& [judge, loss, point] :
        {std::tuple(HeatJudge::both, true, true), {HeatJudge::loss, true, false}, {HeatJudge::point, false, true}}) {
        for (Policy& p : m.policies) p.heat_judge = judge;
        const Assessment a = assess(m, 0);
        CHECK((a.limit("continuous_loss") != nullptr) == loss);
        CHECK((a.limit("continuous_point") != nullptr) == point);
    }
}

TEST_CASE("energy: what comes in is what goes out at the shaft and in heat") {
    const Machine m = demo();
    for (const std::size_t axis : {std::size_t{0}, std::size_t{6}, std::size_t{8}}) {
        INFO(m.axes[axis].name);
        const Assessment a = assess(m, axis);
        REQUIRE(a.heat);
        if (!a.heat->in_watts) continue;
        const CycleEnergy& e = a.heat->energy;
        const double shaft = a.demand->energy_delivered - a.demand->energy_returned;
        CHECK(e.motor - e.returned == Approx(shaft + e.losses).epsilon(1e-6));
        CHECK(e.losses == Approx((a.heat->heat.copper + a.heat->other) * a.demand->cycle_time).epsilon(1e-3));
        const double year = a.figure("energy.year")->si;
        CHECK(year == Approx(e.motor / 0.88 / a.demand->cycle_time * 3600 * 16 * 250));
        CHECK(a.figure("energy.cost")->si == Approx(year / 3.6e6 * 0.28));
    }
}

TEST_CASE("life of a bearing by ISO 281, and of brushes as the maker expects it") {
    // L10h = 10⁶/(60 n) (C/P)³, source: ISO 281, from memory: C/P = 10 at 1000 rpm are 16 667 h
    CHECK(bearing_hours(10, 1, 1000 * std::numbers::pi / 30) == Approx(16'666.7).epsilon(1e-5));
    Machine m = demo();
    CHECK(!assess(m, 0).figure("life.bearing"));
    m.axes[0].motor.bearing_rating = Quantity<Kind::force>("9.6 kN");
    m.axes[0].coupling.radial_load = Quantity<Kind::force>("240 N");
    const Assessment a = assess(m, 0);
    REQUIRE(a.figure("life.bearing"));
    CHECK(a.figure("life.bearing")->si == Approx(3600 * bearing_hours(9600, 240, a.demand->mean_speed)));
    m.axes[8].motor.brush_life = Quantity<Kind::time>("3000 h");
    CHECK_THAT(assess(m, 8).figure("life.brushes")->note.in(UnitSystem::si), Contains("0.75 years"));
}

TEST_CASE("hours that no day has silence the year's energy, and nothing else") {
    Machine m = demo();
    const Assessment before = assess(m, 0);
    auto& hours = m.operation.hours_per_day;
    hours.text = "30";
    hours.si = 30;
    const Assessment a = assess(m, 0);
    CHECK(has_errors(a.problems));
    REQUIRE(a.figure("energy.year"));
    CHECK(a.figure("energy.year")->waits);
    CHECK_THAT(a.figure("energy.year")->note.in(UnitSystem::si), Contains("Hours a day"));
    CHECK(a.figure("energy.motor")->si == before.figure("energy.motor")->si);
    REQUIRE(a.limits.size() == before.limits.size());
    for (std::size_t i = 0; i < a.limits.size(); ++i) CHECK(a.limits[i].state == before.limits[i].state);
}

TEST_CASE("what surrounds the machine is cautioned of where it matters") {
    Machine m = demo();
    const auto said = [&](std::size_t axis, const char* words) {
        const Assessment a = assess(m, axis);
        return std::any_of(a.problems.begin(), a.problems.end(), [&](const Problem& p) {
            return p.severity == Severity::caution && p.message.find(words) != std::string::npos;
        });
    };
    CHECK(!said(0, "Explosive"));
    m.surroundings.explosive_gas = m.surroundings.vacuum = true;
    CHECK(said(0, "certified equipment"));
    CHECK(!said(0, "brushes spark"));
    CHECK(said(8, "brushes spark")); // the fan is brushed
    CHECK(said(8, "wear in hours"));
    CHECK(said(6, "no air carries the heat away"));
}

TEST_CASE("turning steadily, a stepper takes its current whatever the load is and a servo only what it needs") {
    const Machine m = demo();
    const Axis& steps = m.axes.at(6);
    const SteadyMotor stepper(steps.motor, steps.drive, m.site, capability(steps.motor, steps.drive, m.site));
    const Axis& lift = m.axes.at(0);
    const SteadyMotor servo(lift.motor, lift.drive, m.site, capability(lift.motor, lift.drive, m.site));
    CHECK(stepper.missing().empty());
    const SteadyPoint idle = stepper.at(20, 0), loaded = stepper.at(20, 0.1);
    REQUIRE(idle.possible);
    REQUIRE(loaded.possible);
    CHECK(idle.loss == Approx(loaded.loss));
    CHECK(idle.winding == Approx(loaded.winding));
    CHECK(loaded.left == Approx(idle.left - 0.1));
    CHECK(24 * (loaded.supply_current - idle.supply_current) == Approx(0.1 * 20));
    CHECK(servo.at(100, 0).loss < 0.2 * servo.at(100, 1).loss);
    // more than there is: nothing is said of current and heat
    const SteadyPoint beyond = stepper.at(200, 0.3);
    CHECK(!beyond.possible);
    CHECK(beyond.left < 0);
    CHECK(std::isnan(beyond.supply_current));
    CHECK(std::isnan(beyond.winding));
    const SteadyPoint hot = servo.at(100, 3);
    CHECK(hot.possible);
    CHECK(!hot.settles);
    CHECK(std::isnan(hot.winding));
    CHECK(std::isnan(hot.loss));
    // a brake of the load feeds back
    CHECK(servo.at(300, -1).supply_current < 0);
}

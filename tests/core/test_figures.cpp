// The figures of the demo, each worked again from its definition, and the reports made of them.
#include "core/quantity/format.h"
#include "core/report/json_report.h"
#include "tests/demo.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

double figure(const Assessment& a, const char* key) {
    const Figure* f = a.figure(key);
    INFO(key);
    REQUIRE(f);
    return f->si;
}

} // namespace

TEST_CASE("motion figures from the numbers typed in") {
    const Assessment a = assess(demo(), 0);
    // up 400 mm in 0.75 s; down at 0.6 m/s with 4 and 3 m/s²; dwells 0.35 and 0.4 s
    const double down = (0.4 - 0.6 * 0.6 / 2 * (1 / 4.0 + 1 / 3.0)) / 0.6 + 0.6 / 4 + 0.6 / 3;
    const double cycle = 0.75 + 0.35 + down + 0.4;
    CHECK(figure(a, "motion.cycle_time") == Approx(cycle));
    CHECK(figure(a, "motion.cycles_per_hour") == Approx(1 / cycle));
    CHECK(figure(a, "motion.duty") == Approx((0.75 + down) / cycle));
    CHECK(figure(a, "motion.stroke") == Approx(0.4));
    CHECK(figure(a, "motion.path") == Approx(0.8));
    CHECK(figure(a, "motion.peak_speed") == Approx(1.5 * 0.4 / 0.75));
    CHECK(figure(a, "motion.peak_acceleration") == Approx(4));
    CHECK(figure(a, "demand.peak_speed") == Approx(0.8 / 0.01 * 2 * M_PI));
    CHECK(figure(a, "demand.mean_speed") == Approx(0.8 / cycle / 0.01 * 2 * M_PI));
}

TEST_CASE("demand figures worked by hand") {
    const Assessment a = assess(demo(), 0);
    const double r = 0.01 / (2 * M_PI);
    const double g = 9.80665;
    const double screw = M_PI * 7850 * 0.9 * std::pow((0.020 + 0.0171) / 2, 4) / 32;
    const double shaft = screw + 0.19e-4 + 0.474e-4 + 0.0372e-4;
    // first ramp: 35 kg up at 4.5 d/T²; friction: seals only, the guides of a vertical axis carry no weight
    const double up = 4.5 * 0.4 / (0.75 * 0.75);
    const double force = 35 * (up + g) + 12;
    const double ramp = force * r / 0.9 + 0.1 + shaft * up / r;
    CHECK(figure(a, "demand.peak_torque") == Approx(ramp));
    // the full head stopped on its way down, in the cycle and in an emergency, from 0.8 m/s in 0.2 s
    CHECK(figure(a, "demand.axial_force") == Approx(std::max({force, 45 * (g + 3) - 12, 45 * (g + 0.8 / 0.2) - 12})));
    CHECK(figure(a, "demand.holding_torque") == Approx(45 * g * r));
    CHECK(figure(a, "demand.static_torque") == Approx(45 * g * r));
    CHECK(figure(a, "demand.peak_power") == Approx(ramp * 0.8 / r));
    CHECK(figure(a, "load.inertia") == Approx(45 * r * r + screw + 0.19e-4));
    CHECK(figure(a, "load.inertia_least") == Approx(35 * r * r + screw + 0.19e-4));
    CHECK(figure(a, "load.rotor_inertia") == Approx(0.474e-4 + 0.0372e-4));
    CHECK(figure(a, "load.efficiency_backward") == Approx(2 - 1 / 0.9));
    CHECK(figure(a, "load.shaft_drag") == Approx(0.1));
    CHECK(figure(a, "load.transmission_radius") == Approx(r));
    // energy lifted goes in through the efficiency
    CHECK(figure(a, "demand.energy_delivered") > 35 * g * 0.4 / 0.9);
    CHECK(figure(a, "demand.energy_returned") < 45 * g * 0.4);
}

TEST_CASE("emergency stop of the falling full head by hand") {
    const Assessment a = assess(demo(), 0);
    const double r = 0.01 / (2 * M_PI);
    const double stop = 0.8 / 0.2; // m/s² from top speed in 0.2 s
    const double back = 2 - 1 / 0.9;
    const double shaft = figure(a, "load.rotor_inertia") + figure(a, "load.inertia_least") - 35 * r * r;
    const double falling = (45 * (9.80665 + stop) - 12) * r * back - 0.1 + shaft * stop / r;
    CHECK(figure(a, "demand.emergency_torque") == Approx(falling));
}

TEST_CASE("currents and copper loss from the datasheet constants") {
    Machine m = demo();
    const Assessment a = assess(m, 0);
    // at the winding limit of 155 °C: NdFeB loses 0.11 % per kelvin, copper gains (235 + 155)/255
    const double hot = 0.482 * (1 - 0.0011 * 135);
    const double rms = figure(a, "demand.rms_torque") / hot;
    CHECK(figure(a, "motor.rms_current") == Approx(rms));
    CHECK(figure(a, "motor.peak_current") == Approx(std::abs(figure(a, "demand.peak_torque")) / hot));
    CHECK(figure(a, "motor.copper_loss") == Approx(1.5 * rms * rms * 2.23 * 390 / 255));
    set(m, "/drive/hot", "20 °C");
    CHECK(figure(assess(m, 0), "motor.rms_current") == Approx(figure(a, "demand.rms_torque") / 0.482));
    set(m, "/motor/electric/torque_constant", ""); // the voltage constant tells the same
    const double by_voltage = std::sqrt(3.0) * 29.1 / (1000 * 2 * M_PI / 60);
    CHECK(figure(assess(m, 0), "motor.rms_current") == Approx(figure(a, "demand.rms_torque") / by_voltage));
    set(m, "/motor/electric/voltage_constant", "");
    CHECK(!assess(m, 0).figure("motor.rms_current"));
}

TEST_CASE("shares of the heat add to one, in order of the causes") {
    const Assessment a = assess(demo(), 0);
    double sum = 0;
    for (int k = 0; k < cause_count; ++k)
        sum += figure(a, (std::string("demand.rms_share.") + cause_key(static_cast<Cause>(k))).c_str());
    CHECK(sum == Approx(1));
    CHECK(figure(a, "demand.rms_share.gravity") > 0.5);
    CHECK(figure(a, "demand.rms_share.process") == 0);
}

TEST_CASE("figure keys are unique and every figure has a label and a unit") {
    std::set<std::string> seen;
    const Assessment a = assess(demo(), 0);
    for (const Figure& f : a.figures) {
        INFO(f.key);
        CHECK(seen.insert(f.key).second);
        CHECK(!f.label.empty());
        if (!std::isfinite(f.si)) CHECK(!f.note.empty()); // then it says why
        CHECK(!figure_text(f, UnitSystem::si).empty());
        if (*f.unit) CHECK(find_unit(f.unit, f.kind)->kind == f.kind);
    }
}

TEST_CASE("every figure has a working, or says from what it is read") {
    int worked = 0, read = 0;
    const auto look = [&](const Machine& m, std::size_t axis) {
        const Assessment a = assess(m, axis);
        for (const Figure& f : a.figures) {
            if (!std::isfinite(f.si)) continue;
            INFO(f.key);
            CHECK(f.working.empty() != f.read_from.empty());
            if (f.working.empty()) {
                ++read;
            } else {
                CHECK(f.working.back().result == Approx(f.si).epsilon(1e-12));
                ++worked;
            }
        }
    };
    for (std::size_t i = 0; i < demo().axes.size(); ++i) look(demo(), i);
    for (const Option& kind : mechanism_kinds()) look(machine_with(kind.key), 0);
    CHECK(worked > 400);
    CHECK(read > 0);
}

TEST_CASE("sentences are printed in the units of whoever shows them") {
    const Assessment a = assess(demo(), 0);
    const Text& reason = a.limit("holding")->reason;
    CHECK_THAT(reason.in(UnitSystem::si), Contains("N·m to hold"));
    CHECK_THAT(reason.in(UnitSystem::inch_pound), Contains("lb·in to hold"));
    CHECK((Text("a ") + Text::of(0.0254, Kind::length) + " b").in(UnitSystem::inch_pound) == "a 1 in b");
    CHECK(Text("").empty());
    // what is assessed does not depend on how it is shown
    Machine inch = demo();
    inch.unit_system = UnitSystem::inch_pound;
    const Assessment b = assess(inch, 0);
    for (std::size_t i = 0; i < a.limits.size(); ++i) CHECK(b.limits[i].reason == a.limits[i].reason);
}

TEST_CASE("the JSON says what the assessment says, and null where nothing is known") {
    Machine m = demo();
    set(m, "/mechanism/root_diameter", "");
    const Assessment a = assess(m, 0);
    const auto j = nlohmann::json::parse(assessment_json(m, {a}));
    CHECK(j["format"] == "fulmox-assessment");
    const auto& axis = j["axes"][0];
    for (const Figure& f : a.figures) {
        const auto& value = axis["results"][f.key]["value"];
        CHECK((std::isfinite(f.si) ? value == f.si : value.is_null()));
    }
    REQUIRE(axis["limits"].size() == a.limits.size());
    for (std::size_t i = 0; i < a.limits.size(); ++i) {
        const auto& l = axis["limits"][i];
        CHECK(l["key"] == a.limits[i].key);
        CHECK(l["state"] == state_key(a.limits[i].state));
        if (a.limits[i].state == LimitState::cannot_say) {
            CHECK(l["utilisation"].is_null());
            CHECK(l["allowed"].is_null());
        }
    }
    Machine none = demo();
    set(none, "/motor/brake_torque", "");
    const auto over = nlohmann::json::parse(assessment_json(none, {assess(none, 0)}));
    for (const auto& l : over["axes"][0]["limits"])
        if (l["key"] == "brake") CHECK((l["state"] == "over" && l["utilisation"].is_null() && l["allowed"] == 0));
}

TEST_CASE("the text report has every limit, tightest first, and the cautions") {
    const Machine m = demo();
    const Assessment a = assess(m, 0);
    const std::string text = assessment_text(m, {a});
    std::size_t at = 0;
    for (const std::size_t i : by_tightness(a.limits)) {
        const std::size_t found = text.find(a.limits[i].label, at);
        INFO(a.limits[i].label);
        REQUIRE(found != std::string::npos);
        at = found;
    }
    CHECK_THAT(text, Contains("caution") && Contains("ISO 12100") && Contains("1537 cycles/h"));
    CHECK_THAT(working_text(a.limits[0].working[0]), Contains(" = "));
    Machine inches = m;
    inches.unit_system = UnitSystem::inch_pound;
    CHECK_THAT(assessment_text(inches, {assess(inches, 0)}), Contains("lb·in") && Contains("in/s"));
}

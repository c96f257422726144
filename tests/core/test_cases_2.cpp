// The second collection of project files that gave a wrong number or verdict: each with what it must give. Values are
// worked by hand or by brute force, independently of the program; where a file holds two axes that must agree, they do.
#include "core/files/shelf_report.h"
#include "core/match/candidates.h"
#include "core/report/curve_report.h"
#include "tests/demo.h"

#include <map>
#include <numeric>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

ProjectRead opened(const std::string& folder, const std::string& name) {
    auto r = read_project(file_text("tests/cases/" + folder + "/" + name + ".fulmox"));
    REQUIRE(r);
    return std::move(*r);
}

Assessment of(const std::string& folder, const std::string& name, std::size_t axis = 0) {
    return assess(opened(folder, name).machine, axis);
}

double figure(const Assessment& a, const char* key) {
    INFO(key);
    REQUIRE(a.figure(key));
    return a.figure(key)->si;
}

} // namespace

TEST_CASE("one value that is emptied never turns a limit that is over into one that fits") {
    struct Pair {
        const char *name, *limit, *missing;
    };
    for (const Pair& p : {Pair{"U1-misalignment", "coupling_alignment", "angular allowance"},
             Pair{"U2-smallest-bore", "coupling_range", "smallest bore"},
             Pair{"U3-motor-shaft", "coupling_bores", "shaft of the motor"},
             Pair{"U4-drive-continuous", "drive_current", "continuous current"},
             Pair{"U5-second-brake", "brake_energy", "takes in a stop"},
             Pair{"U6-resistance", "peak_torque", "resistance"}}) {
        INFO(p.name);
        const Assessment known = of("unknown-fits", std::string(p.name) + "-known"),
                         emptied = of("unknown-fits", p.name);
        REQUIRE(known.limit(p.limit));
        CHECK(known.limit(p.limit)->state == LimitState::over);
        const Limit* l = emptied.limit(p.limit);
        REQUIRE(l);
        INFO(l->reason.in(UnitSystem::si));
        CHECK((l->state == LimitState::cannot_say || l->state == LimitState::over));
        if (l->state == LimitState::cannot_say) {
            CHECK_THAT(l->reason.in(UnitSystem::si), Contains(p.missing));
            CHECK(!l->missing.empty());
        }
    }
    const Assessment peak = of("unknown-fits", "U4b-drive-peak");
    for (const char* key : {"drive_current", "peak_torque"}) {
        INFO(key);
        REQUIRE(peak.limit(key));
        CHECK((peak.limit(key)->state == LimitState::cannot_say || peak.limit(key)->state == LimitState::over));
    }
}

TEST_CASE("parts without ratings are unknown and come after all that are known to be suitable") {
    const Machine m = demo();
    struct List {
        const char *file, *kind;
        std::size_t axis;
    };
    for (const List& list : {List{"U7-c1.csv", "coupling", 0}, List{"U7-c2.csv", "coupling", 0},
             List{"U7-b1.csv", "brake", 0}, List{"U7-d1.csv", "drive", 1}, List{"U7-g1.csv", "gearhead", 1}}) {
        INFO(list.file);
        const auto read =
            read_any_parts(file_text(std::string("tests/cases/unknown-fits/") + list.file), list.file, "");
        REQUIRE(read);
        const PartKind& kind = part_kind(list.kind);
        std::vector<std::size_t> which(kind.own(const_cast<PartLists&>(read->parts)).size());
        REQUIRE(!which.empty());
        std::iota(which.begin(), which.end(), std::size_t{0});
        const std::vector<Candidate> judged = judge_parts(m, list.axis, kind, 0, read->parts, which);
        std::vector<double> prices;
        for (const std::size_t i : which) prices.push_back(kind.price(read->parts, i).si);
        std::size_t unknown = 0;
        for (const Candidate& c : judged) {
            INFO(c.limit << ": " << c.reason.in(UnitSystem::si));
            unknown += c.state == LimitState::cannot_say;
            CHECK((c.state == LimitState::cannot_say) == !c.missing.empty());
        }
        CHECK(unknown > 0);
        CHECK(count(judged).unknown == unknown);
        // suitable, then unknown, then over
        const auto group = [&](std::size_t i) {
            return carries(judged[i].state) ? 0 : judged[i].state == LimitState::cannot_say ? 1 : 2;
        };
        const std::vector<std::size_t> order = cheapest_first(prices, judged);
        for (std::size_t i = 1; i < order.size(); ++i) CHECK(group(order[i - 1]) <= group(order[i]));
    }
}

TEST_CASE("an accepted unknown hinders nothing, and stays unknown") {
    Machine m = opened("unknown-fits", "U5-second-brake").machine;
    const Assessment was = assess(m, 0);
    for (const Limit& l : was.limits)
        for (const Missing& missing : l.missing)
            if (!m.axes[0].accepts(missing.path))
                m.axes[0].accepted.push_back({missing.path, "measured on the machine", {}});
    const Assessment now = assess(m, 0);
    const Limit* l = now.limit("brake_energy");
    REQUIRE(l);
    CHECK(l->state == LimitState::cannot_say);
    CHECK(l->accepted);
    CHECK(was.unknown() == (count(was.limits).over == 0));
    CHECK(!now.unknown());
    // one more that is missing is not accepted with it
    m.axes[0].accepted.pop_back();
    CHECK(count(assess(m, 0).limits).accepted < count(now.limits).cannot_say);
}

TEST_CASE("the drive's own loss is fed by what the motor gives back at that instant") {
    const Assessment a = of("wrong-numbers-2", "E1-energy-drive-loss", 1);
    const ProjectRead r = opened("wrong-numbers-2", "E1-energy-drive-loss");
    for (std::size_t i = 0; i < r.machine.axes.size(); ++i) {
        if (r.machine.axes[i].name != "drive loss 10 W") continue;
        const Assessment is = assess(r.machine, i);
        CHECK(figure(is, "energy.mains") == Approx(44.4402).epsilon(2e-6));
        CHECK(figure(is, "energy.year") / 3.6e6 == Approx(88.880).epsilon(1e-5));
        CHECK(figure(is, "energy.cost") == Approx(24.887).epsilon(5e-5));
    }
}

TEST_CASE("an open-loop stepper lags under its load, and the budget says so") {
    const Assessment a = of("wrong-numbers-2", "E2-precision-stepper-lag");
    REQUIRE(a.precision);
    const auto lag = std::find_if(a.precision->terms.begin(), a.precision->terms.end(),
        [](const ErrorTerm& t) { return t.key == "stepper_lag"; });
    REQUIRE(lag != a.precision->terms.end());
    CHECK(lag->error == Approx(9.834e-6).epsilon(1e-4));
    CHECK(a.limit("precision")->state == LimitState::over);
    CHECK(a.limit("precision")->used == Approx(13.29e-6).epsilon(5e-4));
}

TEST_CASE("a warm screw grows from its fixed bearing to the nut at its far end") {
    ProjectRead r = opened("wrong-numbers-2", "E3-growth-of-screw");
    const auto growth = [&] {
        const Assessment a = assess(r.machine, 0);
        for (const ErrorTerm& t : a.precision->terms)
            if (t.key == "thermal_growth") return std::pair(t.error, a.limit("precision")->state);
        return std::pair(0.0, LimitState::cannot_say);
    };
    CHECK(growth().first == Approx(58.032e-6)); // 11.7 µm/(m K) · 8 K · 0.62 m
    CHECK(growth().second == LimitState::over);
    std::get<Screw>(r.machine.axes[0].mechanism).growth_from = GrowthFrom::reference;
    CHECK(growth().first == Approx(42.12e-6)); // 0.45 m of stroke
}

TEST_CASE("a winding's temperature rests on no rating, and the continuous torque follows from it") {
    const Assessment a = of("wrong-numbers-2", "E4-no-rating"), rated = of("wrong-numbers-2", "E4-any-rating");
    CHECK(!has_errors(a.problems));
    CHECK(figure(a, "heat.winding_mean") - 273.15 == Approx(152.01).epsilon(1e-4));
    CHECK(figure(a, "heat.winding_mean") == Approx(figure(rated, "heat.winding_mean")).epsilon(1e-9));
    CHECK(figure(a, "motor.continuous_stall") == Approx(4.0219).epsilon(2e-5));
    ProjectRead r = opened("wrong-numbers-2", "E4-no-rating");
    r.machine.axes[0].motor.thermal_resistance = {};
    const Assessment none = assess(r.machine, 0);
    CHECK(std::any_of(none.problems.begin(), none.problems.end(), [](const Problem& p) {
        return p.severity == Severity::error &&
               p.message.find("standstill or rated torque is enough") != std::string::npos;
    }));
}

TEST_CASE("a reserve that is not given is 0.95 wherever it is asked for") {
    ProjectRead r = opened("wrong-numbers-2", "E5-reserve");
    Drive drive = r.machine.axes[0].drive;
    drive.modulation_reserve = {};
    CHECK(motor_conditions(r.machine.axes[0].motor, drive, r.machine.site).reserve == 0.95);
    CHECK(motor_conditions(r.machine.axes[0].motor, Drive{}, r.machine.site).reserve == 0.95);
}

TEST_CASE(
    "a continuous curve that is lower at standstill promises no more than is proven, and less of it is no better") {
    for (const char* name : {"E8-rising-continuous-curve", "E8b-rising-continuous-curve-30kg"}) {
        ProjectRead r = opened("wrong-numbers-2", name);
        const Assessment a = assess(r.machine, 0);
        REQUIRE(a.motor);
        const auto use = [&] { return assess(r.machine, 0).limit("continuous_loss")->utilisation(); };
        double most = 0;
        for (const CurvePoint& p : r.machine.axes[0].motor.continuous) most = std::max(most, p.torque.si);
        const double before = use();
        CHECK(before >= a.demand->rms_torque / most);
        // less of the whole curve is no better; nor less torque at any point of straight lines. A smooth curve may rise
        // beside a point that falls.
        const auto points = r.machine.axes[0].motor.continuous;
        const std::vector<CurvePoint> few{points[0], points[1], points.back()};
        r.machine.axes[0].motor.continuous = few;
        const double by_lines = use();
        for (std::size_t i = 0; i < few.size(); ++i) {
            r.machine.axes[0].motor.continuous = few;
            r.machine.axes[0].motor.continuous[i].torque.si *= 0.95;
            INFO(name << " point " << i);
            CHECK(use() >= by_lines * (1 - 1e-12));
        }
        r.machine.axes[0].motor.continuous = points;
        for (CurvePoint& p : r.machine.axes[0].motor.continuous) p.torque.si *= 0.95;
        CHECK(use() == Approx(before / 0.95).epsilon(1e-9));
    }
}

TEST_CASE("an emergency stop through a locking thread tries every friction of the cycle") {
    const ProjectRead r = opened("wrong-numbers-2", "E9-emergency-middle-friction");
    std::map<std::string, double> torque;
    for (std::size_t i = 0; i < r.machine.axes.size(); ++i)
        torque[r.machine.axes[i].name] = figure(assess(r.machine, i), "demand.emergency_torque");
    CHECK(torque.at("friction 1 only") == Approx(0.184907).epsilon(5e-6));
    CHECK(torque.at("friction 0, 1, 2") == Approx(torque.at("friction 1 only")).epsilon(1e-9));
}

TEST_CASE("the best ratio does not depend on the stage that is there, credited friction or not") {
    const ProjectRead r = opened("wrong-numbers-2", "E10-best-ratio-credited");
    for (std::size_t i = 0; i < r.machine.axes.size(); ++i) {
        INFO(r.machine.axes[i].name);
        const Assessment a = assess(r.machine, i);
        CHECK(figure(a, "demand.best_ratio") == Approx(21.4355).epsilon(3e-5));
        CHECK(figure(a, "demand.best_ratio_rms") == Approx(0.260062).epsilon(3e-5));
    }
    // the axis with that ideal stage shows that torque
    CHECK(figure(assess(r.machine, 3), "demand.rms_torque") == Approx(0.260062).epsilon(1e-5));
}

TEST_CASE("what is credited at rest is the friction in force") {
    const ProjectRead r = opened("wrong-numbers-2", "E11-credit-ignores-friction-factor");
    const std::map<std::string, double> holds{{"factor 1", 0.76133}, {"factor 0.5", 1.36133}, {"factor 0", 1.96133},
        {"factor 0, not credited", 1.96133}}; // (98.0665 − 60 f) · 0.02 N·m
    for (std::size_t i = 0; i < r.machine.axes.size(); ++i) {
        INFO(r.machine.axes[i].name);
        CHECK(figure(assess(r.machine, i), "demand.holding_torque") ==
              Approx(holds.at(r.machine.axes[i].name)).epsilon(1e-6));
    }
}

TEST_CASE("an emergency stop is looked at beside dead centres and where a short rod swings through") {
    CHECK(figure(of("wrong-numbers-2", "E12-emergency-force-at-edges", 0), "demand.axial_force") ==
          Approx(513.118).epsilon(2e-6));
    CHECK(figure(of("wrong-numbers-2", "E12-emergency-force-at-edges", 1), "demand.axial_force") ==
          Approx(811.1565).epsilon(2e-6));
}

TEST_CASE("a small summit of power beside a valley is found") {
    CHECK(figure(of("wrong-numbers-2", "E13-peak-power-small-hump"), "demand.peak_power") ==
          Approx(0.729141).epsilon(2e-6));
}

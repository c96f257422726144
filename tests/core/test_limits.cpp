#include "core/match/headroom.h"
#include "tests/demo.h"

#include <cmath>
#include <cstring>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

const Limit& limit(const Assessment& a, const char* key) {
    const Limit* l = a.limit(key);
    REQUIRE(l);
    return *l;
}

} // namespace

TEST_CASE("states follow used, allowed and share") {
    Limit l;
    l.allowed = 10;
    l.share = 0.5;
    l.used = 5;
    judge(l);
    CHECK(l.state == LimitState::fits);
    l.used = 5.1;
    judge(l);
    CHECK(l.state == LimitState::tight);
    l.used = 10.1;
    judge(l);
    CHECK(l.state == LimitState::over);
    l.used = NAN;
    judge(l);
    CHECK(l.state == LimitState::cannot_say);
    l.used = 1;
    l.share = NAN;
    judge(l);
    CHECK(l.state == LimitState::cannot_say);
    l.share = 1;
    l.allowed = 0;
    judge(l);
    CHECK(l.state == LimitState::over);
    CHECK(std::isinf(l.utilisation()));
}

TEST_CASE("the demo is judged on every limit of this version") {
    const Assessment a = assess(demo(), 0);
    std::set<std::string> keys;
    for (const Limit& l : a.limits) {
        keys.insert(l.key);
        INFO(l.key);
        CHECK(!l.label.empty());
        CHECK(!l.reason.empty());
        CHECK(!l.source.empty());
        CHECK((!l.working.empty() || l.key == "coupling_range")); // two diameters, side by side
        CHECK((l.state == LimitState::fits || !l.remedy.empty()));
    }
    CHECK(keys == std::set<std::string>{"speed", "peak_torque", "continuous_loss", "continuous_point", "holding",
                      "motor_current", "voltage", "shaft", "inertia_ratio", "brake", "coupling", "critical_speed",
                      "buckling", "speed_value", "winding_temperature", "coupling_speed", "coupling_alignment",
                      "coupling_bores", "coupling_range", "brake_stop", "brake_energy", "screw_life", "screw_static"});
}

TEST_CASE("missing data is never shown as fits") {
    Machine m = demo();
    m.axes[0].motor = Motor{};
    set(m, "/mechanism/root_diameter", "");
    set(m, "/coupling/allowable_torque", "");
    const Assessment a = assess(m, 0);
    for (const char* key : {"speed", "peak_torque", "continuous_loss", "continuous_point", "holding", "inertia_ratio",
             "brake", "critical_speed", "buckling", "coupling"}) {
        INFO(key);
        CHECK(limit(a, key).state == LimitState::cannot_say);
        CHECK(!limit(a, key).reason.empty());
    }
    CHECK(a.demand); // what can be known is shown
    Machine empty;
    empty.axes.emplace_back();
    const Assessment nothing = assess(empty, 0);
    CHECK(has_errors(nothing.problems));
    for (const Limit& l : nothing.limits) CHECK(l.state == LimitState::cannot_say);
}

TEST_CASE("a vertical axis without a brake is over, a horizontal one is not asked") {
    Machine m = demo();
    set(m, "/motor/brake_torque", "");
    const Assessment a = assess(m, 0);
    CHECK(limit(a, "brake").state == LimitState::over);
    CHECK_THAT(limit(a, "brake").reason.in(UnitSystem::si), Contains("no brake"));
    bool caution = false;
    for (const Problem& p : a.problems)
        caution = caution || (p.severity == Severity::caution && p.message.find("ISO 13849-1") != std::string::npos);
    CHECK(caution);
    set(m, "/load/inclination", "0 deg");
    CHECK(!assess(m, 0).limit("brake"));
    // a counterbalance that carries the load takes the need away only where it does so for every payload
    set(m, "/load/inclination", "90 deg");
    set(m, "/load/counterweight", "35 kg");
    CHECK(assess(m, 0).limit("brake"));
}

TEST_CASE("the inertia ratio is judged by the chosen school") {
    Machine m = demo();
    CHECK(limit(assess(m, 0), "inertia_ratio").state == LimitState::fits);
    m.axes[0].policy = "Stiff start";
    CHECK(limit(assess(m, 0), "inertia_ratio").state == LimitState::over);
    m.axes[0].policy = "Direct drive";
    CHECK(!assess(m, 0).limit("inertia_ratio")); // a policy that does not judge it asks for nothing
    const Assessment a = assess(m, 0);
    CHECK(a.schools.size() == 5);
    for (const SchoolView& v : a.schools) CHECK(v.chosen == (v.policy == "Direct drive"));
}

TEST_CASE("each limit moves the way engineering says it must") {
    const auto use = [](const Machine& m, const char* key) { return limit(assess(m, 0), key).utilisation(); };
    const Machine base = demo();
    Machine heavier = base;
    set(heavier, "/load/carriage_mass", "20 kg");
    for (const char* key : {"peak_torque", "continuous_loss", "continuous_point", "holding", "inertia_ratio", "brake",
             "coupling", "buckling"}) {
        INFO(key);
        CHECK(use(heavier, key) > use(base, key));
    }
    CHECK(use(heavier, "speed") == use(base, "speed"));
    Machine faster = base;
    set(faster, "/cycle/segments/0/what/duration", "0.7 s");
    for (const char* key : {"speed", "critical_speed", "speed_value", "peak_torque"})
        CHECK(use(faster, key) > use(base, key));
    CHECK(use(faster, "holding") == use(base, "holding"));
    Machine hot = base;
    hot.site.ambient = Quantity<Kind::temperature>("60 °C");
    CHECK(use(hot, "continuous_loss") > use(base, "continuous_loss"));
    CHECK(use(hot, "holding") > use(base, "holding"));
    Machine high = base;
    high.site.altitude = Quantity<Kind::length>("2500 m");
    CHECK(use(high, "continuous_loss") > use(base, "continuous_loss"));
}

TEST_CASE("a cycle beyond the continuous curve cannot be said, not extrapolated") {
    Machine m = demo();
    m.axes[0].motor.continuous.resize(3); // ends at 3000 rpm, the cycle reaches 4800
    const Assessment a = assess(m, 0);
    CHECK(limit(a, "continuous_loss").state == LimitState::cannot_say);
    CHECK_THAT(limit(a, "continuous_loss").reason.in(UnitSystem::si), Contains("not extrapolated"));
}

TEST_CASE("headroom is true: applying it lands on the limit's share") {
    const Machine m = demo();
    int found = 0;
    for (const char* key : {"peak_torque", "continuous_loss", "inertia_ratio", "critical_speed", "speed", "brake"}) {
        for (const Headroom& h : headroom(m, 0, key)) {
            ++found;
            INFO(key << " " << h.text);
            Machine moved = m;
            Axis& a = moved.axes[0];
            if (h.key == "payload") {
                a.load.payload.si *= h.factor;
                for (Segment& s : a.cycle.segments) s.payload.si *= h.factor;
            } else if (h.key == "carriage") {
                a.load.carriage_mass.si *= h.factor;
            } else if (h.key == "lead") {
                std::get<Screw>(a.mechanism).lead.si *= h.factor;
            } else {
                continue;
            }
            const Limit l = limit(assess(moved, 0), key); // a copy: the assessment goes with the line
            CHECK(l.used / l.allowed == Approx(l.share).epsilon(1e-4));
        }
    }
    CHECK(found > 8);
    const auto slack = headroom(m, 0, "inertia_ratio");
    REQUIRE(!slack.empty());
    CHECK(slack[0].text.front() == '+');
    Machine none = m;
    none.axes[0].motor = Motor{};
    CHECK(headroom(none, 0, "peak_torque").empty());
}

TEST_CASE("the same input gives the same output bit for bit") {
    const Machine m = demo();
    const Assessment a = assess(m, 0);
    const Assessment b = assess(m, 0);
    REQUIRE(a.figures.size() == b.figures.size());
    for (std::size_t i = 0; i < a.figures.size(); ++i)
        CHECK(std::memcmp(&a.figures[i].si, &b.figures[i].si, sizeof(double)) == 0);
}

// An axis with more than one cycle: each is judged on its own, and the worst counts.
#include "core/files/project.h"
#include "tests/demo.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

std::string si(const Text& t) { return t.in(UnitSystem::si); }

Machine with_further(const char* distance, const char* duration) {
    Machine m = demo();
    Axis& axis = m.axes[0];
    Cycle& other = axis.further_cycles.emplace_back();
    other.name = "night shift";
    other.weight = Quantity<Kind::number>("3");
    MoveInTime move;
    move.distance = MotionQuantity<Order::position>(distance);
    move.duration = Quantity<Kind::time>(duration);
    other.segments.emplace_back().what = move;
    move.distance = MotionQuantity<Order::position>("-" + std::string(distance));
    other.segments.emplace_back().what = move;
    return m;
}

Machine alone(Machine m) {
    m.axes[0].cycle = m.axes[0].further_cycles.at(0);
    m.axes[0].further_cycles.clear();
    return m;
}

} // namespace

TEST_CASE("limits keep the worst of all cycles, figures are those of the first") {
    const Machine m = with_further("300 mm", "0.5 s");
    const Assessment first = assess(demo(), 0), second = assess(alone(m), 0), both = assess(m, 0);
    REQUIRE(both.limits.size() == first.limits.size());
    int from_second = 0;
    for (const Limit& l : both.limits) {
        INFO(l.key);
        const double a = first.limit(l.key)->utilisation(), b = second.limit(l.key)->utilisation();
        CHECK(l.utilisation() == std::max(a, b));
        const bool said = si(l.reason).find("(night shift)") != std::string::npos;
        CHECK(said == (b > a));
        from_second += said;
    }
    CHECK(from_second >= 3);
    CHECK(from_second < static_cast<int>(both.limits.size()));
    REQUIRE(both.figures.size() == first.figures.size());
    for (std::size_t i = 0; i < both.figures.size(); ++i) CHECK(both.figures[i].si == first.figures[i].si);
    CHECK(has_errors(both.problems) == false);
    // the heavier payload of a further cycle is what the ratio is of, and it says so
    Machine heavy = m;
    heavy.axes[0].further_cycles[0].segments[0].payload = Quantity<Kind::mass>("60 kg");
    const Assessment loaded = assess(heavy, 0);
    CHECK(loaded.limit("inertia_ratio")->used > first.limit("inertia_ratio")->used);
    CHECK_THAT(si(loaded.limit("inertia_ratio")->reason), Contains("(night shift)"));
    // the order of the cycles changes no verdict
    Machine turned = m;
    std::swap(turned.axes[0].cycle, turned.axes[0].further_cycles[0]);
    for (const Limit& l : assess(turned, 0).limits) CHECK(l.utilisation() == both.limit(l.key)->utilisation());
}

TEST_CASE("what cannot be said of one cycle cannot be said of the axis") {
    Machine m = with_further("300 mm", "0.5 s");
    std::get<MoveInTime>(m.axes[0].further_cycles[0].segments[1].what).distance = {};
    const Assessment a = assess(m, 0), first = assess(demo(), 0);
    CHECK(!a.fits());
    CHECK(a.limit("peak_torque")->state == LimitState::cannot_say);
    CHECK_THAT(
        si(a.limit("peak_torque")->reason), Contains("waits for: Distance, segment 2") && Contains("night shift"));
    CHECK(a.limit("inertia_ratio")->state == first.limit("inertia_ratio")->state); // no cycle is needed for it
    CHECK(a.figure("demand.rms_torque")->si == first.figure("demand.rms_torque")->si);
    bool listed = false;
    for (const Problem& p : a.problems)
        if (p.path == "/axes/0/further_cycles/0/segments/1/what/distance") {
            listed = true;
            CHECK(field_and_place(p.field, p.path) == "Distance, segment 2, further cycle 1");
        }
    CHECK(listed);
    // what is over by the first stays over
    m.axes[0].motor.max_speed = Quantity<Kind::angular_speed>("4000 rpm");
    CHECK(assess(m, 0).limit("speed")->state == LimitState::over);
}

TEST_CASE("further cycles are kept in the file, and one that cannot be read silences what needs a cycle") {
    const Machine m = with_further("300 mm", "0.5 s");
    std::string text = write_project(m);
    const auto again = read_project(text);
    REQUIRE(again);
    CHECK(again->problems.empty());
    CHECK(again->machine.axes[0].further_cycles.size() == 1);
    CHECK(again->machine.axes[0].further_cycles[0].weight.si == 3);
    CHECK(write_project(again->machine) == text);
    const std::size_t at = text.find("\"further_cycles\": [") + 19;
    for (const char* entry : {"5, ", "{\"segments\": 7}, "}) {
        std::string bent = text;
        bent.insert(at, entry);
        const auto read = read_project(bent);
        REQUIRE(read);
        CHECK(read->read_only);
        const Assessment a = assess(read->machine, 0);
        CHECK(!a.fits());
        CHECK(a.limit("peak_torque")->state == LimitState::cannot_say);
        CHECK(a.figure("motion.cycle_time")->si == assess(demo(), 0).figure("motion.cycle_time")->si);
    }
}

// What a part begins with follows its kind; what somebody typed stays and is pointed out.
#include "core/match/assess.h"
#include "core/match/candidates.h"
#include "core/match/limits.h"
#include "core/model/usual.h"
#include "core/model/walk.h"
#include "tests/demo.h"
#include "tests/mechanisms.h"

#include <cctype>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Machine with_screw(Thread thread, const char* friction) {
    Machine m = demo();
    m.axes.resize(1);
    auto& screw = std::get<Screw>(m.axes[0].mechanism);
    screw.thread = thread;
    screw.efficiency = {};
    screw.thread_friction = Quantity<Kind::number>(friction);
    return m;
}

const Problem* flagged(const Machine& m, const std::string& path, Problems& all) {
    all = check_quantities(m.axes[0], "/axes/0");
    for (const Problem& p : all)
        if (p.path == path) return &p;
    return nullptr;
}

} // namespace

TEST_CASE("a thread that becomes another takes its usual friction, unless another was typed") {
    const Machine ball = with_screw(Thread::ball, "0.005");
    Machine slides = ball;
    std::get<Screw>(slides.axes[0].mechanism).thread = Thread::trapezoidal;
    follow_kinds(slides, ball);
    CHECK(std::get<Screw>(slides.axes[0].mechanism).thread_friction.text == "0.12");
    Machine back = slides;
    std::get<Screw>(back.axes[0].mechanism).thread = Thread::ball;
    follow_kinds(back, slides);
    CHECK(std::get<Screw>(back.axes[0].mechanism).thread_friction.text == "0.005");
    // typed: stays, and is pointed out where no such thread has it
    const Machine typed = with_screw(Thread::ball, "0.009");
    Machine kept = typed;
    std::get<Screw>(kept.axes[0].mechanism).thread = Thread::trapezoidal;
    follow_kinds(kept, typed);
    CHECK(std::get<Screw>(kept.axes[0].mechanism).thread_friction.text == "0.009");
    Problems all;
    const Problem* p = flagged(kept, "/axes/0/mechanism/thread_friction", all);
    REQUIRE(p);
    CHECK(p->severity == Severity::suspicious);
    CHECK(p->message.find("0.03") != std::string::npos);
    CHECK(!flagged(typed, "/axes/0/mechanism/thread_friction", all));
}

TEST_CASE("a stage that becomes a worm or strain wave gear takes an efficiency of its kind") {
    Machine before = demo();
    before.axes.resize(1);
    before.axes[0].stages.resize(2);
    before.axes[0].stages[1].efficiency = Quantity<Kind::number>("0.9");
    Machine now = before;
    for (Stage& s : now.axes[0].stages) s.kind = StageKind::worm;
    before.axes[0].stages[0].kind = before.axes[0].stages[1].kind = StageKind::planetary;
    before.axes[0].stages[0].efficiency = now.axes[0].stages[0].efficiency =
        Quantity<Kind::number>(usual_efficiency(StageKind::planetary));
    follow_kinds(now, before);
    CHECK(now.axes[0].stages[0].efficiency.text == usual_efficiency(StageKind::worm));
    CHECK(now.axes[0].stages[1].efficiency.text == "0.9");
    // what a kind begins with is never unusual for it
    for (int kind = 0; kind < static_cast<int>(std::size(Stage::kinds)); ++kind) {
        Machine m = before;
        m.axes[0].stages[0].kind = static_cast<StageKind>(kind);
        m.axes[0].stages[0].efficiency = Quantity<Kind::number>(usual_efficiency(static_cast<StageKind>(kind)));
        Problems all;
        CHECK(!flagged(m, "/axes/0/stages/0/efficiency", all));
    }
}

TEST_CASE("a candidate whose tightest limit is a yes or no has no share of it") {
    Machine m = demo();
    m.axes.resize(1);
    PartLists parts;
    Coupling narrow = m.axes[0].coupling;
    narrow.largest_bore = Quantity<Kind::length>("0.05 mm"); // no shaft is so thin
    narrow.smallest_bore = Quantity<Kind::length>("0.04 mm");
    narrow.driving_bore = narrow.driven_bore = {};
    parts.couplings.push_back(narrow);
    const auto judged = judge_parts(m, 0, part_kind("coupling"), 0, parts, {0});
    REQUIRE(judged.size() == 1);
    CHECK(judged[0].state == LimitState::over);
    REQUIRE(limit_row(judged[0].key)->yes_or_no);
    CHECK(std::isnan(judged[0].tightest));
    CHECK(!judged[0].reason.in(UnitSystem::si).empty());
}

TEST_CASE("what would bring a limit back belongs to the mechanism") {
    int over = 0;
    for (const Option& kind : mechanism_kinds()) {
        Machine m = machine_with(kind.key);
        m.axes.resize(1);
        Axis& axis = m.axes[0];
        axis.load.payload = Quantity<Kind::mass>("4000 kg");
        axis.motor.max_speed = Quantity<Kind::angular_speed>("20 rpm");
        for (const Limit& l : assess(m, 0).limits) {
            const std::string remedy = l.remedy.in(UnitSystem::si);
            if (remedy.empty()) continue;
            ++over;
            INFO(kind.key << ", " << l.key << ": " << remedy);
            const auto says = [&](const char* word) { return remedy.find(word) != std::string::npos; };
            if (!std::holds_alternative<Screw>(axis.mechanism)) {
                CHECK(!says("lead"));
                CHECK(!says("crew"));
            }
            if (!std::holds_alternative<BeltDrive>(axis.mechanism) && !std::holds_alternative<Conveyor>(axis.mechanism))
                CHECK(!says("pulley"));
            CHECK(remedy.back() == '.');
            CHECK(!std::islower(static_cast<unsigned char>(remedy.front())));
        }
    }
    CHECK(over > 20);
}

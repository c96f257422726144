// An emergency stop under a torque limit, and remedies that bring back what they are proposed for.
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/match/limits.h"
#include "core/match/remedy.h"
#include "core/model/walk.h"
#include "tests/catch.h"
#include "tests/demo.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <iterator>

using namespace fulmox;
using fulmox::testing::demo;

namespace {

constexpr std::size_t lift = 0, wiper = 3;

Assessment stopped_in(const char* time, const char* torque, std::size_t axis = lift) {
    Machine m = demo();
    m.axes[axis].drive.stop_time = Quantity<Kind::time>(time);
    m.axes[axis].drive.torque_limit = *torque ? Quantity<Kind::torque>(torque) : Quantity<Kind::torque>();
    return assess(m, axis);
}

std::string text_of(const std::filesystem::path& file) {
    std::ifstream in(file);
    return {std::istreambuf_iterator<char>(in), {}};
}

Machine with_changes(Machine m, std::size_t axis, const Remedy& r) {
    for (const Change& c : r.changes) {
        auto field = find_field(m, "/axes/" + std::to_string(axis) + c.path);
        REQUIRE(field);
        if (c.text.empty())
            *field->quantity = {};
        else
            REQUIRE(!assign(*field, c.text));
    }
    return m;
}

} // namespace

TEST_CASE("with a torque limit an emergency stop takes what time it takes") {
    // the torque of a stop of the lift is a + b/t: two stops without a limit tell both
    const double t1 = 0.1, t2 = 0.2;
    const double T1 = stopped_in("0.1 s", "").demand->emergency_torque,
                 T2 = stopped_in("0.2 s", "").demand->emergency_torque;
    const double b = (T1 - T2) / (1 / t1 - 1 / t2), a = T1 - b / t1;
    const Assessment limited = stopped_in("0.1 s", "1.2 N·m");
    REQUIRE(1.2 < T1);
    CHECK(limited.demand->stop_asked == 0.1);
    CHECK(limited.demand->stop_time == Approx(b / (1.2 - a)).epsilon(1e-9));
    CHECK(limited.demand->emergency_torque == Approx(1.2).epsilon(1e-9));
    CHECK(!limited.demand->stops_in_time);
    REQUIRE(limited.figure("demand.stop_time"));
    CHECK(limited.figure("demand.stop_time")->si == limited.demand->stop_time);
    // what the parts carry in it is of that time
    const std::string takes = std::to_string(limited.demand->stop_time) + " s";
    const Assessment so_long = stopped_in(takes.c_str(), "");
    CHECK(limited.demand->coupling_emergency == Approx(so_long.demand->coupling_emergency).epsilon(1e-5));
    CHECK(limited.demand->axial_emergency == Approx(so_long.demand->axial_emergency).epsilon(1e-5));
    // and is judged against what is asked
    const Limit* row = limited.limit("drive_stop");
    REQUIRE(row);
    CHECK(row->state == LimitState::over);
    CHECK(row->used == Approx(T1).epsilon(1e-9));
    CHECK(row->allowed == Approx(1.2));
    CHECK_THAT(row->reason.in(UnitSystem::si), Catch::Matchers::Contains("with that it takes"));
    // enough for it: nothing changes
    const Assessment enough = stopped_in("0.2 s", "1.2 N·m"), free = stopped_in("0.2 s", "");
    CHECK(enough.limit("drive_stop")->state != LimitState::over);
    CHECK(enough.demand->stop_time == 0.2);
    CHECK(enough.demand->emergency_torque == free.demand->emergency_torque);
    CHECK(!free.limit("drive_stop"));
    CHECK(!free.figure("demand.stop_time"));
    // less than what holds the load never stops it
    const Assessment never = stopped_in("0.2 s", "0.3 N·m");
    CHECK(never.limit("drive_stop")->state == LimitState::over);
    CHECK_THAT(never.limit("drive_stop")->reason.in(UnitSystem::si), Catch::Matchers::Contains("never stops"));
    CHECK(std::isnan(never.figure("demand.stop_time")->si));
    CHECK(never.demand->emergency_torque == free.demand->emergency_torque);
}

TEST_CASE("a stop that depends on the place takes the shortest time that its torque allows") {
    const Assessment limited = stopped_in("0.03 s", "0.8 N·m", wiper);
    CHECK(limited.demand->emergency_torque <= 0.8 * (1 + 1e-9));
    CHECK(limited.demand->emergency_torque == Approx(0.8).epsilon(1e-6));
    // a little less is not enough
    const std::string less = std::to_string(limited.demand->stop_time * 0.999) + " s";
    CHECK(stopped_in(less.c_str(), "", wiper).demand->emergency_torque > 0.8);
}

TEST_CASE("without the rotor's inertia a limited stop waits for it, a free one does not") {
    Machine m = demo();
    m.axes[lift].drive.stop_time = Quantity<Kind::time>("0.1 s");
    m.axes[lift].motor.rotor_inertia = {};
    const auto state = [&](const char* key) {
        const Limit* l = assess(m, lift).limit(key);
        REQUIRE(l);
        return l->state;
    };
    CHECK(state("buckling") != LimitState::cannot_say);
    m.axes[lift].drive.torque_limit = Quantity<Kind::torque>("1.2 N·m");
    CHECK(state("buckling") == LimitState::cannot_say);
    CHECK(state("drive_stop") == LimitState::cannot_say);
}

TEST_CASE("a torque limit left over on a linear motor has no effect") {
    constexpr std::size_t shuttle = 7; // direct linear drive
    Machine m = demo();
    m.axes[shuttle].motor.rotor_inertia = {};
    const Assessment was = assess(m, shuttle);
    m.axes[shuttle].drive.torque_limit = Quantity<Kind::torque>("0.01 N·m");
    const Assessment now = assess(m, shuttle);
    REQUIRE(now.limits.size() == was.limits.size());
    for (std::size_t i = 0; i < was.limits.size(); ++i) {
        INFO(was.limits[i].key);
        CHECK(now.limits[i].state == was.limits[i].state);
    }
    CHECK(!now.figure("demand.stop_time"));
}

TEST_CASE("the edge wiper of the demo fits with a torque limit and a longer stop, proposed as a pair") {
    const Assessment now = assess(demo(), wiper);
    REQUIRE(now.limit("coupling")->state == LimitState::over);
    CHECK_THAT(
        now.limit("coupling")->remedy.in(UnitSystem::si), Catch::Matchers::Contains("a torque limit in the drive"));
    CHECK_THAT(
        now.limit("stage_emergency")->remedy.in(UnitSystem::si), Catch::Matchers::Contains("A longer emergency stop"));
    const auto pair = torque_limit_remedy(demo(), wiper, "coupling");
    REQUIRE(pair);
    INFO(pair->text.in(UnitSystem::si));
    REQUIRE(pair->changes.size() == 2);
    CHECK(pair->changes[0].path == "/drive/torque_limit");
    CHECK(pair->changes[1].path == "/drive/stop_time");
    const Assessment after = assess(with_changes(demo(), wiper, *pair), wiper);
    for (const char* key : {"coupling", "stage_emergency", "drive_stop", "peak_torque"}) {
        INFO(key);
        REQUIRE(after.limit(key));
        CHECK((after.limit(key)->state == LimitState::fits || after.limit(key)->state == LimitState::tight));
    }
    // worked by hand: 0.8 N·m and 0.04 s
    const double limit = Quantity<Kind::torque>(pair->changes[0].text).si;
    CHECK(limit >= 0.7);
    CHECK(limit <= 0.9);
    CHECK(
        assess(with_changes(demo(), wiper, {{{"/drive/torque_limit", "0.8 N·m"}, {"/drive/stop_time", "0.04 s"}}, {}}),
            wiper)
            .limit("coupling")
            ->state != LimitState::over);
    // one alone does not do
    CHECK(assess(with_changes(demo(), wiper, {{{"/drive/stop_time", "0.04 s"}}, {}}), wiper).limit("coupling")->state ==
          LimitState::over);
    CHECK(assess(with_changes(demo(), wiper, {{{"/drive/torque_limit", "0.8 N·m"}}, {}}), wiper)
              .limit("drive_stop")
              ->state == LimitState::over);
}

TEST_CASE("a remedy that names a torque limit or a longer stop brings its limit back") {
    std::vector<Machine> machines{demo()};
    for (const char* folder : {"tests/fixtures", "tests/outside/slow/kept"})
        for (const auto& e : std::filesystem::directory_iterator(std::string(FULMOX_SOURCE_DIR) + "/" + folder))
            if (e.path().extension() == ".fulmox")
                if (auto read = read_project(text_of(e.path()))) machines.push_back(read->machine);
    // the axes of the demo with couplings, gearheads and stops that are too much for them
    for (const double share : {0.05, 0.2, 0.5}) {
        Machine m = demo();
        for (Axis& a : m.axes) {
            const auto less = [&](QuantityBase& q) {
                if (q.given()) q.si *= share;
            };
            less(a.coupling.rated_torque);
            for (Stage& s : a.stages) less(s.emergency_torque);
            less(a.drive.stop_time);
        }
        machines.push_back(std::move(m));
    }
    int limits = 0, stops = 0;
    for (const Machine& m : machines)
        for (std::size_t i = 0; i < m.axes.size(); ++i) {
            const Assessment a = assess(m, i);
            for (const Limit& l : a.limits) {
                if (l.state != LimitState::over) continue;
                const std::string words = l.remedy.in(UnitSystem::si);
                INFO(m.name << ", " << m.axes[i].name << ", " << l.key << ": " << words);
                if (words.find("a torque limit") != std::string::npos) {
                    const auto found = torque_limit_remedy(m, i, l.key);
                    CHECK(found);
                    if (!found) continue;
                    CHECK(assess(with_changes(m, i, *found), i).limit(l.key)->state != LimitState::over);
                    ++limits;
                }
                if (words.find("longer emergency stop") == 2) { // "A longer emergency stop, …"
                    Machine longer = m;
                    longer.axes[i].drive.stop_time = Quantity<Kind::time>("20 s");
                    CHECK(assess(longer, i).limit(l.key)->state != LimitState::over);
                    ++stops;
                }
            }
        }
    CHECK(limits > 3);
    CHECK(stops > 2);
}

// How much motion one project may ask for.
#include "core/load/load_model.h"
#include "core/match/assess.h"
#include "core/match/bounds.h"
#include "core/motion/trajectory.h"
#include "tests/catch.h"
#include "tests/demo.h"
#include "tests/mechanisms.h"

#include <algorithm>
#include <numbers>
#include <random>
#include <string>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Segment repeat_of(std::size_t segments, int times) {
    Repeat r;
    r.segments = Quantity<Kind::number>(std::to_string(segments));
    r.times = Quantity<Kind::number>(std::to_string(times));
    Segment s;
    s.what = r;
    return s;
}

// What the cycle takes of what one may, by planning all of it: slow, and no code of the bounds.
double share_by_planning(const Machine& m, const Axis& axis, const Cycle& cycle) {
    const Motion kind = motion_of(axis.mechanism);
    const Plan whole = plan(cycle, kind);
    if (has_errors(whole.problems)) return 2; // too long by itself
    const Trajectory& t = whole.motion;
    double share = 0;
    const bool again = std::any_of(cycle.segments.begin(), cycle.segments.end(),
        [](const Segment& s) { return std::holds_alternative<Repeat>(s.what); });
    const double fills = std::holds_alternative<Winder>(axis.mechanism) ? 5 : 1;
    if (again) share = fills * static_cast<double>(t.pieces.size()) / 100'000;
    if (kind.rotary && load_model(m, axis).position_dependent()) {
        double turned = 0; // where the speed changes
        for (const Piece& p : t.pieces)
            if (std::abs(p.velocity(0) - p.velocity(p.duration / 2)) > 1e-9 * std::abs(p.velocity(p.duration / 2)))
                turned += std::abs(p.position(p.duration) - p.position(0));
        share = std::max(share, turned / (2 * std::numbers::pi) / 10'000);
    }
    return share;
}

std::vector<std::vector<bool>> by_planning(const Machine& m) {
    std::vector<std::vector<bool>> out;
    std::vector<std::tuple<double, std::size_t, std::size_t>> shares;
    for (std::size_t a = 0; a < m.axes.size(); ++a) {
        const Axis& axis = m.axes[a];
        out.emplace_back(1 + axis.further_cycles.size(), false);
        for (std::size_t c = 0; c <= axis.further_cycles.size(); ++c)
            shares.emplace_back(share_by_planning(m, axis, c == 0 ? axis.cycle : axis.further_cycles[c - 1]), a, c);
    }
    std::sort(shares.begin(), shares.end());
    double sum = 0;
    for (const auto& [share, a, c] : shares)
        if (share <= 1 && (sum += share) > 1) out[a][c] = true;
    return out;
}

} // namespace

TEST_CASE("the cycles of a project share the bounds of one, the shortest first, as planning all of them says") {
    std::mt19937 random(20261130);
    const auto below = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    const Machine cell = demo();
    int refused = 0, taken = 0;
    for (int trial = 0; trial < 60; ++trial) {
        Machine m = cell;
        m.axes.resize(static_cast<std::size_t>(2 + below(6)));
        for (std::size_t a = 0; a < m.axes.size(); ++a) {
            Axis& axis = m.axes[a];
            axis = cell.axes[static_cast<std::size_t>(below(static_cast<int>(cell.axes.size())))];
            const Cycle once = axis.cycle;
            axis.further_cycles.assign(static_cast<std::size_t>(below(3)), once);
            for (std::size_t c = 0; c <= axis.further_cycles.size(); ++c) {
                Cycle& cycle = c == 0 ? axis.cycle : axis.further_cycles[c - 1];
                const auto all = cycle.segments.size();
                // repeats of repeats too
                if (below(2) == 0) cycle.segments.push_back(repeat_of(all, 2 + below(8)));
                if (below(3) > 0) cycle.segments.push_back(repeat_of(cycle.segments.size(), 2 + below(900)));
            }
        }
        INFO("trial " << trial);
        const auto expected = by_planning(m);
        CHECK(too_long(m) == expected);
        for (std::size_t a = 0; a < m.axes.size(); ++a) {
            CHECK(too_long(m, m.axes[a], "/axes/" + std::to_string(a)) == expected[a]);
            for (const bool each : expected[a]) ++(each ? refused : taken);
        }
    }
    CHECK(refused > 20);
    CHECK(taken > 60);
}

TEST_CASE("a cycle that is too long beside the others says so, and the others are calculated as they are alone") {
    Machine m = demo();
    m.axes.resize(3);
    const Assessment alone = assess(m, 2);
    // alone each of the two is within the bounds
    for (const std::size_t a : {std::size_t{1}, std::size_t{0}}) {
        Axis& axis = m.axes[a];
        const std::size_t pieces = assess(demo(), a).motion->pieces.size();
        axis.cycle.segments.push_back(
            repeat_of(axis.cycle.segments.size(), static_cast<int>((a == 1 ? 80'000 : 60'000) / pieces)));
    }
    CHECK(too_long(m) == std::vector<std::vector<bool>>{{false}, {true}, {false}});
    const Assessment long_one = assess(m, 1), short_one = assess(m, 0);
    REQUIRE(has_errors(long_one.problems));
    const auto said = std::find_if(long_one.problems.begin(), long_one.problems.end(),
        [](const Problem& p) { return p.path == "/axes/1/cycle/segments"; });
    REQUIRE(said != long_one.problems.end());
    CHECK(said->message == too_long_together());
    CHECK(!long_one.demand);
    CHECK(long_one.limit("peak_torque")->state == LimitState::cannot_say);
    CHECK(!long_one.fits());
    REQUIRE(short_one.demand);
    CHECK(!has_errors(short_one.problems));
    // who counted all of them already hands the count in
    const auto counted = too_long(m);
    for (std::size_t a = 0; a < m.axes.size(); ++a) {
        const Assessment with = assess(m, a, {.beyond = &counted[a]});
        CHECK(with.problems == assess(m, a).problems);
        CHECK(with.demand.has_value() == !counted[a].front());
    }
    const Assessment again = assess(m, 2);
    CHECK(again.demand->rms_torque == alone.demand->rms_torque);
    // a candidate for the axis, which stands at no place of its own, counts in place of the axis
    CHECK(too_long(m, m.axes[1], "/axes/1") == std::vector<bool>{true});
    CHECK(too_long(m, m.axes[1], "") == std::vector<bool>{false});
    // and without the other there is room
    m.axes[0] = demo().axes[0];
    CHECK(assess(m, 1).demand);
}

// Which input counts, and what every law would make of a move.
#include "core/match/sensitivity.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <map>
#include <rapidcheck.h>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

const Influence* of(const std::vector<Influence>& all, const std::string& path) {
    for (const Influence& i : all)
        if (i.path == path) return &i;
    return nullptr;
}

// A lift without friction or losses at constant load, whose peak torque is (m (g + a) r + J α) by hand.
Machine bare_lift() {
    Machine m = demo();
    for (const auto& [path, text] : std::vector<std::pair<const char*, const char*>>{{"/load/inclination", "90 deg"},
             {"/load/carriage_mass", "0 kg"}, {"/load/payload", "40 kg"}, {"/load/guide_friction", "0"},
             {"/load/seal_drag", ""}, {"/load/counterbalance", ""}, {"/mechanism/preload_drag", ""},
             {"/mechanism/bearing_drag", ""}, {"/mechanism/efficiency", "1"}, {"/mechanism/efficiency_back", "1"}})
        set(m, path, text);
    m.axes[0].coupling = Coupling{};
    m.axes[0].motor = Motor{};
    m.axes[0].cycle.segments.clear();
    for (const char* distance : {"300 mm", "-300 mm"}) {
        Segment s;
        MoveInTime move;
        move.distance = MotionQuantity<Order::position>(distance);
        move.duration = Quantity<Kind::time>("600 ms");
        move.law = Law::trapezoid; // without a stretch of constant speed: 4 s/t²
        move.acceleration_share = move.deceleration_share = Quantity<Kind::number>("1/2");
        move.rounding = Quantity<Kind::number>("0");
        s.what = move;
        m.axes[0].cycle.segments.push_back(s);
    }
    return m;
}

} // namespace

TEST_CASE("a tenth of the payload moves the torque of a lift by what the formula says") {
    const Machine m = bare_lift();
    const auto& screw = std::get<Screw>(m.axes[0].mechanism);
    const double r = screw.lead.si / (2 * M_PI), a = 4 * 0.3 / 0.36, g = m.site.gravity.si;
    const double d = screw.root_diameter.given() ? (screw.diameter.si + screw.root_diameter.si) / 2 : screw.diameter.si;
    const double j = screw.density.si * M_PI * std::pow(d, 4) / 32 * screw.length.si;
    const auto peak = [&](double payload, double gravity, double lead) {
        return payload * (gravity + a) * lead / (2 * M_PI) + j * a / (lead / (2 * M_PI));
    };
    const auto all = influences(m, 0, Measure::peak_torque);
    REQUIRE(!all.empty());
    const Influence* payload = of(all, "/axes/0/load/payload");
    REQUIRE(payload);
    CHECK(payload->label == "Payload");
    CHECK(payload->moved == "± 10 %");
    CHECK(payload->low == Approx(peak(36, g, screw.lead.si)).epsilon(1e-9));
    CHECK(payload->high == Approx(peak(44, g, screw.lead.si)).epsilon(1e-9));
    CHECK(payload->swing() == Approx(8 * (g + a) * r).epsilon(1e-9));
    const Influence* gravity = of(all, "/site/gravity");
    REQUIRE(gravity);
    CHECK(gravity->high == Approx(peak(40, 1.1 * g, screw.lead.si)).epsilon(1e-9));
    const Influence* lead = of(all, "/axes/0/mechanism/lead");
    REQUIRE(lead);
    CHECK(lead->low == Approx(peak(40, g, 0.9 * screw.lead.si)).epsilon(1e-9));
    // the largest swing comes first, and nothing that changes nothing is listed
    for (std::size_t i = 1; i < all.size(); ++i) CHECK(all[i - 1].swing() >= all[i].swing());
    for (const Influence& i : all) CHECK(i.swing() > 0);
    CHECK(!of(all, "/axes/0/load/guide_friction"));
    CHECK(!of(all, "/axes/0/drive/bus_voltage"));
}

TEST_CASE("an input with a tolerance is moved by it, and one at the end of its range to one side only") {
    Machine m = bare_lift();
    set(m, "/load/payload", "40 kg ± 2 kg");
    const auto all = influences(m, 0, Measure::rms_torque);
    const Influence* payload = of(all, "/axes/0/load/payload");
    REQUIRE(payload);
    CHECK(payload->moved == "± 2 kg");
    Machine more = m;
    set(more, "/load/payload", "42 kg");
    CHECK(payload->high == Approx(demand_of(more).rms_torque).epsilon(1e-9));
    set(more, "/load/payload", "38 kg");
    CHECK(payload->low == Approx(demand_of(more).rms_torque).epsilon(1e-9));
    // an efficiency of 1 cannot rise
    const Influence* eta = of(all, "/axes/0/mechanism/efficiency");
    REQUIRE(eta);
    CHECK(eta->high == Approx(demand_of(m).rms_torque).epsilon(1e-12));
    CHECK(eta->low > eta->high);
}

TEST_CASE("every influence of every mechanism is what the demand becomes with that input moved") {
    for (const Option& kind : mechanism_kinds()) {
        INFO(kind.key);
        const Machine m = machine_with(kind.key);
        const auto all = influences(m, 0, Measure::rms_torque);
        CHECK(all.size() >= 3);
        std::set<std::string> paths;
        for (const Influence& i : all) {
            INFO(i.path);
            CHECK(paths.insert(i.path).second);
            CHECK(!i.label.empty());
            CHECK(std::isfinite(i.low));
            CHECK(std::isfinite(i.high));
            for (const char* count : {"/teeth", "/falls", "/idlers", "/pulleys", "/rollers"})
                CHECK(!i.path.ends_with(count));
            if (std::string(kind.key) == "winder") continue; // of the fill with the most heat, which may be another
            Machine moved = m;
            auto f = find_field(moved, i.path);
            REQUIRE(f);
            f->quantity->si += 0.1 * std::abs(f->quantity->si);
            if (f->quantity->tolerance == 0 && i.moved == "± 10 %" && i.high != demand_of(m).rms_torque)
                CHECK(demand_of(moved).rms_torque == Approx(i.high).epsilon(1e-9));
        }
        // the fields of the machine are left as they were
        CHECK(influences(m, 0, Measure::rms_torque).size() == all.size());
    }
}

TEST_CASE("a body is called by its name, and errors leave the table empty") {
    Machine m = demo();
    std::size_t with_bodies = 0;
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        const auto all = influences(m, i, Measure::peak_torque);
        for (const Influence& x : all)
            if (x.path.find("/bodies/") != std::string::npos) {
                const std::size_t body = std::stoul(x.path.substr(x.path.find("/bodies/") + 8));
                CHECK(x.label.starts_with(m.axes[i].bodies[body].name + ": "));
                ++with_bodies;
            }
    }
    CHECK(with_bodies > 0);
    *find_field(m, "/axes/0/mechanism/lead")->quantity = QuantityBase{}; // needed, and missing
    CHECK(influences(m, 0, Measure::peak_torque).empty());
    CHECK(compare_laws(m, 0, 0).empty());
}

TEST_CASE("the laws side by side: coefficients times the move, torque as if the law were chosen") {
    for (const char* kind : {"screw", "belt", "table", "slider_crank", "free"}) {
        Machine m = machine_with(kind);
        const auto rows = compare_laws(m, 0, 0);
        REQUIRE(rows.size() == std::size(laws));
        auto& move = std::get<MoveInTime>(m.axes[0].cycle.segments[0].what);
        const double s = std::abs(move.distance.si), t = move.duration.si;
        const Law before = move.law;
        int chosen = 0;
        for (const LawRow& row : rows) {
            move.law = row.law;
            INFO(kind << " " << laws[static_cast<std::size_t>(row.law)].label);
            const Demand d = demand_of(m);
            CHECK(row.rms_torque == Approx(d.rms_torque).epsilon(1e-12));
            CHECK(row.peak_torque == Approx(std::abs(d.peak.torque)).epsilon(1e-12));
            const Trajectory x = plan(m.axes[0].cycle, motion_of(m.axes[0].mechanism)).motion;
            double fastest = 0, hardest = 0;
            for (const Piece& p : x.pieces) {
                if (p.segment != 0) continue;
                for (int i = 0; i <= 2000; ++i) {
                    fastest = std::max(fastest, std::abs(p.velocity(p.duration * i / 2000)));
                    hardest = std::max(hardest, std::abs(p.acceleration(p.duration * i / 2000)));
                }
            }
            CHECK(row.peak_speed == Approx(fastest).epsilon(1e-5));
            CHECK(row.peak_acceleration == Approx(hardest).epsilon(1e-5));
            CHECK(row.peak_acceleration >=
                  4 * s / (t * t) * (1 - 1e-12)); // two parabolas of position are the least there is
            CHECK(row.peak_speed > s / t);
            chosen += row.chosen;
            if (row.chosen) CHECK(row.law == before);
        }
        CHECK(chosen == 1);
        // VDI 2143-1: the cycloid has Ca = 2π, the modified sine 5.528, the parabola of velocity 6
        const double unit = s / (t * t);
        std::map<Law, double> ca;
        for (const LawRow& row : rows) ca[row.law] = row.peak_acceleration / unit;
        CHECK(ca.at(Law::cycloidal) == Approx(2 * M_PI).epsilon(1e-9));
        CHECK(ca.at(Law::modified_sine) == Approx(5.528).epsilon(1e-4));
        CHECK(ca.at(Law::parabolic) == Approx(6).epsilon(1e-12));
    }
}

TEST_CASE("only a move in a time can be compared") {
    const Machine m = machine_with("belt");
    CHECK(!compare_laws(m, 0, 0).empty());
    CHECK(compare_laws(m, 0, 1).empty()); // a dwell
    CHECK(compare_laws(m, 0, 17).empty());
}

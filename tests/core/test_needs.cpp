// Each result waits for what it needs and for nothing else. Goes over every field of every mechanism, law, segment and
// motor: emptied, exactly those rows that name what it serves are silent, and say for what; moved, none of the others
// changes.
#include "core/match/figures.h"
#include "core/match/limits.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <random>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

need::Bits needs_of(const Figure& f, const Machine& m) {
    return needs_on(fulmox::needs_of(*figure_row(f.key), m.axes[0]), m.axes[0]);
}

// Where a force changes its sign a span is cut, and a sum over the cycle is made of other parts.
bool same(double a, double b) {
    return a == b || (std::isnan(a) && std::isnan(b)) || std::abs(a - b) <= 1e-11 * std::max(std::abs(a), std::abs(b));
}

// Without the cycle the statement is that of the worst place.
bool of_the_statement(const std::string& key) {
    return key == "load.inertia" || key == "load.inertia_ratio" || key == "inertia_ratio";
}

// Every figure and limit of `now` that needs nothing of what is served is as it was; where the field is missing the
// others are silent and say for what.
void compare(
    const Machine& m, const Assessment& was, const Assessment& now, need::Bits serves, const std::string& missing) {
    for (const Figure& f : was.figures) {
        INFO(f.key);
        const Figure* g = now.figure(f.key);
        const bool touched = (needs_of(f, m) & serves) != 0;
        if (touched && missing.empty()) continue;
        if (touched) {
            if (!g) continue; // whether there is one depends on what is missing
            CHECK(g->waits);
            CHECK(std::isnan(g->si));
            CHECK_THAT(g->note.in(UnitSystem::si), Contains("waits for: ") && Contains(missing));
            CHECK(g->working.empty());
            continue;
        }
        REQUIRE(g);
        CHECK(!g->waits);
        if (of_the_statement(f.key) && (serves & need::cycle) != 0)
            CHECK((missing.empty() || g->si >= f.si));
        else
            CHECK(same(g->si, f.si));
    }
    for (const Limit& l : was.limits) {
        INFO(l.key);
        const Limit* g = now.limit(l.key);
        const bool touched = (needs_on(needs_of(*limit_row(l.key), m.axes[0]), m.axes[0]) & serves) != 0;
        if (touched && missing.empty()) continue;
        if (touched) {
            if (!g) continue;
            // what is known may be enough to say that it is over
            const need::Bits enough = limit_row(l.key)->over_by;
            if (enough != 0 && (enough & serves) == 0 && g->state == LimitState::over) continue;
            CHECK(g->state == LimitState::cannot_say);
            CHECK_THAT(g->reason.in(UnitSystem::si), Contains("waits for: ") && Contains(missing));
            continue;
        }
        REQUIRE(g);
        if (of_the_statement(l.key) && (serves & need::cycle) != 0) {
            CHECK((g->state == LimitState::cannot_say) == (l.state == LimitState::cannot_say));
            continue;
        }
        CHECK(g->state == l.state);
        CHECK(same(g->used, l.used));
        CHECK(same(g->allowed, l.allowed));
    }
}

std::vector<FieldRef> quantities(Machine& m) {
    std::vector<FieldRef> out;
    FieldRefs all = walk(m.axes[0], "/axes/0");
    for (FieldRef& f : walk(m.site, "/site")) all.push_back(std::move(f));
    for (FieldRef& f : all)
        if (f.type == FieldRef::Type::quantity && f.active && f.quantity->given()) out.push_back(std::move(f));
    return out;
}

std::vector<std::pair<std::string, Machine>> axes_of_every_kind() {
    std::vector<std::pair<std::string, Machine>> out;
    const Machine cell = demo();
    for (std::size_t i = 0; i < cell.axes.size(); ++i) {
        Machine m = cell;
        m.axes = {cell.axes[i]};
        out.emplace_back(m.axes[0].name, std::move(m));
    }
    const auto screw = [&](const char* name, auto change) {
        Machine m = cell;
        m.axes.resize(1);
        change(std::get<Screw>(m.axes[0].mechanism));
        out.emplace_back(name, std::move(m));
    };
    screw("ball thread", [](Screw& s) { s.efficiency = Quantity<Kind::number>(); });
    screw("sliding thread", [](Screw& s) {
        s.thread = Thread::trapezoidal;
        s.efficiency = Quantity<Kind::number>();
        s.thread_friction = Quantity<Kind::number>("0.1");
        s.starts = Quantity<Kind::number>("2");
        s.collar_friction = Quantity<Kind::number>("0.1");
        s.collar_diameter = Quantity<Kind::length>("25 mm");
    });
    screw("preloaded nut", [](Screw& s) {
        s.preload_drag = Quantity<Kind::torque>();
        s.nut_preload = Quantity<Kind::force>("800 N");
    });
    for (const Option& kind : mechanism_kinds()) {
        Machine m = machine_with(kind.key);
        if ((motion_of(m.axes[0].mechanism).has & Motion::shaft) != 0) {
            m.axes[0].coupling.rated_torque = Quantity<Kind::torque>("40 N·m");
            m.axes[0].coupling.inertia = Quantity<Kind::inertia>("1 kg·cm²");
            m.axes[0].drive.stop_time = Quantity<Kind::time>("0.2 s");
        }
        out.emplace_back(kind.key, std::move(m));
    }
    return out;
}

// Whether a result is there, and what it needs.
struct ResultState {
    AxisResult which;
    const char* name;
    bool there;
    need::Bits needs;
};
std::vector<ResultState> results_of(const Assessment& a) {
    const auto of = [](AxisResult which, const char* name, const auto& result) {
        return ResultState{which, name, result.has_value(), result.needs()};
    };
    return {of(AxisResult::motion, "motion", a.motion), of(AxisResult::inertia, "inertia", a.inertia),
        of(AxisResult::stiffness, "stiffness", a.stiffness), of(AxisResult::demand, "demand", a.demand),
        of(AxisResult::fills, "fills", a.fills), of(AxisResult::currents, "currents", a.currents),
        of(AxisResult::heat, "heat", a.heat), of(AxisResult::stages, "stages", a.stages),
        of(AxisResult::coupling, "coupling", a.coupling), of(AxisResult::brake, "brake", a.brake),
        of(AxisResult::overload, "overload", a.overload), of(AxisResult::screw_life, "screw life", a.screw_life),
        of(AxisResult::precision, "precision", a.precision)};
}

// No row speaks of a result that is hidden.
void hidden_results_are_silent(const Assessment& now) {
    for (const ResultState& r : results_of(now)) {
        if (r.there) continue;
        INFO(r.name << " is not there");
        for (const Figure& f : now.figures)
            if (figure_row(f.key)->reads == r.which) {
                INFO(f.key);
                CHECK(f.waits);
            }
        for (const Limit& l : now.limits)
            if (const LimitRow* row = limit_row(l.key); row->reads == r.which) {
                INFO(l.key);
                CHECK(l.state == LimitState::cannot_say);
            }
    }
}

} // namespace

TEST_CASE("a result needs what all rows of it need, and is hidden where they are silent") {
    for (const auto& [name, m] : axes_of_every_kind()) {
        for (const ResultState& r : results_of(assess(m, 0))) {
            INFO(name << ", " << r.name);
            need::Bits common = need::everything;
            int rows = 0;
            const auto look = [&](const char* key, need::Bits needs) {
                INFO(key);
                CHECK((needs & r.needs) == r.needs);
                common &= needs;
                ++rows;
            };
            for (const FigureRow& f : figure_rows())
                if (f.reads == r.which) look(f.key, f.needs | (f.more ? f.more(m.axes[0]) : 0));
            for (const LimitRow& l : limit_rows())
                if (l.reads == r.which) look(l.key, l.over_by ? l.over_by : needs_of(l, m.axes[0]));
            CHECK(rows > 0);
            CHECK(common == r.needs);
        }
    }
}

TEST_CASE("the report has an object where the figures of it speak") {
    Machine m = demo();
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        Machine one = m;
        one.axes = {m.axes[i]};
        for (FieldRef& f : quantities(one)) {
            if (!f.quantity_spec.required) continue;
            const QuantityBase kept = *f.quantity;
            *f.quantity = QuantityBase{};
            const Assessment now = assess(one, 0);
            *f.quantity = kept;
            INFO(m.axes[i].name << " " << f.path);
            const auto speaks = [&](const char* key) {
                const Figure* figure = now.figure(key);
                return figure && !figure->waits && std::isfinite(figure->si);
            };
            if (speaks("motor.peak_current")) CHECK(now.currents);
            if (speaks("screw.life")) CHECK(now.screw_life);
            if (speaks("precision.worst_case")) CHECK(now.precision);
            if (speaks("heat.winding_mean")) CHECK(now.heat);
            CHECK((now.currents.has_value() || !speaks("motor.rms_current")));
        }
    }
}

TEST_CASE("a field that is emptied silences what needs it, by name, and nothing else") {
    std::set<std::string> emptied;
    for (auto& [name, whole] : axes_of_every_kind()) {
        const Assessment was = assess(whole, 0);
        REQUIRE(!has_errors(was.problems));
        Machine m = whole;
        for (FieldRef& f : quantities(m)) {
            if (!f.quantity_spec.required) continue;
            INFO(name << " " << f.path);
            const QuantityBase kept = *f.quantity;
            *f.quantity = QuantityBase{};
            const Assessment now = assess(m, 0);
            const bool idle = !m.axes[0].driven(); // nobody asks then
            const bool of_motor =
                f.path.find("/motor/") != std::string::npos || f.path.find("/bus_voltage") != std::string::npos;
            if (!idle || !of_motor) compare(m, was, now, f.serves, f.label());
            hidden_results_are_silent(now);
            *f.quantity = kept;
            emptied.insert(f.path);
        }
    }
    CHECK(emptied.size() > 90);
}

TEST_CASE("a field that is moved changes nothing that does not name it as a need") {
    int moved = 0;
    for (auto& [name, whole] : axes_of_every_kind()) {
        const Assessment was = assess(whole, 0);
        Machine m = whole;
        for (FieldRef& f : quantities(m)) {
            const QuantityBase kept = *f.quantity;
            for (const double factor : {1.03, 0.97}) {
                f.quantity->si = kept.si == 0 ? 1e-3 * (factor - 1) : kept.si * factor;
                if (check(f)) continue;
                const Assessment now = assess(m, 0);
                if (has_errors(now.problems)) continue;
                INFO(name << " " << f.path << " × " << factor);
                compare(m, was, now, f.serves, "");
                ++moved;
            }
            *f.quantity = kept;
        }
    }
    CHECK(moved > 500);
}

TEST_CASE("several that are missing or unreadable at once silence what any of them would, and nothing else") {
    std::mt19937 chance(20261126);
    const auto below = [&](std::size_t n) { return static_cast<std::size_t>(chance() % n); };
    int tried = 0;
    for (auto& [name, whole] : axes_of_every_kind()) {
        const Assessment was = assess(whole, 0);
        const bool idle = !whole.axes[0].driven();
        for (int round = 0; round < 60; ++round) {
            Machine m = whole;
            std::vector<FieldRef> fields = quantities(m);
            need::Bits serves = 0;
            std::string what = name;
            for (std::size_t n = 2 + below(4); n > 0; --n) {
                FieldRef& f = fields[below(fields.size())];
                const bool of_motor =
                    f.path.find("/motor/") != std::string::npos || f.path.find("/bus_voltage") != std::string::npos;
                if (!f.quantity_spec.required || (idle && of_motor)) continue;
                switch (below(3)) {
                case 0: // not given
                    *f.quantity = QuantityBase{};
                    break;
                case 1: // half typed
                    *f.quantity = QuantityBase{};
                    f.quantity->text = "abc";
                    break;
                default: // not allowed
                    f.quantity->si = to_si(f.quantity_spec.range.min, spec_unit(f.quantity_spec, f.kind)) - 1;
                }
                serves |= f.serves;
                what += " " + f.path;
            }
            INFO(what);
            const Assessment now = assess(m, 0);
            for (const Problem& p : now.problems) // a diameter that is none makes its root diameter wrong as well
                if (p.severity == Severity::error)
                    if (const auto f = find_field(m, p.path)) serves |= f->serves;
            CHECK(has_errors(now.problems) == (serves != 0));
            compare(m, was, now, serves, "waits for: ");
            hidden_results_are_silent(now);
            for (const Limit& l : now.limits)
                if (l.state != LimitState::cannot_say) {
                    // a temperature that never settles is none, nor an overload that grows, nor a stop that never ends
                    const bool may =
                        l.kind == Kind::temperature_difference || l.key == "drive_overload" || l.key == "brake_energy";
                    CHECK((std::isfinite(l.used) || (may && l.state == LimitState::over)));
                    CHECK(!std::isnan(l.allowed));
                }
            ++tried;
        }
    }
    CHECK(tried > 1000);
}

TEST_CASE("nothing is demanded that has no use") {
    Machine m = demo();
    m.axes[0].motor = Motor{};
    m.axes[0].drive.bus_voltage = Quantity<Kind::voltage>();
    m.axes[0].coupling.rated_torque = Quantity<Kind::torque>();
    m.axes[0].coupling.service_factor = Quantity<Kind::number>();
    std::get<Screw>(m.axes[0].mechanism).thread_friction = Quantity<Kind::number>();
    const Assessment a = assess(m, 0);
    CHECK(!has_errors(a.problems));
    CHECK(a.demand);
    // with a motor the bus is asked for, and only the curves wait for it
    Machine with = demo();
    with.axes[0].drive.bus_voltage = Quantity<Kind::voltage>();
    const Assessment b = assess(with, 0);
    CHECK(b.limit("peak_torque")->reason.in(UnitSystem::si) == "waits for: Bus voltage");
    CHECK(b.limit("continuous_loss")->state != LimitState::cannot_say);
    CHECK(b.demand);
    CHECK(!b.motor);
}

TEST_CASE("the ratio needs two inertias, and a rotor alone is enough") {
    Machine m = demo();
    const double ratio = assess(m, 0).figure("load.inertia_ratio")->si;
    const Quantity<Kind::inertia> rotor = m.axes[0].motor.rotor_inertia;
    m.axes[0].motor = Motor{};
    m.axes[0].motor.rotor_inertia = rotor;
    m.axes[0].load.guide_friction = Quantity<Kind::number>();
    m.axes[0].cycle.segments.clear();
    const Assessment a = assess(m, 0);
    CHECK(a.inertia);
    CHECK(a.figure("load.inertia_ratio")->si == Approx(ratio).epsilon(0.1)); // the brake on the rotor is gone
    CHECK(a.limit("inertia_ratio")->state != LimitState::cannot_say);
    CHECK_THAT(a.limit("peak_torque")->reason.in(UnitSystem::si), Contains("waits for") && Contains("Peak curve"));
    CHECK(std::none_of(a.schools.begin(), a.schools.end(), [](const SchoolView& s) { return s.words.empty(); }));
}

TEST_CASE("without the cycle the inertia is that of the heaviest payload and the worst place") {
    Machine m = demo();
    const Assessment was = assess(m, 0);
    set(m, "/cycle/segments/0/payload", "70 kg");
    std::get<MoveInTime>(m.axes[0].cycle.segments[0].what).distance = MotionQuantity<Order::position>();
    const Assessment a = assess(m, 0);
    CHECK(a.figure("load.inertia")->si > was.figure("load.inertia")->si);
    CHECK_THAT(a.figure("load.inertia")->note.in(UnitSystem::si), Contains("not known yet"));
    CHECK_THAT(a.figure("demand.peak_torque")->note.in(UnitSystem::si), Contains("waits for: Distance, segment 1"));
    CHECK(a.figure("screw.critical_speed")->si == was.figure("screw.critical_speed")->si);
}

TEST_CASE("the segments before the first unknown one are planned") {
    Machine m = demo();
    const Trajectory whole = *assess(m, 0).motion;
    std::get<MoveByLimits>(m.axes[0].cycle.segments[2].what).distance = MotionQuantity<Order::position>();
    const Assessment a = assess(m, 0);
    CHECK(!a.motion);
    REQUIRE(a.known_part);
    CHECK(a.known_part->duration == Approx(whole.phases[2].start));
    CHECK(a.known_part->peak_speed == Approx(0.8));
    CHECK(a.figure("motion.cycle_time")->note.in(UnitSystem::si) == "waits for: Distance, segment 3");
    std::get<MoveInTime>(m.axes[0].cycle.segments[0].what).duration = Quantity<Kind::time>();
    CHECK(!assess(m, 0).known_part);
}

TEST_CASE("a motor with one unfinished point is still the chosen motor") {
    Machine m = demo();
    const Assessment was = assess(m, 0);
    m.axes[0].motor.peak.emplace_back();
    const Assessment a = assess(m, 0);
    CHECK(a.figure("demand.peak_torque")->si == was.figure("demand.peak_torque")->si); // the rotor is in it
    CHECK(a.limit("inertia_ratio")->used == was.limit("inertia_ratio")->used);
    CHECK(a.limit("continuous_loss")->state == was.limit("continuous_loss")->state);
    const std::string point = std::to_string(m.axes[0].motor.peak.size());
    CHECK(a.limit("peak_torque")->reason.in(UnitSystem::si) ==
          "waits for: Speed, peak curve, point " + point + "; Torque, peak curve, point " + point);
    CHECK(!a.motor);
}

TEST_CASE("no row forgets its needs") {
    std::set<std::string> keys;
    for (const FigureRow& r : figure_rows()) {
        INFO(r.key);
        CHECK(r.needs != 0);
        CHECK((r.needs & ~need::everything) == 0);
        CHECK(keys.insert(r.key).second);
    }
    for (const LimitRow& r : limit_rows()) {
        INFO(r.key);
        CHECK(r.needs != 0);
        CHECK(keys.insert(r.key).second);
    }
}

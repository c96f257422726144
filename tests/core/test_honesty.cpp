// What must hold of every axis: hidden fields have no effect, missing ones no result, policies choose verdicts and not
// figures, words follow the units of the project.
#include "core/match/limits.h"
#include "core/motion/trace.h"
#include "core/report/json_report.h"
#include "tests/mechanisms.h"

#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

std::string told(const Machine& m) {
    auto j = nlohmann::json::parse(assessment_json(m, {assess(m, 0)}));
    return j["axes"][0]["results"].dump() + j["axes"][0]["limits"].dump();
}

} // namespace

TEST_CASE("a field that is hidden has no effect, whatever stands in it") {
    int tried = 0;
    for (const Option& kind : mechanism_kinds()) {
        Machine m = machine_with(kind.key);
        m.axes[0].drive.stop_time = Quantity<Kind::time>("0.2 s");
        m.axes[0].coupling.place = CouplingPlace::mechanism;
        const std::string before = told(m);
        for (const FieldRef& f : walk(m.axes[0], "/axes/0")) {
            if (f.active || f.type == FieldRef::Type::samples) continue;
            Machine other = m;
            auto field = find_field(other, f.path);
            REQUIRE(field);
            if (f.type == FieldRef::Type::quantity) {
                const Unit& u = spec_unit(field->quantity_spec, field->kind);
                const Range& r = field->quantity_spec.range;
                field->quantity->si = to_si(r.min + 0.3 * (std::min(r.max, r.min + 100) - r.min) + 0.1, u);
                field->quantity->text = "hidden";
                field->quantity->unit = &u;
            } else if (f.type == FieldRef::Type::choice) {
                field->choose((field->chosen() + 1) % static_cast<int>(field->choice_spec.options.size()));
            } else {
                continue;
            }
            INFO(kind.key << " " << f.path);
            CHECK(told(other) == before);
            ++tried;
        }
    }
    CHECK(tried > 60);
}

TEST_CASE("two policies never give different figures") {
    Machine m = demo();
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        std::vector<std::string> figures;
        for (const Policy& p : m.policies) {
            m.axes[i].policy = p.name;
            const Assessment a = assess(m, i);
            std::string all;
            for (const Figure& f : a.figures)
                all += f.key + "=" + std::to_string(f.si) + f.note.in(UnitSystem::si) + ";";
            figures.push_back(all);
        }
        for (const std::string& f : figures) CHECK(f == figures.front());
    }
}

TEST_CASE("a limit the policy gives no share for says so, and not how it would stand") {
    const Machine whole = demo();
    const Assessment before = assess(whole, 0);
    int silenced = 0;
    for (const char* key :
        {"speed_share", "peak_torque_share", "continuous_share", "critical_speed_share", "buckling_share"}) {
        Machine m = whole;
        for (std::size_t i = 0; i < m.policies.size(); ++i) {
            const auto field = find_field(m, "/policies/" + std::to_string(i) + "/" + key);
            REQUIRE(field);
            *field->quantity = QuantityBase{};
        }
        const Assessment a = assess(m, 0);
        for (const Limit& l : a.limits) {
            if (l.state != LimitState::cannot_say || before.limit(l.key)->state == LimitState::cannot_say) continue;
            INFO(key << " " << l.key);
            CHECK_THAT(l.reason.in(UnitSystem::si), Contains("gives no share"));
            CHECK(l.working.empty());
            CHECK(l.remedy.empty());
            ++silenced;
        }
    }
    CHECK(silenced == 8);
}

TEST_CASE("what is used to the last bit of what is allowed is not over") {
    Limit l;
    l.share = 1;
    l.used = l.allowed = 7.123456789;
    judge(l);
    CHECK(l.state == LimitState::fits);
    l.used = std::nextafter(std::nextafter(l.allowed, 10.0), 10.0);
    judge(l);
    CHECK(l.state == LimitState::fits);
    l.used = l.allowed * (1 + 1e-9);
    judge(l);
    CHECK(l.state == LimitState::over);
}

TEST_CASE("tightest is what is shown as tightest") {
    Limit strict, loose;
    strict.used = 60, strict.allowed = 100, strict.share = 0.65; // 92 % of its share, but 60 % is shown
    loose.used = 80, loose.allowed = 100, loose.share = 1;
    for (Limit* l : {&strict, &loose}) judge(*l);
    CHECK(by_tightness({strict, loose}) == std::vector<std::size_t>{1, 0});
}

TEST_CASE("reasons, notes and problems speak in the units of the project") {
    Machine m = demo();
    m.unit_system = UnitSystem::inch_pound;
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        const Assessment a = assess(m, i);
        for (const Limit& l : a.limits) {
            INFO(l.key << ": " << l.reason.in(m.unit_system));
            CHECK_THAT(l.reason.in(m.unit_system), !Contains("N·m") && !Contains(" mm") && !Contains(" kg"));
        }
        for (const Figure& f : a.figures) {
            INFO(f.key << ": " << f.note.in(m.unit_system));
            CHECK_THAT(f.note.in(m.unit_system), !Contains("N·m") && !Contains(" mm") && !Contains(" kg"));
        }
    }
    std::get<MoveInTime>(m.axes[0].cycle.segments[0].what).distance = MotionQuantity<Order::position>("12 in");
    bool open = false;
    for (const Problem& p : assess(m, 0).problems)
        if (p.message.find("from where it began") != std::string::npos) {
            open = true;
            CHECK_THAT(p.message, Contains(" in "));
        }
    CHECK(open);
}

TEST_CASE("legal values beyond all measure give words, never a number and never fits") {
    for (const char* mass : {"1e6 kg", "0.000001 kg"})
        for (const char* time : {"0.000001 s", "1e6 s"}) {
            Machine m = demo();
            set(m, "/load/payload", mass);
            for (Segment& s : m.axes[0].cycle.segments)
                if (auto* move = std::get_if<MoveInTime>(&s.what)) move->duration = Quantity<Kind::time>(time);
            const Assessment a = assess(m, 0);
            for (const Limit& l : a.limits)
                if (l.state != LimitState::cannot_say) {
                    const bool runs_away =
                        (l.key == "winding_temperature" || l.key == "brake_energy") && l.state == LimitState::over;
                    CHECK(((std::isfinite(l.used) || runs_away) && std::isfinite(l.allowed)));
                }
            for (const Figure& f : a.figures)
                if (!std::isfinite(f.si)) CHECK(!f.note.empty());
        }
    // masses that nobody may have: what needs them is silent, and speeds are what they were
    Machine m = demo();
    m.axes[0].load.carriage_mass.si = 1e308;
    m.axes[0].load.payload.si = 1e308;
    const Assessment a = assess(m, 0);
    CHECK(!a.demand);
    CHECK(has_errors(a.problems));
    const Assessment was = assess(demo(), 0);
    int silent = 0;
    for (const Limit& l : a.limits) {
        INFO(l.key);
        // what asks for speeds alone, or for no demand at all
        if (l.key == "speed" || l.key == "critical_speed" || l.key == "speed_value" ||
            (l.key.starts_with("coupling_") && l.key != "coupling")) {
            CHECK(l.used == was.limit(l.key)->used);
            continue;
        }
        CHECK(l.state == LimitState::cannot_say);
        CHECK_THAT(l.reason.in(UnitSystem::si), Catch::Matchers::Contains("waits for: Carriage; Payload"));
        ++silent;
    }
    CHECK(silent >= 6);
}

TEST_CASE(
    "a recorded step of acceleration comes back with its plateau and without overshoot, in figure, plot and export") {
    // 2 m/s² for 0.3 s and back to rest, 1 kHz, with a hundredth of a millimetre of noise
    auto rows = std::make_shared<std::vector<double>>();
    const auto place = [](double t) {
        const double a = 2, up = 0.3;
        if (t < 0.2) return 0.0;
        t -= 0.2;
        if (t < up) return a * t * t / 2;
        if (t < 2 * up) return a * up * up / 2 + a * up * (t - up) - a * (t - up) * (t - up) / 2;
        return a * up * up;
    };
    for (int i = 0; i <= 1200; ++i) {
        rows->push_back(i * 1e-3);
        rows->push_back(place(i * 1e-3));
    }
    Trace t;
    t.samples = Samples{rows, 2};
    for (const char* window : {"", "20 ms", "60 ms"}) {
        t.window = {};
        if (*window) t.window = Quantity<Kind::time>(window);
        Cycle cycle;
        Segment s;
        s.what = t;
        cycle.segments = {s};
        const Trajectory motion = plan(cycle, {false, false, false, 0}).motion;
        CHECK(motion.peak_acceleration <= 2 * (1 + 2e-5)); // the mean of samples is one of an integral but for so much
        CHECK(motion.peak_acceleration >= 2 * 0.95);
        double most = 0;
        for (int i = 0; i <= 120000; ++i) {
            const Piece& p = motion.at(motion.duration * i / 120000);
            most = std::max(most, std::abs(p.acceleration(motion.duration * i / 120000 - p.start)));
        }
        CHECK(most == Approx(motion.peak_acceleration).epsilon(1e-6));
        const Piece& middle = motion.at(0.35);
        CHECK(middle.acceleration(0.35 - middle.start) == Approx(2).epsilon(0.05));
    }
}

TEST_CASE("inertia is over the cycle: places and payloads it has, and no others") {
    Machine m = machine_with("scotch_yoke");
    m.axes[0].motor = Motor{};
    m.axes[0].cycle.start_position = MotionQuantity<Order::position>("60 deg");
    MoveInTime there;
    there.distance = MotionQuantity<Order::position>("20 deg");
    there.duration = Quantity<Kind::time>("1 s");
    Segment s;
    s.what = there;
    Segment back = s;
    std::get<MoveInTime>(back.what).distance = MotionQuantity<Order::position>("-20 deg");
    m.axes[0].cycle.segments = {s, back};
    const Assessment a = assess(m, 0);
    REQUIRE(a.inertia);
    const LoadModel l = load_model(m, m.axes[0]);
    const double mass = l.moving_mass + m.axes[0].load.payload.si, c = l.crank;
    const auto at = [&](double deg) { return l.own_inertia + mass * std::pow(c * std::cos(deg * M_PI / 180), 2); };
    CHECK(a.inertia->load == Approx(at(60)));
    CHECK(a.inertia->load_least == Approx(at(80)));
}

TEST_CASE("peak torque is one thing in figure, limit and coupling, with breakaway where a factor is given") {
    Machine m = demo();
    set(m, "/load/inclination", "0 deg");
    set(m, "/load/guide_friction", "0.5");
    set(m, "/load/breakaway", "8");
    set(m, "/drive/stop_time", "");
    const Assessment a = assess(m, 0);
    CHECK_THAT(a.figure("demand.peak_torque")->label, Contains("breakaway"));
    CHECK(std::abs(a.figure("demand.peak_torque")->si) == Approx(std::abs(a.figure("demand.breakaway_torque")->si)));
    CHECK(std::abs(a.figure("demand.peak_running_torque")->si) < std::abs(a.figure("demand.peak_torque")->si));
    CHECK(a.limit("peak_torque")->used == Approx(std::abs(a.figure("demand.peak_torque")->si)));
    CHECK(a.demand->coupling_peak >= std::abs(a.figure("demand.breakaway_torque")->si) * (1 - 1e-12));
    CHECK(std::isnan(a.figure("demand.emergency_torque")->si));
    set(m, "/load/breakaway", "");
    const Assessment running = assess(m, 0);
    CHECK(running.figure("demand.peak_torque")->label == "Peak torque");
    CHECK(!running.figure("demand.peak_running_torque"));
}

TEST_CASE("a cycle that ends with another payload is pointed out, rounding at its end is not") {
    Machine m = demo();
    m.axes[0].cycle.segments.back().payload = Quantity<Kind::mass>("3 kg");
    bool said = false;
    for (const Problem& p : assess(m, 0).problems)
        said = said || p.message.find("ends with a payload") != std::string::npos;
    CHECK(said);
    m = machine_with("belt");
    Segment a;
    MoveInTime move;
    move.duration = Quantity<Kind::time>("1 s");
    m.axes[0].cycle.segments.clear();
    for (const char* d : {"3.93701 in", "3.93701 in", "-200.0001 mm"}) {
        move.distance = MotionQuantity<Order::position>(d);
        a.what = move;
        m.axes[0].cycle.segments.push_back(a);
    }
    for (const Problem& p : assess(m, 0).problems) CHECK(p.message.find("from where it began") == std::string::npos);
}

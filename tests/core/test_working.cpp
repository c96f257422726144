// What is shown is what was computed: every substituted line is evaluated by muParser and compared with the result.
#include "core/load/screw.h"
#include "core/model/working.h"
#include "core/quantity/format.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <muParser.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

double evaluate_line(const std::string& expression) {
    mu::Parser p;
    p.DefineConst("pi", M_PI);
    p.DefineFun("abs", static_cast<double (*)(double)>([](double x) { return std::abs(x); }));
    p.SetExpr(expression);
    return p.Eval();
}

int check_lines(const Working& working, const std::string& what) {
    for (const WorkingLine& w : working) {
        INFO(what << ": " << w.symbol << " = " << w.formula << " = " << w.substituted());
        CHECK(!w.formula.empty());
        // with all digits the line is the result
        CHECK(evaluate_line(w.exact()) == Approx(w.result).epsilon(1e-9).margin(1e-12));
        // with the five digits shown it is the result to what those digits carry
        CHECK(evaluate_line(w.substituted()) == Approx(w.result).epsilon(2e-3).margin(1e-9));
    }
    return static_cast<int>(working.size());
}

int check_axis(const Machine& m, std::size_t axis = 0) {
    const Assessment a = assess(m, axis);
    REQUIRE(a.inertia);
    int lines = 0;
    for (const Limit& l : a.limits) lines += check_lines(l.working, l.key);
    for (const Figure& f : a.figures) lines += check_lines(f.working, f.key);
    for (const InertiaShare& s : a.inertia->shares) lines += check_lines(s.working, s.key);
    return lines;
}

} // namespace

TEST_CASE("every working of the demo is what was computed") {
    const Machine m = demo();
    for (std::size_t i = 0; i < m.axes.size(); ++i) {
        INFO(m.axes[i].name);
        CHECK(check_axis(m, i) > (m.axes[i].motor.empty() ? 10 : 20));
    }
}

TEST_CASE("and of every mechanism") {
    for (const Option& kind : mechanism_kinds()) {
        INFO(kind.key);
        CHECK(check_axis(machine_with(kind.key)) > 5);
    }
}

TEST_CASE("and of axes of other kinds") {
    Machine m = demo();
    set(m, "/mechanism/efficiency", "");
    CHECK(check_axis(m) > 40);
    m.axes[0].mechanism = [&] {
        Screw s = std::get<Screw>(m.axes[0].mechanism);
        s.thread = Thread::trapezoidal;
        s.starts = Quantity<Kind::number>("2");
        s.thread_friction = Quantity<Kind::number>("0.12");
        s.collar_friction = Quantity<Kind::number>("0.1");
        s.collar_diameter = Quantity<Kind::length>("30 mm");
        return s;
    }();
    CHECK(check_axis(m) > 40);
    m = demo();
    set(m, "/load/inclination", "-35 deg");
    set(m, "/load/counterweight", "12 kg");
    set(m, "/load/viscous", "80 N·s/m");
    m.site.ambient = Quantity<Kind::temperature>("65 °C");
    for (int i = 0; i < 4; ++i) { // more segments than are written out one by one
        const auto copy = m.axes[0].cycle.segments;
        m.axes[0].cycle.segments.insert(m.axes[0].cycle.segments.end(), copy.begin(), copy.end());
    }
    CHECK(check_axis(m) > 40);
}

TEST_CASE("a line cannot be written with a value missing") {
    CHECK_THROWS_AS(working_line("x", "a b", "a*b", {{"a", 1.0}}, 1, Kind::number).substituted(), std::logic_error);
    const WorkingLine w = working_line("x", "a² b", "a^2*b", {{"a", -2.0}, {"b", 1e-7}}, 4e-7, Kind::number);
    CHECK(w.substituted() == "(-2)^2*1e-7");
    CHECK(evaluate_line(w.substituted()) == Approx(4e-7));
}

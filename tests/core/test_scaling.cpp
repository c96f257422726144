// Dimensional soundness: the whole assessment in a system of units scaled by random factors for mass, length, time and
// current, gravity scaled along. Every result must scale by its dimension; a formula that adds force to mass does not.
#include "tests/mechanisms.h"

#include <cmath>
#include <rapidcheck.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

struct Scales {
    double mass, length, time, current;
    double of(const Dimension& d) const {
        return std::pow(mass, d.mass) * std::pow(length, d.length) * std::pow(time, d.time) *
               std::pow(current, d.current);
    }
};

Machine scaled(Machine m, const Scales& s) {
    for (FieldRef& f : walk(m))
        if (f.type == FieldRef::Type::quantity) {
            // the file's ranges are in metres and seconds; the scaled world has its own, so only the value moves
            f.quantity->si *= s.of(dimension_of(f.kind));
            f.quantity->tolerance *= s.of(dimension_of(f.kind));
        }
    return m;
}

void same(Machine m, const Scales& s) {
    m.operation = {}; // a year is a constant, not of the axis
    const Assessment a = assess(m, 0, {.workings = false});
    const Machine big = scaled(m, s);
    const Assessment b = assess(big, 0, {.workings = false});
    RC_ASSERT(a.figures.size() == b.figures.size());
    RC_ASSERT(a.figures.size() > 24);
    for (std::size_t i = 0; i < a.figures.size(); ++i) {
        const double want = a.figures[i].si * s.of(dimension_of(a.figures[i].kind));
        if (a.figures[i].key.starts_with("precision.")) continue;      // a lead error is told over 300 mm
        if (std::isnan(want) && std::isnan(b.figures[i].si)) continue; // beyond the curve in both worlds
        if (!(std::abs(b.figures[i].si - want) <= 1e-7 * std::abs(want) + 1e-13))
            RC_FAIL(a.figures[i].key + " does not scale: " + std::to_string(b.figures[i].si) + " for " +
                    std::to_string(want));
    }
    RC_ASSERT(a.limits.size() == b.limits.size());
    for (std::size_t i = 0; i < a.limits.size(); ++i) {
        const Limit& x = a.limits[i];
        const Limit& y = b.limits[i];
        const double k = s.of(dimension_of(x.kind));
        if (x.state == LimitState::cannot_say && y.state == x.state) continue;
        if (std::isinf(x.used) && std::isinf(y.used)) continue; // thermal runaway in both worlds
        if (!(std::abs(y.used - x.used * k) <= 1e-6 * x.used * k + 1e-12)) RC_FAIL(x.key + ": used does not scale");
        if (!(std::abs(y.allowed - x.allowed * k) <= 1e-6 * x.allowed * k)) RC_FAIL(x.key + ": allowed does not scale");
        RC_ASSERT(x.state == y.state);
    }
}

} // namespace

TEST_CASE("every result scales by its dimension") {
    const bool holds = rc::check([] {
        const auto factor = [] { return std::pow(2.0, *rc::gen::inRange(-30, 31) / 100.0); };
        Machine m = demo();
        // altitude stays at 0: its 1000 m are a constant of IEC 60034-1, not of the axis
        m.site.altitude = Quantity<Kind::length>("0 m");
        set(m, "/load/viscous", "60 N·s/m");
        set(m, "/load/counterbalance", "120 N");
        set(m, "/load/guide_preload", "300 N");
        set(m, "/mechanism/nut_preload", "500 N");
        set(m, "/mechanism/preload_drag", "");
        if (*rc::gen::arbitrary<bool>()) set(m, "/mechanism/efficiency", "");
        if (*rc::gen::arbitrary<bool>()) set(m, "/load/inclination", "30 deg");
        same(m, {factor(), factor(), factor(), factor()});
    });
    REQUIRE(holds);
}

TEST_CASE("every mechanism scales by its dimensions, stages and bodies included") {
    for (const Option& kind : mechanism_kinds()) {
        Machine base = machine_with(kind.key);
        if (motion_of(base.axes[0].mechanism).direct) continue; // its torques are forces
        INFO(kind.key);
        base.site.altitude = Quantity<Kind::length>("0 m");
        Stage stage;
        stage.ratio = Quantity<Kind::number>("3");
        stage.inertia = Quantity<Kind::inertia>("0.4 kg·cm²");
        base.axes[0].stages = {stage};
        Body body;
        body.shape = PointMass{};
        body.mass = Quantity<Kind::mass>("1.5 kg");
        body.offset = Quantity<Kind::length>("60 mm");
        base.axes[0].bodies = {body};
        const bool holds = rc::check([&] {
            const auto factor = [] { return std::pow(2.0, *rc::gen::inRange(-20, 21) / 100.0); };
            same(base, {factor(), factor(), factor(), factor()});
        });
        REQUIRE(holds);
    }
}

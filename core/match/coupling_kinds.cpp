#include "core/match/coupling_kinds.h"

#include "core/quantity/format.h"

#include <cmath>

namespace fulmox {

namespace {

// What such couplings usually are; common practice, no source.
struct Trait {
    CouplingKind kind;
    const char* traits;
    double angular;  ///< rad
    double parallel; ///< m
    double speed;    ///< rad/s
    bool soft;       ///< winds up
    bool play;       ///< has some, or comes to have it
};

constexpr double degree = 0.017453292519943295, rpm = 0.10471975511965977;

constexpr Trait traits[] = {
    {CouplingKind::disc, "stiff, without backlash, small misalignment", 1 * degree, 0.15e-3, 10000 * rpm, false, false},
    {CouplingKind::bellows, "stiff, without backlash, little inertia", 1.5 * degree, 0.2e-3, 12000 * rpm, false, false},
    {CouplingKind::jaw, "damps, winds up somewhat, next to no backlash while it is preloaded", 1 * degree, 0.2e-3,
        10000 * rpm, true, false},
    {CouplingKind::slit, "cheap, springy, tires", 3 * degree, 0.25e-3, 6000 * rpm, true, false},
    {CouplingKind::oldham, "permits much parallel misalignment, wears", 0.5 * degree, 1e-3, 4000 * rpm, false, true},
    {CouplingKind::sleeve, "rigid, needs alignment", 0, 0, 15000 * rpm, false, false}};

Text permits(double most, Kind kind) {
    return most > 0 ? Text(", it permits about ") + Text::of(most, kind, 2) : Text(", it permits none");
}

constexpr double much_inertia = 5; // load over rotor, from which a soft coupling is felt

} // namespace

std::vector<CouplingAdvice> coupling_kinds(const Axis& axis, const Assessment& a) {
    std::vector<CouplingAdvice> out;
    const Coupling& c = axis.coupling;
    const double ratio = a.inertia && a.inertia->rotor > 0 ? a.inertia->ratio() : std::nan("");
    const double speed = a.demand
                             ? a.demand->peak_speed / (c.place == CouplingPlace::mechanism ? a.demand->load.ratio : 1)
                             : std::nan("");
    const bool exact = axis.accuracy.asked.given() || axis.questions.precision != Precision::coarse;
    for (const Trait& t : traits) {
        CouplingAdvice one;
        one.kind = t.kind;
        one.label = Coupling::kinds[static_cast<std::size_t>(t.kind)].label;
        one.traits = t.traits;
        const auto against = [&](Text reason) { one.against.push_back(std::move(reason)); };
        if (c.angular.given() && c.angular.si > t.angular)
            against(Text("assembly holds ") + Text::of(c.angular.si, Kind::angle, 3) + permits(t.angular, Kind::angle));
        if (c.parallel.given() && c.parallel.si > t.parallel)
            against(Text("assembly holds ") + Text::of(c.parallel.si, Kind::length, 3) + " parallel" +
                    permits(t.parallel, Kind::length));
        if (speed > t.speed)
            against(Text("it turns at ") + Text::of(speed, Kind::angular_speed, 3) + ", usual are up to " +
                    Text::of(t.speed, Kind::angular_speed, 2));
        if (t.soft && ratio > much_inertia)
            against(Text("with " + format_number(ratio, 3) +
                         " times the rotor's inertia behind it, a soft one lowers resonance and bandwidth"));
        if (t.play && exact) against(Text("a position is asked, and it comes to have play"));
        if (t.kind == CouplingKind::slit && exact) against(Text("a position is asked, and it winds up"));
        out.push_back(std::move(one));
    }
    return out;
}

} // namespace fulmox

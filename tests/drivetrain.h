// Axes for the tests of what stands between motor and load.
#pragma once

#include "tests/demo.h"

#include <functional>
#include <numbers>

namespace fulmox::testing {

inline constexpr double half_circle = std::numbers::pi;

// The lift of the demo, changed.
inline Assessment of_lift(const std::function<void(Axis&)>& change = {}) {
    Machine m = demo();
    if (change) change(m.axes[0]);
    return assess(m, 0);
}

inline const Limit& limit_of_axis(const Assessment& a, const char* key) {
    const Limit* l = a.limit(key);
    INFO(key);
    REQUIRE(l);
    return *l;
}

// 5 kg on a screw of 10 mm lead without losses; what turns is given.
inline Machine plain(double rotor) {
    Machine m = demo();
    Axis& a = m.axes[0];
    Screw s;
    s.lead = Quantity<Kind::length>("10 mm");
    s.diameter = Quantity<Kind::length>("16 mm");
    s.length = Quantity<Kind::length>("0.5 m");
    s.efficiency = Quantity<Kind::number>("1");
    s.density = Quantity<Kind::density>("0.001 kg/m³"); // next to nothing
    a.mechanism = s;
    a.load = {};
    a.load.inclination = Quantity<Kind::angle>("90 deg");
    a.load.carriage_mass = Quantity<Kind::mass>("5 kg");
    a.load.payload = Quantity<Kind::mass>("0 kg");
    a.load.guide_friction = Quantity<Kind::number>("0");
    for (Segment& each : a.cycle.segments) each.payload = {}, each.process_force = {};
    a.coupling = {};
    a.motor.rotor_inertia.si = rotor;
    a.motor.brake_inertia = {};
    a.motor.brake_stopping = {};
    a.motor.encoder_inertia = {};
    return m;
}

} // namespace fulmox::testing

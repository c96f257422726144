// The motor as its datasheet gives it, and the little this version asks of its drive.
#pragma once

#include "core/model/field.h"
#include "core/model/motion_quantity.h"

#include <string>
#include <vector>

namespace fulmox {

/// A point of a datasheet curve.
struct CurvePoint {
    Quantity<Kind::angular_speed> speed;
    Quantity<Kind::torque> torque;
    Extra extra;
    bool operator==(const CurvePoint&) const = default;

    void describe(FieldVisitor& v);
};

struct Motor {
    std::string name;
    std::string origin;
    Quantity<Kind::inertia> rotor_inertia;
    Quantity<Kind::angular_speed> max_speed;
    std::vector<CurvePoint> continuous;
    std::vector<CurvePoint> peak;
    Quantity<Kind::voltage> curve_voltage;
    Quantity<Kind::temperature> rated_ambient{"40 °C"};
    Quantity<Kind::temperature> winding_limit{"155 °C"};
    Quantity<Kind::torque_constant> torque_constant;
    Quantity<Kind::resistance> resistance;
    Quantity<Kind::inertia> brake_inertia;
    Quantity<Kind::torque> brake_torque;
    Quantity<Kind::mass> mass;
    Quantity<Kind::length> shaft_diameter;
    Quantity<Kind::number> price;
    Extra extra;

    bool operator==(const Motor&) const = default;
    bool empty() const { return name.empty() && continuous.empty() && peak.empty() && !rotor_inertia.given(); }

    void describe(FieldVisitor& v);
};

struct Drive {
    Quantity<Kind::voltage> bus_voltage{"320 V"};
    Quantity<Kind::time> stop_time;
    MotionQuantity<Order::position> stop_distance;
    Extra extra;
    bool operator==(const Drive&) const = default;

    void describe(FieldVisitor& v);
};

} // namespace fulmox

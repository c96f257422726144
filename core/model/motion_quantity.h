// A quantity of the cycle: along a line or about an axis, as the mechanism of the axis decides.
#pragma once

#include "core/quantity/quantity.h"

namespace fulmox {

enum class Order { position, speed, acceleration, jerk, force };

constexpr Kind motion_kind(Order order, bool rotary) {
    switch (order) {
    case Order::position:
        return rotary ? Kind::angle : Kind::length;
    case Order::speed:
        return rotary ? Kind::angular_speed : Kind::speed;
    case Order::acceleration:
        return rotary ? Kind::angular_acceleration : Kind::acceleration;
    case Order::jerk:
        return rotary ? Kind::angular_jerk : Kind::jerk;
    case Order::force:
        return rotary ? Kind::torque : Kind::force;
    }
    return Kind::illegal;
}

/// Reads the text of a quantity again as one of this kind; not given where the unit does not fit.
inline void reread_as(Kind kind, QuantityBase& q) {
    q.si = std::numeric_limits<double>::quiet_NaN();
    const auto r = read_quantity(q.text, kind, si_unit(kind));
    if (!r) return;
    q.si = r->si;
    q.tolerance = r->tolerance;
    q.unit = r->unit;
}

/// SI: m or rad and their derivatives, N or N·m.
template <Order O> struct MotionQuantity : QuantityBase {
    MotionQuantity() = default;
    template <Kind K>
    requires(K == motion_kind(O, false) || K == motion_kind(O, true)) MotionQuantity(const Quantity<K>& q)
        : QuantityBase(q) {}
    /// For data in code and tests; read as linear where the unit allows it, else as rotary.
    explicit MotionQuantity(std::string_view written) {
        text = written;
        reread_as(motion_kind(O, true), *this);
        if (!given()) reread_as(motion_kind(O, false), *this);
    }
    double value_or(double otherwise) const { return given() ? si : otherwise; }
    bool operator==(const MotionQuantity& o) const { return QuantityBase::operator==(o); }
};

} // namespace fulmox

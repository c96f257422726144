// Numbers of an axis in sentences, as its kind of motor has them.
#pragma once

#include "core/model/field.h"
#include "core/quantity/text.h"

namespace fulmox {

/// A linear motor has a force where others have a torque, and a speed along its line.
struct Words {
    bool direct = false;

    explicit Words(const Motion& motion) : direct(motion.direct) {}

    Kind torque_kind() const { return kind(Kind::torque); }
    Kind inertia_kind() const { return kind(Kind::inertia); }
    Kind speed_kind() const { return kind(Kind::angular_speed); }
    /// Of a shaft quantity: on a linear motor a force stands for a torque, a mass for an inertia.
    Kind kind(Kind k) const {
        if (!direct) return k;
        switch (k) {
        case Kind::torque:
            return Kind::force;
        case Kind::inertia:
            return Kind::mass;
        case Kind::angular_speed:
            return Kind::speed;
        default:
            return k;
        }
    }
    /// At the motor.
    Text torque(double si) const { return Text::of(si, torque_kind()); }
    Text speed(double si) const { return Text::of(si, speed_kind()); }
    static Text say(double si, Kind kind, int digits = 4) { return Text::of(si, kind, digits); }
    /// The word of the two that fits.
    const char* word(const char* turning, const char* straight) const { return direct ? straight : turning; }
};

} // namespace fulmox

// Numbers of an axis in sentences, as its kind of motor has them.
#pragma once

#include "core/model/field.h"
#include "core/quantity/text.h"

namespace fulmox {

/// A linear motor has a force where others have a torque, and a speed along its line.
struct Words {
    bool direct = false;

    explicit Words(const Motion& motion) : direct(motion.direct) {}

    Kind torque_kind() const { return direct ? Kind::force : Kind::torque; }
    Kind inertia_kind() const { return direct ? Kind::mass : Kind::inertia; }
    Kind speed_kind() const { return direct ? Kind::speed : Kind::angular_speed; }
    /// At the motor.
    Text torque(double si) const { return Text::of(si, torque_kind()); }
    Text speed(double si) const { return Text::of(si, speed_kind()); }
    static Text say(double si, Kind kind, int digits = 4) { return Text::of(si, kind, digits); }
    /// The word of the two that fits.
    const char* word(const char* turning, const char* straight) const { return direct ? straight : turning; }
};

} // namespace fulmox

// Numbers of an axis in sentences, in the units of the project and as its kind of motor has them.
#pragma once

#include "core/model/machine.h"
#include "core/quantity/format.h"

namespace fulmox {

/// A linear motor has a force where others have a torque, and a speed along its line.
struct Words {
    UnitSystem units = UnitSystem::si;
    bool direct = false;

    Words(const Machine& machine, const Motion& motion) : units(machine.unit_system), direct(motion.direct) {}

    Kind torque_kind() const { return direct ? Kind::force : Kind::torque; }
    Kind inertia_kind() const { return direct ? Kind::mass : Kind::inertia; }
    Kind speed_kind() const { return direct ? Kind::speed : Kind::angular_speed; }
    /// At the motor.
    std::string torque(double si) const { return format_quantity(si, torque_kind(), units); }
    std::string speed(double si) const { return format_quantity(si, speed_kind(), units); }
    std::string say(double si, Kind kind, int digits = 4) const { return format_quantity(si, kind, units, digits); }
    /// The word of the two that fits.
    const char* word(const char* turning, const char* straight) const { return direct ? straight : turning; }
};

} // namespace fulmox

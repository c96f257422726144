// Units of reports on one motor.
#pragma once

#include "core/quantity/format.h"

#include <cmath>
#include <string>

namespace fulmox {

// Units of a motor that turns, or runs along a line.
struct MotorUnits {
    const char *torque, *speed, *torque_constant, *voltage_constant, *motor_constant;
    bool linear;
    explicit MotorUnits(bool along) : linear(along) {
        torque = along ? "N" : "N·m";
        speed = along ? "m/s" : "rad/s";
        torque_constant = along ? "N/A" : "N·m/A";
        voltage_constant = along ? "V·s/m" : "V·s/rad";
        motor_constant = along ? "N/√W" : "N·m/√W";
    }
};

/// "–" where it is not known.
inline std::string number_text(double v, int digits = 4) { return std::isfinite(v) ? format_number(v, digits) : "–"; }

} // namespace fulmox

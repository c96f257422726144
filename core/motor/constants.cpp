#include "core/motor/constants.h"

#include <numbers>

namespace fulmox::motor_constants {

double base_from_spin_test(double volts_peak_to_peak, double speed) {
    return volts_peak_to_peak / (2 * ke_line_peak * speed);
}

double shaft_speed(double electrical_frequency, int pole_pairs) {
    return 2 * std::numbers::pi * electrical_frequency / pole_pairs;
}

double copper_at(double resistance_20, double celsius) { return resistance_20 * (235 + celsius) / 255; }

double copper_loss(double rms_current, double resistance_line) {
    return 1.5 * rms_current * rms_current * resistance_line;
}

} // namespace fulmox::motor_constants

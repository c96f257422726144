#include "core/drivetrain/bearing.h"

#include <cmath>
#include <numbers>

namespace fulmox {

double bearing_hours(double rating, double load, double speed) {
    const double rpm = std::abs(speed) * 30 / std::numbers::pi, ratio = rating / load;
    return 1e6 / (60 * rpm) * ratio * ratio * ratio;
}

} // namespace fulmox

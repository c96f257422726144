// Curves of a sheet: against its constants, and made from its ratings.
#pragma once

#include "core/motor/sheet.h"
#include "core/quantity/result.h"

#include <string>
#include <vector>

namespace fulmox {

/// Curves and constants of the same sheet, each at the point where they differ most, at the curve's voltage (space
/// vector, no reserve, no drive). Between the model at 20 °C and at the winding's limit they agree; a torque more than
/// a tenth beyond contradicts, and the note tells the likely cause. The continuous curve is compared up to the rated
/// speed: beyond it the constants do not tell its loss. A stepper's pull-out curve is compared with the model at its
/// own voltage and current: up to 15 % above it and down to half of it pass, since the model knows no iron loss.
std::vector<SheetPair> check_curves(const Motor& motor);

struct RatedCurves {
    std::vector<CurvePoint> continuous, peak;
};

/// Curves from the ratings alone: standstill torque, rated torque and speed, peak torque, maximum speed. Continuous:
/// T² falls with the square of the speed through both points, as loss by speed takes heat from the winding. Peak: level
/// up to the rated speed, from there straight to what is continuous at the maximum speed. An estimate. Fails with the
/// labels of what is missing, or with what does not fit together.
Result<RatedCurves, std::string> curves_from_ratings(const Motor& motor);

} // namespace fulmox

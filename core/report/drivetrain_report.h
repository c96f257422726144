// What the assessment says of coupling, brake and drive, for the JSON.
#pragma once

#include "core/match/assess.h"
#include "core/report/json_values.h"

namespace fulmox {

/// null where there is none, or where it is not known.
Value coupling_json(const Axis& axis, const Assessment& a);
Value brake_json(const Axis& axis, const Assessment& a);
Value drive_json(const Machine& machine, const Axis& axis, const Assessment& a);
Value screw_json(const Axis& axis, const Assessment& a);
Value stiffness_json(const Assessment& a);
Value precision_json(const Axis& axis, const Assessment& a);

} // namespace fulmox

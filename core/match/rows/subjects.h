// The subjects of the registry. A new limit or figure is a row in the file of its subject, and its test.
#pragma once

#include "core/match/rows/row.h"

namespace fulmox {

Rows motion_rows();
Rows load_rows();
Rows demand_rows();
Rows motor_rows();
Rows stepper_rows();
Rows heat_rows();
Rows stage_rows();
Rows coupling_rows();
Rows brake_rows();
Rows drive_rows();
Rows precision_rows();
Rows screw_rows();

/// All of them, in working order.
std::vector<Rows> all_rows();

} // namespace fulmox

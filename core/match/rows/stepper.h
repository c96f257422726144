// Limits that an open-loop stepper has in place of those of a servo.
#pragma once

#include "core/match/rows/row.h"

namespace fulmox {

void judge_pull_out(Limit& l, In in);
void judge_stepper_holding(Limit& l, In in);

} // namespace fulmox

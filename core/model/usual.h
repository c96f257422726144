#pragma once
// Values a new part begins with, and their change with its kind.
#include "core/model/machine.h"

namespace fulmox {

/// Friction of the thread, steel on bronze where it slides. Common practice, no source; Shigley lists 0.08 to 0.15.
const char* usual_friction(Thread thread);

/// Of one stage at its rated torque. Common practice, no source.
const char* usual_efficiency(StageKind kind);

/// Once a choice was made: what held the usual value of the kind before takes that of the new kind. What somebody typed
/// otherwise stays, and is pointed out where it is unusual for the kind.
void follow_kinds(Machine& now, const Machine& before);

} // namespace fulmox

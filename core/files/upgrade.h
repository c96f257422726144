// Older project files to the present layout, one step per version.
#pragma once

#include "core/files/document.h"

namespace fulmox {

/// Rewrites `d` from `version` to project_version. Lines stay those of the file as it was read.
void upgrade(JsonDocument& d, int version);

/// The same for the list "motors" of a catalogue or project: constants that stand beside the curves go to their kind.
void upgrade_motors(JsonDocument& d);

} // namespace fulmox

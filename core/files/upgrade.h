// Older project files to the present layout, one step per version.
#pragma once

#include "core/files/document.h"

namespace fulmox {

/// Rewrites `d` from `version` to project_version. Lines stay those of the file as it was read.
void upgrade(JsonDocument& d, int version);

} // namespace fulmox

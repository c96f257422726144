// Checks of a whole axis: every field against its description, and the fields against one another.
#pragma once

#include "core/model/machine.h"
#include "core/model/problem.h"

namespace fulmox {

/// Errors and flags of one axis; `path` is its JSON pointer. Motor fields are only checked when a motor is given.
/// Without `materials`, that bodies name known ones is not checked. `in_range`: every quantity is known to be within
/// its range, and is not looked at again.
Problems validate(
    const Axis& axis, const std::string& path, const std::vector<Material>* materials = nullptr, bool in_range = false);

/// What of the axis' parts cannot be together, whatever the axis asks; paths relative to the axis.
Problems contradictions(const Axis& axis);

/// The site alone.
Problems validate_site(const Machine& machine);

/// Site, policies and every axis.
Problems validate(const Machine& machine);

/// The policy of this name, or nothing.
const Policy* find_policy(const Machine& machine, const std::string& name);

} // namespace fulmox

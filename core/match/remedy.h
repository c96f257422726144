// What brings a limit back, proven by an assessment of the axis with it.
#pragma once

#include "core/match/assess.h"

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

struct Change {
    std::string path; ///< below the axis: "/drive/torque_limit"
    std::string text; ///< as somebody would type it, empty: the field is left empty
};

/// Changes that are made together.
struct Remedy {
    std::vector<Change> changes;
    Text text; ///< "torque limit 0.8 N·m and emergency stop in 0.04 s"
};

/// Whether a torque limit can bring back what this limit holds against its rating: coupling, gearhead, screw, shaft.
bool by_torque_limit(std::string_view limit_key);

/// The highest torque limit of the drive, to two digits, with which the limit `limit_key` is not over, with a longer
/// emergency stop where the one that is asked would take more torque. Of several such limits that are over all are
/// brought back where that is possible. With it no other limit of the axis is over that was not. Nothing where the
/// limit is not over or none does it. `go_on` is asked between two assessments.
std::optional<Remedy> torque_limit_remedy(
    const Machine& machine, std::size_t axis, std::string_view limit_key, const std::function<bool()>& go_on = {});

} // namespace fulmox

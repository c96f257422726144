// How long a shaft stays within a band of speed.
#pragma once

#include "core/demand/demand.h"

#include <vector>

namespace fulmox {

/// s in the cycle; a stay over the end of the cycle and on into its beginning is one, `from` before its end.
struct Stay {
    double from = 0;
    double lasts = 0;
};

/// Where low < |ω| < high, rad/s, one after the other.
std::vector<Stay> stays_between(const Demand& d, double low, double high);

} // namespace fulmox

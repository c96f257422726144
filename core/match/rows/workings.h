// Lines of working that rows of several subjects share.
#pragma once

#include "core/demand/demand.h"
#include "core/model/working.h"
#include "core/motor/capability.h"

#include <string>

namespace fulmox {

/// The torque of an instant as the sum of its causes.
WorkingLine sum_of_causes(const ShaftPoint& p);

/// The RMS torque from the heat of each segment, calculated from the samples of the spans.
Working rms_sum(const Demand& d, std::size_t segments);

/// Continuous torque at standstill, at this ambient and altitude.
WorkingLine continuous_at_rest(const Capability& c);

/// Continuous torque at a speed by the point method; `which` names the speed.
WorkingLine continuous_by_point(const Capability& c, double speed, double allowed, const std::string& which);

} // namespace fulmox

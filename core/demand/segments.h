// What each segment of a cycle asks of the motor.
#pragma once

#include "core/demand/demand.h"

#include <optional>
#include <vector>

namespace fulmox {

/// A torque that holds the axis at rest, signed like the speed: what the motor or the brake gives against the load.
struct Hold {
    double time = 0;    ///< s, where the rest begins
    double torque = 0;  ///< N·m at the motor shaft, or N of a linear drive
    double payload = 0; ///< kg
    bool by_brake = false;
};

/// One segment, all its playings together. Torques are those of the motor while it runs or stands, breakaway left out.
struct SegmentDemand {
    double duration = 0;            ///< s over all playings
    double rms_torque = 0;          ///< over the segment alone; 0 where a brake holds
    double heat_share = 0;          ///< of ∫ T² dt over the whole cycle; 0 where nothing is asked
    double peak_speed = 0;          ///< rad/s, or m/s
    std::optional<ShaftPoint> peak; ///< largest |T|, signed; nothing where a brake holds
    std::optional<Hold> hold;       ///< largest |T| at rest, if the axis stands in it
};

/// By index of the segment; one for each of `segments`, also where it is never played.
std::vector<SegmentDemand> by_segment(const Demand& d, std::size_t segments);

} // namespace fulmox

// One instant of the demand, with the quantities whose sign switches an efficiency.
#pragma once

#include "core/demand/demand.h"

namespace fulmox {

/// Load force, torque at the mechanism's shaft, torque out of each stage, torque at the motor: in that order.
struct Switches {
    std::array<double, 24> value;
    std::size_t count = 0;
    void put(double v) {
        if (count < value.size()) value[count++] = v;
    }
};

/// As evaluate(m, s, t); notes the switching quantities where asked.
ShaftState evaluate(const LoadModel& m, const Span& s, double t, Switches* switches);

} // namespace fulmox

// Losses of a mechanism that has no formula of its own for them.
#pragma once

#include "core/model/field.h"

namespace fulmox {

struct Losses {
    Quantity<Kind::number> efficiency{"0.95"};
    Quantity<Kind::number> efficiency_back;
    Quantity<Kind::torque> drag;
    Extra extra;
    bool operator==(const Losses&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.efficiency, {.key = "efficiency",
                                     .label = "Efficiency, driving",
                                     .unit = "1",
                                     .range = {0, 1, true},
                                     .typical = {0.3, 1},
                                     .help = "Of the mechanism, from its shaft to the load.",
                                     .symbol = "η_f"});
        v.quantity(s.efficiency_back, {.key = "efficiency_back",
                                          .label = "Efficiency, back",
                                          .unit = "1",
                                          .range = {-5, 1},
                                          .help = "From the load to the shaft. Zero or negative: self-locking.",
                                          .required = false,
                                          .if_empty = "2 − 1/η",
                                          .rare = true,
                                          .symbol = "η_b"});
        v.quantity(s.drag, {.key = "drag",
                               .label = "Drag at the shaft",
                               .unit = "N·m",
                               .range = {0, 1e6},
                               .help = "Bearings and seals, against the motion at any speed.",
                               .required = false,
                               .if_empty = "none",
                               .symbol = "T_d"});
    }
};

} // namespace fulmox

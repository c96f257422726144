#include "core/model/mechanisms/losses.h"

#include "core/model/visitor.h"

namespace fulmox {

void Losses::describe(FieldVisitor& v) {
    v.quantity(efficiency, {.key = "efficiency",
                               .label = "Efficiency, driving",
                               .unit = "1",
                               .range = {0, 1, true},
                               .typical = {0.3, 1},
                               .help = "Of the mechanism, from its shaft to the load.",
                               .symbol = "η_f"});
    v.quantity(efficiency_back, {.key = "efficiency_back",
                                    .label = "Efficiency, back",
                                    .unit = "1",
                                    .range = {-5, 1},
                                    .help = "From the load to the shaft. Zero or negative: self-locking.",
                                    .required = false,
                                    .if_empty = left_empty::stands_in("2 − 1/η"),
                                    .rare = true,
                                    .symbol = "η_b"});
    v.quantity(drag, {.key = "drag",
                         .label = "Drag at the shaft",
                         .unit = "N·m",
                         .range = {0, 1e6},
                         .help = "Bearings and seals, against the motion at any speed.",
                         .required = false,
                         .if_empty = left_empty::zero("none"),
                         .symbol = "T_d"});
}

} // namespace fulmox

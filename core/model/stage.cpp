#include "core/model/stage.h"

#include "core/model/visitor.h"

namespace fulmox {

void Stage::describe(FieldVisitor& v) {
    v.text(name, {"name", "Stage", "What it is."});
    v.choice(kind, {"type", "Type", kinds, "For the drawing and the record; the arithmetic is the same.", true, true,
                       Motion::shaft, need::record});
    v.quantity(ratio, {.key = "ratio",
                          .label = "Ratio",
                          .unit = "1",
                          .range = {0, 1e5, true},
                          .typical = {0.05, 500},
                          .help = "Input speed over output speed; 5 makes the motor turn five times as fast.",
                          .symbol = "i",
                          .needs = Motion::shaft,
                          .serves = need::travel});
    v.quantity(inertia, {.key = "inertia",
                            .label = "Inertia at its input",
                            .unit = "kg·cm²",
                            .range = {0, 1e10},
                            .help = "Gearhead sheets give it there; of a belt stage the sum reflected to the "
                                    "motor side. Counts with the load.",
                            .required = false,
                            .if_empty = "none",
                            .symbol = "J_s",
                            .needs = Motion::shaft,
                            .serves = need::inertia});
    v.quantity(efficiency, {.key = "efficiency",
                               .label = "Efficiency, driving",
                               .unit = "1",
                               .range = {0, 1, true},
                               .typical = {0.3, 1},
                               .help = "From the motor to the load.",
                               .symbol = "η_f",
                               .needs = Motion::shaft,
                               .serves = need::force});
    v.quantity(efficiency_back,
        {.key = "efficiency_back",
            .label = "Efficiency, back",
            .unit = "1",
            .range = {-5, 1},
            .help = "From the load to the motor. Zero or negative: self-locking, as worm gears can be.",
            .required = false,
            .if_empty = "2 − 1/η",
            .rare = true,
            .symbol = "η_b",
            .needs = Motion::shaft,
            .serves = need::force});
}

} // namespace fulmox

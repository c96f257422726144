#include "core/model/mechanisms/rotary.h"

#include "core/model/visitor.h"

namespace fulmox {

void RotaryTable::describe(FieldVisitor& v) {
    v.quantity(table_inertia, {.key = "table_inertia",
                                  .label = "Table inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e10},
                                  .help = "Of the table itself; or describe it as a body on the shaft.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none, or as a body"),
                                  .symbol = "J_t",
                                  .serves = need::inertia});
    v.quantity(tilt, {.key = "tilt",
                         .label = "Tilt of the axis",
                         .unit = "deg",
                         .range = {0, 180},
                         .help = "From the vertical. A tilted table with an eccentric load swings in gravity.",
                         .required = false,
                         .if_empty = left_empty::zero("0, axis vertical"),
                         .symbol = "δ",
                         .serves = need::force});
    v.quantity(horizontal_at, {.key = "horizontal_at",
                                  .label = "Level at",
                                  .unit = "deg",
                                  .range = {-360, 360},
                                  .help = "Angle of the table at which a body at offset angle 0 stands level "
                                          "with the axis on a tilted table: where gravity pulls hardest.",
                                  .required = false,
                                  .if_empty = left_empty::zero("0"),
                                  .rare = true,
                                  .symbol = "θ_h",
                                  .serves = need::force});
    v.quantity(payload_radius, {.key = "payload_radius",
                                   .label = "Radius of the payload",
                                   .unit = "mm",
                                   .range = {0, 1e5},
                                   .help = "Distance of the payload from the axis; it adds m r².",
                                   .required = false,
                                   .if_empty = left_empty::stands_in("on the axis"),
                                   .symbol = "r_p",
                                   .serves = need::inertia});
    v.quantity(
        friction_torque, {.key = "friction_torque",
                             .label = "Friction torque",
                             .unit = "N·m",
                             .range = {0, 1e7},
                             .help = "Of the table bearing under load, against the motion; passes the efficiency.",
                             .required = false,
                             .if_empty = left_empty::zero("none"),
                             .symbol = "T_f",
                             .serves = need::force});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void Arm::describe(FieldVisitor& v) {
    v.quantity(arm_inertia, {.key = "arm_inertia",
                                .label = "Arm inertia",
                                .unit = "kg·cm²",
                                .range = {0, 1e12},
                                .help = "Of the arm itself about its pivot.",
                                .required = false,
                                .if_empty = left_empty::stands_in("m (2 r)²/3, a rod"),
                                .symbol = "J_a",
                                .serves = need::inertia});
    v.quantity(arm_mass, {.key = "arm_mass",
                             .label = "Arm mass",
                             .unit = "kg",
                             .range = {0, 1e6},
                             .help = "Of the arm itself.",
                             .required = false,
                             .if_empty = left_empty::zero("none, or as bodies"),
                             .symbol = "m_a",
                             .serves = need::inertia});
    v.quantity(arm_centre, {.key = "arm_centre",
                               .label = "Arm centre of mass",
                               .unit = "mm",
                               .range = {0, 1e5},
                               .help = "Distance from the pivot.",
                               .required = false,
                               .if_empty = left_empty::stands_in("in the pivot"),
                               .symbol = "r_a",
                               .serves = need::inertia});
    v.quantity(payload_radius, {.key = "payload_radius",
                                   .label = "Reach to the payload",
                                   .unit = "mm",
                                   .range = {0, 1e5},
                                   .help = "From the pivot to the centre of the payload.",
                                   .symbol = "r_p",
                                   .serves = need::inertia});
    v.quantity(horizontal_at, {.key = "horizontal_at",
                                  .label = "Level at",
                                  .unit = "deg",
                                  .range = {-360, 360},
                                  .help = "Angle of the axis at which the arm stands level.",
                                  .required = false,
                                  .if_empty = left_empty::zero("0"),
                                  .symbol = "θ_h",
                                  .serves = need::force});
    v.quantity(friction_torque, {.key = "friction_torque",
                                    .label = "Friction torque",
                                    .unit = "N·m",
                                    .range = {0, 1e7},
                                    .help = "Of the joint under load, against the motion; passes the efficiency.",
                                    .required = false,
                                    .if_empty = left_empty::zero("none"),
                                    .symbol = "T_f",
                                    .serves = need::force});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void SliderCrank::describe(FieldVisitor& v) {
    v.quantity(crank, {.key = "crank",
                          .label = "Crank radius",
                          .unit = "mm",
                          .range = {0, 1e4, true},
                          .help = "Half the stroke.",
                          .symbol = "c",
                          .serves = need::travel});
    v.quantity(rod, {.key = "rod",
                        .label = "Rod length",
                        .unit = "mm",
                        .range = {0, 1e5, true},
                        .help = "Between its pins; longer than the crank. Share its mass between crank and slider.",
                        .symbol = "l",
                        .serves = need::travel});
    v.quantity(crank_inertia, {.key = "crank_inertia",
                                  .label = "Crank inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e10},
                                  .help = "Of crank, disc and shaft about the axis.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none, or as a body"),
                                  .symbol = "J_c",
                                  .serves = need::inertia});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void ScotchYoke::describe(FieldVisitor& v) {
    v.quantity(crank, {.key = "crank",
                          .label = "Crank radius",
                          .unit = "mm",
                          .range = {0, 1e4, true},
                          .help = "Half the stroke.",
                          .symbol = "c",
                          .serves = need::travel});
    v.quantity(crank_inertia, {.key = "crank_inertia",
                                  .label = "Crank inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e10},
                                  .help = "Of crank, disc and shaft about the axis.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none, or as a body"),
                                  .symbol = "J_c",
                                  .serves = need::inertia});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void Fan::describe(FieldVisitor& v) {
    v.quantity(rotor_inertia, {.key = "rotor_inertia",
                                  .label = "Impeller inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e10},
                                  .help = "With the fluid that turns along; or describe it as bodies.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none, or as bodies"),
                                  .symbol = "J_i",
                                  .serves = need::inertia});
    v.quantity(reference_torque, {.key = "reference_torque",
                                     .label = "Load torque",
                                     .unit = "N·m",
                                     .range = {0, 1e7},
                                     .help = "At the reference speed; falls with its square.",
                                     .symbol = "T_ref",
                                     .serves = need::force});
    v.quantity(reference_speed, {.key = "reference_speed",
                                    .label = "Reference speed",
                                    .unit = "rpm",
                                    .range = {0, 1e6, true},
                                    .help = "Where the load torque is known.",
                                    .symbol = "n_ref",
                                    .serves = need::force});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

} // namespace fulmox

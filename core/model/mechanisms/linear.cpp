#include "core/model/mechanisms/linear.h"

#include "core/model/visitor.h"

namespace fulmox {

void RackPinion::describe(FieldVisitor& v) {
    v.choice(cut, {"cut", "Teeth", cuts, "Helical teeth make the pitch circle larger by 1/cos β.", true});
    v.quantity(teeth, {.key = "teeth",
                          .label = "Teeth of the pinion",
                          .unit = "1",
                          .range = {3, 1000},
                          .help = "Number of teeth.",
                          .symbol = "z",
                          .serves = need::travel});
    v.quantity(module, {.key = "module",
                           .label = "Module",
                           .unit = "mm",
                           .range = {0, 100, true},
                           .typical = {0.2, 25},
                           .help = "Normal module m_n of helical teeth.",
                           .symbol = "m",
                           .serves = need::travel});
    v.quantity(helix,
        {.key = "helix",
            .label = "Helix angle",
            .unit = "deg",
            .range = {0, 60},
            .help = "On the pitch cylinder. 19.5283° makes the travel per turn of a normal module a round number.",
            .symbol = "β",
            .applies = cut == Teeth::helical,
            .serves = need::travel});
    v.quantity(pinion_inertia, {.key = "pinion_inertia",
                                   .label = "Pinion inertia",
                                   .unit = "kg·cm²",
                                   .range = {0, 1e8},
                                   .help = "Or leave empty and describe the pinion as a body on the shaft.",
                                   .required = false,
                                   .if_empty = left_empty::zero("none, or as a body"),
                                   .symbol = "J_p",
                                   .serves = need::inertia});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void BeltDrive::describe(FieldVisitor& v) {
    v.choice(loop, {"loop", "Loop", loops, "For the drawing; both run on z × pitch per turn.", true});
    v.choice(motor_seat, {"motor_seat", "Motor", seats, "A motor that rides is part of the moving mass.", true});
    v.quantity(teeth, {.key = "teeth",
                          .label = "Teeth of the pulley",
                          .unit = "1",
                          .range = {3, 1000},
                          .help = "Of the driving pulley or sprocket.",
                          .symbol = "z",
                          .serves = need::travel});
    v.quantity(pitch, {.key = "pitch",
                          .label = "Pitch",
                          .unit = "mm",
                          .range = {0, 500, true},
                          .typical = {1, 60},
                          .help = "Of the belt or chain.",
                          .symbol = "p",
                          .serves = need::travel});
    v.quantity(pulley_inertia, {.key = "pulley_inertia",
                                   .label = "Driving pulley inertia",
                                   .unit = "kg·cm²",
                                   .range = {0, 1e8},
                                   .help = "Or leave empty and describe it as a body on the shaft.",
                                   .required = false,
                                   .if_empty = left_empty::zero("none, or as a body"),
                                   .symbol = "J_1",
                                   .serves = need::inertia});
    v.quantity(idlers, {.key = "idlers",
                           .label = "Idlers",
                           .unit = "1",
                           .range = {0, 100},
                           .help = "How many further pulleys the loop turns.",
                           .symbol = "n_2",
                           .serves = need::inertia});
    v.quantity(idler_inertia, {.key = "idler_inertia",
                                  .label = "Inertia of one idler",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e8},
                                  .help = "Each turns faster than the driver where it is smaller.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none"),
                                  .symbol = "J_2",
                                  .serves = need::inertia});
    v.quantity(idler_diameter, {.key = "idler_diameter",
                                   .label = "Idler diameter",
                                   .unit = "mm",
                                   .range = {0, 1e4, true},
                                   .help = "Pitch diameter.",
                                   .required = false,
                                   .if_empty = left_empty::stands_in("as the driving pulley"),
                                   .symbol = "d_2",
                                   .serves = need::inertia});
    v.quantity(
        belt_mass, {.key = "belt_mass",
                       .label = "Mass of the belt",
                       .unit = "kg",
                       .range = {0, 1e5},
                       .help = "The whole loop where it runs; for a motor that rides the belt stands and this is 0.",
                       .required = false,
                       .if_empty = left_empty::zero("none"),
                       .symbol = "m_b",
                       .serves = need::inertia});
    v.quantity(riding_mass, {.key = "riding_mass",
                                .label = "Motor and gearhead",
                                .unit = "kg",
                                .range = {0, 1e5},
                                .help = "Mass that rides with the carriage.",
                                .required = false,
                                .if_empty = left_empty::stands_in("of the chosen motor"),
                                .symbol = "m_r",
                                .applies = motor_seat == MotorSeat::rides,
                                .serves = need::inertia});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void LinearMotor::describe(FieldVisitor&) {}

void FreeForm::describe(FieldVisitor& v) {
    v.choice(moves, {"moves", "Load moves", kinds, "Along a line by a travel per turn, or as the shaft itself.", true});
    v.quantity(travel, {.key = "travel",
                           .label = "Travel per turn",
                           .unit = "mm",
                           .range = {0, 1e5, true},
                           .help = "Of the load for one turn of the input shaft.",
                           .symbol = "p",
                           .applies = moves == FreeMotion::linear,
                           .serves = need::travel});
    v.quantity(inertia, {.key = "inertia",
                            .label = "Inertia at the shaft",
                            .unit = "kg·cm²",
                            .range = {0, 1e10},
                            .help = "Everything that is not given as mass or body.",
                            .required = false,
                            .if_empty = left_empty::zero("none"),
                            .symbol = "J",
                            .serves = need::inertia});
    v.quantity(friction_torque, {.key = "friction_torque",
                                    .label = "Friction torque",
                                    .unit = "N·m",
                                    .range = {0, 1e7},
                                    .help = "At the load, against the motion; passes the efficiency.",
                                    .required = false,
                                    .if_empty = left_empty::zero("none"),
                                    .symbol = "T_f",
                                    .serves = need::force});
    v.quantity(constant_torque, {.key = "constant_torque",
                                    .label = "Constant torque",
                                    .unit = "N·m",
                                    .range = {-1e7, 1e7},
                                    .help = "At the load in the positive direction: a weight on a drum, a spring.",
                                    .required = false,
                                    .if_empty = left_empty::zero("none"),
                                    .symbol = "T_0",
                                    .serves = need::force});
    v.group(losses, {"losses", "Losses", "", false, need::losses});
}

void GivenDemand::describe(FieldVisitor& v) {
    v.choice(
        at, {"at", "Demand given", places,
                "At a shaft: torques and speeds of the motor's, or of the output of the stages. At a screw: forces "
                "and speeds of its nut. Page 2 loads the table.",
                true});
    v.quantity(lead, {.key = "lead",
                         .label = "Lead",
                         .unit = "mm",
                         .range = {0, 1000, true},
                         .help = "Travel per turn of the screw.",
                         .symbol = "l",
                         .applies = at == DemandAt::screw,
                         .serves = need::travel});
    v.quantity(inertia,
        {.key = "inertia",
            .label = "Inertia for the ratio",
            .unit = "kg·cm²",
            .range = {0, 1e10},
            .help = "Of the load, at that shaft. The demand holds it already, so that it adds no torque; the ratio to "
                    "the rotor wants it.",
            .required = false,
            .if_empty = left_empty::not_asked("ratio not judged"),
            .symbol = "J",
            .serves = need::ratio_inertia});
    v.group(losses, {"losses", "Losses", "Between that place and the stages.", false, need::losses});
}

} // namespace fulmox

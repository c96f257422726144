#include "core/model/motor.h"

#include "core/model/visitor.h"

namespace fulmox {

void CurvePoint::describe(FieldVisitor& v) {
    v.quantity(speed, {.key = "speed",
                          .label = "Speed",
                          .unit = "rpm",
                          .range = {0, 1e6},
                          .help = "Shaft speed of this point.",
                          .symbol = "n"});
    v.quantity(torque, {.key = "torque",
                           .label = "Torque",
                           .unit = "N·m",
                           .range = {0, 1e7},
                           .help = "Torque of the curve at this speed.",
                           .symbol = "T"});
}

void Motor::describe(FieldVisitor& v) {
    v.text(name, {"name", "Motor", "Type designation."});
    v.text(origin, {"origin", "From", "Catalogue or datasheet these numbers come from."});
    v.quantity(rotor_inertia, {.key = "rotor_inertia",
                                  .label = "Rotor inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e8, true},
                                  .help = "With encoder, without brake.",
                                  .symbol = "J_M",
                                  .serves = need::rotor});
    v.quantity(max_speed, {.key = "max_speed",
                              .label = "Maximum speed",
                              .unit = "rpm",
                              .range = {0, 1e6, true},
                              .help = "Mechanical limit of the motor.",
                              .symbol = "n_max",
                              .serves = need::top_speed});
    v.list(continuous, {"continuous", "Continuous curve", "point",
                           "Speed and torque that may run for ever at rated ambient.", 200, need::continuous_curve});
    v.list(peak, {"peak", "Peak curve", "point", "Speed and torque reachable for a moment at the curve's bus voltage.",
                     200, need::peak_curve});
    v.quantity(curve_voltage, {.key = "curve_voltage",
                                  .label = "Curve bus voltage",
                                  .unit = "V",
                                  .range = {0, 2000, true},
                                  .help = "DC bus voltage at which the curves were drawn.",
                                  .symbol = "U_0",
                                  .serves = need::voltage});
    v.quantity(rated_ambient, {.key = "rated_ambient",
                                  .label = "Rated ambient",
                                  .unit = "°C",
                                  .range = {-60, 120},
                                  .help = "Ambient of the continuous curve; 40 °C unless the sheet says otherwise.",
                                  .source = "IEC 60034-1",
                                  .rare = true,
                                  .symbol = "θ_r",
                                  .serves = need::surroundings});
    v.quantity(winding_limit, {.key = "winding_limit",
                                  .label = "Winding limit",
                                  .unit = "°C",
                                  .range = {60, 300},
                                  .help = "Class B 130 °C, F 155 °C, H 180 °C.",
                                  .source = "IEC 60085",
                                  .rare = true,
                                  .symbol = "θ_max",
                                  .serves = need::surroundings});
    v.quantity(torque_constant, {.key = "torque_constant",
                                    .label = "Torque constant",
                                    .unit = "N·m/A",
                                    .range = {0, 1e4, true},
                                    .help = "Per RMS ampere of line current at 20 °C. A sheet that means peak "
                                            "amperes shows it 1.41 times smaller.",
                                    .required = false,
                                    .if_empty = "no currents",
                                    .symbol = "K_t",
                                    .serves = need::current});
    v.quantity(resistance, {.key = "resistance",
                               .label = "Resistance R_LL",
                               .unit = "Ω",
                               .range = {0, 1e5, true},
                               .help = "Terminal to terminal, between two leads at 20 °C; not per phase.",
                               .required = false,
                               .if_empty = "no loss shown",
                               .symbol = "R_LL",
                               .serves = need::resistance});
    v.quantity(brake_inertia, {.key = "brake_inertia",
                                  .label = "Motor brake inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e8},
                                  .help = "Sits rigidly on the rotor and counts with it.",
                                  .required = false,
                                  .if_empty = "none",
                                  .symbol = "J_B",
                                  .serves = need::rotor});
    v.quantity(brake_torque, {.key = "brake_torque",
                                 .label = "Motor brake torque",
                                 .unit = "N·m",
                                 .range = {0, 1e7, true},
                                 .help = "Static holding torque of the spring-applied brake. Empty: no brake.",
                                 .required = false,
                                 .if_empty = "no brake",
                                 .symbol = "T_B",
                                 .serves = need::motor_brake});
    v.quantity(mass, {.key = "mass",
                         .label = "Motor mass",
                         .unit = "kg",
                         .range = {0, 1e5, true},
                         .help = "With brake.",
                         .required = false,
                         .if_empty = "not shown",
                         .rare = true,
                         .symbol = "m_M",
                         .serves = need::riding_mass});
    v.quantity(shaft_diameter, {.key = "shaft_diameter",
                                   .label = "Shaft diameter",
                                   .unit = "mm",
                                   .range = {0, 1000, true},
                                   .help = "Frame size does not tell it: check.",
                                   .required = false,
                                   .if_empty = "not shown",
                                   .rare = true,
                                   .symbol = "d_M"});
    v.quantity(price, {.key = "price",
                          .label = "Price",
                          .unit = "1",
                          .range = {0, 1e7},
                          .help = "In the currency of your catalogue.",
                          .required = false,
                          .if_empty = "not shown",
                          .rare = true});
}

void Drive::describe(FieldVisitor& v) {
    v.quantity(bus_voltage,
        {.key = "bus_voltage",
            .label = "Bus voltage",
            .unit = "V",
            .range = {0, 2000, true},
            .help = "Lowest DC bus voltage in service. The knee of the peak curve moves with it (estimate).",
            .symbol = "U",
            .serves = need::voltage});
    v.quantity(stop_time, {.key = "stop_time",
                              .label = "Emergency stop in",
                              .unit = "s",
                              .range = {0, 1000, true},
                              .help = "Time from top speed to standstill under the drive's torque.",
                              .required = false,
                              .if_empty = "not calculated",
                              .symbol = "t_E"});
    v.quantity(stop_distance, {.key = "stop_distance",
                                  .label = "Emergency stop within",
                                  .unit = "mm",
                                  .range = {0, 1e6, true},
                                  .help = "Distance of the load from top speed, where no time is given.",
                                  .required = false,
                                  .if_empty = "by time",
                                  .rare = true,
                                  .symbol = "d_E",
                                  .rotary_unit = "deg",
                                  .rotary_range = {0, 3.6e6, true}});
}

} // namespace fulmox

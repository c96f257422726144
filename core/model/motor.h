// The motor as its datasheet gives it, and the little this version asks of its drive.
#pragma once

#include "core/model/field.h"
#include "core/model/motion_quantity.h"

#include <string>
#include <vector>

namespace fulmox {

/// A point of a datasheet curve.
struct CurvePoint {
    Quantity<Kind::angular_speed> speed;
    Quantity<Kind::torque> torque;
    Extra extra;
    bool operator==(const CurvePoint&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.speed, {.key = "speed",
                                .label = "Speed",
                                .unit = "rpm",
                                .range = {0, 1e6},
                                .help = "Shaft speed of this point.",
                                .symbol = "n"});
        v.quantity(s.torque, {.key = "torque",
                                 .label = "Torque",
                                 .unit = "N·m",
                                 .range = {0, 1e7},
                                 .help = "Torque of the curve at this speed.",
                                 .symbol = "T"});
    }
};

struct Motor {
    std::string name;
    std::string origin;
    Quantity<Kind::inertia> rotor_inertia;
    Quantity<Kind::angular_speed> max_speed;
    std::vector<CurvePoint> continuous;
    std::vector<CurvePoint> peak;
    Quantity<Kind::voltage> curve_voltage;
    Quantity<Kind::temperature> rated_ambient{"40 °C"};
    Quantity<Kind::temperature> winding_limit{"155 °C"};
    Quantity<Kind::torque_constant> torque_constant;
    Quantity<Kind::resistance> resistance;
    Quantity<Kind::inertia> brake_inertia;
    Quantity<Kind::torque> brake_torque;
    Quantity<Kind::mass> mass;
    Quantity<Kind::length> shaft_diameter;
    Quantity<Kind::number> price;
    Extra extra;

    bool operator==(const Motor&) const = default;
    bool empty() const { return name.empty() && continuous.empty() && peak.empty() && !rotor_inertia.given(); }

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "Motor", "Type designation."});
        v.text(s.origin, {"origin", "From", "Catalogue or datasheet these numbers come from."});
        v.quantity(s.rotor_inertia, {.key = "rotor_inertia",
                                        .label = "Rotor inertia",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e8, true},
                                        .help = "With encoder, without brake.",
                                        .symbol = "J_M",
                                        .serves = need::rotor});
        v.quantity(s.max_speed, {.key = "max_speed",
                                    .label = "Maximum speed",
                                    .unit = "rpm",
                                    .range = {0, 1e6, true},
                                    .help = "Mechanical limit of the motor.",
                                    .symbol = "n_max",
                                    .serves = need::top_speed});
        v.list(
            s.continuous, {"continuous", "Continuous curve", "point",
                              "Speed and torque that may run for ever at rated ambient.", 200, need::continuous_curve});
        v.list(
            s.peak, {"peak", "Peak curve", "point",
                        "Speed and torque reachable for a moment at the curve's bus voltage.", 200, need::peak_curve});
        v.quantity(s.curve_voltage, {.key = "curve_voltage",
                                        .label = "Curve bus voltage",
                                        .unit = "V",
                                        .range = {0, 2000, true},
                                        .help = "DC bus voltage at which the curves were drawn.",
                                        .symbol = "U_0",
                                        .serves = need::voltage});
        v.quantity(
            s.rated_ambient, {.key = "rated_ambient",
                                 .label = "Rated ambient",
                                 .unit = "°C",
                                 .range = {-60, 120},
                                 .help = "Ambient of the continuous curve; 40 °C unless the sheet says otherwise.",
                                 .source = "IEC 60034-1",
                                 .rare = true,
                                 .symbol = "θ_r",
                                 .serves = need::surroundings});
        v.quantity(s.winding_limit, {.key = "winding_limit",
                                        .label = "Winding limit",
                                        .unit = "°C",
                                        .range = {60, 300},
                                        .help = "Class B 130 °C, F 155 °C, H 180 °C.",
                                        .source = "IEC 60085",
                                        .rare = true,
                                        .symbol = "θ_max",
                                        .serves = need::surroundings});
        v.quantity(s.torque_constant, {.key = "torque_constant",
                                          .label = "Torque constant",
                                          .unit = "N·m/A",
                                          .range = {0, 1e4, true},
                                          .help = "Per RMS ampere of line current at 20 °C. A sheet that means peak "
                                                  "amperes shows it 1.41 times smaller.",
                                          .required = false,
                                          .if_empty = "no currents",
                                          .symbol = "K_t",
                                          .serves = need::current});
        v.quantity(s.resistance, {.key = "resistance",
                                     .label = "Resistance R_LL",
                                     .unit = "Ω",
                                     .range = {0, 1e5, true},
                                     .help = "Terminal to terminal, between two leads at 20 °C; not per phase.",
                                     .required = false,
                                     .if_empty = "no loss shown",
                                     .symbol = "R_LL",
                                     .serves = need::resistance});
        v.quantity(s.brake_inertia, {.key = "brake_inertia",
                                        .label = "Motor brake inertia",
                                        .unit = "kg·cm²",
                                        .range = {0, 1e8},
                                        .help = "Sits rigidly on the rotor and counts with it.",
                                        .required = false,
                                        .if_empty = "none",
                                        .symbol = "J_B",
                                        .serves = need::rotor});
        v.quantity(s.brake_torque, {.key = "brake_torque",
                                       .label = "Motor brake torque",
                                       .unit = "N·m",
                                       .range = {0, 1e7, true},
                                       .help = "Static holding torque of the spring-applied brake. Empty: no brake.",
                                       .required = false,
                                       .if_empty = "no brake",
                                       .symbol = "T_B",
                                       .serves = need::motor_brake});
        v.quantity(s.mass, {.key = "mass",
                               .label = "Motor mass",
                               .unit = "kg",
                               .range = {0, 1e5, true},
                               .help = "With brake.",
                               .required = false,
                               .if_empty = "not shown",
                               .rare = true,
                               .symbol = "m_M",
                               .serves = need::riding_mass});
        v.quantity(s.shaft_diameter, {.key = "shaft_diameter",
                                         .label = "Shaft diameter",
                                         .unit = "mm",
                                         .range = {0, 1000, true},
                                         .help = "Frame size does not tell it: check.",
                                         .required = false,
                                         .if_empty = "not shown",
                                         .rare = true,
                                         .symbol = "d_M"});
        v.quantity(s.price, {.key = "price",
                                .label = "Price",
                                .unit = "1",
                                .range = {0, 1e7},
                                .help = "In the currency of your catalogue.",
                                .required = false,
                                .if_empty = "not shown",
                                .rare = true});
    }
};

struct Drive {
    Quantity<Kind::voltage> bus_voltage{"320 V"};
    Quantity<Kind::time> stop_time;
    MotionQuantity<Order::position> stop_distance;
    Extra extra;
    bool operator==(const Drive&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.bus_voltage,
            {.key = "bus_voltage",
                .label = "Bus voltage",
                .unit = "V",
                .range = {0, 2000, true},
                .help = "Lowest DC bus voltage in service. The knee of the peak curve moves with it (estimate).",
                .symbol = "U",
                .serves = need::voltage});
        v.quantity(s.stop_time, {.key = "stop_time",
                                    .label = "Emergency stop in",
                                    .unit = "s",
                                    .range = {0, 1000, true},
                                    .help = "Time from top speed to standstill under the drive's torque.",
                                    .required = false,
                                    .if_empty = "not reckoned",
                                    .symbol = "t_E"});
        v.quantity(s.stop_distance, {.key = "stop_distance",
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
};

} // namespace fulmox

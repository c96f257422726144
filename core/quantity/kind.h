// Kinds of quantity (ISO 80000-1, 3.2). A field's type is Quantity<Kind>, so torque and energy, which share a
// dimension, stay apart.
#pragma once

#include "core/quantity/dimension.h"

#include <string_view>

namespace fulmox {

enum class Kind {
    number,
    length,
    angle,
    mass,
    time,
    frequency,
    speed,
    angular_speed,
    acceleration,
    angular_acceleration,
    jerk,
    angular_jerk,
    force,
    torque,
    inertia,
    power,
    energy,
    voltage,
    current,
    resistance,
    inductance,
    capacitance,
    torque_constant,
    voltage_constant,
    speed_constant,
    temperature,
    temperature_difference,
    stiffness,
    torsional_stiffness,
    damping,
    pressure,
    density,
    area,
    volume,
    count,
    count_rate,
    count_per_angle,
    length_per_angle,
    thermal_resistance,
    heat_capacity,
    charge,
    force_constant,
    linear_voltage_constant,
    motor_constant,
    linear_motor_constant,
    current_squared_time,
    illegal
};

struct KindInfo {
    Kind kind;
    std::string_view name;    ///< as a person says it: "torque"
    Dimension dimension;      ///< of the SI unit
    std::string_view si_unit; ///< symbol in the unit table
};

const KindInfo& info(Kind kind);

inline Dimension dimension_of(Kind kind) { return info(kind).dimension; }

/// Every kind but `illegal`, in table order.
int kind_count();

} // namespace fulmox

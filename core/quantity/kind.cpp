#include "core/quantity/kind.h"

#include <array>
#include <cstddef>

namespace fulmox {

namespace {

// Columns of a dimension: length, mass, time, current, temperature, angle, √W.
constexpr std::array kinds{
    KindInfo{Kind::number, "number", {}, "1"},
    KindInfo{Kind::length, "length", {1}, "m"},
    KindInfo{Kind::angle, "angle", {0, 0, 0, 0, 0, 1}, "rad"},
    KindInfo{Kind::mass, "mass", {0, 1}, "kg"},
    KindInfo{Kind::time, "time", {0, 0, 1}, "s"},
    KindInfo{Kind::frequency, "frequency", {0, 0, -1}, "Hz"},
    KindInfo{Kind::speed, "speed", {1, 0, -1}, "m/s"},
    KindInfo{Kind::angular_speed, "angular speed", {0, 0, -1, 0, 0, 1}, "rad/s"},
    KindInfo{Kind::acceleration, "acceleration", {1, 0, -2}, "m/s²"},
    KindInfo{Kind::angular_acceleration, "angular acceleration", {0, 0, -2, 0, 0, 1}, "rad/s²"},
    KindInfo{Kind::jerk, "jerk", {1, 0, -3}, "m/s³"},
    KindInfo{Kind::angular_jerk, "angular jerk", {0, 0, -3, 0, 0, 1}, "rad/s³"},
    KindInfo{Kind::force, "force", {1, 1, -2}, "N"},
    KindInfo{Kind::torque, "torque", {2, 1, -2}, "N·m"},
    KindInfo{Kind::inertia, "moment of inertia", {2, 1}, "kg·m²"},
    KindInfo{Kind::power, "power", {2, 1, -3}, "W"},
    KindInfo{Kind::energy, "energy", {2, 1, -2}, "J"},
    KindInfo{Kind::voltage, "voltage", {2, 1, -3, -1}, "V"},
    KindInfo{Kind::current, "current", {0, 0, 0, 1}, "A"},
    KindInfo{Kind::resistance, "resistance", {2, 1, -3, -2}, "Ω"},
    KindInfo{Kind::inductance, "inductance", {2, 1, -2, -2}, "H"},
    KindInfo{Kind::capacitance, "capacitance", {-2, -1, 4, 2}, "F"},
    KindInfo{Kind::torque_constant, "torque constant", {2, 1, -2, -1}, "N·m/A"},
    KindInfo{Kind::voltage_constant, "voltage constant", {2, 1, -2, -1, 0, -1}, "V·s/rad"},
    KindInfo{Kind::speed_constant, "speed constant", {-2, -1, 2, 1, 0, 1}, "rad/s/V"},
    KindInfo{Kind::temperature, "temperature", {0, 0, 0, 0, 1}, "K"},
    KindInfo{Kind::temperature_difference, "temperature difference", {0, 0, 0, 0, 1}, "K"},
    KindInfo{Kind::stiffness, "stiffness", {0, 1, -2}, "N/m"},
    KindInfo{Kind::torsional_stiffness, "torsional stiffness", {2, 1, -2, 0, 0, -1}, "N·m/rad"},
    KindInfo{Kind::damping, "viscous friction", {0, 1, -1}, "N·s/m"},
    KindInfo{Kind::pressure, "pressure or modulus", {-1, 1, -2}, "Pa"},
    KindInfo{Kind::density, "density", {-3, 1}, "kg/m³"},
    KindInfo{Kind::area, "area", {2}, "m²"},
    KindInfo{Kind::volume, "volume", {3}, "m³"},
    KindInfo{Kind::count, "count", {}, "counts"},
    KindInfo{Kind::count_rate, "pulse rate", {0, 0, -1}, "counts/s"},
    KindInfo{Kind::count_per_angle, "counts per turn", {0, 0, 0, 0, 0, -1}, "counts/rad"},
    KindInfo{Kind::length_per_angle, "length per turn", {1, 0, 0, 0, 0, -1}, "m/rad"},
    KindInfo{Kind::thermal_resistance, "thermal resistance", {-2, -1, 3, 0, 1}, "K/W"},
    KindInfo{Kind::heat_capacity, "heat capacity", {2, 1, -2, 0, -1}, "J/K"},
    KindInfo{Kind::charge, "charge", {0, 0, 1, 1}, "C"},
    KindInfo{Kind::force_constant, "force constant", {1, 1, -2, -1}, "N/A"},
    KindInfo{Kind::linear_voltage_constant, "voltage constant along a line", {1, 1, -2, -1}, "V·s/m"},
    KindInfo{Kind::motor_constant, "motor constant", {2, 1, -2, 0, 0, 0, -1}, "N·m/√W"},
    KindInfo{Kind::linear_motor_constant, "motor constant along a line", {1, 1, -2, 0, 0, 0, -1}, "N/√W"},
    KindInfo{Kind::current_squared_time, "current squared over time", {0, 0, 1, 2}, "A²·s"},
};

static_assert(kinds.size() == static_cast<std::size_t>(Kind::illegal));

consteval bool ordered() {
    for (std::size_t i = 0; i < kinds.size(); ++i)
        if (kinds[i].kind != static_cast<Kind>(i)) return false;
    return true;
}
static_assert(ordered(), "the kinds follows the order of the enumeration");

} // namespace

const KindInfo& info(Kind kind) { return kinds.at(static_cast<std::size_t>(kind)); }

int kind_count() { return static_cast<int>(kinds.size()); }

std::string Dimension::symbol() const {
    static constexpr std::array<const char*, 10> digits{"⁰", "¹", "²", "³", "⁴", "⁵", "⁶", "⁷", "⁸", "⁹"};
    std::string out;
    const auto put = [&](const char* name, int exponent) {
        if (exponent == 0) return;
        if (!out.empty()) out += "·";
        out += name;
        if (exponent == 1) return;
        if (exponent < 0) out += "⁻";
        const int e = exponent < 0 ? -exponent : exponent;
        for (const char c : std::to_string(e)) out += digits[static_cast<std::size_t>(c - '0')];
    };
    put("m", length);
    put("kg", mass);
    put("s", time);
    put("A", current);
    put("K", temperature);
    put("rad", angle);
    put("√W", root_watt);
    return out.empty() ? "1" : out;
}

} // namespace fulmox

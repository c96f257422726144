// Exponents of the base dimensions. The plane angle is carried along so that rpm and hertz, or torque per
// radian and torque, cannot be taken for one another.
#pragma once

#include <string>

namespace fulmox {

/// Saturates at ±100 so that a hostile exponent cannot wrap round.
constexpr signed char narrow_exponent(int v) { return static_cast<signed char>(v > 100 ? 100 : v < -100 ? -100 : v); }

struct Dimension {
    signed char length = 0, mass = 0, time = 0, current = 0, temperature = 0, angle = 0;
    signed char root_watt = 0; ///< √W of a motor constant; half exponents are kept nowhere else

    constexpr bool operator==(const Dimension&) const = default;

    constexpr Dimension operator+(const Dimension& o) const {
        return {narrow_exponent(length + o.length), narrow_exponent(mass + o.mass), narrow_exponent(time + o.time),
            narrow_exponent(current + o.current), narrow_exponent(temperature + o.temperature),
            narrow_exponent(angle + o.angle), narrow_exponent(root_watt + o.root_watt)};
    }
    constexpr Dimension operator*(int n) const {
        return {narrow_exponent(length * n), narrow_exponent(mass * n), narrow_exponent(time * n),
            narrow_exponent(current * n), narrow_exponent(temperature * n), narrow_exponent(angle * n),
            narrow_exponent(root_watt * n)};
    }
    constexpr Dimension operator-(const Dimension& o) const { return *this + o * -1; }

    constexpr bool is_number() const { return *this == Dimension{}; }
    constexpr Dimension without_angle() const {
        Dimension d = *this;
        d.angle = 0;
        return d;
    }

    /// SI base symbols, for example "m²·kg·s⁻²·rad⁻¹"; "1" for a pure number.
    std::string symbol() const;
};

} // namespace fulmox

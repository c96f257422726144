#include "core/motor/conventions.h"

#include "core/motor/constants.h"

#include <algorithm>
#include <array>
#include <numbers>

namespace fulmox {

namespace {

using std::numbers::pi;
using namespace motor_constants;

constexpr std::array sine_torque{
    Convention{"rms", "per A RMS of line current", kt_per_rms_ampere},
    Convention{"peak", "per A peak of line current", kt_per_peak_ampere},
    Convention{"q_wye", "power-invariant q axis, wye windings", ke_line_rms},
    Convention{"q_delta", "power-invariant q axis, delta phase quantities", delta_power_invariant},
    Convention{"dc_sine", "per A of the DC link, block-commutated", 3 / pi* ke_line_peak},
};
// of steppers: sines in m phases, T = m/2 k i; holding torque with phases at their rated current
constexpr std::array two_phase_torque{
    Convention{"rms", "per A RMS of a phase", std::numbers::sqrt2},
    Convention{"peak", "per A peak of a phase", 1},
    Convention{"holding", "holding torque per A, both phases on", std::numbers::sqrt2},
};
constexpr std::array five_phase_torque{
    Convention{"rms", "per A RMS of a phase", 2.5 * std::numbers::sqrt2},
    Convention{"peak", "per A peak of a phase", 2.5},
    Convention{"holding_four", "holding torque per A, four phases on", 3.0776835371752527},
    Convention{"holding_five", "holding torque per A, five phases on", 3.2360679774997898},
};
constexpr std::array stepper_voltage{
    Convention{"phase_rms", "of a phase, RMS", ke_phase_rms},
    Convention{"phase_peak", "of a phase, peak", 1},
};

constexpr std::array trapezoid_torque{Convention{"dc", "per A of the DC link", 2}};
constexpr std::array dc_torque{Convention{"dc", "per A", 1}};

constexpr std::array sine_voltage{
    Convention{"line_rms", "line to line, RMS", ke_line_rms},
    Convention{"line_peak", "line to line, peak", ke_line_peak},
    Convention{"phase_rms", "wye phase, RMS", ke_phase_rms},
    Convention{"phase_peak", "wye phase, peak", 1},
    Convention{"delta_rms", "delta winding, RMS", ke_line_rms},
    Convention{"delta_peak", "delta winding, peak", ke_line_peak},
};
// RMS of a trapezoid flat over 120° in the phase: √(7/9) of its top; line to line it is flat over 60°: √(5/9)
constexpr std::array trapezoid_voltage{
    Convention{"line_rms", "line to line, RMS", 2 * 0.74535599249992989880},
    Convention{"line_peak", "line to line, flat top", 2},
    Convention{"phase_rms", "wye phase, RMS", 0.88191710368819686},
    Convention{"phase_peak", "wye phase, flat top", 1},
    Convention{"delta_rms", "delta winding, RMS", 2 * 0.74535599249992989880},
    Convention{"delta_peak", "delta winding, flat top", 2},
};
constexpr std::array dc_voltage{Convention{"dc", "of the terminals", 1}};

constexpr std::array winding{
    Convention{"line", "terminal to terminal", 1},
    Convention{"wye_phase", "per phase, wye", 0.5},
    Convention{"delta_phase", "per phase, delta", 1.5},
};

} // namespace

std::span<const Convention> torque_conventions(EmfBase base) {
    if (base == EmfBase::sine) return sine_torque;
    if (base == EmfBase::two_phase) return two_phase_torque;
    if (base == EmfBase::five_phase) return five_phase_torque;
    return base == EmfBase::trapezoid ? std::span<const Convention>(trapezoid_torque) : dc_torque;
}

std::span<const Convention> voltage_conventions(EmfBase base) {
    if (base == EmfBase::sine) return sine_voltage;
    if (base == EmfBase::two_phase || base == EmfBase::five_phase) return stepper_voltage;
    return base == EmfBase::trapezoid ? std::span<const Convention>(trapezoid_voltage) : dc_voltage;
}

std::span<const Convention> winding_conventions() { return winding; }

double flux_fall(Magnet magnet) {
    switch (magnet) {
    case Magnet::neodymium:
        return 0.0011;
    case Magnet::samarium_cobalt:
        return 0.0004;
    case Magnet::ferrite:
        return 0.002;
    case Magnet::alnico:
        return 0.0002;
    }
    return 0;
}

double flux_at(Magnet magnet, double celsius) { return std::max(0.0, 1 - flux_fall(magnet) * (celsius - 20)); }

} // namespace fulmox

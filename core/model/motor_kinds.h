// Kinds of motor, each with the constants its datasheet quotes, in the words of the sheet. When adding one: a struct
// with its description here, its constants and capability in core/motor/kinds.cpp, its tests, and one entry in
// `MotorKind`.
#pragma once

#include "core/model/field.h"
#include "core/model/motion_quantity.h"

#include <variant>

namespace fulmox {

/// What a sheet may mean by a constant; the factors stand in core/motor/conventions.h.
enum class TorquePer { rms, peak, q_wye, q_delta };
enum class EmfOf { line_rms, line_peak, phase_rms, phase_peak, delta_rms, delta_peak };
enum class WindingPart { line, wye_phase, delta_phase };
enum class AmperesAs { rms, peak };
enum class Magnet { neodymium, samarium_cobalt, ferrite, alnico };
enum class EmfShape { trapezoidal, sine };
enum class ForcerCore { iron, ironless };
/// What notices a lost step: nothing; an alarm or a correction at the end of the move; the commutation itself.
enum class StepperControl { open_loop, lost_step, position };
/// How the half windings of a two-phase motor are connected: four leads leave no choice.
enum class StepperRating { four_leads, half_coil, series, parallel };
enum class StepperConnection { half_coil, series, parallel };
/// How a drive feeds five phases.
enum class FivePhaseBridge { per_phase, star, pentagon_72, pentagon_144 };
enum class PhasesOn { four, five };

/// Options of these choices, in the order of their enumerations.
namespace motor_options {
inline constexpr Option torque_per[] = {{"rms", "per A RMS of line current"}, {"peak", "per A peak of line current"},
    {"q_wye", "power-invariant, wye"}, {"q_delta", "power-invariant, delta"}};
inline constexpr Option emf_of[] = {{"line_rms", "line to line, RMS"}, {"line_peak", "line to line, peak"},
    {"phase_rms", "wye phase, RMS"}, {"phase_peak", "wye phase, peak"}, {"delta_rms", "delta winding, RMS"},
    {"delta_peak", "delta winding, peak"}};
inline constexpr Option winding_part[] = {
    {"line", "terminal to terminal"}, {"wye_phase", "per phase, wye"}, {"delta_phase", "per phase, delta"}};
inline constexpr Option amperes_as[] = {{"rms", "A RMS"}, {"peak", "A peak"}};
inline constexpr Option magnet[] = {
    {"neodymium", "NdFeB"}, {"samarium_cobalt", "SmCo"}, {"ferrite", "ferrite"}, {"alnico", "AlNiCo"}};
inline constexpr Option emf_shape[] = {{"trapezoidal", "trapezoidal"}, {"sine", "sine"}};
inline constexpr Option forcer_core[] = {{"iron", "iron core"}, {"ironless", "ironless"}};
inline constexpr Option stepper_control[] = {{"open_loop", "open loop"},
    {"lost_step", "open loop, lost steps detected"}, {"position", "commutated by position"}};
inline constexpr Option stepper_rating[] = {{"four_leads", "four leads, one way only"},
    {"half_coil", "half coils (unipolar)"}, {"series", "bipolar, in series"}, {"parallel", "bipolar, in parallel"}};
inline constexpr Option stepper_connection[] = {
    {"half_coil", "half coils (unipolar)"}, {"series", "bipolar, in series"}, {"parallel", "bipolar, in parallel"}};
inline constexpr Option five_phase_bridge[] = {{"per_phase", "one bridge per phase"}, {"star", "star"},
    {"pentagon_72", "pentagon, neighbours 72° apart"}, {"pentagon_144", "pentagon, neighbours 144° apart"}};
inline constexpr Option phases_on[] = {{"four", "four phases on"}, {"five", "five phases on"}};
} // namespace motor_options

/// Brushless, driven with sine currents (field-oriented).
struct SineMotor {
    Quantity<Kind::torque_constant> torque_constant;
    TorquePer torque_per = TorquePer::rms;
    Quantity<Kind::voltage_constant> voltage_constant;
    EmfOf voltage_of = EmfOf::line_rms;
    Quantity<Kind::speed_constant> speed_constant;
    EmfOf speed_of = EmfOf::line_peak;
    Quantity<Kind::motor_constant> motor_constant;
    Quantity<Kind::resistance> resistance;
    WindingPart resistance_of = WindingPart::line;
    Quantity<Kind::inductance> inductance;
    WindingPart inductance_of = WindingPart::line;
    Quantity<Kind::number> pole_pairs;
    AmperesAs amperes = AmperesAs::rms;
    Quantity<Kind::torque> stall_torque;
    Quantity<Kind::current> stall_current;
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::current> rated_current;
    Quantity<Kind::angular_speed> rated_speed;
    Quantity<Kind::power> rated_power;
    Quantity<Kind::torque> peak_torque;
    Quantity<Kind::current> peak_current;
    Quantity<Kind::time> electrical_time_constant;
    Quantity<Kind::time> mechanical_time_constant;
    Quantity<Kind::temperature> constants_at{"20 °C"};
    Quantity<Kind::temperature> resistance_at{"20 °C"};
    Magnet magnet = Magnet::neodymium;
    Extra extra;
    bool operator==(const SineMotor&) const = default;

    static constexpr const char* kind_key = "sine";
    static constexpr const char* kind_label = "Brushless, sine-driven";
    void describe(FieldVisitor& v);
};

/// Brushless, commutated in blocks of 120°: the drive feeds two terminals at a time.
struct BlockMotor {
    EmfShape emf = EmfShape::trapezoidal;
    Quantity<Kind::torque_constant> torque_constant; ///< per ampere of the DC link
    Quantity<Kind::voltage_constant> voltage_constant;
    EmfOf voltage_of = EmfOf::line_peak;
    Quantity<Kind::speed_constant> speed_constant;
    Quantity<Kind::motor_constant> motor_constant;
    Quantity<Kind::resistance> resistance;
    WindingPart resistance_of = WindingPart::line;
    Quantity<Kind::inductance> inductance;
    WindingPart inductance_of = WindingPart::line;
    Quantity<Kind::number> pole_pairs;
    Quantity<Kind::voltage> rated_voltage;
    Quantity<Kind::angular_speed> no_load_speed;
    Quantity<Kind::current> no_load_current;
    Quantity<Kind::torque> stall_torque;
    Quantity<Kind::current> stall_current;
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::current> rated_current;
    Quantity<Kind::angular_speed> rated_speed;
    Quantity<Kind::power> rated_power;
    Quantity<Kind::torque> peak_torque;
    Quantity<Kind::current> peak_current;
    Quantity<Kind::time> electrical_time_constant;
    Quantity<Kind::time> mechanical_time_constant;
    Quantity<Kind::temperature> constants_at{"20 °C"};
    Quantity<Kind::temperature> resistance_at{"20 °C"};
    Magnet magnet = Magnet::neodymium;
    Extra extra;
    bool operator==(const BlockMotor&) const = default;

    static constexpr const char* kind_key = "block";
    static constexpr const char* kind_label = "Brushless, block-commutated";
    void describe(FieldVisitor& v);
};

/// Brushed, with permanent magnets.
struct BrushedMotor {
    Quantity<Kind::torque_constant> torque_constant;
    Quantity<Kind::voltage_constant> voltage_constant;
    Quantity<Kind::speed_constant> speed_constant;
    Quantity<Kind::motor_constant> motor_constant;
    Quantity<Kind::resistance> resistance; ///< of the terminals
    Quantity<Kind::inductance> inductance;
    Quantity<Kind::voltage> brush_drop;
    Quantity<Kind::angular_speed> brush_speed;
    Quantity<Kind::voltage> rated_voltage;
    Quantity<Kind::angular_speed> no_load_speed;
    Quantity<Kind::current> no_load_current;
    Quantity<Kind::torque> stall_torque;
    Quantity<Kind::current> stall_current;
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::current> rated_current;
    Quantity<Kind::angular_speed> rated_speed;
    Quantity<Kind::power> rated_power;
    Quantity<Kind::torque> peak_torque;
    Quantity<Kind::current> peak_current;
    Quantity<Kind::time> electrical_time_constant;
    Quantity<Kind::time> mechanical_time_constant;
    Quantity<Kind::temperature> constants_at{"20 °C"};
    Quantity<Kind::temperature> resistance_at{"20 °C"};
    Magnet magnet = Magnet::ferrite;
    Extra extra;
    bool operator==(const BrushedMotor&) const = default;

    static constexpr const char* kind_key = "brushed";
    static constexpr const char* kind_label = "Brushed DC";
    void describe(FieldVisitor& v);
};

/// A forcer of coils that rides along a track of magnets, driven with sine currents.
struct LinearForcer {
    ForcerCore core = ForcerCore::iron;
    Quantity<Kind::force_constant> force_constant;
    TorquePer force_per = TorquePer::rms;
    Quantity<Kind::linear_voltage_constant> voltage_constant;
    EmfOf voltage_of = EmfOf::line_rms;
    Quantity<Kind::linear_motor_constant> motor_constant;
    Quantity<Kind::resistance> resistance;
    WindingPart resistance_of = WindingPart::line;
    Quantity<Kind::inductance> inductance;
    WindingPart inductance_of = WindingPart::line;
    Quantity<Kind::length> pole_pitch; ///< from a north to the next south pole
    Quantity<Kind::mass> forcer_mass;
    Quantity<Kind::force> attraction;
    Quantity<Kind::speed> top_speed;
    AmperesAs amperes = AmperesAs::rms;
    Quantity<Kind::force> continuous_force;
    Quantity<Kind::current> continuous_current;
    Quantity<Kind::force> peak_force;
    Quantity<Kind::current> peak_current;
    Quantity<Kind::time> electrical_time_constant;
    Quantity<Kind::temperature> constants_at{"20 °C"};
    Quantity<Kind::temperature> resistance_at{"20 °C"};
    Magnet magnet = Magnet::neodymium;
    Extra extra;
    bool operator==(const LinearForcer&) const = default;

    static constexpr const char* kind_key = "linear";
    static constexpr const char* kind_label = "Linear";
    void describe(FieldVisitor& v);
};

/// What the sheet of any stepper quotes, of one phase.
struct StepperSheet {
    Quantity<Kind::torque> holding_torque;
    Quantity<Kind::current> rated_current;
    Quantity<Kind::voltage> rated_voltage;
    Quantity<Kind::resistance> resistance;
    Quantity<Kind::inductance> inductance;
    Quantity<Kind::torque> detent_torque;
    Quantity<Kind::torque> friction_torque;
    Quantity<Kind::frequency> start_rate; ///< full steps a second, without a load
    Quantity<Kind::current> curve_current;
    AmperesAs curve_amperes = AmperesAs::rms;
    Quantity<Kind::angle> step_accuracy;
    Quantity<Kind::temperature> constants_at{"20 °C"};
    Quantity<Kind::temperature> resistance_at{"20 °C"};
    Magnet magnet = Magnet::neodymium;
    Extra extra;
    bool operator==(const StepperSheet&) const = default;
};

/// Hybrid stepper of two phases; ratings of one phase with both phases on.
struct TwoPhaseStepper : StepperSheet {
    StepperControl control = StepperControl::open_loop;
    Quantity<Kind::angle> step_angle{"1.8 deg"};
    StepperRating rated_as = StepperRating::four_leads;
    StepperConnection connected = StepperConnection::series; ///< where the leads leave a choice
    bool operator==(const TwoPhaseStepper&) const = default;

    static constexpr const char* kind_key = "two_phase_stepper";
    static constexpr const char* kind_label = "Stepper, two-phase";
    void describe(FieldVisitor& v);
};

/// Hybrid stepper of five phases, open loop; ratings of one phase.
struct FivePhaseStepper : StepperSheet {
    Quantity<Kind::angle> step_angle{"0.72 deg"};
    FivePhaseBridge bridge = FivePhaseBridge::per_phase;
    PhasesOn phases_on = PhasesOn::four; ///< for the holding torque
    bool operator==(const FivePhaseStepper&) const = default;

    static constexpr const char* kind_key = "five_phase_stepper";
    static constexpr const char* kind_label = "Stepper, five-phase";
    void describe(FieldVisitor& v);
};

using MotorKind = std::variant<SineMotor, BlockMotor, BrushedMotor, LinearForcer, TwoPhaseStepper, FivePhaseStepper>;

} // namespace fulmox

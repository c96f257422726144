// A datasheet in numbers: its constants brought to one base, and whether they contradict one another.
#pragma once

#include "core/model/motor.h"
#include "core/motor/conventions.h"
#include "core/motor/dc_machine.h"
#include "core/motor/sine_machine.h"
#include "core/motor/stepper.h"

#include <limits>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// Constants of a motor at 20 °C, whatever the sheet's conventions were. NaN: not given. Along a line forces stand for
/// torques, speeds in m/s, and π over the pole pitch for the pole pairs.
struct MotorNumbers {
    static constexpr double unknown = std::numeric_limits<double>::quiet_NaN();

    EmfBase base = EmfBase::sine;
    bool sine_driven = true; ///< else torque lies on the straight line of a DC machine
    bool linear = false;
    double phases = 3;                     ///< of a sine-driven motor
    std::optional<StepperNumbers> stepper; ///< as it is connected; k, resistance and inductance are of it
    double k = unknown;                    ///< V·s/rad, see conventions.h
    std::string k_from;                    ///< label of the field it comes from
    bool k_from_rating = false;            ///< of a torque and its current, for want of a constant
    // where two constants contradict one another: torque goes by the smaller, voltage by the larger
    double k_torque = unknown, k_emf = unknown; ///< else k
    std::string k_torque_from, k_emf_from;      ///< labels of their fields
    double resistance = unknown;                ///< Ω between two terminals, or twice that of a stepper's phase
    double inductance = unknown;                ///< H between two terminals, or twice that of a stepper's phase
    double pole_pairs = unknown;
    Magnet magnet = Magnet::neodymium;
    double rotor = unknown; ///< kg·m²

    // currents in A RMS of a sine-driven motor, else in A of the DC link
    double stall_torque = unknown, stall_current = unknown;
    double rated_torque = unknown, rated_current = unknown, rated_speed = unknown, rated_power = unknown;
    double peak_torque = unknown, peak_current = unknown;
    double rated_voltage = unknown, no_load_speed = unknown, no_load_current = unknown, brush_drop = 0;
    double brush_speed = unknown;

    double saturation = 0; ///< β, fitted through the peak point; 0 where the sheet shows none

    /// N·m per A RMS of the line, or per A of the DC link.
    double torque_constant() const;
    /// V·s/rad, line to line RMS of a sine; flat top or terminals else.
    double voltage_constant() const;
    /// Two constants of the sheet differ by more than their tolerances, and no reading of it is taken yet.
    bool contradicts() const { return k_torque < k_emf; }
    /// By the first constant alone, as the pairs of a check are.
    void take_first_constant();
    double torque_share() const { return contradicts() ? k_torque / k : 1; } ///< of k that the torque goes by
    double emf_share() const { return contradicts() ? k_emf / k : 1; }       ///< of k that the voltage goes by
    /// N·m/√W at 20 °C.
    double motor_constant() const;
    /// N·m that friction takes, from the no-load current; 0 where it is not given.
    double friction() const;
};

MotorNumbers motor_numbers(const Motor& motor);

/// What the sheet puts at its head, N·m (N) and rad/s (m/s); NaN: not given.
struct QuotedRatings {
    double continuous = MotorNumbers::unknown, peak = MotorNumbers::unknown, speed = MotorNumbers::unknown;
};
/// The first point of each curve, or else the ratings.
QuotedRatings quoted_ratings(const Motor& motor);

/// V of a block-commutated or brushed motor's ratings; NaN: not given, or of another kind.
double rated_voltage(const Motor& motor);

/// The machine at these temperatures, °C. Needs k; the rest may be missing (resistance and inductance then count as 0).
SineMachine sine_machine(const MotorNumbers& n, double winding, double magnet);
DcMachine dc_machine(const MotorNumbers& n, double winding, double magnet);

enum class Verdict { agrees, within_tolerance, contradicts };
/// "agrees", "within_tolerance", "contradicts"
const char* verdict_key(Verdict v);

/// A convention, or a slip, under which a pair would agree.
struct SheetReading {
    std::string field;  ///< key of the field that would be read so: "torque_constant_per"
    int option = -1;    ///< of the choice at `field`; −1: a slip that no choice mends
    std::string words;  ///< "Torque constant is per A peak of line current"
    double factor = 1;  ///< entered over implied under it
    MotorNumbers gives; ///< the constants it would give
};

/// Two things a sheet says, one of which follows from the other.
struct SheetPair {
    std::string key;                 ///< "torque_constant/voltage_constant"
    std::string label;               ///< "Torque constant against voltage constant"
    std::vector<std::string> fields; ///< keys of the entries that take part
    Kind kind = Kind::number;
    double entered = 0, implied = 0; ///< of the first, SI
    double factor = 1;               ///< entered over implied
    double tolerance = 0;            ///< sum of the tolerances, relative
    Verdict verdict = Verdict::agrees;
    std::vector<SheetReading> readings;
    std::string note;
};

/// Every pair that the sheet has both sides of. Agreement: within 4 %; a contradiction: beyond the sum of the
/// tolerances, those of the sheet or else ±5 % of torque and voltage constants and ratings, ±10 % of resistance and
/// inductance (common practice, no source). Readings are named within 5 %. What contradicts comes first,
/// then what differs within tolerance; curves against constants after other pairs.
std::vector<SheetPair> check_sheet(const Motor& motor);

/// ", torque by the voltage constant, voltage by the torque constant: …", where the sheet contradicts itself; else
/// empty.
std::string tighter_words(const MotorNumbers& n);

/// β of T = K_t I (1 − β (I/I_p)²) through the peak point; NaN where the sheet has none. Above 1/3 the curve would fall
/// before the peak current.
double peak_saturation(const MotorNumbers& n);

} // namespace fulmox

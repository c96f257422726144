// What a motor gives by its constants: at this bus, these currents, cold and hot. One model for every kind; nothing
// outside this file asks which kind it is.
#pragma once

#include "core/model/machine.h"
#include "core/motor/sheet.h"

#include <limits>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace fulmox {

/// What limits the torque at a speed.
enum class BoundBy {
    heat,
    drive_current,
    motor_current,
    saturation,
    voltage,
    mechanical,
    curve,
    torque_limit,
    unknown
};
/// "heat", "drive_current", …
const char* bound_key(BoundBy bound);
/// "heat", "drive current", …
const char* bound_words(BoundBy bound);

/// Under what a motor works.
struct MotorConditions {
    double bus = 0;         ///< V, at its lowest
    double phase_share = 1; ///< V peak of a phase per V of the bus: 1/√3, 1/2 or 2/π
    double reserve = 1;     ///< share of it that a sine drive uses; a DC machine has the whole bus
    bool weakening = false;
    // A RMS of the line of a sine-driven motor, A of the DC link else; infinite: not limited
    double drive_continuous = std::numeric_limits<double>::infinity();
    double drive_peak = std::numeric_limits<double>::infinity();
    double cold = 20, hot = 155;                                       ///< °C, winding and magnets
    double heat_factor = 1;                                            ///< permitted heat over rated heat
    double mechanical_speed = std::numeric_limits<double>::infinity(); ///< rad/s (m/s)
    double top_frequency = std::numeric_limits<double>::infinity();    ///< Hz, electrical
    // of a stepper's drive
    double idle_share = 1; ///< of the current, at rest
    double idle_delay = 0; ///< s of standing still until then
};

/// f = (θ_max − θ_amb)/(θ_max − θ_rated), lower by 1 % per 100 m above 1000 m. Source: IEC 60034-1. Not below 0.
/// Temperatures K or °C alike, altitude m.
double permitted_heat(double winding_limit, double rated_ambient, double ambient, double altitude);

/// Share of its currents that a drive has left at this ambient and altitude.
double drive_share(const Drive& drive, const Site& site);

MotorConditions motor_conditions(const Motor& motor, const Drive& drive, const Site& site);

/// A bound of torque at a speed, with the current that gives it.
struct TorqueBound {
    double torque = 0; ///< N·m (N), ≥ 0; NaN: cannot be said
    BoundBy bound = BoundBy::unknown;
    double id = 0, iq = 0; ///< A peak; of a DC machine `iq` is its current
    bool hot = true;       ///< the state that bounds it
    double voltage = 0;    ///< V peak of a phase, V between the terminals of a DC machine
};

/// What a torque at a speed takes.
struct MotorDraw {
    bool possible = true;
    double current = 0;     ///< A RMS of the line, A of the DC link
    double id = 0, iq = 0;  ///< as above
    double copper_loss = 0; ///< W; NaN without a resistance
    double voltage = 0;     ///< V peak between lines, V of the DC link
};

enum class Quadrant { motoring, braking };

class ElectricModel {
  public:
    ElectricModel(const MotorNumbers& numbers, const MotorConditions& conditions);

    /// Whether there is a constant to go by; else `missing` names what would make one.
    bool known() const { return known_; }
    const std::string& missing() const { return missing_; }
    /// What is left out for want of data: "inductance and pole pairs".
    std::string approximate() const;

    /// Torque for a moment at |speed|, the worse of cold and hot.
    TorqueBound peak(double speed, Quadrant quadrant) const;
    TorqueBound peak(double speed, Quadrant quadrant, bool hot) const;
    /// Torque that may run continuously. NaN where the sheet has no continuous rating.
    TorqueBound continuous(double speed) const;
    bool rated() const { return rated_; }
    /// Torque of the current that may be held continuously here, no phase carrying the peak; what heat is measured by.
    double heat_reference() const;
    /// Only a rating in rotation is given: at rest one phase may carry the peak continuously.
    bool standstill_derated() const { return standstill_derated_; }
    /// Mean square of current over that permitted, at a torque and speed; iron and friction by speed included.
    double heat_use(double torque, double speed) const;

    /// The same of a draw that is known, hot.
    double heat_of(const MotorDraw& d, double speed) const;

    MotorDraw draw(double torque, double speed, bool hot) const;
    /// As if the bus were as high as it takes, without field weakening; hot. Saturation still bounds it: NaN beyond.
    MotorDraw without_voltage_limit(double torque, double speed) const;
    /// V between lines (terminals) for a torque at a speed, the worse of cold and hot, without field weakening and
    /// whatever the bus. NaN where saturation does not let it be.
    double voltage_needed(double torque, double speed) const;
    /// No less than that, from what the torque draws hot; quickly.
    double voltage_bound(const MotorDraw& hot, double speed) const;
    /// V between lines (terminals) there is at this bus.
    double voltage_there() const;
    /// Electrical speed times L/R, hot and cold the larger: up to 0.1 a block-commutated motor keeps to its straight
    /// line. NaN of motors that are driven otherwise, and where something is not given.
    double commutation(double speed) const;
    /// The worse of cold and hot in current and loss.
    MotorDraw draw(double torque, double speed) const;
    /// Torque that a current gives at standstill, A RMS or DC.
    double torque_of(double current, bool hot) const;

    /// N·m (N) per ampere of i_q, A peak, or of a DC machine's current; hot, without saturation.
    double constant_of_axis() const;
    /// I_p of the saturation, A peak or DC.
    double saturates_at() const { return amperes_ * n_.peak_current; }

    double corner_speed(bool hot) const;         ///< up to which the peak current is there
    double no_load_speed(bool hot) const;        ///< where the EMF takes the whole voltage; friction counted
    double motoring_end(bool hot) const;         ///< infinite where field weakening never ends
    double characteristic_current() const;       ///< A RMS; infinite without inductance, NaN of DC machines
    double turning_current() const;              ///< A RMS or DC where saturation turns the torque; infinite without
    double open_circuit_emf(double speed) const; ///< V peak between lines, cold magnets
    double electrical_frequency(double speed) const; ///< Hz; NaN without pole pairs
    double speed_limit() const;                      ///< mechanical, or by the drive's highest frequency
    struct Best {
        double efficiency = 0, torque = 0, speed = 0;
    };
    /// Best efficiency by copper and no-load loss, hot; nothing where the sheet tells no loss beside copper.
    std::optional<Best> best_efficiency() const;

    /// Square of the current that may be held continuously at the rating, A² RMS or DC; NaN without a rating.
    double rated_square() const;
    /// W of copper per A² of this current, at its temperature; 0 without a resistance.
    double loss_per_square(bool hot) const;
    /// Share of it that iron and friction take at a speed by the rated point.
    double speed_share(double speed) const;
    /// Keys of the constants that are not given: "resistance", "inductance", "pole_pairs", "pole_pitch".
    std::vector<const char*> left_out() const;
    /// The part of `heat_of` that speed takes, whatever the current.
    double heat_of_speed(double speed) const;
    /// A stepper that takes its current whatever the load is.
    bool fixed_current() const { return n_.stepper && n_.stepper->fixed_current(); }
    /// N·m a stepper holds with the drive's current, the worse of cold and hot; `idle`: with what is left of it at
    /// rest.
    double holding(bool idle) const;
    /// A peak of the sine of a stepper's phase, as the drive is set.
    double amplitude() const { return peak_current_; }
    /// The same current at rest, reduced to what the drive leaves idle.
    MotorDraw idle_draw() const;
    /// Highest speed with torque at the shaft of a stepper: where detent and friction take it, or a thousandth of what
    /// it holds is left. rad/s; infinite where neither bus nor inductance end it.
    double stepping_end() const;

    /// i_d may be below 0.
    bool weakens() const { return n_.sine_driven && c_.weakening; }
    const MotorNumbers& numbers() const { return n_; }
    const MotorConditions& conditions() const { return c_; }

  private:
    MotorNumbers n_;
    MotorConditions c_;
    bool known_ = false, rated_ = false, standstill_derated_ = false;
    std::string missing_;
    std::variant<SineMachine, DcMachine> cold_, hot_;
    double phase_voltage_ = 0;
    double amperes_ = 1;      ///< A of the machine's own per A RMS: √2, or 1
    double peak_current_ = 0; ///< A of the machine's own
    BoundBy current_bound_ = BoundBy::drive_current;
    double rated_square_ = 0; ///< square of the current that may be held continuously, hot, A²
    double speed_square_ = 0; ///< what iron and friction take of it at `rated_speed_`, A²
    double rated_speed_ = 1;

    const auto& machine(bool hot) const { return hot ? hot_ : cold_; }
    MotorDraw draw_within(double torque, double speed, bool hot, bool any_voltage) const;
    TorqueBound current_bound(double speed, Quadrant quadrant, bool hot) const; // without its voltage
    double voltage_of(const TorqueBound& b, double speed) const;
    double heat_budget(double speed) const;
    double current_at_rest(double torque) const;
};

} // namespace fulmox

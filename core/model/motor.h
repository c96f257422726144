// The motor as its datasheet gives it, and the little this version asks of its drive.
#pragma once

#include "core/model/brake.h"
#include "core/model/curve_picture.h"
#include "core/model/field.h"
#include "core/model/motion_quantity.h"
#include "core/model/motor_kinds.h"
#include "core/model/provenance.h"

#include <string>
#include <vector>

namespace fulmox {

/// A point of a datasheet curve.
struct CurvePoint {
    Quantity<Kind::angular_speed> speed;
    Quantity<Kind::torque> torque;
    Extra extra;
    bool operator==(const CurvePoint&) const = default;

    void describe(FieldVisitor& v);
};

struct Motor {
    std::string name;
    std::string origin;
    std::string series;
    Quantity<Kind::length> frame; ///< side of the flange
    Quantity<Kind::inertia> rotor_inertia;
    Quantity<Kind::inertia> encoder_inertia; ///< where the rotor's is without it
    Quantity<Kind::angular_speed> max_speed;
    std::vector<CurvePoint> continuous;
    std::vector<CurvePoint> peak;
    std::vector<CurvePoint>
        pull_in; ///< of a stepper: against which it starts and stops without a ramp, no load inertia
    Quantity<Kind::voltage> curve_voltage;
    Quantity<Kind::temperature> rated_ambient{"40 °C"};
    Quantity<Kind::temperature> winding_limit{"155 °C"};
    Quantity<Kind::temperature_difference> rated_rise; ///< of the winding at its ratings; not given: limit less ambient
    Quantity<Kind::thermal_resistance> thermal_resistance; ///< winding to ambient
    Quantity<Kind::time> thermal_time_constant;            ///< of the motor as a whole
    Quantity<Kind::thermal_resistance> winding_resistance; ///< winding to housing
    Quantity<Kind::time> winding_time_constant;
    Quantity<Kind::temperature> housing_limit;
    Quantity<Kind::power> speed_loss; ///< iron and friction
    Quantity<Kind::angular_speed> speed_loss_at;
    Quantity<Kind::number> speed_loss_exponent;
    Quantity<Kind::force> bearing_rating; ///< dynamic load rating C of the bearing at the shaft end
    Quantity<Kind::time> brush_life;
    Quantity<Kind::number> derating; ///< of the continuous torque, by what is built in or how it is mounted
    MotorKind electric;              ///< its kind, with the constants the sheet quotes
    Quantity<Kind::inertia> brake_inertia;
    Quantity<Kind::torque> brake_torque;
    BrakeStopping brake_stopping;
    Quantity<Kind::mass> mass;
    Quantity<Kind::length> length; ///< behind the flange, with brake and encoder
    Quantity<Kind::length> shaft_diameter;
    Quantity<Kind::length> pilot, bolt_circle; ///< of its flange
    Quantity<Kind::torque> shaft_torque;       ///< what the shaft or its key transmits for a moment
    Quantity<Kind::number> price;
    Provenance provenance;
    static constexpr std::size_t most_pictures = 8;
    std::vector<CurvePicture> pictures; ///< of its datasheet, from which curves were read
    Extra extra;

    bool operator==(const Motor&) const = default;
    bool empty() const {
        return name.empty() && continuous.empty() && peak.empty() && !rotor_inertia.given() && electric == MotorKind{};
    }

    /// Steps, or is commutated as one.
    bool stepper() const {
        return std::holds_alternative<TwoPhaseStepper>(electric) || std::holds_alternative<FivePhaseStepper>(electric);
    }
    /// It runs along a line: forces stand for torques.
    bool linear() const { return std::holds_alternative<LinearForcer>(electric); }
    /// Some constant tells torque per ampere, so that there is a curve without points of the sheet.
    bool has_constant() const;
    /// Some rating tells what may run continuously.
    bool has_rating() const;
    /// What may run continuously follows from the winding's thermal and ohmic resistance.
    bool rated_by_heat() const;
    const char* kind_key() const;   ///< "sine"
    const char* kind_label() const; ///< "Brushless, sine-driven"
    /// Rotor with what sits rigidly on it, kg·m²; needs `rotor_inertia`.
    double turning_inertia() const {
        return rotor_inertia.si + encoder_inertia.value_or(0) + brake_inertia.value_or(0);
    }

    void describe(FieldVisitor& v);
};

/// How the drive makes the voltage of a phase from that of the bus.
enum class Modulation { space_vector, sine_pwm, overmodulated };

/// What tells the drive where the rotor is; what the controller tells the drive.
enum class Feedback { unsaid, none, hall, incremental, sine_cosine, serial, resolver };
enum class Command { unsaid, pulses, analog, network };

/// Share of the phase voltage that the drive uses where nothing else is given; common practice, no source.
inline constexpr double usual_modulation_reserve = 0.95;

struct Drive {
    std::string name;
    bool in_place = false; ///< the axis has one: named, chosen or typed
    Quantity<Kind::voltage> bus_voltage{"320 V"};
    Quantity<Kind::number> mains_tolerance; ///< how far the mains, and the bus with them, may fall
    Quantity<Kind::number> bus_droop;       ///< how far the supply falls under load
    Modulation modulation = Modulation::space_vector;
    Quantity<Kind::number> modulation_reserve{"0.95"};
    bool field_weakening = false;
    AmperesAs amperes = AmperesAs::rms;
    Quantity<Kind::current> continuous_current;
    Quantity<Kind::current> peak_current;
    Quantity<Kind::time> peak_time;           ///< how long it gives its peak, from cold
    Quantity<Kind::number> standstill_share;  ///< of its continuous current near 0 Hz
    Quantity<Kind::temperature> derates_from; ///< ambient
    Quantity<Kind::number> derating_rate;     ///< of both currents, share per K beyond
    Quantity<Kind::length> derates_above;     ///< altitude
    Quantity<Kind::number> altitude_rate;     ///< share per 100 m beyond
    Quantity<Kind::number> derating;          ///< share of both currents left, by switching frequency or mounting
    Quantity<Kind::torque> torque_limit;      ///< as programmed, at the motor's shaft
    Quantity<Kind::number> mains_rise;        ///< how far the mains, and the bus with them, may rise
    Quantity<Kind::voltage> lowest_voltage, highest_voltage; ///< of the bus, at which it works
    Quantity<Kind::voltage> trip_voltage;
    Quantity<Kind::frequency> top_frequency;
    Quantity<Kind::current> phase_current; ///< of a stepper, as the drive's dial has it
    AmperesAs dial = AmperesAs::rms;
    Quantity<Kind::current> most_current; ///< that the dial can be set to, in the same amperes
    Quantity<Kind::number> idle_current;  ///< share of it left at rest
    Quantity<Kind::time> idle_delay;      ///< from standstill until then
    Quantity<Kind::number> microsteps;
    Quantity<Kind::frequency> pulse_limit;    ///< of the controller, microsteps a second
    Quantity<Kind::angular_speed> ramp_start; ///< at which the controller's ramps begin and end
    Quantity<Kind::temperature> cold{"20 °C"};
    Quantity<Kind::temperature> hot;     ///< winding and magnets; not given: the winding's limit
    Quantity<Kind::power> own_loss;      ///< of the drive, idle
    Feedback encoder = Feedback::unsaid; ///< of the motor
    bool reads_hall = false, reads_incremental = false, reads_sine_cosine = false, reads_serial = false,
         reads_resolver = false;
    Command controller = Command::unsaid; ///< what the controller gives
    bool takes_pulses = false, takes_analog = false, takes_network = false;
    Quantity<Kind::frequency> pulse_input; ///< the most pulses a second it takes
    Quantity<Kind::mass> mass;
    Quantity<Kind::number> price;
    Listing provenance;
    Quantity<Kind::time> stop_time;
    MotionQuantity<Order::position> stop_distance;
    Quantity<Kind::torque> emergency_torque; ///< what the motor gives in an emergency stop; not given: its peak
    Quantity<Kind::number> emergency_stops;  ///< in the life of the machine
    Extra extra;
    bool operator==(const Drive&) const = default;

    /// Set, or something of its sheet is typed that this kind of motor asks a drive for; how it is set and what the
    /// controller gives make none.
    bool there(bool of_stepper) const;

    static constexpr Option feedbacks[] = {{"", "not specified"}, {"none", "none"}, {"hall", "Hall sensors"},
        {"incremental", "incremental"}, {"sine_cosine", "sine and cosine"}, {"serial", "serial, absolute"},
        {"resolver", "resolver"}};
    static constexpr Option command_kinds[] = {
        {"", "not specified"}, {"pulses", "pulses"}, {"analog", "analog"}, {"network", "network"}};

    static constexpr Option modulations[] = {
        {"space_vector", "space vector"}, {"sine_pwm", "sine PWM"}, {"overmodulated", "overmodulated, six-step"}};

    /// V, what is left of the bus with mains low and the supply loaded; needs `bus_voltage`.
    double lowest_bus() const {
        return bus_voltage.si * (1 - mains_tolerance.value_or(0)) * (1 - bus_droop.value_or(0));
    }

    /// Whether the drive reads this; of what is not specified, true.
    bool reads(Feedback f) const;
    bool takes(Command c) const;
    /// V, with mains high; needs `bus_voltage`.
    double highest_bus() const { return bus_voltage.si * (1 + mains_rise.value_or(0)); }

    void describe(FieldVisitor& v);
};

} // namespace fulmox

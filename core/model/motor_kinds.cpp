#include "core/model/motor_kinds.h"

#include "core/model/visitor.h"

namespace fulmox {

namespace {

using namespace motor_options;

constexpr const char* quoted = "As the sheet quotes it; what it means by it is the choice below.";
constexpr need::Bits constants = need::current;
constexpr need::Bits losses = need::current | need::resistance;

// An optional constant: every one may be missing, and what needs it says so.
QuantitySpec constant(const char* key, const char* label, const char* unit, double most, const char* help,
    const char* symbol, need::Bits serves = constants, const IfEmpty& if_empty = left_empty::unknown("not given")) {
    return optional_quantity(key, label, unit, most, help, if_empty, symbol, serves);
}

// The first constant a sheet quotes: another one may stand in for it.
IfEmpty first_constant(bool another) {
    return another ? left_empty::stands_in("from the other constants") : left_empty::unknown("not given");
}

// Looked up now and then.
QuantitySpec rarely(QuantitySpec spec) {
    spec.rare = true;
    return spec;
}

ChoiceSpec meaning(const char* key, const char* label, std::span<const Option> options, const char* help, bool applies,
    need::Bits serves = constants) {
    return {.key = key,
        .label = label,
        .options = options,
        .help = help,
        .optional = true,
        .applies = applies,
        .serves = serves};
}

template <class M> void describe_winding(M& m, FieldVisitor& v) {
    v.quantity(m.resistance,
        constant("resistance", "Resistance", "Ω", 1e5,
            "A sheet's terminal resistance lies between two leads; taken for that of a phase it doubles the loss of a "
            "wye winding.",
            "R", losses));
    if constexpr (requires { m.resistance_of; })
        v.choice(m.resistance_of,
            meaning("resistance_of", "Resistance is", winding_part,
                "Between two terminals, or of one phase of a wye or a delta winding.", m.resistance.given(), losses));
    v.quantity(m.inductance, constant("inductance", "Inductance", "mH", 1e6,
                                 "Without it the drop over it at speed is left out, and that is said.", "L"));
    if constexpr (requires { m.inductance_of; })
        v.choice(m.inductance_of,
            meaning("inductance_of", "Inductance is", winding_part,
                "Between two terminals, or of one phase of a wye or a delta winding.", m.inductance.given()));
}

template <class M> void describe_temperatures(M& m, FieldVisitor& v, const char* label, const char* help) {
    QuantitySpec at = rarely({.key = "constants_at",
        .label = label,
        .unit = "°C",
        .range = {-60, 250},
        .help = help,
        .required = false,
        .if_empty = left_empty::stands_in("20 °C", 20),
        .symbol = "θ_K",
        .serves = constants});
    v.quantity(m.constants_at, at);
    at.key = "resistance_at";
    at.label = "Resistance at";
    at.help = "Temperature of the winding for which the resistance is quoted.";
    at.symbol = "θ_R";
    at.serves = losses;
    v.quantity(m.resistance_at, at);
    v.choice(
        m.magnet, meaning("magnet", "Magnets", magnet,
                      "Their flux falls per kelvin: NdFeB 0.11 %, SmCo 0.04 %, ferrite 0.2 %, AlNiCo 0.02 %.", true));
}

template <class M> void describe_conditions(M& m, FieldVisitor& v) {
    v.quantity(m.electrical_time_constant,
        rarely(constant("electrical_time_constant", "Electrical time constant", "ms", 1e5,
            "Inductance over resistance.", "τ_e", need::record, left_empty::not_asked("not shown"))));
    if constexpr (requires { m.mechanical_time_constant; })
        v.quantity(
            m.mechanical_time_constant, rarely(constant("mechanical_time_constant", "Mechanical time constant", "ms",
                                            1e6, "J/K_m²: how fast the bare rotor follows a step of voltage.", "τ_m",
                                            need::record, left_empty::not_asked("not shown"))));
    describe_temperatures(
        m, v, "Constants at", "Temperature of the magnets for which torque and voltage constant are quoted.");
}

QuantitySpec pole_pairs() {
    QuantitySpec s = constant("pole_pairs", "Pole pairs", "1", 1000,
        "Electrical turns per turn of the shaft. Without it the drop over the inductance is left out.", "p");
    s.range = {1, 1000};
    return s;
}

QuantitySpec km(const char* unit) {
    return rarely(constant("motor_constant", "Motor constant", unit, 1e5,
        "Torque or force per root of the copper loss, winding at 20 °C. To compare with the others.", "K_m",
        need::record, left_empty::not_asked("not shown")));
}

template <class M> void describe_ratings(M& m, FieldVisitor& v, bool dc) {
    v.quantity(m.stall_torque, constant("stall_torque", dc ? "Stall torque" : "Standstill torque", "N·m", 1e7,
                                   dc ? "Torque at rest at the rated voltage, by the resistance alone."
                                      : "Torque that may be held continuously at standstill.",
                                   "T_0", constants, left_empty::stands_in("from the other ratings")));
    v.quantity(m.stall_current, constant("stall_current", dc ? "Stall current" : "Standstill current", "A", 1e6,
                                    dc ? "Current at rest at the rated voltage." : "Line current at that torque.",
                                    "I_0", constants, left_empty::stands_in("from the other ratings")));
    v.quantity(
        m.rated_torque, constant("rated_torque", "Rated torque", "N·m", 1e7, "May run continuously at the rated speed.",
                            "T_N", constants, left_empty::stands_in("from the other ratings")));
    v.quantity(m.rated_current, constant("rated_current", "Rated current", "A", 1e6, "Current at that torque.", "I_N",
                                    constants, left_empty::stands_in("from the other ratings")));
    v.quantity(m.rated_speed, constant("rated_speed", "Rated speed", "rpm", 1e6, "At which the rated torque may run.",
                                  "n_N", constants, left_empty::stands_in("from the other ratings")));
    v.quantity(m.rated_power, rarely(constant("rated_power", "Rated power", "W", 1e9, "At the shaft.", "P_N",
                                  need::record, left_empty::not_asked("not shown"))));
    v.quantity(m.peak_torque,
        constant("peak_torque", "Peak torque", "N·m", 1e7, "For a moment; with the peak current it shows saturation.",
            "T_p", constants, left_empty::stands_in("from the peak current")));
    v.quantity(m.peak_current, constant("peak_current", "Peak current", "A", 1e6,
                                   "The most the magnets and the winding bear. Drives must be set below it.", "I_p",
                                   constants, left_empty::not_asked("not judged")));
}

template <class M> void describe_no_load(M& m, FieldVisitor& v) {
    v.quantity(m.rated_voltage,
        constant("rated_voltage", "Rated voltage", "V", 2000, "DC voltage of the no-load and stall values.", "U_N"));
    v.quantity(m.no_load_speed, constant("no_load_speed", "No-load speed", "rpm", 1e6, "At the rated voltage.", "n_0"));
    v.quantity(m.no_load_current,
        constant("no_load_current", "No-load current", "A", 1e6,
            "Its torque is friction, taken off what the shaft gives.", "I_00", constants, left_empty::zero("none")));
}

} // namespace

void SineMotor::describe(FieldVisitor& v) {
    v.quantity(torque_constant, constant("torque_constant", "Torque constant", "N·m/A", 1e4, quoted, "K_t", constants,
                                    first_constant(voltage_constant.given() || speed_constant.given())));
    v.choice(torque_per,
        meaning("torque_constant_per", "Torque constant is", motor_options::torque_per,
            "Per RMS or peak ampere of the line, or of a power-invariant q axis.", torque_constant.given()));
    v.quantity(voltage_constant, constant("voltage_constant", "Voltage constant", "V/krpm", 1e6, quoted, "K_e",
                                     constants, left_empty::stands_in("from the other constants")));
    v.choice(voltage_of, meaning("voltage_constant_of", "Voltage constant is", emf_of,
                             "Line to line or of a phase, RMS or peak.", voltage_constant.given()));
    v.quantity(speed_constant, rarely(constant("speed_constant", "Speed constant", "rpm/V", 1e7, "Often called kV.",
                                   "k_V", constants, left_empty::stands_in("from the other constants"))));
    v.choice(speed_of, meaning("speed_constant_of", "Speed constant is per volt", emf_of,
                           "Line to line or of a phase, RMS or peak.", speed_constant.given()));
    describe_winding(*this, v);
    v.quantity(pole_pairs, fulmox::pole_pairs());
    v.choice(amperes, meaning("currents_in", "Currents in", amperes_as, "Of all currents below.", true));
    describe_ratings(*this, v, false);
    v.quantity(motor_constant, km("N·m/√W"));
    describe_conditions(*this, v);
}

void BlockMotor::describe(FieldVisitor& v) {
    v.choice(emf, meaning("emf", "EMF", emf_shape, "Shape of the voltage of a turning rotor.", true));
    v.quantity(
        torque_constant, constant("torque_constant", "Torque constant", "N·m/A", 1e4, "Per ampere of the DC link.",
                             "K_t", constants, first_constant(voltage_constant.given() || speed_constant.given())));
    v.quantity(voltage_constant, constant("voltage_constant", "Voltage constant", "V/krpm", 1e6, quoted, "K_e",
                                     constants, left_empty::stands_in("from the other constants")));
    v.choice(
        voltage_of, meaning("voltage_constant_of", "Voltage constant is", emf_of,
                        "Line to line or of a phase; of a trapezoid, peak is its flat top.", voltage_constant.given()));
    v.quantity(speed_constant,
        rarely(constant("speed_constant", "Speed constant", "rpm/V", 1e7, "No-load speed per volt, line to line peak.",
            "k_V", constants, left_empty::stands_in("from the other constants"))));
    describe_winding(*this, v);
    v.quantity(pole_pairs, fulmox::pole_pairs());
    describe_no_load(*this, v);
    describe_ratings(*this, v, true);
    v.quantity(motor_constant, km("N·m/√W"));
    describe_conditions(*this, v);
}

void BrushedMotor::describe(FieldVisitor& v) {
    v.quantity(torque_constant, constant("torque_constant", "Torque constant", "N·m/A", 1e4, "Per ampere.", "K_t",
                                    constants, first_constant(voltage_constant.given() || speed_constant.given())));
    v.quantity(voltage_constant, constant("voltage_constant", "Voltage constant", "V/krpm", 1e6, "Of the terminals.",
                                     "K_e", constants, left_empty::stands_in("from the other constants")));
    v.quantity(
        speed_constant, rarely(constant("speed_constant", "Speed constant", "rpm/V", 1e7, "No-load speed per volt.",
                            "k_V", constants, left_empty::stands_in("from the other constants"))));
    describe_winding(*this, v);
    v.quantity(
        brush_drop, rarely({.key = "brush_drop",
                        .label = "Brush drop",
                        .unit = "V",
                        .range = {0, 10},
                        .help = "Voltage over both brushes, about 2 V for carbon; often in the resistance already.",
                        .required = false,
                        .if_empty = left_empty::zero("none"),
                        .symbol = "U_b",
                        .serves = constants}));
    v.quantity(brush_speed,
        rarely(constant("brush_speed", "Greatest brush speed", "rpm", 1e6, "Above it the brushes spark and wear.",
            "n_b", need::top_speed, left_empty::not_asked("not judged"))));
    describe_no_load(*this, v);
    describe_ratings(*this, v, true);
    v.quantity(motor_constant, km("N·m/√W"));
    describe_conditions(*this, v);
}

void LinearForcer::describe(FieldVisitor& v) {
    v.choice(core, meaning("core", "Core", forcer_core,
                       "An iron core is attracted by the track, an ironless one is not.", true, need::force));
    v.quantity(force_constant, constant("force_constant", "Force constant", "N/A", 1e6, quoted, "K_f", constants,
                                   first_constant(voltage_constant.given())));
    v.choice(
        force_per, meaning("force_constant_per", "Force constant is", motor_options::torque_per,
                       "Per RMS or peak ampere of the line, or of a power-invariant q axis.", force_constant.given()));
    v.quantity(voltage_constant, constant("voltage_constant", "Voltage constant", "V·s/m", 1e6, quoted, "K_e",
                                     constants, left_empty::stands_in("from the other constants")));
    v.choice(voltage_of, meaning("voltage_constant_of", "Voltage constant is", emf_of,
                             "Line to line or of a phase, RMS or peak.", voltage_constant.given()));
    describe_winding(*this, v);
    v.quantity(pole_pitch, constant("pole_pitch", "Pole pitch N to S", "mm", 1000,
                               "From a north to the next south pole; two of them are an electrical turn.", "τ_p"));
    v.quantity(forcer_mass, constant("forcer_mass", "Mass of the forcer", "kg", 1e5, "Rides with the load.", "m_F",
                                need::inertia | need::force, left_empty::zero("none")));
    v.quantity(attraction, {.key = "attraction",
                               .label = "Attraction",
                               .unit = "N",
                               .range = {0, 1e7},
                               .help = "Pull between forcer and track; presses on the guides.",
                               .required = false,
                               .if_empty = left_empty::unknown("not known"),
                               .symbol = "F_a",
                               .applies = core == ForcerCore::iron,
                               .serves = need::force});
    v.quantity(top_speed, constant("top_speed", "Greatest speed", "m/s", 1000, "Mechanical limit of the motor.",
                              "v_max", need::top_speed, left_empty::not_asked("not judged")));
    v.choice(amperes, meaning("currents_in", "Currents in", amperes_as, "Of all currents below.", true));
    v.quantity(continuous_force, constant("continuous_force", "Continuous force", "N", 1e7, "May be held continuously.",
                                     "F_0", constants, left_empty::stands_in("from the other ratings")));
    v.quantity(continuous_current,
        constant("continuous_current", "Continuous current", "A", 1e6, "Line current at that force.", "I_0", constants,
            left_empty::stands_in("from the other ratings")));
    v.quantity(peak_force,
        constant("peak_force", "Peak force", "N", 1e7, "For a moment; with the peak current it shows saturation.",
            "F_p", constants, left_empty::stands_in("from the peak current")));
    v.quantity(
        peak_current, constant("peak_current", "Peak current", "A", 1e6, "The most the magnets and the winding bear.",
                          "I_p", constants, left_empty::not_asked("not judged")));
    v.quantity(motor_constant, km("N/√W"));
    describe_conditions(*this, v);
}

namespace {

template <class M> void describe_stepper(M& m, FieldVisitor& v) {
    bool by_position = false;
    if constexpr (requires { m.control; }) by_position = m.control == StepperControl::position;
    v.quantity(m.holding_torque, constant("holding_torque", "Holding torque", "N·m", 1e5,
                                     "At rest, phases on at the rated current; connected as the ratings are.", "T_H"));
    v.quantity(m.rated_current, constant("rated_current", "Rated phase current", "A", 1000,
                                    "Of each phase, continuous. As a sine it is the RMS current.", "I_N", constants,
                                    left_empty::stands_in("from the other ratings")));
    v.quantity(m.resistance, constant("resistance", "Phase resistance", "Ω", 1e5, "Of one phase.", "R", losses));
    v.quantity(m.rated_voltage,
        rarely(constant("rated_voltage", "Rated voltage", "V", 2000,
            "Resistance times rated current; tells the resistance where that is not given. The supply of a chopper is "
            "ten times as high and more.",
            "U_N", losses)));
    v.quantity(m.inductance, constant("inductance", "Phase inductance", "mH", 1e6,
                                 "Of one phase. Without it no pull-out torque can be said but a sheet's own.", "L",
                                 need::peak_curve | (by_position ? constants : 0)));
    v.quantity(m.detent_torque, constant("detent_torque", "Detent torque", "N·m", 1e5,
                                    "Felt without current; taken off the pull-out torque, never a brake.", "T_d",
                                    constants, left_empty::zero("none")));
    v.quantity(m.friction_torque, constant("friction_torque", "Friction torque", "N·m", 1e5,
                                      "Of bearings and seals; taken off the pull-out torque of the model.", "T_f",
                                      constants, left_empty::zero("none")));
    v.quantity(m.start_rate,
        constant("start_rate", "Start rate, no load", "Hz", 1e6,
            "Full steps a second at which the bare rotor starts and stops without a ramp.", "f_0", need::pulses));
    v.quantity(m.curve_current, {.key = "curve_current",
                                    .label = "Curve current",
                                    .unit = "A",
                                    .range = {0, 1000, true},
                                    .help = "Phase current at which the pull-out curve was taken.",
                                    .required = false,
                                    .if_empty = left_empty::stands_in("the rated current"),
                                    .rare = true,
                                    .symbol = "I_0",
                                    .serves = need::peak_curve});
    v.choice(m.curve_amperes, meaning("curve_current_in", "Curve current in", amperes_as, "Of the sine of a phase.",
                                  m.curve_current.given(), need::peak_curve));
    v.quantity(m.step_accuracy, {.key = "step_accuracy",
                                    .label = "Step accuracy",
                                    .unit = "deg",
                                    .range = {0, 10, true},
                                    .help = "Error of a full step, not cumulative; ±0.05° is usual.",
                                    .source = "common practice, no source",
                                    .required = false,
                                    .if_empty = left_empty::stands_in("0.05°", 0.05),
                                    .rare = true,
                                    .symbol = "δ_s",
                                    .serves = need::pulses});
    describe_temperatures(
        m, v, "Holding torque at", "Temperature of the magnets for which the holding torque is quoted.");
}

QuantitySpec step_angle(const char* help) {
    return {.key = "step_angle",
        .label = "Full step",
        .unit = "deg",
        .range = {0.05, 90},
        .help = help,
        .symbol = "α",
        .serves = constants | need::pulses};
}

} // namespace

void TwoPhaseStepper::describe(FieldVisitor& v) {
    v.choice(control, meaning("control", "Control", stepper_control,
                          "Commutated by position the current follows the load and the motor catches up.", true,
                          constants | need::pulses));
    v.quantity(step_angle, fulmox::step_angle("1.8° is 50 teeth, 0.9° is 100."));
    v.choice(rated_as, meaning("rated_as", "Ratings are for", stepper_rating,
                           "The connection for which current, resistance and inductance are quoted.", true));
    v.choice(
        connected, {.key = "connected",
                       .label = "Connected",
                       .options = stepper_connection,
                       .help = "In series a coil has twice the constant and four times the inductance of its half.",
                       .optional = true,
                       .applies = rated_as != StepperRating::four_leads,
                       .serves = constants});
    describe_stepper(*this, v);
}

void FivePhaseStepper::describe(FieldVisitor& v) {
    v.quantity(step_angle, fulmox::step_angle("0.72° is 50 teeth, 0.36° is 100."));
    v.choice(bridge, meaning("bridge", "Fed by", five_phase_bridge,
                         "Voltage of a phase: one bridge each U, star U/2, pentagon 0.588 U or 0.951 U.", true));
    v.choice(
        phases_on, meaning("phases_on", "Holding torque with", motor_options::phases_on,
                       "It is 3.078 times the torque of one phase with four phases on, 3.236 times with five.", true));
    describe_stepper(*this, v);
}

} // namespace fulmox

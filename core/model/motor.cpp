#include "core/model/motor.h"

#include "core/model/visitor.h"

namespace fulmox {

namespace {

constexpr auto optional = optional_quantity;

} // namespace

void CurvePoint::describe(FieldVisitor& v) {
    v.quantity(speed, {.key = "speed",
                          .label = "Speed",
                          .unit = "rpm",
                          .range = {0, 1e6},
                          .help = "Shaft speed of this point.",
                          .symbol = "n"});
    v.quantity(torque, {.key = "torque",
                           .label = "Torque",
                           .unit = "N·m",
                           .range = {0, 1e7},
                           .help = "Torque of the curve at this speed.",
                           .symbol = "T"});
}

bool Motor::has_constant() const {
    return std::visit(
        [](const auto& m) {
            if constexpr (requires { m.force_constant; })
                return m.force_constant.given() || m.voltage_constant.given();
            else if constexpr (requires { m.holding_torque; })
                return m.holding_torque.given() && m.rated_current.given();
            else
                return m.torque_constant.given() || m.voltage_constant.given() || m.speed_constant.given();
        },
        electric);
}

const char* Motor::kind_key() const {
    return std::visit([](const auto& k) { return std::decay_t<decltype(k)>::kind_key; }, electric);
}

const char* Motor::kind_label() const {
    return std::visit([](const auto& k) { return std::decay_t<decltype(k)>::kind_label; }, electric);
}

bool Motor::rated_by_heat() const {
    return !stepper() && thermal_resistance.given() &&
           std::visit([](const auto& m) { return m.resistance.given(); }, electric);
}
bool Motor::has_rating() const {
    return std::visit(
        [](const auto& m) {
            if constexpr (requires { m.force_constant; })
                return m.continuous_force.given() || m.continuous_current.given();
            else if constexpr (requires { m.holding_torque; })
                return m.rated_current.given();
            else if constexpr (requires { m.no_load_speed; }) // the stall torque of a DC sheet is no rating
                return m.rated_torque.given() || m.rated_current.given();
            else
                return m.stall_torque.given() || m.stall_current.given() || m.rated_torque.given() ||
                       m.rated_current.given();
        },
        electric);
}

void Motor::describe(FieldVisitor& v) {
    // of a motor that turns
    const bool turns = !linear();
    v.text(name, {"name", "Motor", "Type designation."});
    v.text(origin, {"origin", "From", "Catalogue or datasheet these numbers come from."});
    v.text(series, {"series", "Series", "Family of motors it belongs to."});
    v.quantity(frame, {.key = "frame",
                          .label = "Frame size",
                          .unit = "mm",
                          .range = {0, 5000, true},
                          .help = "Side of the flange. It does not tell the shaft.",
                          .required = false,
                          .if_empty = left_empty::not_asked("not shown"),
                          .rare = true,
                          .symbol = "a_M",
                          .applies = turns});
    v.quantity(rotor_inertia, {.key = "rotor_inertia",
                                  .label = "Rotor inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e8, true},
                                  .help = "With encoder, without brake.",
                                  .symbol = "J_M",
                                  .applies = turns,
                                  .serves = need::rotor});
    v.quantity(encoder_inertia, {.key = "encoder_inertia",
                                    .label = "Encoder inertia",
                                    .unit = "kg·cm²",
                                    .range = {0, 1e8},
                                    .help = "Where the sheet gives the rotor without its encoder.",
                                    .required = false,
                                    .if_empty = left_empty::stands_in("in the rotor's"),
                                    .rare = true,
                                    .symbol = "J_G",
                                    .applies = turns,
                                    .serves = need::rotor});
    v.quantity(max_speed, {.key = "max_speed",
                              .label = "Maximum speed",
                              .unit = "rpm",
                              .range = {0, 1e6, true},
                              .help = "Mechanical limit of the motor.",
                              .required = !stepper(),
                              .if_empty = left_empty::not_asked("by torque alone"),
                              .symbol = "n_max",
                              .applies = turns,
                              .serves = need::top_speed});
    v.list(continuous, {"continuous", "Continuous curve", "point",
                           "Speed and torque that may run for ever at rated ambient.", 200, need::continuous_curve});
    v.list(peak, {"peak", "Peak curve", "point", "Speed and torque reachable for a moment at the curve's bus voltage.",
                     200, need::peak_curve});
    v.list(pull_in, {"pull_in", "Pull-in curve", "point",
                        "Of a stepper: speed at which it starts and stops without a ramp, and the torque against it, "
                        "without a load's inertia.",
                        200, need::pull_in});
    v.quantity(curve_voltage, {.key = "curve_voltage",
                                  .label = "Curve bus voltage",
                                  .unit = "V",
                                  .range = {0, 2000, true},
                                  .help = "DC bus voltage at which the curves were drawn.",
                                  .required = !continuous.empty() || !peak.empty(),
                                  .if_empty = left_empty::not_asked("no curves"),
                                  .symbol = "U_0",
                                  .applies = turns,
                                  .serves = need::voltage});
    v.quantity(rated_ambient, {.key = "rated_ambient",
                                  .label = "Rated ambient",
                                  .unit = "°C",
                                  .range = {-60, 120},
                                  .help = "Ambient of the continuous curve; 40 °C unless the sheet says otherwise.",
                                  .source = "IEC 60034-1",
                                  .rare = true,
                                  .symbol = "θ_r",
                                  .serves = need::surroundings});
    v.quantity(winding_limit, {.key = "winding_limit",
                                  .label = "Winding limit",
                                  .unit = "°C",
                                  .range = {60, 300},
                                  .help = "Class B 130 °C, F 155 °C, H 180 °C.",
                                  .source = "IEC 60085",
                                  .rare = true,
                                  .symbol = "θ_max",
                                  .serves = need::surroundings | need::temperatures});
    v.quantity(
        derating, {.key = "derating",
                      .label = "Derating",
                      .unit = "1",
                      .range = {0, 1, true},
                      .typical = {0.5, 1},
                      .help = "Share of the continuous torque left with a built-in brake, encoder or shaft seal, "
                              "or on a smaller mounting plate than the sheet's.",
                      .required = false,
                      .if_empty = left_empty::stands_in("1", 1),
                      .rare = true,
                      .symbol = "k_M",
                      .serves = need::surroundings});
    const auto thermal = [](const char* key, const char* label, const char* unit, double most, const char* help,
                             const IfEmpty& if_empty, const char* symbol) {
        QuantitySpec spec = optional(key, label, unit, most, help, if_empty, symbol, need::thermal);
        spec.rare = true;
        return spec;
    };
    v.quantity(rated_rise, thermal("rated_rise", "Rated rise", "K", 300,
                               "Rise of the winding at which its ratings hold; a stepper's are often given at 80 K.",
                               left_empty::stands_in("winding limit less rated ambient"), "ΔT"));
    v.quantity(
        thermal_resistance, thermal("thermal_resistance", "Thermal resistance", "K/W", 1e4,
                                "Winding to ambient, mounted as the sheet says. Without it the rated loss and rise "
                                "tell it.",
                                left_empty::stands_in("by the rating"), "R_th"));
    v.quantity(
        thermal_time_constant, thermal("thermal_time_constant", "Thermal time constant", "min", 1e5,
                                   "Of the motor as a whole, tens of minutes. It says little of a winding that is "
                                   "overloaded for seconds.",
                                   left_empty::stands_in("means only"), "τ_m"));
    v.quantity(winding_resistance, thermal("winding_resistance", "Winding to housing", "K/W", 1e4,
                                       "With the winding's time constant it makes two bodies of the motor.",
                                       left_empty::stands_in("one body"), "R_wh"));
    v.quantity(winding_time_constant,
        thermal("winding_time_constant", "Winding time constant", "s", 1e5,
            "Of the winding against its housing, tens of seconds.", left_empty::not_asked("not judged"), "τ_w"));
    QuantitySpec housing = thermal("housing_limit", "Housing limit", "°C", 0,
        "Of the case; 80 to 90 °C is usual for "
        "steppers.",
        left_empty::not_asked("not checked"), "θ_h");
    housing.range = {20, 250};
    v.quantity(housing_limit, housing);
    v.quantity(speed_loss, thermal("speed_loss", "Iron and friction loss", "W", 1e6,
                               "At the speed below. Without it the fall of the continuous curve tells it.",
                               left_empty::stands_in("by the continuous curve"), "P_w"));
    QuantitySpec at = thermal("speed_loss_at", "Loss taken at", "rpm", 1e6, "Speed of that loss.",
        left_empty::stands_in("with the loss"), "n_w");
    at.required = speed_loss.given();
    at.applies = speed_loss.given();
    v.quantity(speed_loss_at, at);
    at = thermal("speed_loss_exponent", "Loss exponent", "1", 3,
        "Of speed: 1 hysteresis and dry friction, 2 eddy currents.", left_empty::stands_in("1.5", 1.5), "x_w");
    at.range = {0.5, 3};
    at.applies = speed_loss.given();
    v.quantity(speed_loss_exponent, at);
    QuantitySpec bearing = thermal("bearing_rating", "Bearing rating C", "N", 1e7,
        "Dynamic load rating of the bearing at the shaft end.", left_empty::not_asked("life not specified"), "C");
    bearing.applies = turns;
    bearing.serves = need::life;
    v.quantity(bearing_rating, bearing);
    QuantitySpec brush = thermal("brush_life", "Brush life", "h", 1e6,
        "As the maker expects it; from under 100 h to 10 000 h, and no one can foretell it.",
        left_empty::not_asked("not specified"), "L_b");
    brush.applies = std::holds_alternative<BrushedMotor>(electric);
    brush.serves = need::life;
    v.quantity(brush_life, brush);
    v.variant(electric, {"electric", "Kind and constants", "", false, need::current, true});
    v.quantity(brake_inertia, {.key = "brake_inertia",
                                  .label = "Motor brake inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e8},
                                  .help = "Sits rigidly on the rotor and counts with it.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none"),
                                  .symbol = "J_B",
                                  .applies = turns,
                                  .serves = need::rotor});
    v.quantity(brake_torque, {.key = "brake_torque",
                                 .label = "Motor brake torque",
                                 .unit = "N·m",
                                 .range = {0, 1e7, true},
                                 .help = "Static holding torque of the spring-applied brake. Empty: no brake.",
                                 .required = false,
                                 .if_empty = left_empty::not_asked("no brake"),
                                 .symbol = "T_B",
                                 .applies = turns,
                                 .serves = need::motor_brake});
    brake_stopping.describe(v, {"brake_dynamic_torque", "brake_apply_time", "brake_release_time", "brake_stop_energy"},
        turns && brake_torque.given());
    v.quantity(mass, {.key = "mass",
                         .label = "Motor mass",
                         .unit = "kg",
                         .range = {0, 1e5, true},
                         .help = "With brake.",
                         .required = false,
                         .if_empty = left_empty::not_asked("not shown"),
                         .rare = true,
                         .symbol = "m_M",
                         .serves = need::riding_mass});
    v.quantity(length, {.key = "length",
                           .label = "Motor length",
                           .unit = "mm",
                           .range = {0, 1e4, true},
                           .help = "Behind the flange, with brake and encoder.",
                           .required = false,
                           .if_empty = left_empty::not_asked("not shown"),
                           .rare = true,
                           .symbol = "L_M"});
    v.quantity(shaft_diameter, {.key = "shaft_diameter",
                                   .label = "Shaft diameter",
                                   .unit = "mm",
                                   .range = {0, 1000, true},
                                   .help = "Frame size does not tell it: check.",
                                   .required = false,
                                   .if_empty = left_empty::unknown("not known"),
                                   .rare = true,
                                   .symbol = "d_M",
                                   .applies = turns,
                                   .serves = need::coupling_fit});
    const auto flange = [&](const char* key, const char* label, const char* help, const char* symbol) {
        QuantitySpec spec = optional_quantity(
            key, label, "mm", 2000, help, left_empty::unknown("not known"), symbol, need::coupling_fit);
        spec.rare = true;
        spec.applies = turns;
        return spec;
    };
    v.quantity(pilot, flange("pilot", "Pilot", "Diameter that centres its flange.", "d_p"));
    v.quantity(bolt_circle, flange("bolt_circle", "Bolt circle", "Of its flange.", "d_b"));
    v.quantity(shaft_torque, {.key = "shaft_torque",
                                 .label = "Shaft torque",
                                 .unit = "N·m",
                                 .range = {0, 1e7, true},
                                 .help = "What the shaft or its key carries for a moment.",
                                 .required = false,
                                 .if_empty = left_empty::not_asked("not checked"),
                                 .rare = true,
                                 .symbol = "T_S",
                                 .applies = turns,
                                 .serves = need::motor_shaft});
    v.quantity(price, {.key = "price",
                          .label = "Price",
                          .unit = "1",
                          .range = {0, 1e7},
                          .help = "In the currency of your catalogue.",
                          .required = false,
                          .if_empty = left_empty::not_asked("not shown"),
                          .rare = true});
    v.list(pictures, {"pictures", "Pictures of its curves", "picture",
                         "Of its datasheet, with what was clicked on them.", most_pictures, need::record});
}

bool Drive::reads(Feedback f) const {
    switch (f) {
    case Feedback::hall:
        return reads_hall;
    case Feedback::incremental:
        return reads_incremental;
    case Feedback::sine_cosine:
        return reads_sine_cosine;
    case Feedback::serial:
        return reads_serial;
    case Feedback::resolver:
        return reads_resolver;
    case Feedback::unsaid:
    case Feedback::none:
        return true;
    }
    return true;
}

bool Drive::takes(Command c) const {
    switch (c) {
    case Command::pulses:
        return takes_pulses;
    case Command::analog:
        return takes_analog;
    case Command::network:
        return takes_network;
    case Command::unsaid:
        return true;
    }
    return true;
}

bool Drive::there(bool of_stepper) const {
    if (in_place || !name.empty() || reads_hall || reads_incremental || reads_sine_cosine || reads_serial ||
        reads_resolver || takes_pulses || takes_analog || takes_network ||
        any_typed({&lowest_voltage, &highest_voltage, &trip_voltage, &own_loss, &mass, &price}))
        return true;
    return of_stepper ? any_typed({&most_current, &pulse_input})
                      : any_typed({&continuous_current, &peak_current, &top_frequency});
}

void Drive::describe(FieldVisitor& v) {
    v.text(name, {"name", "Drive", "What it is."});
    v.flag(in_place, in_place_spec);
    v.quantity(bus_voltage,
        {.key = "bus_voltage",
            .label = "Bus voltage",
            .unit = "V",
            .range = {0, 2000, true},
            .help =
                "DC bus; where nothing is said of mains and droop, its lowest in service. The knee of the peak curve "
                "moves with it (estimate).",
            .symbol = "U",
            .serves = need::voltage});
    const auto fall = [](const char* key, const char* label, const char* help, const char* symbol) {
        return QuantitySpec{.key = key,
            .label = label,
            .unit = "%",
            .range = {0, 50},
            .typical = {0, 20},
            .help = help,
            .required = false,
            .if_empty = left_empty::zero("0 %"),
            .symbol = symbol,
            .serves = need::voltage};
    };
    v.quantity(mains_tolerance,
        fall("mains_tolerance", "Mains low by", "How far the mains, and the bus with them, may fall.", "δ_m"));
    v.quantity(
        bus_droop, fall("bus_droop", "Supply droop", "How far the supply falls under the load it feeds.", "δ_d"));
    QuantitySpec high =
        fall("mains_rise", "Mains high by", "How far the mains, and the bus with them, may rise.", "δ_h");
    high.rare = true;
    high.serves = need::drive_window;
    v.quantity(mains_rise, high);
    const auto window = [&](const char* key, const char* label, const char* help, const char* symbol) {
        QuantitySpec spec = optional_quantity(
            key, label, "V", 2000, help, left_empty::unknown("not known"), symbol, need::drive_window);
        spec.rare = true;
        return spec;
    };
    v.quantity(lowest_voltage, window("lowest_voltage", "Drive works from", "Least bus voltage.", "U_D1"));
    v.quantity(highest_voltage, window("highest_voltage", "Drive works up to", "Highest bus voltage.", "U_D2"));
    constexpr need::Bits model = need::voltage | need::current;
    const auto only_for = [](unsigned motion, QuantitySpec spec) {
        spec.needs = motion;
        return spec;
    };
    v.quantity(continuous_current,
        only_for(Motion::servo, optional("continuous_current", "Drive current", "A", 1e5,
                                    "What the drive carries continuously; of its output to the motor.",
                                    left_empty::unknown("not known"), "I_D", need::current)));
    v.quantity(peak_current,
        only_for(Motion::servo,
            optional("peak_current", "Drive peak current", "A", 1e5, "What it gives for a moment, as it is set.",
                left_empty::unknown("not known"), "I_Dp", need::current | need::peak_curve)));
    v.choice(amperes, {.key = "currents_in",
                          .label = "Drive currents in",
                          .options = motor_options::amperes_as,
                          .help = "Peak amperes taken for RMS ones are 1.41 too many.",
                          .optional = true,
                          .applies = continuous_current.given() || peak_current.given(),
                          .needs = Motion::sine,
                          .serves = need::current | need::peak_curve});
    const auto share_of = [&](const char* key, const char* label, const char* help, const IfEmpty& if_empty,
                              const char* symbol, need::Bits serves) {
        QuantitySpec spec = optional_quantity(key, label, "%", 100, help, if_empty, symbol, serves);
        spec.rare = true;
        spec.needs = Motion::servo;
        return spec;
    };
    const bool rated = continuous_current.given() || peak_current.given();
    QuantitySpec part = only_for(
        Motion::servo, optional("peak_time", "Drive peak for", "s", 1e4, "From cold; an I²t integrator counts it.",
                           left_empty::unknown("not known"), "t_Dp", need::drive_overload));
    part.applies = continuous_current.given() && peak_current.given();
    v.quantity(peak_time, part);
    part = share_of("standstill_share", "At standstill",
        "Share of its continuous current near 0 Hz, where one phase "
        "may carry the peak continuously.",
        left_empty::not_asked("not judged"), "k_0", need::drive_overload);
    part.applies = continuous_current.given();
    v.quantity(standstill_share, part);
    part = share_of("derating", "Currents left", "Share of both currents at this switching frequency or mounting.",
        left_empty::stands_in("all of it", 100), "k_D", need::current | need::peak_curve);
    part.applies = rated;
    v.quantity(derating, part);
    part = only_for(
        Motion::servo, optional("derates_from", "Derates from", "°C", 0, "Ambient beyond which its currents fall.",
                           left_empty::not_asked("not derated"), "θ_D", need::current | need::peak_curve));
    part.range = {-40, 100};
    part.rare = true;
    part.applies = rated;
    v.quantity(derates_from, part);
    part = share_of("derating_rate", "By, for each K", "Of both currents.", left_empty::unknown("not known"), "c_D",
        need::current | need::peak_curve);
    part.required = part.applies = rated && derates_from.given();
    v.quantity(derating_rate, part);
    part = only_for(
        Motion::servo, optional("derates_above", "Derates above", "m", 1e4, "Altitude beyond which its currents fall.",
                           left_empty::not_asked("not derated"), "h_D", need::current | need::peak_curve));
    part.range.open_min = false;
    part.rare = true;
    part.applies = rated;
    v.quantity(derates_above, part);
    part = share_of("altitude_rate", "By, for each 100 m", "Of both currents.", left_empty::unknown("not known"), "c_h",
        need::current | need::peak_curve);
    part.required = part.applies = rated && derates_above.given();
    v.quantity(altitude_rate, part);
    part = only_for(Motion::shaft, optional("torque_limit", "Torque limit", "N·m", 1e7,
                                       "As programmed in the drive, at the motor's shaft: how a drive protects "
                                       "gearhead, coupling and screw. An emergency stop takes longer where it is "
                                       "not enough.",
                                       left_empty::not_asked("none"), "T_lim", need::peak_curve | need::stop));
    v.quantity(torque_limit, part);
    v.choice(modulation, {.key = "modulation",
                             .label = "Modulation",
                             .options = modulations,
                             .help = "Peak of a phase: space vector U/√3, sine PWM U/2, overmodulated 2U/π, which is "
                                     "not the same as a block-commutated motor.",
                             .optional = true,
                             .needs = Motion::sine,
                             .serves = model});
    v.quantity(modulation_reserve, {.key = "modulation_reserve",
                                       .label = "Modulation reserve",
                                       .unit = "1",
                                       .range = {0.3, 1},
                                       .typical = {0.9, 1},
                                       .help = "Share of that voltage the drive uses; the rest is for control.",
                                       .source = "common practice, no source",
                                       .required = false,
                                       .if_empty = left_empty::stands_in("0.95", usual_modulation_reserve),
                                       .symbol = "m",
                                       .needs = Motion::sine,
                                       .serves = model});
    v.flag(field_weakening, {"field_weakening", "Field weakening",
                                "The drive lets i_d be negative to go beyond the no-load speed.", Motion::sine});
    const auto stepping = [&](const QuantitySpec& spec) { return only_for(Motion::stepper, spec); };
    v.quantity(phase_current, stepping(optional("phase_current", "Phase current", "A", 1000,
                                  "As the dial of the drive is set; what the dial means is the choice beside it.",
                                  left_empty::stands_in("as the motor is rated"), "I_s", need::current)));
    v.choice(dial, {.key = "dial_in",
                       .label = "Dial in",
                       .options = motor_options::amperes_as,
                       .help = "Set to the rated current as the peak of the sine a motor gives 0.707 of its holding "
                               "torque, as RMS all of it.",
                       .optional = true,
                       .applies = phase_current.given() || most_current.given(),
                       .needs = Motion::stepper,
                       .serves = need::current});
    QuantitySpec most = stepping(optional("most_current", "Dial goes up to", "A", 1000,
        "The most phase current the drive can be set to, in the amperes of its dial.", left_empty::unknown("not known"),
        "I_sm", need::drive_overload));
    most.rare = true;
    v.quantity(most_current, most);
    QuantitySpec idle = stepping(optional("idle_current", "Idle current", "%", 100,
        "Share of the phase current that the drive leaves at rest. Cooler, and it holds less.",
        left_empty::stands_in("not reduced", 100), "k_i", need::current));
    v.quantity(idle_current, idle);
    idle = stepping(optional("idle_delay", "Idle after", "s", 1e4, "From standstill until the current is reduced.",
        left_empty::stands_in("at once"), "t_i", need::current));
    idle.range.open_min = false;
    idle.applies = idle_current.given();
    v.quantity(idle_delay, idle);
    QuantitySpec micro = stepping(optional("microsteps", "Microsteps", "1", 2048,
        "Parts of a full step; 1 is full steps. 400 pulses a turn of a 1.8° motor are 2.",
        left_empty::stands_in("full steps", 1), "N", need::pulses));
    micro.range = {1, 2048};
    v.quantity(microsteps, micro);
    v.quantity(pulse_limit, stepping(optional("pulse_limit", "Pulse limit", "kHz", 1e6,
                                "The most pulses a second the controller gives out.",
                                left_empty::not_asked("not checked"), "f_c", need::pulses)));
    v.quantity(ramp_start, stepping(optional("ramp_start", "Ramps start at", "rpm", 1e5,
                               "Speed of the motor at which ramps begin and end without acceleration.",
                               left_empty::not_asked("standstill"), "n_s", need::pulses)));
    QuantitySpec trip = optional("trip_voltage", "Overvoltage trip", "V", 2000,
        "Bus voltage at which the drive switches off; the back-EMF at top speed must stay below it.",
        left_empty::not_asked("not checked"), "U_trip", need::voltage);
    v.quantity(trip_voltage, trip);
    QuantitySpec top = optional("top_frequency", "Highest frequency", "Hz", 1e5,
        "Electrical frequency the drive can give.", left_empty::not_asked("not checked"), "f_max", need::top_speed);
    v.quantity(top_frequency, only_for(Motion::servo, top));
    QuantitySpec at = optional("cold", "Cold motor", "°C", 0, "Winding and magnets of a motor just started.",
        left_empty::stands_in("20 °C", 20), "θ_c", need::temperatures);
    at.range = {-60, 250};
    v.quantity(cold, at);
    at.key = "hot";
    at.label = "Hot motor";
    at.help = "Winding and magnets in the run. Both cold and hot are looked at, the worse counts.";
    at.if_empty = left_empty::stands_in("winding limit");
    at.symbol = "θ_h";
    v.quantity(hot, at);
    v.quantity(own_loss, {.key = "own_loss",
                             .label = "Drive's own loss",
                             .unit = "W",
                             .range = {0, 1e5},
                             .help = "What the drive takes itself, switched on.",
                             .required = false,
                             .if_empty = left_empty::zero("none"),
                             .rare = true,
                             .symbol = "P_D",
                             .serves = need::energy});
    v.choice(encoder,
        {"encoder", "Encoder", feedbacks, "What tells the drive where the rotor is.", true, true, 0, need::interface});
    const auto flag = [&](bool& b, const char* key, const char* label) {
        v.flag(b, {key, label, "The drive takes it."});
    };
    flag(reads_hall, "reads_hall", "Drive reads Hall sensors");
    flag(reads_incremental, "reads_incremental", "Drive reads incremental encoders");
    flag(reads_sine_cosine, "reads_sine_cosine", "Drive reads sine and cosine");
    flag(reads_serial, "reads_serial", "Drive reads serial encoders");
    flag(reads_resolver, "reads_resolver", "Drive reads resolvers");
    v.choice(controller, {"controller", "Controller gives", command_kinds, "How it tells the drive what to do.", true,
                             true, 0, need::interface});
    flag(takes_pulses, "takes_pulses", "Drive takes pulses");
    flag(takes_analog, "takes_analog", "Drive takes analog commands");
    flag(takes_network, "takes_network", "Drive takes a network");
    QuantitySpec input = optional("pulse_input", "Pulse input", "kHz", 1e6, "The most pulses a second the drive takes.",
        left_empty::not_asked("not checked"), "f_D", need::pulses);
    input.rare = true;
    input.needs = Motion::stepper;
    v.quantity(pulse_input, input);
    describe_trade(v, mass, price, provenance);
    v.quantity(stop_time, {.key = "stop_time",
                              .label = "Emergency stop in",
                              .unit = "s",
                              .range = {0, 1000, true},
                              .help = "Time from top speed to standstill under the drive's torque.",
                              .required = false,
                              .if_empty = left_empty::not_asked("not calculated"),
                              .symbol = "t_E"});
    v.quantity(stop_distance, {.key = "stop_distance",
                                  .label = "Emergency stop within",
                                  .unit = "mm",
                                  .range = {0, 1e6, true},
                                  .help = "Distance of the load from top speed, where no time is given.",
                                  .required = false,
                                  .if_empty = left_empty::not_asked("by time"),
                                  .rare = true,
                                  .symbol = "d_E",
                                  .rotary_unit = "deg",
                                  .rotary_range = {0, 3.6e6, true}});
    QuantitySpec emergency = optional("emergency_torque", "Motor torque in it", "N·m", 1e7,
        "What the motor gives in an emergency stop, at its shaft; coupling and gearhead see it.",
        left_empty::stands_in("its peak torque"), "T_ME", need::coupling);
    emergency.rare = true;
    emergency.needs = Motion::shaft;
    v.quantity(emergency_torque, emergency);
    QuantitySpec stops = optional("emergency_stops", "Emergency stops", "1", 1e9,
        "In the life of the machine; gearheads permit a number.", left_empty::not_asked("not judged"), "N_E",
        need::stage);
    stops.rare = true;
    stops.needs = Motion::shaft;
    v.quantity(emergency_stops, stops);
}

} // namespace fulmox

#include "core/model/axis.h"

#include "core/model/visitor.h"

namespace fulmox {

void Load::describe(FieldVisitor& v) {
    v.quantity(inclination, {.key = "inclination",
                                .label = "Inclination",
                                .unit = "deg",
                                .range = {-90, 90},
                                .help = "0° horizontal, 90° vertical with the positive direction up.",
                                .symbol = "γ",
                                .needs = Motion::inclination});
    v.quantity(carriage_mass, {.key = "carriage_mass",
                                  .label = "Carriage",
                                  .unit = "kg",
                                  .range = {0, 1e6},
                                  .help = "Everything that always moves: slide, nut, tooling, moving cables.",
                                  .symbol = "m_c",
                                  .needs = Motion::carriage,
                                  .serves = need::inertia});
    v.quantity(payload, {.key = "payload",
                            .label = "Payload",
                            .unit = "kg",
                            .range = {0, 1e6},
                            .help = "Carried at the start of the cycle. A segment may change it.",
                            .symbol = "m_p",
                            .needs = Motion::payload,
                            .serves = need::inertia});
    v.quantity(guide_friction, {.key = "guide_friction",
                                   .label = "Guide friction",
                                   .unit = "1",
                                   .range = {0, 5},
                                   .typical = {0, 0.5},
                                   .help = "Rolling guides 0.003–0.01, plain guides 0.05–0.2.",
                                   .source = "common practice, no source",
                                   .symbol = "μ",
                                   .needs = Motion::guides});
    v.quantity(guide_preload, {.key = "guide_preload",
                                  .label = "Guide normal force",
                                  .unit = "N",
                                  .range = {0, 1e7},
                                  .help = "Preload or side load on the guides, besides the weight.",
                                  .required = false,
                                  .if_empty = left_empty::zero("none"),
                                  .rare = true,
                                  .symbol = "F_N",
                                  .needs = Motion::guides});
    v.quantity(seal_drag, {.key = "seal_drag",
                              .label = "Seal drag",
                              .unit = "N",
                              .range = {0, 1e6},
                              .help = "Wipers and seals of the guides, against the motion.",
                              .required = false,
                              .if_empty = left_empty::zero("none"),
                              .symbol = "F_s",
                              .needs = Motion::guides});
    v.quantity(viscous, {.key = "viscous",
                            .label = "Viscous friction",
                            .unit = "N·s/m",
                            .range = {0, 1e6},
                            .help = "Force per speed, against the motion.",
                            .required = false,
                            .if_empty = left_empty::zero("none"),
                            .rare = true,
                            .symbol = "b",
                            .needs = Motion::guides});
    v.quantity(breakaway, {.key = "breakaway",
                              .label = "Breakaway factor",
                              .unit = "1",
                              .range = {1, 10},
                              .typical = {1, 3},
                              .help = "Static over kinetic friction of the guides. Counts where the axis starts "
                                      "from rest, and at rest where friction is credited.",
                              .source = "common practice, no source",
                              .required = false,
                              .if_empty = left_empty::stands_in("1, as while moving"),
                              .rare = true,
                              .symbol = "k_s",
                              .needs = Motion::guides});
    v.quantity(counterbalance, {.key = "counterbalance",
                                   .label = "Counterbalance",
                                   .unit = "N",
                                   .range = {0, 1e7},
                                   .help = "Gas spring or cylinder; constant, pushes up the incline.",
                                   .required = false,
                                   .if_empty = left_empty::zero("none"),
                                   .rare = true,
                                   .symbol = "F_cb",
                                   .needs = Motion::inclination});
    v.quantity(counterweight,
        {.key = "counterweight",
            .label = "Counterweight",
            .unit = "kg",
            .range = {0, 1e6},
            .help = "Hangs over a pulley: takes its weight off gravity and adds its mass to the moving mass.",
            .required = false,
            .if_empty = left_empty::zero("none"),
            .rare = true,
            .symbol = "m_cw",
            .needs = Motion::counterweight,
            .serves = need::inertia});
}

void Questions::describe(FieldVisitor& v) {
    v.choice(precision, {.key = "precision",
                            .label = "Precision",
                            .options = precisions,
                            .help = "How exactly the axis must stand where it is told to.",
                            .optional = true,
                            .serves = need::record});
    v.flag(lost_step_hurts, {"lost_step_hurts", "A lost position hurts",
                                "Parts, tools or people come to harm when the axis "
                                "is not where it is taken to be."});
    v.flag(quiet, {"quiet", "Quiet", "People work beside it."});
    v.flag(long_life, {"long_life", "Long life", "Tens of thousands of hours without a service."});
}

void Accuracy::describe(FieldVisitor& v) {
    const auto place = [](const char* key, const char* label, const char* help, const IfEmpty& if_empty,
                           const char* symbol) {
        QuantitySpec s = optional_quantity(key, label, "mm", 1e5, help, if_empty, symbol, need::precision);
        s.rotary_unit = "arcmin";
        s.rotary_range = {0, 1e5, true};
        return s;
    };
    v.quantity(asked,
        place("asked", "Asked, ±", "Permitted position error of the load.", left_empty::not_asked("not judged"), "δ"));
    v.choice(judged_by, {"judged_by", "Judged by", sums,
                            "The worst case adds all errors; the root of the squares takes them as independent.", true,
                            asked.given(), 0, need::precision});
    v.quantity(encoder_counts,
        optional_quantity("encoder_counts", "Encoder counts", "1", 1e12,
            "A turn of the motor: 2 to the power of its bits, or four times the lines; of a linear encoder for each "
            "metre.",
            left_empty::unknown("not known"), "N_e", need::precision));
    QuantitySpec s = optional_quantity("encoder_accuracy", "Encoder accuracy, ±", "arcsec", 1e6,
        "Error of the encoder itself, whatever its resolution.", left_empty::unknown("not known"), "ε_e",
        need::precision);
    s.needs = Motion::shaft;
    s.range.open_min = false;
    v.quantity(encoder_accuracy, s);
    v.quantity(line_stiffness, [&] {
        QuantitySpec k = optional_quantity("line_stiffness", "Stiffness at the load", "N/µm", 1e9,
            "Of the mechanism alone where it is softest: belt span, rack and pinion. That of a screw follows from it.",
            left_empty::unknown("rigid"), "k_m", need::stiffness);
        k.needs = Motion::carriage;
        return k;
    }());
    v.quantity(turning_stiffness, [&] {
        QuantitySpec k = optional_quantity("turning_stiffness", "Stiffness at its shaft", "N·m/arcmin", 1e12,
            "Of a turning mechanism alone, at its shaft.", left_empty::unknown("rigid"), "C_m", need::stiffness);
        k.needs = Motion::start;
        return k;
    }());
    v.quantity(other, place("other", "Other errors, ±", "Guides, mounting, tool.", left_empty::zero("none"), "δ_x"));
}

void Accepted::describe(FieldVisitor& v) {
    v.text(unknown, {"unknown", "Not known", "Pointer of the value below the axis, as the limits name it."});
    v.text(reason, {"reason", "Reason", "Why it is accepted, and by whom.", true});
}

bool Axis::accepts(std::string_view unknown) const {
    return std::any_of(accepted.begin(), accepted.end(), [&](const Accepted& a) { return a.unknown == unknown; });
}

void Axis::describe(FieldVisitor& v) {
    v.text(name, {"name", "Axis", "Name of the axis."});
    v.text(notes, {"notes", "Notes", "Anything worth knowing later.", true});
    v.variant(mechanism, {"mechanism", "Mechanism", "", false,
                             need::travel | need::inertia | need::force | need::losses | need::thread});
    Motion moves = motion_of(mechanism); // what follows depends on how the axis moves, and on what drives it
    if (motor.linear() || std::holds_alternative<SineMotor>(motor.electric)) moves.has |= Motion::sine;
    moves.has |= motor.stepper() ? Motion::stepper : Motion::servo;
    v.motion(moves);
    v.group(load, {"load", "Load", "", false, need::force});
    v.list(bodies, {"bodies", "Bodies", "body", "Shapes that make up what moves.", 200, need::inertia | need::force});
    v.list(stages, {"stages", "Reduction", "stage", "Between motor and mechanism, the motor side first.", 20,
                       need::travel | need::inertia | need::force});
    v.group(coupling, {"coupling", "Coupling", "", false, need::coupling});
    v.group(brake, {"brake", "Brake", "Spring-applied; holds what would fall or be moved.", false, need::motor_brake});
    v.group(cycle, {"cycle", "Cycle", "", false, need::cycle});
    v.group(accuracy, {"accuracy", "Precision and stiffness", "", true, need::precision});
    v.list(further_cycles,
        {"further_cycles", "Further cycles", "cycle",
            "Other cycles of the axis, each with its weight. Limits keep the worst of all.", 20, need::cycle});
    v.group(drive, {"drive", "Drive and stop", "", false, need::stop});
    v.group(motor, {"motor", "Motor", "", false, need::record});
    v.text(policy, {"policy", "Policy", "Name of the policy the axis is judged by."});
    v.flag(credit_friction_at_rest, {"credit_friction_at_rest", "Credit friction at rest",
                                        "Let guide friction and screw losses help to hold the load at "
                                        "standstill. Never rely on it for safety."});
    v.list(accepted,
        {"accepted", "Accepted unknowns", "unknown",
            "Values that are not known and no reason against the axis; their limits stay unknown.", 500, need::record});
    v.group(questions, {"questions", "What it must be able to do", "", true, need::record});
}

} // namespace fulmox

// One axis: what moves, how it must move, what drives it.
#pragma once

#include "core/model/body.h"
#include "core/model/cycle.h"
#include "core/model/mechanism.h"
#include "core/model/motor.h"
#include "core/model/problem.h"
#include "core/model/stage.h"

#include <string>

namespace fulmox {

/// What the mechanism carries, along a straight line at an inclination.
struct Load {
    Quantity<Kind::angle> inclination{"0 deg"};
    Quantity<Kind::mass> carriage_mass;
    Quantity<Kind::mass> payload;
    Quantity<Kind::number> guide_friction{"0.01"};
    Quantity<Kind::force> guide_preload;
    Quantity<Kind::force> seal_drag;
    Quantity<Kind::damping> viscous;
    Quantity<Kind::number> breakaway;
    Quantity<Kind::force> counterbalance;
    Quantity<Kind::mass> counterweight;
    Extra extra;

    bool operator==(const Load&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.inclination, {.key = "inclination",
                                      .label = "Inclination",
                                      .unit = "deg",
                                      .range = {-90, 90},
                                      .help = "0° horizontal, 90° vertical with the positive direction up.",
                                      .symbol = "γ",
                                      .needs = Motion::inclination});
        v.quantity(s.carriage_mass, {.key = "carriage_mass",
                                        .label = "Carriage",
                                        .unit = "kg",
                                        .range = {0, 1e6},
                                        .help = "Everything that always moves: slide, nut, tooling, moving cables.",
                                        .symbol = "m_c",
                                        .needs = Motion::carriage,
                                        .serves = need::inertia});
        v.quantity(s.payload, {.key = "payload",
                                  .label = "Payload",
                                  .unit = "kg",
                                  .range = {0, 1e6},
                                  .help = "Carried at the start of the cycle. A segment may change it.",
                                  .symbol = "m_p",
                                  .needs = Motion::payload,
                                  .serves = need::inertia});
        v.quantity(s.guide_friction, {.key = "guide_friction",
                                         .label = "Guide friction",
                                         .unit = "1",
                                         .range = {0, 5},
                                         .typical = {0, 0.5},
                                         .help = "Rolling guides 0.003–0.01, plain guides 0.05–0.2.",
                                         .source = "common practice, no source",
                                         .symbol = "μ",
                                         .needs = Motion::guides});
        v.quantity(s.guide_preload, {.key = "guide_preload",
                                        .label = "Guide normal force",
                                        .unit = "N",
                                        .range = {0, 1e7},
                                        .help = "Preload or side load on the guides, besides the weight.",
                                        .required = false,
                                        .if_empty = "none",
                                        .rare = true,
                                        .symbol = "F_N",
                                        .needs = Motion::guides});
        v.quantity(s.seal_drag, {.key = "seal_drag",
                                    .label = "Seal drag",
                                    .unit = "N",
                                    .range = {0, 1e6},
                                    .help = "Wipers and seals of the guides, against the motion.",
                                    .required = false,
                                    .if_empty = "none",
                                    .symbol = "F_s",
                                    .needs = Motion::guides});
        v.quantity(s.viscous, {.key = "viscous",
                                  .label = "Viscous friction",
                                  .unit = "N·s/m",
                                  .range = {0, 1e6},
                                  .help = "Force per speed, against the motion.",
                                  .required = false,
                                  .if_empty = "none",
                                  .rare = true,
                                  .symbol = "b",
                                  .needs = Motion::guides});
        v.quantity(s.breakaway, {.key = "breakaway",
                                    .label = "Breakaway factor",
                                    .unit = "1",
                                    .range = {1, 10},
                                    .typical = {1, 3},
                                    .help = "Static over kinetic friction of the guides. Counts where the axis starts "
                                            "from rest, and at rest where friction is credited.",
                                    .source = "common practice, no source",
                                    .required = false,
                                    .if_empty = "1, as while moving",
                                    .rare = true,
                                    .symbol = "k_s",
                                    .needs = Motion::guides});
        v.quantity(s.counterbalance, {.key = "counterbalance",
                                         .label = "Counterbalance",
                                         .unit = "N",
                                         .range = {0, 1e7},
                                         .help = "Gas spring or cylinder; constant, pushes up the incline.",
                                         .required = false,
                                         .if_empty = "none",
                                         .rare = true,
                                         .symbol = "F_cb",
                                         .needs = Motion::inclination});
        v.quantity(s.counterweight,
            {.key = "counterweight",
                .label = "Counterweight",
                .unit = "kg",
                .range = {0, 1e6},
                .help = "Hangs over a pulley: takes its weight off gravity and adds its mass to the moving mass.",
                .required = false,
                .if_empty = "none",
                .rare = true,
                .symbol = "m_cw",
                .needs = Motion::counterweight,
                .serves = need::inertia});
    }
};

enum class CouplingPlace { motor, mechanism };

struct Coupling {
    CouplingPlace place = CouplingPlace::motor;
    Quantity<Kind::inertia> inertia;
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::number> service_factor{"1.5"};
    Extra extra;

    bool operator==(const Coupling&) const = default;

    static constexpr Option places[] = {{"motor", "motor shaft"}, {"mechanism", "mechanism shaft"}};

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.choice(
            s.place, {"place", "Sits on", places, "With a reduction between them the two turn at different speeds.",
                         true, "", Motion::shaft, need::force | need::coupling});
        v.quantity(s.inertia, {.key = "inertia",
                                  .label = "Coupling inertia",
                                  .unit = "kg·cm²",
                                  .range = {0, 1e8},
                                  .help = "Whole coupling, both hubs. Often 1–2 % of the total; people ask.",
                                  .required = false,
                                  .if_empty = "none",
                                  .symbol = "J_k",
                                  .needs = Motion::shaft,
                                  .serves = need::inertia});
        v.quantity(s.rated_torque, {.key = "allowable_torque",
                                       .label = "Allowable torque",
                                       .unit = "N·m",
                                       .range = {0, 1e7, true},
                                       .help = "The largest torque it may see for an instant. It is held against the "
                                               "instantaneous maximum, never against the rated torque of the motor.",
                                       .required = false,
                                       .if_empty = "cannot be judged",
                                       .symbol = "T_k",
                                       .needs = Motion::shaft,
                                       .decides = true,
                                       .serves = need::coupling});
        v.quantity(s.service_factor, {.key = "service_factor",
                                         .label = "Service factor",
                                         .unit = "1",
                                         .range = {1, 10},
                                         .typical = {1, 4},
                                         .help = "1 for smooth moves, 1.5 for reversing, 2 and more for shocks.",
                                         .source = "common practice, no source",
                                         .rare = true,
                                         .symbol = "K",
                                         .when = "allowable_torque=given",
                                         .needs = Motion::shaft,
                                         .serves = need::coupling});
    }
};

struct Axis {
    std::string name;
    std::string notes;
    Load load;
    Mechanism mechanism;
    std::vector<Body> bodies;
    std::vector<Stage> stages;
    Coupling coupling;
    Cycle cycle;
    Drive drive;
    Motor motor;
    std::string policy = "General servo";
    bool credit_friction_at_rest = false;
    Problems unread; ///< parts of the file that could not be taken in; paths relative to the axis. What depends on them
                     ///< is not known until they are given anew
    Extra extra;

    bool operator==(const Axis&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "Axis", "Name of the axis."});
        v.text(s.notes, {"notes", "Notes", "Anything worth knowing later.", true});
        v.variant(s.mechanism, {"mechanism", "Mechanism", "", false,
                                   need::travel | need::inertia | need::force | need::losses | need::thread});
        v.motion(motion_of(s.mechanism)); // what follows depends on how the axis moves
        v.group(s.load, {"load", "Load", "", false, need::force});
        v.list(s.bodies,
            {"bodies", "Bodies", "body", "Shapes that make up what moves.", 200, need::inertia | need::force});
        v.list(s.stages, {"stages", "Reduction", "stage", "Between motor and mechanism, the motor side first.", 20,
                             need::travel | need::inertia | need::force});
        v.group(s.coupling, {"coupling", "Coupling", "", false, need::coupling});
        v.group(s.cycle, {"cycle", "Cycle", "", false, need::cycle});
        v.group(s.drive, {"drive", "Drive and stop", "", false, need::stop});
        v.group(s.motor, {"motor", "Motor", "", false, need::record});
        v.text(s.policy, {"policy", "Policy", "Name of the policy the axis is judged by."});
        v.flag(s.credit_friction_at_rest, {"credit_friction_at_rest", "Credit friction at rest",
                                              "Let guide friction and screw losses help to hold the load at "
                                              "standstill. Never rely on it for safety."});
    }
};

} // namespace fulmox

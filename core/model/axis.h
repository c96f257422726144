// One axis: what moves, how it must move, what drives it.
#pragma once

#include "core/model/body.h"
#include "core/model/brake.h"
#include "core/model/coupling.h"
#include "core/model/cycle.h"
#include "core/model/mechanism.h"
#include "core/model/motor.h"
#include "core/model/problem.h"
#include "core/model/stage.h"

#include <string>
#include <string_view>

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

    void describe(FieldVisitor& v);
};

enum class Precision { coarse, fine, very_fine };

/// What the choice of a kind of motor asks, where the axis itself does not answer it.
struct Questions {
    Precision precision = Precision::coarse;
    bool lost_step_hurts = false; ///< and is not noticed otherwise
    bool quiet = false;
    bool long_life = false; ///< runs for tens of thousands of hours without service
    Extra extra;

    bool operator==(const Questions&) const = default;

    static constexpr Option precisions[] = {
        {"coarse", "0.1 mm or 0.1° and more"}, {"fine", "hundredths"}, {"very_fine", "micrometres"}};

    void describe(FieldVisitor& v);
};

enum class ErrorSum { worst, squares };

/// How exactly the load must stand where it is told to, and what is known of the axis for it.
struct Accuracy {
    MotionQuantity<Order::position> asked; ///< ±
    ErrorSum judged_by = ErrorSum::worst;
    Quantity<Kind::number> encoder_counts;    ///< a turn of the motor; along a line: a metre
    Quantity<Kind::angle> encoder_accuracy;   ///< ±
    Quantity<Kind::stiffness> line_stiffness; ///< of the mechanism at the load, worst place: belt span, rack
    Quantity<Kind::torsional_stiffness> turning_stiffness;
    MotionQuantity<Order::position> other; ///< ±
    Extra extra;

    bool operator==(const Accuracy&) const = default;

    static constexpr Option sums[] = {{"worst", "the worst case"}, {"squares", "the root of the squares"}};

    void describe(FieldVisitor& v);
};

/// Something that is not known and that somebody takes upon himself.
struct Accepted {
    std::string unknown; ///< pointer below the axis, as `Missing::path`
    std::string reason;  ///< why, and who said so
    Extra extra;

    bool operator==(const Accepted&) const = default;

    void describe(FieldVisitor& v);
};

struct Axis {
    std::string name;
    std::string notes;
    Load load;
    Mechanism mechanism;
    std::vector<Body> bodies;
    std::vector<Stage> stages;
    Coupling coupling;
    Brake brake; ///< beside one in the motor
    Cycle cycle;
    Accuracy accuracy;
    Drive drive;
    std::vector<Cycle> further_cycles; ///< which the axis runs as well, each judged on its own
    Motor motor;
    std::string policy = "General servo";
    bool credit_friction_at_rest = false;
    Questions questions;
    std::vector<Accepted> accepted; ///< unknowns that are no reason against the axis
    Problems unread; ///< parts of the file that could not be taken in; paths relative to the axis. What depends on them
                     ///< is not known until they are given again
    Extra extra;

    bool operator==(const Axis&) const = default;

    /// Its motor is one that this mechanism can have: a linear one along a line, else one that turns. A motor that
    /// stands there otherwise, left from another mechanism, has no effect.
    bool driven() const { return !motor.empty() && motor.linear() == motion_of(mechanism).direct; }

    bool has_drive() const { return drive.there(motor.stepper()); }
    /// Whether this unknown is accepted.
    bool accepts(std::string_view unknown) const;

    void describe(FieldVisitor& v);
};

} // namespace fulmox

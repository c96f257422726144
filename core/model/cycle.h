// The cycle: a list of segments.
#pragma once

#include "core/model/field.h"
#include "core/model/motion_quantity.h"
#include "core/model/samples.h"

#include <variant>
#include <vector>

namespace fulmox {

enum class Reference { from_here, target };
inline constexpr Option references[] = {{"from_here", "from here"}, {"target", "to this position"}};

/// Rest-to-rest laws. Sources of their coefficients: VDI 2143-1; Norton, Cam Design and Manufacturing Handbook.
enum class Law {
    trapezoid,
    parabolic,
    simple_harmonic,
    cycloidal,
    modified_trapezoid,
    modified_sine,
    polynomial_345,
    polynomial_4567
};
inline constexpr Option laws[] = {{"trapezoid", "Trapezoid"}, {"parabolic", "Parabolic velocity"},
    {"simple_harmonic", "Simple harmonic"}, {"cycloidal", "Cycloidal"}, {"modified_trapezoid", "Modified trapezoid"},
    {"modified_sine", "Modified sine"}, {"polynomial_345", "Polynomial 3-4-5"},
    {"polynomial_4567", "Polynomial 4-5-6-7"}};

namespace motion_spec {

inline constexpr QuantitySpec distance{.key = "distance",
    .label = "Distance",
    .unit = "mm",
    .range = {-1e9, 1e9},
    .help = "Signed; positive is the positive direction of the axis.",
    .symbol = "d",
    .rotary_unit = "deg",
    .rotary_range = {-3.6e9, 3.6e9},
    .rotary_label = "Angle"};
inline constexpr QuantitySpec speed{.key = "speed",
    .label = "Speed limit",
    .unit = "mm/s",
    .range = {0, 1e6, true},
    .help = "Reached only where the distance is long enough.",
    .symbol = "v",
    .rotary_unit = "rpm",
    .rotary_range = {0, 1e6, true}};
inline constexpr QuantitySpec acceleration{.key = "acceleration",
    .label = "Acceleration limit",
    .unit = "m/s²",
    .range = {0, 1e5, true},
    .typical = {0.01, 200},
    .help = "While speeding up.",
    .symbol = "a",
    .rotary_unit = "rad/s²",
    .rotary_range = {0, 1e7, true},
    .rotary_typical = {0.01, 5e4}};
inline constexpr QuantitySpec duration{.key = "duration",
    .label = "Time",
    .unit = "s",
    .range = {0, 1e6, true},
    .help = "From standstill to standstill.",
    .symbol = "T"};

/// The same field for another purpose.
constexpr QuantitySpec with(QuantitySpec s, const char* key, const char* label, const char* help, const char* symbol) {
    s.key = key;
    s.label = label;
    s.help = help;
    s.symbol = symbol;
    s.rotary_label = "";
    return s;
}
constexpr QuantitySpec optional(QuantitySpec s, const IfEmpty& if_empty) {
    s.required = false;
    s.if_empty = if_empty;
    return s;
}

} // namespace motion_spec

/// A move from standstill to standstill in a given time, by a law.
struct MoveInTime {
    static constexpr const char* kind_key = "move_in_time";
    static constexpr const char* kind_label = "Move in a time";
    MotionQuantity<Order::position> distance;
    Reference reference = Reference::from_here;
    Quantity<Kind::time> duration;
    Law law = Law::trapezoid;
    Quantity<Kind::number> acceleration_share{"1/3"};
    Quantity<Kind::number> deceleration_share{"1/3"};
    Quantity<Kind::number> rounding;
    Extra extra;
    bool operator==(const MoveInTime&) const = default;

    void describe(FieldVisitor& v);
};

/// A move from standstill to standstill as fast as limits permit.
struct MoveByLimits {
    static constexpr const char* kind_key = "move_by_limits";
    static constexpr const char* kind_label = "Move within limits";
    MotionQuantity<Order::position> distance;
    Reference reference = Reference::from_here;
    MotionQuantity<Order::speed> speed;
    MotionQuantity<Order::acceleration> acceleration;
    MotionQuantity<Order::acceleration> deceleration;
    MotionQuantity<Order::jerk> jerk;
    Extra extra;
    bool operator==(const MoveByLimits&) const = default;

    void describe(FieldVisitor& v);
};

/// From the speed the axis has to another one, zero too.
struct SpeedChange {
    static constexpr const char* kind_key = "speed_change";
    static constexpr const char* kind_label = "Change of speed";
    MotionQuantity<Order::speed> speed;
    Quantity<Kind::time> duration;
    Quantity<Kind::number> rounding;
    Extra extra;
    bool operator==(const SpeedChange&) const = default;

    void describe(FieldVisitor& v);
};

/// Onwards at the speed the axis has, for a distance or a time: feed, print, cut.
struct ConstantSpeed {
    static constexpr const char* kind_key = "constant_speed";
    static constexpr const char* kind_label = "Constant speed";
    MotionQuantity<Order::position> distance;
    Quantity<Kind::time> duration;
    Extra extra;
    bool operator==(const ConstantSpeed&) const = default;

    void describe(FieldVisitor& v);
};

/// From standstill up to a speed, on, and back to standstill, in a given time in all.
struct Jog {
    static constexpr const char* kind_key = "jog";
    static constexpr const char* kind_label = "Jog at a speed";
    MotionQuantity<Order::speed> speed;
    MotionQuantity<Order::acceleration> acceleration;
    Quantity<Kind::time> duration;
    Extra extra;
    bool operator==(const Jog&) const = default;

    void describe(FieldVisitor& v);
};

struct Dwell {
    static constexpr const char* kind_key = "dwell";
    static constexpr const char* kind_label = "Dwell or hold";
    Quantity<Kind::time> duration;
    bool brake_holds = false;
    Extra extra;
    bool operator==(const Dwell&) const = default;

    void describe(FieldVisitor& v);
};

/// Plays the segments before it again.
struct Repeat {
    static constexpr const char* kind_key = "repeat";
    static constexpr const char* kind_label = "Repeat block";
    Quantity<Kind::number> segments{"1"};
    Quantity<Kind::number> times{"2"};
    Extra extra;
    bool operator==(const Repeat&) const = default;

    void describe(FieldVisitor& v);
};

enum class TraceOf { position, velocity };

/// A recorded or computed motion, time against position or velocity, smoothed before it is differentiated.
struct Trace {
    static constexpr const char* kind_key = "trace";
    static constexpr const char* kind_label = "Recorded trace";
    std::string name;
    TraceOf of = TraceOf::position;
    Quantity<Kind::time> window;
    Samples samples;
    Extra extra;
    bool operator==(const Trace&) const = default;

    static constexpr Option meanings[] = {{"position", "position"}, {"velocity", "velocity"}};

    void describe(FieldVisitor& v);
};

/// Motion planned elsewhere and taken over exactly: rows of time, position, velocity, acceleration.
struct PlannedPath {
    static constexpr const char* kind_key = "planned";
    static constexpr const char* kind_label = "Planned path";
    std::string name;
    Samples knots{nullptr, 4};
    Extra extra;
    bool operator==(const PlannedPath&) const = default;

    void describe(FieldVisitor& v);
};

using SegmentKind =
    std::variant<MoveInTime, MoveByLimits, SpeedChange, ConstantSpeed, Jog, Dwell, Repeat, Trace, PlannedPath>;

struct Segment {
    SegmentKind what;
    Quantity<Kind::mass> payload;
    MotionQuantity<Order::force> process_force;
    MotionQuantity<Order::force> process_force_end; ///< it changes evenly over the segment; not given: it does not
    Quantity<Kind::number> friction;
    std::string note;
    Extra extra;
    bool operator==(const Segment&) const = default;

    void describe(FieldVisitor& v);
};

struct Cycle {
    std::string name;
    Quantity<Kind::number> weight{"1"};
    MotionQuantity<Order::speed> start_speed;
    MotionQuantity<Order::position> start_position;
    std::vector<Segment> segments;
    Extra extra;
    bool operator==(const Cycle&) const = default;

    void describe(FieldVisitor& v);
};

} // namespace fulmox

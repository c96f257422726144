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
    return s;
}
constexpr QuantitySpec optional(QuantitySpec s, const char* if_empty) {
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.distance, motion_spec::distance);
        v.choice(s.reference,
            {"reference", "Counted", references, "From where the axis stands, or as a target position.", true});
        v.quantity(s.duration, motion_spec::duration);
        v.choice(s.law,
            {"law", "Law", laws, "How speed rises and falls. The table beside compares them for this move.", true});
        v.quantity(s.acceleration_share,
            {.key = "acceleration_share",
                .label = "Accelerating",
                .unit = "1",
                .range = {0, 1, true},
                .help = "Share of the time; 1/3 is the everyday default, 1/2 with 1/2 a triangle.",
                .source = "VDI 2143-1",
                .symbol = "a",
                .when = "law=trapezoid"});
        v.quantity(s.deceleration_share, {.key = "deceleration_share",
                                             .label = "Decelerating",
                                             .unit = "1",
                                             .range = {0, 1, true},
                                             .help = "Share of the time. The two shares add to 1 at most.",
                                             .source = "VDI 2143-1",
                                             .symbol = "b",
                                             .when = "law=trapezoid"});
        v.quantity(s.rounding, {.key = "rounding",
                                   .label = "Rounding of ramps",
                                   .unit = "1",
                                   .range = {0, 1},
                                   .help = "Share of each ramp spent in jerk; 0 jumps to full acceleration, 1 never "
                                           "holds it. Raises the peak acceleration by 1/(1 − s/2).",
                                   .required = false,
                                   .if_empty = "none",
                                   .symbol = "s",
                                   .when = "law=trapezoid"});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.distance, motion_spec::distance);
        v.choice(s.reference,
            {"reference", "Counted", references, "From where the axis stands, or as a target position.", true});
        v.quantity(s.speed, motion_spec::speed);
        v.quantity(s.acceleration, motion_spec::acceleration);
        v.quantity(s.deceleration, motion_spec::optional(motion_spec::with(motion_spec::acceleration, "deceleration",
                                                             "Deceleration limit", "While slowing down.", "b"),
                                       "as the acceleration"));
        v.quantity(s.jerk, {.key = "jerk",
                               .label = "Jerk limit",
                               .unit = "m/s³",
                               .range = {0, 1e8, true},
                               .typical = {0.1, 1e5},
                               .help = "Rounds every ramp: seven phases at most, the least time within the limits.",
                               .required = false,
                               .if_empty = "none, a trapezoid",
                               .symbol = "j",
                               .rotary_unit = "rad/s³",
                               .rotary_range = {0, 1e10, true}});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        QuantitySpec to = motion_spec::with(motion_spec::speed, "speed", "To speed", "Signed; 0 stops the axis.", "v");
        to.range = to.rotary_range = {-1e6, 1e6};
        v.quantity(s.speed, to);
        v.quantity(s.duration,
            motion_spec::with(motion_spec::duration, "duration", "Ramp time", "From the old speed to the new.", "T"));
        v.quantity(s.rounding, {.key = "rounding",
                                   .label = "Rounding of the ramp",
                                   .unit = "1",
                                   .range = {0, 1},
                                   .help = "Share of the ramp spent in jerk.",
                                   .required = false,
                                   .if_empty = "none",
                                   .symbol = "s"});
    }
};

/// Onwards at the speed the axis has, for a distance or a time: feed, print, cut.
struct ConstantSpeed {
    static constexpr const char* kind_key = "constant_speed";
    static constexpr const char* kind_label = "Constant speed";
    MotionQuantity<Order::position> distance;
    Quantity<Kind::time> duration;
    Extra extra;
    bool operator==(const ConstantSpeed&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.distance, motion_spec::optional(motion_spec::with(motion_spec::distance, "distance",
                                                         "For distance", "Signed like the speed.", "d"),
                                   "by time"));
        v.quantity(s.duration, motion_spec::optional(motion_spec::with(motion_spec::duration, "duration", "For time",
                                                         "Give the distance or the time.", "T"),
                                   "by distance"));
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        QuantitySpec at = motion_spec::with(motion_spec::speed, "speed", "Jog speed", "Signed.", "v");
        at.range = at.rotary_range = {-1e6, 1e6};
        v.quantity(s.speed, at);
        v.quantity(s.acceleration,
            motion_spec::with(motion_spec::acceleration, "acceleration", "Acceleration", "Up and down.", "a"));
        v.quantity(s.duration,
            motion_spec::with(motion_spec::duration, "duration", "Time in all", "Both ramps included.", "T"));
    }
};

struct Dwell {
    static constexpr const char* kind_key = "dwell";
    static constexpr const char* kind_label = "Dwell or hold";
    Quantity<Kind::time> duration;
    bool brake_holds = false;
    Extra extra;
    bool operator==(const Dwell&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(
            s.duration, motion_spec::with(motion_spec::duration, "duration", "Time",
                            "Standstill. The motor holds the load and any process force unless the brake does.", "T"));
        v.flag(s.brake_holds,
            {"brake_holds", "Brake holds", "The holding brake is applied: no motor torque, no motor heat."});
    }
};

/// Plays the segments before it again.
struct Repeat {
    static constexpr const char* kind_key = "repeat";
    static constexpr const char* kind_label = "Repeat block";
    Quantity<Kind::number> segments{"1"};
    Quantity<Kind::number> times{"2"};
    Extra extra;
    bool operator==(const Repeat&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.segments, {.key = "segments",
                                   .label = "Segments before",
                                   .unit = "1",
                                   .range = {1, 10000},
                                   .help = "How many segments before this line belong to the block.",
                                   .symbol = "n"});
        v.quantity(s.times, {.key = "times",
                                .label = "Times in all",
                                .unit = "1",
                                .range = {1, 10000},
                                .help = "The first playing counts: 3 plays the block three times.",
                                .symbol = "k"});
    }
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

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "From", "File the trace came from."});
        v.choice(s.of, {"of", "Recorded", meanings, "What the second column of the file is.", true});
        v.quantity(s.window, {.key = "window",
                                 .label = "Smoothing window",
                                 .unit = "ms",
                                 .range = {0, 1e6},
                                 .help = "Width over which the samples are averaged. Wider: less noise, rounder "
                                         "corners. The plot shows raw against smoothed.",
                                 .required = false,
                                 .if_empty = "21 samples wide"});
        v.samples(s.samples, {"samples", "Samples", "Rows of time, s, and the recorded value, SI.", 2});
    }
};

/// Motion planned elsewhere and taken over exactly: rows of time, position, velocity, acceleration.
struct PlannedPath {
    static constexpr const char* kind_key = "planned";
    static constexpr const char* kind_label = "Planned path";
    std::string name;
    Samples knots{nullptr, 4};
    Extra extra;
    bool operator==(const PlannedPath&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.text(s.name, {"name", "From", "File or program the path was planned from."});
        v.samples(s.knots, {"knots", "Knots", "Rows of time, position, velocity, acceleration, SI.", 4});
    }
};

using SegmentKind =
    std::variant<MoveInTime, MoveByLimits, SpeedChange, ConstantSpeed, Jog, Dwell, Repeat, Trace, PlannedPath>;

struct Segment {
    SegmentKind what;
    Quantity<Kind::mass> payload;
    MotionQuantity<Order::force> process_force;
    Quantity<Kind::number> friction;
    std::string note;
    Extra extra;
    bool operator==(const Segment&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.variant(s.what, {"what", "Segment"});
        v.quantity(s.payload, {.key = "payload",
                                  .label = "Payload from here",
                                  .unit = "kg",
                                  .range = {0, 1e6},
                                  .help = "Payload in force from the start of this segment: pick, place, fill, empty.",
                                  .required = false,
                                  .if_empty = "unchanged",
                                  .symbol = "m_p",
                                  .needs = Motion::payload,
                                  .serves = need::inertia});
        v.quantity(s.process_force,
            {.key = "process_force",
                .label = "Process force",
                .unit = "N",
                .range = {-1e7, 1e7},
                .help = "What the axis must push with during this segment; positive in the positive direction.",
                .required = false,
                .if_empty = "none",
                .symbol = "F_x",
                .rotary_unit = "N·m",
                .rotary_range = {-1e7, 1e7},
                .rotary_label = "Process torque",
                .serves = need::force});
        v.quantity(
            s.friction, {.key = "friction",
                            .label = "Friction × from here",
                            .unit = "1",
                            .range = {0, 100},
                            .help = "Factor on guide friction and drag of the load from this segment on: wet, dry, "
                                    "cold.",
                            .required = false,
                            .if_empty = "unchanged",
                            .rare = true,
                            .needs = Motion::guides,
                            .serves = need::force});
        v.text(s.note, {"note", "Note", "What happens here."});
    }
};

struct Cycle {
    MotionQuantity<Order::speed> start_speed;
    MotionQuantity<Order::position> start_position;
    std::vector<Segment> segments;
    Extra extra;
    bool operator==(const Cycle&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        QuantitySpec speed =
            motion_spec::optional(motion_spec::with(motion_spec::speed, "start_speed", "Speed at the start",
                                      "Of an axis that never stops: the cycle begins and ends with it.", "v_0"),
                "standstill");
        speed.range = speed.rotary_range = {-1e6, 1e6};
        v.quantity(s.start_speed, speed);
        v.quantity(s.start_position,
            motion_spec::optional(motion_spec::with(motion_spec::distance, "start_position", "Start position",
                                      "Where the cycle begins; matters where torque depends on position.", "x_0"),
                "0"));
        v.list(s.segments, {"segments", "Segments", "segment", "The cycle repeats for ever.", 10000});
    }
};

} // namespace fulmox

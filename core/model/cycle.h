// The cycle: a list of segments.
#pragma once

#include "core/model/field.h"

#include <variant>
#include <vector>

namespace fulmox {

/// Trapezoidal move in a given time; distance is signed.
struct MoveInTime {
    static constexpr const char* kind_key = "move_in_time";
    static constexpr const char* kind_label = "Move in a time";
    Quantity<Kind::length> distance;
    Quantity<Kind::time> duration;
    Quantity<Kind::number> acceleration_share{"1/3"};
    Quantity<Kind::number> deceleration_share{"1/3"};
    Extra extra;
    bool operator==(const MoveInTime&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.distance, {.key = "distance",
                                   .label = "Distance",
                                   .unit = "mm",
                                   .range = {-1e6, 1e6},
                                   .help = "Signed; positive is the positive direction of the axis.",
                                   .symbol = "d"});
        v.quantity(s.duration, {.key = "duration",
                                   .label = "Time",
                                   .unit = "s",
                                   .range = {0, 1e6, true},
                                   .help = "From standstill to standstill.",
                                   .symbol = "T"});
        v.quantity(s.acceleration_share,
            {.key = "acceleration_share",
                .label = "Accelerating",
                .unit = "1",
                .range = {0, 1, true},
                .help = "Share of the time; 1/3 is the everyday default, 1/2 with 1/2 a triangle.",
                .source = "VDI 2143-1",
                .symbol = "a"});
        v.quantity(s.deceleration_share, {.key = "deceleration_share",
                                             .label = "Decelerating",
                                             .unit = "1",
                                             .range = {0, 1, true},
                                             .help = "Share of the time. The two shares add to 1 at most.",
                                             .source = "VDI 2143-1",
                                             .symbol = "b"});
    }
};

/// Trapezoidal move as fast as limits permit.
struct MoveByLimits {
    static constexpr const char* kind_key = "move_by_limits";
    static constexpr const char* kind_label = "Move within limits";
    Quantity<Kind::length> distance;
    Quantity<Kind::speed> speed;
    Quantity<Kind::acceleration> acceleration;
    Quantity<Kind::acceleration> deceleration;
    Extra extra;
    bool operator==(const MoveByLimits&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.distance, {.key = "distance",
                                   .label = "Distance",
                                   .unit = "mm",
                                   .range = {-1e6, 1e6},
                                   .help = "Signed; positive is the positive direction of the axis.",
                                   .symbol = "d"});
        v.quantity(s.speed, {.key = "speed",
                                .label = "Speed limit",
                                .unit = "mm/s",
                                .range = {0, 1e6, true},
                                .help = "Reached only where the distance is long enough.",
                                .symbol = "v"});
        v.quantity(s.acceleration, {.key = "acceleration",
                                       .label = "Acceleration limit",
                                       .unit = "m/s²",
                                       .range = {0, 1e5, true},
                                       .typical = {0.01, 200},
                                       .help = "While speeding up.",
                                       .symbol = "a"});
        v.quantity(s.deceleration, {.key = "deceleration",
                                       .label = "Deceleration limit",
                                       .unit = "m/s²",
                                       .range = {0, 1e5, true},
                                       .typical = {0.01, 200},
                                       .help = "While slowing down.",
                                       .required = false,
                                       .if_empty = "as the acceleration",
                                       .symbol = "b"});
    }
};

struct Dwell {
    static constexpr const char* kind_key = "dwell";
    static constexpr const char* kind_label = "Dwell";
    Quantity<Kind::time> duration;
    bool brake_holds = false;
    Extra extra;
    bool operator==(const Dwell&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.quantity(s.duration, {.key = "duration",
                                   .label = "Time",
                                   .unit = "s",
                                   .range = {0, 1e6, true},
                                   .help = "Standstill. The motor holds the load unless the brake does.",
                                   .symbol = "T"});
        v.flag(s.brake_holds,
            {"brake_holds", "Brake holds", "The holding brake is applied: no motor torque, no motor heat."});
    }
};

using SegmentKind = std::variant<MoveInTime, MoveByLimits, Dwell>;

struct Segment {
    SegmentKind what;
    Quantity<Kind::mass> payload;
    Quantity<Kind::force> process_force;
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
                                  .symbol = "m_p"});
        v.quantity(s.process_force,
            {.key = "process_force",
                .label = "Process force",
                .unit = "N",
                .range = {-1e7, 1e7},
                .help = "What the axis must push with during this segment; positive in the positive direction.",
                .required = false,
                .if_empty = "none",
                .symbol = "F_x"});
        v.text(s.note, {"note", "Note", "What happens here."});
    }
};

struct Cycle {
    std::vector<Segment> segments;
    Extra extra;
    bool operator==(const Cycle&) const = default;

    template <class Self, class V> static void describe(Self& s, V& v) {
        v.list(s.segments, {"segments", "Segments", "segment", "The cycle repeats for ever.", 10000});
    }
};

} // namespace fulmox

#include "core/model/cycle.h"

#include "core/model/visitor.h"

namespace fulmox {

void MoveInTime::describe(FieldVisitor& v) {
    v.quantity(distance, motion_spec::distance);
    v.quantity(duration, motion_spec::duration);
    v.choice(
        reference, {"reference", "Counted", references, "From where the axis stands, or as a target position.", true});
    v.choice(
        law, {"law", "Law", laws, "How speed rises and falls. The table beside compares them for this move.", true});
    v.quantity(
        acceleration_share, {.key = "acceleration_share",
                                .label = "Accelerating",
                                .unit = "1",
                                .range = {0, 1, true},
                                .help = "Share of the time; 1/3 is the everyday default, 1/2 with 1/2 a triangle.",
                                .source = "VDI 2143-1",
                                .symbol = "a",
                                .applies = law == Law::trapezoid});
    v.quantity(deceleration_share, {.key = "deceleration_share",
                                       .label = "Decelerating",
                                       .unit = "1",
                                       .range = {0, 1, true},
                                       .help = "Share of the time. The two shares add to 1 at most.",
                                       .source = "VDI 2143-1",
                                       .symbol = "b",
                                       .applies = law == Law::trapezoid});
    v.quantity(rounding, {.key = "rounding",
                             .label = "Rounding of ramps",
                             .unit = "1",
                             .range = {0, 1},
                             .help = "Share of each ramp spent in jerk; 0 jumps to full acceleration, 1 never "
                                     "holds it. Raises the peak acceleration by 1/(1 − s/2).",
                             .required = false,
                             .if_empty = left_empty::zero("none"),
                             .symbol = "s",
                             .applies = law == Law::trapezoid});
}

void MoveByLimits::describe(FieldVisitor& v) {
    v.quantity(distance, motion_spec::distance);
    v.quantity(speed, motion_spec::speed);
    v.quantity(acceleration, motion_spec::acceleration);
    v.quantity(deceleration, motion_spec::optional(motion_spec::with(motion_spec::acceleration, "deceleration",
                                                       "Deceleration limit", "While slowing down.", "b"),
                                 left_empty::stands_in("as the acceleration")));
    v.quantity(jerk, {.key = "jerk",
                         .label = "Jerk limit",
                         .unit = "m/s³",
                         .range = {0, 1e8, true},
                         .typical = {0.1, 1e5},
                         .help = "Rounds every ramp: seven phases at most, the least time within the limits.",
                         .required = false,
                         .if_empty = left_empty::zero("none, a trapezoid"),
                         .symbol = "j",
                         .rotary_unit = "rad/s³",
                         .rotary_range = {0, 1e10, true}});
    v.choice(
        reference, {"reference", "Counted", references, "From where the axis stands, or as a target position.", true});
}

void SpeedChange::describe(FieldVisitor& v) {
    QuantitySpec to = motion_spec::with(motion_spec::speed, "speed", "To speed", "Signed; 0 stops the axis.", "v");
    to.range = to.rotary_range = {-1e6, 1e6};
    v.quantity(speed, to);
    v.quantity(duration,
        motion_spec::with(motion_spec::duration, "duration", "Ramp time", "From the old speed to the new.", "T"));
    v.quantity(rounding, {.key = "rounding",
                             .label = "Rounding of the ramp",
                             .unit = "1",
                             .range = {0, 1},
                             .help = "Share of the ramp spent in jerk.",
                             .required = false,
                             .if_empty = left_empty::zero("none"),
                             .symbol = "s"});
}

void ConstantSpeed::describe(FieldVisitor& v) {
    v.quantity(distance, motion_spec::optional(motion_spec::with(motion_spec::distance, "distance", "For distance",
                                                   "Signed like the speed.", "d"),
                             left_empty::not_asked("by time")));
    v.quantity(duration, motion_spec::optional(motion_spec::with(motion_spec::duration, "duration", "For time",
                                                   "Give the distance or the time.", "T"),
                             left_empty::not_asked("by distance")));
}

void Jog::describe(FieldVisitor& v) {
    QuantitySpec at = motion_spec::with(motion_spec::speed, "speed", "Jog speed", "Signed.", "v");
    at.range = at.rotary_range = {-1e6, 1e6};
    v.quantity(speed, at);
    v.quantity(acceleration,
        motion_spec::with(motion_spec::acceleration, "acceleration", "Acceleration", "Up and down.", "a"));
    v.quantity(
        duration, motion_spec::with(motion_spec::duration, "duration", "Time in all", "Both ramps included.", "T"));
}

void Dwell::describe(FieldVisitor& v) {
    v.quantity(duration, motion_spec::with(motion_spec::duration, "duration", "Time",
                             "Standstill. The motor holds the load and any process force unless the brake does.", "T"));
    v.flag(
        brake_holds, {"brake_holds", "Brake holds", "The holding brake is applied: no motor torque, no motor heat."});
}

void Repeat::describe(FieldVisitor& v) {
    v.quantity(segments, {.key = "segments",
                             .label = "Segments before",
                             .unit = "1",
                             .range = {1, 10000},
                             .help = "How many segments before this line belong to the block.",
                             .symbol = "n"});
    v.quantity(times, {.key = "times",
                          .label = "Times in all",
                          .unit = "1",
                          .range = {1, 10000},
                          .help = "The first playing counts: 3 plays the block three times.",
                          .symbol = "k"});
}

void Trace::describe(FieldVisitor& v) {
    v.text(name, {"name", "From", "File the trace came from."});
    v.choice(of, {"of", "Recorded", meanings, "What the second column of the file is.", true});
    v.quantity(window, {.key = "window",
                           .label = "Smoothing window",
                           .unit = "ms",
                           .range = {0, 1e6},
                           .help = "Width over which the samples are averaged. Wider: less noise, rounder "
                                   "corners. The plot shows raw against smoothed.",
                           .required = false,
                           .if_empty = left_empty::stands_in("21 samples wide")});
    v.samples(samples, {"samples", "Samples", "Rows of time, s, and the recorded value, SI.", 2});
}

void PlannedPath::describe(FieldVisitor& v) {
    v.text(name, {"name", "From", "File or program the path was planned from."});
    v.samples(knots, {"knots", "Knots", "Rows of time, position, velocity, acceleration, SI.", 4});
}

void Segment::describe(FieldVisitor& v) {
    v.variant(what, {"what", "Segment"});
    v.quantity(payload, {.key = "payload",
                            .label = "Payload from here",
                            .unit = "kg",
                            .range = {0, 1e6},
                            .help = "Payload in force from the start of this segment: pick, place, fill, empty.",
                            .required = false,
                            .if_empty = left_empty::stands_in("unchanged"),
                            .symbol = "m_p",
                            .needs = Motion::payload,
                            .serves = need::inertia});
    v.quantity(process_force,
        {.key = "process_force",
            .label = "Process force",
            .unit = "N",
            .range = {-1e7, 1e7},
            .help = "What the axis must push with during this segment; positive in the positive direction.",
            .required = false,
            .if_empty = left_empty::zero("none"),
            .symbol = "F_x",
            .rotary_unit = "N·m",
            .rotary_range = {-1e7, 1e7},
            .rotary_label = "Process torque",
            .serves = need::force});
    v.quantity(
        process_force_end, {.key = "process_force_end",
                               .label = "Process force at the end",
                               .unit = "N",
                               .range = {-1e7, 1e7},
                               .help = "Where it changes evenly over the segment: pressing, a demand given elsewhere.",
                               .required = false,
                               .if_empty = left_empty::stands_in("as at the start"),
                               .rare = !process_force_end.given(),
                               .symbol = "F_x2",
                               .rotary_unit = "N·m",
                               .rotary_range = {-1e7, 1e7},
                               .rotary_label = "Process torque at the end",
                               .serves = need::force});
    v.quantity(friction, {.key = "friction",
                             .label = "Friction × from here",
                             .unit = "1",
                             .range = {0, 100},
                             .help = "Factor on guide friction and drag of the load from this segment on: wet, dry, "
                                     "cold.",
                             .required = false,
                             .if_empty = left_empty::stands_in("unchanged"),
                             .rare = true,
                             .needs = Motion::guides,
                             .serves = need::force});
    v.text(note, {"note", "Note", "What happens here."});
}

void Cycle::describe(FieldVisitor& v) {
    v.text(name, {"name", "Cycle", "What it is for, where the axis runs more than one."});
    v.quantity(
        weight, {.key = "weight",
                    .label = "Weight of the cycle",
                    .unit = "1",
                    .range = {0, 1e6},
                    .help = "Its share of the working time, against the weights of the other cycles of the axis.",
                    .required = false,
                    .if_empty = left_empty::stands_in("1", 1),
                    .rare = true,
                    .serves = need::record});
    QuantitySpec speed =
        motion_spec::optional(motion_spec::with(motion_spec::speed, "start_speed", "Speed at the start",
                                  "Of an axis that never stops: the cycle begins and ends with it.", "v_0"),
            left_empty::zero("standstill"));
    speed.range = speed.rotary_range = {-1e6, 1e6};
    v.quantity(start_speed, speed);
    v.quantity(start_position,
        motion_spec::optional(motion_spec::with(motion_spec::distance, "start_position", "Start position",
                                  "Where the cycle begins; matters where torque depends on position.", "x_0"),
            left_empty::zero("0")));
    v.list(segments, {"segments", "Segments", "segment", "The cycle repeats for ever.", 10000});
}

} // namespace fulmox

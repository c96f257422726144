#include "core/model/policy.h"

#include "core/model/visitor.h"

namespace fulmox {

namespace {

Policy make(const char* name, const char* reason, const char* tight, const char* over, const char* speed,
    const char* peak, const char* continuous, const char* brake) {
    Policy p;
    p.name = name;
    p.reason = reason;
    p.inertia_ratio_tight = Quantity<Kind::number>(tight);
    p.inertia_ratio_over = Quantity<Kind::number>(over);
    p.speed_share = Quantity<Kind::number>(speed);
    p.peak_torque_share = Quantity<Kind::number>(peak);
    p.continuous_share = Quantity<Kind::number>(continuous);
    p.brake_static_factor = Quantity<Kind::number>(brake);
    p.critical_speed_share = Quantity<Kind::number>("80 %");
    p.buckling_share = Quantity<Kind::number>("50 %");
    return p;
}

} // namespace

std::vector<Policy> shipped_policies() {
    return {
        make("General servo",
            "Drives that are tuned per axis, couplings of ordinary stiffness. Up to 5:1 tunes itself, up to 10:1 with "
            "care.",
            "5", "10", "90 %", "90 %", "85 %", "2"),
        make("Stiff start",
            "Drives with no access to tuning, or nobody to tune them: the load must not be felt, so keep close to 1:1 "
            "and leave torque in reserve.",
            "1.5", "3", "90 %", "80 %", "80 %", "2"),
        make("Stiff drivetrain, high ratio",
            "Fast current loop, fine encoder, stiff coupling and observer: the ratio is really a question of "
            "stiffness, and 15 to 30 is in daily use.",
            "15", "30", "95 %", "95 %", "90 %", "1.5"),
        make("Stepper, open loop", "Nothing notices a lost step, so half of the pull-out torque stays in reserve.", "5",
            "10", "90 %", "65 %", "85 %", "2"),
        make("Direct drive",
            "The load is bolted to the rotor: there is no compliance for the ratio to excite, so it is not judged.", "",
            "", "90 %", "90 %", "85 %", "2"),
    };
}

void Policy::describe(FieldVisitor& v) {
    constexpr Range share{0, 1, true, false};
    v.text(name, {"name", "Policy", "Name by which an axis refers to these rules."});
    v.text(reason, {"reason", "Reason", "Why somebody would judge by these rules.", true});
    v.quantity(inertia_ratio_tight, {.key = "inertia_ratio_tight",
                                        .label = "Inertia ratio, tight above",
                                        .unit = "1",
                                        .range = {0, 1000, true},
                                        .help = "Load inertia over rotor inertia. Empty: the ratio is not judged.",
                                        .source = "common practice, no source",
                                        .required = false,
                                        .if_empty = left_empty::not_asked("not judged")});
    v.quantity(inertia_ratio_over, {.key = "inertia_ratio_over",
                                       .label = "Inertia ratio, over above",
                                       .unit = "1",
                                       .range = {0, 1000, true},
                                       .help = "At and above this the axis is refused.",
                                       .source = "common practice, no source",
                                       .required = false,
                                       .if_empty = left_empty::not_asked("not judged")});
    v.quantity(speed_share, {.key = "speed_share",
                                .label = "Top speed share",
                                .unit = "%",
                                .range = {share.min, 100, true},
                                .help = "Of the highest speed the motor reaches at this bus voltage.",
                                .source = "common practice, no source"});
    v.quantity(peak_torque_share, {.key = "peak_torque_share",
                                      .label = "Peak torque share",
                                      .unit = "%",
                                      .range = {0, 100, true},
                                      .help = "Of the peak curve at the speed of that instant.",
                                      .source = "common practice, no source"});
    v.quantity(continuous_share, {.key = "continuous_share",
                                     .label = "Continuous torque share",
                                     .unit = "%",
                                     .range = {0, 100, true},
                                     .help = "Of the continuous torque, as RMS over the cycle or as holding torque.",
                                     .source = "common practice, no source"});
    v.quantity(
        voltage_share, {.key = "voltage_share",
                           .label = "Voltage share",
                           .unit = "%",
                           .range = {0, 100, true},
                           .help = "Of what the bus at its lowest lets the drive make, by the motor's constants.",
                           .source = "common practice, no source",
                           .required = false,
                           .if_empty = left_empty::stands_in("100 %", 100)});
    const auto pull_out = [](const char* key, const char* label, const IfEmpty& if_empty, const char* help) {
        return QuantitySpec{.key = key,
            .label = label,
            .unit = "%",
            .range = {0, 100, true},
            .help = help,
            .source = "common practice, no source",
            .required = false,
            .if_empty = if_empty};
    };
    v.quantity(pull_out_tight, pull_out("pull_out_tight", "Pull-out, tight above", left_empty::stands_in("50 %", 50),
                                   "Of the torque at which a stepper without feedback loses steps."));
    v.quantity(pull_out_over, pull_out("pull_out_over", "Pull-out, over above", left_empty::stands_in("65 %", 65),
                                  "At and above this share of the pull-out torque an open-loop axis is refused."));
    v.choice(point_speed,
        {"point_speed", "Point method at", point_speeds,
            "Speed at which the RMS torque must lie under the continuous curve. The RMS speed is the stricter.", true});
    v.choice(heat_judge,
        {"heat_judge", "Heat judged by", heat_judges,
            "The loss method adds up the heat of every instant, the point method reads the curve once.", true});
    v.quantity(brake_static_factor, {.key = "brake_static_factor",
                                        .label = "Brake static factor",
                                        .unit = "1",
                                        .range = {1, 10},
                                        .help = "Static brake torque over holding torque.",
                                        .source = "common practice, no source"});
    v.quantity(critical_speed_share, {.key = "critical_speed_share",
                                         .label = "Critical speed share",
                                         .unit = "%",
                                         .range = {0, 100, true},
                                         .help = "Of the first bending speed of the screw.",
                                         .source = "common practice, no source"});
    v.quantity(buckling_share, {.key = "buckling_share",
                                   .label = "Buckling share",
                                   .unit = "%",
                                   .range = {0, 100, true},
                                   .help = "Of Euler's load.",
                                   .source = "common practice, no source"});
}

} // namespace fulmox

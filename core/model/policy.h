// Rules of acceptance, as schools of practice hold them.
#pragma once

#include "core/model/field.h"

#include <string>
#include <vector>

namespace fulmox {

/// The speed at which the point method reads the continuous curve.
enum class PointSpeed { mean, rms };

/// Shares of what is allowed, above which a limit is tight. Every limit compares used with allowed × share.
struct Policy {
    std::string name;
    std::string reason;
    Quantity<Kind::number> inertia_ratio_tight;
    Quantity<Kind::number> inertia_ratio_over;
    Quantity<Kind::number> speed_share;
    Quantity<Kind::number> peak_torque_share;
    Quantity<Kind::number> continuous_share;
    PointSpeed point_speed = PointSpeed::mean;
    Quantity<Kind::number> brake_static_factor;
    Quantity<Kind::number> critical_speed_share;
    Quantity<Kind::number> buckling_share;
    Extra extra;

    bool operator==(const Policy&) const = default;

    static constexpr Option point_speeds[] = {{"mean", "mean speed"}, {"rms", "RMS speed"}};

    template <class Self, class V> static void describe(Self& s, V& v) {
        constexpr Range share{0, 1, true, false};
        v.text(s.name, {"name", "Policy", "Name by which an axis refers to these rules."});
        v.text(s.reason, {"reason", "Reason", "Why somebody would judge by these rules.", true});
        v.quantity(
            s.inertia_ratio_tight, {.key = "inertia_ratio_tight",
                                       .label = "Inertia ratio, tight above",
                                       .unit = "1",
                                       .range = {0, 1000, true},
                                       .help = "Load inertia over rotor inertia. Empty: the ratio is not judged.",
                                       .source = "common practice, no source",
                                       .required = false,
                                       .if_empty = "not judged"});
        v.quantity(s.inertia_ratio_over, {.key = "inertia_ratio_over",
                                             .label = "Inertia ratio, over above",
                                             .unit = "1",
                                             .range = {0, 1000, true},
                                             .help = "At and above this the axis is refused.",
                                             .source = "common practice, no source",
                                             .required = false,
                                             .if_empty = "not judged"});
        v.quantity(s.speed_share, {.key = "speed_share",
                                      .label = "Top speed share",
                                      .unit = "%",
                                      .range = {share.min, 100, true},
                                      .help = "Of the highest speed the motor reaches at this bus voltage.",
                                      .source = "common practice, no source"});
        v.quantity(s.peak_torque_share, {.key = "peak_torque_share",
                                            .label = "Peak torque share",
                                            .unit = "%",
                                            .range = {0, 100, true},
                                            .help = "Of the peak curve at the speed of that instant.",
                                            .source = "common practice, no source"});
        v.quantity(
            s.continuous_share, {.key = "continuous_share",
                                    .label = "Continuous torque share",
                                    .unit = "%",
                                    .range = {0, 100, true},
                                    .help = "Of the continuous torque, as RMS over the cycle or as holding torque.",
                                    .source = "common practice, no source"});
        v.choice(s.point_speed,
            {"point_speed", "Point method at", point_speeds,
                "Speed at which the RMS torque must lie under the continuous curve. The RMS speed is the stricter.",
                true});
        v.quantity(s.brake_static_factor, {.key = "brake_static_factor",
                                              .label = "Brake static factor",
                                              .unit = "1",
                                              .range = {1, 10},
                                              .help = "Static brake torque over holding torque.",
                                              .source = "common practice, no source"});
        v.quantity(s.critical_speed_share, {.key = "critical_speed_share",
                                               .label = "Critical speed share",
                                               .unit = "%",
                                               .range = {0, 100, true},
                                               .help = "Of the first bending speed of the screw.",
                                               .source = "common practice, no source"});
        v.quantity(s.buckling_share, {.key = "buckling_share",
                                         .label = "Buckling share",
                                         .unit = "%",
                                         .range = {0, 100, true},
                                         .help = "Of Euler's load.",
                                         .source = "common practice, no source"});
    }
};

/// The five schools the program ships, each with its reason.
std::vector<Policy> shipped_policies();

} // namespace fulmox

// Rules of acceptance, as schools of practice hold them.
#pragma once

#include "core/model/field.h"

#include <string>
#include <vector>

namespace fulmox {

/// The speed at which the point method reads the continuous curve.
enum class PointSpeed { mean, rms };

/// Which of the two heat schools judges.
enum class HeatJudge { both, loss, point };

/// Shares of what is allowed, above which a limit is tight. Every limit compares used with allowed × share.
struct Policy {
    std::string name;
    std::string reason;
    Quantity<Kind::number> inertia_ratio_tight;
    Quantity<Kind::number> inertia_ratio_over;
    Quantity<Kind::number> speed_share;
    Quantity<Kind::number> peak_torque_share;
    Quantity<Kind::number> continuous_share;
    Quantity<Kind::number> voltage_share;
    Quantity<Kind::number> pull_out_tight; ///< of a stepper that notices no lost step
    Quantity<Kind::number> pull_out_over;
    PointSpeed point_speed = PointSpeed::mean;
    HeatJudge heat_judge = HeatJudge::both;
    Quantity<Kind::number> brake_static_factor;
    Quantity<Kind::number> critical_speed_share;
    Quantity<Kind::number> buckling_share;
    Extra extra;

    bool operator==(const Policy&) const = default;

    static constexpr Option point_speeds[] = {{"mean", "mean speed"}, {"rms", "RMS speed"}};

    static constexpr Option heat_judges[] = {
        {"both", "both methods"}, {"loss", "the loss method"}, {"point", "the point method"}};

    void describe(FieldVisitor& v);
};

/// The five schools the program ships, each with its reason.
std::vector<Policy> shipped_policies();

} // namespace fulmox

#include "core/model/policy.h"

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
        make("High-bandwidth servo",
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

} // namespace fulmox

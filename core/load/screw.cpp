#include "core/load/screw.h"

#include <cmath>
#include <numbers>

namespace fulmox {

using std::numbers::pi;

PowerScrewTorque power_screw_torque(
    double force, double lead, double d, double mu, double alpha, double collar_friction, double collar_diameter) {
    const double sec = 1 / std::cos(alpha);
    const double arm = force * d / 2;
    return {arm * (lead + pi * mu * d * sec) / (pi * d - mu * lead * sec),
        arm * (pi * mu * d * sec - lead) / (pi * d + mu * lead * sec), force * collar_friction * collar_diameter / 2};
}

double body_diameter(const Screw& s) {
    return s.root_diameter.given() ? (s.diameter.si + s.root_diameter.si) / 2 : s.diameter.si;
}

double screw_inertia(const Screw& s) { return pi * s.density.si * s.length.si * std::pow(body_diameter(s), 4) / 32; }

double screw_radius(const Screw& s) { return s.lead.si / (2 * pi); }

double screw_drag(const Screw& s) {
    double preload = 0;
    if (s.preload_drag.given()) {
        preload = s.preload_drag.si;
    } else if (s.nut_preload.given()) {
        const double tan_lambda = s.lead.si / (pi * pitch_diameter(s));
        if (s.nut_preload.si > 0) preload = 0.05 / std::sqrt(tan_lambda) * s.nut_preload.si * screw_radius(s);
    }
    return preload + s.bearing_drag.value_or(0);
}

namespace {

Efficiency from_ball_thread(const Screw& s, bool with_working) {
    const double d = pitch_diameter(s);
    const double lambda = std::atan(s.lead.si / (pi * d));
    const double rho = std::atan(s.thread_friction.si);
    Efficiency e{std::tan(lambda) / std::tan(lambda + rho), std::tan(lambda - rho) / std::tan(lambda), {}};
    if (with_working) {
        const WorkingValues v{{"l", s.lead.si}, {"d", d}, {"lambda", lambda}, {"rho", rho}};
        e.working.push_back(working_line("tan λ", "l/(π d_m)", "l/(pi*d)", v, s.lead.si / (pi * d), Kind::number));
        e.working.push_back(working_line("η_f", "tan λ/tan(λ+ρ)", "tan(lambda)/tan(lambda+rho)", v, e.forward,
            Kind::number, "Shigley, Mechanical Engineering Design, ch. 8, with tan ρ = μ"));
        e.working.push_back(working_line("η_b", "tan(λ−ρ)/tan λ", "tan(lambda-rho)/tan(lambda)", v, e.backward,
            Kind::number, "Shigley, Mechanical Engineering Design, ch. 8, with tan ρ = μ"));
    }
    return e;
}

Efficiency from_sliding_thread(const Screw& s, bool with_working) {
    const double d = pitch_diameter(s);
    const double alpha = s.flank_half_angle.si;
    const double mu_c = s.collar_friction.value_or(0);
    const double d_c = s.collar_diameter.value_or(0);
    const PowerScrewTorque t = power_screw_torque(1, s.lead.si, d, s.thread_friction.si, alpha, mu_c, d_c);
    Efficiency e{s.lead.si / (2 * pi * t.raise()), -2 * pi * t.lower() / s.lead.si, {}};
    if (with_working) {
        if (!s.pitch_diameter.given())
            e.working.push_back(working_line("d_m", "d − P/2", "D-P/2", {{"D", s.diameter.si}, {"P", thread_pitch(s)}},
                d, Kind::length, "ISO 2904"));
        const WorkingValues v{{"l", s.lead.si}, {"d", d}, {"mu", s.thread_friction.si}, {"alpha", alpha},
            {"mu_c", mu_c}, {"d_c", d_c}, {"T_r", t.raise()}, {"T_l", t.lower()}};
        const char* source = "Shigley, Mechanical Engineering Design, ch. 8";
        e.working.push_back(working_line("T_raise/F", "d_m/2·(l + π μ d_m sec α)/(π d_m − μ l sec α) + μ_c d_c/2",
            "d/2*(l+pi*mu*d/cos(alpha))/(pi*d-mu*l/cos(alpha))+mu_c*d_c/2", v, t.raise(), Kind::length, source));
        e.working.push_back(working_line("T_lower/F", "d_m/2·(π μ d_m sec α − l)/(π d_m + μ l sec α) + μ_c d_c/2",
            "d/2*(pi*mu*d/cos(alpha)-l)/(pi*d+mu*l/cos(alpha))+mu_c*d_c/2", v, t.lower(), Kind::length, source));
        e.working.push_back(
            working_line("η_f", "F l/(2π T_raise)", "l/(2*pi*T_r)", v, e.forward, Kind::number, source));
        e.working.push_back(
            working_line("η_b", "−2π T_lower/(F l)", "-2*pi*T_l/l", v, e.backward, Kind::number, source));
    }
    return e;
}

} // namespace

Efficiency screw_efficiency(const Screw& s, bool with_working) {
    Efficiency e{};
    if (s.efficiency.given()) {
        e.forward = s.efficiency.si;
        e.backward = 2 - 1 / e.forward;
        if (with_working && !s.efficiency_back.given())
            e.working.push_back(working_line("η_b", "2 − 1/η", "2-1/eta", {{"eta", e.forward}}, e.backward,
                Kind::number, "equal friction loss both ways; common practice, no source"));
    } else {
        // a roller screw has none of its own; validate() asks for the efficiency
        e = s.thread == Thread::ball          ? from_ball_thread(s, with_working)
            : s.thread == Thread::trapezoidal ? from_sliding_thread(s, with_working)
                                              : Efficiency{std::nan(""), std::nan(""), {}};
    }
    if (s.efficiency_back.given()) e.backward = s.efficiency_back.si;
    return e;
}

} // namespace fulmox

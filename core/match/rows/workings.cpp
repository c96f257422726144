#include "core/match/rows/workings.h"

#include "core/motor/model.h"

#include <cmath>

namespace fulmox {

WorkingLine sum_of_causes(const ShaftPoint& p) {
    static constexpr const char* symbols[] = {"T_L", "T_M", "T_f", "T_l", "T_g", "T_x"};
    WorkingValues v;
    std::string sum;
    for (std::size_t k = 0; k < p.state.part.size(); ++k) {
        v.emplace_back(symbols[k], p.state.part[k]);
        sum += (k == 0 ? "" : "+") + std::string(symbols[k]);
    }
    return working_line("T", "load inertia + rotor + friction + losses + gravity + process", sum, v, p.torque,
        Kind::torque, "equation of motion at the motor shaft");
}

Working rms_sum(const Demand& d, std::size_t segments) {
    const std::vector<double> heat = heat_by_segment(d, segments);
    WorkingValues v{{"T_c", d.cycle_time}};
    std::string sum;
    const bool each = segments <= 12;
    double whole = 0;
    for (std::size_t i = 0; i < segments; ++i) {
        whole += heat[i];
        if (!each) continue;
        const std::string name = "H" + std::to_string(i + 1);
        v.emplace_back(name, heat[i]);
        sum += (i == 0 ? "" : "+") + name;
    }
    if (!each) {
        v.emplace_back("H", whole);
        sum = "H";
    }
    return {working_line("T_rms", each ? "√(Σ ∫T² dt / T_cycle), segment by segment" : "√(Σ ∫T² dt / T_cycle)",
        "sqrt((" + sum + ")/T_c)", v, d.rms_torque, Kind::torque,
        "root mean square over the whole cycle, dwell included")};
}

namespace {

// The model's continuous torque from its current.
WorkingLine continuous_of_model(const Capability& c, double speed, double allowed) {
    const TorqueBound b = c.model->continuous(speed);
    const MotorNumbers& n = c.model->numbers();
    const std::string source = std::string("limited by ") + bound_words(b.bound);
    const double per_ampere = c.model->constant_of_axis();
    if (n.saturation > 0)
        return working_line("T_c", "K i_q (1 − β (i_q/I_p)²), hot; K per ampere of i_q", "K*i*(1-beta*(i/I_p)^2)",
            {{"K", per_ampere}, {"i", b.iq}, {"beta", n.saturation}, {"I_p", c.model->saturates_at()}}, allowed,
            Kind::torque, source);
    return working_line("T_c", "K i_q − T_f, hot; K per ampere of i_q", "max(0, K*i-T_f)",
        {{"K", per_ampere}, {"i", b.iq},
            {"T_f", speed == 0  ? 0
                    : n.stepper ? n.stepper->detent + n.stepper->friction
                                : n.friction()}},
        allowed, Kind::torque, source);
}

} // namespace

WorkingLine continuous_at_rest(const Capability& c) {
    if (c.continuous_by_model) return continuous_of_model(c, 0, c.continuous_stall());
    return working_line("allowed", "T_c(0) √f", "T_c0*sqrt(f)", {{"T_c0", c.continuous.stall()}, {"f", c.heat_factor}},
        c.continuous_stall(), Kind::torque, "IEC 60034-1: ambient and altitude; the motor's derating");
}

WorkingLine continuous_by_point(const Capability& c, double speed, double allowed, const std::string& which) {
    if (c.continuous_by_model) return continuous_of_model(c, speed, allowed);
    return working_line("T_c'(ω)",
        "√(T_c(ω)² − (1 − f) max(T_c(0), T_c(ω))²) at the " + which + " speed, not above the peak curve",
        "min(sqrt(max(0, T_c^2-(1-f)*max(T_c0, T_c)^2)), T_p)",
        {{"f", c.heat_factor}, {"T_c0", c.continuous.stall()}, {"T_c", c.continuous.at(speed)},
            {"T_p", c.peak.at(speed)}},
        allowed, Kind::torque, "IEC 60034-1: ambient and altitude; the motor's derating");
}

} // namespace fulmox

#include "core/drivetrain/precision.h"

#include "core/drivetrain/cycle_places.h"
#include "core/drivetrain/load_side.h"
#include "core/motor/stepper.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace fulmox {

namespace {

constexpr double steel_growth = 11.7e-6; // 1/K
constexpr double lead_reach = 0.3;       // m, over which a lead error is given

// Largest static torque of the load and largest torque of friction, N·m at the motor's shaft.
struct Pull {
    double external = 0, friction = 0;
};
Pull pull_of(const Demand& d) {
    Pull out;
    const LoadSide side(d.load, false);
    const CyclePlaces places = cycle_places(d);
    const auto external = [&](double q, double payload, double process) {
        return std::abs(side.external(q, payload, process));
    };
    std::vector<std::function<double(double, double, double)>> figures;
    if (d.load.position_dependent()) figures.emplace_back(external);
    over_places(
        places,
        [&](double q, double payload, double process) {
            out.external = std::max(out.external, external(q, payload, process));
        },
        figures);
    for (const CyclePlace& p : places.stretches) {
        if (!p.moves) continue;
        constexpr int parts = 16;
        for (int i = 0; i <= (p.high > p.low ? parts : 0); ++i) {
            // at the crawl: viscous friction is gone where the axis stands
            Span crawl;
            crawl.piece.c[0] = p.low + (p.high - p.low) * i / parts;
            crawl.payload = p.payload;
            crawl.friction_factor = p.friction;
            crawl.direction = crawl.load_direction = 1;
            const ShaftState state = evaluate(d.load, crawl, 0);
            out.friction = std::max(out.friction, std::abs(state.part[static_cast<std::size_t>(Cause::friction)]));
        }
    }
    return out;
}

} // namespace

PrecisionBudget precision_budget(const Axis& axis, const Demand& d, double stroke, const Capability* can) {
    PrecisionBudget out;
    const LoadModel& m = d.load;
    const Accuracy& a = axis.accuracy;
    const bool direct = m.motion.direct;
    const bool along = !m.motion.rotary;
    // of the load for a turn of the motor
    const double travel = direct                                         ? 1
                          : along && m.path == LoadModel::Path::straight ? std::abs(m.radius) / m.ratio
                                                                         : 1 / m.ratio;
    const auto add = [&](std::string key, std::string label, double error, bool grows = false) {
        out.terms.push_back({std::move(key), std::move(label), error, grows});
    };
    const auto misses = [&](std::string path, std::string name) {
        out.missing.push_back({std::move(path), std::move(name)});
    };
    const bool steps = axis.driven() && axis.motor.stepper();
    if (a.encoder_counts.given()) {
        const double count = direct ? 1 / a.encoder_counts.si : 2 * std::numbers::pi / a.encoder_counts.si * travel;
        add("encoder_counts", "Encoder, half a count", count / 2);
    } else if (!steps) {
        misses("/accuracy/encoder_counts", "counts of the encoder");
    }
    if (!direct && a.encoder_accuracy.given())
        add("encoder_accuracy", "Encoder, its own error", a.encoder_accuracy.si * travel);
    else if (!direct && (a.encoder_counts.given() || !steps))
        misses("/accuracy/encoder_accuracy", "accuracy of the encoder");
    if (steps) {
        const StepperNumbers n = stepper_numbers(axis.motor);
        const double micro = axis.drive.microsteps.value_or(1);
        add("microstep", "Half a microstep", n.step / micro / 2 * travel);
        if (n.fixed_current()) {
            add("step_accuracy", "Accuracy of a step", n.accuracy * travel);
            const double lag = can && can->model ? n.deflection(d.peak.torque, can->model->holding(false)) : no_number;
            if (std::isnan(lag))
                misses("/motor/electric/holding_torque", "lag of the stepper under its largest torque");
            else
                add("stepper_lag", "Lag of the stepper, largest torque", lag * travel);
        }
    }
    double slower = 1;
    const auto play = [&](const std::string& key, const std::string& label, double backlash, double at) {
        add("backlash_" + key, label + ", half its backlash", backlash / 2 * at * travel);
    };
    if (!direct) {
        if (axis.coupling.backlash.given())
            play("coupling", "Coupling", axis.coupling.backlash.si, m.coupling_at_mechanism ? m.ratio : 1);
        else if (axis.coupling.there())
            misses("/coupling/backlash", "backlash of the coupling");
        for (std::size_t k = 0; k < m.stages.size(); ++k) {
            const Stage& s = axis.stages[k];
            slower *= m.stages[k].ratio;
            const std::string name = s.name.empty() ? "Stage " + std::to_string(k + 1) : s.name;
            if (s.backlash.given())
                play("stage_" + std::to_string(k + 1), name, s.backlash.si, slower);
            else
                misses("/stages/" + std::to_string(k) + "/backlash", "backlash of " + name);
        }
    }
    double compliance = 0;
    for (const Spring& s : springs_of(axis, m)) compliance += 1 / s.at_motor;
    if (compliance > 0) {
        const Pull pull = pull_of(d);
        add("windup_reversal", "Windup, friction on reversal", pull.friction * compliance * travel);
        add("windup_load", "Windup under load, one direction", pull.external * compliance * travel);
    }
    for (Missing& spring : missing_springs(axis, m)) out.missing.push_back(std::move(spring));
    const auto* screw = std::get_if<Screw>(&axis.mechanism);
    if (screw && screw->lead_error.given())
        add("lead_error", "Lead error", screw->lead_error.si * std::max(1.0, stroke / lead_reach), true);
    else if (screw)
        misses("/mechanism/lead_error", "lead error of the screw");
    // m of warm screw between where the growth counts from and the nut
    const double beyond =
        screw && screw->growth_from == GrowthFrom::bearing ? std::max(0.0, reach_of(*screw) - stroke) : 0;
    if (screw && screw->temperature_rise.given())
        add("thermal_growth", "Growth of the warm screw", steel_growth * screw->temperature_rise.si * (beyond + stroke),
            true);
    if (a.other.given()) add("other", "Other errors", a.other.si);

    const auto sums = [&](double share, double& worst, double& squares) {
        worst = squares = 0;
        double windup = 0;
        for (const ErrorTerm& t : out.terms) {
            double e = t.error;
            if (t.key == "lead_error") e = screw->lead_error.si * std::max(1.0, share * stroke / lead_reach);
            if (t.key == "thermal_growth") e = steel_growth * screw->temperature_rise.si * (beyond + share * stroke);
            worst += e;
            if (t.key.starts_with("windup"))
                windup += e;
            else
                squares += e * e;
        }
        squares = std::sqrt(squares + windup * windup);
    };
    sums(1, out.worst, out.squares);
    constexpr int places = 10;
    for (int i = 0; i <= places; ++i) {
        const double share = static_cast<double>(i) / places;
        PrecisionBudget::Place& p = out.over_stroke.emplace_back();
        p.from_start = share * stroke;
        sums(share, p.worst, p.squares);
    }
    return out;
}

} // namespace fulmox

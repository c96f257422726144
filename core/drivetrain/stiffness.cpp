#include "core/drivetrain/stiffness.h"

#include "core/quantity/not_finite.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

using std::numbers::pi;

// A chain of turning bodies joined by springs, all seen from the motor's shaft.
struct Chain {
    std::vector<double> bodies{0};
    std::vector<double> springs;

    void body(double inertia) { bodies.back() += inertia; }
    void spring(double stiffness) {
        springs.push_back(stiffness);
        bodies.push_back(0);
    }
    // springs beside a body without inertia are one spring in series
    void tidy() {
        for (std::size_t i = 0; i < bodies.size() && bodies.size() > 1;) {
            if (bodies[i] > 0) {
                ++i;
                continue;
            }
            const auto at = static_cast<std::ptrdiff_t>(i);
            bodies.erase(bodies.begin() + at);
            if (i == 0 || i == springs.size()) { // nothing hangs from an end
                springs.erase(springs.begin() + (i == 0 ? 0 : at - 1));
                continue;
            }
            springs[i - 1] = 1 / (1 / springs[i - 1] + 1 / springs[i]);
            springs.erase(springs.begin() + at);
        }
    }
    // Hz, rising; with the first body held in place, or all free, and then without the turning of the whole
    std::vector<double> frequencies(bool held) const {
        const std::size_t first = held ? 1 : 0, n = bodies.size() - first;
        if (springs.empty()) return {};
        // M^(-1/2) K M^(-1/2) keeps the matrix symmetric where inertias are far apart
        Eigen::MatrixXd k = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(n), static_cast<Eigen::Index>(n));
        const auto at = [&](std::size_t i) { return static_cast<Eigen::Index>(i - first); };
        for (std::size_t s = 0; s < springs.size(); ++s) {
            const double left = bodies[s], right = bodies[s + 1], c = springs[s];
            k(at(s + 1), at(s + 1)) += c / right;
            if (s < first) continue;
            k(at(s), at(s)) += c / left;
            k(at(s), at(s + 1)) -= c / std::sqrt(left * right);
            k(at(s + 1), at(s)) = k(at(s), at(s + 1));
        }
        const Eigen::VectorXd squares =
            Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd>(k, Eigen::EigenvaluesOnly).eigenvalues();
        std::vector<double> out;
        for (Eigen::Index i = held ? 0 : 1; i < squares.size(); ++i)
            out.push_back(std::sqrt(std::max(0.0, squares[i])) / (2 * pi));
        return out;
    }
};

} // namespace

TwoBody two_body(double stiffness, double motor_inertia, double load_inertia) {
    TwoBody t{motor_inertia, load_inertia, 0, 0};
    t.antiresonance = std::sqrt(stiffness / load_inertia) / (2 * pi);
    t.resonance = std::sqrt(stiffness * (motor_inertia + load_inertia) / (motor_inertia * load_inertia)) / (2 * pi);
    return t;
}

double shear_modulus(const Screw& s) {
    return s.shear_modulus.given() ? s.shear_modulus.si : s.elastic_modulus.si / 2.6;
}

double reach_of(const Screw& s) {
    return s.loaded_length.given() ? s.loaded_length.si : s.free_length.given() ? s.free_length.si : s.length.si;
}

double screw_torsion(double root_diameter, double length, double shear_modulus) {
    return shear_modulus * pi * std::pow(root_diameter, 4) / 32 / length;
}

double screw_axial(double root_diameter, double length, double elastic_modulus) {
    return elastic_modulus * pi * root_diameter * root_diameter / 4 / length;
}

std::vector<Spring> springs_of(const Axis& axis, const LoadModel& m) {
    std::vector<Spring> out;
    if (m.motion.direct) return out;
    // stiffness at a shaft that turns `slower` times as slowly as the motor
    const auto turning = [&](std::string key, std::string label, double own, double slower, double travel) {
        out.push_back({std::move(key), std::move(label), false, own, own / (slower * slower), travel});
    };
    const double radius = m.path == LoadModel::Path::straight && !m.motion.rotary ? std::abs(m.radius) : 1;
    const bool at_mechanism = m.coupling_at_mechanism;
    const auto coupling = [&] {
        if (!axis.coupling.stiffness.given()) return;
        turning("coupling", axis.coupling.name.empty() ? "Coupling" : axis.coupling.name, axis.coupling.stiffness.si,
            at_mechanism ? m.ratio : 1, radius / (at_mechanism ? 1 : m.ratio));
    };
    if (!at_mechanism) coupling();
    double slower = 1;
    for (std::size_t k = 0; k < m.stages.size(); ++k) {
        slower *= m.stages[k].ratio;
        const Stage& s = axis.stages[k];
        if (s.stiffness.given())
            turning("stage_" + std::to_string(k + 1), s.name.empty() ? "Stage " + std::to_string(k + 1) : s.name,
                s.stiffness.si, slower, radius * slower / m.ratio);
    }
    if (at_mechanism) coupling();
    const auto axial = [&](const char* key, const char* label, double own) {
        const double turn = radius / m.ratio;
        out.push_back({key, label, true, own, own * turn * turn, 1});
    };
    if (const auto* s = std::get_if<Screw>(&axis.mechanism)) {
        if (s->root_diameter.given()) {
            const double length = reach_of(*s), e = s->elastic_modulus.si;
            if (s->turns == ScrewTurns::screw)
                turning("screw_torsion", "Screw, torsion",
                    screw_torsion(s->root_diameter.si, length, shear_modulus(*s)), m.ratio, radius);
            // fixed at both ends it is softest in the middle, each half with half of the length
            const double ends = s->fixity == EndFixity::fixed_fixed ? 4 : 1;
            axial("screw_axial", "Screw, axial", ends * screw_axial(s->root_diameter.si, length, e));
        }
        if (s->nut_stiffness.given()) axial("nut", "Nut", s->nut_stiffness.si);
        if (s->bearing_stiffness.given()) axial("bearing", "Bearing", s->bearing_stiffness.si);
    }
    if (!m.motion.rotary && (m.motion.has & Motion::carriage) && axis.accuracy.line_stiffness.given())
        axial("mechanism", "Mechanism", axis.accuracy.line_stiffness.si);
    if (m.motion.rotary && (m.motion.has & Motion::start) && axis.accuracy.turning_stiffness.given())
        turning("mechanism", "Mechanism", axis.accuracy.turning_stiffness.si, m.ratio, 1);
    return out;
}

std::vector<Missing> missing_springs(const Axis& axis, const LoadModel& m) {
    std::vector<Missing> out;
    if (m.motion.direct) return out;
    const auto needs = [&](const QuantityBase& q, std::string path, std::string name) {
        if (!q.given()) out.push_back({std::move(path), std::move(name)});
    };
    if (axis.coupling.there()) needs(axis.coupling.stiffness, "/coupling/stiffness", "stiffness of the coupling");
    for (std::size_t k = 0; k < m.stages.size(); ++k)
        needs(axis.stages[k].stiffness, "/stages/" + std::to_string(k) + "/stiffness",
            "stiffness of " + (axis.stages[k].name.empty() ? "stage " + std::to_string(k + 1) : axis.stages[k].name));
    if (const auto* s = std::get_if<Screw>(&axis.mechanism)) {
        needs(s->root_diameter, "/mechanism/root_diameter", "root diameter of the screw");
        needs(s->nut_stiffness, "/mechanism/nut_stiffness", "stiffness of the nut");
        needs(s->bearing_stiffness, "/mechanism/bearing_stiffness", "stiffness of the bearing");
    } else if (!m.motion.rotary && (m.motion.has & Motion::carriage)) {
        needs(axis.accuracy.line_stiffness, "/accuracy/line_stiffness", "stiffness at the load");
    } else if (m.motion.rotary && (m.motion.has & Motion::start)) {
        needs(axis.accuracy.turning_stiffness, "/accuracy/turning_stiffness", "stiffness at the load");
    }
    return out;
}

StiffnessStatement stiffness_statement(const Axis& axis, const LoadModel& m, const InertiaStatement& inertia) {
    StiffnessStatement out;
    out.springs = springs_of(axis, m);
    double compliance = 0;
    for (std::size_t i = 0; i < out.springs.size(); ++i) {
        compliance += 1 / out.springs[i].at_motor;
        if (out.springs[i].at_motor < out.springs[out.softest].at_motor) out.softest = i;
    }
    out.total = compliance > 0 ? 1 / compliance : infinite;
    if (!inertia.load_known || !(inertia.rotor > 0) || out.springs.empty()) return out;
    // the input of a gearhead on the motor's shaft turns with it
    const double input = m.stages.empty() ? 0 : m.stages.front().inertia;
    out.two = two_body(out.total, inertia.rotor + input, inertia.load - input);

    // the chain takes the inertias where they are
    Chain chain;
    chain.body(inertia.rotor);
    const auto give = [&](auto&& is) {
        double series = 0;
        for (const Spring& s : out.springs)
            if (is(s)) series += 1 / s.at_motor;
        if (series > 0) chain.spring(1 / series);
    };
    const auto named = [](std::string key) { return [key = std::move(key)](const Spring& s) { return s.key == key; }; };
    double placed = 0;
    const auto body = [&](double at_motor) {
        chain.body(at_motor);
        placed += at_motor;
    };
    const double coupling = axis.coupling.inertia.value_or(0);
    if (!m.coupling_at_mechanism) {
        give(named("coupling"));
        body(coupling);
    }
    double ahead = 1;
    for (std::size_t k = 0; k < m.stages.size(); ++k) {
        body(m.stages[k].inertia / (ahead * ahead));
        ahead *= m.stages[k].ratio;
        give(named("stage_" + std::to_string(k + 1)));
    }
    if (m.coupling_at_mechanism) give(named("coupling"));
    // what turns with the mechanism's shaft, and behind its own compliance what it moves
    const double shaft = m.own_inertia / (m.ratio * m.ratio);
    body(shaft);
    give([](const Spring& s) { return s.axial || s.key == "screw_torsion" || s.key == "mechanism"; });
    chain.body(std::max(0.0, inertia.load - placed));
    chain.tidy();
    out.resonances = chain.frequencies(false);
    out.antiresonances = chain.frequencies(true);
    return out;
}

} // namespace fulmox

// Figures of coupling, brake, drive, stiffness and precision.
#include "core/match/drivetrain_rows.h"
#include "core/match/figures.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

using In = const FigureInput&;

bool turns(In in) { return (motion_of(in.axis.mechanism).has & Motion::shaft) != 0; }

bool bounds_coupling(In in) {
    return turns(in) && in.axis.driven() && in.axis.coupling.there() && tells_inertia(in.axis) &&
           (!in.demand || (in.coupling && in.coupling->bounded));
}

const char* case_words(const CouplingUse::Worst& w) {
    return w.of == CouplingUse::stop
               ? w.way == CouplingUse::backward ? "in an emergency stop, backwards" : "in an emergency stop, forwards"
           : w.way == CouplingUse::backward ? "at the motor's peak, backwards"
                                            : "at the motor's peak, forwards";
}

bool has_brake(In in) {
    return turns(in) && tells_inertia(in.axis) &&
           (in.axis.brake.there() || (in.axis.driven() && in.axis.motor.brake_torque.given())) &&
           (!in.demand || (in.brake && in.brake->delays_known));
}
void of_loss(Figure& f, In in, const PowerLoss& loss, double PowerLoss::*figure) {
    f.si = loss.stops ? loss.*figure : no_number;
    f.note = !loss.stops ? "it never stops" : &loss == &in.brake->standing ? "from standstill" : "from top speed";
    if (loss.stops && in.brake->estimate) f.note += "; gravity and inertia as where the power fails";
}

// Something is said of how the axis gives way.
bool gives_way(In in) {
    if (!turns(in) || !in.axis.driven() || !tells_inertia(in.axis)) return false;
    return in.stiffness ? !in.stiffness->springs.empty() : !springs_of(in.axis, in.load).empty();
}
bool sways(In in) { return gives_way(in) && (!in.inertia || (in.stiffness && in.stiffness->two.load > 0)); }
bool has_chain(In in) { return gives_way(in) && (!in.inertia || (in.stiffness && !in.stiffness->resonances.empty())); }

bool tells_precision(In in) {
    return !std::holds_alternative<Winder>(in.axis.mechanism) &&
           (in.axis.accuracy.asked.given() || in.axis.accuracy.encoder_counts.given()) &&
           (!in.demand || in.precision != nullptr);
}
void of_budget(Figure& f, In in, double si, bool squares) {
    f.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
    f.si = si;
    f.note = "±";
    for (const Missing& m : in.precision->missing)
        f.note += (&m == in.precision->missing.data() ? "; without " : ", ") + m.name;
    if (in.workings && !in.precision->terms.empty()) f.working = {precision_working(*in.precision, !squares, f.kind)};
}

} // namespace

std::vector<FigureRow> drivetrain_figure_rows() {
    using namespace need;
    constexpr Bits of_coupling =
        need::load | need::stop | need::coupling | rotor | ratio_inertia | peak_curve | voltage;
    constexpr Bits brakes = need::load | motor_brake | need::brake_stop | rotor | ratio_inertia;
    constexpr Bits sway = travel | inertia | rotor | ratio_inertia | need::stiffness | bending | buckling;
    constexpr Bits exact = need::load | need::precision | need::stiffness | bending | buckling | pulses;
    return {
        {"coupling.shared_bound", "Coupling, shared bound", nullptr, Kind::torque, of_coupling, bounds_coupling,
            [](Figure& f, In in) {
                const CouplingUse::Worst w = in.coupling->worst(&CouplingBounds::shared);
                f.si = std::abs(w.bounds.shared);
                f.note = case_words(w);
                work(f, in, "T_s", "|(T_m − T_x) J_L/J + T_x|", "abs((T_m-T_x)*s+T_x)",
                    {{"T_m", w.bounds.motor_peak}, {"T_x", w.bounds.external}, {"s", w.bounds.load_share}},
                    "the part of the motor's torque that goes on to the load");
            }},
        {"coupling.first_swing", "Coupling, first swing", nullptr, Kind::torque, of_coupling, bounds_coupling,
            [](Figure& f, In in) {
                const CouplingUse::Worst w = in.coupling->worst(&CouplingBounds::first_swing);
                f.si = std::abs(w.bounds.first_swing);
                f.note = std::string("after a step of torque, undamped; ") + case_words(w);
            }},
        {"brake.stop_energy", "Brake, energy of a stop", nullptr, Kind::energy, brakes, has_brake,
            [](Figure& f, In in) { of_loss(f, in, in.brake->worst(&PowerLoss::energy), &PowerLoss::energy); }},
        {"brake.stop_time", "Brake, time of a stop", nullptr, Kind::time, brakes, has_brake,
            [](Figure& f, In in) { of_loss(f, in, in.brake->worst(&PowerLoss::time), &PowerLoss::time); }},
        {"brake.stop_distance", "Brake, stop distance", nullptr, Kind::length, brakes, has_brake,
            [](Figure& f, In in) {
                f.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
                of_loss(f, in, in.brake->worst(&PowerLoss::distance), &PowerLoss::distance);
            }},
        {"brake.drop", "Drop before it holds", nullptr, Kind::length, brakes,
            [](In in) { return has_brake(in) && (!in.demand || in.brake->driving > 0); },
            [](Figure& f, In in) {
                f.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
                of_loss(f, in, in.brake->standing, &PowerLoss::distance);
            }},
        {"drive.torque_limit", "Torque limit to program", nullptr, Kind::torque,
            travel | need::force | need::losses | need::thread | need::stage | need::coupling | need::buckling |
                motor_shaft,
            [](In in) { return turns(in) && !torque_limit(in.axis, in.load, *in.policy).part.empty(); },
            [](Figure& f, In in) {
                const TorqueLimit t = torque_limit(in.axis, in.load, *in.policy);
                f.si = t.torque;
                f.note = "so that " + t.name + " is asked for no more than its sheet permits";
            }},
        {"drive.overload", "Drive, most I²t", nullptr, Kind::current_squared_time,
            need::demand | current | resistance | temperatures | voltage | drive_overload,
            [](In in) {
                return in.axis.driven() && !in.axis.motor.stepper() && in.axis.drive.continuous_current.given() &&
                       (!in.demand || in.overload);
            },
            [](Figure& f, In in) {
                f.si = std::isfinite(in.overload->greatest) ? in.overload->greatest : no_number;
                f.note = std::isfinite(f.si) ? "beyond the continuous current" : "it grows from cycle to cycle";
            }},
        {"stiffness.total", "Stiffness at the motor", nullptr, Kind::torsional_stiffness, sway, gives_way,
            [](Figure& f, In in) {
                const StiffnessStatement& s = *in.stiffness;
                f.si = s.total;
                f.note = "softest: " + s.springs[s.softest].label;
                WorkingValues v;
                std::string sum;
                for (std::size_t i = 0; i < s.springs.size(); ++i) {
                    const std::string name = "C" + std::to_string(i + 1);
                    v.emplace_back(name, s.springs[i].at_motor);
                    sum += (i == 0 ? "" : "+") + ("1/" + name);
                }
                work(f, in, "C", "1/Σ 1/C_i, each at the motor's shaft", ("1/(" + sum + ")").c_str(), v,
                    "compliances in series add");
            }},
        {"stiffness.antiresonance", "Antiresonance, two bodies", nullptr, Kind::frequency, sway, sways,
            [](Figure& f, In in) {
                f.si = in.stiffness->two.antiresonance;
                work(f, in, "f_a", "√(C/J_L)/2π", "sqrt(C/J_L)/(2*pi)",
                    {{"C", in.stiffness->total}, {"J_L", in.stiffness->two.load}}, "two masses joined by a spring");
            }},
        {"stiffness.resonance", "Resonance, two bodies", nullptr, Kind::frequency, sway, sways,
            [](Figure& f, In in) {
                f.si = in.stiffness->two.resonance;
                work(f, in, "f_r", "√(C (J_M + J_L)/(J_M J_L))/2π", "sqrt(C*(J_M+J_L)/(J_M*J_L))/(2*pi)",
                    {{"C", in.stiffness->total}, {"J_M", in.stiffness->two.motor}, {"J_L", in.stiffness->two.load}},
                    "two masses joined by a spring");
            }},
        {"stiffness.chain_antiresonance", "Antiresonance, whole chain", nullptr, Kind::frequency, sway, has_chain,
            [](Figure& f, In in) {
                f.si = in.stiffness->antiresonances.front();
                f.note = "a velocity loop reaches about " + format_number(StiffnessStatement::slow_bandwidth(f.si), 3) +
                         " to " + format_number(StiffnessStatement::fast_bandwidth(f.si), 3) + " Hz";
            }},
        {"stiffness.chain_resonance", "Resonance, whole chain", nullptr, Kind::frequency, sway, has_chain,
            [](Figure& f, In in) { f.si = in.stiffness->resonances.front(); }},
        {"precision.worst_case", "Precision ±, worst case", nullptr, Kind::length, exact, tells_precision,
            [](Figure& f, In in) { of_budget(f, in, in.precision->worst, false); }},
        {"precision.root_sum_square", "Precision ±, root of squares", nullptr, Kind::length, exact, tells_precision,
            [](Figure& f, In in) { of_budget(f, in, in.precision->squares, true); }},
    };
}

} // namespace fulmox

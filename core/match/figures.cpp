#include "core/match/figures.h"
#include "core/demand/emergency.h"

#include "core/demand/closed_form.h"
#include "core/demand/emergency.h"
#include "core/drivetrain/screw_life.h"
#include "core/drivetrain/screw_limits.h"
#include "core/load/screw.h"
#include "core/match/drivetrain_rows.h"
#include "core/match/heat_rows.h"
#include "core/match/limits.h"
#include "core/match/stepper_rows.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <array>
#include <cmath>
#include <limits>

namespace fulmox {

namespace {

using In = const FigureInput&;

bool always(In) { return true; }
bool turns(In in) { return !in.words.direct; }
bool limited_stop(In in) { return stop_is_limited(in.axis); }
bool has_motor(In in) { return in.can != nullptr; }
bool has_servo(In in) { return has_motor(in) && !open_loop(in.axis); }
bool has_constant(In in) { return has_motor(in) && in.axis.motor.has_constant(); }
bool has_resistance(In in) {
    return has_constant(in) && std::visit([](const auto& m) { return m.resistance.given(); }, in.axis.motor.electric);
}
// Below the voltage knee, without saturation and friction of its own, current is torque over its constant.
bool plain_current(In in) {
    const MotorNumbers& n = in.can->model->numbers();
    return !n.stepper && !in.can->model->conditions().weakening && n.saturation == 0 && n.friction() == 0;
}
Text current_note(In in) {
    std::string out = in.can->model->numbers().stepper       ? "A RMS of a phase, hot"
                      : in.can->model->numbers().sine_driven ? "A RMS of the line, hot"
                                                             : "A of the DC link, hot";
    if (in.motor->beyond_voltage) out += "; by its constants the bus does not reach all of the cycle";
    return Text(out);
}
bool tells_inertia(In in) { return fulmox::tells_inertia(in.axis); }
bool has_rotor(In in) { return in.axis.driven() && !in.words.direct; }
bool breaks_away(In in) { return in.demand ? in.demand->breakaway.torque != 0 : in.load.breakaway > 1; }
const Screw* turning_screw(In in) {
    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
    return s && s->root_diameter.given() && s->turns == ScrewTurns::screw ? s : nullptr;
}

constexpr need::Bits from_thread = need::thread | need::travel;
need::Bits efficiency_of(const Mechanism& m) {
    const auto* s = std::get_if<Screw>(&m);
    return s && !s->efficiency.given() && s->thread != Thread::roller ? from_thread : 0;
}
need::Bits drag_of(const Mechanism& m) {
    const auto* s = std::get_if<Screw>(&m);
    return s && s->nut_preload.value_or(0) > 0 && !s->preload_drag.given() ? from_thread : 0;
}

Kind along(In in, Order o) { return motion_kind(o, in.load.motion.rotary); }

Text when(const ShaftPoint& p, const Words& words) {
    return "at " + format_number(p.time, 3) + " s and " + words.speed(std::abs(p.speed));
}

// Rows that read a number of the plan or of the demand.
template <Order O, double Trajectory::*Value> void of_motion(Figure& f, In in) {
    f.kind = motion_kind(O, in.load.motion.rotary);
    f.si = (*in.motion).*Value;
}
template <double Demand::*Value> void of_demand(Figure& f, In in) { f.si = (*in.demand).*Value; }

void torque_of(Figure& f, In in, const ShaftPoint& p) {
    f.si = p.torque;
    f.note = when(p, in.words);
    if (in.workings) f.working = {sum_of_causes(p)};
}
void torque_or_never(Figure& f, In in, const ShaftPoint& p, const char* never) {
    if (p.torque != 0) return torque_of(f, in, p);
    f.si = std::nan("");
    f.note = never;
}
struct Best {
    MotorSide side;
    double ratio = 0; // 0: there is none
};
Best best_of(In in) {
    const Demand& d = *in.demand;
    if (d.load.rotor_inertia <= 0 || !(d.sums.c > 0)) return {};
    Best b{motor_side(d), 0};
    b.ratio = best_ratio(b.side.sums, b.side.inertia);
    if (!(b.ratio > 0) || !std::isfinite(b.ratio)) b.ratio = 0;
    return b;
}
bool has_best(In in) { return has_rotor(in) && (!in.demand || best_of(in).ratio > 0); }

template <Cause C> void share_of(Figure& f, In in) {
    f.si = in.demand->rms_torque > 0 ? in.demand->rms_share[static_cast<std::size_t>(C)] : std::nan("");
    f.note = "share of the RMS torque squared";
    f.unit = "%";
}

// Both efficiencies of a thread come from the same lines, but for the last of each.
void thread_working(Figure& f, In in, const char* not_of_it) {
    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
    if (!s) return;
    f.working = screw_efficiency(*s, in.workings).working;
    std::erase_if(f.working, [&](const WorkingLine& w) { return w.symbol == not_of_it; });
}

bool has_ramp(In in) { return !in.motion || std::isfinite(in.motion->shortest_ramp); }

std::vector<FigureRow> motion_rows() {
    using namespace need;
    return {
        {"motion.cycle_time", "Cycle time", nullptr, Kind::time, cycle, always,
            [](Figure& f, In in) { f.si = in.motion->duration; }},
        {"motion.cycles_per_hour", "Cycles per hour", nullptr, Kind::frequency, cycle, always,
            [](Figure& f, In in) {
                f.si = 1 / in.motion->duration;
                f.unit = "cycles/h";
                work(f, in, "f", "1/T", "1/T", {{"T", in.motion->duration}});
            }},
        {"motion.moves_per_hour", "Moves per hour", nullptr, Kind::frequency, cycle, always,
            [](Figure& f, In in) {
                const auto moves = static_cast<double>(in.motion->moves);
                f.si = moves / in.motion->duration;
                f.unit = "moves/h";
                f.note = format_number(moves) + (in.motion->moves == 1 ? " move a cycle" : " moves a cycle");
                work(f, in, "f_m", "moves a cycle/T", "n/T", {{"n", moves}, {"T", in.motion->duration}});
            }},
        {"motion.duty", "Moving share", nullptr, Kind::number, cycle, always,
            [](Figure& f, In in) {
                f.si = in.motion->duty();
                f.unit = "%";
                work(f, in, "duty", "moving time/cycle time", "t_m/T",
                    {{"t_m", in.motion->moving_time}, {"T", in.motion->duration}});
            }},
        {"motion.stroke", "Stroke", nullptr, Kind::length, cycle, always,
            [](Figure& f, In in) {
                f.kind = along(in, Order::position);
                f.si = in.motion->stroke();
                work(f, in, "s", "highest − lowest position", "h-l",
                    {{"h", in.motion->highest}, {"l", in.motion->lowest}});
            }},
        {"motion.advance", "Advance per cycle", nullptr, Kind::length, cycle, always,
            of_motion<Order::position, &Trajectory::advance>},
        {"motion.path", "Path per cycle", nullptr, Kind::length, cycle, always,
            of_motion<Order::position, &Trajectory::path>},
        {"motion.path_per_year", "Path per year", nullptr, Kind::speed, cycle, always,
            [](Figure& f, In in) {
                f.kind = along(in, Order::speed);
                f.si = in.motion->path / in.motion->duration;
                f.unit = in.load.motion.rotary ? "Mrev/year" : "km/year";
                f.note = "running day and night";
                work(f, in, "d_a", "path/T", "d/T", {{"d", in.motion->path}, {"T", in.motion->duration}});
            }},
        {"motion.peak_speed", "Peak speed", nullptr, Kind::speed, cycle, always,
            of_motion<Order::speed, &Trajectory::peak_speed>},
        {"motion.peak_acceleration", "Peak acceleration", nullptr, Kind::acceleration, cycle, always,
            of_motion<Order::acceleration, &Trajectory::peak_acceleration>},
        {"motion.peak_jerk", "Peak jerk", nullptr, Kind::jerk, cycle,
            [](In in) { return !in.motion || std::isfinite(in.motion->peak_jerk); },
            of_motion<Order::jerk, &Trajectory::peak_jerk>},
        {"motion.shortest_ramp", "Shortest ramp", nullptr, Kind::time, cycle, has_ramp,
            [](Figure& f, In in) { f.si = in.motion->shortest_ramp; }},
        {"motion.bandwidth_needed", "Bandwidth it needs", nullptr, Kind::frequency, cycle, has_ramp,
            [](Figure& f, In in) {
                f.si = in.motion->ample_bandwidth();
                f.note = "to settle within its shortest ramp; 3/t to 5/t rad/s, common practice";
                work(f, in, "f", "5/(2π t)", "5/(2*pi*t)", {{"t", in.motion->shortest_ramp}},
                    "common practice, no source");
            }},
    };
}

std::vector<FigureRow> load_rows() {
    using namespace need;
    return {
        {"load.transmission_radius", "Travel per turn", nullptr, Kind::length_per_angle, travel,
            [](In in) {
                return in.load.path == LoadModel::Path::straight && !in.load.motion.rotary && !in.load.motion.direct;
            },
            [](Figure& f, In in) {
                f.si = in.load.radius;
                f.unit = "mm/rev";
                if (const auto* s = std::get_if<Screw>(&in.axis.mechanism))
                    work(f, in, "r", "l/2π", "l/(2*pi)", {{"l", s->lead.si}});
            }},
        {"load.ratio", "Ratio of the stages", nullptr, Kind::number, travel,
            [](In in) { return in.load.ratio != 1 || !in.load.stages.empty(); },
            [](Figure& f, In in) {
                f.si = in.load.ratio;
                f.note = "motor speed over mechanism speed";
                const auto back = std::count_if(
                    in.axis.stages.begin(), in.axis.stages.end(), [](const Stage& s) { return s.turns_back; });
                if (back % 2 != 0) f.note += "; the mechanism turns the other way than the motor";
                if (!in.workings) return;
                WorkingValues v;
                std::string product;
                for (std::size_t i = 0; i < in.load.stages.size(); ++i) {
                    v.emplace_back("i_" + std::to_string(i + 1), in.load.stages[i].ratio);
                    product += (i == 0 ? "i_" : "*i_") + std::to_string(i + 1);
                }
                if (!v.empty()) work(f, in, "i", "product of the stages", product.c_str(), v);
            }},
        {"load.efficiency_forward", "Efficiency, driving", nullptr, Kind::number, losses, always,
            [](Figure& f, In in) {
                f.si = in.load.efficiency_forward;
                const auto* s = std::get_if<Screw>(&in.axis.mechanism);
                f.note = s && !s->efficiency.given() ? "from the thread" : "as given";
                thread_working(f, in, "η_b");
            },
            efficiency_of},
        {"load.efficiency_backward", "Efficiency, driven back", nullptr, Kind::number, losses, always,
            [](Figure& f, In in) {
                f.si = in.load.efficiency_backward;
                f.note = f.si <= 0 ? "self-locking" : "";
                thread_working(f, in, "η_f");
            },
            efficiency_of},
        {"load.shaft_drag", "Drag at the shaft", nullptr, Kind::torque, losses, turns,
            [](Figure& f, In in) { f.si = in.load.shaft_drag; }, drag_of},
        {"load.inertia", "Load inertia", "Moving mass", Kind::inertia, travel | inertia | ratio_inertia, tells_inertia,
            [](Figure& f, In in) {
                const InertiaStatement& i = *in.inertia;
                f.si = i.load;
                f.note = in.motion
                             ? in.words.word("largest over the cycle, at the motor shaft", "largest over the cycle")
                             : in.words.word("largest of any place, at the motor shaft; the cycle is not known yet",
                                   "largest payload; the cycle is not known yet");
                if (!in.workings) return;
                WorkingValues v;
                std::string sum;
                for (const InertiaShare& share : i.shares) {
                    if (share.rotor_side) continue;
                    v.emplace_back("J_" + share.key, share.at_shaft);
                    sum += (sum.empty() ? "" : "+") + ("J_" + share.key);
                    f.working.insert(f.working.end(), share.working.begin(), share.working.end());
                }
                f.working.push_back(
                    working_line("J_L", "Σ J at the shaft", sum, v, i.load, Kind::inertia, "sum of the statement"));
            }},
        {"load.inertia_least", "Load inertia, least over the cycle", "Moving mass, least over the cycle", Kind::inertia,
            cycle | travel | inertia | ratio_inertia, tells_inertia,
            [](Figure& f, In in) { f.si = in.inertia->load_least; }},
        {"load.rotor_inertia", "Rotor inertia", nullptr, Kind::inertia, rotor, has_rotor,
            [](Figure& f, In in) {
                f.si = in.load.rotor_inertia;
                f.note = "with motor brake and encoder";
                const double built_in = in.axis.motor.brake_inertia.value_or(0);
                const double own = in.load.rotor_inertia - in.axis.motor.turning_inertia();
                work(f, in, "J_M", own > 0 ? "rotor + encoder + motor brake + brake" : "rotor + encoder + motor brake",
                    own > 0 ? "J_R+J_G+J_B+J_Bs" : "J_R+J_G+J_B",
                    {{"J_R", in.axis.motor.rotor_inertia.si}, {"J_G", in.axis.motor.encoder_inertia.value_or(0)},
                        {"J_B", built_in}, {"J_Bs", in.axis.brake.inertia.value_or(0)}});
            }},
        {"load.inertia_ratio", "Inertia ratio", nullptr, Kind::number, travel | inertia | ratio_inertia | rotor,
            [](In in) { return has_rotor(in) && tells_inertia(in); },
            [](Figure& f, In in) {
                f.si = in.inertia->ratio();
                work(f, in, "J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
                    {{"J_L", in.inertia->load}, {"J_M", in.inertia->rotor}});
            }},
    };
}

std::vector<FigureRow> demand_rows() {
    using need::demand, need::load, need::speeds, need::stop;
    std::vector<FigureRow> rows{
        {"demand.peak_torque", "Peak torque", "Peak force", Kind::torque, demand, always,
            [](Figure& f, In in) {
                if (breaks_away(in)) f.label = "Peak with breakaway";
                torque_of(f, in, in.demand->peak);
            }},
        {"demand.peak_running_torque", "Peak, running", nullptr, Kind::torque, demand, breaks_away,
            [](Figure& f, In in) { torque_of(f, in, in.demand->peak_running); }},
        {"demand.breakaway_torque", "Breakaway torque", "Breakaway force", Kind::torque, demand, breaks_away,
            [](Figure& f, In in) {
                torque_of(f, in, in.demand->breakaway);
                f.note = "to start from rest against static friction, " + when(in.demand->breakaway, in.words);
            }},
        {"demand.rms_torque", "RMS torque", "RMS force", Kind::torque, demand, always,
            [](Figure& f, In in) {
                f.si = in.demand->rms_torque;
                f.note = "over the whole cycle, dwell included";
                if (in.workings) f.working = rms_sum(*in.demand, in.axis.cycle.segments.size());
            }},
        {"demand.peak_motoring_torque", "Peak while driving", nullptr, Kind::torque, demand, always,
            [](Figure& f, In in) { torque_or_never(f, in, in.demand->peak_motoring, "the motor never drives"); }},
        {"demand.peak_braking_torque", "Peak while braking", nullptr, Kind::torque, demand, always,
            [](Figure& f, In in) { torque_or_never(f, in, in.demand->peak_braking, "the motor never brakes"); }},
        {"demand.holding_torque", "Holding torque", "Holding force", Kind::torque, load, always,
            [](Figure& f, In in) {
                f.si = in.demand->holding_torque;
                f.note = "at rest, by the motor";
            }},
        {"demand.static_torque", "Torque to hold the load", "Force to hold the load", Kind::torque, load, always,
            [](Figure& f, In in) {
                f.si = in.demand->static_torque;
                f.note = "friction not credited; with friction " + in.words.torque(in.demand->static_torque_friction);
            }},
        {"demand.emergency_torque", "Emergency stop", nullptr, Kind::torque, demand | stop, always,
            [](Figure& f, In in) {
                const Demand& d = *in.demand;
                const bool stops = d.stop_time > 0;
                f.si = stops ? d.emergency_torque : std::nan("");
                f.note = stops ? "from top speed in " + in.words.say(d.stop_time, Kind::time) + ", worst case"
                               : "no time and no distance of a stop is given";
            }},
        {"demand.stop_time", "Time of the emergency stop", nullptr, Kind::time, demand | stop, limited_stop,
            [](Figure& f, In in) {
                const Demand& d = *in.demand;
                f.si = d.stop_ends && d.stop_time > 0 ? d.stop_time : no_number;
                f.note = d.stops_in_time ? Text("as asked")
                         : d.stop_ends
                             ? in.words.say(d.stop_asked, Kind::time) + " asked; the torque limit permits no more"
                             : Text("with the torque limit it never stops");
            }},
        {"demand.coupling_torque", "Torque through the coupling", nullptr, Kind::torque, load | stop, turns,
            [](Figure& f, In in) {
                const Demand& d = *in.demand;
                f.si = d.coupling_torque();
                f.note = d.coupling_emergency > d.coupling_peak ? "in the emergency stop"
                                                                : "standstill and breakaway included";
                work(f, in, "T_k", "max(cycle, emergency stop)", "max(T_c, T_e)",
                    {{"T_c", d.coupling_peak}, {"T_e", d.coupling_emergency}});
            }},
        {"demand.peak_speed", "Peak shaft speed", "Peak speed", Kind::angular_speed, speeds, always,
            of_demand<&Demand::peak_speed>},
        {"demand.mean_speed", "Mean speed", nullptr, Kind::angular_speed, speeds, always,
            of_demand<&Demand::mean_speed>},
        {"demand.rms_speed", "RMS speed", nullptr, Kind::angular_speed, speeds, always, of_demand<&Demand::rms_speed>},
        {"demand.peak_power", "Peak power", nullptr, Kind::power, demand, always,
            [](Figure& f, In in) {
                f.si = in.demand->peak_power;
                f.note = "at the motor, driving";
            }},
        {"demand.peak_return", "Peak power returned", nullptr, Kind::power, demand, always,
            [](Figure& f, In in) {
                f.si = in.demand->peak_return;
                f.note = "at the motor, braking";
            }},
        {"demand.energy_delivered", "Energy per cycle", nullptr, Kind::energy, demand, always,
            of_demand<&Demand::energy_delivered>},
        {"demand.energy_returned", "Energy returned per cycle", nullptr, Kind::energy, demand, always,
            of_demand<&Demand::energy_returned>},
        {"demand.axial_force", "Largest load force", nullptr, Kind::force, load | stop, always,
            [](Figure& f, In in) {
                const Demand& d = *in.demand;
                if ((in.load.motion.rotary && !in.load.motion.linear_force) ||
                    in.load.path == LoadModel::Path::winder) {
                    f.label = "Largest load torque";
                    f.kind = Kind::torque;
                }
                f.si = d.axial_force();
                f.note =
                    d.axial_emergency > d.axial_peak ? "in the emergency stop" : "standstill and breakaway included";
                work(f, in, "F", "max(cycle, emergency stop)", "max(F_c, F_e)",
                    {{"F_c", d.axial_peak}, {"F_e", d.axial_emergency}});
            }},
    };
    static constexpr std::array<const char*, cause_count> keys{"demand.rms_share.load_inertia",
        "demand.rms_share.rotor", "demand.rms_share.friction", "demand.rms_share.losses", "demand.rms_share.gravity",
        "demand.rms_share.process"};
    static constexpr std::array<void (*)(Figure&, In), cause_count> shares{share_of<Cause::load_inertia>,
        share_of<Cause::rotor>, share_of<Cause::friction>, share_of<Cause::losses>, share_of<Cause::gravity>,
        share_of<Cause::process>};
    for (std::size_t k = 0; k < keys.size(); ++k)
        rows.push_back({keys[k], cause_label(static_cast<Cause>(k)), nullptr, Kind::number, demand, always, shares[k]});
    return rows;
}

std::vector<FigureRow> motor_rows() {
    using namespace need;
    constexpr need::Bits heat = continuous_curve | surroundings;
    constexpr need::Bits point = heat | peak_curve | voltage;
    return {
        {"motor.max_speed", "Top speed at this bus", nullptr, Kind::angular_speed, peak_curve | voltage | top_speed,
            has_motor,
            [](Figure& f, In in) {
                f.si = in.can->max_speed;
                if (std::isfinite(in.can->mechanical_speed))
                    work(f, in, "ω_max", "min(ω_mech, ω_curve · U/U_0)", "min(w_m, w_c)",
                        {{"w_m", in.can->mechanical_speed}, {"w_c", in.can->peak.end()}},
                        "estimate: the end of the peak curve moves with the bus voltage");
            }},
        {"motor.continuous_stall", "Continuous torque here", nullptr, Kind::torque, heat, has_servo,
            [](Figure& f, In in) {
                f.si = in.can->continuous_stall();
                f.note = "at this ambient and altitude";
                if (in.workings) f.working = {continuous_at_rest(*in.can)};
            }},
        {"motor.continuous_at_mean_speed", "Continuous torque, mean speed", nullptr, Kind::torque, speeds | point,
            has_servo,
            [](Figure& f, In in) {
                f.si = in.motor->point_at_mean;
                f.note = std::isnan(f.si) ? "the mean speed lies beyond the continuous curve" : "point method";
                if (in.workings && !std::isnan(f.si))
                    f.working = {continuous_by_point(*in.can, in.demand->mean_speed, f.si, "mean")};
            }},
        {"motor.continuous_at_rms_speed", "Continuous torque, RMS speed", nullptr, Kind::torque, speeds | point,
            has_servo,
            [](Figure& f, In in) {
                f.si = in.motor->point_at_rms;
                f.note = std::isnan(f.si) ? "the RMS speed lies beyond the continuous curve" : "point method";
                if (in.workings && !std::isnan(f.si))
                    f.working = {continuous_by_point(*in.can, in.demand->rms_speed, f.si, "RMS")};
            }},
        {"motor.heat_use", "Heat used, loss method", nullptr, Kind::number, need::demand | heat, has_servo,
            [](Figure& f, In in) {
                f.si = in.motor->heat_use();
                f.unit = "%";
                f.note = std::isnan(f.si) ? "the cycle runs beyond the continuous curve" : "";
                if (std::isfinite(f.si) && in.motor->heat_left > 0)
                    work(f, in, "use",
                        in.can->continuous_by_model ? "T_eq/√(mean[T_c'(ω)²])" : "T_rms/√(mean[T_c'(ω)²])", "T/sqrt(m)",
                        {{"T", in.motor->heat_torque}, {"m", in.motor->heat_left}},
                        in.can->continuous_by_model
                            ? "heat of the current at every torque and speed"
                            : "loss method: the fall of the continuous curve is iron and friction heat");
            }},
        {"motor.acceleration", "Acceleration at top speed", nullptr, Kind::angular_acceleration,
            need::demand | ratio_inertia | peak_curve | voltage,
            [](In in) { return has_motor(in) && turns(in) && tells_inertia(in); },
            [](Figure& f, In in) {
                const double torque = in.motor->can.peak.at(in.demand->peak_speed);
                f.si = torque / (in.inertia->load + in.inertia->rotor);
                f.note = "what the peak torque there would give rotor and load; a larger rotor may be slower";
                work(f, in, "α", "T_p/(J_L + J_R)", "T/(J_L+J_R)",
                    {{"T", torque}, {"J_L", in.inertia->load}, {"J_R", in.inertia->rotor}}, "equation of motion");
            }},
        {"motor.rms_current", "RMS current", nullptr, Kind::current, need::demand | current | temperatures,
            has_constant,
            [](Figure& f, In in) {
                f.si = in.motor->rms_current;
                f.note = current_note(in);
                if (plain_current(in))
                    work(f, in, "I_rms", "T_rms/K_t, hot", "T/K",
                        {{"T", in.demand->rms_torque}, {"K", in.can->model->torque_of(1, true)}},
                        "torque constant at the hot motor's temperature");
                else if (in.workings)
                    f.read_from = "current at every torque and speed of the cycle, by quadrature";
            }},
        {"motor.peak_current", "Peak current", nullptr, Kind::current, need::demand | current | temperatures,
            has_constant,
            [](Figure& f, In in) {
                f.si = in.motor->peak_current;
                f.note = current_note(in);
                if (in.workings) f.read_from = "current at every torque and speed of the cycle; the largest, hot";
            }},
        {"motor.copper_loss", "Copper loss", nullptr, Kind::power, need::demand | current | resistance | temperatures,
            has_resistance,
            [](Figure& f, In in) {
                f.si = in.motor->copper_loss;
                f.note = "mean over the cycle, hot";
                const MotorNumbers& n = in.can->model->numbers();
                if (n.sine_driven)
                    work(f, in, "P", n.stepper ? "m I² R (235 + θ)/255" : "1.5 I² R_LL (235 + θ)/255",
                        n.stepper ? "m*I^2*R*(235+t)/255" : "1.5*I^2*R*(235+t)/255",
                        {{"m", n.phases}, {"I", in.motor->rms_current},
                            {"R", n.stepper ? n.resistance / 2 : n.resistance}, {"t", in.can->model->conditions().hot}},
                        n.stepper ? "every phase its share; IEC 60034-1"
                                  : "line quantities: the winding type cancels; IEC 60034-1");
                else if (in.workings)
                    f.read_from = "copper and brushes at every current of the cycle, by quadrature";
            }},
    };
}

bool has_dynamic_rating(In in) {
    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
    return s && s->dynamic_rating.given();
}
ScrewLife screw_life_of(In in) { return fulmox::screw_life(std::get<Screw>(in.axis.mechanism), in.demand); }

std::vector<FigureRow> ratio_and_screw_rows() {
    using namespace need;
    return {
        {"demand.best_ratio", "Best ratio for least heat", nullptr, Kind::number, need::demand, has_best,
            [](Figure& f, In in) {
                const Best b = best_of(in);
                f.si = b.ratio;
                f.note = "for all that turns with this motor, an ideal stage before the mechanism";
                work(f, in, "i*", "(mean D²/(mean α² J²))^(1/4)", "(a/(c*J^2))^0.25",
                    {{"a", b.side.sums.a}, {"c", b.side.sums.c}, {"J", b.side.inertia}},
                    "closed form of the RMS torque");
            }},
        {"demand.best_ratio_rms", "RMS torque at the best ratio", nullptr, Kind::torque, need::demand, has_best,
            [](Figure& f, In in) {
                const Best b = best_of(in);
                f.si = least_rms(b.side.sums, b.side.inertia);
                work(f, in, "T_rms", "√(2 J (mean D α + √(mean D² mean α²)))", "sqrt(2*J*(b+sqrt(a*c)))",
                    {{"J", b.side.inertia}, {"a", b.side.sums.a}, {"b", b.side.sums.b}, {"c", b.side.sums.c}},
                    "closed form of the RMS torque");
            }},
        {"demand.best_ratio_speed", "Motor speed at the best ratio", nullptr, Kind::angular_speed, need::demand,
            has_best,
            [](Figure& f, In in) {
                const double ratio = best_of(in).ratio;
                f.si = ratio * in.demand->mechanism_peak_speed;
                work(f, in, "ω", "i* · ω of the mechanism", "i*w",
                    {{"i", ratio}, {"w", in.demand->mechanism_peak_speed}});
            }},
        {"screw.critical_speed", "Critical speed of the screw", nullptr, Kind::angular_speed, bending,
            [](In in) { return turning_screw(in) != nullptr; },
            [](Figure& f, In in) {
                ScrewBound bound = critical_speed(*turning_screw(in), in.workings);
                f.si = bound.value;
                f.note = "over " + in.words.say(bound.length, Kind::length) + " free length";
                f.working = std::move(bound.working);
            }},
        {"screw.mean_load", "Mean load of the screw", nullptr, Kind::force, need::load | need::screw_life,
            has_dynamic_rating,
            [](Figure& f, In in) {
                f.si = screw_life_of(in).mean_load;
                f.note = "cubic mean weighted by turns";
            }},
        {"screw.life", "Life of the screw", nullptr, Kind::time, need::load | need::screw_life, has_dynamic_rating,
            [](Figure& f, In in) {
                const ScrewLife l = screw_life_of(in);
                f.si = std::isfinite(l.hours) ? l.hours * 3600 : no_number;
                f.unit = "h";
                f.note = std::isfinite(l.hours) ? "nine of ten last so long" : "it carries nothing, or never turns";
                if (!l.preloaded && l.mean_load > 0)
                    work(f, in, "L_h", "(C/F_m)³ 10⁶ · 2π/ω_m", "(C/F_m)^3*1e6*2*pi/w_m",
                        {{"C", std::get<Screw>(in.axis.mechanism).dynamic_rating.si}, {"F_m", l.mean_load},
                            {"w_m", l.mean_speed}},
                        "ISO 3408-5, from memory");
            }},
        {"screw.buckling_load", "Buckling load of the screw", nullptr, Kind::force, buckling,
            [](In in) {
                const auto* s = std::get_if<Screw>(&in.axis.mechanism);
                return s && s->root_diameter.given();
            },
            [](Figure& f, In in) {
                ScrewBound bound = buckling_load(std::get<Screw>(in.axis.mechanism), in.workings);
                f.si = bound.value;
                f.note = "over " + in.words.say(bound.length, Kind::length);
                f.working = std::move(bound.working);
            }},
    };
}

} // namespace

void work(Figure& f, const FigureInput& in, const char* symbol, const char* formula, const char* rule,
    const WorkingValues& values, const char* source) {
    if (in.workings && std::isfinite(f.si))
        f.working.push_back(working_line(symbol, formula, rule, values, f.si, f.kind, source));
}

const std::vector<FigureRow>& figure_rows() {
    static const std::vector<FigureRow> rows = [] {
        std::vector<FigureRow> out;
        const auto add = [&](std::vector<FigureRow> part, const char* read_from) {
            for (FigureRow& row : part) {
                row.read_from = read_from;
                out.push_back(row);
            }
        };
        add(motion_rows(), "the planned motion, piece by piece");
        add(load_rows(), "the mechanism as described");
        add(demand_rows(), "the demand over the cycle, span by span");
        add(motor_rows(), "the demand on the curves of the motor, span by span");
        add(stepper_figure_rows(), "the stepper as its drive is set");
        add(heat_figure_rows(), "the heat balance over the cycle, span by span");
        add(drivetrain_figure_rows(), "the parts between motor and load, and the demand at them");
        add(ratio_and_screw_rows(), "the demand over the cycle, span by span");
        return out;
    }();
    return rows;
}

need::Bits needs_of(const FigureRow& row, const Mechanism& mechanism) {
    const bool of_a_fill = std::holds_alternative<Winder>(mechanism) && (row.needs & need::calculation) != 0;
    return row.needs | (of_a_fill ? need::demand : 0) | (row.also ? row.also(mechanism) : 0);
}

std::vector<Figure> figures(const FigureInput& in, const Waiting& waiting) {
    std::vector<Figure> out;
    for (const FigureRow& row : figure_rows()) {
        // whether there is such a figure may hang on what is not known: then it is not listed before it is
        const need::Bits needs = needs_of(row, in.axis.mechanism);
        const bool blocked = waiting.blocks(needs);
        FigureInput seen = in;
        if (blocked) {
            seen.motion = nullptr;
            seen.demand = nullptr;
        }
        if (!row.applies(seen)) continue;
        Figure f{row.key, in.words.direct && row.direct_label ? row.direct_label : row.label, row.kind, std::nan(""),
            {}, {}, ""};
        if (blocked) {
            f.note = waiting.words(needs);
            f.waits = true;
        } else {
            row.fill(f, in);
            if (in.workings && f.working.empty() && std::isfinite(f.si)) f.read_from = row.read_from;
        }
        out.push_back(std::move(f));
    }
    return out;
}

} // namespace fulmox

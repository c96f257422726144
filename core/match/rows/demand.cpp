#include "core/demand/closed_form.h"
#include "core/demand/emergency.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/match/rows/workings.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <array>
#include <cmath>
#include <string>
#include <utility>

namespace fulmox {

namespace {

bool limited_stop(In in) { return stop_is_limited(in.axis); }

bool breaks_away(In in) { return in.state.demand ? in.state.demand->breakaway.torque != 0 : in.load.breakaway > 1; }

Text when(const ShaftPoint& p, const Words& words) {
    return "at " + format_number(p.time, 3) + " s and " + words.speed(std::abs(p.speed));
}

template <double Demand::*Value> void of_demand(Figure& f, In in) { f.si = (*in.state.demand).*Value; }

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
    const Demand& d = *in.state.demand;
    if (d.load.rotor_inertia <= 0 || !(d.sums.c > 0)) return {};
    Best b{motor_side(d), 0};
    b.ratio = best_ratio(b.side.sums, b.side.inertia);
    if (!(b.ratio > 0) || !std::isfinite(b.ratio)) b.ratio = 0;
    return b;
}

bool has_best(In in) { return has_rotor(in) && (in.waits || best_of(in).ratio > 0); }

template <Cause C> void share_of(Figure& f, In in) {
    f.si = in.state.demand->rms_torque > 0 ? in.state.demand->rms_share[static_cast<std::size_t>(C)] : std::nan("");
    f.note = "share of the RMS torque squared";
    f.unit = "%";
}

bool winds(In in) { return std::holds_alternative<Winder>(in.axis.mechanism); }
template <std::size_t I, double FillUse::*Value> void of_fill(Figure& f, In in) {
    f.si = (*in.results.fills)[I].*Value;
}

template <std::size_t I> void add_fill(Rows& rows) {
    static const std::string fill = fill_names[I], key = "demand.fill_" + std::to_string(I);
    static const std::string texts[]{
        key + ".rms_torque", "RMS torque, " + fill, key + ".peak_torque", "Peak torque, " + fill};
    constexpr void (*values[])(Figure&, In){of_fill<I, &FillUse::rms_torque>, of_fill<I, &FillUse::peak_torque>};
    for (std::size_t k = 0; k < 2; ++k)
        rows.figures.push_back({.key = texts[2 * k].c_str(),
            .label = texts[2 * k + 1].c_str(),
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::fills,
            .applies = winds,
            .fill = values[k],
            .read_from = "the demand at this fill, span by span",
            .meaning = texts[2 * k + 1].c_str()});
}
template <std::size_t... I> void add_fills(Rows& rows, std::index_sequence<I...>) { (add_fill<I>(rows), ...); }

} // namespace

Rows demand_rows() {
    using namespace need;
    constexpr const char* source = "the demand over the cycle, span by span";
    Rows rows{.section = Section::demand};
    rows.figures = {
        {.key = "demand.peak_torque",
            .label = "Peak torque",
            .direct_label = "Peak force",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    if (breaks_away(in)) f.label = "Peak with breakaway";
                    torque_of(f, in, in.state.demand->peak);
                },
            .read_from = source,
            .meaning = "Peak torque, breakaway included where a factor is given"},
        {.key = "demand.peak_running_torque",
            .label = "Peak, running",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = breaks_away,
            .fill = [](Figure& f, In in) { torque_of(f, in, in.state.demand->peak_running); },
            .read_from = source,
            .meaning = "Peak torque, running; absent without a breakaway factor"},
        {.key = "demand.breakaway_torque",
            .label = "Breakaway torque",
            .direct_label = "Breakaway force",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = breaks_away,
            .fill =
                [](Figure& f, In in) {
                    torque_of(f, in, in.state.demand->breakaway);
                    f.note =
                        "to start from rest against static friction, " + when(in.state.demand->breakaway, in.words);
                },
            .read_from = source,
            .meaning = "Breakaway torque, at the first instant of a move from rest; absent without a breakaway factor"},
        {.key = "demand.rms_torque",
            .label = "RMS torque",
            .direct_label = "RMS force",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.demand->rms_torque;
                    f.note = "over the whole cycle, dwell included";
                    if (in.workings) f.working = rms_sum(*in.state.demand, in.axis.cycle.segments.size());
                },
            .read_from = source,
            .meaning = "RMS torque, over the whole cycle, dwell included"},
        {.key = "demand.peak_motoring_torque",
            .label = "Peak while driving",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    torque_or_never(f, in, in.state.demand->peak_motoring, "the motor never drives the load");
                },
            .read_from = source,
            .meaning = "Peak while driving, running; null where the motor never drives the load"},
        {.key = "demand.peak_braking_torque",
            .label = "Peak while braking",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill = [](Figure& f,
                        In in) { torque_or_never(f, in, in.state.demand->peak_braking, "the motor never brakes"); },
            .read_from = source,
            .meaning = "Peak while braking, running; null where the motor never brakes"},
        {.key = "demand.holding_torque",
            .label = "Holding torque",
            .direct_label = "Holding force",
            .kind = Kind::torque,
            .needs = need::load,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.demand->holding_torque;
                    f.note = "at rest, by the motor";
                },
            .read_from = source,
            .meaning = "Holding torque, at rest, by the motor"},
        {.key = "demand.static_torque",
            .label = "Torque to hold the load",
            .direct_label = "Force to hold the load",
            .kind = Kind::torque,
            .needs = need::load,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.demand->static_torque;
                    f.note = "friction not credited; with friction " +
                             in.words.torque(in.state.demand->static_torque_friction);
                },
            .read_from = source,
            .meaning = "Torque to hold the load, or what a brake holds in a dwell"},
        {.key = "demand.emergency_torque",
            .label = "Emergency stop",
            .kind = Kind::torque,
            .needs = need::demand | stop,
            .reads = AxisResult::demand,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    const Demand& d = *in.state.demand;
                    const bool stops = d.stop_time > 0;
                    f.si = stops ? d.emergency_torque : std::nan("");
                    f.note = stops ? "from top speed in " + in.words.say(d.stop_time, Kind::time) + ", worst case"
                                   : "no time and no distance of a stop is given";
                },
            .read_from = source,
            .meaning = "Emergency stop, from top speed, worst payload, place and direction; null where no time and no "
                       "distance is given"},
        {.key = "demand.stop_time",
            .label = "Time of the emergency stop",
            .kind = Kind::time,
            .needs = need::demand | stop,
            .reads = AxisResult::demand,
            .applies = limited_stop,
            .fill =
                [](Figure& f, In in) {
                    const Demand& d = *in.state.demand;
                    f.si = d.stop_ends && d.stop_time > 0 ? d.stop_time : no_number;
                    f.note = d.stops_in_time ? Text("as asked")
                             : d.stop_ends
                                 ? in.words.say(d.stop_asked, Kind::time) + " asked; the torque limit permits no more"
                                 : Text("with the torque limit it never stops");
                },
            .read_from = source,
            .meaning = "How long the emergency stop takes; present where a torque limit is given"},
        {.key = "demand.coupling_torque",
            .label = "Torque through the coupling",
            .kind = Kind::torque,
            .needs = need::load | stop,
            .applies = turns,
            .fill =
                [](Figure& f, In in) {
                    const Demand& d = *in.state.demand;
                    f.si = d.coupling_torque();
                    f.note = d.coupling_emergency > d.coupling_peak ? "in the emergency stop"
                                                                    : "standstill and breakaway included";
                    work(f, in, "T_k", "max(cycle, emergency stop)", "max(T_c, T_e)",
                        {{"T_c", d.coupling_peak}, {"T_e", d.coupling_emergency}});
                },
            .read_from = source,
            .meaning = "Torque through the coupling, standstill, breakaway and emergency stop included"},
        {.key = "demand.peak_speed",
            .label = "Peak shaft speed",
            .direct_label = "Peak speed",
            .kind = Kind::angular_speed,
            .needs = speeds,
            .applies = always,
            .fill = of_demand<&Demand::peak_speed>,
            .read_from = source,
            .meaning = "Peak shaft speed"},
        {.key = "demand.mean_speed",
            .label = "Mean speed",
            .kind = Kind::angular_speed,
            .needs = speeds,
            .applies = always,
            .fill = of_demand<&Demand::mean_speed>,
            .read_from = source,
            .meaning = "Mean speed"},
        {.key = "demand.rms_speed",
            .label = "RMS speed",
            .kind = Kind::angular_speed,
            .needs = speeds,
            .applies = always,
            .fill = of_demand<&Demand::rms_speed>,
            .read_from = source,
            .meaning = "RMS speed"},
        {.key = "demand.peak_power",
            .label = "Peak power",
            .kind = Kind::power,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.demand->peak_power;
                    f.note = "at the motor, driving";
                },
            .read_from = source,
            .meaning = "Peak power, at the shaft, driving"},
        {.key = "demand.peak_return",
            .label = "Peak power returned",
            .kind = Kind::power,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.demand->peak_return;
                    f.note = "at the motor, braking";
                },
            .read_from = source,
            .meaning = "Peak power returned, at the shaft, braking"},
        {.key = "demand.energy_delivered",
            .label = "Energy per cycle",
            .kind = Kind::energy,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill = of_demand<&Demand::energy_delivered>,
            .read_from = source,
            .meaning = "Energy per cycle"},
        {.key = "demand.energy_returned",
            .label = "Energy returned per cycle",
            .kind = Kind::energy,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill = of_demand<&Demand::energy_returned>,
            .read_from = source,
            .meaning = "Energy returned per cycle"},
        {.key = "demand.axial_force",
            .label = "Largest load force",
            .kind = Kind::force,
            .needs = need::load | stop,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    const Demand& d = *in.state.demand;
                    if ((in.load.motion.rotary && !in.load.motion.linear_force) ||
                        in.load.path == LoadModel::Path::winder) {
                        f.label = "Largest load torque";
                        f.kind = Kind::torque;
                    }
                    f.si = d.axial_force();
                    f.note = d.axial_emergency > d.axial_peak ? "in the emergency stop"
                                                              : "standstill and breakaway included";
                    work(f, in, "F", "max(cycle, emergency stop)", "max(F_c, F_e)",
                        {{"F_c", d.axial_peak}, {"F_e", d.axial_emergency}});
                },
            .read_from = source,
            .meaning = "Largest force, or torque of a rotary load, at the load; standstill, breakaway and emergency "
                       "stop included"},
        {.key = "demand.best_ratio",
            .label = "Best ratio for least heat",
            .kind = Kind::number,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = has_best,
            .fill =
                [](Figure& f, In in) {
                    const Best b = best_of(in);
                    f.si = b.ratio;
                    f.note = "for all that turns with this motor, an ideal stage before the mechanism";
                    work(f, in, "i*", "(mean D²/(mean α² J²))^(1/4)", "(a/(c*J^2))^0.25",
                        {{"a", b.side.sums.a}, {"c", b.side.sums.c}, {"J", b.side.inertia}},
                        "closed form of the RMS torque");
                },
            .read_from = source,
            .meaning = "Best ratio for least heat, for all that turns with this motor, an ideal stage before the "
                       "mechanism; absent where nothing accelerates"},
        {.key = "demand.best_ratio_rms",
            .label = "RMS torque at the best ratio",
            .kind = Kind::torque,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = has_best,
            .fill =
                [](Figure& f, In in) {
                    const Best b = best_of(in);
                    f.si = least_rms(b.side.sums, b.side.inertia);
                    work(f, in, "T_rms", "√(2 J (mean D α + √(mean D² mean α²)))", "sqrt(2*J*(b+sqrt(a*c)))",
                        {{"J", b.side.inertia}, {"a", b.side.sums.a}, {"b", b.side.sums.b}, {"c", b.side.sums.c}},
                        "closed form of the RMS torque");
                },
            .read_from = source,
            .meaning = "RMS torque at the best ratio"},
        {.key = "demand.best_ratio_speed",
            .label = "Motor speed at the best ratio",
            .kind = Kind::angular_speed,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = has_best,
            .fill =
                [](Figure& f, In in) {
                    const double ratio = best_of(in).ratio;
                    f.si = ratio * in.state.demand->mechanism_peak_speed;
                    work(f, in, "ω", "i* · ω of the mechanism", "i*w",
                        {{"i", ratio}, {"w", in.state.demand->mechanism_peak_speed}});
                },
            .read_from = source,
            .meaning = "Motor speed at the best ratio"},
    };
    static constexpr std::array<const char*, cause_count> keys{"demand.rms_share.load_inertia",
        "demand.rms_share.rotor", "demand.rms_share.friction", "demand.rms_share.losses", "demand.rms_share.gravity",
        "demand.rms_share.process"};
    static constexpr std::array<void (*)(Figure&, In), cause_count> shares{share_of<Cause::load_inertia>,
        share_of<Cause::rotor>, share_of<Cause::friction>, share_of<Cause::losses>, share_of<Cause::gravity>,
        share_of<Cause::process>};
    for (std::size_t k = 0; k < keys.size(); ++k)
        rows.figures.push_back({.key = keys[k],
            .label = cause_label(static_cast<Cause>(k)),
            .kind = Kind::number,
            .needs = need::demand,
            .reads = AxisResult::demand,
            .applies = always,
            .fill = shares[k],
            .read_from = source,
            .meaning = "Share of this cause in the RMS torque squared"});
    add_fills(rows, std::make_index_sequence<fill_count>());
    return rows;
}

} // namespace fulmox

#include "core/match/bounds.h"

#include "core/load/load_model.h"
#include "core/model/walk.h"
#include "core/motion/trajectory.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {

namespace {

// Sums what each segment has of its own, `own`, over all that is played.
template <class Own> double played(const Cycle& cycle, Own own) {
    std::vector<double> each;
    each.reserve(cycle.segments.size());
    double all = 0;
    for (std::size_t i = 0; i < cycle.segments.size(); ++i) {
        double here = 0;
        if (const auto* repeat = std::get_if<Repeat>(&cycle.segments[i].what)) {
            const double back = std::clamp(repeat->segments.value_or(0), 0.0, static_cast<double>(i));
            for (std::size_t k = i - static_cast<std::size_t>(back); k < i; ++k) here += each[k];
            here *= std::max(0.0, repeat->times.value_or(0) - 1);
        } else {
            here = own(i);
        }
        each.push_back(here);
        all += here;
    }
    return all;
}

double rough_pieces_of(const Segment& s) {
    if (const auto* trace = std::get_if<Trace>(&s.what)) return static_cast<double>(trace->samples.rows());
    if (const auto* path = std::get_if<PlannedPath>(&s.what)) return static_cast<double>(path->knots.rows());
    return 1;
}

bool repeats(const Cycle& cycle) {
    return std::any_of(cycle.segments.begin(), cycle.segments.end(),
        [](const Segment& s) { return std::holds_alternative<Repeat>(s.what); });
}

// A move has no more pieces than this, a recording no more for each of its samples.
constexpr double pieces_of_one = 16;

double fills_of(const Axis& axis) { return std::holds_alternative<Winder>(axis.mechanism) ? fill_count : 1; }

// Turns at most, where they can be seen without planning: less than this for what is typed.
double rough_turns(const Cycle& cycle) {
    double far = 0; // of any segment, and of any place to go to
    for (const Segment& s : cycle.segments) {
        double here = 0;
        if (const auto* m = std::get_if<MoveInTime>(&s.what))
            here = m->distance.value_or(0);
        else if (const auto* l = std::get_if<MoveByLimits>(&s.what))
            here = l->distance.value_or(0);
        else if (std::holds_alternative<SpeedChange>(s.what) || std::holds_alternative<Jog>(s.what) ||
                 std::holds_alternative<Trace>(s.what) || std::holds_alternative<PlannedPath>(s.what))
            return std::numeric_limits<double>::infinity();
        far = std::max(far, std::abs(here));
    }
    // a move to a target may come from as far on the other side, and the axis may have begun anywhere
    far = std::max(far, std::abs(cycle.start_position.value_or(0)));
    return played(cycle, [&](std::size_t) { return 2 * far; }) / (2 * std::numbers::pi);
}

template <class Each> void each_cycle(const Axis& axis, Each each) {
    each(axis.cycle);
    for (const Cycle& c : axis.further_cycles) each(c);
}

// What the cycle takes of what one may, seen without planning; never too little.
double share_at_most(const Machine& machine, const Axis& axis, const Cycle& cycle) {
    double share = 0;
    if (repeats(cycle))
        share = pieces_of_one * fills_of(axis) * rough_pieces(cycle) / static_cast<double>(most_repeated_pieces);
    // most that turn have the same torque at every angle, a fan that jogs for one
    if (motion_of(axis.mechanism).rotary)
        if (const double turns = rough_turns(cycle) / most_turns;
            turns > share && load_model(machine, axis).position_dependent())
            share = turns;
    return share;
}

// The same by the pieces it has when each segment is played once.
double share_of(const Machine& machine, const Axis& axis, const Cycle& cycle) {
    const Motion kind = motion_of(axis.mechanism);
    Cycle once = cycle;
    std::vector<std::size_t> at; // in the whole cycle, of each that is no repeat
    once.segments.clear();
    for (std::size_t i = 0; i < cycle.segments.size(); ++i) {
        if (std::holds_alternative<Repeat>(cycle.segments[i].what)) continue;
        once.segments.push_back(cycle.segments[i]);
        at.push_back(i);
    }
    const Trajectory t = plan(once, kind, machine.unit_system).motion;
    std::vector<double> pieces(cycle.segments.size()), turns(cycle.segments.size());
    for (const Piece& p : t.pieces) {
        if (p.segment >= at.size()) continue;
        pieces[at[p.segment]] += 1;
        const double most = path_at_changing_speed(p);
        const double passed = p.one_way ? std::abs(p.position(p.duration) - p.position(0)) : most;
        turns[at[p.segment]] += std::min(most, passed) / (2 * std::numbers::pi);
    }
    double share = 0;
    if (repeats(cycle))
        share = fills_of(axis) * played(cycle, [&](std::size_t i) { return pieces[i]; }) /
                static_cast<double>(most_repeated_pieces);
    if (kind.rotary && load_model(machine, axis).position_dependent())
        share = std::max(share, played(cycle, [&](std::size_t i) { return turns[i]; }) / most_turns);
    return share;
}

template <class Axes> std::vector<std::vector<bool>> too_long_of(const Machine& machine, const Axes& axes) {
    std::vector<std::vector<bool>> out;
    double at_most = 0;
    for (const Axis* axis : axes) {
        out.emplace_back(1 + axis->further_cycles.size(), false);
        if (at_most <= 1) each_cycle(*axis, [&](const Cycle& c) { at_most += share_at_most(machine, *axis, c); });
    }
    if (at_most <= 1) return out;
    struct Taken {
        double share;
        std::size_t axis, cycle;
    };
    std::vector<Taken> taken;
    for (std::size_t a = 0; a < axes.size(); ++a) {
        std::size_t k = 0;
        each_cycle(*axes[a], [&](const Cycle& c) {
            const double rough = share_at_most(machine, *axes[a], c);
            // one that is too long by itself is refused for that
            if (rough > 0)
                if (const double share = share_of(machine, *axes[a], c); share <= 1) taken.push_back({share, a, k});
            ++k;
        });
    }
    std::stable_sort(taken.begin(), taken.end(), [](const Taken& x, const Taken& y) { return x.share < y.share; });
    double sum = 0;
    for (const Taken& t : taken)
        if ((sum += t.share) > 1) out[t.axis][t.cycle] = true;
    return out;
}

} // namespace

double rough_pieces(const Cycle& cycle) {
    return played(cycle, [&](std::size_t i) { return rough_pieces_of(cycle.segments[i]); });
}

std::vector<std::vector<bool>> too_long(const Machine& machine) {
    std::vector<const Axis*> axes;
    for (const Axis& axis : machine.axes) axes.push_back(&axis);
    return too_long_of(machine, axes);
}

std::vector<bool> too_long(const Machine& machine, const Axis& axis, const std::string& path) {
    constexpr std::string_view head = "/axes/";
    std::size_t at = machine.axes.size();
    if (path.starts_with(head)) std::from_chars(path.data() + head.size(), path.data() + path.size(), at);
    std::vector<const Axis*> axes;
    for (const Axis& each : machine.axes) axes.push_back(&each);
    if (at >= axes.size()) return too_long_of(machine, std::vector<const Axis*>{&axis}).front();
    axes[at] = &axis;
    return too_long_of(machine, axes)[at];
}

std::string too_long_together() {
    return "the cycles of this project are too long together: of those whose segments are repeated at most " +
           std::to_string(most_repeated_pieces) +
           " pieces of motion are calculated, and where torque depends on the angle at most " +
           format_number(most_turns) +
           " turns at changing speed; the shorter cycles are calculated, this one is not; repeat fewer times";
}

} // namespace fulmox

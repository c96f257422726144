#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/quantity/format.h"
#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

Kind along(In in, Order o) { return motion_kind(o, in.load.motion.rotary); }

// Rows that read a number of the plan or of the demand.
template <Order O, double Trajectory::*Value> void of_motion(Figure& f, In in) {
    f.kind = motion_kind(O, in.load.motion.rotary);
    f.si = (*in.results.motion).*Value;
}

bool has_ramp(In in) { return in.waits || std::isfinite(in.results.motion->shortest_ramp); }

} // namespace

Rows motion_rows() {
    using namespace need;
    constexpr const char* source = "the planned motion, piece by piece";
    Rows rows{.section = Section::motion};
    rows.figures = {
        {.key = "motion.cycle_time",
            .label = "Cycle time",
            .kind = Kind::time,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill = [](Figure& f, In in) { f.si = in.results.motion->duration; },
            .read_from = source,
            .meaning = "Cycle time"},
        {.key = "motion.cycles_per_hour",
            .label = "Cycles per hour",
            .kind = Kind::frequency,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = 1 / in.results.motion->duration;
                    f.unit = "cycles/h";
                    work(f, in, "f", "1/T", "1/T", {{"T", in.results.motion->duration}});
                },
            .read_from = source,
            .meaning = "Cycles per hour"},
        {.key = "motion.moves_per_hour",
            .label = "Moves per hour",
            .kind = Kind::frequency,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    const auto moves = static_cast<double>(in.results.motion->moves);
                    f.si = moves / in.results.motion->duration;
                    f.unit = "moves/h";
                    f.note =
                        format_number(moves) + (in.results.motion->moves == 1 ? " move a cycle" : " moves a cycle");
                    work(f, in, "f_m", "moves a cycle/T", "n/T", {{"n", moves}, {"T", in.results.motion->duration}});
                },
            .read_from = source,
            .meaning = "Moves per hour, from standstill to standstill"},
        {.key = "motion.duty",
            .label = "Moving share",
            .kind = Kind::number,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.motion->duty();
                    f.unit = "%";
                    work(f, in, "duty", "moving time/cycle time", "t_m/T",
                        {{"t_m", in.results.motion->moving_time}, {"T", in.results.motion->duration}});
                },
            .read_from = source,
            .meaning = "Moving share"},
        {.key = "motion.stroke",
            .label = "Stroke",
            .kind = Kind::length,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.kind = along(in, Order::position);
                    f.si = in.results.motion->stroke();
                    work(f, in, "s", "highest − lowest position", "h-l",
                        {{"h", in.results.motion->highest}, {"l", in.results.motion->lowest}});
                },
            .read_from = source,
            .meaning = "Stroke"},
        {.key = "motion.advance",
            .label = "Advance per cycle",
            .kind = Kind::length,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill = of_motion<Order::position, &Trajectory::advance>,
            .read_from = source,
            .meaning = "Advance per cycle"},
        {.key = "motion.path",
            .label = "Path per cycle",
            .kind = Kind::length,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill = of_motion<Order::position, &Trajectory::path>,
            .read_from = source,
            .meaning = "Path per cycle"},
        {.key = "motion.path_per_year",
            .label = "Path per year",
            .kind = Kind::speed,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.kind = along(in, Order::speed);
                    f.si = in.results.motion->path / in.results.motion->duration;
                    f.unit = in.load.motion.rotary ? "Mrev/year" : "km/year";
                    f.note = "running day and night";
                    work(f, in, "d_a", "path/T", "d/T",
                        {{"d", in.results.motion->path}, {"T", in.results.motion->duration}});
                },
            .read_from = source,
            .meaning = "Path per year"},
        {.key = "motion.peak_speed",
            .label = "Peak speed",
            .kind = Kind::speed,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill = of_motion<Order::speed, &Trajectory::peak_speed>,
            .read_from = source,
            .meaning = "Peak speed"},
        {.key = "motion.peak_acceleration",
            .label = "Peak acceleration",
            .kind = Kind::acceleration,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = always,
            .fill = of_motion<Order::acceleration, &Trajectory::peak_acceleration>,
            .read_from = source,
            .meaning = "Peak acceleration"},
        {.key = "motion.peak_jerk",
            .label = "Peak jerk",
            .kind = Kind::jerk,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = [](In in) { return in.waits || std::isfinite(in.results.motion->peak_jerk); },
            .fill = of_motion<Order::jerk, &Trajectory::peak_jerk>,
            .read_from = source,
            .meaning = "Peak jerk"},
        {.key = "motion.shortest_ramp",
            .label = "Shortest ramp",
            .kind = Kind::time,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = has_ramp,
            .fill = [](Figure& f, In in) { f.si = in.results.motion->shortest_ramp; },
            .read_from = source,
            .meaning = "Shortest time over which the speed changes one way, by a tenth of the peak speed or more"},
        {.key = "motion.bandwidth_needed",
            .label = "Bandwidth it needs",
            .kind = Kind::frequency,
            .needs = cycle,
            .reads = AxisResult::motion,
            .applies = has_ramp,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.motion->ample_bandwidth();
                    f.note = "to settle within its shortest ramp; 3/t to 5/t rad/s, common practice";
                    work(f, in, "f", "5/(2π t)", "5/(2*pi*t)", {{"t", in.results.motion->shortest_ramp}},
                        "common practice, no source");
                },
            .read_from = source,
            .meaning = "Bandwidth that settles within the shortest ramp, 5/t rad/s (3/t to 5/t, common practice)"},
    };
    return rows;
}

} // namespace fulmox

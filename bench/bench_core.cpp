// The core's speed: assessing the demo axis, reading its file, a search candidate on the hull.
#include "core/demand/closed_form.h"
#include "core/files/part_table.h"
#include "core/files/project.h"
#include "core/files/trace_file.h"
#include "core/match/assess.h"
#include "core/match/candidates.h"
#include "core/match/headroom.h"
#include "core/motion/gcode.h"

#include "tests/mechanism_texts.h"

#include <benchmark/benchmark.h>
#include <cmath>
#include <cstdlib>
#include <fstream>
#include <malloc.h>
#include <numeric>
#include <sstream>
#include <utility>

using namespace fulmox;

namespace {

std::string demo_text() {
    std::ifstream in(std::string(FULMOX_SOURCE_DIR) + "/data/projects/tile-glazing-cell.fulmox");
    std::stringstream s;
    s << in.rdbuf();
    return s.str();
}

Machine demo() {
    auto read = read_project(demo_text());
    if (!read) std::abort();
    return read->machine;
}

// Promise: at most 2 ms with every working.
void assess_with_workings(benchmark::State& state) {
    const Machine m = demo();
    for (auto _ : state) benchmark::DoNotOptimize(assess(m, 0));
}
BENCHMARK(assess_with_workings)->Unit(benchmark::kMicrosecond);

void assess_without_workings(benchmark::State& state) {
    const Machine m = demo();
    for (auto _ : state) benchmark::DoNotOptimize(assess(m, 0, {.workings = false}));
}
BENCHMARK(assess_without_workings)->Unit(benchmark::kMicrosecond);

void assess_long_cycle(benchmark::State& state) {
    Machine m = demo();
    const auto once = m.axes[0].cycle.segments;
    while (m.axes[0].cycle.segments.size() < static_cast<std::size_t>(state.range(0)))
        m.axes[0].cycle.segments.insert(m.axes[0].cycle.segments.end(), once.begin(), once.end());
    for (auto _ : state) benchmark::DoNotOptimize(assess(m, 0));
}
BENCHMARK(assess_long_cycle)->Arg(200)->Unit(benchmark::kMicrosecond);

constexpr int last_kind = static_cast<int>(std::variant_size_v<Mechanism>) - 1;

// 198 segments of the modified sine, whose pieces are the dearest of the everyday laws.
std::pair<std::string, Machine> with_long_cycle_of(std::int64_t kind) {
    Machine m = demo();
    const std::string key = find_field(m, "/axes/0/mechanism")->variant.kinds()[static_cast<std::size_t>(kind)].key;
    return {key, testing::with_long_cycle(testing::turned_into(std::move(m), key), 198)};
}

// Promise: at most 2 ms on any mechanism.
void assess_long_cycle_of(benchmark::State& state) {
    const auto [key, m] = with_long_cycle_of(state.range(0));
    state.SetLabel(key);
    state.counters["spans"] = static_cast<double>(assess(m, 0).demand->spans.size());
    for (auto _ : state) benchmark::DoNotOptimize(assess(m, 0));
}
BENCHMARK(assess_long_cycle_of)->DenseRange(0, last_kind)->Unit(benchmark::kMicrosecond);

void read_demo(benchmark::State& state) {
    const std::string text = demo_text();
    for (auto _ : state) benchmark::DoNotOptimize(read_project(text));
}
BENCHMARK(read_demo)->Unit(benchmark::kMicrosecond);

// Promise: at most 300 ms for 200 axes, from the text to the assessment of each.
void open_and_assess_axes(benchmark::State& state) {
    Machine m = demo();
    const auto once = m.axes;
    while (m.axes.size() < static_cast<std::size_t>(state.range(0)))
        m.axes.push_back(once[m.axes.size() % once.size()]);
    const std::string text = write_project(m);
    for (auto _ : state) {
        const auto opened = read_project(text);
        const Machine& machine = opened->machine;
        for (std::size_t a = 0; a < machine.axes.size(); ++a) benchmark::DoNotOptimize(assess(machine, a));
    }
}
BENCHMARK(open_and_assess_axes)->Arg(200)->Unit(benchmark::kMillisecond);

// Promise: what one motor gives, by its constants alone, in at most 30 µs.
void capability_by_model(benchmark::State& state) {
    const Machine m = demo();
    const auto axis = static_cast<std::size_t>(state.range(0));
    Motor motor = m.axes[axis].motor;
    motor.continuous.clear();
    motor.peak.clear();
    state.SetLabel(motor.name);
    if (!capability(motor, m.axes[axis].drive, m.site).peak_by_model) return state.SkipWithError("no model");
    for (auto _ : state) benchmark::DoNotOptimize(capability(motor, m.axes[axis].drive, m.site));
}
BENCHMARK(capability_by_model)->Arg(0)->Arg(6)->Arg(7)->Arg(8)->Arg(9)->Unit(benchmark::kMicrosecond);

// Promise: the steady heat of 200 segments, two bodies, in at most 1 ms.
void steady_heat_of_200_segments(benchmark::State& state) {
    Machine m = demo();
    const auto once = m.axes[0].cycle.segments;
    while (m.axes[0].cycle.segments.size() < 200)
        m.axes[0].cycle.segments.insert(m.axes[0].cycle.segments.end(), once.begin(), once.end());
    const Assessment a = assess(m, 0);
    if (!a.motor || !a.demand || !a.heat || !a.heat->motor.two_bodies()) return state.SkipWithError("no heat");
    const Axis& axis = std::as_const(m.axes)[0];
    for (auto _ : state) benchmark::DoNotOptimize(cycle_heat(axis.motor, axis.drive, m.site, *a.motor, *a.demand));
}
BENCHMARK(steady_heat_of_200_segments)->Unit(benchmark::kMicrosecond);

// Promise: the shipped catalogue on one axis in at most 40 ms.
void catalogue_on_an_axis(benchmark::State& state) {
    const Machine m = demo();
    std::ifstream in(std::string(FULMOX_SOURCE_DIR) + "/data/catalogue/motors.json");
    std::stringstream text;
    text << in.rdbuf();
    const auto catalogue = read_motors(text.str());
    if (!catalogue || catalogue->motors.size() < 240) return state.SkipWithError("no catalogue of 240");
    std::vector<const Motor*> motors;
    for (const Motor& motor : catalogue->motors) motors.push_back(&motor);
    for (auto _ : state) benchmark::DoNotOptimize(judge_motors(m, 0, motors));
}
BENCHMARK(catalogue_on_an_axis)->Unit(benchmark::kMillisecond)->UseRealTime();

// Promise: the shipped gearheads on one axis in at most 30 ms.
void gearheads_on_an_axis(benchmark::State& state) {
    const Machine m = demo();
    const auto axis = static_cast<std::size_t>(state.range(0));
    state.SetLabel(m.axes[axis].name);
    std::ifstream in(std::string(FULMOX_SOURCE_DIR) + "/data/catalogue/gearheads.csv");
    std::stringstream text;
    text << in.rdbuf();
    const auto catalogue = read_any_parts(text.str(), "gearheads.csv", "");
    if (!catalogue || catalogue->parts.gearheads.size() < 200) return state.SkipWithError("no catalogue of 200");
    std::vector<std::size_t> which(catalogue->parts.gearheads.size());
    std::iota(which.begin(), which.end(), std::size_t{0});
    for (auto _ : state)
        benchmark::DoNotOptimize(judge_parts(m, axis, part_kind("gearhead"), 0, catalogue->parts, which));
}
BENCHMARK(gearheads_on_an_axis)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

void headroom_of_one_limit(benchmark::State& state) {
    const Machine m = demo();
    for (auto _ : state) benchmark::DoNotOptimize(headroom(m, 0, "peak_torque"));
}
BENCHMARK(headroom_of_one_limit)->Unit(benchmark::kMillisecond);

// Promise: at most 300 ms from the text to the assessment.
void import_trace(benchmark::State& state) {
    Machine m = demo();
    std::string text = "time [s],position [mm]\n";
    for (int i = 0; i < state.range(0); ++i) {
        const double t = i * 1e-4;
        text += std::to_string(t) + "," + std::to_string(100 * (1 - std::cos(0.2 * M_PI * t)) + 1e-3 * (i % 7)) + "\n";
    }
    const Motion motion = motion_of(m.axes[0].mechanism);
    for (auto _ : state) {
        auto r = read_trace(text, motion);
        if (!r) state.SkipWithError(r.error().message.c_str());
        Segment s;
        s.what = std::move(r->trace);
        m.axes[0].cycle.segments = {s};
        const Assessment a = assess(m, 0);
        if (!a.demand) state.SkipWithError("the recording was not assessed");
        benchmark::DoNotOptimize(a);
    }
}
BENCHMARK(import_trace)->Arg(100000)->Unit(benchmark::kMillisecond);

// Promise: at most 1 s from the text to the cycle of every axis.
void import_gcode(benchmark::State& state) {
    std::string text = "G21 G90 F6000\n";
    for (int i = 0; i < state.range(0); ++i) {
        const double a = i * 0.01, r = 20 + 10 * std::sin(i * 0.0007);
        text += "N" + std::to_string(i) + " G1 X" + std::to_string(r * std::cos(a)) + " Y" +
                std::to_string(r * std::sin(a)) + " Z" + std::to_string(i * 1e-4) + "\n";
    }
    for (auto _ : state) {
        const auto program = read_gcode(text, [](double) { return true; });
        GcodeOptions o;
        o.limits.fill({0.5, 3});
        o.progress = [](double) { return true; };
        benchmark::DoNotOptimize(plan_gcode(*program, o));
    }
}
BENCHMARK(import_gcode)->Arg(50000)->Unit(benchmark::kMillisecond);

void candidates(benchmark::State& state, const ClosedForm& closed) {
    double ratio = 1;
    for (auto _ : state) {
        ratio = ratio > 9 ? 1 : ratio * 1.01;
        benchmark::DoNotOptimize(closed.peak_torque(ratio, 5e-5) + closed.rms_torque(ratio, 5e-5));
    }
}

void candidate_on_the_hull(benchmark::State& state) { candidates(state, closed_form(*assess(demo(), 0).demand)); }
BENCHMARK(candidate_on_the_hull)->Unit(benchmark::kNanosecond);

// Promise: at most 100 ns on any mechanism, where the hull of a long cycle has most corners.
void candidate_on_the_hull_of(benchmark::State& state) {
    const auto [key, m] = with_long_cycle_of(state.range(0));
    const ClosedForm closed = closed_form(*assess(m, 0).demand);
    state.SetLabel(key);
    for (const Hull& h : closed.hulls) state.counters["corners"] += static_cast<double>(h.corners().size());
    candidates(state, closed);
}
BENCHMARK(candidate_on_the_hull_of)->DenseRange(0, last_kind)->Unit(benchmark::kNanosecond);

void make_hull_of(benchmark::State& state) {
    const auto [key, m] = with_long_cycle_of(state.range(0));
    const Demand demand = *assess(m, 0).demand;
    state.SetLabel(key);
    for (auto _ : state) benchmark::DoNotOptimize(closed_form(demand));
}
BENCHMARK(make_hull_of)->DenseRange(0, last_kind)->Unit(benchmark::kMicrosecond);

void read_quantity_text(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(read_quantity("2*35 mm + 1 in", Kind::length, si_unit(Kind::length)));
}
BENCHMARK(read_quantity_text)->Unit(benchmark::kNanosecond);

} // namespace

int main(int argc, char** argv) {
    // as the application does
    ::mallopt(M_TRIM_THRESHOLD, 64 << 20);
    ::mallopt(M_MMAP_THRESHOLD, 32 << 20);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}

// Everything the core makes of a project that the command line does not print, a line of JSON each: ratio curves,
// headroom of every limit, influences, laws side by side. scripts/net holds two programs against each other by it, so
// this source compiles with the core of either.
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/match/headroom.h"
#include "core/match/ratio_curve.h"
#include "core/match/sensitivity.h"

#include <cmath>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>
#include <sstream>

using namespace fulmox;
using Value = nlohmann::ordered_json;

namespace {

Value number(double v) { return std::isfinite(v) ? Value(v) : Value(nullptr); }

void line(std::size_t axis, const char* what, Value value) {
    std::cout << Value{{"axis", axis}, {"what", what}, {"value", std::move(value)}}.dump(
                     -1, ' ', false, Value::error_handler_t::replace)
              << "\n";
}

Value point(const RatioPoint& p) {
    return {{"ratio", number(p.ratio)}, {"motor_speed", number(p.motor_speed)}, {"peak_torque", number(p.peak_torque)},
        {"rms_torque", number(p.rms_torque)}, {"inertia_ratio", number(p.inertia_ratio)}, {"speed", number(p.speed)},
        {"peak", number(p.peak)}, {"heat", number(p.heat)}, {"power", number(p.power)},
        {"precision", number(p.precision)}, {"state", state_key(p.state)}, {"tightest", number(p.tightest)},
        {"limit", p.limit}};
}

void look(const Machine& machine, std::size_t i, bool deep) {
    const Assessment a = assess(machine, i, {.workings = false});
    // each point costs a whole assessment
    if (a.motion && a.motion->pieces.size() > 200) return;
    if (motion_of(machine.axes[i].mechanism).has & Motion::shaft) {
        const RatioCurve curve = ratio_curve(machine, i, 0, 0.5, 50, deep ? 13 : 4);
        Value points = Value::array();
        for (const RatioPoint& p : curve.points) points.push_back(point(p));
        line(i, "ratio_curve",
            {{"points", std::move(points)}, {"present", number(curve.present)},
                {"best", curve.best ? number(curve.best->ratio) : Value(nullptr)},
                {"speed_limit", number(curve.speed_limit)}});
    }
    if (!deep) return;
    Value heads = Value::object();
    for (const Limit& l : a.limits) {
        Value rows = Value::object();
        for (const Headroom& h : headroom(machine, i, l.key)) rows[h.key] = number(h.factor);
        heads[l.key] = std::move(rows);
    }
    line(i, "headroom", std::move(heads));
    for (const Measure m : {Measure::rms_torque, Measure::peak_torque}) {
        Value rows = Value::object();
        for (const Influence& f : influences(machine, i, m)) rows[f.path] = {number(f.low), number(f.high)};
        line(i, m == Measure::rms_torque ? "influences_rms" : "influences_peak", std::move(rows));
    }
    for (std::size_t s = 0; s < machine.axes[i].cycle.segments.size() && s < 3; ++s) {
        Value rows = Value::array();
        for (const LawRow& r : compare_laws(machine, i, s))
            rows.push_back({number(r.peak_speed), number(r.peak_acceleration), number(r.jerk), number(r.peak_torque),
                number(r.rms_torque)});
        if (!rows.empty()) line(i, "laws", std::move(rows));
    }
}

} // namespace

// results FILE [deep]
int main(int argc, char** argv) {
    if (argc < 2) return 2;
    std::ifstream file(argv[1], std::ios::binary);
    std::stringstream text;
    text << file.rdbuf();
    const auto project = read_project(text.str());
    if (!project) return 2;
    for (std::size_t i = 0; i < project->machine.axes.size(); ++i) look(project->machine, i, argc > 2);
}

// Chain of a screw axis, stop by a brake and its energy against scipy.
#include "core/drivetrain/brake_stop.h"
#include "core/drivetrain/screw_layout.h"
#include "core/drivetrain/stepped_shaft.h"
#include "core/drivetrain/stiffness.h"
#include "tests/demo.h"
#include "tests/outside/record.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <numbers>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

const nlohmann::json& of_script() {
    static const nlohmann::json answer = [] {
        const std::string out =
            output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/drivetrain.py' 2>&1");
        INFO(out);
        nlohmann::json read = nlohmann::json::parse(out, nullptr, false);
        REQUIRE(!read.is_discarded());
        return read;
    }();
    return answer;
}

} // namespace

TEST_CASE("eigenfrequencies of the chain of a screw axis against scipy.linalg") {
    const auto& c = of_script()["chain"];
    Machine m = demo();
    Axis& a = m.axes[0];
    a.coupling.inertia = {};
    LoadModel load = load_model(m, a);
    load.own_inertia = c["shaft"];
    InertiaStatement inertia;
    inertia.rotor = c["rotor"];
    inertia.load = c["shaft"].get<double>() + c["carriage"].get<double>();
    const StiffnessStatement s = stiffness_statement(a, load, inertia);
    REQUIRE(s.resonances.size() == 2);
    REQUIRE(s.antiresonances.size() == 2);
    for (std::size_t i = 0; i < 2; ++i) {
        outside("chain motor – screw – carriage, resonance " + std::to_string(i + 1), "scipy.linalg.eigh",
            c["resonances"][i], s.resonances[i], 1e-9, "Hz");
        outside("chain motor – screw – carriage, antiresonance " + std::to_string(i + 1), "scipy.linalg.eigh",
            c["antiresonances"][i], s.antiresonances[i], 1e-9, "Hz");
    }
}

TEST_CASE("stepped screws on their bearings against finite elements") {
    std::map<std::string, int> count;
    for (const auto& c : of_script()["shafts"]) {
        std::vector<ShaftStretch> shaft;
        for (const auto& s : c["shaft"]) shaft.push_back({s[0], s[1]});
        std::vector<ShaftSupport> supports;
        for (const auto& s : c["supports"]) supports.push_back({s[0], s[1]});
        const std::string kind = c["kind"];
        outside("critical speed of a stepped screw, " + kind + ", " + std::to_string(++count[kind]),
            "Hermite beam elements, scipy.linalg.eigh", c["speed"], bending_frequency(shaft, supports, 206e9, 7850),
            1e-5, "rad/s");
    }
    CHECK(count.size() == 5);
}

TEST_CASE("a stop by a brake against solve_ivp") {
    const auto& b = of_script()["brake"];
    // a vertical axis of one turn a metre whose load pulls so much; the numbers are those of the script
    Machine m = demo();
    Axis& a = m.axes[0];
    Demand d;
    d.load = load_model(m, a);
    LoadModel& l = d.load;
    l.path = LoadModel::Path::straight;
    l.radius = 1;
    l.ratio = 1;
    l.stages.clear();
    l.moving_mass = 0;
    l.rotor_inertia = b["inertia"];
    l.own_inertia = l.motor_side = 0;
    l.gravity = 1;
    l.weight_mass = b["driving"];
    l.sin_inclination = 1;
    l.counterbalance = l.constant = 0;
    d.peak_speed = b["speed"];
    d.fall_torque = b["driving"];
    Span s;
    s.direction = -1;
    s.duration = 1;
    d.spans = {s};
    a.brake = {};
    a.motor.brake_torque = Quantity<Kind::torque>("2 N·m");
    a.motor.brake_stopping.dynamic_torque.si = b["slips"];
    a.motor.brake_stopping.apply_time.si = b["delay"];
    const auto stop = brake_stop(d, a, true);
    REQUIRE(stop);
    REQUIRE(stop->backward);
    CHECK(!stop->forward);
    outside("loss of power, speed when the brake engages", "scipy.integrate.solve_ivp", b["engages_at"],
        stop->backward->engages_at, 1e-9, "rad/s");
    outside(
        "loss of power, time until it stands", "scipy.integrate.solve_ivp", b["time"], stop->backward->time, 1e-9, "s");
    outside("loss of power, way", "scipy.integrate.solve_ivp", b["angle"], stop->backward->distance, 1e-9, "rad");
    outside("loss of power, energy in the brake", "scipy.integrate.solve_ivp", b["energy"], stop->backward->energy,
        1e-9, "J");
}

TEST_CASE("the drawing of a screw is read back by ezdxf") {
    const Axis a = demo().axes[0];
    const Drawing d = screw_drawing(screw_layout(a, 0.4), a.name);
    const std::string file =
        (std::filesystem::temp_directory_path() / ("fulmox-screw-" + std::to_string(::getpid()) + ".dxf")).string();
    {
        std::ofstream out(file, std::ios::binary);
        out << drawing_dxf(d);
    }
    const std::string said = output_of(
        "/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/drivetrain.py' '" + file + "' 2>&1");
    std::filesystem::remove(file);
    INFO(said);
    const nlohmann::json read = nlohmann::json::parse(said, nullptr, false);
    REQUIRE(!read.is_discarded());
    const auto& dxf = read["dxf"];
    CHECK(dxf["errors"] == 0);
    CHECK(dxf["version"] == "AC1009");
    CHECK(dxf["layers"] == nlohmann::json{"CENTRE", "DIMENSIONS", "OUTLINE", "THIN"});
    outside("lines of the DXF of a screw", "ezdxf", dxf["lines"], static_cast<double>(d.lines.size()), 0, "");
    outside("words of the DXF of a screw", "ezdxf", static_cast<double>(dxf["words"].size()),
        static_cast<double>(d.words.size()), 0, "");
    outside("height of the outline in the DXF, half the 20 mm of the thread", "ezdxf", dxf["top"], 10, 1e-9, "mm");
    CHECK(dxf["left"].get<double>() == 0);
}

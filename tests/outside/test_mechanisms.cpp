// Every mechanism, bare and behind two lossy stages, against its equations written out again in Python.
#include "tests/mechanisms.h"
#include "tests/outside/record.h"

#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// Moves by the cycloid on an incline of 20°, so that load, friction and gravity all count and efficiencies switch.
Machine prepared(const std::string& key, bool staged) {
    Machine m = machine_with(key);
    Axis& a = m.axes[0];
    const auto set_if_there = [&](const char* path, const char* text) {
        if (auto f = find_field(m, std::string("/axes/0") + path); f && f->active) set(m, path, text);
    };
    set_if_there("/load/inclination", "20 deg");
    set_if_there("/load/viscous", "60 N·s/m");
    set_if_there("/load/guide_preload", "150 N");
    set_if_there("/load/counterweight", "6 kg");
    set_if_there("/mechanism/losses/efficiency", "0.85");
    set_if_there("/mechanism/losses/drag", "0.05 N·m");
    for (Segment& s : a.cycle.segments)
        if (auto* move = std::get_if<MoveInTime>(&s.what)) move->law = Law::cycloidal;
    if (key == "slider_crank" || key == "scotch_yoke")
        a.cycle.start_position = MotionQuantity<Order::position>("35 deg");
    if (staged)
        for (const char* ratio : {"3", "2.5"}) {
            Stage s;
            s.ratio = Quantity<Kind::number>(ratio);
            s.inertia = Quantity<Kind::inertia>("0.8 kg·cm²");
            s.efficiency = Quantity<Kind::number>("0.9");
            a.stages.push_back(s);
        }
    return m;
}

nlohmann::json told(Machine m, const std::string& key) {
    const Axis& a = m.axes[0];
    nlohmann::json j;
    j["kind"] = key;
    j["gravity"] = m.site.gravity.si;
    j["rotor"] = key == "linear_motor" ? 0 : a.motor.rotor_inertia.si + a.motor.brake_inertia.value_or(0);
    j["stages"] = nlohmann::json::array();
    for (const Stage& s : a.stages) j["stages"].push_back({s.ratio.si, s.inertia.si, s.efficiency.si});
    j["cycle"]["start"] = a.cycle.start_position.value_or(0);
    for (const Segment& s : a.cycle.segments) {
        if (const auto* move = std::get_if<MoveInTime>(&s.what))
            j["cycle"]["segments"].push_back({move->distance.si, move->duration.si});
        if (const auto* dwell = std::get_if<Dwell>(&s.what))
            j["cycle"]["segments"].push_back({0.0, dwell->duration.si});
    }
    for (FieldRef& f : walk(m.axes[0]))
        if (f.type == FieldRef::Type::quantity && f.active && f.quantity->given() &&
            (f.path.starts_with("/load/") || f.path.starts_with("/mechanism/")))
            j["fields"][f.path.substr(1)] = f.quantity->si;
    return j;
}

} // namespace

TEST_CASE("RMS, peak and energy of every mechanism against scipy") {
    nlohmann::json axes = nlohmann::json::array();
    std::vector<Machine> machines;
    std::vector<std::string> names;
    for (const Option& kind : mechanism_kinds())
        for (const bool staged : {false, true}) {
            if (staged && std::string(kind.key) == "linear_motor") continue;
            machines.push_back(prepared(kind.key, staged));
            axes.push_back(told(machines.back(), kind.key));
            names.push_back(std::string(kind.label) + (staged ? ", two stages" : ""));
        }
    const auto file = std::filesystem::temp_directory_path() / "fulmox-mechanisms.json";
    std::ofstream(file) << axes.dump();
    const std::string out = output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) +
                                      "/tests/outside/mechanisms.py' '" + file.string() + "' 2>&1");
    std::filesystem::remove(file);
    INFO(out);
    const nlohmann::json theirs = nlohmann::json::parse(out, nullptr, false);
    REQUIRE(theirs.is_array());
    REQUIRE(theirs.size() == machines.size());
    for (std::size_t i = 0; i < machines.size(); ++i) {
        const Machine& m = machines[i];
        const auto* w = std::get_if<Winder>(&m.axes[0].mechanism);
        const Demand d = demand_of(m, w ? full_web(*w) / 2 : 0);
        const nlohmann::json& t = theirs[i];
        const bool linear = std::holds_alternative<LinearMotor>(m.axes[0].mechanism);
        const std::string of = (linear ? "force, " : "torque, ") + names[i], unit = linear ? "N" : "N·m";
        outside("RMS " + of, "scipy.integrate.quad", t["rms"], d.rms_torque, 1e-8, unit);
        outside("largest " + of, "numpy, 6000 samples a move", t["peak"], std::abs(d.peak.torque), 2e-5, unit);
        outside("energy delivered, " + names[i], "scipy.integrate.quad", t["delivered"], d.energy_delivered, 1e-6, "J");
        outside("energy returned, " + names[i], "scipy.integrate.quad", t["returned"], d.energy_returned,
            1e-6 * std::max(1.0, t["delivered"].get<double>() / std::max(1e-9, t["returned"].get<double>())), "J");
    }
}

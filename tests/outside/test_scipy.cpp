// RMS torque and segment integrals against scipy.integrate.quad, on equations written out again in Python.
#include "tests/demo.h"
#include "tests/outside/record.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

nlohmann::json inputs(const Machine& m) {
    const Axis& a = m.axes[0];
    const Screw& s = std::get<Screw>(a.mechanism);
    nlohmann::json j;
    const auto or_zero = [](const QuantityBase& q) { return q.given() ? q.si : 0.0; };
    j["gravity"] = m.site.gravity.si;
    j["inclination"] = a.load.inclination.si;
    j["carriage"] = a.load.carriage_mass.si;
    j["payload"] = a.load.payload.si;
    j["mu"] = a.load.guide_friction.si;
    j["normal"] = or_zero(a.load.guide_preload);
    j["seal"] = or_zero(a.load.seal_drag);
    j["viscous"] = or_zero(a.load.viscous);
    j["counterbalance"] = or_zero(a.load.counterbalance);
    j["counterweight"] = or_zero(a.load.counterweight);
    j["lead"] = s.lead.si;
    j["outer"] = s.diameter.si;
    j["root"] = s.root_diameter.si;
    j["length"] = s.length.si;
    j["density"] = s.density.si;
    j["eta"] = s.efficiency.si;
    j["drag"] = or_zero(s.preload_drag) + or_zero(s.bearing_drag);
    j["coupling"] = or_zero(a.coupling.inertia);
    j["rotor"] = or_zero(a.motor.rotor_inertia) + or_zero(a.motor.brake_inertia);
    for (const Segment& g : a.cycle.segments) {
        nlohmann::json e;
        e["payload"] = g.payload.given() ? nlohmann::json(g.payload.si) : nlohmann::json(nullptr);
        e["process"] = or_zero(g.process_force);
        if (const auto* move = std::get_if<MoveInTime>(&g.what))
            e["move"] = {
                move->distance.si, move->duration.si, move->acceleration_share.si, move->deceleration_share.si};
        if (const auto* move = std::get_if<MoveByLimits>(&g.what))
            e["limits"] = {move->distance.si, move->speed.si, move->acceleration.si,
                move->deceleration.given() ? move->deceleration.si : move->acceleration.si};
        if (const auto* dwell = std::get_if<Dwell>(&g.what)) {
            e["dwell"] = dwell->duration.si;
            e["brake"] = dwell->brake_holds;
        }
        j["segments"].push_back(e);
    }
    return j;
}

nlohmann::json scipy_answer(const nlohmann::json& input) {
    const auto file = std::filesystem::temp_directory_path() /
                      ("fulmox-scipy-" + std::to_string(std::hash<std::string>{}(input.dump())) + ".json");
    std::ofstream(file) << input.dump();
    const std::string out = output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) +
                                      "/tests/outside/screw_axis.py' '" + file.string() + "' 2>&1");
    std::filesystem::remove(file);
    INFO(out);
    nlohmann::json answer = nlohmann::json::parse(out, nullptr, false);
    REQUIRE(!answer.is_discarded());
    return answer;
}

Machine variant(int i) {
    Machine m = demo();
    if (i == 1) {
        set(m, "/load/inclination", "30 deg");
        set(m, "/load/viscous", "120 N·s/m");
        set(m, "/cycle/segments/2/process_force", "-250 N");
        std::get<Dwell>(m.axes[0].cycle.segments[1].what).brake_holds = true;
    }
    if (i == 2) {
        set(m, "/mechanism/efficiency", "0.45"); // self-locking
        set(m, "/load/counterweight", "10 kg");
        set(m, "/load/counterbalance", "80 N");
    }
    if (i == 3) {
        set(m, "/load/inclination", "0 deg");
        set(m, "/load/guide_friction", "0.15");
        set(m, "/load/guide_preload", "800 N");
        set(m, "/load/viscous", "900 N·s/m");
        set(m, "/cycle/segments/0/what/acceleration_share", "0.5");
        set(m, "/cycle/segments/0/what/deceleration_share", "0.2");
    }
    return m;
}

} // namespace

TEST_CASE("RMS torque, segment integrals, energy and peak against scipy") {
    const char* names[] = {"the demo lift", "an incline with viscous friction, process force and brake",
        "a self-locking screw with counterweight", "a horizontal axis with plain guides"};
    for (int i = 0; i < 4; ++i) {
        const Machine m = variant(i);
        const Assessment a = assess(m, 0);
        REQUIRE(a.demand);
        const nlohmann::json s = scipy_answer(inputs(m));
        const std::string what = names[i];
        outside("RMS torque, " + what, "scipy.integrate.quad", s["rms"], a.demand->rms_torque, 1e-9, "N·m");
        outside("largest torque, " + what, "numpy on 20 000 samples per piece", s["peak"],
            std::abs(a.demand->peak.torque), 1e-9, "N·m");
        outside(
            "energy per cycle, " + what, "scipy.integrate.quad", s["delivered"], a.demand->energy_delivered, 1e-8, "J");
        outside(
            "energy returned, " + what, "scipy.integrate.quad", s["returned"], a.demand->energy_returned, 1e-8, "J");
        const std::vector<double> heat = heat_by_segment(*a.demand, m.axes[0].cycle.segments.size());
        double largest = 0;
        for (std::size_t k = 0; k < heat.size(); ++k) {
            const double theirs = s["heat"][k];
            largest = std::max(largest, theirs > 0 ? std::abs(heat[k] / theirs - 1) : heat[k]);
        }
        outside_many(
            "∫T² dt of each segment, " + what, "scipy.integrate.quad", static_cast<int>(heat.size()), largest, 1e-9);
    }
}

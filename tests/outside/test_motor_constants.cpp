#include "core/motor/constants.h"
#include "tests/outside/record.h"

#include <cmath>
#include <cstdlib>
#include <nlohmann/json.hpp>

using namespace fulmox::testing;
namespace mc = fulmox::motor_constants;

TEST_CASE("a spin test") {
    // bench reading: line-to-line 9.5 V peak to peak at 151.6 Hz electrical, 21 pole pairs
    const char* bench = "common practice, no source (bench reading)";
    const double w = mc::shaft_speed(151.6, 21);
    const double k = mc::base_from_spin_test(9.5, w);
    outside("spin test, shaft speed", bench, 45.36, w, 2e-4, "rad/s");
    outside("spin test, Ke line-to-line peak", bench, 0.1047, mc::ke_line_peak * k, 5e-4, "V·s/rad");
    outside("spin test, Kt per A RMS", bench, 0.1283, mc::kt_per_rms_ampere * k, 5e-4, "N·m/A");
    outside("spin test, Kt per A peak", bench, 0.0907, mc::kt_per_peak_ampere * k, 5e-4, "N·m/A");
    outside("spin test, delta power-invariant constant", bench, 0.128, mc::delta_power_invariant * k, 4e-3, "N·m/A");
}

TEST_CASE("identities of the sine-driven machine") {
    const char* identity = "identity";
    const double per_krpm = mc::ke_line_rms * 1000 * 2 * M_PI / 60;
    outside("Kt[A RMS]/Ke[V LL RMS per krpm]", identity, 0.016540, mc::kt_per_rms_ampere / per_krpm, 5e-5);
    outside("Kt[A RMS]/Ke[V LL RMS·s/rad]", identity, std::sqrt(3.0), mc::kt_per_rms_ampere / mc::ke_line_rms, 1e-12);
    outside("Kt[A peak]/Ke[V LL peak·s/rad]", identity, std::sqrt(3.0) / 2, mc::kt_per_peak_ampere / mc::ke_line_peak,
        1e-12);
    // shaft power equals EMF power: 3 E_phase,RMS I_RMS
    outside("E I = T ω", identity, mc::kt_per_rms_ampere, 3 * mc::ke_phase_rms, 1e-12);
    outside("copper loss, 3 I² R_phase of a wye", identity, 3 * 4.0 * 4.0 * 0.5, mc::copper_loss(4, 1.0), 1e-12, "W");
}

TEST_CASE("copper at temperature, IEC 60034-1") {
    outside("copper from 20 to 120 °C", "IEC 60034-1 (235 K)", 1.3922, mc::copper_at(1, 120), 3.6e-5);
}

namespace {

// What a script found, a row each, recorded.
void found_by(const std::string& script) {
    const char* cli = std::getenv("FULMOX_CLI");
    const std::string program = cli ? cli : FULMOX_SOURCE_DIR "/build/release/cli/fulmox-cli";
    const std::string out =
        output_of("/usr/bin/python3 '" FULMOX_SOURCE_DIR "/tests/outside/" + script + "' '" + program + "'");
    INFO(out);
    const auto rows = nlohmann::json::parse(out);
    REQUIRE(!rows.empty());
    for (const auto& row : rows) {
        INFO(row.dump());
        CHECK(row.at("values").get<int>() > 0);
        CHECK(row.at("deviation").get<double>() <= row.at("tolerance").get<double>());
        outside_many(row.at("what"), row.at("source"), row.at("values"), row.at("deviation"), row.at("tolerance"));
    }
}

} // namespace

TEST_CASE("every pair of conventions by symbolic identity") { found_by("conventions.py"); }

TEST_CASE("capability and losses of random motors by brute force and in time") { found_by("motors.py"); }

TEST_CASE("pull-out of steppers in time, connections by symbols, heat and overload by integration") {
    found_by("steppers.py");
}

// Recorded motion against scipy's smoothing.
#include "core/motion/trace.h"
#include "tests/outside/record.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Trace recorded(const nlohmann::json& time, const nlohmann::json& value, TraceOf of, double window) {
    auto rows = std::make_shared<std::vector<double>>();
    for (std::size_t i = 0; i < time.size(); ++i) {
        rows->push_back(time[i]);
        rows->push_back(value[i]);
    }
    Trace t;
    t.of = of;
    t.samples = Samples{rows, 2};
    t.window.si = window;
    return t;
}

// Largest deviation over the largest value.
double apart(const nlohmann::json& theirs, const std::vector<Smoothed>& ours, double Smoothed::*what) {
    double worst = 0, size = 0;
    for (std::size_t i = 0; i < ours.size(); ++i) {
        const double expected = theirs[i];
        worst = std::max(worst, std::abs(ours[i].*what - expected));
        size = std::max(size, std::abs(expected));
    }
    return worst / size;
}

} // namespace

TEST_CASE("smoothing and both derivatives against scipy, ends included") {
    const auto theirs = nlohmann::json::parse(
        output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/savgol.py'"));
    for (const auto& f : theirs["fits"]) {
        const double window = 2 * f["half"].get<double>() * f["step"].get<double>();
        const Trace t = recorded(theirs["time"], theirs["value"], TraceOf::position, window);
        REQUIRE(half_window(t) == f["half"]);
        const auto s = smooth(t);
        REQUIRE(s.size() == theirs["time"].size());
        const std::string over = fmt::format(" over {} samples", 2 * f["half"].get<int>() + 1);
        const int n = static_cast<int>(s.size());
        outside_many("smoothed position" + over, "scipy.signal.savgol_filter", n,
            apart(f["fit"][0], s, &Smoothed::position), 1e-10);
        outside_many("velocity from position" + over, "scipy.signal.savgol_filter", n,
            apart(f["fit"][1], s, &Smoothed::velocity), 1e-8);
        outside_many("acceleration from position" + over, "scipy.signal.savgol_filter", n,
            apart(f["fit"][2], s, &Smoothed::acceleration), 1e-8);
    }
    const auto& v = theirs["velocity"];
    const Trace t = recorded(theirs["time"], v["value"], TraceOf::velocity, 0.04);
    const auto s = smooth(t);
    const int n = static_cast<int>(s.size());
    outside_many("smoothed velocity", "scipy.signal.savgol_filter", n, apart(v["fit"], s, &Smoothed::velocity), 1e-10);
    outside_many("acceleration from velocity", "scipy.signal.savgol_filter", n,
        apart(v["slope"], s, &Smoothed::acceleration), 1e-8);
    // 300 mm were travelled
    CHECK(s.back().position == Approx(0.3).epsilon(2e-3));
    CHECK(removed_noise(recorded(theirs["time"], theirs["value"], TraceOf::position, 0.2),
              smooth(recorded(theirs["time"], theirs["value"], TraceOf::position, 0.2))) == Approx(2e-5).epsilon(0.15));
}

TEST_CASE("pieces through smoothed samples join in position, velocity and acceleration") {
    const auto theirs = nlohmann::json::parse(
        output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/savgol.py'"));
    for (const TraceOf of : {TraceOf::position, TraceOf::velocity}) {
        const Trace t = recorded(theirs["time"], theirs["value"], of, 0.04);
        const auto s = smooth(t);
        const auto pieces = trace_pieces(t);
        REQUIRE(pieces.size() + 1 == s.size());
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            const Piece& p = pieces[i];
            CHECK(p.position(0) == Approx(s[i].position).margin(1e-12));
            CHECK(p.position(p.duration) == Approx(s[i + 1].position).margin(1e-9));
            CHECK(p.velocity(p.duration) == Approx(s[i + 1].velocity).epsilon(1e-7).margin(1e-9));
            CHECK(p.acceleration(p.duration) == Approx(s[i + 1].acceleration).epsilon(1e-6).margin(1e-6));
        }
    }
}

// Beams, curves, least times and plain arithmetic against general-purpose libraries.
#include "core/drivetrain/screw_limits.h"
#include "core/motion/trajectory.h"
#include "core/motor/capability.h"
#include "core/quantity/expression.h"
#include "tests/demo.h"
#include "tests/outside/record.h"

#include <cmath>
#include <muParser.h>
#include <nlohmann/json.hpp>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

nlohmann::json python(const std::string& script, const std::string& arguments = "") {
    const std::string out = output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/" +
                                      script + "' " + arguments + " 2>&1");
    INFO(out);
    nlohmann::json answer = nlohmann::json::parse(out, nullptr, false);
    REQUIRE(!answer.is_discarded());
    return answer;
}

} // namespace

TEST_CASE("critical speed and buckling against a finite-element beam solved by scipy") {
    const nlohmann::json beams = python("beams.py");
    const struct {
        const char* name;
        EndFixity fixity;
    } kinds[] = {{"fixed-free", EndFixity::fixed_free}, {"supported-supported", EndFixity::supported_supported},
        {"fixed-supported", EndFixity::fixed_supported}, {"fixed-fixed", EndFixity::fixed_fixed}};
    for (const auto& k : kinds) {
        const double w = critical_speed(0.0171, 0.76, 206e9, 7850, k.fixity);
        outside(std::string("bending speed, ") + k.name + ", 17.1 mm × 760 mm",
            "60 Hermite elements, scipy.linalg.eigh", beams[k.name]["speed"], w, 1e-6, "rad/s");
        const double f = buckling_load(0.0171, 0.76, 206e9, k.fixity);
        outside(std::string("buckling, ") + k.name + ", 17.1 mm × 760 mm", "60 Hermite elements, scipy.linalg.eigh",
            beams[k.name]["load"], f, 2e-4, "N");
    }
}

TEST_CASE("datasheet curves against scipy's monotone interpolation") {
    const Machine m = demo();
    const nlohmann::json theirs =
        python("pchip.py", "'" + std::string(FULMOX_SOURCE_DIR) + "/data/catalogue/motors.json'");
    double largest = 0;
    int points = 0;
    const auto catalogue = read_motors(file_text("data/catalogue/motors.json"));
    REQUIRE(catalogue);
    std::size_t at = 0;
    for (const Motor& motor : catalogue->motors) {
        if (motor.peak.empty()) continue;
        const SpeedTorqueCurve ours(motor.peak, 1);
        // between the first and last inner points both libraries use the same slopes; at the ends they choose their own
        for (const auto& p : theirs.at(at++)) {
            largest = std::max(largest, std::abs(ours.at(p[0]) / p[1].get<double>() - 1));
            ++points;
        }
    }
    outside_many("peak curves of the catalogue between their inner points", "scipy.interpolate.PchipInterpolator",
        points, largest, 1e-9);
}

TEST_CASE("the least time for a move against a numerical optimiser") {
    const nlohmann::json theirs = python("least_time.py");
    double largest = 0;
    for (const auto& c : theirs) {
        const Profile t = profile_by_limits(c["d"], c["v"], c["a"], c["b"]);
        INFO(c.dump());
        const double deviation = std::abs(t.duration() / c["time"].get<double>() - 1);
        CHECK(deviation < 1e-6);
        largest = std::max(largest, deviation);
    }
    outside_many("least time within speed and unequal accelerations", "scipy.optimize.minimize_scalar",
        static_cast<int>(theirs.size()), largest, 1e-6);
}

TEST_CASE("plain arithmetic in a field is what muParser makes of it") {
    std::mt19937 random(7); // a fixed seed: the same sums each time
    const auto pick = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    double largest = 0;
    int checked = 0;
    for (int i = 0; i < 2000; ++i) {
        std::string e;
        int open = 0;
        const int terms = 1 + pick(6);
        for (int t = 0; t < terms; ++t) {
            if (t > 0) e += "+-*/"[pick(4)];
            if (pick(4) == 0) {
                e += "(";
                ++open;
            }
            e += std::to_string(1 + pick(99)) + (pick(2) == 0 ? "." + std::to_string(pick(10)) + "5" : "");
            if (pick(6) == 0) e += "^" + std::to_string(pick(3));
            if (open > 0 && pick(3) == 0) {
                e += ")";
                --open;
            }
        }
        e += std::string(static_cast<std::size_t>(open), ')');
        mu::Parser p;
        p.SetExpr(e);
        const double theirs = p.Eval();
        const auto ours = read_quantity(e, Kind::number, si_unit(Kind::number));
        INFO(e << (ours ? "" : ": " + ours.error().message));
        if (!std::isfinite(theirs)) continue; // we refuse a division by zero, muParser gives infinity
        REQUIRE(ours);
        const double deviation = std::abs(ours->si - theirs) / std::max(1.0, std::abs(theirs));
        CHECK(deviation < 1e-12);
        largest = std::max(largest, deviation);
        ++checked;
    }
    CHECK(checked > 1900);
    outside_many("plain arithmetic", "muParser", checked, largest, 1e-12);
}

// Recorded motion against its definition, integrated by numpy.
#include "core/motion/trace.h"
#include "tests/outside/record.h"

#include "tests/catch.h"
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Trace recorded(const nlohmann::json& time, const nlohmann::json& value, TraceOf of, double half) {
    auto rows = std::make_shared<std::vector<double>>();
    for (std::size_t i = 0; i < time.size(); ++i) {
        rows->push_back(time[i]);
        rows->push_back(value[i]);
    }
    Trace t;
    t.of = of;
    t.samples = Samples{rows, 2};
    t.window = Quantity<Kind::time>(fmt::format("{} s", 2 * half));
    return t;
}

const Piece& piece_at(const std::vector<Piece>& pieces, double t) {
    std::size_t i = 0;
    while (i + 1 < pieces.size() && pieces[i + 1].start <= t) ++i;
    return pieces[i];
}

// Largest deviations over the largest values: of the smoothed column and its first two derivatives.
std::array<double, 3> apart(const nlohmann::json& time, const nlohmann::json& fit, const Trace& t, int& compared) {
    const std::vector<Piece> pieces = trace_pieces(t);
    std::array<double, 3> worst{}, size{};
    compared = 0;
    for (std::size_t i = 0; i < time.size(); ++i) {
        if (fit[i][0].is_null()) continue;
        ++compared;
        const double at = time[i];
        const Piece& p = piece_at(pieces, at);
        const Piece::State s = p.state(at - p.start);
        const std::array<double, 3> ours = t.of == TraceOf::position
                                               ? std::array<double, 3>{s.position, s.velocity, s.acceleration}
                                               : std::array<double, 3>{s.velocity, s.acceleration, s.jerk};
        for (std::size_t k = 0; k < 3; ++k) {
            const double expected = fit[i][k];
            worst[k] = std::max(worst[k], std::abs(ours[k] - expected));
            size[k] = std::max(size[k], std::abs(expected));
        }
    }
    for (std::size_t k = 0; k < 3; ++k) worst[k] /= size[k];
    return worst;
}

nlohmann::json theirs() {
    static const auto read = nlohmann::json::parse(
        output_of("/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/smoothing.py'"));
    return read;
}

} // namespace

TEST_CASE("the smoothed curve and its derivatives are the mean they are said to be") {
    const auto j = theirs();
    const auto compare = [&](const std::string& over, const nlohmann::json& time, const nlohmann::json& value,
                             const nlohmann::json& fit, TraceOf of, double half) {
        int n = 0;
        const auto d = apart(time, fit, recorded(time, value, of, half), n);
        REQUIRE(n > 50);
        const bool position = of == TraceOf::position;
        const char* source = "the weighted mean by numpy, Gauss quadrature";
        outside_many((position ? "smoothed position" : "smoothed velocity") + over, source, n, d[0], 1e-9);
        outside_many(
            (position ? "velocity from position" : "acceleration from velocity") + over, source, n, d[1], 1e-8);
        outside_many((position ? "acceleration from position" : "jerk from velocity") + over, source, n, d[2], 1e-7);
    };
    for (const auto& f : j["fits"])
        compare(fmt::format(" over {:.4g} ms", 2e3 * f["half"].get<double>()), j["time"], j["value"], f["fit"],
            TraceOf::position, f["half"]);
    const auto& u = j["uneven"];
    compare(", uneven sampling", u["time"], u["value"], u["fit"], TraceOf::position, u["half"]);
    const auto& v = j["velocity"];
    compare("", j["time"], v["value"], v["fit"], TraceOf::velocity, v["half"]);
    const Trace wide = recorded(j["time"], j["value"], TraceOf::position, 0.02);
    CHECK(removed_noise(wide, trace_pieces(wide)) == Approx(2e-5).epsilon(0.15));
}

TEST_CASE("pieces of a trace join in position, velocity and acceleration, from its first sample to its last") {
    const auto j = theirs();
    for (const TraceOf of : {TraceOf::position, TraceOf::velocity}) {
        const Trace t = recorded(j["time"], j["value"], of, 0.0173);
        const auto pieces = trace_pieces(t);
        CHECK(pieces.front().start == 0);
        CHECK(pieces.back().start + pieces.back().duration == Approx(j["time"].back().get<double>()).epsilon(1e-12));
        for (std::size_t i = 1; i < pieces.size(); ++i) {
            const Piece::State a = pieces[i - 1].state(pieces[i - 1].duration), b = pieces[i].state(0);
            CHECK(pieces[i - 1].start + pieces[i - 1].duration == Approx(pieces[i].start).margin(1e-12));
            CHECK(a.position == Approx(b.position).margin(1e-12));
            CHECK(a.velocity == Approx(b.velocity).margin(1e-11));
            CHECK(a.acceleration == Approx(b.acceleration).margin(1e-7));
        }
    }
}

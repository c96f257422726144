#define CATCH_CONFIG_EXTERNAL_INTERFACES
#include "tests/outside/record.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <fmt/format.h>
#include <fstream>
#include <memory>
#include <vector>

namespace fulmox::testing {

namespace {

struct Row {
    std::string what, source, expected, ours, deviation;
};

std::vector<Row>& rows() {
    static std::vector<Row> all;
    return all;
}

// Writes the table when the run ends and everything passed.
struct Writer : Catch::TestEventListenerBase {
    using TestEventListenerBase::TestEventListenerBase;
    void testRunEnded(const Catch::TestRunStats& stats) override {
        const char* file = std::getenv("FULMOX_VALIDATION");
        if (!file || !stats.totals.assertions.allPassed()) return;
        std::stable_sort(rows().begin(), rows().end(), [](const Row& a, const Row& b) { return a.source < b.source; });
        std::string out = "# Validation\n\nWritten by the test run (`./scripts/test`): every check against a source "
                          "outside this program, the value\nexpected, ours, and the relative deviation. "
                          "A check that fails stops the run, and this file is not written.\n\n| check | source | "
                          "expected | ours | deviation |\n|---|---|---|---|---|\n";
        for (const Row& r : rows())
            out +=
                "| " + r.what + " | " + r.source + " | " + r.expected + " | " + r.ours + " | " + r.deviation + " |\n";
        std::ofstream(file) << out;
    }
};
CATCH_REGISTER_LISTENER(Writer)

std::string deviation_text(double d) { return d < 1e-15 ? "< 1e-15" : fmt::format("{:.0e}", d); }

} // namespace

void outside(const std::string& what, const std::string& source, double expected, double ours, double tolerance,
    const std::string& unit) {
    const double deviation = expected == 0 ? std::abs(ours) : std::abs(ours / expected - 1);
    INFO(what << ": expected " << expected << ", ours " << ours);
    CHECK(deviation <= tolerance);
    const std::string u = unit.empty() ? "" : " " + unit;
    // the deviation is floored at the tolerance of the printed digits, so that the table does not change with the last
    // bit
    rows().push_back({what, source, fmt::format("{:.7g}", expected) + u, fmt::format("{:.7g}", ours) + u,
        deviation <= tolerance / 50 ? "< " + deviation_text(tolerance / 50) : deviation_text(deviation)});
}

void outside_many(const std::string& what, const std::string& source, int values, double largest, double tolerance) {
    INFO(what << ": " << largest);
    CHECK(values > 0);
    CHECK(largest <= tolerance);
    rows().push_back({what, source, fmt::format("{} values", values), "all agree", "< " + deviation_text(tolerance)});
}

std::string output_of(const std::string& command) {
    std::unique_ptr<FILE, int (*)(FILE*)> pipe(popen(command.c_str(), "r"), pclose);
    REQUIRE(pipe);
    std::string out;
    std::array<char, 4096> buffer{};
    while (const std::size_t n = fread(buffer.data(), 1, buffer.size(), pipe.get())) out.append(buffer.data(), n);
    return out;
}

} // namespace fulmox::testing

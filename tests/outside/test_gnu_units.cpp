// Every unit of the table against the units program of the system.
#include "core/quantity/format.h"
#include "core/quantity/unit.h"
#include "tests/outside/record.h"

#include <cmath>
#include <fstream>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// The SI unit of a kind as GNU units writes it. Counts are plain numbers there.
std::string gnu_si(Kind k) { return std::string(units_of(k).front()->gnu); }

} // namespace

TEST_CASE("every unit agrees with the units program") {
    REQUIRE(output_of("units --version 2>&1").find("GNU Units") != std::string::npos);
    int checked = 0;
    double largest = 0;
    for (const Unit& u : units()) {
        INFO(u.symbol << " = " << u.gnu);
        double theirs = 0;
        if (u.offset != 0) { // an affine scale: two points
            const std::string name(u.gnu);
            const double zero = std::stod(output_of("units -t -d 15 '" + name + "(0)' K"));
            const double hundred = std::stod(output_of("units -t -d 15 '" + name + "(100)' K"));
            theirs = (hundred - zero) / 100;
            CHECK(zero == Approx(u.offset).epsilon(1e-12));
        } else {
            const std::string out =
                output_of("units -t -d 15 '1 * (" + std::string(u.gnu) + ")' '" + gnu_si(u.kind) + "' 2>&1");
            INFO(out);
            REQUIRE_NOTHROW(theirs = std::stod(out));
            if (dimension_of(u.kind).root_watt != 0) theirs = std::sqrt(theirs);
        }
        const double deviation = std::abs(u.factor / theirs - 1);
        CHECK(deviation < 1e-9);
        largest = std::max(largest, deviation);
        ++checked;
    }
    CHECK(checked > 180);
    outside_many("every unit of the table", "GNU units", checked, largest, 1e-9);
}

// One plausible axis for every mechanism, for tests that walk the registry.
#pragma once

#include "tests/demo.h"
#include "tests/mechanism_texts.h"

#include <vector>

namespace fulmox::testing {

inline std::vector<Option> mechanism_kinds() {
    Machine m = demo();
    const auto kinds = find_field(m, "/axes/0/mechanism")->variant.kinds();
    return {kinds.begin(), kinds.end()};
}

inline Machine machine_with(const std::string& key) { return turned_into(demo(), key); }

inline Demand demand_of(const Machine& m, double web = 0) {
    const Plan p = plan(m.axes[0].cycle, motion_of(m.axes[0].mechanism));
    REQUIRE(!has_errors(p.problems));
    return demand(load_model(m, m.axes[0], web), p.motion, m.axes[0]);
}

} // namespace fulmox::testing

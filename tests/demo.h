// The demo project and small changes to it, for tests.
#pragma once

#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/model/walk.h"

#include "tests/catch.h"
#include <fstream>
#include <sstream>
#include <string>

namespace fulmox::testing {

inline std::string file_text(const std::string& path) {
    std::ifstream in(std::string(FULMOX_SOURCE_DIR) + "/" + path, std::ios::binary);
    REQUIRE(in);
    std::stringstream s;
    s << in.rdbuf();
    return s.str();
}

inline Machine demo() {
    auto read = read_project(file_text("data/projects/tile-glazing-cell.fulmox"));
    REQUIRE(read);
    REQUIRE(read->problems.empty());
    return read->machine;
}

/// Sets the field at a pointer of axis 0 ("/load/payload"); must be accepted.
inline void set(Machine& m, const std::string& path, const std::string& text) {
    auto f = find_field(m, "/axes/0" + path);
    REQUIRE(f);
    const auto problem = assign(*f, text);
    INFO(path << " " << text << " " << (problem ? problem->message : ""));
    REQUIRE(!problem);
}

/// What the cycle of axis 0 carries where.
inline std::vector<Carried> over_cycle(const Machine& m) {
    const Axis& a = m.axes.at(0);
    const Plan p = plan(a.cycle, motion_of(a.mechanism));
    REQUIRE(!has_errors(p.problems));
    return carried_over(p.motion, first_payload(a));
}

} // namespace fulmox::testing

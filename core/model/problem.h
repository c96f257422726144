// Something wrong or odd about an input, with its address.
#pragma once

#include <string>
#include <vector>

namespace fulmox {

enum class Severity {
    error,      ///< the field cannot be used
    suspicious, ///< legal, kept, but a wrong unit is the usual cause
    caution     ///< people or machines can come to harm
};

struct Problem {
    Severity severity = Severity::error;
    std::string path;    ///< JSON pointer into the project
    std::string field;   ///< label, as in the form
    std::string message; ///< what was found, what is allowed, what to do
    int line = 0;        ///< line of the file it came from, 0: unknown
    std::string key{};   ///< of a caution: stable; else empty

    bool operator==(const Problem&) const = default;
};

using Problems = std::vector<Problem>;

/// Something that a verdict needs and that is not given.
struct Missing {
    std::string path; ///< JSON pointer below the axis, "/coupling/angular_allowed"
    std::string name; ///< in words: "angular allowance of the coupling"

    bool operator==(const Missing&) const = default;
};

/// What a field is called where its place is not seen: "Time, segment 2", "Torque, peak curve, point 1".
std::string field_and_place(const std::string& field, const std::string& path);

/// "line 12, /axes/0/mechanism/lead (Lead): …"
std::string to_text(const Problem& p);

bool has_errors(const Problems& problems);

} // namespace fulmox

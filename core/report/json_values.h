// JSON of what every report has.
#pragma once

#include "core/match/candidates.h"
#include "core/model/problem.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace fulmox {

using Value = nlohmann::ordered_json;

/// A number, or null where it is none.
inline Value finite(double v) { return std::isfinite(v) ? Value(v) : Value(nullptr); }

inline const char* severity_key(Severity s) {
    return s == Severity::error ? "error" : s == Severity::suspicious ? "suspicious" : "caution";
}

/// What is not given: pointer below the axis and name.
inline Value missing_json(const std::vector<Missing>& missing) {
    Value out = Value::array();
    for (const Missing& m : missing) out.push_back({{"path", m.path}, {"name", m.name}});
    return out;
}

inline Value counts_json(const std::vector<Candidate>& judged) {
    const CandidateCount n = count(judged);
    return {{"suitable", n.suitable}, {"unknown", n.unknown}, {"over", n.over}};
}

inline Value problems_json(const Problems& problems) {
    Value out = Value::array();
    for (const Problem& p : problems)
        out.push_back({{"severity", severity_key(p.severity)}, {"path", p.path},
            {"line", p.line > 0 ? Value(p.line) : Value(nullptr)}, {"key", p.key}, {"field", p.field},
            {"message", p.message}});
    return out;
}

} // namespace fulmox

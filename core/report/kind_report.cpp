#include "core/report/kind_report.h"

#include "core/quantity/format.h"

namespace fulmox {

namespace {

std::string signed_weight(int w) { return w > 0 ? "+" + std::to_string(w) : w < 0 ? "−" + std::to_string(-w) : "0"; }

} // namespace

Table kinds_table(const KindChoice& c) {
    Table t{"Which kind of motor", {"kind", "score"}, {}, {false, true}};
    for (const KindAdvice& k : c.kinds) {
        t.rows.push_back({k.label, k.excluded ? "not here" : signed_weight(k.score)});
        for (const KindReason& r : k.reasons)
            t.rows.push_back({"· " + r.words, r.weight <= -10 ? "" : signed_weight(r.weight)});
    }
    for (const std::string& s : c.would_change) t.rows.push_back({s, ""});
    return t;
}

Table questions_table(const KindChoice& c) {
    Table t{"Questions", {"question", "answer"}, {}, {false, false}};
    for (const KindQuestion& q : c.questions)
        if (!q.field.starts_with("/axes/")) t.rows.push_back({q.words, q.answer.empty() ? "not known yet" : q.answer});
    return t;
}

} // namespace fulmox

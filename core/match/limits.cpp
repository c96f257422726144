#include "core/match/limits.h"

#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"

#include <algorithm>
#include <map>

namespace fulmox {

const std::vector<LimitRow>& limit_rows() {
    static const std::vector<LimitRow> rows = [] {
        std::vector<LimitRow> out;
        for (Rows& subject : all_rows())
            for (LimitRow& row : subject.limits) {
                row.section = subject.section;
                out.push_back(std::move(row));
            }
        return out;
    }();
    return rows;
}

const LimitRow* limit_row(std::string_view key) {
    static const std::map<std::string_view, const LimitRow*> by_key = [] {
        std::map<std::string_view, const LimitRow*> out;
        for (const LimitRow& row : limit_rows()) out.emplace(row.key, &row);
        return out;
    }();
    const auto row = by_key.find(key);
    return row == by_key.end() ? nullptr : row->second;
}

namespace {

bool accepts_all(const Axis& axis, const std::vector<Missing>& missing) {
    return !missing.empty() &&
           std::all_of(missing.begin(), missing.end(), [&](const Missing& m) { return axis.accepts(m.path); });
}

// Judged where nothing it needs is missing.
void judge_known(Limit& l, const LimitRow& row, In in) {
    row.judge(l, in);
    if (l.state != LimitState::cannot_say) {
        const Capability* can = row.of_motor ? known_peak(in) : nullptr;
        if (can && can->model && (l.needs & (need::current | need::voltage)) != 0)
            if (const std::string words = tighter_words(can->model->numbers()); !words.empty())
                l.reason += "; " + words;
        return;
    }
    // whatever is not specified in numbers of its own is an unknown of its own
    if (l.missing.empty()) l.missing.push_back({"limit/" + l.key, l.label});
    l.accepted = accepts_all(in.axis, l.missing);
    for (const Missing& m : l.missing)
        if (m.path.starts_with('/')) l.waits_for.push_back({in.waiting.path() + m.path, m.name});
}

// What is known may be enough to say that it is over.
void judge_waiting(Limit& l, const LimitRow& row, In in, need::Bits needs) {
    if (row.over_by != 0 && !in.waiting.blocks(row.over_by) && in.state.demand) {
        row.judge(l, in);
        if (l.state == LimitState::over) return;
    }
    l.working.clear();
    l.used = l.allowed = std::nan("");
    set_cannot_say(l, in.waiting.words(needs));
    l.missing = in.waiting.unknowns(needs);
    l.waits_for = in.waiting.fields(needs);
    l.accepted = accepts_all(in.axis, l.missing);
}

void lacks_motor(Limit& l, In in) {
    set_cannot_say(l, motor_missing(in));
    l.waits_for = {{in.waiting.path() + "/motor", "Motor"}};
}

} // namespace

std::vector<Limit> judge_all(In in) {
    std::vector<Limit> out;
    const bool steps_unseen = open_loop(in.axis);
    for (const LimitRow& row : limit_rows()) {
        const need::Bits needs = needs_of(row, in.axis);
        RowInput seen = in;
        seen.waits = in.waiting.blocks(needs);
        if (!row.applies(seen)) continue;
        Limit l;
        l.key = row.key;
        l.label = row.direct_label && in.words.direct   ? row.direct_label
                  : row.open_loop_label && steps_unseen ? row.open_loop_label
                                                        : row.label;
        l.kind = in.words.kind(row.kind);
        l.yes_or_no = row.yes_or_no;
        l.needs = needs_on(needs, in.axis);
        l.used = l.allowed = std::nan("");
        if (seen.waits)
            judge_waiting(l, row, in, needs);
        else if (row.of_motor && !has_motor(in))
            lacks_motor(l, in);
        else
            judge_known(l, row, in);
        out.push_back(std::move(l));
    }
    return out;
}

} // namespace fulmox

#include "core/match/figures.h"

#include "core/match/rows/subjects.h"

#include <cmath>
#include <map>

namespace fulmox {

const std::vector<FigureRow>& figure_rows() {
    static const std::vector<FigureRow> rows = [] {
        std::vector<FigureRow> out;
        for (Rows& subject : all_rows())
            for (FigureRow& row : subject.figures) {
                row.section = subject.section;
                out.push_back(row);
            }
        return out;
    }();
    return rows;
}

const FigureRow* figure_row(std::string_view key) {
    static const std::map<std::string_view, const FigureRow*> by_key = [] {
        std::map<std::string_view, const FigureRow*> out;
        for (const FigureRow& row : figure_rows()) out.emplace(row.key, &row);
        return out;
    }();
    const auto row = by_key.find(key);
    return row == by_key.end() ? nullptr : row->second;
}

need::Bits needs_of(const FigureRow& row, const Axis& axis) {
    const bool of_a_fill = std::holds_alternative<Winder>(axis.mechanism) && (row.needs & need::calculation) != 0;
    return row.needs | (of_a_fill ? need::demand : 0) | (row.more ? row.more(axis) : 0);
}

std::vector<Figure> figures(In in) {
    std::vector<Figure> out;
    for (const FigureRow& row : figure_rows()) {
        // whether there is such a figure may depend on what is not known: then it is not listed before it is
        const need::Bits needs = needs_of(row, in.axis);
        RowInput seen = in;
        seen.waits = in.waiting.blocks(needs);
        if (!row.applies(seen)) continue;
        Figure f;
        f.key = row.key;
        f.label = in.words.direct && row.direct_label ? row.direct_label : row.label;
        f.kind = row.kind;
        f.si = std::nan("");
        if (seen.waits) {
            f.note = in.waiting.words(needs);
            f.waits = true;
            f.waits_for = in.waiting.fields(needs);
        } else {
            row.fill(f, in);
            if (in.workings && f.working.empty() && f.read_from.empty() && std::isfinite(f.si))
                f.read_from = row.read_from;
        }
        out.push_back(std::move(f));
    }
    return out;
}

} // namespace fulmox

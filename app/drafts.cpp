#include "app/drafts.h"

namespace fulmox::app {

const Draft* Drafts::at(const QString& path) const {
    const auto it = drafts_.find(path);
    return it == drafts_.end() ? nullptr : &it->second;
}

void Drafts::follow(const ListChange& change) {
    if (change.list.isEmpty() || drafts_.empty()) return;
    const QString head = change.list + QLatin1Char('/');
    std::map<QString, Draft> now;
    for (auto& [path, draft] : drafts_) {
        if (!path.startsWith(head)) {
            now[path] = std::move(draft);
            continue;
        }
        const QString rest = path.mid(head.size());
        const QString entry = rest.section(QLatin1Char('/'), 0, 0);
        int i = entry.toInt();
        if (i == change.from) {
            if (change.to < 0) continue;
            i = change.to;
        } else {
            if (change.from >= 0 && i > change.from) --i;
            if (change.to >= 0 && i >= change.to) ++i;
        }
        now[head + QString::number(i) + rest.mid(entry.size())] = std::move(draft);
    }
    drafts_ = std::move(now);
}

void Drafts::check(const Machine& machine) {
    if (drafts_.empty()) return;
    Machine copy = machine;
    std::erase_if(drafts_, [&](const auto& each) {
        const auto field = find_field(copy, each.first.toStdString());
        return !field || !field->quantity || field->quantity->text != each.second.stored;
    });
}

} // namespace fulmox::app

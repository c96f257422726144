// Text that was typed into a field and cannot be used, kept until it is put right.
#pragma once

#include "core/model/walk.h"

#include <QString>
#include <map>

namespace fulmox::app {

/// An entry of a list that comes (from −1), goes (to −1) or moves.
struct ListChange {
    QString list; ///< path; empty: no list changes
    int from = -1;
    int to = -1;
    ListChange reversed() const { return {list, to, from}; }
};

struct Draft {
    QString text;
    Problem problem;
    std::string stored; ///< what the field holds meanwhile
};

/// By the path of the field.
class Drafts {
  public:
    const std::map<QString, Draft>& all() const { return drafts_; }
    const Draft* at(const QString& path) const;
    void keep(const QString& path, Draft draft) { drafts_[path] = std::move(draft); }
    bool drop(const QString& path) { return drafts_.erase(path) > 0; }
    void clear() { drafts_.clear(); }

    /// Drafts go with the entries of a list that changes.
    void follow(const ListChange& change);
    /// Drops drafts of fields that are gone, or that something else has given another value.
    void check(const Machine& machine);

  private:
    std::map<QString, Draft> drafts_;
};

} // namespace fulmox::app

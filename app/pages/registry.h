// The pages of an axis, an entry each: outline, menu, keys, paths and tests follow the list.
#pragma once

#include "app/pages/tab.h"

#include <QString>
#include <vector>

namespace fulmox::app {

class Document;
class Page;

/// Something a page does at the press of a button, so that it is found without the page.
struct PageAction {
    const char* words;
    const char* button; ///< its "action" or its name
};

struct PageEntry {
    const char* key;                 ///< by which it is asked for
    const char* question;            ///< its name
    const char* brief;               ///< the same where the outline is folded
    std::vector<const char*> places; ///< of an axis whose fields stand on it: "/cycle"
    Page* (*make)(Document&);
    std::vector<PageAction> actions = {};
    std::vector<TabEntry> tabs = {};
};

/// In the order in which an axis is worked out. The first takes every place that no other names.
const std::vector<PageEntry>& page_registry();

/// The page on which a field of an axis stands; `place` is relative to the axis.
int page_of(const QString& place);

/// By its key; the first where there is none of this name.
int page_by_key(const char* key);

} // namespace fulmox::app

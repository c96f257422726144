#include "app/pages/registry.h"

#include "app/pages/how_moves.h"
#include "app/pages/what_drives.h"
#include "app/pages/what_moves.h"
#include "app/pages/what_takes.h"

#include <algorithm>

namespace fulmox::app {

namespace {

template <class P> PageEntry entry(std::vector<const char*> places, std::vector<PageAction> actions = {}) {
    std::vector<TabEntry> tabs;
    if constexpr (requires { P::tabs(); }) tabs = P::tabs();
    return {P::key, P::question, P::brief, std::move(places), [](Document& d) -> Page* { return new P(d); },
        std::move(actions), std::move(tabs)};
}

} // namespace

const std::vector<PageEntry>& page_registry() {
    static const std::vector<PageEntry> pages{entry<WhatMoves>({}),
        entry<HowMoves>({"/cycle"},
            {{QT_TR_NOOP("Import a trace"), "import-trace"}, {QT_TR_NOOP("Import G-code"), "import-gcode"},
                {QT_TR_NOOP("Export the motion"), "export-motion"}, {QT_TR_NOOP("Add a move"), "add-move"},
                {QT_TR_NOOP("Add a dwell"), "add-dwell"}, {QT_TR_NOOP("Delete the segment"), "delete-segment"},
                {QT_TR_NOOP("Add the way back"), "close-cycle"}}),
        entry<WhatTakes>({"/demand"}), // of it there are no fields: the place leads to the page
        entry<WhatDrives>(
            {"/motor", "/drive", "/coupling", "/brake", "/accuracy", "/mechanism/ends", "/mechanism/nut_body"})};
    return pages;
}

int page_of(const QString& place) {
    const auto& pages = page_registry();
    const auto named = std::find_if(pages.begin(), pages.end(), [&](const PageEntry& p) {
        return std::any_of(
            p.places.begin(), p.places.end(), [&](const char* head) { return place.startsWith(QLatin1String(head)); });
    });
    return named == pages.end() ? 0 : static_cast<int>(named - pages.begin());
}

int page_by_key(const char* key) {
    const auto& pages = page_registry();
    const auto named =
        std::find_if(pages.begin(), pages.end(), [&](const PageEntry& p) { return QLatin1String(p.key) == key; });
    return named == pages.end() ? 0 : static_cast<int>(named - pages.begin());
}

} // namespace fulmox::app

// A tab of a page, an entry each: cards, keys, the finder, paths and pictures follow the list.
#pragma once

#include "app/parts/part_cards.h"

#include <optional>
#include <vector>

namespace fulmox::app {

struct TabEntry {
    const char* key;  ///< by which it is asked for
    const char* name; ///< on the tab
    const char* tip = nullptr;
    std::optional<CardOf> card = {};      ///< the part it belongs to; none: it is always there
    std::vector<const char*> places = {}; ///< of an axis whose fields stand on it: "/coupling"
    bool pictured = false;                ///< curve and inertia of the motor may stand above it
    int least = 560;                      ///< height of the page, px, below which it is scrolled
};

} // namespace fulmox::app

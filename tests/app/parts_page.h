// Page 4 by its cards, in the real window.
#pragma once

#include "app/parts/part_cards.h"
#include "app/parts/shelf_view.h"
#include "tests/app/window.h"

namespace fulmox::testing {

inline PartCards& cards(Window& w) {
    w.click_page(4);
    w.settle();
    auto* row = w.window.findChild<PartCards*>();
    REQUIRE(row);
    return *row;
}

inline ShelfView& open_shelf(Window& w, CardOf of, const char* kind) {
    PartCards& row = cards(w);
    REQUIRE(row.card(of));
    QTest::mouseClick(row.card(of), Qt::LeftButton);
    w.settle();
    for (ShelfView* s : w.window.findChildren<ShelfView*>())
        if (s->model().kind().key == std::string_view(kind)) {
            REQUIRE(s->isVisible());
            REQUIRE(QTest::qWaitFor([&] { return !s->model().judging() && s->model().candidate(0); }, hanging));
            return *s;
        }
    FAIL("no shelf of " << kind);
    throw 0;
}

} // namespace fulmox::testing

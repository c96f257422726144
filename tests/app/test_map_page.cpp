// Page 4: candidates as a map, the columns of their tables, and the order of Tab.
#include "app/parts/map_pane.h"
#include "app/parts/motor_table.h"
#include "app/parts/part_cards.h"
#include "app/parts/shelf_view.h"
#include "tests/app/parts_page.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

QPushButton* map_button(QWidget& within) {
    for (QPushButton* b : within.findChildren<QPushButton*>())
        if (b->accessibleName().startsWith(QStringLiteral("Map of")) && b->isVisible()) return b;
    FAIL("no button of a map");
    return nullptr;
}

// A click on a point that no other covers.
const CandidateMap::Point& lone_point(CandidateMap& map) {
    for (const CandidateMap::Point& p : map.points()) {
        const bool covered = std::any_of(map.points().begin(), map.points().end(), [&](const CandidateMap::Point& o) {
            const QPointF d = map.place_of(o) - map.place_of(p);
            return &o != &p && std::hypot(d.x(), d.y()) < 20;
        });
        if (!covered) return p;
    }
    FAIL("every point is covered");
    throw 0;
}

} // namespace

TEST_CASE("a map shows what the table shows, shares its current row, and takes by mouse and keys") {
    QSettings().remove(QStringLiteral("map-coupling"));
    Window w;
    ShelfView& shelf = open_shelf(w, CardOf::coupling, "coupling");
    const int all = shelf.table().model()->rowCount();
    QTest::mouseClick(map_button(shelf), Qt::LeftButton);
    w.settle();
    CandidateMap& map = *shelf.findChild<CandidateMap*>();
    REQUIRE(map.isVisible());
    CHECK(!shelf.table().isVisible());
    CHECK(static_cast<int>(map.points().size()) == all);
    // numbers and states are those of the model
    for (const CandidateMap::Point& p : map.points()) {
        const Candidate* c = shelf.model().candidate(p.row);
        REQUIRE(c);
        CHECK(p.state == c->state);
        CHECK((p.x == 100 * c->tightest || std::isinf(p.x)));
        CHECK(p.y == shelf.model().parts().couplings[static_cast<std::size_t>(p.row)].price.si);
    }
    // nothing on the front is bettered by another that is suitable
    for (const CandidateMap::Point& p : map.points())
        if (p.front)
            for (const CandidateMap::Point& o : map.points())
                if (o.state && carries(*o.state)) CHECK(!(o.x <= p.x && o.y <= p.y && (o.x < p.x || o.y < p.y)));
    // a click chooses, a double click takes
    const CandidateMap::Point lone = lone_point(map);
    QTest::mouseClick(&map, Qt::LeftButton, {}, map.place_of(lone).toPoint());
    CHECK(map.chosen() == lone.row);
    QTest::mouseDClick(&map, Qt::LeftButton, {}, map.place_of(lone).toPoint());
    w.settle();
    CHECK(w.document().axis().coupling.name == shelf.model().part_name(lone.row));
    // a click on nothing takes nothing
    const std::string taken = w.document().axis().coupling.name;
    REQUIRE(QTest::qWaitFor([&] { return !shelf.model().judging() && shelf.model().candidate(0); }, hanging));
    QTest::mouseDClick(&map, Qt::LeftButton, {}, QPoint(map.width() - 3, map.height() - 3));
    CHECK(w.document().axis().coupling.name == taken);
    // keys alone
    map.setFocus();
    const int before = map.chosen();
    QTest::keyClick(&map, Qt::Key_Left);
    QTest::keyClick(&map, Qt::Key_Left);
    CHECK(map.chosen() != before);
    const int now = map.chosen();
    QTest::keyClick(&map, Qt::Key_Return);
    w.settle();
    CHECK(w.document().axis().coupling.name == shelf.model().part_name(now));
    // the filter is that of the table
    auto* words = shelf.findChild<QLineEdit*>(QStringLiteral("shelf-words-coupling"));
    words->setText(QStringLiteral("bellows"));
    REQUIRE(QTest::qWaitFor([&] { return !shelf.model().judging() && shelf.model().candidate(0); }, hanging));
    w.settle();
    CHECK(static_cast<int>(map.points().size()) == shelf.table().model()->rowCount());
    CHECK(static_cast<int>(map.points().size()) < all);
    // other columns are remembered; where more may be better there is no front
    auto* up = shelf.findChild<QComboBox*>(QStringLiteral("map-up"));
    up->setCurrentText(QStringLiteral("Mass"));
    emit up->activated(up->currentIndex());
    CHECK(QSettings().value(QStringLiteral("map-coupling")).toStringList().at(1) == QStringLiteral("Mass"));
    for (const CandidateMap::Point& p : map.points())
        CHECK(p.y == from_si(shelf.model().parts().couplings[static_cast<std::size_t>(p.row)].mass.si,
                         display_unit(Kind::mass, UnitSystem::si)));
    up->setCurrentText(QStringLiteral("Rated torque"));
    if (up->currentText() == QStringLiteral("Rated torque")) {
        emit up->activated(up->currentIndex());
        CHECK(!map.has_front());
    }
    QSettings().remove(QStringLiteral("map-coupling"));
}

TEST_CASE("motors have a map too, with room of its own, and what stands beyond its border stays countable") {
    QSettings().remove(QStringLiteral("map-motor"));
    Window w;
    cards(w);
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(QTest::qWaitFor(
        [&] { return !table->model_of_motors().judging() && table->model_of_motors().counts().suitable > 0; },
        hanging));
    auto* page = w.window.findChild<PartCards*>()->parentWidget();
    QTest::mouseClick(map_button(*page), Qt::LeftButton);
    w.settle();
    CandidateMap* map = nullptr;
    for (CandidateMap* m : w.window.findChildren<CandidateMap*>())
        if (m->isVisible()) map = m;
    REQUIRE(map);
    CHECK(map->height() > 250);
    CHECK(static_cast<int>(map->points().size()) == table->shown());
    std::size_t infinite = 0;
    for (const CandidateMap::Point& p : map->points()) {
        CHECK(std::isfinite(p.at_x + p.at_y));
        infinite += std::isinf(p.x);
    }
    CHECK(map->beyond() >= infinite);
    // it is judged again while it is shown
    int judged = 0;
    QObject::connect(&table->model_of_motors(), &MotorModel::judged, table, [&judged] { ++judged; });
    w.document().edit(
        QStringLiteral("lighter"), [&](Machine& m) { m.axes[0].load.payload = Quantity<Kind::mass>("2 kg"); });
    REQUIRE(QTest::qWaitFor([&] { return judged > 0 && !table->model_of_motors().judging(); }, hanging));
    w.settle();
    for (const CandidateMap::Point& p : map->points()) CHECK(p.state == table->model_of_motors().state(p.row));
    const Table copied = map->as_table();
    CHECK(copied.rows.size() == map->points().size());
    for (const auto& row : copied.rows) CHECK(row[1].find("inf") == std::string::npos);
}

TEST_CASE("what is not judged has a map of two other columns, and says nothing of states") {
    QSettings().remove(QStringLiteral("map-supply"));
    Window w;
    PartCards& row = cards(w);
    QTest::mouseClick(row.card(CardOf::drive), Qt::LeftButton);
    tab(w, "Supply catalogue");
    w.settle();
    ShelfView* shelf = nullptr;
    for (ShelfView* s : w.window.findChildren<ShelfView*>())
        if (s->isVisible()) shelf = s;
    REQUIRE(shelf);
    QTest::mouseClick(map_button(*shelf), Qt::LeftButton);
    w.settle();
    CandidateMap& map = *shelf->findChild<CandidateMap*>();
    CHECK(map.points().size() > 40);
    CHECK(!map.has_front());
    bool differ = false;
    for (const CandidateMap::Point& p : map.points()) {
        CHECK(!p.state);
        differ = differ || p.x != p.y;
    }
    CHECK(differ);
}

TEST_CASE("columns of a catalogue of parts are chosen and remembered") {
    QSettings().remove(QStringLiteral("shelf-columns-brake"));
    {
        Window w;
        ShelfView& shelf = open_shelf(w, CardOf::brake, "brake");
        QHeaderView* header = shelf.table().horizontalHeader();
        const QList<QAction*> actions = header->actions();
        CHECK(actions.size() == shelf.model().columnCount() - 1);
        for (QAction* a : actions)
            if (a->text() == QStringLiteral("Mass")) a->trigger();
        CHECK(shelf.table().isColumnHidden(ShelfModel::mass));
        CHECK(!shelf.table().isColumnHidden(ShelfModel::name));
    }
    Window again;
    ShelfView& shelf = open_shelf(again, CardOf::brake, "brake");
    CHECK(shelf.table().isColumnHidden(ShelfModel::mass));
    CHECK(!shelf.table().isColumnHidden(ShelfModel::price));
    QSettings().remove(QStringLiteral("shelf-columns-brake"));
}

TEST_CASE("Tab goes through page 4 as it is read, line by line, on every card") {
    Window w;
    PartCards& row = cards(w);
    for (const CardOf of : {CardOf::motor, CardOf::gearhead, CardOf::coupling, CardOf::brake, CardOf::drive}) {
        QTest::mouseClick(row.card(of), Qt::LeftButton);
        w.settle();
        auto* tabs = tab(w, of == CardOf::motor      ? "Catalogue"
                            : of == CardOf::gearhead ? "Gearhead catalogue"
                            : of == CardOf::coupling ? "Coupling catalogue"
                            : of == CardOf::brake    ? "Brake catalogue"
                                                     : "Drive catalogue");
        QWidget* page = tabs->currentWidget();
        QPoint last(-1, -1);
        QString before;
        int seen = 0;
        QWidget* first = tabs;
        for (QWidget* at = first->nextInFocusChain(); at != first; at = at->nextInFocusChain()) {
            if (!page->isAncestorOf(at) || !at->isVisible() || !at->isEnabled() ||
                !(at->focusPolicy() & Qt::TabFocus) || at->focusProxy())
                continue;
            const QPoint here = at->mapTo(page, QPoint(0, at->height() / 2));
            const QString name = at->accessibleName().isEmpty() ? at->objectName() : at->accessibleName();
            INFO(before.toStdString() << " -> " << name.toStdString());
            // a line lower, or further to the right on the same
            CHECK((here.y() > last.y() + 8 || (here.y() > last.y() - 8 && here.x() > last.x())));
            last = here;
            before = name;
            ++seen;
        }
        CHECK(seen >= 6);
    }
}

// The window to work in: machine page, axes in the outline, ledger and guide, small screens, focus and Tab.
#include "app/guide.h"
#include "app/outline.h"
#include "app/pages/machine_page.h"
#include "app/plots/plot.h"
#include "app/results/figures.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QAccessible>
#include <QAccessibleInterface>
#include <QMenuBar>
#include <QScrollArea>
#include <QScrollBar>
#include <QStackedWidget>
#include <QTableWidget>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

std::vector<std::string> names(Window& w) {
    std::vector<std::string> out;
    for (const Axis& a : std::as_const(w.document()).machine().axes) out.push_back(a.name);
    return out;
}

void page(Window& w, int index) {
    w.window.show_page(index);
    w.settle();
}

QString about(const QWidget* w) {
    return QStringLiteral("%1 \"%2\" %3")
        .arg(QString::fromUtf8(w->metaObject()->className()), w->objectName(), w->accessibleName());
}

bool scrolled(QWidget* each, QWidget* within) {
    for (; each && each != within; each = each->parentWidget())
        if (qobject_cast<QScrollArea*>(each)) return true;
    return false;
}

} // namespace

TEST_CASE("an axis whose cycle is too long beside another follows when the other changes") {
    Window w;
    const auto repeat = [&](std::size_t axis, int pieces) {
        w.document().edit(QStringLiteral("long"), [&](Machine& m) {
            auto& segments = m.axes[axis].cycle.segments;
            if (std::holds_alternative<Repeat>(segments.back().what)) segments.pop_back();
            if (pieces == 0) return;
            Repeat r;
            r.segments = Quantity<Kind::number>(std::to_string(segments.size()));
            r.times = Quantity<Kind::number>(
                std::to_string(pieces / static_cast<int>(assess(demo(), axis).motion->pieces.size())));
            segments.emplace_back().what = r;
        });
    };
    w.document().select_axis(1);
    repeat(1, 60'000);
    w.idle();
    CHECK(w.document().assessment(1).demand);
    repeat(0, 50'000); // shorter: the axis that is shown is not calculated any more
    w.idle();
    CHECK(!w.document().assessment(1).demand);
    CHECK(w.document().assessment(0).demand);
    CHECK(w.document().assessment(1).limit("peak_torque")->state == LimitState::cannot_say);
    w.document().undo_stack().undo();
    w.idle();
    CHECK(w.document().assessment(1).demand);
}

TEST_CASE("two hundred axes with long names stand in the outline, elided, and it does not scroll sideways") {
    Window w;
    Machine m = w.document().machine();
    while (m.axes.size() < 200) m.axes.push_back(Axis(std::as_const(m.axes)[m.axes.size() % 10]));
    for (std::size_t i = 0; i < m.axes.size(); ++i)
        m.axes[i].name = "An axis with a name that is far too long for the outline, number " + std::to_string(i + 1);
    auto read = read_project(write_project(m));
    REQUIRE(read);
    REQUIRE(w.window.open_project({std::move(*read), {}}));
    w.settle();
    auto* last = w.child<OutlineItem>("axis/199");
    QScrollArea* scroll = nullptr;
    for (QWidget* up = last; up && !scroll; up = up->parentWidget()) scroll = qobject_cast<QScrollArea*>(up);
    REQUIRE(scroll);
    const auto stands = [&] {
        CHECK(scroll->widget()->width() == scroll->viewport()->width());
        CHECK(scroll->widget()->x() == 0);
        CHECK(scroll->horizontalScrollBar()->maximum() == 0);
        CHECK(last->width() <= scroll->viewport()->width());
    };
    stands();
    for (int i = 0; i < 199; ++i) w.document().select_axis(i + 1); // as by Alt and Down
    w.settle();
    stands();
    QTest::mouseClick(w.child<OutlineItem>("axis/150"), Qt::LeftButton);
    CHECK(w.document().axis_index() == 150);
    stands();
    w.window.resize(1024, 700);
    w.settle();
    stands();
}

TEST_CASE("the machine page has name, notes, currency and site, and leads to every axis") {
    Window w;
    QTest::mouseClick(w.child<QPushButton>("page/machine"), Qt::LeftButton);
    w.settle();
    for (const char* field : {"/name", "/notes", "/currency"}) CHECK(w.child<QWidget>(field)->isVisible());
    for (const char* field : {"/site/gravity", "/site/ambient", "/site/altitude"})
        CHECK(w.child<QuantityEdit>(field)->isVisible());
    auto* currency = w.child<QLineEdit>("/currency");
    currency->setFocus();
    currency->selectAll();
    QTest::keyClicks(currency, QStringLiteral("EUR"));
    CHECK(w.document().machine().currency == "EUR");
    auto* table = w.child<QTableWidget>("machine-axes");
    REQUIRE(table->rowCount() == 11);
    CHECK(table->item(0, 2)->text().endsWith(QStringLiteral(" % tight")));
    CHECK(table->item(6, 2)->text().endsWith(QStringLiteral(" % tight")));
    table->setFocus();
    table->setCurrentCell(2, 0);
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(w.document().axis_index() == 2);
    CHECK(w.child<QPushButton>("page/1")->isChecked());
    // a field of the site is found here, from anywhere
    w.window.go_to(QStringLiteral("/site/ambient"));
    w.settle();
    CHECK(w.child<QuantityEdit>("/site/ambient")->hasFocus());
}

TEST_CASE("axes are renamed, moved, copied and deleted in the outline, by keys and by dragging, and undone") {
    Window w;
    const Machine before = w.document().machine();
    const auto was = names(w);
    auto* first = w.child<OutlineItem>("axis/0");
    first->setFocus();
    QTest::keyClick(first, Qt::Key_F2);
    auto* name = w.child<QLineEdit>("rename");
    REQUIRE(name->hasFocus());
    QTest::keyClicks(name, QStringLiteral("<b>Lift</b> & co"));
    QTest::keyClick(name, Qt::Key_Return);
    CHECK(names(w)[0] == "<b>Lift</b> & co");
    CHECK(w.child<OutlineItem>("axis/0")->hasFocus());
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QTest::keyClick(w.child<OutlineItem>("axis/0"), Qt::Key_F2);
    name = w.window.findChild<Outline*>()->findChild<QLineEdit*>(QStringLiteral("rename"));
    QTest::keyClicks(name, QStringLiteral("never"));
    QTest::keyClick(name, Qt::Key_Escape);
    CHECK(names(w)[0] == "<b>Lift</b> & co");
    QApplication::processEvents();

    CHECK(w.child<OutlineItem>("axis/0")->hasFocus());
    QTest::keyClick(w.child<OutlineItem>("axis/0"), Qt::Key_Down, Qt::AltModifier);
    CHECK(names(w)[1] == "<b>Lift</b> & co");
    CHECK(w.document().axis_index() == 1);
    CHECK(w.child<OutlineItem>("axis/1")->hasFocus());
    QTest::keyClick(w.child<OutlineItem>("axis/1"), Qt::Key_Up, Qt::AltModifier);
    CHECK(names(w)[0] == "<b>Lift</b> & co");
    QTest::keyClick(w.child<OutlineItem>("axis/0"), Qt::Key_Up, Qt::AltModifier); // already the first
    CHECK(names(w)[0] == "<b>Lift</b> & co");

    // dragged below the third
    first = w.child<OutlineItem>("axis/0");
    auto* third = w.child<OutlineItem>("axis/2");
    const QPoint start(20, 15), end(20, third->y() - first->y() + 25);
    QTest::mousePress(first, Qt::LeftButton, {}, start);
    QTest::mouseMove(first, start + QPoint(0, 20));
    QMouseEvent move(QEvent::MouseMove, end, first->mapToGlobal(end), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(first, &move);
    QTest::mouseRelease(first, Qt::LeftButton, {}, end);
    CHECK(names(w)[2] == "<b>Lift</b> & co");
    CHECK(names(w)[0] == was[1]);

    w.document().select_axis(2);
    QTest::keyClick(&w.window, Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(names(w).size() == 12);
    CHECK(names(w)[3] == "<b>Lift</b> & co copy");
    CHECK(w.document().axis_index() == 3);
    w.child<OutlineItem>("axis/3")->setFocus();
    QTest::keyClick(w.child<OutlineItem>("axis/3"), Qt::Key_Delete);
    CHECK(names(w).size() == 11);
    while (w.document().undo_stack().canUndo()) w.document().undo_stack().undo();
    CHECK(w.document().machine() == before);
}

TEST_CASE("the last axis stays, and it is said") {
    Window w(false);
    w.child<OutlineItem>("axis/0")->setFocus();
    QTest::keyClick(w.child<OutlineItem>("axis/0"), Qt::Key_Delete);
    CHECK(names(w).size() == 1);
    CHECK(w.window.message().contains(QStringLiteral("one axis at least")));
}

TEST_CASE("of thirty axes the list scrolls and the pages stay") {
    Window w;
    w.document().edit(QStringLiteral("many"), [](Machine& m) {
        const Axis one = std::as_const(m.axes)[0];
        while (m.axes.size() < 30) m.axes.push_back(one);
    });
    for (const QSize size : {QSize(1280, 800), QSize(1024, 700), QSize(800, 600)}) {
        w.window.resize(size);
        w.settle();
        for (int i = 1; i <= 4; ++i) {
            auto* item = w.child<OutlineItem>(("page/" + std::to_string(i)).c_str());
            CHECK(item->isVisible());
            CHECK(w.window.rect().contains(QRect(item->mapTo(&w.window, QPoint(0, 0)), item->size())));
        }
        w.document().select_axis(29);
        w.settle();
        CHECK(!w.child<OutlineItem>("axis/29")->visibleRegion().isEmpty());
        w.document().select_axis(0);
        w.settle();
        CHECK(!w.child<OutlineItem>("axis/0")->visibleRegion().isEmpty());
    }
}

TEST_CASE("the ledger is whole, marks or hidden, wider or narrower, and its percentages stay") {
    Window w;
    auto* ledger = w.window.findChild<Ledger*>();
    CHECK(!ledger->folded());
    QTest::keyClick(&w.window, Qt::Key_F9);
    CHECK(ledger->folded());
    QTest::keyClick(&w.window, Qt::Key_F9);
    CHECK(!ledger->isVisible());
    QTest::keyClick(&w.window, Qt::Key_F9);
    CHECK(ledger->isVisible());
    CHECK(!ledger->folded());
    w.window.resize(1024, 700);
    w.settle();
    CHECK(ledger->folded());
    // a mark leads to its row
    auto* row = w.child<LimitRow>("limit/brake");
    QTest::mouseClick(row, Qt::LeftButton, {}, QPoint(10, 10));
    w.settle();
    CHECK(!ledger->folded());
    CHECK(row->is_open());
    w.window.resize(1280, 800);
    w.settle();
    CHECK(!ledger->folded());
    // words of an open row break, so that nothing of a row lies outside of the ledger
    for (LimitRow* r : ledger->findChildren<LimitRow*>())
        if (r->isVisible()) CHECK(r->mapTo(ledger, QPoint(r->width(), 0)).x() <= ledger->width());
}

TEST_CASE("F1 opens the guide at the page, it can be searched, and Escape gives the focus back") {
    Window w;
    for (int i = 0; i < 4; ++i) {
        w.window.focus_page(i);
        w.settle();
        QWidget* before = QApplication::focusWidget();
        QTest::keyClick(before, Qt::Key_F1);
        w.settle();
        auto* guide = w.window.findChild<Guide*>();
        REQUIRE(guide);
        REQUIRE(guide->isVisible());
        INFO(guide->text_in_view().toStdString() << ", the keyboard is at " << before->objectName().toStdString());
        CHECK(guide->text_in_view().contains(QString::fromUtf8(page_registry()[static_cast<std::size_t>(i)].question)));
        auto* search = w.child<QLineEdit>("guide-search");
        REQUIRE(search->hasFocus());
        QTest::keyClicks(search, QStringLiteral("trace"));
        CHECK(guide->found() > 1);
        QTest::keyClick(search, Qt::Key_Return);
        QTest::keyClicks(search, QStringLiteral("xyzzy"));
        CHECK(guide->found() == 0);
        QTest::keyClick(search, Qt::Key_Escape);
        CHECK(!guide->isVisible());
        CHECK(QApplication::focusWidget() == before);
    }
}

TEST_CASE("Ctrl with a number moves the focus into the page") {
    Window w;
    for (int i = 0; i <= 4; ++i) {
        QTest::keyClick(&w.window, static_cast<Qt::Key>(Qt::Key_0 + i), Qt::ControlModifier);
        w.settle();
        REQUIRE(QApplication::focusWidget());
        CHECK(w.window.findChild<QStackedWidget*>()->currentWidget()->isAncestorOf(QApplication::focusWidget()));
    }
}

TEST_CASE("Tab and Shift+Tab go round every page and come back, and every stop is seen") {
    Window w;
    for (const int index : {-1, 0, 1, 2, 3}) {
        page(w, index);
        w.window.focus_page(index);
        w.settle();
        for (const bool forward : {true, false}) {
            QWidget* start = QApplication::focusWidget();
            REQUIRE(start);
            std::set<QWidget*> stops;
            QWidget* at = start;
            int steps = 0;
            do {
                stops.insert(at);
                QTest::keyClick(
                    at, forward ? Qt::Key_Tab : Qt::Key_Backtab, forward ? Qt::NoModifier : Qt::ShiftModifier);
                QApplication::processEvents();
                QWidget* next = QApplication::focusWidget();
                INFO(
                    "page " << index + 1 << (forward ? ", Tab" : ", Shift+Tab") << " from " << about(at).toStdString());
                REQUIRE(next);
                REQUIRE(next != at); // a trap
                at = next;
                INFO("at " << about(at).toStdString());
                CHECK(at->isVisible());
                CHECK(!at->visibleRegion().isEmpty());
            } while (at != start && !stops.count(at) && ++steps < 400);
            CHECK(at == start);
            CHECK(stops.size() > 12);
        }
    }
}

TEST_CASE("no text is cut off and nothing lies over another at four sizes, light and dark") {
    Window w;
    for (const bool dark : {false, true}) {
        w.window.set_dark(dark);
        for (const QSize size : {QSize(800, 600), QSize(1024, 700), QSize(1280, 800), QSize(3840, 2160)}) {
            w.window.resize(size);
            for (const int index : {-1, 0, 1, 2, 3}) {
                page(w, index);
                INFO(size.width() << "x" << size.height() << (dark ? " dark" : " light") << " page " << index + 1);
                QWidget* shown = w.window.findChild<QStackedWidget*>()->currentWidget();
                std::vector<std::pair<QRect, std::string>> boxes;
                for (QWidget* each : shown->findChildren<QWidget*>()) {
                    if (!each->isVisible()) continue;
                    const auto* button = qobject_cast<QPushButton*>(each);
                    const auto* label = qobject_cast<QLabel*>(each);
                    INFO(about(each).toStdString());
                    if (button && !button->text().isEmpty()) {
                        INFO(button->text().toStdString());
                        CHECK(each->fontMetrics().horizontalAdvance(QString(button->text()).remove(QLatin1Char('&'))) <=
                              each->width());
                        CHECK(each->height() >= each->fontMetrics().height());
                    }
                    if (label && !label->text().isEmpty() && !label->wordWrap() &&
                        label->textFormat() != Qt::RichText &&
                        label->sizePolicy().horizontalPolicy() != QSizePolicy::Ignored &&
                        !dynamic_cast<const Aside*>(label)) {
                        INFO(label->text().toStdString());
                        CHECK(label->sizeHint().width() <= label->width() + 1);
                        CHECK(each->fontMetrics().height() <= label->height() + 1);
                    }
                    if (const auto* plot = qobject_cast<Plot*>(each)) CHECK(plot->height() >= 110);
                }
                // cards of one page keep apart
                for (QFrame* card : shown->findChildren<QFrame*>(QStringLiteral("card")))
                    if (card->isVisible() && !scrolled(card, shown))
                        boxes.emplace_back(QRect(card->mapTo(shown, QPoint(0, 0)), card->size()), "card");
                for (std::size_t i = 0; i < boxes.size(); ++i) {
                    CHECK(shown->rect().contains(boxes[i].first));
                    for (std::size_t k = 0; k < i; ++k) {
                        const bool inside =
                            boxes[i].first.contains(boxes[k].first) || boxes[k].first.contains(boxes[i].first);
                        CHECK((inside || !boxes[i].first.intersects(boxes[k].first)));
                    }
                }
            }
        }
    }
    w.window.set_dark(false);
}

TEST_CASE("every control has a name and a role for those who do not see it") {
    Window w;
    int controls = 0;
    for (const int index : {-1, 0, 1, 2, 3}) {
        page(w, index);
        for (QWidget* each : w.window.findChildren<QWidget*>()) {
            if (!each->isVisible() || !(each->focusPolicy() & Qt::TabFocus)) continue;
            if (qobject_cast<QScrollArea*>(each) || each->focusProxy()) continue;
            QAccessibleInterface* face = QAccessible::queryAccessibleInterface(each);
            INFO("page " << index + 1 << ": " << about(each).toStdString());
            REQUIRE(face);
            CHECK(!face->text(QAccessible::Name).isEmpty());
            CHECK(face->role() != QAccessible::NoRole);
            CHECK(face->role() != QAccessible::Client);
            ++controls;
        }
    }
    CHECK(controls > 100);
}

TEST_CASE("a new segment and a new body are filled in by keys alone") {
    Window w;
    w.window.focus_page(1);
    auto* add = w.child<QPushButton>("add-move");
    add->setFocus();
    QTest::keyClick(add, Qt::Key_Space);
    w.settle();
    auto* field = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
    REQUIRE(field);
    CHECK(field->objectName() == w.path("/cycle/segments/1/what/distance"));
    QTest::keyClicks(field, QStringLiteral("25 mm"));
    QTest::keyClick(field, Qt::Key_Tab);
    CHECK(std::get<MoveInTime>(w.document().axis().cycle.segments[1].what).distance.text == "25 mm");
    w.window.focus_page(0);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("+ body")) {
            b->setFocus();
            QTest::keyClick(b, Qt::Key_Space);
            break;
        }
    w.settle();
    field = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
    REQUIRE(field);
    CHECK(field->objectName().startsWith(w.path("/bodies/0/")));
}

TEST_CASE("in a project that is only read the outline changes nothing and keeps its selection") {
    Window w;
    w.document().make_read_only(QStringLiteral("It is only read."));
    const Machine before = w.document().machine();
    w.document().select_axis(2);
    auto* outline = w.window.findChild<Outline*>();
    outline->move_axis(1);
    outline->duplicate_axis();
    outline->add_axis();
    outline->delete_axis();
    outline->rename_axis();
    CHECK(w.document().machine() == before);
    CHECK(w.document().axis_index() == 2);
    CHECK(w.window.message().contains(QStringLiteral("only read")));
}

TEST_CASE("a click elsewhere takes the new name of an axis and keeps the focus where it went") {
    Window w;
    w.child<OutlineItem>("axis/0")->setFocus();
    QTest::keyClick(w.child<OutlineItem>("axis/0"), Qt::Key_F2);
    QTest::keyClicks(w.child<QLineEdit>("rename"), QStringLiteral("Lift"));
    auto* field = w.edit("/mechanism/lead");
    QTest::mouseClick(field, Qt::LeftButton);
    w.settle();
    CHECK(names(w)[0] == "Lift");
    CHECK(w.edit("/mechanism/lead")->hasFocus());
    // another axis is another axis: the name stays with the one it was typed for
    w.child<OutlineItem>("axis/0")->setFocus();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QTest::keyClick(w.child<OutlineItem>("axis/0"), Qt::Key_F2);
    QTest::keyClicks(w.child<QLineEdit>("rename"), QStringLiteral("Raiser"));
    w.child<OutlineItem>("axis/1")->setFocus(Qt::MouseFocusReason);
    w.document().select_axis(1);
    w.settle();
    CHECK(names(w)[0] == "Raiser");
    CHECK(names(w)[1] == "Tile shuttle");
}

TEST_CASE("a name half typed belongs to its axis, whatever is selected meanwhile") {
    Window w;
    w.document().select_axis(2);
    w.child<OutlineItem>("axis/2")->setFocus();
    QTest::keyClick(w.child<OutlineItem>("axis/2"), Qt::Key_F2);
    QTest::keyClicks(w.child<QLineEdit>("rename"), QStringLiteral("Dial"));
    w.document().select_axis(0); // by a link, a command, an undo
    w.settle();
    CHECK(names(w)[0] == "Glaze-head lift");
    CHECK(names(w)[2] == "Dial");
    CHECK(w.document().axis_index() == 0);
    // and goes with it
    w.document().select_axis(3);
    w.child<OutlineItem>("axis/3")->setFocus();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QTest::keyClick(w.child<OutlineItem>("axis/3"), Qt::Key_F2);
    QTest::keyClicks(w.child<QLineEdit>("rename"), QStringLiteral("Gone"));
    w.document().edit(QStringLiteral("fewer"), [](Machine& m) { m.axes.erase(m.axes.begin() + 1); });
    w.settle();
    for (const std::string& name : names(w)) CHECK(name != "Gone");
}

TEST_CASE("a figure on a page opens its working by a click and by keys") {
    Window w;
    w.window.show_page(2);
    w.settle();
    auto* tiles = w.window.findChild<FigureTiles*>();
    REQUIRE(tiles);
    const auto popped = [] {
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top->isVisible() && top->inherits("QWhatsThat")) return top;
        return static_cast<QWidget*>(nullptr);
    };
    tiles->setFocus();
    CHECK(tiles->current() == 0);
    QTest::keyClick(tiles, Qt::Key_Right);
    CHECK(tiles->current() == 1);
    const Figure* f = w.document().assessment().figure("demand.rms_torque");
    REQUIRE(f);
    REQUIRE(!f->working.empty());
    QAccessibleInterface* face = QAccessible::queryAccessibleInterface(tiles);
    REQUIRE(face);
    QTest::keyClick(tiles, Qt::Key_Return);
    QWidget* shown = popped();
    REQUIRE(shown);
    QTest::keyClick(shown, Qt::Key_Escape);
    w.settle();
    CHECK(!popped());
    for (auto* list : w.window.findChildren<FigureList*>()) {
        if (!list->isVisible()) continue;
        for (QLabel* value : list->findChildren<QLabel*>()) {
            if (!value->isVisible() || value->text().isEmpty()) continue;
            QTest::mouseClick(value, Qt::LeftButton);
            INFO(value->text().toStdString());
            QWidget* said = popped();
            REQUIRE(said);
            QTest::keyClick(said, Qt::Key_Escape);
            QApplication::processEvents();
            return;
        }
    }
    FAIL("no list of figures was shown");
}

TEST_CASE("notes are many lines, kept, undone and left by Tab") {
    Window w;
    w.window.show_page(-1);
    w.settle();
    auto* notes = w.child<QPlainTextEdit>("/notes");
    REQUIRE(notes);
    notes->setFocus();
    notes->selectAll();
    QTest::keyClicks(notes, QStringLiteral("first"));
    QTest::keyClick(notes, Qt::Key_Return);
    QTest::keyClicks(notes, QStringLiteral("second"));
    CHECK(w.document().machine().notes == "first\nsecond");
    QTest::keyClick(notes, Qt::Key_Tab);
    CHECK(!notes->hasFocus());
    w.document().undo_stack().undo();
    CHECK(w.document().machine().notes != "first\nsecond");
    CHECK(notes->toPlainText().toStdString() == w.document().machine().notes);
}

TEST_CASE("the name of the axis and every menu have room in the top bar of a small window") {
    Window w;
    for (const int width : {800, 1024, 1280}) {
        w.window.resize(width, 700);
        w.settle();
        const auto* menus = w.child<QMenuBar>("menus");
        INFO(width);
        CHECK(menus->width() >= menus->sizeHint().width());
        QString shown;
        for (const QLabel* each : w.child<QFrame>("topbar")->findChildren<QLabel*>())
            if (each->text().contains(QStringLiteral("Glaze-head lift"))) {
                shown = each->text();
                CHECK(each->fontMetrics().horizontalAdvance(each->text()) <= each->width());
            }
        CHECK(!shown.isEmpty());
    }
}

TEST_CASE("a window that is narrow from the start shows the number of every axis") {
    QTemporaryDir folder;
    MainWindow window(folder.path() + QStringLiteral("/recovery"));
    window.confirm_leave = [] { return MainWindow::Leave::discard; };
    window.open_demo();
    window.resize(1024, 700);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    QTest::qWait(50);
    for (int i = 0; i < 8; ++i) {
        auto* item = window.findChild<QPushButton*>(QStringLiteral("axis/%1").arg(i));
        REQUIRE(item);
        INFO(i);
        CHECK(item->mapTo(&window, QPoint()).x() >= 0);
        CHECK(item->visibleRegion().boundingRect().left() == 0);
    }
}

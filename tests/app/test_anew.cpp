// The wheel is the page's, a menu's keys are its own, and another project begins where one begins.
#include "app/parts/motor_table.h"
#include "app/parts/part_cards.h"
#include "app/plots/plot.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableWidget>
#include <QWheelEvent>
#include <QtTest/qtestspontaneevent.h>
#include <map>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// As the window system sends it: what ignores it hands it to whatever it lies on.
bool wheel(QWidget& on, int turns, Qt::KeyboardModifiers keys = {}) {
    const QPointF at = QRectF(on.rect()).center();
    QWheelEvent e(at, on.mapToGlobal(at), {}, {0, 120 * turns}, Qt::NoButton, keys, Qt::NoScrollPhase, false);
    QSpontaneKeyEvent::setSpontaneous(&e); // or it goes no further than to the first; `sendEvent` would take it back
    qApp->notify(&on, &e);
    QApplication::processEvents();
    return e.isAccepted();
}

} // namespace

TEST_CASE("a wheel over a plot scrolls the page, and zooms once the plot was clicked or with Ctrl") {
    Window w;
    w.window.resize(1024, 700);
    w.click_page(3);
    w.settle();
    auto* room = w.child<QScrollArea>("room");
    Plot* plot = nullptr;
    for (Plot* p : w.window.findChildren<Plot*>())
        if (p->isVisible() && p->axisRect()) plot = p;
    REQUIRE(plot);
    REQUIRE(room->verticalScrollBar()->maximum() > 0);
    room->verticalScrollBar()->setValue(0);
    const auto range = [&] { return plot->axisRect()->axis(QCPAxis::atBottom)->range(); };
    const QCPRange whole = range();
    wheel(*plot, -1);
    CHECK(room->verticalScrollBar()->value() > 0);
    CHECK(range() == whole);
    const int there = room->verticalScrollBar()->value();
    wheel(*plot, 1, Qt::ControlModifier);
    CHECK(range() != whole);
    const QCPRange closer = range();
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->rect().center());
    CHECK(plot->hasFocus());
    wheel(*plot, 1);
    CHECK(range() != closer);
    CHECK(room->verticalScrollBar()->value() == there);
}

TEST_CASE("in every menu each entry has a key of its own") {
    Window w;
    w.document().set_quantity(w.path("/load/payload"), QStringLiteral("21 kg")); // Undo names what it takes back
    w.document().undo_stack().undo();
    w.document().set_quantity(w.path("/load/payload"), QStringLiteral("22 kg"));
    int seen = 0;
    for (QMenu* menu : w.window.findChildren<QMenu*>()) {
        if (menu->objectName() == QStringLiteral("standing-menu")) continue;
        std::map<QChar, QString> keys;
        for (const QAction* a : menu->actions()) {
            if (a->isSeparator() || a->text().isEmpty()) continue;
            INFO(menu->title().toStdString() << " > " << a->text().toStdString());
            QString text = a->text();
            text.remove(QStringLiteral("&&"));
            const qsizetype at = text.indexOf(QLatin1Char('&'));
            if (menu->parent() == w.window.findChild<QMenuBar*>()) CHECK(at >= 0);
            if (at < 0) continue;
            const QChar key = text.at(at + 1).toLower();
            CHECK(!keys.contains(key));
            keys[key] = text;
            ++seen;
        }
    }
    CHECK(seen > 30);
}

TEST_CASE("another project begins with the first card, no filter, and every page at its top") {
    Window w;
    w.window.resize(1024, 700);
    w.click_page(4);
    w.settle();
    auto* words = w.child<QLineEdit>("filter-words");
    words->setText(QStringLiteral("Heron"));
    auto* cards = w.window.findChild<PartCards*>();
    REQUIRE(cards);
    cards->select(CardOf::gearhead);
    w.settle();
    for (QScrollArea* area : w.window.findChildren<QScrollArea*>())
        area->verticalScrollBar()->setValue(area->verticalScrollBar()->maximum());
    w.document().start_new();
    w.idle();
    w.click_page(4);
    w.settle();
    CHECK(words->text().isEmpty());
    CHECK(cards->current() == CardOf::motor);
    CHECK(w.child<MotorTable>("catalogue")->isVisible());
    for (QScrollArea* area : w.window.findChildren<QScrollArea*>())
        if (area->isVisible()) CHECK(area->verticalScrollBar()->value() == 0);
}

TEST_CASE("a reading that no choice can take says so") {
    Window w(false);
    w.document().start_new();
    w.document().set_choice(w.path("/motor/electric"), 2); // brushed
    REQUIRE(!w.document().set_quantity(w.path("/motor/electric/torque_constant"), QStringLiteral("0.05 N·m/A")));
    REQUIRE(!w.document().set_quantity(w.path("/motor/electric/speed_constant"), QStringLiteral("20 rpm/V")));
    tab(w, "Check");
    auto* pairs = w.child<QTableWidget>("sheet-pairs");
    auto* why = w.child<QLabel>("why-not-taken");
    CHECK(!why->isVisible());
    int slips = 0;
    for (int row = 0; row < pairs->rowCount(); ++row) {
        pairs->selectRow(row);
        QApplication::processEvents();
        QString words;
        for (int c = 0; c < pairs->columnCount(); ++c)
            if (pairs->item(row, c)) words += pairs->item(row, c)->text();
        if (!words.contains(QStringLiteral("written as"))) continue;
        CHECK(why->isVisible());
        const Machine before = w.document().machine();
        QTest::keyClick(pairs, Qt::Key_Return);
        CHECK(w.document().machine() == before);
        ++slips;
    }
    CHECK(slips >= 1);
}

TEST_CASE("the guide beside a page leaves the page whole") {
    Window w;
    w.window.resize(1280, 800);
    for (int page = 0; page < 4; ++page) {
        w.window.show_page(page);
        w.window.open_guide();
        w.settle();
        INFO(page);
        CHECK(w.child<QScrollArea>("room")->horizontalScrollBar()->maximum() == 0);
        w.window.close_guide();
    }
}

TEST_CASE("a narrow window says in a word what each limit and page is") {
    Window w;
    w.window.resize(1024, 700);
    w.settle();
    // what is painted differs where only the names do
    const auto painted = [&](const char* name) { return w.child<QPushButton>(name)->grab().toImage(); };
    w.document().edit(QStringLiteral("names"), [](Machine& m) { m.axes[2].name = m.axes[3].name = "Alpha"; });
    w.settle();
    const QImage before = painted("axis/2");
    w.document().edit(QStringLiteral("names"), [](Machine& m) { m.axes[2].name = "Omega"; });
    w.settle();
    CHECK(painted("axis/2") != before);
    CHECK(w.child<QPushButton>("page/1")->width() >= 80);
    CHECK(w.child<QScrollArea>("room")->horizontalScrollBar()->maximum() == 0);
}

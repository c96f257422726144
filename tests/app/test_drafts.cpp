#include "app/bricks/note_line.h"
#include "app/forms/segment_table.h"
#include "tests/app/window.h"

using namespace fulmox;
using namespace fulmox::testing;

namespace {

NoteLine* listed(Window& w, const QString& path) {
    for (NoteLine* l : w.window.findChild<Ledger*>()->findChildren<NoteLine*>())
        if (l->isVisible() && l->path() == path) return l;
    return nullptr;
}

// Types something and goes on to the next field, as a person does.
void type_and_leave(Window& w, const char* field, const char* text) {
    QTest::keyClick(w.type(field, text), Qt::Key_Tab);
    QApplication::processEvents();
}

QStringList texts(const Drafts& d) {
    QStringList out;
    for (const auto& [path, draft] : d.all()) out << path + QLatin1Char(' ') + draft.text;
    return out;
}

} // namespace

TEST_CASE(
    "text that cannot be read stays through edits elsewhere, other pages and axes, and is listed until put right") {
    Window w;
    const QString lead = w.path("/mechanism/lead");
    type_and_leave(w, "/mechanism/lead", "10,5 mm");
    const auto stays = [&] {
        QuantityEdit* e = w.edit("/mechanism/lead");
        return e->text() == QStringLiteral("10,5 mm") && e->wrong() && w.screw().lead.text == "10 mm";
    };
    CHECK(stays());
    type_and_leave(w, "/load/payload", "13 kg");
    CHECK(w.document().axis().load.payload.text == "13 kg");
    CHECK(stays());
    w.click_page(3);
    NoteLine* line = listed(w, lead);
    REQUIRE(line);
    CHECK(line->text().contains(QStringLiteral("10,5 mm")));
    CHECK(line->text().contains(QStringLiteral("10 mm stays in use")));
    w.click_page(1);
    CHECK(stays());
    w.document().select_axis(1);
    QApplication::processEvents();
    CHECK(!listed(w, lead));
    w.document().select_axis(0);
    QApplication::processEvents();
    CHECK(stays());
    // the choice of another thread builds the form again
    w.document().set_choice(w.path("/mechanism/thread"), 1);
    CHECK(stays());
    w.document().undo_stack().undo();
    CHECK(stays());
    line = listed(w, lead);
    REQUIRE(line);
    QTest::mouseClick(line, Qt::LeftButton);
    auto* e = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
    REQUIRE(e);
    CHECK(e->path() == lead);
    CHECK(e->selectedText() == QStringLiteral("10,5 mm"));
    SECTION("Escape gives the good value back") {
        QTest::keyClick(e, Qt::Key_Escape);
        CHECK(e->text() == QStringLiteral("10 mm"));
    }
    SECTION("a readable text takes its place") {
        type_and_leave(w, "/mechanism/lead", "10.5 mm");
        CHECK(w.screw().lead.si == Approx(0.0105));
    }
    SECTION("so does a value from elsewhere") {
        w.document().set_quantity(lead, QStringLiteral("16 mm"));
        CHECK(w.edit("/mechanism/lead")->text() == QStringLiteral("16 mm"));
    }
    SECTION("and another machine") { w.window.open_demo(); }
    CHECK(!w.edit("/mechanism/lead")->wrong());
    CHECK(!listed(w, lead));
    CHECK(w.document().drafts().all().empty());
}

TEST_CASE("a text that is unreadable on the way is typed to its end") {
    Window w;
    w.click_page(2);
    auto* table = w.child<SegmentTable>("segments");
    table->select(3);
    QTest::mouseClick(w.child<QPushButton>("add-move"), Qt::LeftButton);
    for (const char* text : {"-300", "2*(-3 + 1) mm", "1e2", "12 kg", "5mm", "1 1/2 in", "50 000 mm", "7 +/- 0.5 mm",
             "7 mm +/- 10 %", "sqrt(2)*1 m", "pi*80 mm", "1e-3 m", "  7 mm", ".5 in", "5.", "2*(3+4)", "1/3", "-7/8 in",
             "0.50", "2 in + 3 mm", "2*35 mm + 1 in", "1,5", "10 mm mm", "3 ft 4 in"}) {
        INFO(text);
        QuantityEdit* e = w.edit("/cycle/segments/4/what/distance");
        QTest::mouseClick(e, Qt::LeftButton);
        QTest::keyClick(e, Qt::Key_A, Qt::ControlModifier);
        for (const char* c = text; *c; ++c) QTest::keyClick(e, *c);
        CHECK(e->text() == QString::fromLatin1(text));
        CHECK(w.document().drafts().all().empty() == !e->wrong());
    }
}

TEST_CASE("an empty field that was given rubbish says so, not only that it is missing") {
    Window w(false);
    type_and_leave(w, "/load/payload", "heavy");
    NoteLine* line = listed(w, w.path("/load/payload"));
    REQUIRE(line);
    CHECK(line->text().contains(QStringLiteral("\"heavy\" is not in use")));
    CHECK(!line->text().contains(QStringLiteral("stays")));
    // what is taken out again was never there
    type_and_leave(w, "/load/payload", "");
    CHECK(w.document().drafts().all().empty());
    line = listed(w, w.path("/load/payload"));
    if (line) CHECK(line->text().contains(QStringLiteral("missing")));
}

TEST_CASE("text that cannot be read goes with its segment, in form and table") {
    Window w;
    w.click_page(2);
    auto* table = w.child<SegmentTable>("segments");
    table->select(1);
    const std::string kept = std::get<Dwell>(w.document().axis().cycle.segments[1].what).duration.text;
    type_and_leave(w, "/cycle/segments/1/what/duration", "0,3 s");
    const auto is_at = [&](int row) {
        const QTableWidgetItem* cell = table->item(row, SegmentTable::time);
        return cell->text() == QStringLiteral("0,3 s") && cell->foreground().color() == theme().over &&
               cell->font().strikeOut() && w.document().drafts().all().size() == 1;
    };
    CHECK(is_at(1));
    NoteLine* line = listed(w, w.path("/cycle/segments/1/what/duration"));
    REQUIRE(line);
    CHECK(line->text().startsWith(QStringLiteral("Time, segment 2: ")));
    CHECK(field_name("Segment", QStringLiteral("/axes/0/cycle/segments/2")) == QStringLiteral("Segment 3"));
    CHECK(field_name("Segments", QStringLiteral("/axes/0/cycle/segments")) == QStringLiteral("Segments"));
    // a segment before it
    table->select(0);
    QTest::mouseClick(w.child<QPushButton>("add-dwell"), Qt::LeftButton);
    CHECK(is_at(2));
    CHECK(table->item(1, SegmentTable::time)->text().isEmpty());
    CHECK(!table->item(1, SegmentTable::time)->font().strikeOut());
    table->select(2);
    CHECK(w.edit("/cycle/segments/2/what/duration")->wrong());
    table->select(1);
    CHECK(!w.edit("/cycle/segments/1/what/duration")->wrong());
    w.document().undo_stack().undo();
    CHECK(is_at(1));
    w.document().undo_stack().redo();
    CHECK(is_at(2));
    QTest::mouseClick(w.child<QPushButton>("delete-segment"), Qt::LeftButton);
    CHECK(is_at(1));
    // its own place changes
    table->select(1);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("▲")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(is_at(0));
    CHECK(std::get<Dwell>(w.document().axis().cycle.segments[0].what).duration.text == kept);
    // with its axis
    w.child<QPushButton>("axis/0")->actions().at(1)->trigger();
    w.document().select_axis(0);
    CHECK(is_at(0));
    CHECK(texts(w.document().drafts()) == QStringList{QStringLiteral("/axes/0/cycle/segments/0/what/duration 0,3 s")});
    w.document().undo_stack().undo();
    table->select(0);
    QTest::mouseClick(w.child<QPushButton>("delete-segment"), Qt::LeftButton);
    CHECK(w.document().drafts().all().empty());
}

TEST_CASE("drafts follow the entries of a list, and come back the same way") {
    Drafts d;
    const auto put = [&](const char* path) {
        d.keep(QString::fromLatin1(path), {QString::fromLatin1(path).right(1), {}, ""});
    };
    for (const char* path : {"/axes/0/a", "/axes/1/b", "/axes/2/c", "/axes/10/d", "/site/e"}) put(path);
    const QStringList before = texts(d);
    const auto at = [&](const char* path) {
        const Draft* found = d.at(QString::fromLatin1(path));
        return found ? found->text : QString();
    };
    const QString list = QStringLiteral("/axes");
    const ListChange added{list, -1, 1};
    d.follow(added);
    CHECK((at("/axes/0/a") + at("/axes/2/b") + at("/axes/3/c") + at("/axes/11/d") + at("/site/e")) ==
          QStringLiteral("abcde"));
    d.follow(added.reversed());
    CHECK(texts(d) == before);
    for (const auto& [from, to] : {std::pair{0, 2}, {2, 0}, {1, 10}}) {
        const ListChange moved{list, from, to};
        d.follow(moved);
        CHECK(texts(d) != before);
        d.follow(moved.reversed());
        CHECK(texts(d) == before);
    }
    d.follow({list, 0, 2});
    CHECK((at("/axes/2/a") + at("/axes/0/b") + at("/axes/1/c")) == QStringLiteral("abc"));
    d.follow({list, 1, -1});
    CHECK((at("/axes/1/a") + at("/axes/0/b") + at("/axes/9/d")) == QStringLiteral("abd"));
    CHECK(d.all().size() == 4);
    d.follow({QStringLiteral("/ax"), 0, -1}); // another list
    CHECK(d.all().size() == 4);
}

TEST_CASE("saving says what it leaves out, and closing asks") {
    Window w;
    type_and_leave(w, "/load/payload", "9 kg or so");
    const QString file = w.folder.filePath(QStringLiteral("lift.fulmox"));
    REQUIRE(w.window.save_to(file));
    CHECK(w.window.message().contains(QStringLiteral("9 kg or so")));
    CHECK(w.window.message().contains(QStringLiteral("Payload")));
    CHECK(!w.document().modified());
    CHECK(w.asks_before_closing());
    type_and_leave(w, "/load/payload", "9.5 kg");
    REQUIRE(w.window.save_to(file));
    CHECK(!w.asks_before_closing());
}

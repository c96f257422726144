// Typing while something else goes on: a catalogue that loads, a result that arrives, a file that another program
// changes, a second window; and closing in each of these states.
#include "app/part_shelf.h"
#include "core/files/project.h"
#include "tests/app/own_files.h"
#include "tests/app/parts_page.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QPushButton>
#include <memory>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// A list of one's own that is too long to be read at once; `open` as long as it is being read.
void write_large_list() {
    QByteArray text = "name,ratio,rated torque [N·m],peak torque [N·m],inertia [kg·cm²],price\n";
    for (int i = 0; text.size() <= (200 << 10); ++i)
        text += QStringLiteral("Long %1,5,20,60,0.3,100\n").arg(i).toUtf8();
    REQUIRE(QDir().mkpath(part_shelf().folder()));
    put(part_shelf().folder() + QStringLiteral("/large.csv"), text);
}

void repeat_many(Document& document, int times) {
    document.edit(QStringLiteral("long"), [&](Machine& m) {
        auto& segments = m.axes[0].cycle.segments;
        if (std::holds_alternative<Repeat>(segments.back().what)) segments.pop_back();
        Repeat r;
        r.segments = Quantity<Kind::number>(std::to_string(segments.size()));
        r.times = Quantity<Kind::number>(std::to_string(times));
        segments.emplace_back().what = r;
    });
}

// A key to whatever has the focus, as a keyboard sends it.
void key(const QChar c) {
    QWidget* to = QApplication::focusWidget();
    REQUIRE(to);
    for (const auto what : {QEvent::KeyPress, QEvent::KeyRelease}) {
        QKeyEvent e(what, 0, Qt::NoModifier, what == QEvent::KeyPress ? QString(c) : QString());
        QApplication::sendEvent(to, &e);
    }
}

// What another program does between two keys.
using Meanwhile = std::function<void(int)>;

// Types it key by key into the payload; whatever comes between, it stands there and has the focus.
void type_through(Window& w, const char* text, const Meanwhile& between) {
    w.click_page(1);
    w.settle();
    QuantityEdit* e = w.edit("/load/payload");
    e->setFocus();
    e->selectAll();
    int keys = 0;
    const QString whole = QString::fromUtf8(text);
    for (const QChar c : whole) {
        key(c);
        between(++keys);
        QApplication::processEvents();
        INFO("after " << keys << " keys");
        CHECK(e->text() == whole.left(keys));
        CHECK(e->hasFocus());
        CHECK(e->cursorPosition() == keys);
    }
    w.idle();
    CHECK(e->text() == whole);
    CHECK(e->hasFocus());
    CHECK(w.document().axis().load.payload.text == text);
}

// As a fresh window has it.
void expect_present(Window& w) {
    const Assessment fresh = assess(w.document().machine(), 0);
    const Assessment& now = w.document().assessment(0);
    REQUIRE(!now.pending);
    REQUIRE(now.limits.size() == fresh.limits.size());
    for (std::size_t i = 0; i < fresh.limits.size(); ++i) {
        INFO(fresh.limits[i].key);
        CHECK(now.limits[i].state == fresh.limits[i].state);
        CHECK((now.limits[i].used == fresh.limits[i].used ||
               (std::isnan(now.limits[i].used) && std::isnan(fresh.limits[i].used))));
    }
}

} // namespace

TEST_CASE("what is typed while a catalogue is read stays, and the catalogue comes") {
    NoLibrary none;
    write_large_list();
    Window w;
    type_through(w, "23.5 kg", [](int keys) {
        if (keys == 2) part_shelf().reload();
    });
    REQUIRE(QTest::qWaitFor([] { return part_shelf().own()[0].parts->gearheads.size() > 1000; }, hanging));
    expect_present(w);
    ShelfView& shelf = open_shelf(w, CardOf::gearhead, "gearhead");
    CHECK(shelf.model().rowCount() > 1000);
}

TEST_CASE("what is typed while an assessment arrives stays, and the result is of what was typed last") {
    Window w;
    repeat_many(w.document(), 3000);
    w.idle();
    type_through(w, "23.5 kg", [&](int keys) {
        // each key makes another assessment; some arrive while the next is typed
        if (keys % 2) QTest::qWait(20);
    });
    expect_present(w);
    // and the state that is pinned, which is made beside the window too
    w.document().pin();
    type_through(w, "24.5 kg", [](int) {});
    const Assessment* was = w.document().pinned_assessment();
    REQUIRE(was);
    w.idle();
    CHECK(w.document().pinned_assessment()->demand);
    expect_present(w);
}

TEST_CASE("what is half typed while another program changes the file stays, whichever side is kept") {
    for (const bool theirs : {false, true}) {
        Window w;
        const QString file = w.folder.filePath(QStringLiteral("a.fulmox"));
        REQUIRE(w.window.save_to(file));
        Machine other = w.document().machine();
        other.name = "Theirs";
        w.click_page(1);
        QuantityEdit* e = w.edit("/load/payload");
        e->setFocus();
        e->selectAll();
        key(QLatin1Char('2'));
        key(QLatin1Char('6'));
        put(file, QByteArray::fromStdString(write_project(other)));
        QTRY_VERIFY(w.window.message().contains(QStringLiteral("changed by another program")));
        CHECK(e->text() == QStringLiteral("26"));
        CHECK(e->hasFocus());
        key(QLatin1Char(' '));
        for (const QChar c : QStringLiteral("kg")) key(c);
        QApplication::processEvents();
        CHECK(e->text() == QStringLiteral("26 kg"));
        QPushButton* answer = nullptr;
        for (QPushButton* b : w.window.findChildren<QPushButton*>())
            if (b->isVisible() &&
                b->text() == (theirs ? QStringLiteral("Take what is on disk") : QStringLiteral("Keep what is here")))
                answer = b;
        REQUIRE(answer);
        QTest::mouseClick(answer, Qt::LeftButton);
        w.idle();
        CHECK(w.document().machine().name == (theirs ? "Theirs" : demo().name));
        CHECK((w.document().axis().load.payload.text == "26 kg") == !theirs);
        if (theirs) w.document().undo_stack().undo(); // what was typed is one undo away
        CHECK(w.document().axis().load.payload.text == "26 kg");
        expect_present(w);
    }
}

TEST_CASE("two windows keep what is typed in each") {
    Window one;
    auto two = std::make_unique<Window>();
    const auto field = [](Window& w) {
        w.click_page(1);
        QuantityEdit* e = w.edit("/load/payload");
        e->setFocus();
        e->selectAll();
        return e;
    };
    QuantityEdit* a = field(one);
    QuantityEdit* b = field(*two);
    const QString first = QStringLiteral("21.5 kg"), second = QStringLiteral("22.5 kg");
    for (int i = 0; i < first.size(); ++i) { // in turn, a key each
        a->setFocus();
        a->deselect();
        QTest::keyClick(a, Qt::Key_End);
        if (i == 0) a->selectAll();
        a->insert(first.mid(i, 1));
        emit a->textEdited(a->text());
        if (i == 0) b->selectAll();
        b->insert(second.mid(i, 1));
        emit b->textEdited(b->text());
        QApplication::processEvents();
        CHECK(a->text() == first.left(i + 1));
        CHECK(b->text() == second.left(i + 1));
    }
    one.idle();
    two->idle();
    CHECK(one.document().axis().load.payload.text == "21.5 kg");
    CHECK(two->document().axis().load.payload.text == "22.5 kg");
    expect_present(one);
    two.reset(); // closing one leaves the other as it is
    one.settle();
    CHECK(a->text() == first);
    expect_present(one);
}

TEST_CASE("a window closes while a catalogue is read, a result is made, a file was changed or a text is half typed") {
    NoLibrary none;
    write_large_list();
    for (int state = 0; state < 4; ++state) {
        INFO("state " << state);
        auto w = std::make_unique<Window>();
        const QString file = w->folder.filePath(QStringLiteral("a.fulmox"));
        if (state == 0) {
            cards(*w).select(CardOf::gearhead);
            part_shelf().reload();
        } else if (state == 1) {
            repeat_many(w->document(), 6000);
            w->document().pin();
            w->document().assessment(0);
        } else if (state == 2) {
            REQUIRE(w->window.save_to(file));
            Machine other = demo();
            other.name = "Theirs";
            put(file, QByteArray::fromStdString(write_project(other)));
            QTRY_VERIFY(w->window.message().contains(QStringLiteral("changed by another program")));
        } else {
            w->click_page(1);
            QuantityEdit* e = w->edit("/load/payload");
            e->setFocus();
            e->selectAll();
            for (const QChar c : QStringLiteral("12 k")) key(c);
        }
        int asked = 0;
        w->window.confirm_leave = [&] {
            ++asked;
            return MainWindow::Leave::discard;
        };
        CHECK(w->window.close());
        CHECK((asked > 0) == (state == 1 || state == 3)); // there was something to lose
        w.reset();
        QApplication::processEvents();
    }
}

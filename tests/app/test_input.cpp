// Input that is not meant: half-typed values, wheels and clicks that pass by, pictures and words that stay.
#include "app/bricks/choice.h"
#include "app/forms/curve_editor.h"
#include "app/pages/law_table.h"
#include "app/parts/motor_table.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/torque_plot.h"
#include "app/policy_editor.h"
#include "tests/app/window.h"

#include <QClipboard>
#include <QMessageBox>
#include <QScrollArea>
#include <QScrollBar>
#include <QWheelEvent>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

QuantityEdit* focused(Window& w, const char* path) {
    w.window.go_to(w.path(path));
    QApplication::processEvents();
    auto* e = w.window.findChild<QuantityEdit*>(w.path(path));
    REQUIRE(e);
    e->setFocus();
    return e;
}

void type_over(QuantityEdit* e, const char* text) {
    e->selectAll();
    QTest::keyClicks(e, QString::fromUtf8(text));
}

} // namespace

TEST_CASE("a half-typed value never becomes the value in use") {
    struct Case {
        const char* path;
        const char* text;
    };
    for (const Case& c : {Case{"/coupling/inertia", "13.5 oz-in"}, {"/mechanism/lead", "1e99"},
             {"/load/payload", "1,5"}, {"/load/seal_drag", "10 mmm"}, {"/load/counterbalance", "10 mmm"}}) {
        INFO(c.path << " " << c.text);
        Window w;
        Machine copy = w.document().machine();
        const QuantityBase before = *find_field(copy, w.path(c.path).toStdString())->quantity;
        QuantityEdit* e = focused(w, c.path);
        type_over(e, c.text);
        CHECK(e->wrong());
        copy = w.document().machine();
        CHECK(*find_field(copy, w.path(c.path).toStdString())->quantity == before);
        w.window.go_to(w.path("/name")); // the focus goes elsewhere; the text waits, the value stays
        copy = w.document().machine();
        CHECK(*find_field(copy, w.path(c.path).toStdString())->quantity == before);
        CHECK(!w.document().undo_stack().canUndo()); // nothing happened that could be undone
        CHECK(w.document().drafts().at(w.path(c.path)));
    }
}

TEST_CASE("what can be read is tried out while it is typed, and given up again") {
    Window w;
    const double before = w.document().axis().load.payload.si;
    QuantityEdit* e = focused(w, "/load/payload");
    type_over(e, "12");
    CHECK(w.document().axis().load.payload.si == 12);
    QTest::keyClicks(e, QStringLiteral(" kgg"));
    CHECK(w.document().axis().load.payload.si == before);
    for (int i = 0; i < 2; ++i) QTest::keyClick(e, Qt::Key_Backspace);
    CHECK(w.document().axis().load.payload.si == before); // "12 k" is nothing
    for (int i = 0; i < 2; ++i) QTest::keyClick(e, Qt::Key_Backspace);
    CHECK(w.document().axis().load.payload.si == 12);
    QTest::keyClick(e, Qt::Key_Return);
    CHECK(w.document().undo_stack().count() == 1);
    w.document().undo_stack().undo();
    CHECK(w.document().axis().load.payload.si == before);
}

TEST_CASE("a wheel that passes over a choice scrolls and changes nothing") {
    Window w;
    auto* choice = w.window.findChild<QComboBox*>(w.path("/mechanism/thread"));
    REQUIRE(choice);
    const auto turn = [&] {
        QWheelEvent wheel(QPointF(5, 5), choice->mapToGlobal(QPointF(5, 5)), {}, {0, -120}, Qt::NoButton, {},
            Qt::NoScrollPhase, false);
        QApplication::sendEvent(choice, &wheel);
        return wheel.isAccepted();
    };
    CHECK(choice->focusPolicy() == Qt::StrongFocus);
    choice->clearFocus();
    turn();
    CHECK(w.screw().thread == Thread::ball);
    for (QComboBox* c : w.window.findChildren<QComboBox*>())
        CHECK((c->focusPolicy() & Qt::WheelFocus) != Qt::WheelFocus);
}

TEST_CASE("a click into a field selects all, a second one does not") {
    Window w;
    auto* e = w.window.findChild<QuantityEdit*>(w.path("/load/payload"));
    REQUIRE(e);
    w.window.findChild<QLineEdit*>(w.path("/name"))->setFocus();
    QTest::mouseClick(e, Qt::LeftButton, {}, QPoint(20, e->height() / 2));
    CHECK(e->selectedText() == e->text());
    QTest::keyClicks(e, QStringLiteral("4"));
    CHECK(e->text() == QStringLiteral("4"));
    QTest::mouseClick(e, Qt::LeftButton, {}, QPoint(8, e->height() / 2));
    CHECK(e->selectedText().isEmpty());
}

TEST_CASE("the table of laws is read and copied; Enter and its button take a law") {
    Window w;
    w.click_page(2);
    w.settle();
    auto* laws = w.child<LawTable>("laws");
    const auto law = [&] { return std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).law; };
    laws->setCurrentCell(static_cast<int>(Law::cycloidal), 0);
    CHECK(law() == Law::trapezoid);
    laws->setFocus();
    QTest::keyClick(laws, Qt::Key_C, Qt::ControlModifier);
    const QString copied = QGuiApplication::clipboard()->text();
    CHECK(copied.count(QLatin1Char('\n')) == 9);
    CHECK(copied.contains(QStringLiteral("Cycloidal\t")));
    QTest::keyClick(laws, Qt::Key_Return);
    CHECK(law() == Law::cycloidal);
    laws->setCurrentCell(static_cast<int>(Law::parabolic), 0);
    QPushButton* take = nullptr;
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->property("action") == QStringLiteral("take-law")) take = b;
    REQUIRE(take);
    take->click();
    CHECK(law() == Law::parabolic);
}

TEST_CASE("Enter in the name of a policy copies nothing") {
    Window w;
    PolicyEditor editor(w.document());
    editor.show();
    const std::size_t before = w.document().machine().policies.size();
    auto* name = editor.findChild<QLineEdit*>(QStringLiteral("/policies/0/name"));
    REQUIRE(name);
    name->setFocus();
    QTest::keyClick(name, Qt::Key_Return);
    QApplication::processEvents();
    CHECK(w.document().machine().policies.size() == before);
}

TEST_CASE("two columns from a spreadsheet fill the rows of a curve; bad rows are named, good ones kept") {
    Window w;
    w.click_page(4);
    w.window.go_to(w.path("/motor/continuous/0/speed"));
    QApplication::processEvents();
    auto* e = w.window.findChild<QuantityEdit*>(w.path("/motor/continuous/0/speed"));
    REQUIRE(e);
    QGuiApplication::clipboard()->setText(
        QStringLiteral("speed [rpm]\ttorque [lb·in]\n0\t12,5\n1000\t12\n2000\tx\n3000\t10\n"));
    e->setFocus();
    QTest::keyClick(e, Qt::Key_V, Qt::ControlModifier);
    QApplication::processEvents();
    const auto& curve = w.document().axis().motor.continuous;
    REQUIRE(curve.size() >= 3);
    CHECK(curve[0].torque.text == "12.5 lb·in");
    CHECK(curve[1].speed.text == "1000 rpm");
    CHECK(curve[2].speed.text == "3000 rpm");
    bool said = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        said = said || (l->isVisible() && l->text().contains(QStringLiteral("line 4, torque")));
    CHECK(said);
    // one value is pasted as text
    QGuiApplication::clipboard()->setText(QStringLiteral("5 rpm"));
    e = w.window.findChild<QuantityEdit*>(w.path("/motor/continuous/1/speed"));
    REQUIRE(e);
    e->setFocus();
    e->selectAll();
    QTest::keyClick(e, Qt::Key_V, Qt::ControlModifier);
    CHECK(e->text() == QStringLiteral("5 rpm"));
}

TEST_CASE("with nothing to draw a plot says what is missing, and nothing of before stays") {
    Window w;
    w.click_page(2);
    auto* cycle = w.window.findChild<CyclePlot*>();
    CHECK(cycle->missing().isEmpty());
    w.document().edit(QStringLiteral("empty"), [](Machine& m) {
        Segment s;
        m.axes[0].cycle.segments = {s, s};
    });
    QApplication::processEvents();
    CHECK(cycle->missing().contains(QStringLiteral("Distance, segment 1")));
    CHECK(cycle->csv().isEmpty());
    w.click_page(3);
    auto* torque = w.window.findChild<TorquePlot*>();
    QApplication::processEvents();
    CHECK(torque->missing().contains(QStringLiteral("Distance, segment 1")));
    w.document().undo_stack().undo();
    QApplication::processEvents();
    CHECK(torque->missing().isEmpty());
}

TEST_CASE("a new project takes nothing over: page, help, scroll, open row, banner") {
    Window w;
    w.window.go_to(w.path("/load/payload"));
    QApplication::processEvents();
    CHECK(!w.window.open_file(QStringLiteral("/nowhere/gone.fulmox")));
    CHECK(!w.window.message().isEmpty());
    auto* help = w.window.findChild<HelpStrip*>();
    const QString of_field = help->text();
    CHECK(of_field.contains(QStringLiteral("Payload")));
    for (QScrollArea* a : w.window.findChildren<QScrollArea*>()) a->verticalScrollBar()->setValue(200);
    w.document().start_new();
    QApplication::processEvents();
    CHECK(w.window.message().isEmpty());
    CHECK(help->text() != of_field);
    for (QScrollArea* a : w.window.findChildren<QScrollArea*>()) CHECK(a->verticalScrollBar()->value() == 0);
}

TEST_CASE("leaving unsaved work can save, discard or stay") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("kept.fulmox"));
    REQUIRE(w.window.save_to(file));
    w.document().set_quantity(w.path("/load/payload"), QStringLiteral("9 kg"));
    w.window.confirm_leave = [] { return MainWindow::Leave::stay; };
    CHECK(!w.window.close());
    w.window.confirm_leave = [] { return MainWindow::Leave::save; };
    CHECK(w.window.close());
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadOnly));
    CHECK(f.readAll().contains("\"9 kg\""));
}

TEST_CASE("a catalogue motor taken over one typed by hand leaves it among the project's own") {
    Window w;
    w.document().edit(QStringLiteral("own"), [](Machine& m) { m.axes[0].motor.name = "From an old sheet"; });
    const Motor typed = w.document().axis().motor;
    w.click_page(4);
    w.settle();
    auto* table = w.child<MotorTable>("catalogue");
    const int catalogue = table->model_of_motors().rowCount();
    table->setCurrentIndex(table->model()->index(0, 0));
    table->choose_current();
    QApplication::processEvents();
    CHECK(w.document().axis().motor != typed);
    REQUIRE(w.document().machine().motors.size() == 1);
    CHECK(w.document().machine().motors[0] == typed);
    CHECK(table->model_of_motors().rowCount() == catalogue + 1);
    // it can be taken again, and is not kept twice
    for (int r = 0; r < table->model()->rowCount(); ++r)
        if (table->model()->index(r, 0).data().toString().contains(QStringLiteral("own")))
            table->setCurrentIndex(table->model()->index(r, 0));
    table->choose_current();
    CHECK(w.document().axis().motor == typed);
    CHECK(w.document().machine().motors.size() == 1);
    w.document().undo_stack().undo();
    w.document().undo_stack().undo();
    CHECK(w.document().machine().motors.empty());
}

TEST_CASE("a cycle that does not return is offered its way back") {
    Window w;
    w.document().edit(QStringLiteral("one way"), [](Machine& m) { m.axes[0].cycle.segments.resize(1); });
    w.click_page(2);
    QApplication::processEvents();
    QPushButton* close = nullptr;
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->property("action") == QStringLiteral("close-cycle")) close = b;
    REQUIRE(close);
    REQUIRE(close->isVisible());
    CHECK(close->text().contains(QStringLiteral("400 mm")));
    close->click();
    QApplication::processEvents();
    CHECK(closes(*w.document().assessment().motion));
    CHECK(!close->isVisible());
}

TEST_CASE("two fields wrong in one form are both told, and the window lives") {
    for (const char* name :
        {"F01-two-wrong-fields", "F01b-two-wrong-fields", "F05-exception-aborts", "F07-markup-in-names"}) {
        INFO(name);
        Window w;
        REQUIRE(w.window.open_file(
            QStringLiteral(FULMOX_SOURCE_DIR "/tests/cases/faults/%1.fulmox").arg(QLatin1String(name))));
        for (int page = 1; page <= 4; ++page) w.click_page(page);
        w.click_page(1);
        int wrong = 0;
        for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>()) wrong += e->isVisible() && e->wrong();
        if (name[2] == '1') {
            CHECK(wrong >= 2);
            // one of them put right, the other stays
            w.document().set_quantity(w.path(name[3] == 'b' ? "/mechanism/lead" : "/load/payload"),
                name[3] == 'b' ? QStringLiteral("10 mm") : QStringLiteral("24 kg"));
            QApplication::processEvents();
            int left = 0;
            for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>()) left += e->isVisible() && e->wrong();
            CHECK(left == wrong - 1);
        }
    }
}

TEST_CASE("a name without ending does not write over a project unasked") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("there.fulmox"));
    REQUIRE(w.window.save_to(file));
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadOnly));
    const QByteArray before = f.readAll();
    w.document().set_quantity(w.path("/load/payload"), QStringLiteral("7 kg"));
    bool asked = false;
    w.window.confirm_overwrite = [&](const QString&) {
        asked = true;
        return false;
    };
    CHECK(!w.window.save_under(w.folder.filePath(QStringLiteral("there"))));
    CHECK(asked);
    f.seek(0);
    CHECK(f.readAll() == before);
}

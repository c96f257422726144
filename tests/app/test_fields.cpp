#include "tests/app/window.h"

#include <QLabel>
#include <QMenu>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("typing a value moves the limits at once, with keys alone") {
    Window w;
    const double before = w.limit("inertia_ratio").used;
    QuantityEdit* e = w.edit("/mechanism/lead");
    QTest::mouseClick(e, Qt::LeftButton);
    QTest::keyClick(e, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(e, "2*6 mm");
    CHECK(w.screw().lead.text == "2*6 mm");
    CHECK(w.screw().lead.si == Approx(0.012));
    CHECK(w.limit("inertia_ratio").used > before);
    // the converted value stands beside the typed one
    bool shown = false;
    for (QLabel* l : e->parentWidget()->findChildren<QLabel*>())
        shown = shown || l->text() == QStringLiteral("= 12 mm");
    CHECK(shown);
}

TEST_CASE("a bare number takes the field's unit and says so when the field is left") {
    Window w;
    QuantityEdit* e = w.type("/mechanism/diameter", "25");
    CHECK(w.screw().diameter.si == Approx(0.025));
    QTest::keyClick(e, Qt::Key_Tab);
    CHECK(e->text() == QStringLiteral("25 mm"));
    CHECK(w.screw().diameter.text == "25 mm");
}

TEST_CASE("the user's own unit is kept for the next bare number") {
    Window w;
    QuantityEdit* e = w.type("/load/carriage_mass", "20 lb");
    QTest::keyClick(e, Qt::Key_Return);
    w.type("/load/carriage_mass", "30");
    CHECK(w.document().axis().load.carriage_mass.si == Approx(30 * 0.45359237));
}

TEST_CASE("wrong input keeps the text, says what is wrong in place, and leaves the last good value in use") {
    Window w;
    for (const char* wrong : {"5 kg", "1,5 mm", "abc", "0 mm", "-3 mm", "1e308", "nan", "10 oz·in", ""}) {
        QuantityEdit* e = w.type("/mechanism/lead", wrong);
        INFO(wrong);
        CHECK(e->wrong());
        CHECK(e->text() == QString::fromUtf8(wrong));
        CHECK(w.screw().lead.text == "10 mm");
        QLabel* said = nullptr;
        for (QLabel* l : e->parentWidget()->findChildren<QLabel*>(QStringLiteral("problem"))) said = l;
        REQUIRE(said);
        CHECK(said->isVisible());
        CHECK(said->text().contains(e->problem()));
        CHECK(said->text().contains(QStringLiteral("last good value")));
    }
    QuantityEdit* e = w.type("/mechanism/lead", "8 mm");
    CHECK(!e->wrong());
    CHECK(w.screw().lead.si == Approx(0.008));
}

TEST_CASE("Escape brings the old text back, arrows nudge") {
    Window w;
    QuantityEdit* e = w.type("/mechanism/lead", "16 mm");
    QTest::keyClick(e, Qt::Key_Escape);
    CHECK(e->text() == QStringLiteral("10 mm"));
    CHECK(w.screw().lead.text == "10 mm");
    QTest::keyClick(e, Qt::Key_Up);
    CHECK(w.screw().lead.si == Approx(0.011));
    QTest::keyClick(e, Qt::Key_Down);
    QTest::keyClick(e, Qt::Key_Up, Qt::ShiftModifier);
    CHECK(w.screw().lead.si == Approx(0.020));
    QTest::keyClick(e, Qt::Key_Down, Qt::ShiftModifier);
    QTest::keyClick(e, Qt::Key_Up, Qt::ControlModifier);
    CHECK(w.screw().lead.si == Approx(0.0101));
}

TEST_CASE("undo takes a field's typing back in one step, redo brings it again, for everything") {
    Window w;
    const Machine start = w.document().machine();
    QuantityEdit* e = w.edit("/mechanism/lead");
    QTest::mouseClick(e, Qt::LeftButton);
    QTest::keyClick(e, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(e, "12.5 mm");
    QTest::keyClick(e, Qt::Key_Tab);
    w.type("/load/payload", "30 kg");
    QTest::keyClick(w.edit("/load/payload"), Qt::Key_Tab);
    const Machine after = w.document().machine();
    CHECK(w.document().undo_stack().count() == 2);
    CHECK(w.document().undo_stack().undoText().contains(QStringLiteral("Payload")));
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.screw().lead.text == "12.5 mm");
    CHECK(w.document().axis().load.payload == start.axes[0].load.payload);
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document().machine() == start);
    CHECK(w.edit("/mechanism/lead")->text() == QStringLiteral("10 mm"));
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.document().machine() == after);
}

TEST_CASE("a field can be told where it comes from") {
    Window w;
    QuantityEdit* e = w.edit("/load/payload");
    auto* chip = e->parentWidget()->findChild<QToolButton*>();
    REQUIRE(chip);
    CHECK(chip->text() == QStringLiteral("assumed"));
    QTest::mouseClick(chip, Qt::LeftButton);
    QMenu* menu = nullptr;
    for (QMenu* m : w.window.findChildren<QMenu*>(QStringLiteral("standing-menu")))
        if (m->isVisible()) menu = m;
    REQUIRE(menu);
    for (int i = 0; i < 4; ++i) QTest::keyClick(menu, Qt::Key_Down);
    QTest::keyClick(menu, Qt::Key_Return);
    CHECK(w.document().axis().load.payload.standing == InputSource::measured);
    CHECK(chip->text() == QStringLiteral("meas."));
}

TEST_CASE("the choice of thread brings its own fields") {
    Window w;
    auto* choice = w.window.findChild<QComboBox*>(w.path("/mechanism/thread"));
    REQUIRE(choice);
    w.document().set_quantity(w.path("/mechanism/efficiency"), {}); // from the thread, then
    QApplication::processEvents();
    w.window.go_to(w.path("/mechanism/thread_friction")); // unfolds the rarely needed ones
    CHECK(!w.window.findChild<QuantityEdit*>(w.path("/mechanism/collar_friction")));
    choice->setFocus();
    QTest::keyClick(choice, Qt::Key_Down);
    QApplication::processEvents();
    CHECK(w.screw().thread == Thread::trapezoidal);
    CHECK(w.window.findChild<QuantityEdit*>(w.path("/mechanism/collar_friction")));
}

TEST_CASE("help for the field in focus names its range and source") {
    Window w;
    QTest::mouseClick(w.edit("/load/guide_friction"), Qt::LeftButton);
    QString help;
    for (HelpStrip* h : w.window.findChildren<HelpStrip*>())
        if (h->isVisible()) help = h->text();
    CHECK(help.contains(QStringLiteral("0.003")));
    CHECK(help.contains(QStringLiteral("Permitted: 0 to 5. Typical: 0 to 0.5. ")));
    CHECK(help.contains(QStringLiteral("common practice")));
}

TEST_CASE("every field of every page refuses rubbish in the window too") {
    Window w;
    int tried = 0;
    for (int page = 1; page <= 4; ++page) {
        w.click_page(page);
        for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>()) {
            if (!e->isVisible()) continue;
            const Machine before = w.document().machine();
            e->setText(QStringLiteral("5 furlong"));
            emit e->textEdited(e->text());
            INFO(e->path().toStdString());
            CHECK(e->wrong());
            CHECK(w.document().machine() == before);
            QTest::keyClick(e, Qt::Key_Escape);
            ++tried;
        }
    }
    CHECK(tried > 15);
}

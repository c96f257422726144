// Values of a motor on its page: where they come from, their units, and what its sheet says twice.
#include "app/bricks/choice.h"
#include "app/clip.h"
#include "app/forms/segment_table.h"
#include "app/library.h"
#include "app/pages/how_moves.h"
#include "app/pages/page.h"
#include "app/pages/what_drives.h"
#include "app/parts/motor_filter.h"
#include "app/parts/motor_table.h"
#include "app/plots/speed_torque_plot.h"
#include "app/results/sheet_view.h"
#include "core/quantity/format.h"
#include "tests/app/window.h"

#include <QAction>
#include <QClipboard>
#include <QFile>
#include <QLineEdit>
#include <QPushButton>
#include <QTabWidget>
#include <QTableWidget>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("a conversion stands beside every unit that is not the project's") {
    Window w;
    struct Foreign {
        const char* field;
        const char* text;
        UnitSystem units;
    };
    const Foreign all[] = {{"/motor/rotor_inertia", "13.5 oz-in²", UnitSystem::si},
        {"/motor/electric/torque_constant", "70 oz-in/A", UnitSystem::si}, {"/load/payload", "40 lb", UnitSystem::si},
        {"/load/payload", "20 kg", UnitSystem::inch_pound}, {"/mechanism/lead", "0.5 in", UnitSystem::si},
        {"/mechanism/lead", "10 mm", UnitSystem::inch_pound}, {"/mechanism/nut_drag", "3 lb-in", UnitSystem::si}};
    for (const Foreign& f : all) {
        INFO(f.field << " " << f.text);
        w.document().edit(QStringLiteral("units"), [&](Machine& m) { m.unit_system = f.units; });
        w.window.go_to(w.path(f.field));
        w.settle();
        QuantityEdit* edit = nullptr;
        for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>(w.path(f.field)))
            if (e->isVisible()) edit = e;
        if (!edit && std::string(f.field) == "/mechanism/nut_drag") continue;
        REQUIRE(edit);
        REQUIRE(!w.document().set_quantity(w.path(f.field), QString::fromUtf8(f.text)));
        w.settle();
        bool beside = false;
        for (Aside* a : edit->parentWidget()->findChildren<Aside*>())
            beside = beside || (a->isVisible() && a->text().startsWith(QStringLiteral("= ")) && a->width() >= 30);
        CHECK(beside);
    }
}

TEST_CASE("values of the catalogue say so, until they are changed") {
    Window w;
    w.window.go_to(w.path("/motor/rotor_inertia"));
    w.settle();
    const auto chip = [&] {
        auto* edit = w.child<QuantityEdit>(w.path("/motor/rotor_inertia").toUtf8().constData());
        for (QToolButton* b : edit->parentWidget()->findChildren<QToolButton*>())
            if (b->isVisible()) return b->text();
        return QString();
    };
    CHECK(chip() == QStringLiteral("catalogue"));
    REQUIRE(!w.document().set_quantity(w.path("/motor/rotor_inertia"), QStringLiteral("0.5 kg·cm²")));
    w.settle();
    CHECK(chip() == QStringLiteral("assumed"));
}

TEST_CASE("a datasheet typed by hand has room for its fields") {
    Window w;
    w.window.go_to(w.path("/motor/rotor_inertia"));
    w.settle();
    int seen = 0;
    for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>())
        seen += e->objectName().startsWith(w.path("/motor/")) && !e->visibleRegion().isEmpty();
    CHECK(seen >= 12);
}

TEST_CASE("a sheet that contradicts itself is shown, and a reading is taken by a key and undone") {
    Window w;
    w.window.show_page(3);
    w.document().edit(QStringLiteral("sheet"), [](Machine& m) {
        auto& s = std::get<SineMotor>(m.axes[0].motor.electric);
        s.voltage_constant = Quantity<Kind::voltage_constant>("41.2 V/krpm"); // √2 too much for RMS volts
    });
    for (QTabWidget* tabs : w.window.findChildren<QTabWidget*>())
        for (int i = 0; i < tabs->count(); ++i)
            if (tabs->tabText(i) == QStringLiteral("Check")) tabs->setCurrentIndex(i);
    w.settle();
    auto* view = w.window.findChild<SheetView*>();
    REQUIRE(view);
    REQUIRE(view->isVisible());
    CHECK(view->contradictions() == 1);
    auto* pairs = w.child<QTableWidget>("sheet-pairs");
    CHECK(pairs->item(0, 4)->text() == QStringLiteral("contradicts"));
    int row = -1;
    for (int r = 0; r < pairs->rowCount(); ++r)
        if (pairs->item(r, 0)->text().contains(QStringLiteral("Voltage constant is line to line, peak"))) row = r;
    REQUIRE(row > 0);
    pairs->setFocus();
    pairs->selectRow(0);
    QTest::keyClick(pairs, Qt::Key_Return); // a pair is no reading
    CHECK(view->contradictions() == 1);
    pairs->selectRow(row);
    QTest::keyClick(pairs, Qt::Key_Return);
    w.settle();
    CHECK(std::get<SineMotor>(w.document().axis().motor.electric).voltage_of == EmfOf::line_peak);
    CHECK(view->contradictions() == 0);
    w.document().undo_stack().undo();
    w.settle();
    CHECK(view->contradictions() == 1);
    const auto* constants = w.child<QTableWidget>("sheet-constants");
    CHECK(constants->rowCount() > 15);
    CHECK(constants->item(0, 2)->text() == QStringLiteral("0.482"));
    copy_part(*w.child<QTableWidget>("sheet-constants"));
    CHECK(QGuiApplication::clipboard()->text().contains(QStringLiteral("power-invariant")));
}

namespace {

MotorTable& catalogue_of(Window& w) {
    w.click_page(4);
    w.settle();
    auto* table = w.child<MotorTable>("catalogue");
    table->judge_now();
    REQUIRE(QTest::qWaitFor([&] { return !table->model_of_motors().judging(); }, hanging));
    w.settle();
    return *table;
}

void show_tab(Window& w, const char* name) {
    for (QTabWidget* tabs : w.window.findChildren<QTabWidget*>())
        for (int i = 0; i < tabs->count(); ++i)
            if (tabs->isVisible() && tabs->tabText(i) == QLatin1String(name)) tabs->setCurrentIndex(i);
    w.settle();
}

void press(Window& w, const char* text) {
    QPushButton* found = nullptr;
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QString::fromUtf8(text)) found = b;
    INFO(text);
    REQUIRE(found);
    QTest::mouseClick(found, Qt::LeftButton);
    w.settle();
}

void select_motor(MotorTable& table, const char* name) {
    for (int row = 0; row < table.model()->rowCount(); ++row)
        if (table.model()->index(row, MotorModel::name).data().toString() == QString::fromUtf8(name))
            table.setCurrentIndex(table.model()->index(row, 0));
    REQUIRE(table.currentIndex().isValid());
    REQUIRE(table.currentIndex().siblingAtColumn(MotorModel::name).data().toString() == QString::fromUtf8(name));
}

} // namespace

TEST_CASE("the catalogue stands cheapest that carries first, and a filter leaves what was asked for") {
    Window w;
    MotorTable& table = catalogue_of(w);
    const auto name = [&](int row) { return table.model()->index(row, MotorModel::name).data().toString(); };
    CHECK(name(0) == QStringLiteral("Wren 60-13 B"));
    CHECK(table.model()->index(0, MotorModel::rank).data().toString() == QStringLiteral("1"));
    double last = 0;
    for (int row = 0; row < table.model()->rowCount(); ++row) {
        if (table.model()->index(row, MotorModel::tightest).data().toString().startsWith(QStringLiteral("over"))) break;
        const double price = table.model()->index(row, MotorModel::price).data().toDouble();
        CHECK(price >= last);
        last = price;
    }
    auto* bar = w.window.findChild<FilterBar*>();
    REQUIRE(bar);
    auto* words = w.child<QLineEdit>("filter-words");
    words->setFocus();
    QTest::keyClicks(words, QStringLiteral("heron 80"));
    w.settle();
    REQUIRE(table.model()->rowCount() == 6);
    for (int row = 0; row < 6; ++row) CHECK(name(row).startsWith(QStringLiteral("Heron 80")));
    bool said = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        said = said || l->text() == QStringLiteral("6 of 223 shown: 3 suitable, 0 unknown, 3 over");
    CHECK(said);
    // a bound that cannot be read is said, and leaves the rows as they are
    QLineEdit* price = nullptr;
    for (QLineEdit* e : bar->findChildren<QLineEdit*>())
        if (e->accessibleName() == QStringLiteral("Highest price")) price = e;
    REQUIRE(price);
    price->setFocus();
    QTest::keyClicks(price, QStringLiteral("cheap"));
    CHECK(price->property("wrong").toBool());
    CHECK(table.model()->rowCount() == 6);
    price->selectAll();
    QTest::keyClicks(price, QStringLiteral("600"));
    CHECK(!price->property("wrong").toBool());
    CHECK(table.model()->rowCount() == 2);
    bar->clear();
    CHECK(table.model()->rowCount() == 223);
    // a wheel that passes over a list chooses nothing
    for (Choice* c : bar->findChildren<Choice*>()) {
        w.window.setFocus();
        QWheelEvent turn(QPointF(5, 5), c->mapToGlobal(QPointF(5, 5)), {}, QPoint(0, -120), Qt::NoButton,
            Qt::NoModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(c, &turn);
        CHECK(c->currentIndex() == 0);
    }
    // on a linear axis the lists offer what there is
    w.document().select_axis(7);
    w.settle();
    table.judge_now();
    REQUIRE(QTest::qWaitFor([&] { return !table.model_of_motors().judging(); }, hanging));
    w.settle();
    for (Choice* c : bar->findChildren<Choice*>())
        if (c->accessibleName() == QStringLiteral("Series")) {
            CHECK(c->findText(QStringLiteral("Tern")) > 0);
            CHECK(c->findText(QStringLiteral("Wren")) < 0);
        }
}

TEST_CASE("columns are chosen, and stay chosen") {
    {
        Window w;
        MotorTable& table = catalogue_of(w);
        CHECK(table.isColumnHidden(MotorModel::frame));
        for (QAction* a : table.horizontalHeader()->actions())
            if (a->text() == QStringLiteral("Frame") || a->text() == QStringLiteral("Mass")) a->toggle();
        CHECK(!table.isColumnHidden(MotorModel::frame));
        CHECK(table.isColumnHidden(MotorModel::mass));
        CHECK(table.horizontalHeader()->logicalIndex(0) == MotorModel::rank);
        const Table shown = table_of(table); // as it is copied
        CHECK(std::find(shown.head.begin(), shown.head.end(), "Frame") != shown.head.end());
        CHECK(std::find(shown.head.begin(), shown.head.end(), "Mass") == shown.head.end());
        CHECK(shown.rows.size() == 223);
    }
    Window again;
    MotorTable& table = catalogue_of(again);
    CHECK(!table.isColumnHidden(MotorModel::frame));
    CHECK(table.isColumnHidden(MotorModel::mass));
    for (QAction* a : table.horizontalHeader()->actions())
        if (a->text() == QStringLiteral("Frame") || a->text() == QStringLiteral("Mass")) a->toggle();
}

TEST_CASE("up to four motors are compared by Space: their curves in the picture, their numbers side by side") {
    Window w;
    MotorTable& table = catalogue_of(w);
    auto* plot = w.window.findChild<SpeedTorquePlot*>();
    REQUIRE(plot);
    const auto curve_of = [&](const char* name) {
        for (int i = 0; i < plot->graphCount(); ++i)
            if (plot->graph(i)->name().contains(QLatin1String(name))) return plot->graph(i);
        return static_cast<QCPGraph*>(nullptr);
    };
    table.setFocus();
    for (const char* name : {"Wren 60-19 B", "Heron 80-16 B", "Wren 80-24 B", "Finch 28-03"}) {
        select_motor(table, name);
        QTest::keyClick(&table, Qt::Key_Space);
    }
    w.settle();
    REQUIRE(table.compared().size() == 4);
    REQUIRE(curve_of("Wren 60-19 B"));
    CHECK(curve_of("Wren 60-19 B")->data()->at(0)->value == Approx(5.7));
    // a fifth is refused with words
    QString refused;
    QObject::connect(&w.document(), &Document::refused, &w.window, [&](const QString& why) { refused = why; });
    select_motor(table, "Wren 80-32 B");
    QTest::keyClick(&table, Qt::Key_Space);
    CHECK(refused.contains(QStringLiteral("4 motors are compared already")));
    CHECK(table.compared().size() == 4);
    show_tab(w, "Compare");
    auto* numbers = w.child<QTableWidget>("compare");
    REQUIRE(numbers->columnCount() == 6); // what it is, the axis' own, and four
    CHECK(numbers->horizontalHeaderItem(1)->text() == QStringLiteral("Wren 60-13 B"));
    const auto cell = [&](const char* row, int column) {
        for (int r = 0; r < numbers->rowCount(); ++r)
            if (numbers->item(r, 0)->text() == QLatin1String(row)) return numbers->item(r, column)->text();
        return QString();
    };
    CHECK(cell("Continuous heat", 1) ==
          QStringLiteral("fits  ") + QString::fromStdString(use_text(w.limit("continuous_loss"))));
    CHECK(cell("Price", 2) == QStringLiteral("604 EUR"));
    CHECK(cell("State", 5).startsWith(QStringLiteral("over")));
    // what is compared follows the axis, whatever tab is seen
    const QString before = cell("Continuous heat", 2);
    REQUIRE(!w.document().set_quantity(w.path("/load/payload"), QStringLiteral("55 kg")));
    QTest::qWait(250);
    w.settle();
    CHECK(cell("Continuous heat", 2) != before);
    Axis heavier = w.document().axis();
    heavier.motor = table.compared()[0].motor;
    const double use = assess(w.document().machine(), heavier, "/axes/0").limit("continuous_loss")->utilisation();
    CHECK(cell("Continuous heat", 2)
              .endsWith(QString::fromStdString(format_number(100 * use, 3)) + QStringLiteral(" %")));
    // out again
    show_tab(w, "Catalogue");
    select_motor(table, "Wren 60-19 B");
    table.setFocus();
    QTest::keyClick(&table, Qt::Key_Space);
    CHECK(table.compared().size() == 3);
    CHECK(!curve_of("Wren 60-19 B"));
    // the motor of the pinned state is drawn as A
    w.document().pin();
    select_motor(table, "Wren 80-32 B");
    QTest::keyClick(&table, Qt::Key_Return);
    w.settle();
    REQUIRE(curve_of("peak of A"));
    CHECK(curve_of("peak of A")->data()->at(0)->value == Approx(3.81));
    w.document().unpin();
    w.settle();
    CHECK(!curve_of("peak of A"));
}

TEST_CASE("a winding of the frame is taken by a key and undone") {
    Window w;
    catalogue_of(w);
    show_tab(w, "Windings");
    auto* table = w.child<QTableWidget>("windings");
    REQUIRE(table->rowCount() == 13);
    const Motor was = w.document().axis().motor;
    table->setFocus();
    table->selectRow(6); // the one it has
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(w.document().axis().motor == was);
    table->selectRow(7);
    QTest::keyClick(table, Qt::Key_Return);
    w.settle();
    const Motor now = w.document().axis().motor;
    CHECK(now.name == "Wren 60-13 B, 1.25 × turns");
    CHECK(now.origin.find("rewound from Wren 60-13 B") == 0);
    CHECK(std::get<SineMotor>(now.electric).torque_constant.si ==
          Approx(1.25 * std::get<SineMotor>(was.electric).torque_constant.si));
    CHECK(w.document().assessment().limit("voltage")->utilisation() == Approx(0.968 / 0.95).epsilon(0.002));
    // a second Enter does not wind it once more
    QTest::keyClick(table, Qt::Key_Return);
    w.settle();
    CHECK(w.document().axis().motor == now);
    w.document().undo_stack().undo();
    CHECK(w.document().axis().motor == was);
    // without constants the page says what it waits for
    w.document().edit(QStringLiteral("bare"), [](Machine& m) { m.axes[0].motor.electric = SineMotor(); });
    w.settle();
    bool said = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        said = said ||
               (l->isVisible() && l->text().contains(QStringLiteral("waits for a torque, voltage or speed constant")));
    CHECK(said);
}

TEST_CASE("curves come from the ratings or a file, and say what they wait for or what is wrong in it") {
    Window w;
    catalogue_of(w);
    show_tab(w, "Datasheet");
    const Motor was = w.document().axis().motor;
    press(w, "Curves from the ratings");
    const Motor& made = w.document().axis().motor;
    CHECK(made.peak.size() == 3);
    CHECK(made.continuous.size() == 7);
    CHECK(made.peak[0].torque.si == Approx(std::get<SineMotor>(was.electric).peak_torque.si));
    w.document().undo_stack().undo();
    CHECK(w.document().axis().motor == was);
    w.document().edit(
        QStringLiteral("no peak"), [](Machine& m) { std::get<SineMotor>(m.axes[0].motor.electric).peak_torque = {}; });
    w.settle();
    press(w, "Curves from the ratings");
    const auto said = [&](const char* words) {
        for (QLabel* l : w.window.findChildren<QLabel*>())
            if (l->isVisible() && l->text().contains(QString::fromUtf8(words))) return true;
        return false;
    };
    CHECK(said("waits for: peak torque"));
    auto* page = w.window.findChild<WhatDrives*>();
    REQUIRE(page);
    const QString file = w.folder.filePath(QStringLiteral("curve.csv"));
    const auto write = [&](const char* text) {
        QFile f(file);
        REQUIRE(f.open(QIODevice::WriteOnly));
        f.write(text);
        f.close();
        page->read_curves(file);
        w.settle();
    };
    write("speed [rpm];continuous [N·m];peak [N·m]\n0;1,3;4\n3000;1,2;3,9\nnought;1;2\n6000;0,5;1,5\n");
    CHECK(w.document().axis().motor.peak.size() == 3);
    CHECK(w.document().axis().motor.continuous.size() == 3);
    CHECK(w.document().axis().motor.peak[1].torque.si == Approx(3.9));
    CHECK(w.document().axis().motor.continuous[2].torque.si == Approx(0.5));
    CHECK(said("line 4, speed"));
    write("speed [rpm],peak [N·m]\n0,5\n6000,2\n");
    CHECK(w.document().axis().motor.peak.size() == 2);
    CHECK(w.document().axis().motor.continuous.size() == 3); // the heading names the peak
    write("nothing of use");
    CHECK(w.document().axis().motor.peak.size() == 2);
    CHECK(said("line 1 has 1 column"));
    page->read_curves(QStringLiteral("/nowhere/curve.csv"));
    CHECK(said("cannot be read"));
}

TEST_CASE("a motor of one's own keeps where it came from, and a library holds it for other projects") {
    QFile::remove(motor_library().file());
    motor_library().reload();
    {
        Window w;
        MotorTable& table = catalogue_of(w);
        const int rows = table.model_of_motors().rowCount();
        show_tab(w, "Datasheet");
        REQUIRE(!w.document().set_quantity(w.path("/motor/rotor_inertia"), QStringLiteral("0.6 kg·cm²")));
        press(w, "Make it my own");
        CHECK(w.document().axis().motor.name == "Wren 60-13 B, changed");
        CHECK(w.document().axis().motor.origin == "changed from Wren 60-13 B, Aviary catalogue (invented)");
        CHECK(w.document().machine().motors.size() == 1);
        press(w, "Keep in my library");
        REQUIRE(motor_library().motors().size() == 1);
        CHECK(motor_library().motors()[0] == w.document().axis().motor);
        press(w, "Keep in my library"); // the same again is the same
        CHECK(motor_library().motors().size() == 1);
        CHECK(table.model_of_motors().rowCount() == rows + 2); // in the library and among the project's own
    }
    Window other;
    MotorTable& table = catalogue_of(other);
    select_motor(table, "Wren 60-13 B, changed · library");
    table.setFocus();
    QTest::keyClick(&table, Qt::Key_Return);
    other.settle();
    CHECK(other.document().axis().motor.rotor_inertia.text == "0.6 kg·cm²");
    CHECK(other.document().machine().motors.empty()); // what it replaced stands in the catalogue
    // another motor of the same name gets a name that is free
    Motor same = motor_library().motors()[0];
    same.price = Quantity<Kind::number>("1");
    CHECK(motor_library().add(same).isEmpty());
    REQUIRE(motor_library().motors().size() == 2);
    CHECK(motor_library().motors()[1].name == "Wren 60-13 B, changed (2)");
    select_motor(table, "Wren 60-13 B, changed (2) · library");
    QTest::keyClick(&table, Qt::Key_Delete);
    other.settle();
    CHECK(motor_library().motors().size() == 1);
    // one that is not finished can be kept, and does not stand in the way of others
    Motor begun;
    begun.name = "Half a sheet";
    CHECK(motor_library().add(begun).isEmpty());
    CHECK(motor_library().problem().isEmpty());
    CHECK(motor_library().add(same).isEmpty());
    CHECK(motor_library().motors().size() == 3);
    // a value that cannot be read might be lost in writing: the file is left alone
    QFile mended(motor_library().file());
    REQUIRE(mended.open(QIODevice::ReadOnly));
    const QByteArray whole = mended.readAll();
    mended.close();
    REQUIRE(mended.open(QIODevice::WriteOnly));
    mended.write(QByteArray(whole).replace("\"0.6 kg·cm²\"", "\"0.6 kg·cm\""));
    mended.close();
    CHECK(motor_library().add(begun).contains(QStringLiteral("rotor")));
    table.judge_now();
    REQUIRE(QTest::qWaitFor([&] { return !table.model_of_motors().judging(); }, hanging));
    other.settle();
    bool said = false;
    for (QLabel* l : other.window.findChildren<QLabel*>())
        said = said || (l->isVisible() && l->text().startsWith(QStringLiteral("library not read")));
    CHECK(said);
    // a file that cannot be read is said, and never written over
    QFile broken(motor_library().file());
    REQUIRE(broken.open(QIODevice::WriteOnly));
    broken.write("{ not a catalogue");
    broken.close();
    const QString wrong = motor_library().add(same);
    CHECK(!wrong.isEmpty());
    CHECK(motor_library().problem() == wrong);
    REQUIRE(broken.open(QIODevice::ReadOnly));
    CHECK(broken.readAll() == "{ not a catalogue");
    broken.remove();
    motor_library().reload();
}

TEST_CASE("a demand from elsewhere is loaded as a table where the mechanism is one, and nowhere else") {
    Window w;
    w.click_page(2);
    const auto link = [&](const char* text) {
        for (QPushButton* b : w.window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QString::fromUtf8(text)) return true;
        return false;
    };
    CHECK(link("Import G-code…"));
    CHECK(!link("Import demand…"));
    w.document().edit(QStringLiteral("given"), [](Machine& m) { m.axes[0].mechanism = GivenDemand{}; });
    w.settle();
    CHECK(link("Import demand…"));
    CHECK(!link("Import G-code…"));
    auto* page = w.window.findChild<HowMoves*>();
    REQUIRE(page);
    const auto before = w.document().axis().cycle.segments;
    const QString file = w.folder.filePath(QStringLiteral("demand.csv"));
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write("0.2;0;3000;2;2\n0.5;3000;3000;0,4;0,4\nsoon;3000;0;1;1\n0.2;3000;0;-1,2;-0,5\n0.6;0;0;0;0\n");
    f.close();
    page->import_demand(file);
    w.settle();
    CHECK(w.document().axis().cycle.segments.size() == 4);
    CHECK(w.document().assessment().demand->peak_speed == Approx(3000 * 2 * M_PI / 60));
    bool said = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        said = said || (l->isVisible() && l->text().contains(QStringLiteral("line 3, duration")));
    CHECK(said);
    CHECK(w.limit("inertia_ratio").state == LimitState::cannot_say);
    // a torque that changes is seen from the row and in its form
    CHECK(segment_sentence(w.document().axis().cycle.segments[2])
              .endsWith(QStringLiteral("pushing -1.2 N·m to -0.5 N·m")));
    w.child<SegmentTable>("segments")->select(2);
    w.settle();
    CHECK(w.edit("/cycle/segments/2/process_force_end")->isVisible());
    w.document().undo_stack().undo();
    CHECK(w.document().axis().cycle.segments == before);
}

TEST_CASE("a field that is folded away is unfolded and in view when one goes to it") {
    Window w;
    w.click_page(4);
    w.settle();
    w.window.go_to(w.path("/motor/shaft_torque"));
    w.settle();
    auto* edit = w.edit("/motor/shaft_torque");
    CHECK(edit->hasFocus());
    CHECK(edit->visibleRegion().boundingRect().height() == edit->height());
}

TEST_CASE("keys and clicks on a catalogue whose filter leaves nothing do nothing") {
    Window w;
    MotorTable& table = catalogue_of(w);
    auto* words = w.child<QLineEdit>("filter-words");
    words->setFocus();
    QTest::keyClicks(words, QStringLiteral("no such motor"));
    w.settle();
    REQUIRE(table.model()->rowCount() == 0);
    const std::string before = w.document().axis().motor.name;
    table.setFocus();
    for (const int key : {Qt::Key_Return, Qt::Key_Space, Qt::Key_Delete, Qt::Key_M, Qt::Key_1, Qt::Key_Home,
             Qt::Key_End, Qt::Key_Up, Qt::Key_Down, Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_F2, Qt::Key_Escape})
        QTest::keyClick(&table, static_cast<Qt::Key>(key));
    QTest::keyClick(&table, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClick(&table, Qt::Key_C, Qt::ControlModifier);
    QTest::mouseClick(table.viewport(), Qt::LeftButton, {}, QPoint(20, 20));
    QTest::mouseDClick(table.viewport(), Qt::LeftButton, {}, QPoint(20, 20));
    for (int role = 0; role <= motor_mark_role; ++role) CHECK(!table.model()->data(QModelIndex(), role).isValid());
    CHECK(w.document().axis().motor.name == before);
}

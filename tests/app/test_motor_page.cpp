// Values of a motor on its page: where they come from, their units, and what its sheet says twice.
#include "app/clip.h"
#include "app/pages/page.h"
#include "app/widgets/motor_table.h"
#include "app/widgets/sheet_view.h"
#include "tests/app/window.h"

#include <QClipboard>
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
            if (tabs->tabText(i) == QStringLiteral("Datasheet check")) tabs->setCurrentIndex(i);
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

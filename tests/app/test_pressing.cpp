// A press of the mouse meets what is under the pointer, and so does the second one.
#include "app/command_palette.h"
#include "app/parts/motor_table.h"
#include "app/parts/shelf_view.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QLineEdit>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableView>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// As the window system sends it: to whatever lies there at that moment.
void double_click(Window& w, QPoint at) {
    QTest::mouseDClick(w.window.windowHandle(), Qt::LeftButton, Qt::NoModifier, at);
    QApplication::processEvents();
}

// Every place to which the page of this widget can be scrolled.
std::vector<QScrollBar*> bars(QWidget* of) {
    std::vector<QScrollBar*> out;
    for (QWidget* up = of->parentWidget(); up; up = up->parentWidget())
        if (auto* area = qobject_cast<QScrollArea*>(up)) out.push_back(area->verticalScrollBar());
    return out;
}

// The part of it that is to be seen, in the window.
QRect seen(QWidget* widget, QWidget& window) {
    return widget->visibleRegion().boundingRect().translated(widget->mapTo(&window, QPoint()));
}

} // namespace

TEST_CASE("a double click takes the motor it was made on, wherever the page stands") {
    for (const QSize size : {QSize(1280, 800), QSize(1024, 700)}) {
        Window w;
        w.window.resize(size);
        w.click_page(4);
        w.settle();
        auto* table = w.child<MotorTable>("catalogue");
        int taken = 0;
        for (const double part : {0.0, 0.5, 1.0}) {
            for (const double within : {0.1, 0.5, 0.95}) {
                w.child<QLineEdit>("palette")->setFocus(); // the press brings the focus
                for (QScrollBar* b : bars(table)) b->setValue(static_cast<int>(part * b->maximum()));
                w.settle();
                const QRect view = seen(table->viewport(), w.window);
                if (view.height() < 30) continue;
                const QPoint at(view.left() + 40, view.top() + static_cast<int>(within * view.height()));
                const QModelIndex row = table->indexAt(table->viewport()->mapFrom(&w.window, at));
                if (!row.isValid()) continue;
                const std::string name = row.siblingAtColumn(MotorModel::name).data().toString().toStdString();
                INFO(name << " at " << part << ", " << within);
                double_click(w, at);
                CHECK(w.document().axis().motor.name == name);
                ++taken;
                w.document().undo_stack().undo();
                w.idle();
            }
        }
        CHECK(taken >= 3);
    }
}

TEST_CASE("a press on a field moves nothing under the pointer") {
    Window w;
    w.window.resize(1024, 700);
    w.click_page(1);
    w.settle();
    int pressed = 0;
    for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>()) {
        const QRect view = seen(e, w.window);
        if (!e->isVisible() || view.height() < 6) continue;
        w.child<QLineEdit>("palette")->setFocus();
        w.settle();
        const QPoint at = seen(e, w.window).center();
        double_click(w, at);
        w.settle();
        INFO(e->path().toStdString());
        CHECK(QApplication::widgetAt(w.window.mapToGlobal(at)) == e);
        CHECK(QApplication::focusWidget() == e);
        ++pressed;
    }
    CHECK(pressed >= 4);
}

TEST_CASE("Enter in the palette shows the motor, clears filters that hide it, or says why it cannot be had") {
    Window w;
    tab(w, "Datasheet");
    auto* table = w.child<MotorTable>("catalogue");
    auto* palette = w.child<CommandPalette>("palette");
    const auto find = [&](const char* name) {
        palette->setFocus();
        palette->selectAll();
        QTest::keyClicks(palette, QString::fromUtf8(name));
        QTest::keyClick(palette, Qt::Key_Return);
        w.idle();
    };
    find("Wren 60-19 B");
    CHECK(table->isVisible());
    CHECK(table->hasFocus());
    CHECK(table->currentIndex().siblingAtColumn(MotorModel::name).data().toString() == QStringLiteral("Wren 60-19 B"));
    // hidden by a filter
    auto* words = w.child<QLineEdit>("filter-words");
    words->setText(QStringLiteral("Heron"));
    w.idle();
    find("Wren 80-24 B");
    CHECK(table->currentIndex().siblingAtColumn(MotorModel::name).data().toString() == QStringLiteral("Wren 80-24 B"));
    CHECK(words->text().isEmpty());
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(w.document().axis().motor.name == "Wren 80-24 B");
    // of a kind that this axis cannot have
    const Motor was = w.document().axis().motor;
    std::string linear;
    for (int row = 0; row < table->model_of_motors().rowCount(); ++row)
        if (table->model_of_motors().motor(row).linear()) linear = table->model_of_motors().motor(row).name;
    REQUIRE(!linear.empty());
    find(linear.c_str());
    CHECK(w.window.message().contains(QString::fromStdString(linear)));
    CHECK(!table->currentIndex().isValid());
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(w.document().axis().motor == was);
}

// The palette: fields, commands, axes, motors, what pages do and what can be copied.
#include "app/command_palette.h"
#include "app/pages/registry.h"
#include "app/parts/motor_table.h"
#include "tests/app/own_files.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QClipboard>
#include <QListWidget>
#include <QPushButton>
#include <QStackedWidget>
#include <QTabWidget>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("the palette finds fields by screen words and words of the trade, told apart by their place") {
    Window w;
    auto* palette = w.child<CommandPalette>("palette");
    const auto look = [&](const char* words) {
        palette->setFocus();
        palette->selectAll();
        QTest::keyClicks(palette, QString::fromUtf8(words));
        QStringList out;
        for (const auto& c : palette->found()) out << c.text;
        return out;
    };
    CHECK(look("speed").contains(QStringLiteral("Speed · peak curve, point 2")));
    CHECK(look("travel per turn").filter(QStringLiteral("Lead · ")).size() == 1);
    CHECK(look("gearbox").size() > 0);
    CHECK(look("kt").filter(QStringLiteral("Torque constant")).size() >= 1);
    CHECK(look("shuttle").contains(QStringLiteral("Tile shuttle")));
    CHECK(look("altitude").filter(QStringLiteral("Altitude")).size() == 1);
    CHECK(look("wren 80-24").filter(QStringLiteral("Wren 80-24")).size() > 0);
    CHECK(look("pdf").filter(QStringLiteral("Report as PDF")).size() == 1);
    CHECK(look("page 3").size() == 1);
    CHECK(look("zzz nothing").isEmpty());
    auto* list = w.child<QListWidget>("palette-list");
    CHECK(list->isVisible());
    CHECK(list->item(0)->text() == QStringLiteral("nothing found"));
    QTest::keyClick(palette, Qt::Key_Return); // of nothing comes nothing
    CHECK(w.document().machine().axes.size() == 11);
}

TEST_CASE("Escape clears the palette and then gives the focus back") {
    Window w;
    w.window.focus_page(0);
    QWidget* before = QApplication::focusWidget();
    REQUIRE(before);
    QTest::keyClick(before, Qt::Key_K, Qt::ControlModifier);
    auto* palette = w.child<CommandPalette>("palette");
    REQUIRE(palette->hasFocus());
    CHECK(palette->matches() > 5); // suggestions
    QTest::keyClicks(palette, QStringLiteral("lead"));
    QTest::keyClick(palette, Qt::Key_Escape);
    CHECK(palette->text().isEmpty());
    CHECK(palette->hasFocus());
    QTest::keyClick(palette, Qt::Key_Escape);
    CHECK(QApplication::focusWidget() == before);
    // and a field that was found has it
    QTest::keyClick(before, Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(palette, QStringLiteral("root diameter"));
    QTest::keyClick(palette, Qt::Key_Return);
    w.settle();
    CHECK(w.edit("/mechanism/root_diameter")->hasFocus());
}

TEST_CASE("a motor found in the palette is shown in the catalogue, and Enter takes it") {
    Window w;
    auto* palette = w.child<CommandPalette>("palette");
    palette->setFocus();
    QTest::keyClicks(palette, QStringLiteral("wren 80-32"));
    QTest::keyClick(palette, Qt::Key_Return);
    w.settle();
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(table->hasFocus());
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(w.document().axis().motor.name.find("Wren 80-32") == 0);
}

TEST_CASE("motors of one's own library and of the project are found in the palette, and every tab the axis has") {
    NoLibrary none;
    Motor own = demo().axes[0].motor;
    own.name = "Nuthatch of my own";
    REQUIRE(motor_library().add(own).isEmpty());
    Window w;
    auto* palette = w.window.findChild<CommandPalette*>();
    REQUIRE(palette);
    const auto run = [&](const char* words) {
        palette->setFocus();
        palette->clear();
        QTest::keyClicks(palette, QString::fromUtf8(words));
        REQUIRE(palette->matches() > 0);
        QTest::keyClick(palette, Qt::Key_Return);
        w.settle();
    };
    run("Nuthatch of my own");
    QTest::keyClick(w.window.findChild<MotorTable*>(), Qt::Key_Return);
    w.settle();
    CHECK(w.document().axis().motor.name == "Nuthatch of my own");
    int tabs = 0;
    for (const PageEntry& page : page_registry())
        for (const TabEntry& tab : page.tabs) {
            if (tab.card && !has_card(w.document().axis(), *tab.card)) continue;
            palette->setFocus();
            palette->clear();
            QTest::keyClicks(palette, QString::fromUtf8(tab.name));
            const auto& found = palette->found();
            INFO(tab.name);
            const auto at = std::find_if(found.begin(), found.end(), [&](const CommandPalette::Command& c) {
                return c.text == QString::fromUtf8(tab.name) && c.hint.contains(QStringLiteral("tab of"));
            });
            REQUIRE(at != found.end());
            const auto go = at->run;
            go();
            w.settle();
            bool in_front = false;
            for (QTabWidget* t : w.window.findChildren<QTabWidget*>())
                in_front = in_front || (t->isVisible() && t->tabText(t->currentIndex()) == QString::fromUtf8(tab.name));
            CHECK(in_front);
            ++tabs;
        }
    CHECK(tabs == 21);
}

TEST_CASE("what the pages do and what can be copied is found in the palette") {
    Window w;
    auto* palette = w.child<CommandPalette>("palette");
    const auto run = [&](const char* words, const char* wanted) {
        palette->setFocus();
        palette->clear();
        QTest::keyClicks(palette, QString::fromUtf8(words));
        INFO(words);
        REQUIRE(palette->matches() > 0);
        CHECK(palette->found().front().text.toStdString() == wanted);
        QTest::keyClick(palette, Qt::Key_Return);
        w.settle();
    };
    const std::size_t before = w.document().axis().cycle.segments.size();
    run("add a dwell", "Add a dwell");
    CHECK(w.document().axis().cycle.segments.size() == before + 1);
    run("copy figures", "Copy figures");
    const QString held = QGuiApplication::clipboard()->text();
    for (const Figure& f : w.document().assessment().figures) CHECK(held.contains(QString::fromStdString(f.label)));
    for (const PageEntry& page : page_registry())
        for (const PageAction& does : page.actions) {
            w.window.show_page(static_cast<int>(&page - page_registry().data()));
            int buttons = 0;
            for (const auto* b : w.window.findChild<QStackedWidget*>()->currentWidget()->findChildren<QPushButton*>())
                buttons += b->objectName() == QLatin1String(does.button) ||
                           b->property("action").toString() == QLatin1String(does.button);
            INFO(does.words);
            CHECK(buttons == 1);
        }
}

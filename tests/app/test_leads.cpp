// What leads where: limits, figures and plots that wait to their fields, the finder to all there is, F1 to its chapter,
// and a first axis through the pages.
#include "app/bricks/missing_label.h"
#include "app/bricks/note_line.h"
#include "app/command_palette.h"
#include "app/first_axis.h"
#include "app/guide.h"
#include "app/guide_chapters.h"
#include "app/ledger.h"
#include "app/pages/registry.h"
#include "app/parts/part_cards.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/torque_plot.h"
#include "app/results/figures.h"
#include "app/words.h"
#include "core/match/figures.h"
#include "core/match/limits.h"
#include "core/model/walk.h"
#include "tests/app/window.h"
#include "tests/demo.h"

#include <QFile>
#include <QLineEdit>
#include <QTextBlock>
#include <QTextDocument>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// The field that has the keyboard, whatever part of it that is.
QString focused_field() {
    for (QWidget* w = QApplication::focusWidget(); w; w = w->parentWidget())
        if (w->objectName().startsWith(QLatin1Char('/'))) return w->objectName();
    return {};
}

void empty_field(Window& w, const char* field) {
    w.document().edit(QStringLiteral("empty"), [&](Machine& m) {
        auto found = find_field(m, w.path(field).toStdString());
        REQUIRE(found);
        *found->quantity = {};
    });
    w.settle();
}

std::vector<app::NoteLine*> links(app::LimitRow* row) {
    std::vector<app::NoteLine*> out;
    for (app::NoteLine* line : row->findChildren<app::NoteLine*>())
        if (line->isVisible()) out.push_back(line);
    return out;
}

} // namespace

TEST_CASE("a limit that cannot be said lists what it waits for, and each line leads there by mouse and by keys") {
    Window w;
    empty_field(w, "/mechanism/lead");
    empty_field(w, "/coupling/allowable_torque");
    for (const auto& [key, field] :
        {std::pair("peak_torque", "/mechanism/lead"), std::pair("coupling", "/mechanism/lead")}) {
        INFO(key);
        w.click_page(3);
        auto* row = w.child<app::LimitRow>((std::string("limit/") + key).c_str());
        row->setFocus();
        if (!row->is_open()) QTest::keyClick(row, Qt::Key_Space);
        w.settle();
        REQUIRE(!links(row).empty());
        CHECK(links(row).front()->text().contains(QStringLiteral("Lead")));
        row->setFocus();
        QTest::keyClick(row, Qt::Key_Tab);
        REQUIRE(QApplication::focusWidget() == links(row).front());
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Space);
        w.settle();
        CHECK(focused_field() == w.path(field));
    }
    // once the lead is there the coupling waits for its own rating, on another page
    w.document().undo_stack().undo();
    w.document().undo_stack().undo();
    empty_field(w, "/coupling/allowable_torque");
    auto* row = w.child<app::LimitRow>("limit/coupling");
    if (!row->is_open()) QTest::mouseClick(row, Qt::LeftButton, {}, {20, 8});
    w.settle();
    REQUIRE(links(row).size() == 1);
    QTest::mouseClick(links(row).front(), Qt::LeftButton);
    w.settle();
    CHECK(focused_field() == w.path("/coupling/allowable_torque"));
}

TEST_CASE("every field that a limit or figure waits for can be gone to") {
    int tried = 0;
    Window w;
    const Machine demo_machine = w.document().machine();
    for (int axis = 0; axis < static_cast<int>(demo_machine.axes.size()); ++axis) {
        w.document().select_axis(axis);
        Machine copy = demo_machine;
        std::vector<std::string> fields;
        for (const FieldRef& f :
            walk(copy.axes[static_cast<std::size_t>(axis)], w.document().axis_path().toStdString()))
            if (f.type == FieldRef::Type::quantity && f.active && f.quantity_spec.required && f.quantity->given())
                fields.push_back(f.path);
        // a few of each axis; together they are of every page and card
        for (std::size_t i = 0; i < fields.size(); i += 1 + fields.size() / 6) {
            const QString place = QString::fromStdString(fields[i]).mid(w.document().axis_path().size());
            INFO(place.toStdString() << " of axis " << axis);
            empty_field(w, place.toUtf8().constData());
            const Assessment& a = w.document().assessment();
            const auto waits = std::find_if(a.limits.begin(), a.limits.end(), [&](const Limit& l) {
                return std::any_of(
                    l.waits_for.begin(), l.waits_for.end(), [&](const Missing& m) { return m.path == fields[i]; });
            });
            if (waits != a.limits.end()) {
                w.window.go_to(qs(fields[i]));
                w.settle();
                CHECK(focused_field() == qs(fields[i]));
                ++tried;
            }
            w.document().undo_stack().undo();
            w.settle();
        }
    }
    CHECK(tried > 30);
}

TEST_CASE("a figure and a plot that wait lead to their field") {
    Window w;
    w.document().edit(QStringLiteral("empty"),
        [](Machine& m) { std::get<MoveInTime>(m.axes[0].cycle.segments[0].what).distance = {}; });
    w.click_page(3);
    w.settle();
    auto* plot = w.window.findChild<TorquePlot*>();
    auto* label = plot->findChild<MissingLabel*>();
    REQUIRE(label);
    REQUIRE(label->isVisible());
    CHECK(label->path() == w.path("/cycle/segments/0/what/distance"));
    label->setFocus();
    QTest::keyClick(label, Qt::Key_Return);
    w.settle();
    CHECK(focused_field() == w.path("/cycle/segments/0/what/distance"));
    w.click_page(3);
    w.settle();
    FigureTiles* tiles = nullptr;
    for (FigureTiles* t : w.window.findChildren<FigureTiles*>())
        if (t->isVisible()) tiles = t;
    REQUIRE(tiles);
    tiles->setFocus();
    QTest::keyClick(tiles, Qt::Key_Return);
    w.settle();
    CHECK(focused_field() == w.path("/cycle/segments/0/what/distance"));
}

TEST_CASE("the finder knows parts, headings, limits, options, words of the trade, and what another mechanism has") {
    Window w;
    auto* palette = w.child<CommandPalette>("palette");
    const auto first = [&](const char* words) {
        palette->setFocus();
        palette->clear();
        QTest::keyClicks(palette, QString::fromUtf8(words));
        INFO(words);
        REQUIRE(palette->matches() > 0);
        QTest::keyClick(palette, Qt::Key_Return);
        w.settle();
    };
    const auto card = [&] { return w.window.findChild<PartCards*>()->current(); };
    first("gearhead");
    CHECK(card() == CardOf::gearhead);
    first("coupling");
    CHECK(card() == CardOf::coupling);
    first("gearbox");
    CHECK(card() == CardOf::gearhead);
    first("misalignment");
    CHECK((card() == CardOf::coupling || w.child<app::LimitRow>("limit/coupling_alignment")->is_open()));
    first("trapezoidal");
    CHECK(focused_field() == w.path("/mechanism/thread"));
    first("parts list");
    first("headroom");
    const bool any_open = [&] {
        for (app::LimitRow* row : w.window.findChildren<app::LimitRow*>())
            if (row->is_open()) return true;
        return false;
    }();
    CHECK(any_open);
    first("critical speed");
    // the demo's first axis has a screw: what a belt has leads to the choice of the mechanism
    palette->setFocus();
    palette->clear();
    QTest::keyClicks(palette, QStringLiteral("pulley inertia"));
    REQUIRE(palette->matches() > 0);
    CHECK(palette->found().front().hint.contains(QStringLiteral("of another kind")));
    QTest::keyClick(palette, Qt::Key_Return);
    w.settle();
    CHECK(focused_field().startsWith(w.path("/mechanism")));
}

TEST_CASE("every limit, figure and field has a chapter, and the guide has it") {
    QFile file(QStringLiteral(":/guide.md"));
    REQUIRE(file.open(QIODevice::ReadOnly));
    QTextDocument guide;
    guide.setMarkdown(QString::fromUtf8(file.readAll()));
    QStringList headings;
    for (QTextBlock b = guide.begin(); b.isValid(); b = b.next())
        if (b.blockFormat().headingLevel() == 2) headings << b.text();
    CHECK(headings.size() > 20);
    for (const FigureRow& row : figure_rows()) {
        INFO(row.key);
        CHECK(headings.contains(app::chapter_of_key(row.key)));
    }
    for (const auto& row : limit_rows()) {
        INFO(row.key);
        CHECK(headings.contains(app::chapter_of_key(row.key)));
    }
    Machine m = demo();
    for (std::size_t i = 0; i < m.axes.size(); ++i)
        for (const FieldRef& f : walk(m.axes[i], "")) {
            INFO(f.path);
            CHECK(headings.contains(app::chapter_of_place(qs(f.path))));
        }
    for (const app::PageEntry& page : app::page_registry()) CHECK(headings.contains(QString::fromUtf8(page.question)));
}

TEST_CASE("F1 opens the chapter of what has the keyboard") {
    Window w;
    const auto chapter = [&](QWidget* focus) {
        focus->setFocus();
        QTest::keyClick(focus, Qt::Key_F1);
        w.settle();
        const QString shown = w.window.findChild<Guide*>()->text_in_view();
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Escape);
        w.settle();
        return shown;
    };
    CHECK(chapter(w.child<app::LimitRow>("limit/buckling")) == QStringLiteral("Screw"));
    CHECK(chapter(w.child<app::LimitRow>("limit/coupling")) == QStringLiteral("Coupling"));
    w.window.go_to(w.path("/accuracy/asked"));
    w.settle();
    CHECK(chapter(QApplication::focusWidget()) == QStringLiteral("Precision and stiffness"));
}

TEST_CASE("a first axis is led through the pages, from the mechanism to a motor") {
    Window w;
    w.window.begin_first_axis();
    w.settle();
    auto* strip = w.window.findChild<FirstAxis*>();
    REQUIRE(strip->isVisible());
    const auto press = [&](const char* action) {
        for (QPushButton* b : strip->findChildren<QPushButton*>())
            if (b->isVisible() && b->property("action").toString() == QLatin1String(action)) {
                QTest::mouseClick(b, Qt::LeftButton);
                return w.settle();
            }
        FAIL("no " << action);
    };
    CHECK(strip->step().path == w.path("/mechanism"));
    press("first-next");
    // each value that is missing, as the strip asks for them
    const std::pair<const char*, const char*> answers[] = {{"lead", "10 mm"}, {"diameter", "20 mm"},
        {"length", "600 mm"}, {"efficiency", "0.9"}, {"root_diameter", "17 mm"}, {"carriage_mass", "10 kg"},
        {"payload", "20 kg"}, {"distance", "300 mm"}, {"duration", "1 s"}, {"free_length", "550 mm"},
        {"loaded_length", "500 mm"}};
    for (int steps = 0; steps < 40 && !strip->step().path.endsWith(QStringLiteral("/demand")); ++steps) {
        const QString path = strip->step().path;
        INFO(path.toStdString() << ": " << strip->step().words.toStdString());
        if (path.contains(QStringLiteral("/cycle/segments")) && !path.contains(QStringLiteral("segments/"))) {
            press("first-show");
            for (QPushButton* b : w.window.findChildren<QPushButton*>())
                if (b->isVisible() && b->objectName() == QStringLiteral("add-move")) {
                    QTest::mouseClick(b, Qt::LeftButton);
                    break;
                }
            w.settle();
            continue;
        }
        press("first-show");
        REQUIRE(focused_field() == path);
        REQUIRE(strip->marked());
        CHECK(strip->marked()->objectName() == path);
        CHECK(w.window.isAncestorOf(QApplication::focusWidget()));
        const char* answer = "1";
        for (const auto& [name, value] : answers)
            if (path.endsWith(QLatin1Char('/') + QLatin1String(name))) answer = value;
        for (const char c : std::string(answer)) QTest::keyClick(QApplication::focusWidget(), c);
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
        w.settle();
        REQUIRE(strip->step().path != path);
    }
    CHECK(strip->step().path == w.path("/demand"));
    press("first-next");
    CHECK(strip->step().path == w.path("/motor"));
    press("first-end");
    CHECK(!strip->isVisible());
    // another project ends it too
    w.window.begin_first_axis();
    w.settle();
    CHECK(strip->isVisible());
    w.window.open_demo();
    CHECK(!strip->isVisible());
}

// The table of segments, the pictures of bodies, tables of plots, and what a start reads early.
#include "app/early.h"
#include "app/forms/body_picture.h"
#include "app/forms/list_editor.h"
#include "app/forms/segment_table.h"
#include "app/pages/how_moves.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/path_plot.h"
#include "app/plots/torque_plot.h"
#include "app/quick_sums.h"
#include "core/load/bodies.h"
#include "tests/app/window.h"

#include <QCheckBox>
#include <QStackedWidget>
#include <QTabWidget>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// Opens a cell with F2 and gives its line.
QuantityEdit* open_cell(SegmentTable* table, int row, int column) {
    table->setFocus();
    table->setCurrentCell(row, column);
    QTest::keyClick(table, Qt::Key_F2);
    QApplication::processEvents();
    QuantityEdit* open = nullptr; // a line that was closed may still wait for its end
    for (QuantityEdit* e : table->findChildren<QuantityEdit*>(QStringLiteral("cell-edit")))
        if (e->isVisible()) open = e;
    return open;
}

// Rows of a table of numbers under a header row in quotes.
std::vector<std::vector<double>> numbers(const QString& csv) {
    std::vector<std::vector<double>> out;
    const QStringList lines = csv.split(QLatin1Char('\n'), Qt::SkipEmptyParts);
    for (int i = 1; i < lines.size(); ++i) {
        std::vector<double>& row = out.emplace_back();
        for (const QString& cell : lines[i].split(QLatin1Char(','))) row.push_back(cell.toDouble());
    }
    return out;
}

} // namespace

TEST_CASE("a cell of the segment table is typed into, is live, and is one undo") {
    Window w;
    w.click_page(2);
    auto* table = w.child<SegmentTable>("segments");
    const std::string before = std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).duration.text;
    const int undos = w.document().undo_stack().count();
    QuantityEdit* line = open_cell(table, 0, SegmentTable::time);
    REQUIRE(line);
    line->selectAll();
    QTest::keyClicks(line, QStringLiteral("0.4+0.5"));
    // live, before Enter: plan, form and plot follow
    CHECK(w.document().assessment().motion->phases[1].start == Approx(0.9));
    CHECK(w.edit("/cycle/segments/0/what/duration")->text() == QStringLiteral("(0.4+0.5) s"));
    QTest::keyClick(line, Qt::Key_Return);
    QApplication::processEvents();
    CHECK(table->item(0, SegmentTable::time)->text() == QStringLiteral("(0.4+0.5) s"));
    CHECK(w.document().undo_stack().count() == undos + 1);
    w.document().undo_stack().undo();
    CHECK(std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).duration.text == before);
    CHECK(table->item(0, SegmentTable::time)->text() == QString::fromStdString(before));
}

TEST_CASE("Escape in a cell brings the old value back; rubbish says why and changes nothing") {
    Window w;
    w.click_page(2);
    auto* table = w.child<SegmentTable>("segments");
    QuantityEdit* line = open_cell(table, 0, SegmentTable::distance);
    REQUIRE(line);
    line->selectAll();
    QTest::keyClicks(line, QStringLiteral("250 mm"));
    CHECK(w.document().assessment().motion->highest == Approx(0.25));
    QTest::keyClick(line, Qt::Key_Escape);
    QApplication::processEvents();
    CHECK(w.document().assessment().motion->highest == Approx(0.4));
    line = open_cell(table, 0, SegmentTable::time);
    REQUIRE(line);
    line->selectAll();
    QTest::keyClicks(line, QStringLiteral("3 kg"));
    CHECK(line->wrong());
    CHECK(said(w).contains(QStringLiteral("3 kg")));
    QTest::keyClick(line, Qt::Key_Return);
    QApplication::processEvents();
    CHECK(said(w).contains(QStringLiteral("not in use")));
    // "3" alone would be a time, but was not meant: what was there before the typing stays in use
    CHECK(std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).duration.text == "0.75 s");
    CHECK(table->item(0, SegmentTable::time)->text() == QStringLiteral("3 kg"));
    CHECK(table->item(0, SegmentTable::time)->foreground().color() == theme().over);
    // opened again it stands there to be put right, and Escape gives the last good value back
    line = open_cell(table, 0, SegmentTable::time);
    REQUIRE(line);
    CHECK(line->text() == QStringLiteral("3 kg"));
    QTest::keyClick(line, Qt::Key_Escape);
    QApplication::processEvents();
    CHECK(said(w).isEmpty());
    CHECK(table->item(0, SegmentTable::time)->text() == QStringLiteral("0.75 s"));
}

TEST_CASE("what follows from limits is shown in the table and cannot be typed") {
    Window w;
    w.document().select_axis(1); // the shuttle goes back within limits
    w.click_page(2);
    auto* table = w.child<SegmentTable>("segments");
    const auto& segments = w.document().axis().cycle.segments;
    REQUIRE(std::holds_alternative<MoveByLimits>(segments[2].what));
    const QString shown = table->item(2, SegmentTable::time)->text();
    const double planned = w.document().assessment().motion->phases[2].duration;
    CHECK(shown.section(QLatin1Char(' '), 0, 0).toDouble() == Approx(planned).epsilon(1e-3));
    CHECK(!(table->item(2, SegmentTable::time)->flags() & Qt::ItemIsEditable));
    CHECK(table->item(2, SegmentTable::distance)->flags() & Qt::ItemIsEditable);
    CHECK(table->item(2, SegmentTable::time)->foreground() != table->item(0, SegmentTable::time)->foreground());
    // the payload of a row is that of the file, empty where it stays
    CHECK(table->item(1, SegmentTable::carried)->text() == QString::fromStdString(segments[1].payload.text));
    CHECK(table->item(0, SegmentTable::carried)->text().isEmpty());
    // every row tells itself whole on hover
    for (int r = 0; r < table->rowCount(); ++r)
        CHECK(table->item(r, SegmentTable::what)
                  ->toolTip()
                  .contains(segment_sentence(segments[static_cast<std::size_t>(r)])));
}

TEST_CASE("rotary axes and axes that carry nothing have their own columns") {
    Window w;
    w.click_page(2);
    auto* table = w.child<SegmentTable>("segments");
    CHECK(table->horizontalHeaderItem(SegmentTable::distance)->text() == QStringLiteral("distance"));
    CHECK(table->horizontalHeaderItem(SegmentTable::carried)->text() == QStringLiteral("payload"));
    w.document().select_axis(2);
    QApplication::processEvents();
    CHECK(table->horizontalHeaderItem(SegmentTable::distance)->text() == QStringLiteral("angle"));
    w.document().set_choice(w.path("/mechanism"), 11); // a fan carries nothing
    REQUIRE(std::holds_alternative<Fan>(w.document().axis().mechanism));
    CHECK(table->horizontalHeaderItem(SegmentTable::carried)->text() == QStringLiteral("torque"));
    QuantityEdit* line = open_cell(table, 0, SegmentTable::carried);
    REQUIRE(line);
    QTest::keyClicks(line, QStringLiteral("2 N*m"));
    CHECK(w.document().axis().cycle.segments[0].process_force.si == Approx(2));
}

TEST_CASE("each body has its picture, and says its mass, inertia and share of the load side") {
    Window w;
    w.document().select_axis(2);
    w.click_page(1);
    ListEditor* editor = nullptr;
    for (ListEditor* l : w.window.findChildren<ListEditor*>())
        if (l->findChild<BodyPicture*>()) editor = l;
    REQUIRE(editor);
    auto* picture = editor->findChild<BodyPicture*>();
    const auto& bodies = w.document().axis().bodies;
    REQUIRE(bodies.size() >= 3);
    QImage last;
    for (std::size_t i = 0; i < bodies.size(); ++i) {
        editor->select(static_cast<int>(i));
        QApplication::processEvents();
        const BodyValue v = body_value(bodies[i], w.document().machine().materials, false);
        const Assessment& a = w.document().assessment();
        const InertiaShare* share = nullptr;
        for (const InertiaShare& s : a.inertia->shares)
            if (s.key == "body_" + std::to_string(i + 1)) share = &s;
        REQUIRE(share);
        const QStringList words = picture->words();
        INFO(words.join(QLatin1Char('|')).toStdString());
        REQUIRE(words.size() == 4);
        CHECK(words[0].section(QLatin1Char(' '), 0, 0).toDouble() == Approx(v.mass).epsilon(1e-3));
        CHECK(words[3].section(QLatin1Char(' '), 0, 0).toDouble() ==
              Approx(100 * share->at_shaft / a.inertia->load).epsilon(0.01));
        const QImage now = picture->grab().toImage();
        CHECK(now != last); // each looks like itself
        last = now;
    }
    // in each unit system the lines have room
    for (const UnitSystem system : {UnitSystem::si, UnitSystem::inch_pound}) {
        w.document().set_choice(QStringLiteral("/unit_system"), static_cast<int>(system));
        for (std::size_t i = 0; i < bodies.size(); ++i) {
            editor->select(static_cast<int>(i));
            for (const QString& line : picture->words()) {
                INFO(line.toStdString());
                CHECK(
                    QFontMetrics(type_face(12)).horizontalAdvance(line) <= picture->width() - BodyPicture::words_left);
            }
        }
    }
    // a body that cannot be calculated says so
    editor->select(0);
    w.type("/bodies/0/shape/diameter", "1 kg");
    w.document().edit(QStringLiteral("clear"), [](Machine& m) { m.axes[2].bodies[0].material = "Unobtainium"; });
    CHECK(picture->words().size() == 1);
}

TEST_CASE("a change of the table of materials reaches every axis that names it") {
    Window w;
    w.document().select_axis(2);
    const double before = w.document().assessment(2).inertia->load;
    w.document().edit(QStringLiteral("denser"), [](Machine& m) {
        for (Material& x : m.materials)
            if (x.density.given()) x.density.si *= 2;
    });
    CHECK(w.document().assessment(2).inertia->load > before * 1.2);
}

TEST_CASE("tables of the plots hold what the plots show, and add up") {
    Window w;
    w.click_page(3);
    auto* torque = w.window.findChild<TorquePlot*>();
    REQUIRE(torque);
    const auto rows = numbers(torque->csv());
    REQUIRE(rows.size() > 20);
    const Demand& d = *w.document().assessment().demand;
    CHECK(torque->csv().startsWith(QStringLiteral("\"time, s\",\"load inertia, N·m\"")));
    double peak = 0;
    for (const auto& r : rows) {
        REQUIRE(r.size() == 10);
        CHECK(r[1] + r[2] + r[3] + r[4] + r[5] + r[6] == Approx(r[7]).margin(1e-12));
        CHECK(r[7] * r[8] * M_PI / 30 == Approx(r[9]).margin(1e-9)); // N·m, rpm, W
        peak = std::max(peak, std::abs(r[7]));
    }
    CHECK(peak == Approx(std::abs(d.peak.torque)));
    for (QTabWidget* t : w.window.findChildren<QTabWidget*>())
        if (t->isVisible()) t->setCurrentIndex(1);
    auto* path = w.window.findChild<PathPlot*>();
    REQUIRE(path);
    const auto points = numbers(path->csv());
    REQUIRE(points.size() > 10);
    for (const auto& p : points)
        if (p[0] < d.cycle_time * 0.999 && p[0] > 0) CHECK(std::abs(p[1]) <= d.peak_speed * 30 / M_PI * (1 + 1e-9));
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("path.csv"));
    CHECK(path->export_to(file).isEmpty());
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadOnly));
    CHECK(QString::fromUtf8(f.readAll()) == path->csv());
}

TEST_CASE("A lies dashed under the cycle and under the path, and goes when it is let go") {
    Window w;
    w.click_page(2);
    auto* plot = w.window.findChild<CyclePlot*>();
    const auto drawn = [&](double at) { // does any graph without a name hold this key
        for (int i = 0; i < plot->graphCount(); ++i)
            if (plot->graph(i)->name().isEmpty())
                for (const auto& d : *plot->graph(i)->data())
                    if (std::abs(d.key - at) < 1e-9) return true;
        return false;
    };
    const double end = w.document().assessment().motion->duration;
    CHECK(!drawn(end));
    QTest::keyClick(&w.window, Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    w.type("/cycle/segments/0/what/duration", "2 s");
    CHECK(w.document().assessment().motion->duration != Approx(end));
    CHECK(drawn(end));
    w.document().unpin();
    QApplication::processEvents();
    CHECK(!drawn(end));
}

TEST_CASE("the export takes a step, and refuses one that would never end") {
    Window w;
    w.click_page(2);
    auto* page = w.window.findChild<HowMoves*>();
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("motion.csv"));
    page->export_motion(file, 0.01);
    QFile f(file);
    REQUIRE(f.open(QIODevice::ReadOnly));
    const double cycle = w.document().assessment().motion->duration;
    const auto rows = static_cast<double>(QString::fromUtf8(f.readAll()).count(QLatin1Char('\n')));
    CHECK(std::abs(rows - cycle / 0.01 - 2) <= 1);
    const QString none = folder.filePath(QStringLiteral("none.csv"));
    page->export_motion(none, 1e-9);
    CHECK(said(w).contains(QStringLiteral("rows")));
    CHECK(!QFile::exists(none));
    page->export_motion(none, 0);
    CHECK(!QFile::exists(none));
}

TEST_CASE("quick sums open from page 2 and by their keys") {
    Window w;
    w.click_page(2);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->property("action").toString() == QStringLiteral("quick-sums"))
            QTest::mouseClick(b, Qt::LeftButton);
    auto* sums = w.window.findChild<QuickSums*>();
    REQUIRE(sums);
    CHECK(sums->isVisible());
    sums->close();
    QTest::keyClick(&w.window, Qt::Key_R, Qt::ControlModifier);
    CHECK(sums->isVisible());
}

TEST_CASE("the keyboard goes into the page that is shown") {
    Window w;
    QTest::mouseClick(w.child<QPushButton>("page/1"), Qt::LeftButton);
    CHECK(w.child<QPushButton>("page/1")->hasFocus());
    QTest::keyClick(&w.window, Qt::Key_3, Qt::ControlModifier);
    CHECK(w.child<QPushButton>("page/3")->isChecked());
    QWidget* page = w.window.findChild<QStackedWidget*>()->currentWidget();
    REQUIRE(QApplication::focusWidget());
    CHECK(page->isAncestorOf(QApplication::focusWidget()));
}

TEST_CASE("a field of a body that is asked for comes into view") {
    Window w;
    w.window.go_to(QStringLiteral("/axes/2/bodies/2/offset"));
    w.settle();
    QuantityEdit* e = w.edit("/bodies/2/offset");
    CHECK(e->hasFocus());
    QWidget* area = e->parentWidget();
    while (area && !qobject_cast<QScrollArea*>(area)) area = area->parentWidget();
    REQUIRE(area);
    const QPoint top = e->mapTo(area, QPoint(0, 0));
    CHECK(top.y() >= 0);
    CHECK(top.y() + e->height() <= area->height());
}

TEST_CASE("what a start reads early is what was asked for, and nothing else") {
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("own.fulmox"));
    Machine m;
    m.name = "Own machine";
    REQUIRE(save_project(file, m).isEmpty());
    QByteArray name = file.toLocal8Bit();
    char program[] = "fulmox", platform[] = "-platform", offscreen[] = "offscreen", demo[] = "--demo";
    {
        char* arguments[] = {program, name.data()};
        EarlyWork early(2, arguments);
        early.fonts_ready();
        auto opening = early.project(file, false);
        REQUIRE(opening);
        REQUIRE(opening->project);
        CHECK(opening->project->machine.name == "Own machine");
    }
    {
        // what Qt takes out of the arguments looks like a file until then
        char* arguments[] = {program, platform, offscreen};
        EarlyWork early(3, arguments);
        CHECK(!early.project({}, false));
    }
    {
        char* arguments[] = {program, demo};
        EarlyWork early(2, arguments);
        auto opening = early.project({}, true);
        REQUIRE(opening);
        CHECK(opening->project->machine.axes.size() >= 6);
        MainWindow window(folder.path(), nullptr, std::move(opening));
        CHECK(window.document().machine().axes.size() >= 6);
        CHECK(window.message().isEmpty());
    }
    {
        const QString gone = folder.filePath(QStringLiteral("gone.fulmox"));
        QByteArray missing = gone.toLocal8Bit();
        char* arguments[] = {program, missing.data()};
        EarlyWork early(2, arguments);
        MainWindow window(folder.path(), nullptr, early.project(gone, false));
        CHECK(window.message().contains(QStringLiteral("is not there")));
    }
}

TEST_CASE("every number and head of the table of laws has room, on every axis of the demo and in each unit system") {
    Window w;
    w.click_page(2);
    auto* laws = w.child<QTableWidget>("laws");
    int seen = 0;
    for (const UnitSystem system : {UnitSystem::si, UnitSystem::inch_pound}) {
        w.document().set_choice(QStringLiteral("/unit_system"), static_cast<int>(system));
        for (std::size_t a = 0; a < w.document().machine().axes.size(); ++a) {
            w.document().select_axis(static_cast<int>(a));
            QTest::qWait(200); // calculated a moment after
            w.settle();
            if (!laws->isVisible()) continue;
            INFO(w.document().axis().name);
            int sum = 0;
            for (int c = 0; c < laws->columnCount(); ++c) {
                sum += laws->columnWidth(c);
                INFO("column " << c);
                CHECK(laws->horizontalHeader()->sectionSizeHint(c) <= laws->columnWidth(c) + (c == 0 ? 40 : 0));
                for (int r = 0; r < laws->rowCount() && c > 0; ++r) {
                    const QTableWidgetItem* i = laws->item(r, c);
                    INFO(i->text().toStdString());
                    CHECK(QFontMetrics(i->font()).horizontalAdvance(i->text()) + 4 <= laws->columnWidth(c));
                }
            }
            CHECK(sum <= laws->viewport()->width());
            ++seen;
        }
    }
    CHECK(seen >= 4);
}

// Pages 2 and 3: laws, dragging, imports and exports, the path, what moves the torque, pins.
#include "app/forms/segment_table.h"
#include "app/gcode_dialog.h"
#include "app/pages/how_moves.h"
#include "app/pages/law_table.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/path_plot.h"
#include "app/results/tornado.h"
#include "tests/app/window.h"

#include <QComboBox>
#include <QElapsedTimer>
#include <QFile>
#include <QTabWidget>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

QString written(const QTemporaryDir& folder, const char* name, const std::string& text) {
    const QString file = folder.filePath(QLatin1String(name));
    QFile f(file);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(text.data(), static_cast<qint64>(text.size()));
    return file;
}

MoveInTime& first_move(Machine& m) { return std::get<MoveInTime>(m.axes[0].cycle.segments[0].what); }

} // namespace

TEST_CASE("the law table shows every law for the selected move; a click reads, a double click takes one") {
    Window w;
    w.click_page(2);
    auto* table = w.child<LawTable>("laws");
    w.settle();
    REQUIRE(table->isVisible());
    REQUIRE(table->rowCount() == static_cast<int>(std::size(laws)));
    for (int c = 0; c < table->columnCount(); ++c)
        for (int r = 0; r < table->rowCount(); ++r) {
            const QTableWidgetItem* cell = table->item(r, c);
            INFO(cell->text().toStdString());
            CHECK(QFontMetrics(cell->font()).horizontalAdvance(cell->text()) <= table->columnWidth(c));
        }
    const double before = w.document().assessment().demand->rms_torque;
    const int sine = static_cast<int>(Law::modified_sine);
    const QString promised = table->item(sine, 5)->text();
    const QPoint at = table->visualItemRect(table->item(sine, 0)).center();
    const Law law = std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).law;
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, at);
    CHECK(std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).law == law);
    QTest::mouseDClick(table->viewport(), Qt::LeftButton, {}, at);
    CHECK(std::get<MoveInTime>(w.document().axis().cycle.segments[0].what).law == Law::modified_sine);
    const double now = w.document().assessment().demand->rms_torque;
    CHECK(now != Approx(before));
    CHECK(promised.toDouble() == Approx(now).epsilon(0.01));
    auto* list = w.child<SegmentTable>("segments");
    list->select(1); // a dwell
    w.settle();
    CHECK(!table->isVisible());
}

TEST_CASE("a segment is dragged by its end: sideways its time, up and down its distance; one undo each") {
    Window w;
    w.click_page(2);
    auto* plot = w.window.findChild<CyclePlot*>();
    w.settle();
    plot->replot();
    const auto drag = [&](QPoint from, QPoint by) {
        QTest::mousePress(plot, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i) {
            QMouseEvent move(QEvent::MouseMove, from + by * i / 4, plot->mapToGlobal(QPointF(from + by * i / 4)),
                Qt::LeftButton, Qt::LeftButton, Qt::NoModifier);
            QApplication::sendEvent(plot, &move);
        }
        QTest::mouseRelease(plot, Qt::LeftButton, {}, from + by);
        QApplication::processEvents();
        plot->replot();
    };
    const double duration = w.document().axis().cycle.segments.empty() ? 0 : 0.75;
    const QPoint end = plot->end_of_segment(0).toPoint();
    drag(end + QPoint(0, 30), QPoint(20, 0)); // below the end point: the border
    Machine m = w.document().machine();
    CHECK(first_move(m).duration.si > duration);
    CHECK(first_move(m).distance.si == Approx(0.4));
    CHECK(w.document().assessment().motion->phases[0].duration == Approx(first_move(m).duration.si));
    CHECK(w.document().undo_stack().count() == 1);
    drag(plot->end_of_segment(0).toPoint(), QPoint(0, 12));
    m = w.document().machine();
    CHECK(first_move(m).distance.si < 0.4);
    CHECK(w.document().undo_stack().count() == 2);
    w.document().undo_stack().undo();
    w.document().undo_stack().undo();
    m = w.document().machine();
    CHECK(first_move(m).duration.si == Approx(0.75));
    CHECK(first_move(m).distance.si == Approx(0.4));
}

TEST_CASE("a trace is imported, shown with what smoothing took away, and a bad one says its line") {
    Window w;
    w.click_page(2);
    auto* page = w.window.findChild<HowMoves*>();
    page->import_trace(QStringLiteral(FULMOX_SOURCE_DIR "/data/examples/glaze-head-recorded.csv"));
    QApplication::processEvents();
    const auto* trace = std::get_if<Trace>(&w.document().axis().cycle.segments[1].what);
    REQUIRE(trace);
    CHECK(trace->samples.rows() > 500);
    CHECK(w.document().assessment().demand);
    bool noise = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        noise = noise || (l->isVisible() && l->text().contains(QStringLiteral("Averaged over")));
    CHECK(noise);
    const std::size_t segments = w.document().axis().cycle.segments.size();
    page->import_trace(written(w.folder, "bad.csv", "time [s],position [mm]\n0,1\n1,x\n"));
    CHECK(said(w).contains(QStringLiteral("line 3")));
    CHECK(w.document().axis().cycle.segments.size() == segments);
    page->import_trace(w.folder.filePath(QStringLiteral("nowhere.csv")));
    CHECK(said(w).contains(QStringLiteral("cannot be read")));
    // far too large: refused by its size, not read
    const QString huge = w.folder.filePath(QStringLiteral("huge.csv"));
    QFile f(huge);
    REQUIRE(f.open(QIODevice::WriteOnly));
    REQUIRE(f.resize(qint64(10) << 30));
    f.close();
    page->import_trace(huge);
    CHECK(said(w).contains(QStringLiteral("at most 256 MB")));
}

TEST_CASE("the planned motion is exported and comes back as a trace") {
    Window w;
    w.click_page(2);
    auto* page = w.window.findChild<HowMoves*>();
    const QString file = w.folder.filePath(QStringLiteral("out"));
    page->export_motion(file);
    REQUIRE(QFile::exists(file + QStringLiteral(".csv")));
    const Trajectory was = *w.document().assessment().motion;
    w.document().edit(QStringLiteral("clear"), [](Machine& m) { m.axes[0].cycle.segments.clear(); });
    page->import_trace(file + QStringLiteral(".csv"));
    REQUIRE(w.document().assessment().demand);
    const Trajectory& now = *w.document().assessment().motion;
    CHECK(now.duration == Approx(was.duration));
    CHECK(now.stroke() == Approx(was.stroke()).epsilon(1e-3));
    CHECK(now.peak_speed == Approx(was.peak_speed).epsilon(0.01));
    // a trapezoid's corners ring a little under any smoothing
    CHECK(now.peak_acceleration == Approx(was.peak_acceleration).epsilon(0.15));
    page->export_motion(QStringLiteral("/proc/no/such/place.csv"));
    CHECK(said(w).contains(QStringLiteral("cannot be written")));
}

TEST_CASE("a G-code program gives its axes their cycles") {
    Window w;
    w.click_page(2);
    const QString message =
        import_gcode(w.document(), QStringLiteral(FULMOX_SOURCE_DIR "/data/examples/spray-pattern.ngc"), &w.window);
    CHECK(message.isEmpty());
    auto* dialog = w.child<GcodeDialog>("gcode");
    auto* x = dialog->findChild<QComboBox*>(QStringLiteral("gcode-axis-X"));
    auto* y = dialog->findChild<QComboBox*>(QStringLiteral("gcode-axis-Y"));
    REQUIRE(x);
    REQUIRE(y);
    CHECK(x->findText(QStringLiteral("Indexing turntable")) < 0); // a letter of a line moves no table
    x->setCurrentIndex(x->findText(QStringLiteral("Tile shuttle")));
    y->setCurrentIndex(y->findText(QStringLiteral("Tile shuttle")));
    const auto go = [&] {
        for (QPushButton* b : dialog->findChildren<QPushButton*>())
            if (b->text() == QStringLiteral("Plan and import")) QTest::mouseClick(b, Qt::LeftButton);
    };
    go();
    CHECK(std::holds_alternative<MoveInTime>(w.document().machine().axes[1].cycle.segments[0].what)); // refused
    y->setCurrentIndex(y->findText(QStringLiteral("Sampling slide")));
    dialog->findChild<QLineEdit*>(QStringLiteral("gcode-speed-X"))->setText(QStringLiteral("fast"));
    go();
    CHECK(std::holds_alternative<MoveInTime>(w.document().machine().axes[1].cycle.segments[0].what));
    dialog->findChild<QLineEdit*>(QStringLiteral("gcode-speed-X"))->setText(QStringLiteral("400 mm/s"));
    go();
    QApplication::processEvents();
    for (const std::size_t axis : {1u, 6u}) {
        REQUIRE(w.document().machine().axes[axis].cycle.segments.size() == 1);
        CHECK(std::holds_alternative<PlannedPath>(w.document().machine().axes[axis].cycle.segments[0].what));
        CHECK(w.document().assessment(static_cast<int>(axis)).demand);
    }
    const QString bad = import_gcode(w.document(), written(w.folder, "bad.ngc", "G1 X1 F100\nG5 X1\n"), &w.window);
    CHECK(bad.contains(QStringLiteral("line 2")));
    // what was imported is saved and read again
    const auto again = read_project(write_project(w.document().machine()));
    REQUIRE(again);
    CHECK(again->machine == w.document().machine());
}

TEST_CASE("page 3: path, inputs by their weight, and A beside now") {
    Window w;
    w.click_page(3);
    QTabWidget* tabs = nullptr;
    for (QTabWidget* t : w.window.findChildren<QTabWidget*>())
        if (t->isVisible()) tabs = t;
    REQUIRE(tabs);
    tabs->setCurrentIndex(1);
    w.settle();
    auto* path = w.window.findChild<PathPlot*>();
    REQUIRE(path->isVisible());
    CHECK(!path->csv().isEmpty());
    tabs->setCurrentIndex(2);
    w.settle();
    auto* tornado = w.window.findChild<Tornado*>();
    REQUIRE(tornado->rows().size() > 8);
    for (std::size_t i = 1; i < tornado->rows().size(); ++i)
        CHECK(tornado->rows()[i].swing() <= tornado->rows()[i - 1].swing());
    // the payload has a tolerance of its own: what it says is what happens
    for (const Influence& i : tornado->rows())
        if (i.path == "/axes/0/load/payload") {
            CHECK(i.moved.find("1 kg") != std::string::npos);
            Machine m = w.document().machine();
            m.axes[0].load.payload.si += 1;
            CHECK(assess(m, 0).demand->rms_torque == Approx(i.high));
        }
    QTest::mouseClick(tornado, Qt::LeftButton, {}, QPoint(40, 30)); // the first bar leads to its field
    QApplication::processEvents();
    INFO(tornado->rows()[0].path << " / " << QApplication::focusWidget()->objectName().toStdString());
    CHECK(QApplication::focusWidget()->objectName() == QString::fromStdString(tornado->rows()[0].path));

    w.click_page(3);
    tabs->setCurrentIndex(0);
    QTest::keyClick(&w.window, Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.document().pinned());
    const double was = w.document().assessment().demand->rms_torque;
    w.document().set_quantity(w.path("/load/carriage_mass"), QStringLiteral("31 kg"));
    QApplication::processEvents();
    CHECK(w.document().pinned_assessment()->demand->rms_torque == was);
    bool beside = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        beside = beside || (l->isVisible() && l->text().startsWith(QStringLiteral("A ")) &&
                               l->text().contains(QStringLiteral("now +")));
    CHECK(beside);
    QTest::keyClick(&w.window, Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.document().assessment().demand->rms_torque == was);
    w.document().undo_stack().undo();
    CHECK(w.document().axis().load.carriage_mass.text == "31 kg");
}

#include "app/command_palette.h"
#include "app/forms/segment_table.h"
#include "app/outline.h"
#include "app/pages/how_moves.h"
#include "app/pages/registry.h"
#include "app/parts/motor_table.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/speed_torque_plot.h"
#include "app/plots/torque_plot.h"
#include "app/schematic/schematic.h"
#include "core/quantity/format.h"
#include "tests/app/window.h"

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("the outline leads to the four pages, by mouse and by keys") {
    Window w;
    for (int page = 1; page <= 4; ++page) {
        w.click_page(page);
        CHECK(w.child<QPushButton>(("page/" + std::to_string(page)).c_str())->isChecked());
    }
    QTest::keyClick(&w.window, Qt::Key_2, Qt::ControlModifier);
    CHECK(w.child<QPushButton>("page/2")->isChecked());
}

TEST_CASE("segments are added, edited, moved and deleted; plot and list follow") {
    Window w;
    w.click_page(2);
    auto* list = w.child<SegmentTable>("segments");
    REQUIRE(list->rowCount() == 4);
    list->select(1);
    QTest::mouseClick(w.child<QPushButton>("add-move"), Qt::LeftButton);
    REQUIRE(list->rowCount() == 5);
    CHECK(list->currentRow() == 2);
    CHECK(!w.document().assessment().motion); // the new move has no distance yet
    w.type("/cycle/segments/2/what/distance", "0 mm");
    w.type("/cycle/segments/2/what/duration", "250 ms");
    CHECK(w.document().assessment().motion);
    CHECK(list->item(2, SegmentTable::time)->text() == QStringLiteral("250 ms"));
    QTest::mouseClick(w.child<QPushButton>("delete-segment"), Qt::LeftButton);
    CHECK(list->rowCount() == 4);
    list->select(0);
    w.type("/cycle/segments/0/what/duration", "0.6 s");
    const Trajectory& t = *w.document().assessment().motion;
    CHECK(t.phases[1].start == Approx(0.6));
    // the plot shows exactly the plan
    auto* plot = w.window.findChild<CyclePlot*>();
    REQUIRE(plot);
    plot->refresh();
    const auto position = plot->graph(0)->data();
    CHECK(position->at(position->size() - 1)->key == Approx(t.duration));
    double highest = 0;
    for (const auto& d : *position) highest = std::max(highest, d.value);
    CHECK(highest == Approx(400));
    CHECK(plot->graph(0)->name() == QStringLiteral("position, mm"));
}

TEST_CASE("clicking into the plot selects the segment") {
    Window w;
    w.click_page(2);
    auto* plot = w.window.findChild<CyclePlot*>();
    REQUIRE(plot);
    plot->replot();
    QCPAxisRect* rect = plot->axisRect(0);
    const Trajectory& t = *w.document().assessment().motion;
    const double middle = (t.phases[2].start + t.phases[3].start) / 2;
    const int x = static_cast<int>(rect->axis(QCPAxis::atBottom)->coordToPixel(middle));
    QTest::mouseClick(plot, Qt::LeftButton, Qt::NoModifier, QPoint(x, rect->center().y()));
    CHECK(w.child<SegmentTable>("segments")->currentRow() == 2);
}

TEST_CASE("a click on a dimension of the schematic goes to its field") {
    Window w;
    auto* drawing = w.window.findChild<Schematic*>();
    REQUIRE(drawing);
    drawing->grab();
    // sweep until the hand appears over the lead, as a person looks for it
    bool lead = false, payload = false;
    for (int y = 4; y < drawing->height(); y += 6)
        for (int x = 4; x < drawing->width(); x += 12) {
            QTest::mouseClick(drawing, Qt::LeftButton, Qt::NoModifier, QPoint(x, y));
            auto* e = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
            if (!e) continue;
            lead = lead || e->path().endsWith(QStringLiteral("/mechanism/lead"));
            payload = payload || e->path().endsWith(QStringLiteral("/load/payload"));
            if (!w.child<QPushButton>("page/1")->isChecked()) w.window.show_page(0);
        }
    CHECK(lead);
    CHECK(payload);
}

TEST_CASE("the torque plot is the demand: its total, its peak and its units") {
    Window w;
    w.click_page(3);
    auto* plot = w.window.findChild<TorquePlot*>();
    REQUIRE(plot);
    QCPGraph* total = nullptr;
    for (int i = 0; i < plot->graphCount(); ++i)
        if (plot->graph(i)->name().startsWith(QStringLiteral("torque"))) total = plot->graph(i);
    REQUIRE(total);
    double most = 0;
    for (const auto& d : *total->data()) most = std::max(most, std::abs(d.value));
    CHECK(most == Approx(std::abs(w.document().assessment().demand->peak.torque)));
    CHECK(plot->axisRect(0)->axis(QCPAxis::atLeft)->label() == QStringLiteral("torque, N·m"));
    CHECK(plot->axisRect(1)->axis(QCPAxis::atBottom)->label() == QStringLiteral("time, s"));
    auto* units = w.child<QComboBox>("units");
    units->setFocus();
    QTest::keyClick(units, Qt::Key_Down);
    QApplication::processEvents();
    CHECK(plot->axisRect(0)->axis(QCPAxis::atLeft)->label() == QStringLiteral("torque, lb·in"));
}

TEST_CASE("plots are exported as picture and table") {
    Window w;
    w.click_page(3);
    auto* plot = w.window.findChild<TorquePlot*>();
    REQUIRE(plot);
    for (const char* ending : {"png", "svg", "pdf", "csv"}) {
        const QString file = w.folder.filePath(QStringLiteral("plot.") + QLatin1String(ending));
        INFO(file.toStdString());
        CHECK(plot->export_to(file).isEmpty());
        CHECK(QFileInfo(file).size() > 500);
    }
    CHECK(plot->csv().startsWith(QStringLiteral("\"time, s\",")));
    CHECK(plot->csv().contains(QStringLiteral("\"torque, N·m\"")));
    CHECK(plot->export_to(w.folder.filePath(QStringLiteral("plot.bmp"))).contains(QStringLiteral(".svg")));
    CHECK(!plot->export_to(QStringLiteral("/proc/nowhere/plot.csv")).isEmpty());
}

TEST_CASE("the catalogue judges every motor as the assessment does, and a motor is taken with Enter") {
    Window w;
    w.click_page(4);
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(table);
    table->judge_now();
    MotorModel& motors = table->model_of_motors();
    REQUIRE(QTest::qWaitFor([&] { return !motors.judging(); }, hanging));
    REQUIRE(motors.rowCount() >= 40);
    int checked = 0;
    for (int row = 0; row < motors.rowCount(); row += 7) {
        Axis axis = w.document().axis();
        axis.motor = motors.motor(row);
        CHECK(motors.suits(row) == axis.driven());
        if (!axis.driven()) continue; // not shown on this axis
        const Assessment a = assess(w.document().machine(), axis, "/axes/0");
        const QString shown = motors.index(row, MotorModel::peak).data().toString();
        const double use = a.limit("peak_torque")->utilisation();
        CHECK(shown == (std::isinf(use) ? QStringLiteral("> max.")
                                        : QString::fromStdString(format_number(100 * use, 3)) + QStringLiteral(" %")));
        ++checked;
    }
    CHECK(checked > 5);
    table->setFocus();
    table->setCurrentIndex(table->model()->index(3, 0));
    const QString name = table->model()->index(3, 0).data().toString();
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(QString::fromStdString(w.document().axis().motor.name) == name);
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document().axis().motor.name == "Wren 60-13 B");
}

TEST_CASE("a motor typed in by hand from an empty sheet") {
    Window w;
    w.document().edit(QStringLiteral("no motor"), [](Machine& m) { m.axes[0].motor = Motor{}; });
    w.click_page(4);
    CHECK(w.limit("speed").state == LimitState::cannot_say);
    w.window.go_to(w.path("/motor/rotor_inertia"));
    w.type("/motor/rotor_inertia", "0.5 kg·cm²");
    w.type("/motor/max_speed", "6000 rpm");
    w.type("/motor/curve_voltage", "320 V");
    for (QPushButton* add : w.window.findChildren<QPushButton*>())
        if (add->isVisible() && add->text() == QStringLiteral("+ point"))
            for (int i = 0; i < 2; ++i) QTest::mouseClick(add, Qt::LeftButton);
    QApplication::processEvents();
    for (const char* curve : {"/motor/continuous", "/motor/peak"}) {
        const bool peak = std::string(curve) == "/motor/peak";
        w.type((std::string(curve) + "/0/speed").c_str(), "0 rpm");
        w.type((std::string(curve) + "/0/torque").c_str(), peak ? "4 N·m" : "1.4 N·m");
        w.type((std::string(curve) + "/1/speed").c_str(), "6000 rpm");
        w.type((std::string(curve) + "/1/torque").c_str(), peak ? "2 N·m" : "0.9 N·m");
    }
    for (const Problem& p : w.document().assessment().problems) {
        INFO(to_text(p));
        CHECK(p.severity != Severity::error);
    }
    CHECK(w.limit("speed").state == LimitState::fits);
    CHECK(w.limit("peak_torque").allowed > 2);
}

TEST_CASE("the speed-torque picture holds the peak curve and the cycle") {
    Window w;
    w.click_page(4);
    auto* plot = w.window.findChild<SpeedTorquePlot*>();
    REQUIRE(plot);
    const MotorUse& u = *w.document().assessment().motor;
    bool peak = false;
    for (int i = 0; i < plot->graphCount(); ++i)
        if (plot->graph(i)->name().startsWith(QStringLiteral("peak curve"))) {
            peak = true;
            for (const auto& d : *plot->graph(i)->data())
                CHECK(d.value == Approx(u.can.peak.at(to_si(d.key, *find_unit("rpm")))).margin(1e-9));
        }
    CHECK(peak);
}

TEST_CASE("any field is found by typing its name") {
    Window w;
    w.click_page(4);
    QTest::keyClick(&w.window, Qt::Key_K, Qt::ControlModifier);
    auto* palette = w.child<CommandPalette>("palette");
    CHECK(palette->hasFocus());
    QTest::keyClicks(palette, "unsupported");
    CHECK(palette->matches() == 1);
    QTest::keyClick(palette, Qt::Key_Return);
    auto* e = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
    REQUIRE(e);
    CHECK(e->path() == w.path("/mechanism/free_length"));
    QTest::keyClick(&w.window, Qt::Key_K, Qt::ControlModifier);
    QTest::keyClicks(palette, "page 3");
    QTest::keyClick(palette, Qt::Key_Return);
    CHECK(w.child<QPushButton>("page/3")->isChecked());
}

TEST_CASE("a second axis has its own pages and limits") {
    Window w;
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->text() == QStringLiteral("+ axis")) QTest::mouseClick(b, Qt::LeftButton);
    QApplication::processEvents();
    CHECK(w.document().machine().axes.size() == 12);
    CHECK(w.document().axis_index() == 11);
    CHECK(w.edit("/load/payload")->text().isEmpty());
    CHECK(!w.document().assessment().demand);
    QTest::mouseClick(w.child<QPushButton>("axis/0"), Qt::LeftButton);
    CHECK(w.document().axis_index() == 0);
    CHECK(w.edit("/load/payload")->text() == QStringLiteral("24 kg ± 1 kg"));
}

TEST_CASE("a new project can be filled in from nothing, and every page stands empty without harm") {
    Window w(false);
    for (int page = 4; page >= 1; --page) {
        w.click_page(page);
        w.window.grab();
        if (page == 3) { // what will be there has its name already
            QStringList said;
            for (QLabel* l : w.window.findChildren<QLabel*>())
                if (l->isVisible()) said << l->text();
            for (const char* name : {"Peak torque", "RMS torque", "Holding torque", "Peak power", "Emergency stop"})
                CHECK(said.contains(QString::fromLatin1(name)));
        }
    }
    CHECK(w.document().assessment().problems.size() > 4);
    w.type("/load/carriage_mass", "5 kg");
    w.type("/load/payload", "10 kg");
    w.type("/mechanism/lead", "5");
    w.type("/mechanism/diameter", "16");
    w.type("/mechanism/length", "500");
    w.click_page(2);
    w.type("/cycle/segments/0/what/distance", "200");
    w.type("/cycle/segments/0/what/duration", "1.5");
    REQUIRE(w.document().assessment().demand);
    CHECK(w.document().assessment().demand->peak_speed == Approx(0.2 / 1.5 * 1.5 / 0.005 * 2 * M_PI));
}

TEST_CASE("what is known is shown, and what is not says for what it waits") {
    Window w;
    w.click_page(2);
    const double third = w.document().assessment().motion->phases[2].start;
    w.document().edit(QStringLiteral("forget"), [](Machine& m) {
        std::get<MoveByLimits>(m.axes[0].cycle.segments[2].what).distance = MotionQuantity<Order::position>();
    });
    w.settle();
    auto* plot = w.window.findChild<CyclePlot*>();
    REQUIRE(plot);
    CHECK(plot->missing() == QStringLiteral("waits for: Distance, segment 3"));
    REQUIRE(plot->graph(0)->dataCount() > 10); // the two segments before it
    CHECK(plot->graph(0)->data()->at(plot->graph(0)->dataCount() - 1)->key == Approx(third));
    CHECK(w.child<SegmentTable>("segments")->item(0, SegmentTable::time)->text() == QStringLiteral("0.75 s"));
    w.click_page(3);
    w.settle();
    int waiting = 0;
    for (const QLabel* l : w.window.findChildren<QLabel*>())
        if (l->isVisible() && l->text() == QStringLiteral("waits for: Distance, segment 3")) ++waiting;
    CHECK(waiting >= 5); // the tiles and the pictures
    w.click_page(4);
    w.settle();
    CHECK(w.document().assessment().limit("inertia_ratio")->state != LimitState::cannot_say);
}

TEST_CASE("a value of the site that is missing is listed with the axis, and its line leads there") {
    Window w;
    w.document().edit(QStringLiteral("forget"), [](Machine& m) { m.site.gravity = Quantity<Kind::acceleration>(); });
    w.click_page(3);
    w.settle();
    CHECK(w.document().assessment().figure("demand.peak_torque")->note == "waits for: Gravity");
    CHECK(w.document().assessment().figure("load.efficiency_forward")->si == 0.9);
    const auto& problems = w.document().assessment().problems;
    CHECK(std::any_of(problems.begin(), problems.end(), [](const Problem& p) { return p.path == "/site/gravity"; }));
    w.window.go_to(QStringLiteral("/site/gravity"));
    w.settle();
    QWidget* focus = QApplication::focusWidget();
    REQUIRE(focus);
    CHECK(focus->objectName() == QStringLiteral("/site/gravity"));
    CHECK(focus->isVisible());
}

TEST_CASE("every page of the registry is in outline, menu and keys, and every field is on the page its path leads to") {
    Window w;
    for (int i = 0; i < static_cast<int>(page_registry().size()); ++i) {
        const QString question = QString::fromUtf8(page_registry()[static_cast<std::size_t>(i)].question);
        INFO(question.toStdString());
        QTest::keyClick(&w.window, static_cast<Qt::Key>(Qt::Key_1 + i), Qt::ControlModifier);
        auto* item = w.child<QPushButton>(("page/" + std::to_string(i + 1)).c_str());
        CHECK(item->text() == question);
        CHECK(item->isChecked());
        int titles = 0;
        for (const QLabel* l : w.window.findChildren<QLabel*>()) titles += l->isVisible() && l->text() == question;
        CHECK(titles == 1);
        int entries = 0;
        for (const QAction* a : w.window.findChildren<QAction*>()) entries += a->text().endsWith(question);
        CHECK(entries == 1);
    }
    Machine m = w.document().machine();
    int fields = 0;
    for (const FieldRef& f : walk(m.axes[0], "/axes/0")) {
        if (f.type != FieldRef::Type::quantity || !f.active || f.quantity_spec.rare) continue;
        if (f.path.find("/segments/") != std::string::npos && f.path.find("/segments/0/") == std::string::npos)
            continue;
        const QString path = QString::fromStdString(f.path);
        INFO(f.path);
        w.window.go_to(path);
        QApplication::processEvents();
        const int page = page_of(path.mid(7));
        CHECK(w.child<QPushButton>(("page/" + std::to_string(page + 1)).c_str())->isChecked());
        if (f.path.find("/motor/peak/") != std::string::npos || f.path.find("/motor/continuous/") != std::string::npos)
            continue; // cells of a table
        const auto there = w.window.findChildren<QWidget*>(path);
        CHECK(std::any_of(there.begin(), there.end(), [](const QWidget* each) { return each->isVisible(); }));
        ++fields;
    }
    CHECK(fields > 30);
}

// Editing beyond the plain field: policies, axes, segments, units of display, plots under the mouse.
#include "app/forms/segment_table.h"
#include "app/parts/motor_table.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/torque_plot.h"
#include "app/policy_editor.h"
#include "app/results/figures.h"
#include "core/quantity/format.h"
#include "tests/app/window.h"

#include <QAction>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

QAction* menu_action(Window& w, const char* text) {
    for (QAction* a : w.window.actions())
        if (a->text().remove(QLatin1Char('&')).startsWith(QString::fromUtf8(text))) return a;
    FAIL("no action " << text);
    return nullptr;
}

} // namespace

TEST_CASE("a policy is copied, changed, chosen, and judges the axis") {
    Window w;
    menu_action(w, "Policies")->trigger();
    QApplication::processEvents();
    auto* editor = w.window.findChild<PolicyEditor*>();
    REQUIRE(editor);
    CHECK(editor->isVisible());
    CHECK(!editor->isModal());
    auto* list = editor->findChild<QListWidget*>();
    REQUIRE(list->count() == 5);
    CHECK(list->item(0)->text().contains(QStringLiteral("Glaze-head lift")));
    auto* remove = editor->findChild<QPushButton*>(QStringLiteral("delete-policy"));
    CHECK(!remove->isEnabled()); // it judges an axis
    QTest::mouseClick(editor->findChild<QPushButton*>(QStringLiteral("copy-policy")), Qt::LeftButton);
    QApplication::processEvents();
    REQUIRE(w.document().machine().policies.size() == 6);
    CHECK(w.document().machine().policies[1].name == "General servo, copy");
    auto* share = editor->findChild<QuantityEdit*>(QStringLiteral("/policies/1/continuous_share"));
    REQUIRE(share);
    share->setFocus();
    share->selectAll();
    QTest::keyClicks(share, "60");
    CHECK(w.document().machine().policies[1].continuous_share.si == Approx(0.6));
    QTest::keyClick(share, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(share, "600 %");
    CHECK(share->wrong());
    CHECK(w.document().machine().policies[1].continuous_share.si <= 1);
    QTest::keyClick(share, Qt::Key_Escape);
    share->selectAll();
    QTest::keyClicks(share, "50 %");
    auto* policy = w.child<QComboBox>("policy");
    policy->setFocus();
    QTest::keyClick(policy, Qt::Key_Down);
    CHECK(w.document().axis().policy == "General servo, copy");
    CHECK(w.limit("continuous_loss").state == LimitState::tight);
    // it is saved with the project
    const auto again = read_project(write_project(w.document().machine()));
    REQUIRE(again);
    CHECK(again->machine == w.document().machine());
}

TEST_CASE("an axis is duplicated and deleted from its menu, and undone") {
    Window w;
    const Machine before = w.document().machine();
    auto* item = w.child<QPushButton>("axis/0");
    item->actions().at(1)->trigger();
    REQUIRE(w.document().machine().axes.size() == 12);
    CHECK(w.document().machine().axes[1].name == "Glaze-head lift copy");
    w.document().select_axis(1);
    w.type("/load/payload", "40 kg");
    CHECK(w.document().machine().axes[0].load.payload == before.axes[0].load.payload);
    w.child<QPushButton>("axis/1")->actions().at(2)->trigger();
    CHECK(w.document().machine().axes.size() == 11);
    for (int i = 0; i < 11; ++i) {
        w.child<QPushButton>("axis/0")->actions().at(2)->trigger();
        QApplication::processEvents();
    }
    CHECK(w.document().machine().axes.size() == 1); // the last one stays
    while (w.document().undo_stack().canUndo()) w.document().undo_stack().undo();
    CHECK(w.document().machine() == before);
}

TEST_CASE("segments change kind and place") {
    Window w;
    w.click_page(2);
    auto* list = w.child<SegmentTable>("segments");
    list->select(0);
    auto* kind = w.window.findChild<QComboBox*>(w.path("/cycle/segments/0/what"));
    REQUIRE(kind);
    kind->setFocus();
    QTest::keyClick(kind, Qt::Key_Down);
    QApplication::processEvents();
    CHECK(std::holds_alternative<MoveByLimits>(w.document().axis().cycle.segments[0].what));
    w.type("/cycle/segments/0/what/distance", "400 mm");
    w.type("/cycle/segments/0/what/speed", "40 m/min");
    w.type("/cycle/segments/0/what/acceleration", "0.4 gn");
    CHECK(w.document().assessment().motion);
    CHECK(w.document().assessment().motion->peak_acceleration == Approx(4));
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("▼")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(std::holds_alternative<MoveByLimits>(w.document().axis().cycle.segments[1].what));
    CHECK(list->currentRow() == 1);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("▲")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(std::holds_alternative<MoveByLimits>(w.document().axis().cycle.segments[0].what));
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("Duplicate")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(w.document().axis().cycle.segments.size() == 5);
}

TEST_CASE("a dwell is handed to the brake by its box, and the motor's heat falls") {
    Window w;
    w.click_page(2);
    const double before = w.limit("continuous_loss").used;
    w.child<SegmentTable>("segments")->select(1);
    QApplication::processEvents();
    auto* box = w.window.findChild<QCheckBox*>(w.path("/cycle/segments/1/what/brake_holds"));
    REQUIRE(box);
    QTest::mouseClick(box, Qt::LeftButton, Qt::NoModifier, QPoint(8, box->height() / 2));
    CHECK(std::get<Dwell>(w.document().axis().cycle.segments[1].what).brake_holds);
    CHECK(w.limit("continuous_loss").used < before);
}

TEST_CASE("inch-pound display changes what is shown and nothing that was typed") {
    Window w;
    const Machine before = w.document().machine();
    auto* units = w.child<QComboBox>("units");
    units->setFocus();
    QTest::keyClick(units, Qt::Key_Down);
    QApplication::processEvents();
    CHECK(w.document().machine().axes == before.axes);
    CHECK(w.edit("/mechanism/lead")->text() == QStringLiteral("10 mm"));
    bool inches = false;
    for (QLabel* l : w.edit("/mechanism/lead")->parentWidget()->findChildren<QLabel*>())
        inches = inches || l->text() == QStringLiteral("= 0.3937 in");
    CHECK(inches);
    w.click_page(3);
    bool pounds = false;
    for (FigureTiles* tiles : w.window.findChildren<FigureTiles*>())
        for (QLabel* l : tiles->findChildren<QLabel*>()) pounds = pounds || l->text().endsWith(QStringLiteral("lb·in"));
    CHECK(pounds);
}

TEST_CASE("the mouse over a plot reads out the instant, and leaving hides it") {
    Window w;
    w.click_page(3);
    w.settle();
    auto* plot = w.window.findChild<TorquePlot*>();
    REQUIRE(plot);
    plot->replot();
    QCPAxisRect* rect = plot->axisRect(0);
    const double at = 0.1;
    const QPoint here(static_cast<int>(rect->axis(QCPAxis::atBottom)->coordToPixel(at)), rect->center().y());
    QMouseEvent over(
        QEvent::MouseMove, QPointF(here), plot->mapToGlobal(QPointF(here)), Qt::NoButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(plot, &over);
    QLabel* bubble = plot->findChild<QLabel*>();
    REQUIRE(bubble);
    CHECK(bubble->isVisible());
    const double t = rect->axis(QCPAxis::atBottom)->pixelToCoord(here.x());
    const ShaftState e = w.document().assessment().demand->at(t);
    CHECK(bubble->text().contains(QString::fromStdString(format_quantity(e.torque, Kind::torque, UnitSystem::si))));
    CHECK(bubble->text().contains(QStringLiteral("Gravity")));
    QEvent leave(QEvent::Leave);
    QApplication::sendEvent(plot, &leave);
    CHECK(!bubble->isVisible());
}

TEST_CASE("the wheel looks closer, a double click shows the whole again") {
    Window w;
    w.click_page(2);
    auto* plot = w.window.findChild<CyclePlot*>();
    REQUIRE(plot);
    plot->replot();
    QCPAxis* time = plot->axisRect(2)->axis(QCPAxis::atBottom);
    const double whole = time->range().size();
    const QPoint centre = plot->axisRect(0)->center();
    QWheelEvent wheel(QPointF(centre), plot->mapToGlobal(QPointF(centre)), QPoint(), QPoint(0, 240), Qt::NoButton,
        Qt::ControlModifier, Qt::NoScrollPhase, false);
    QApplication::sendEvent(plot, &wheel);
    CHECK(time->range().size() < whole); // all three share the time axis
    QTest::mouseDClick(plot, Qt::LeftButton, Qt::NoModifier, centre);
    CHECK(time->range().size() == Approx(whole));
}

TEST_CASE("taking the motor out leaves what can be known, and says what cannot") {
    Window w;
    w.click_page(4);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("Remove")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(w.document().axis().motor.empty());
    CHECK(w.limit("peak_torque").state == LimitState::cannot_say);
    CHECK(w.document().assessment().demand);
    CHECK(w.limit("critical_speed").state == LimitState::tight);
}

TEST_CASE("the catalogue sorts by any column") {
    Window w;
    w.click_page(4);
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(table);
    table->judge_now();
    REQUIRE(QTest::qWaitFor([&] { return !table->model_of_motors().judging(); }, hanging));
    const auto first = [&](int column) { return table->model()->index(0, column).data(Qt::UserRole + 1).toDouble(); };
    for (const int column : {MotorModel::price, MotorModel::mass, MotorModel::ratio, MotorModel::heat}) {
        table->sortByColumn(column, Qt::AscendingOrder);
        const double low = first(column);
        table->sortByColumn(column, Qt::DescendingOrder);
        CHECK(low < first(column));
    }
    table->sortByColumn(MotorModel::tightest, Qt::AscendingOrder);
    // what fits stands before what is over
    bool over = false;
    for (int row = 0; row < table->model()->rowCount(); ++row) {
        const QString state = table->model()->index(row, MotorModel::tightest).data().toString();
        if (state.startsWith(QStringLiteral("over")))
            over = true;
        else if (state.startsWith(QStringLiteral("fits")))
            CHECK(!over);
    }
    CHECK(over);
}

TEST_CASE("discarded recovery stays away, and a file of rubbish in the folder harms nothing") {
    QTemporaryDir folder;
    const QString recovery = folder.filePath(QStringLiteral("recovery"));
    REQUIRE(QDir().mkpath(recovery));
    QFile rubbish(recovery + QStringLiteral("/broken.json"));
    REQUIRE(rubbish.open(QIODevice::WriteOnly));
    rubbish.write("{\"file\": \"x\", \"project\": \"not a project\"}");
    rubbish.close();
    MainWindow window(recovery);
    window.show();
    QTRY_VERIFY(window.message().contains(QStringLiteral("unsaved work")));
    const auto press = [&](const char* text) {
        for (QPushButton* b : window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QString::fromUtf8(text)) {
                QTest::mouseClick(b, Qt::LeftButton);
                return true;
            }
        return false;
    };
    CHECK(press("Bring it back"));
    CHECK(window.message().contains(QStringLiteral("could not be read")));
    MainWindow second(recovery);
    second.show();
    QTRY_VERIFY(second.message().contains(QStringLiteral("unsaved work")));
    for (QPushButton* b : second.findChildren<QPushButton*>())
        if (b->isVisible() && b->text() == QStringLiteral("Discard it")) QTest::mouseClick(b, Qt::LeftButton);
    CHECK(!QFileInfo::exists(rubbish.fileName()));
    CHECK(second.message().isEmpty());
}

TEST_CASE("Ctrl S saves over the file the project came from") {
    Window w;
    const QString file = w.folder.filePath(QStringLiteral("lift.fulmox"));
    REQUIRE(w.window.save_to(file));
    w.type("/load/payload", "20 kg");
    CHECK(w.window.windowTitle().contains(QLatin1Char('*')));
    QTest::keyClick(&w.window, Qt::Key_S, Qt::ControlModifier);
    CHECK(!w.document().modified());
    Window other(false);
    REQUIRE(other.window.open_file(file));
    CHECK(other.document().axis().load.payload.text == "20 kg");
}

TEST_CASE("a value typed over that of a sheet is assumed; typed back it is the sheet's again") {
    Window w;
    w.click_page(1);
    const auto standing = [&] { return w.screw().lead.standing; };
    REQUIRE(standing() == InputSource::datasheet);
    const std::string text = w.screw().lead.text;
    w.type("/mechanism/lead", "12 mm");
    CHECK(standing() == InputSource::assumed);
    QTest::keyClick(w.edit("/mechanism/lead"), Qt::Key_Escape);
    CHECK(w.screw().lead.text == text);
    CHECK(standing() == InputSource::datasheet);
    w.type("/mechanism/lead", "0.01 m"); // the same value in other words
    CHECK(standing() == InputSource::datasheet);
    w.type("/mechanism/lead", "16 mm");
    w.document().end_typing();
    w.document().set_standing(w.path("/mechanism/lead"), InputSource::measured);
    w.type("/mechanism/lead", "15 mm");
    CHECK(standing() == InputSource::assumed);
}

TEST_CASE("a thread chosen by keys takes its usual friction, in the form too") {
    Window w(false);
    w.document().start_new();
    w.click_page(1);
    QComboBox* thread = nullptr;
    for (QComboBox* c : w.window.findChildren<QComboBox*>(w.path("/mechanism/thread")))
        if (c->isVisible()) thread = c;
    REQUIRE(thread);
    thread->setFocus(Qt::TabFocusReason);
    QTest::keyClick(thread, Qt::Key_Down);
    QApplication::processEvents();
    CHECK(w.screw().thread == Thread::trapezoidal);
    CHECK(w.screw().thread_friction.text == "0.12");
    CHECK(QApplication::focusWidget() == thread);
}

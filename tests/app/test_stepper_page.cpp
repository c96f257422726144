// Page 4 with a stepper, the heat of the cycle, and the choice of a kind of motor.
#include "app/pages/page.h"
#include "app/parts/kind_view.h"
#include "app/parts/motor_table.h"
#include "app/plots/cycle_plot.h"
#include "app/plots/overload_plot.h"
#include "app/plots/speed_torque_plot.h"
#include "app/plots/steady_plot.h"
#include "app/results/figures.h"
#include "core/quantity/format.h"
#include "tests/app/window.h"

#include <QCheckBox>
#include <QPushButton>
#include <QTabWidget>
#include <QTableWidget>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr int slide = 6;

bool shown(Window& w, const char* field) {
    for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>(w.path(field)))
        if (e->isVisible()) return true;
    return false;
}

} // namespace

TEST_CASE("the drive of a stepper has its dial and no currents of a servo") {
    Window w;
    w.document().select_axis(slide);
    tab(w, "Drive");
    CHECK(shown(w, "/drive/phase_current"));
    CHECK(shown(w, "/drive/microsteps"));
    CHECK(!shown(w, "/drive/continuous_current"));
    CHECK(!shown(w, "/drive/modulation_reserve"));
    w.type("/drive/phase_current", "1.5 A");
    QTest::keyClick(w.edit("/drive/phase_current"), Qt::Key_Return);
    w.settle();
    CHECK(w.document().assessment().limit("phase_current")->state == LimitState::over);
    const double before = w.document().assessment().figure("stepper.step_angle")->si;
    w.type("/drive/microsteps", "16");
    QTest::keyClick(w.edit("/drive/microsteps"), Qt::Key_Return);
    w.settle();
    CHECK(w.document().assessment().figure("stepper.step_angle")->si == Approx(before / 2));
    bool said = false;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        said = said || (l->isVisible() && l->text() == QStringLiteral("Natural frequency"));
    CHECK(said);
    w.document().select_axis(0);
    w.settle();
    tab(w, "Drive");
    CHECK(!shown(w, "/drive/phase_current"));
    CHECK(shown(w, "/drive/continuous_current"));
}

TEST_CASE("the picture of a stepper has its pull-out and the share that the policy allows, and no heat") {
    Window w;
    w.document().select_axis(slide);
    w.click_page(4);
    w.settle();
    auto* plot = w.window.findChild<SpeedTorquePlot*>();
    REQUIRE(plot);
    QStringList heads;
    for (const std::string& h : plot->as_table().head) heads << QString::fromStdString(h);
    const QString all = heads.join(QLatin1Char('|'));
    CHECK(all.contains(QStringLiteral("pull-out curve")));
    CHECK(all.contains(QStringLiteral("share of the pull-out")));
    CHECK(!all.contains(QStringLiteral("continuous")));
    w.document().select_axis(0);
    w.settle();
    heads.clear();
    for (const std::string& h : plot->as_table().head) heads << QString::fromStdString(h);
    CHECK(heads.join(QLatin1Char('|')).contains(QStringLiteral("continuous")));
}

TEST_CASE("half coils are connected by a key, and undone") {
    Window w;
    w.document().select_axis(slide);
    w.document().edit(QStringLiteral("leads"), [](Machine& m) {
        auto& s = std::get<TwoPhaseStepper>(m.axes[slide].motor.electric);
        s.rated_as = StepperRating::half_coil;
        s.connected = StepperConnection::series;
    });
    tab(w, "Windings");
    auto* table = w.child<QTableWidget>("windings");
    REQUIRE(table->rowCount() == 3);
    CHECK(table->item(1, 6)->text() == QStringLiteral("as connected"));
    table->setFocus();
    table->setCurrentCell(2, 0);
    QTest::keyClick(table, Qt::Key_Return);
    w.settle();
    const auto now = [&] { return std::get<TwoPhaseStepper>(w.document().axis().motor.electric).connected; };
    CHECK(now() == StepperConnection::parallel);
    CHECK(table->item(2, 6)->text() == QStringLiteral("as connected"));
    w.document().undo_stack().undo();
    w.settle();
    CHECK(now() == StepperConnection::series);
    // four leads leave no choice; a servo has its turns again
    w.document().edit(QStringLiteral("leads"), [](Machine& m) {
        std::get<TwoPhaseStepper>(m.axes[slide].motor.electric).rated_as = StepperRating::four_leads;
    });
    w.settle();
    CHECK(table->rowCount() == 1);
    QTest::keyClick(table, Qt::Key_Return);
    CHECK(now() == StepperConnection::series);
    w.document().select_axis(0);
    w.settle();
    CHECK(table->rowCount() == 13);
}

TEST_CASE("which kind: a tick changes the advice and says what would") {
    Window w;
    w.document().select_axis(slide);
    w.document().edit(QStringLiteral("budget"), [](Machine& m) {
        m.surroundings.budget = Budget::low;
        m.surroundings.tuning = TuningSkill::none;
    });
    tab(w, "Kind");
    auto* table = w.child<QTableWidget>("kinds");
    CHECK(table->item(0, 0)->text() == QStringLiteral("Stepper, open loop"));
    QCheckBox* hurts = nullptr;
    for (QCheckBox* c : w.window.findChildren<QCheckBox*>())
        if (c->isVisible() && c->text() == QStringLiteral("A lost position hurts")) hurts = c;
    REQUIRE(hurts);
    QTest::mouseClick(hurts, Qt::LeftButton, {}, QPoint(8, hurts->height() / 2));
    w.settle();
    CHECK(w.document().axis().questions.lost_step_hurts);
    CHECK(table->item(0, 0)->text() == QStringLiteral("Stepper with feedback"));
    bool changes = false;
    for (int row = 0; row < table->rowCount(); ++row)
        changes = changes || table->item(row, 0)->text().startsWith(QStringLiteral("If a lost position did no harm"));
    CHECK(changes);
    // a linear axis has no choice, and what is not known counts for nothing and is said
    w.document().select_axis(7);
    w.settle();
    CHECK(!table->isVisible());
    w.document().select_axis(0);
    w.document().edit(QStringLiteral("unknown"), [](Machine& m) { m.axes[0].load.payload = {}; });
    w.settle();
    CHECK(w.child<QLabel>("kind-words")->text().contains(QStringLiteral("not known yet")));
}

TEST_CASE("heat and overload wait for what they lack, and say for what") {
    Window w;
    tab(w, "Heat");
    auto* plot = w.window.findChild<OverloadPlot*>();
    REQUIRE(plot);
    CHECK(plot->missing().isEmpty());
    CHECK(plot->as_table().rows.size() >= 200);
    w.document().edit(QStringLiteral("sheet"), [](Machine& m) {
        Motor& motor = m.axes[0].motor;
        motor.thermal_time_constant = motor.winding_time_constant = {};
        motor.winding_resistance = {};
    });
    w.settle();
    CHECK(plot->missing().contains(QStringLiteral("time constant")));
    w.document().edit(QStringLiteral("no payload"), [](Machine& m) { m.axes[0].load.payload = {}; });
    w.settle();
    CHECK(plot->missing().contains(QStringLiteral("Payload")));
    w.document().select_axis(slide);
    w.document().edit(QStringLiteral("none"), [](Machine& m) { m.axes[slide].motor = {}; });
    w.settle();
    CHECK(plot->missing().contains(QStringLiteral("no motor")));
}

TEST_CASE("surroundings and operation are asked once, on the machine page") {
    Window w;
    QTest::mouseClick(w.child<QPushButton>("page/machine"), Qt::LeftButton);
    w.settle();
    QuantityEdit* hours = nullptr;
    for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>(QStringLiteral("/operation/hours_per_day"))) hours = e;
    REQUIRE(hours);
    const double before = w.document().assessment(0).figure("energy.year")->si;
    hours->setFocus();
    hours->selectAll();
    QTest::keyClicks(hours, QStringLiteral("8"));
    QTest::keyClick(hours, Qt::Key_Return);
    w.settle();
    CHECK(w.document().assessment(0).figure("energy.year")->si == Approx(before / 2));
}

TEST_CASE("the cycle shows when a stepper is in its resonance, and that of a servo nothing") {
    Window w;
    w.document().select_axis(slide);
    w.click_page(2);
    w.settle();
    auto* plot = w.window.findChild<CyclePlot*>();
    REQUIRE(plot);
    CHECK(plot->resonance_stays() == 8); // four ramps up, four down
    w.document().select_axis(0);
    w.settle();
    CHECK(plot->resonance_stays() == 0);
    // without a payload nothing is known of it
    w.document().select_axis(slide);
    w.document().edit(QStringLiteral("unknown"), [](Machine& m) { m.axes[slide].load.payload = {}; });
    w.settle();
    CHECK(plot->resonance_stays() == 0);
}

TEST_CASE("a servo stands beside an open-loop stepper over speed and load") {
    Window w;
    w.document().select_axis(slide);
    tab(w, "Compare");
    auto* table = w.window.findChild<MotorTable*>();
    REQUIRE(table);
    REQUIRE(QTest::qWaitFor([&] { return !table->model_of_motors().judging(); }, hanging));
    const auto press = [&](const char* text) {
        for (QPushButton* b : w.window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QLatin1String(text)) QTest::mouseClick(b, Qt::LeftButton);
        w.settle();
    };
    press("Add the best of the other kind");
    REQUIRE(QTest::qWaitFor([&] { return table->compared().size() == 1 && table->compared()[0].is; }, hanging));
    CHECK(!table->compared()[0].motor.stepper());
    press("Over speed and load");
    auto* plot = w.window.findChild<SteadyPlot*>();
    REQUIRE(plot);
    CHECK(plot->isVisible());
    CHECK(plot->missing().isEmpty());
    CHECK(plot->graphCount() == 2 * 3 * 3); // motors, loads, pictures
    CHECK(plot->loads().back() == Approx(std::abs(w.document().assessment().demand->peak_running.torque)));
    CHECK(plot->legend().contains(QString::fromStdString(table->compared()[0].motor.name)));
    // the room of the page belongs to it, and goes back
    const auto offered = [&] {
        for (QPushButton* b : w.window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QStringLiteral("Show curve and inertia")) return true;
        return false;
    };
    CHECK(!offered());
    press("In numbers");
    CHECK(offered());
    press("Show curve and inertia");
    CHECK(w.window.findChild<SpeedTorquePlot*>()->isVisible());
    CHECK(!plot->isVisible());
    // an axis without a demand says for what it waits
    press("Over speed and load");
    w.document().set_quantity(w.path("/load/payload"), QStringLiteral(""));
    w.document().edit(QStringLiteral("no cycle"), [&](Machine& m) { m.axes[slide].cycle.segments.clear(); });
    w.settle();
    CHECK(!plot->missing().isEmpty());
    CHECK(plot->graphCount() == 0);
}

// What a first user does, counted: a click is an action, so is a key, and a text with the Tab or Enter that ends it.
#include "app/bricks/choice.h"
#include "app/forms/segment_table.h"
#include "app/import_parts.h"
#include "app/pages/registry.h"
#include "app/parts/motor_table.h"
#include "app/words.h"
#include "core/report/json_report.h"
#include "tests/app/own_files.h"
#include "tests/app/parts_page.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QFile>
#include <QPushButton>
#include <QTableView>
#include <nlohmann/json.hpp>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// Mouse and keys of one person, who sees only what is on the screen.
class Hands {
  public:
    explicit Hands(Window& w) : w_(w) {}
    int actions() const { return actions_; }

    void click(QWidget* at) {
        REQUIRE(at);
        REQUIRE(at->isVisible());
        QTest::mouseClick(at, Qt::LeftButton);
        done();
    }
    void button(const char* text) {
        for (QPushButton* b : w_.window.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == QString::fromUtf8(text)) return click(b);
        FAIL("no button " << text);
    }
    void pressed(const char* action) {
        for (QPushButton* b : w_.window.findChildren<QPushButton*>())
            if (b->isVisible() && b->property("action").toString() == QLatin1String(action)) return click(b);
        FAIL("no action " << action);
    }
    void key(Qt::Key k, Qt::KeyboardModifiers with = Qt::NoModifier) {
        QWidget* to = QApplication::focusWidget();
        QTest::keyClick(to ? to : &w_.window, k, with);
        done();
    }
    /// A text, with the Tab or Enter that ends it.
    void type(const char* text) {
        for (const QChar c : QString::fromUtf8(text)) {
            QWidget* to = QApplication::focusWidget();
            REQUIRE(to);
            if (c == QLatin1Char('\t') || c == QLatin1Char('\n')) {
                QTest::keyClick(to, c == QLatin1Char('\t') ? Qt::Key_Tab : Qt::Key_Return);
                continue;
            }
            QKeyEvent e(QEvent::KeyPress, 0, Qt::NoModifier, QString(c));
            QApplication::sendEvent(to, &e);
        }
        done();
    }
    /// The same into the field that has the keyboard, which must be this one.
    void here(const char* field, const char* text) {
        INFO(field);
        REQUIRE(QApplication::focusWidget());
        REQUIRE(QApplication::focusWidget()->objectName() == w_.path(field));
        if (auto* line = qobject_cast<QLineEdit*>(QApplication::focusWidget())) line->selectAll();
        type(text);
    }
    /// The same after a click into it.
    void fill(const char* field, const char* text) {
        click(w_.window.findChild<QWidget*>(w_.path(field)));
        here(field, text);
    }
    /// Finds something by its words and goes there: the shortcut, and the words with Enter.
    void find(const char* words) {
        key(Qt::Key_K, Qt::ControlModifier);
        type((std::string(words) + "\n").c_str());
    }
    void page(int number) { key(static_cast<Qt::Key>(Qt::Key_0 + number), Qt::ControlModifier); }
    /// Enter in the list that has the keyboard, once it is in order.
    void take() {
        w_.idle();
        REQUIRE(qobject_cast<QTableView*>(QApplication::focusWidget()));
        key(Qt::Key_Return);
        w_.idle();
    }
    void card(CardOf of) {
        click(w_.window.findChild<PartCards*>()->card(of));
        w_.idle();
    }

  private:
    Window& w_;
    int actions_ = 0;

    void done() {
        ++actions_;
        w_.settle();
    }
};

double figure(Window& w, const char* key) {
    for (const Figure& f : w.document().assessment().figures)
        if (f.key == key && !f.waits) return f.si;
    FAIL("no figure " << key);
    return 0;
}

} // namespace

TEST_CASE("task: a gantry with gearhead and motor takes no more than 22 actions") {
    Window w(false);
    Hands hands(w);
    hands.key(Qt::Key_N, Qt::ControlModifier);
    hands.here("/mechanism", "Timing");
    REQUIRE(std::holds_alternative<BeltDrive>(w.document().axis().mechanism));
    hands.fill("/mechanism/teeth", "36\t");
    hands.here("/mechanism/pitch", "60*pi/36 mm\t");
    hands.fill("/load/carriage_mass", "18 kg\t");
    hands.here("/load/payload", "0 kg\t");
    hands.page(2);
    hands.here("/cycle/segments/0/what/distance", "1.2 m\t");
    hands.here("/cycle/segments/0/what/duration", "0.9 s");
    hands.button("+ Dwell");
    hands.here("/cycle/segments/1/what/duration", "1 s");
    hands.pressed("close-cycle");
    hands.button("+ Dwell");
    hands.here("/cycle/segments/3/what/duration", "1 s");
    REQUIRE(w.document().assessment().motion);
    CHECK(w.document().assessment().motion->duration == Approx(0.9 + 1 + 0.9 + 1));
    hands.page(4);
    hands.take();
    REQUIRE(w.document().axis().driven());
    hands.card(CardOf::gearhead);
    hands.take();
    CHECK(!w.document().axis().stages.empty());
    hands.card(CardOf::motor); // the smaller one that it allows
    hands.take();
    std::string over = w.document().axis().motor.name + " behind " + w.document().axis().stages[0].name;
    for (const Limit& l : w.document().assessment().limits)
        if (l.state == LimitState::over) over += ", over: " + l.key;
    INFO(over);
    CHECK(!w.document().assessment().exceeded());
    CHECK(hands.actions() <= 22);
}

TEST_CASE("task: a vertical lift with a braked motor and its coupling") {
    Window w(false);
    Hands hands(w);
    hands.key(Qt::Key_N, Qt::ControlModifier);
    hands.fill("/mechanism/lead", "10 mm\t");
    hands.here("/mechanism/diameter", "20 mm");
    hands.fill("/mechanism/length", "600 mm");
    hands.fill("/load/inclination", "90 deg\t");
    hands.here("/load/carriage_mass", "12 kg\t");
    hands.here("/load/payload", "23 kg");
    hands.page(2);
    hands.here("/cycle/segments/0/what/distance", "300 mm\t");
    hands.here("/cycle/segments/0/what/duration", "0.6 s");
    hands.pressed("close-cycle");
    hands.fill("/cycle/segments/1/payload", "0 kg");
    // m·g·lead/2π, worked by hand
    CHECK(figure(w, "demand.static_torque") == Approx(35 * 9.80665 * 0.01 / (2 * std::numbers::pi)).epsilon(1e-3));
    hands.page(4);
    hands.take();
    CHECK(w.document().axis().motor.brake_torque.given());
    hands.card(CardOf::coupling);
    hands.take();
    CHECK(w.document().axis().coupling.there());
    CHECK(w.limit("coupling").state == LimitState::fits);
    CHECK(hands.actions() <= 22);
    // how much more it carries stands in the row of what stops it
    hands.click(w.window.findChild<QWidget*>(QStringLiteral("limit/brake")));
    w.idle();
    CHECK(hands.actions() <= 23);
}

TEST_CASE("task: an index table with its gearhead") {
    Window w(false);
    Hands hands(w);
    hands.key(Qt::Key_N, Qt::ControlModifier);
    hands.here("/mechanism", "Rotary");
    hands.fill("/load/payload", "8*1.2 kg");
    hands.fill("/mechanism/payload_radius", "160 mm");
    hands.button("+ body");
    hands.here("/bodies/0/shape/diameter", "400 mm\t");
    hands.here("/bodies/0/shape/length", "20 mm");
    hands.fill("/bodies/0/material", "Aluminium alloy");
    hands.page(2);
    hands.here("/cycle/segments/0/what/distance", "45 deg\t");
    hands.here("/cycle/segments/0/what/duration", "0.25 s");
    hands.button("+ Dwell");
    hands.here("/cycle/segments/1/what/duration", "0.5 s");
    // half the plate's mass by its radius squared, and the stations at theirs, worked by hand
    CHECK(figure(w, "load.inertia") == Approx(0.3815).epsilon(2e-4));
    hands.page(4);
    hands.take();
    hands.card(CardOf::gearhead);
    hands.take();
    CHECK(!w.document().axis().stages.empty());
    CHECK(hands.actions() <= 21);
}

TEST_CASE("task: a sheet in inch units that contradicts itself") {
    Window w(false);
    Hands hands(w);
    hands.key(Qt::Key_N, Qt::ControlModifier);
    hands.find("Datasheet");
    hands.here("/motor/rotor_inertia", "0.0006 lb-in-s²\t");
    hands.here("/motor/max_speed", "5000 rpm\t");
    hands.here("/motor/curve_voltage", "325 V");
    hands.fill("/motor/electric/torque_constant", "5.8 lb-in/A");
    hands.fill("/motor/electric/voltage_constant", "48.5 V/krpm");
    hands.fill("/motor/electric/resistance", "1.9 ohm");
    hands.fill("/motor/electric/inductance", "8.2 mH");
    hands.fill("/motor/electric/pole_pairs", "4");
    hands.fill("/motor/electric/rated_torque", "24 lb-in");
    hands.fill("/motor/electric/peak_torque", "72 lb-in");
    const auto& motor = std::get<SineMotor>(w.document().axis().motor.electric);
    CHECK(motor.torque_constant.si == Approx(0.6553).epsilon(1e-3));
    CHECK(motor.peak_torque.text == "72 lb-in");
    QStringList said;
    for (const QLabel* l : w.window.findChildren<QLabel*>())
        if (l->isVisible()) said << l->text();
    INFO(said.join(QLatin1Char('\n')).toStdString());
    CHECK(said.join(QLatin1Char(' ')).contains(QStringLiteral("contradicts")));
    CHECK(hands.actions() <= 20);
}

TEST_CASE("task: a stepper slide by keys alone, its motor too") {
    Window w(false);
    Hands hands(w);
    hands.key(Qt::Key_N, Qt::ControlModifier);
    hands.key(Qt::Key_Tab);
    hands.here("/mechanism/thread", "Trapezoidal\t");
    hands.key(Qt::Key_Tab);
    hands.here("/mechanism/lead", "8 mm\t");
    hands.here("/mechanism/starts", "4\t");
    hands.key(Qt::Key_Tab);
    hands.here("/mechanism/diameter", "12 mm\t");
    hands.key(Qt::Key_Tab);
    hands.here("/mechanism/length", "300 mm");
    hands.page(1); // again, to what is missing
    hands.here("/load/carriage_mass", "3 kg\t");
    hands.here("/load/payload", "0 kg");
    hands.page(2);
    hands.here("/cycle/segments/0/what/distance", "200 mm\t");
    hands.here("/cycle/segments/0/what/duration", "1 s");
    hands.find("way back");
    hands.find("bus voltage");
    hands.here("/drive/bus_voltage", "24 V");
    hands.find("Catalogue");
    hands.key(Qt::Key_F, Qt::ControlModifier);
    hands.type("stepper\n");
    hands.take();
    CHECK(w.document().axis().motor.stepper());
    CHECK(!w.document().assessment().exceeded());
    CHECK(figure(w, "stepper.pulse_rate") > 0);
    CHECK(hands.actions() <= 26);
    const double at_24 = w.limit("peak_torque").utilisation();
    hands.find("bus voltage");
    hands.here("/drive/bus_voltage", "48 V\t");
    CHECK(w.limit("peak_torque").utilisation() <= at_24); // the pull-out curve of a higher voltage lies no lower
}

TEST_CASE("task: a gearhead list of one's own, read without a correction, and one of it used") {
    NoLibrary none;
    Window w;
    open_shelf(w, CardOf::gearhead, "gearhead");
    const QString file = w.folder.filePath(QStringLiteral("own.csv"));
    QFile out(file);
    REQUIRE(out.open(QIODevice::WriteOnly));
    out.write("Type; Ratio; T2N [Nm]; T2B [Nm]; n1 max [1/min]; backlash [arcmin]; J1 [kgcm²]; price\n");
    for (const int ratio : {3, 4, 5, 7, 10, 12})
        out.write(QStringLiteral("Own 60-%1; %1; 25,5; 50; 6000; 8; 0,135; 310,5\n").arg(ratio).toUtf8());
    out.close();
    Hands hands(w);
    fulmox::app::import_parts(w.document(), file, {}, &w.window); // as a file dropped on the list
    auto* dialog = w.window.findChild<ImportParts*>();
    REQUIRE(dialog);
    REQUIRE(QTest::qWaitFor([&] { return !dialog->reading(); }, hanging));
    CHECK(dialog->findChild<QLabel*>(QStringLiteral("import-found"))->text().startsWith(QStringLiteral("6 of 6")));
    hands.click(dialog->findChild<QPushButton*>(QStringLiteral("import-project")));
    CHECK(w.document().machine().gearheads.size() == 6);
    w.window.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&w.window));
    hands.find("Gearhead catalogue");
    hands.key(Qt::Key_F, Qt::ControlModifier);
    hands.type("Own 60-7\n");
    hands.take();
    CHECK(w.document().axis().stages.back().name == "Own 60-7");
    CHECK(hands.actions() <= 6);
}

TEST_CASE("task: the ends of the lift's screw, drawn and named") {
    Window w;
    Hands hands(w);
    hands.find("Screw ends");
    hands.here("/mechanism/ends/nut_length", "48 mm\t");
    hands.here("/mechanism/ends/margin", "10 mm\t");
    hands.here("/mechanism/ends/drive_end/seat_diameter", "15 mm\t");
    CHECK(std::get<Screw>(w.document().axis().mechanism).ends.nut_length.text == "48 mm");
    const QString sums = w.child<QLabel>("screw-sums")->text();
    CHECK(sums.contains(QStringLiteral("mm")));
    CHECK(hands.actions() <= 5);
}

TEST_CASE("task: precision asked for, and what decides it") {
    Window w;
    Hands hands(w);
    hands.find("asked");
    hands.here("/accuracy/asked", "0.05 mm");
    hands.find("lead error");
    hands.here("/mechanism/lead_error", "0.052 mm\t");
    CHECK(w.limit("precision").state == LimitState::over);
    CHECK(hands.actions() <= 6);
}

TEST_CASE("task: limits for a spreadsheet and results for a script by one press each") {
    Window w;
    Hands hands(w);
    hands.key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(hands.actions() == 1);
    const QString copied = QApplication::clipboard()->text();
    for (const Limit& l : w.document().assessment().limits) CHECK(copied.contains(qs(l.label)));
    const QString file = w.folder.filePath(QStringLiteral("results.json"));
    w.window.save_results(file);
    w.idle();
    QFile in(file);
    REQUIRE(in.open(QIODevice::ReadOnly));
    const auto json = nlohmann::json::parse(in.readAll().toStdString());
    std::vector<Assessment> axes;
    for (std::size_t i = 0; i < w.document().machine().axes.size(); ++i)
        axes.push_back(assess(w.document().machine(), i, {.workings = true}));
    CHECK(json == nlohmann::json::parse(assessment_json(w.document().machine(), axes)));
    // where it cannot be written the window says so
    w.window.save_results(QStringLiteral("/dev/full/results.json"));
    w.idle();
    CHECK(w.window.message().contains(QStringLiteral("No results were written")));
}

TEST_CASE("task: what is over on the edge wiper is brought back by three actions") {
    Window w;
    Hands hands(w);
    for (QPushButton* b : w.window.findChildren<QPushButton*>())
        if (b->isVisible() && b->accessibleName().contains(QStringLiteral("Edge wiper"))) {
            hands.click(b);
            break;
        }
    REQUIRE(w.document().axis().name == "Edge wiper");
    REQUIRE(w.limit("coupling").state == LimitState::over);
    hands.click(w.window.findChild<QWidget*>(QStringLiteral("limit/coupling")));
    hands.pressed("change");
    CHECK(w.limit("coupling").state != LimitState::over);
    CHECK(w.limit("stage_emergency").state != LimitState::over);
    CHECK(hands.actions() <= 3);
}

TEST_CASE("task: a motor found by its name and taken by keys alone") {
    Window w;
    Hands hands(w);
    hands.find("Wren 60-19 B");
    hands.take();
    CHECK(w.document().axis().motor.name == "Wren 60-19 B");
    CHECK(hands.actions() <= 3);
}

// What a first user does, counted: a click, a text typed, a key pressed beside typing are one action each.
#include "app/bricks/choice.h"
#include "app/forms/segment_table.h"
#include "app/pages/registry.h"
#include "app/parts/motor_table.h"
#include "tests/app/parts_page.h"

#include <QComboBox>
#include <QPushButton>
#include <QTableView>

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
    void type(const char* text) {
        for (const QChar c : QString::fromUtf8(text)) {
            QWidget* to = QApplication::focusWidget();
            REQUIRE(to);
            QKeyEvent e(QEvent::KeyPress, 0, Qt::NoModifier, QString(c));
            QApplication::sendEvent(to, &e);
        }
        done();
    }
    /// Into a field that is on the screen: a click, and the text over what stands there.
    void fill(const char* field, const char* text) {
        QuantityEdit* e = w_.edit(field);
        if (!e->hasFocus()) {
            click(e);
            ++into_fields_;
        }
        e->selectAll();
        type(text);
    }
    /// Finds something by its words and goes there: the shortcut, the words, Enter.
    void find(const char* words) {
        key(Qt::Key_K, Qt::ControlModifier);
        type(words);
        key(Qt::Key_Return);
    }

    /// Something done to the window that is an action too.
    void counted() { done(); }
    /// Of the actions: Tab would have led there.
    int clicks_into_fields() const { return into_fields_; }

  private:
    Window& w_;
    int actions_ = 0, into_fields_ = 0;

    void done() {
        ++actions_;
        w_.settle();
    }
};

// The first row of a list, and Enter, which takes it.
void take_first(Window& w, Hands& hands, QTableView& table) {
    REQUIRE(table.model()->rowCount() > 0);
    const QRect row = table.visualRect(table.model()->index(0, 0));
    QTest::mouseClick(table.viewport(), Qt::LeftButton, {}, row.center());
    hands.counted();
    hands.key(Qt::Key_Return);
    w.idle();
}

} // namespace

TEST_CASE("task: a gantry with gearhead and motor takes no more than 22 actions") {
    Window w(false);
    w.document().start_new();
    w.settle();
    Hands hands(w);
    auto* kind = w.window.findChild<Choice*>(w.path("/mechanism"));
    REQUIRE(kind);
    kind->setFocus(); // as Tab reaches it from the name
    hands.type("Timing");
    REQUIRE(std::holds_alternative<BeltDrive>(w.document().axis().mechanism));
    hands.fill("/mechanism/teeth", "36");
    hands.fill("/mechanism/pitch", "60*pi/36 mm");
    hands.fill("/load/carriage_mass", "18 kg");
    hands.key(Qt::Key_2, Qt::ControlModifier);
    hands.fill("/cycle/segments/0/what/distance", "1.2 m");
    hands.fill("/cycle/segments/0/what/duration", "0.9 s");
    hands.button("+ Dwell");
    hands.fill("/cycle/segments/1/what/duration", "1 s");
    hands.pressed("close-cycle");
    hands.button("+ Dwell");
    hands.fill("/cycle/segments/3/what/duration", "1 s");
    REQUIRE(w.document().assessment().motion);
    CHECK(w.document().assessment().motion->duration == Approx(0.9 + 1 + 0.9 + 1));
    const int described = hands.actions();
    hands.key(Qt::Key_4, Qt::ControlModifier);
    take_first(w, hands, *w.window.findChild<MotorTable*>());
    REQUIRE(w.document().axis().driven());
    hands.click(w.window.findChild<PartCards*>()->card(CardOf::gearhead));
    auto* shelf = w.window.findChild<ShelfView*>();
    REQUIRE(shelf);
    REQUIRE(QTest::qWaitFor([&] { return !shelf->model().judging() && shelf->model().candidate(0); }, 60000));
    take_first(w, hands, shelf->table());
    CHECK(!w.document().axis().stages.empty());
    INFO(described << " actions to describe it, " << hands.actions() << " with its parts");
    CHECK(hands.actions() <= 26); // clicks into fields counted; 22 where Tab leads on
    CHECK(hands.actions() - hands.clicks_into_fields() <= 22);
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
    hands.key(Qt::Key_Return);
    CHECK(w.document().axis().motor.name == "Wren 60-19 B");
    CHECK(hands.actions() <= 4);
}

// Whatever is typed, key by key, stands in its field and nowhere else, whatever appears around it.
#include "app/bricks/choice.h"
#include "app/pages/registry.h"
#include "app/parts/part_cards.h"
#include "tests/app/window.h"
#include "tests/demo.h"
#include "tests/mechanisms.h"

#include <QPushButton>
#include <QTabWidget>
#include <map>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// What every place of the project holds, lists by their length.
std::map<std::string, std::string> held(Machine machine) {
    std::map<std::string, std::string> out;
    for (const FieldRef& f : walk(machine)) {
        std::string& words = out[f.path];
        if (f.quantity) words = f.quantity->text;
        if (f.text) words = *f.text;
        if (f.flag) words = *f.flag ? "yes" : "no";
        if (f.type == FieldRef::Type::choice || f.type == FieldRef::Type::variant) words = std::to_string(f.chosen());
        if (f.type == FieldRef::Type::list) words = std::to_string(f.list.size());
    }
    return out;
}

// A text the field takes, with a blank in it: what a person types.
std::string acceptable(const Machine& machine, const std::string& path) {
    Machine copy = machine;
    auto field = find_field(copy, path);
    if (!field || !field->quantity) return {};
    const std::string unit = spec_unit(field->quantity_spec, field->kind).symbol == "1"
                                 ? ""
                                 : " " + std::string(spec_unit(field->quantity_spec, field->kind).symbol);
    for (const char* number : {"5.8", "3", "0.5", "12", "0.05", "90"}) {
        const std::string text = number + unit;
        if (text != field->quantity->text && !assign(*field, text)) return text;
    }
    return {};
}

// To whatever has the focus, as a keyboard does; `slowly` lets the window come round after each.
void keys(const QString& text, bool slowly) {
    for (const QChar c : text) {
        QWidget* to = QApplication::focusWidget();
        REQUIRE(to);
        const int key = c == QLatin1Char(' ') ? Qt::Key_Space : c.isLetterOrNumber() ? c.toUpper().unicode() : 0;
        for (const auto what : {QEvent::KeyPress, QEvent::KeyRelease}) {
            QKeyEvent e(what, key, Qt::NoModifier, what == QEvent::KeyPress ? QString(c) : QString());
            QApplication::sendEvent(to, &e);
        }
        if (slowly) QApplication::processEvents();
    }
    QApplication::processEvents();
}

void unfold(Window& w) {
    for (int again = 0; again < 3; ++again)
        for (QPushButton* b : w.window.findChildren<QPushButton*>(QStringLiteral("link")))
            if (b->isVisible() && b->isCheckable() && !b->isChecked()) {
                b->click();
                QApplication::processEvents();
            }
}

QuantityEdit* shown(Window& w, const QString& path) {
    for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>(path))
        if (e->isVisible() && e->isEnabled() && !e->isReadOnly()) return e;
    return nullptr;
}

// Types into every field in front, each from the same state.
int type_into_all(Window& w, const std::string& view, std::set<QString>& done, bool slowly) {
    unfold(w);
    const Machine base = w.document().machine();
    const auto before = held(base);
    QStringList paths;
    for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>())
        if (e->isVisible() && !e->path().isEmpty() && !done.contains(e->path())) paths << e->path();
    int typed = 0;
    for (const QString& path : paths) {
        const std::string text = acceptable(base, path.toStdString());
        if (text.empty()) continue;
        unfold(w);
        QuantityEdit* e = shown(w, path);
        INFO(view << ", " << path.toStdString() << " = " << text);
        REQUIRE(e);
        done.insert(path);
        e->setFocus(Qt::TabFocusReason);
        e->selectAll();
        keys(QString::fromStdString(text), slowly);
        auto* focus = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
        CHECK(focus == e);
        if (focus == e) CHECK(e->text().toStdString() == text);
        auto now = held(w.document().machine());
        CHECK(now[path.toStdString()] == text);
        for (const auto& [at, words] : before)
            if (at != path.toStdString() && now.contains(at) && now[at] != words) {
                INFO(at << ": " << words << " became " << now[at]);
                CHECK(false);
            }
        ++typed;
        // back, as a person would: the form goes back too
        while (!(w.document().machine() == base) && w.document().undo_stack().canUndo())
            w.document().undo_stack().undo();
        w.document().end_typing();
        REQUIRE(w.document().machine() == base);
        QApplication::processEvents();
    }
    return typed;
}

// Every page, card and tab there is for this axis.
int type_everywhere(Window& w, const std::string of, std::set<QString>& done, bool slowly, int from_page = 0) {
    int typed = 0;
    for (int page = from_page; page < static_cast<int>(page_registry().size()); ++page) {
        w.window.show_page(page);
        w.idle();
        const std::string name = of + ", page " + std::to_string(page);
        auto* cards = w.window.findChild<PartCards*>();
        if (!cards || !cards->isVisible()) {
            typed += type_into_all(w, name, done, slowly);
            continue;
        }
        for (const CardOf card : {CardOf::motor, CardOf::gearhead, CardOf::coupling, CardOf::brake, CardOf::drive,
                 CardOf::screw, CardOf::precision}) {
            if (!cards->card(card)) continue;
            QTest::mouseClick(cards->card(card), Qt::LeftButton);
            w.idle();
            for (QTabWidget* tabs : w.window.findChildren<QTabWidget*>()) {
                if (!tabs->isVisible()) continue;
                for (int i = 0; i < tabs->count(); ++i) {
                    if (!tabs->isTabVisible(i)) continue;
                    tabs->setCurrentIndex(i);
                    w.idle();
                    typed += type_into_all(w, name + ", " + tabs->tabText(i).toStdString(), done, slowly);
                }
            }
        }
    }
    return typed;
}

} // namespace

TEST_CASE("what is typed into a field of a new axis stays there: every page, card and motor kind") {
    for (const bool slowly : {true, false}) {
        Window w(false);
        w.document().start_new();
        int typed = 0;
        std::set<QString> first;
        typed += type_everywhere(w, slowly ? "slowly" : "fast", first, slowly);
        CHECK(typed > 100);
        if (!slowly) break;
        for (int kind = 0; kind < static_cast<int>(std::variant_size_v<MotorKind>); ++kind) {
            w.document().set_choice(w.path("/motor/electric"), kind);
            std::set<QString> done = first;
            typed += type_everywhere(w, "kind of motor " + std::to_string(kind), done, slowly,
                page_by_key("parts")); // no other page has fields of a motor
        }
    }
}

TEST_CASE("what is typed into a field of any mechanism stays there") {
    Window w(false);
    w.document().start_new();
    w.click_page(1);
    int typed = 0;
    const auto kinds = mechanism_kinds();
    for (int k = 0; k < static_cast<int>(kinds.size()); ++k) {
        w.document().set_choice(w.path("/mechanism"), k);
        std::set<QString> done;
        typed += type_into_all(w, kinds[static_cast<std::size_t>(k)].key, done, true);
    }
    CHECK(typed > 60);
}

TEST_CASE("what is typed into a field of a whole axis stays there") {
    Window w;
    int typed = 0;
    std::set<QString> done;
    for (int axis = 0; axis < static_cast<int>(w.document().machine().axes.size()); axis += 7) {
        w.document().select_axis(axis);
        typed += type_everywhere(w, w.document().axis().name, done, false);
    }
    CHECK(typed > 100);
}

TEST_CASE("a sheet typed in inch units keeps every letter, and the Tab key goes from field to field") {
    Window w(false);
    w.document().start_new();
    tab(w, "Datasheet");
    QuantityEdit* first = w.edit("/motor/electric/torque_constant");
    first->setFocus(Qt::TabFocusReason);
    keys(QStringLiteral("5.8 lb-in/A"), true);
    CHECK(std::get<SineMotor>(w.document().axis().motor.electric).torque_constant.text == "5.8 lb-in/A");
    CHECK(w.document().axis().motor.continuous.empty());
    // fields that came meanwhile stand in the order of the Tab key too
    QWidget* at = QApplication::focusWidget();
    int below = at->mapTo(&w.window, QPoint()).y();
    for (int i = 0; i < 6; ++i) {
        QTest::keyClick(at, Qt::Key_Tab);
        at = QApplication::focusWidget();
        REQUIRE(at);
        auto* next = qobject_cast<QuantityEdit*>(at);
        if (!next) continue;
        INFO(next->path().toStdString());
        const int y = next->mapTo(&w.window, QPoint()).y();
        QApplication::processEvents();
        CHECK(next->path().startsWith(w.path("/motor/")));
        below = y;
    }
    CHECK(below > 0);
}

TEST_CASE("a choice changed by keys keeps the focus, and keys that follow change it again") {
    Window w(false);
    w.document().start_new();
    w.click_page(1);
    int seen = 0;
    for (Choice* c : w.window.findChildren<Choice*>()) {
        if (!c->isVisible() || c->count() < 2 || c->objectName().isEmpty()) continue;
        const QString name = c->objectName();
        INFO(name.toStdString());
        c->setFocus(Qt::TabFocusReason);
        const int was = c->currentIndex();
        QTest::keyClick(c, was + 1 < c->count() ? Qt::Key_Down : Qt::Key_Up);
        QApplication::processEvents();
        CHECK(QApplication::focusWidget() == c);
        CHECK(c->currentIndex() != was);
        ++seen;
    }
    CHECK(seen >= 1);
}

namespace {

// All keys at once, as they lie in the queue of a machine that was busy: the window does not come round between them.
void at_once(const std::vector<int>& keys_before, const QString& text, bool slowly) {
    const auto press = [&](int key, const QString& letter) {
        QWidget* to = QApplication::focusWidget();
        REQUIRE(to);
        for (const auto what : {QEvent::KeyPress, QEvent::KeyRelease}) {
            QKeyEvent e(what, key, Qt::NoModifier, what == QEvent::KeyPress ? letter : QString());
            QApplication::sendEvent(to, &e);
        }
        if (slowly) QApplication::processEvents();
    };
    for (const int k : keys_before) press(k, k == Qt::Key_Space ? QStringLiteral(" ") : QString());
    for (const QChar c : text) press(c.unicode(), QString(c));
    QApplication::processEvents();
}

// What the project holds after them, on a page of a new one.
std::map<std::string, std::string> after_keys(
    Window& w, int page, const QString& at, const std::vector<int>& first, const QString& text, bool slowly) {
    w.document().start_new();
    w.click_page(page);
    if (page == 4) tab(w, "Datasheet");
    w.settle();
    QWidget* from = nullptr;
    for (QWidget* c : w.window.findChildren<QWidget*>())
        if (c->isVisible() && (c->objectName() == at || c->accessibleName() == at)) from = c;
    REQUIRE(from);
    from->setFocus(Qt::TabFocusReason);
    at_once(first, text, slowly);
    return held(w.document().machine());
}

} // namespace

TEST_CASE("keys that come all at once land where they land when they come slowly") {
    Window w(false);
    const auto same = [&](int page, const QString& at, const std::vector<int>& first) {
        INFO(page << " " << at.toStdString());
        std::string differ;
        const auto slowly = after_keys(w, page, at, first, QStringLiteral("36"), true);
        for (const auto& [path, words] : after_keys(w, page, at, first, QStringLiteral("36"), false))
            if (const auto it = slowly.find(path); it == slowly.end() || it->second != words)
                differ += path + " = " + words + "\n";
        CHECK(differ == "");
    };
    for (const int page : {1, 2, 4}) {
        w.document().start_new();
        w.click_page(page);
        if (page == 4) tab(w, "Datasheet");
        QStringList choices;
        for (Choice* c : w.window.findChildren<Choice*>())
            if (c->isVisible() && c->count() > 1 && c->objectName().startsWith(QLatin1Char('/')))
                choices << c->objectName();
        CHECK(!choices.isEmpty());
        for (const QString& c : choices)
            for (int down = 1; down <= 3; ++down) {
                std::vector<int> first(static_cast<std::size_t>(down), Qt::Key_Down);
                first.push_back(Qt::Key_Tab);
                same(page, c, first);
            }
    }
    same(1, QStringLiteral("+ body to Bodies"), {Qt::Key_Space});
    same(1, QStringLiteral("+ stage to Reduction, motor side first"), {Qt::Key_Space});
    same(2, QStringLiteral("add-dwell"), {Qt::Key_Space});
    same(2, QStringLiteral("add-move"), {Qt::Key_Space});
}

// A real window with the demo in it, driven by mouse and keys.
#pragma once

#include "app/background.h"
#include "app/forms/form.h"
#include "app/forms/quantity_edit.h"
#include "app/ledger.h"
#include "app/main_window.h"
#include "app/theme.h"

#include "tests/catch.h"
#include <QApplication>
#include <QElapsedTimer>
#include <QLabel>
#include <QTabWidget>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <ctime>
#include <string>
#include <utility>
#include <vector>

namespace fulmox::testing {

/// ms after which a test is taken to hang; nothing is held to it on a busy machine.
inline constexpr int hanging = 600'000;

using namespace fulmox::app;

/// What Qt complains of is a defect: a number that is none in a drawing, a signal that does not exist. Cleared at the
/// end of a test, which has then failed.
inline QStringList& complaints() {
    static QStringList all;
    return all;
}

/// ms that the window's thread itself works, whatever else the machine does.
class OwnTime {
  public:
    double elapsed() const { return now() - start_; }

  private:
    double start_ = now();
    static double now() {
        timespec t{};
        ::clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return 1e3 * static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_nsec);
    }
};

struct Window {
    QTemporaryDir folder;
    MainWindow window;

    explicit Window(bool demo = true) : window(folder.path() + QStringLiteral("/recovery")) {
        window.confirm_leave = [] { return MainWindow::Leave::discard; };
        if (demo) window.open_demo();
        window.resize(1280, 800);
        window.show();
        REQUIRE(QTest::qWaitForWindowExposed(&window));
        window.activateWindow();
        QApplication::processEvents();
    }
    Document& document() { return window.document(); }
    QString path(const char* field) { return document().axis_path() + QLatin1String(field); }

    /// The line of a field that is on screen.
    QuantityEdit* edit(const char* field) {
        QApplication::processEvents(); // widgets new in a form appear with the next event
        QuantityEdit* found = nullptr;
        for (QuantityEdit* e : window.findChildren<QuantityEdit*>(path(field)))
            if (e->isVisible()) found = e;
        INFO(field);
        REQUIRE(found);
        return found;
    }
    /// Types over a field, as a person does: click, select all, type.
    QuantityEdit* type(const char* field, const char* text) {
        QuantityEdit* e = edit(field);
        QTest::mouseClick(e, Qt::LeftButton);
        e->selectAll();
        // inserted as one piece: QTest types only Latin-1 keys
        e->insert(QString::fromUtf8(text));
        emit e->textEdited(e->text());
        QApplication::processEvents();
        return e;
    }
    template <class T> T* child(const char* name) {
        T* found = window.findChild<T*>(QString::fromUtf8(name));
        INFO(name);
        REQUIRE(found);
        return found;
    }
    void click_page(int number) {
        QTest::mouseClick(child<QPushButton>(("page/" + std::to_string(number)).c_str()), Qt::LeftButton);
        QApplication::processEvents();
    }
    /// Waits until nothing in the window has moved for some rounds of events: layouts settle over a few of
    /// them, and on a busy machine a fixed time holds only one.
    /// Waits for an assessment that is made off the window's thread.
    void assessed() {
        QElapsedTimer since;
        since.start();
        while (document().has_axis() && document().assessment().pending && since.elapsed() < hanging) QTest::qWait(5);
    }
    void settle() {
        idle();
        std::vector<std::pair<const QWidget*, QRect>> before;
        QElapsedTimer since;
        since.start();
        for (int still = 0; still < 4 && since.elapsed() < 5000;) {
            QTest::qWait(3);
            std::vector<std::pair<const QWidget*, QRect>> now;
            for (const QWidget* w : window.findChildren<QWidget*>())
                if (w->isVisible()) now.emplace_back(w, w->geometry());
            still = now == before ? still + 1 : 0;
            before = std::move(now);
            if (work_under_way() > 0) idle(), still = 0; // what came may have begun something
        }
    }
    /// Waits until nothing is under way beside the window: the one way to wait for it. The stop is against hanging.
    void idle() {
        assessed();
        QElapsedTimer since;
        since.start();
        QApplication::processEvents();
        const auto soon = [&] { // what a change puts off for a moment; saving unsaved work waits longer
            for (const QWidget* top : QApplication::topLevelWidgets())
                for (const QTimer* t : top->findChildren<QTimer*>())
                    if (t->isSingleShot() && t->isActive() && t->interval() < 1000) return true;
            return false;
        };
        while ((work_under_way() > 0 || soon()) && since.elapsed() < hanging) QTest::qWait(5);
        QApplication::processEvents();
    }
    /// Tries to close it and answers no to what it asks.
    bool asks_before_closing() {
        bool asked = false;
        window.confirm_leave = [&] {
            asked = true;
            return MainWindow::Leave::stay;
        };
        const bool closed = window.close();
        window.confirm_leave = [] { return MainWindow::Leave::discard; };
        return asked && !closed && window.isVisible();
    }
    const Limit& limit(const char* key) {
        const Limit* l = document().assessment().limit(key);
        REQUIRE(l);
        return *l;
    }
    const Screw& screw() { return std::get<Screw>(document().axis().mechanism); }
};

/// The tab of page 4 with this name, in front.
inline QTabWidget* tab(Window& w, const char* name) {
    w.click_page(4);
    w.settle();
    for (QTabWidget* t : w.window.findChildren<QTabWidget*>()) {
        if (!t->isVisible()) continue;
        for (int i = 0; i < t->count(); ++i)
            if (t->tabText(i) == QLatin1String(name)) {
                t->setCurrentIndex(i);
                w.settle();
                return t;
            }
    }
    FAIL("no tab " << name);
    return nullptr;
}

/// What the pages complain of at the moment.
inline QString said(Window& w) {
    QString out;
    for (QLabel* l : w.window.findChildren<QLabel*>())
        if (l->isVisible() && l->objectName() == QStringLiteral("problem")) out += l->text();
    return out;
}

} // namespace fulmox::testing

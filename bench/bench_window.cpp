// A keystroke to the end of the repaint it causes, in the real window on each page. Fails above 16 ms.
#include "app/main_window.h"
#include "app/theme.h"
#include "app/widgets/quantity_edit.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTest>
#include <algorithm>
#include <cstdio>
#include <vector>

using namespace fulmox::app;

namespace {

constexpr double promise = 16; // ms

// Counts the frames of a window; UpdateRequest is handled after everything dirty has been painted.
struct Painted : QObject {
    int count = 0;
    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() == QEvent::UpdateRequest) ++count;
        return false;
    }
};

double median(std::vector<double>& v) {
    std::sort(v.begin(), v.end());
    return v[v.size() / 2];
}

} // namespace

int main(int argc, char** argv) {
    QTemporaryDir home;
    qputenv("XDG_CONFIG_HOME", home.path().toLocal8Bit());
    QApplication application(argc, argv);
    load_fonts();
    apply_theme(application, false);
    MainWindow window(home.path());
    window.confirm_leave = [] { return MainWindow::Leave::discard; };
    window.open_demo();
    window.show();
    if (!QTest::qWaitForWindowExposed(&window)) return 2;
    bool held = true;
    Painted painted;
    window.installEventFilter(&painted);
    const struct {
        int page;
        const char* field;
    } places[] = {{0, "/load/payload"}, {1, "/cycle/segments/0/what/duration"}, {3, "/drive/bus_voltage"}};
    for (const auto& place : places) {
        window.show_page(place.page);
        QTest::qWait(300);
        QuantityEdit* edit = nullptr;
        for (QuantityEdit* e :
            window.findChildren<QuantityEdit*>(QStringLiteral("/axes/0") + QLatin1String(place.field)))
            if (e->isVisible()) edit = e;
        if (!edit) return 2;
        edit->setFocus();
        edit->setText(place.page == 1   ? QStringLiteral("0.75")
                      : place.page == 3 ? QStringLiteral("32")
                                        : QStringLiteral("2"));
        std::vector<double> times;
        for (int i = 0; i < 60; ++i) {
            // one digit more, then one less: every key changes every result
            QElapsedTimer timer;
            timer.start();
            if (i % 2 == 0)
                QTest::keyClick(edit, static_cast<Qt::Key>(Qt::Key_1 + i % 9));
            else
                QTest::keyClick(edit, Qt::Key_Backspace);
            // until the window has been painted again and nothing is left to do
            painted.count = 0;
            while (painted.count == 0) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
            QApplication::processEvents();
            times.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
        }
        const double m = median(times);
        std::printf(
            "page %d: a keystroke to repaint %.1f ms median, %.1f ms at the 95th percentile (promise %.0f ms)\n",
            place.page + 1, m, times[times.size() * 95 / 100], promise);
        held = held && m <= promise;
    }
    window.close();
    return held ? 0 : 1;
}

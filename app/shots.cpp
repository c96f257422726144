#include "app/shots.h"

#include "app/ledger.h"
#include "app/main_window.h"
#include "app/theme.h"

#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QPixmap>
#include <QTemporaryDir>
#include <cstdlib>

namespace fulmox::app {

namespace {

void settle() {
    QElapsedTimer timer;
    timer.start();
    while (timer.elapsed() < 350) QApplication::processEvents(QEventLoop::AllEvents, 20);
}

class Painted : public QObject {
  public:
    using QObject::QObject;
    bool eventFilter(QObject*, QEvent* event) override {
        // after the frame is out, and without tidying up: what is timed is the way to the first picture
        if (event->type() == QEvent::Paint)
            QMetaObject::invokeMethod(
                this, [] { std::_Exit(0); }, Qt::QueuedConnection);
        return false;
    }
};

} // namespace

void quit_after_first_paint(QWidget& window) { window.installEventFilter(new Painted(&window)); }

int write_shots(const QString& folder) {
    if (!QDir().mkpath(folder)) return 2;
    QTemporaryDir own;
    apply_theme(*qApp, false);
    MainWindow window(own.path());
    window.open_demo();
    window.resize(1280, 800);
    window.show();
    settle();
    bool all = true;
    const auto shot = [&](const char* name) {
        settle();
        all = window.grab().save(folder + QLatin1Char('/') + QLatin1String(name) + QStringLiteral(".png")) && all;
    };
    window.show_page(0);
    shot("1-what-moves");
    window.show_page(1);
    shot("2-how-must-it-move");
    window.show_page(2);
    shot("3-what-does-it-take");
    window.show_page(3);
    window.findChild<Ledger*>()->open_row(QStringLiteral("inertia_ratio"));
    shot("4-what-can-drive-it");
    apply_theme(*qApp, true);
    window.set_dark(true);
    shot("5-dark");
    return all ? 0 : 2;
}

} // namespace fulmox::app

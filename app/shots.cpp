#include "app/shots.h"

#include "app/forms/mechanism_gallery.h"
#include "app/ledger.h"
#include "app/main_window.h"
#include "app/parts/part_cards.h"
#include "app/picture/picture_view.h"
#include "app/theme.h"

#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QPainter>
#include <QPixmap>
#include <QPushButton>
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
    const auto tab = [&](const char* key) { window.open_page("parts", QLatin1String(key)); };
    window.show_page(Outline::machine_page);
    shot("0-machine");
    window.open_page("moves");
    shot("1-what-moves");
    window.document().select_axis(1);
    window.open_page("motion");
    shot("3-how-must-it-move");
    window.document().select_axis(0);
    window.open_page("demand");
    shot("4-what-does-it-take");
    window.document().select_axis(3);
    // a pop-up is a window of its own: laid over the main one as it is on screen
    window.open_page("moves");
    settle();
    MechanismGallery gallery(window.document());
    gallery.open_at({0, 0});
    settle();
    QPixmap both = window.grab();
    QPainter(&both).drawPixmap(both.width() - gallery.width() - 24, 150, gallery.grab());
    all = both.save(folder + QStringLiteral("/7-mechanisms.png")) && all;
    gallery.hide();
    window.document().select_axis(0);
    window.open_page("parts");
    window.findChild<Ledger*>()->open_row(QStringLiteral("inertia_ratio"));
    shot("8-what-can-drive-it");
    window.document().select_axis(7);
    tab("check");
    shot("11-datasheet-check");
    window.findChild<Ledger*>()->open_row(QStringLiteral("inertia_ratio")); // closed again
    window.document().select_axis(6);
    tab("drive");
    shot("13-stepper");
    tab("picture");
    settle();
    if (auto* view = window.findChild<PictureView*>()) {
        while (view->loading()) settle();
        view->aim(4);
        view->canvas().select(0, 3);
    }
    shot("16-curve-off-a-picture");
    // the cards of other parts
    if (auto* cards = window.findChild<PartCards*>()) {
        window.document().select_axis(1);
        cards->select(CardOf::gearhead);
        for (int i = 0; i < 4; ++i) settle(); // judged and drawn beside the window
        shot("18-ratio-and-gearheads");
        window.document().select_axis(0);
        cards->select(CardOf::screw);
        shot("19-screw-ends");
        cards->select(CardOf::motor);
    }
    tab("heat");
    shot("14-heat");
    tab("catalogue");
    window.document().select_axis(0);
    apply_theme(*qApp, true);
    window.set_dark(true);
    if (auto* cards = window.findChild<PartCards*>()) {
        cards->select(CardOf::coupling);
        const auto turn_map = [&] {
            for (QPushButton* b : window.findChildren<QPushButton*>())
                if (b->isVisible() && b->accessibleName().startsWith(QObject::tr("Map of"))) return b->toggle();
        };
        settle();
        turn_map();
        for (int i = 0; i < 4; ++i) settle(); // judged beside the window
        shot("9-dark");
        turn_map();
        cards->select(CardOf::motor);
    }
    apply_theme(*qApp, false);
    window.set_dark(false);
    window.open_guide();
    shot("10-guide");
    window.close_guide();
    return all ? 0 : 2;
}

} // namespace fulmox::app

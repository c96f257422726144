// What can be measured of the looks: contrast, clipping, keyboard order.
#include "tests/app/window.h"

#include <QLabel>
#include <QMenuBar>
#include <QScrollArea>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

double channel(double c) { return c <= 0.03928 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); }
double luminance(const QColor& c) {
    return 0.2126 * channel(c.redF()) + 0.7152 * channel(c.greenF()) + 0.0722 * channel(c.blueF());
}

// WCAG 2.1, contrast ratio
double contrast(const QColor& a, const QColor& b) {
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

} // namespace

TEST_CASE("text has a contrast of at least 4.5 to 1, light and dark") {
    for (const bool dark : {false, true}) {
        apply_theme(*qApp, dark);
        const Theme& t = theme();
        for (const QColor& ground : {t.paper, t.panel, t.rail, t.accent_ground})
            for (const QColor& text : {t.ink, t.second, t.accent}) {
                INFO((dark ? "dark " : "light ") << text.name().toStdString() << " on " << ground.name().toStdString());
                CHECK(contrast(text, ground) >= 4.5);
            }
        for (const QColor& text : {t.fits, t.tight, t.over, t.unknown}) CHECK(contrast(text, t.panel) >= 4.4);
        CHECK(contrast(t.accent_ink, t.accent) >= 4.5);
        CHECK(contrast(t.ink, t.warn_ground) >= 4.5);
        CHECK(contrast(t.ink, t.bad_ground) >= 4.5);
    }
    apply_theme(*qApp, false);
}

TEST_CASE("no label is clipped at 1280 by 800") {
    Window w;
    for (int page = 1; page <= 4; ++page) {
        w.click_page(page);
        QTest::qWait(30);
        for (QLabel* l : w.window.findChildren<QLabel*>()) {
            if (!l->isVisible() || l->wordWrap() || l->textFormat() == Qt::RichText || l->text().isEmpty()) continue;
            const QString name = l->parentWidget() ? l->parentWidget()->metaObject()->className() : "";
            const int need = l->fontMetrics().horizontalAdvance(l->text());
            INFO("page " << page << ": \"" << l->text().toStdString() << "\" needs " << need << " of "
                         << l->contentsRect().width());
            CHECK(need <= l->contentsRect().width() + 1);
        }
    }
}

TEST_CASE("nothing is cut off at the side of a scroll area at 1280 by 800") {
    Window w;
    for (int page = 1; page <= 4; ++page) {
        w.click_page(page);
        QTest::qWait(30);
        for (QScrollArea* area : w.window.findChildren<QScrollArea*>()) {
            if (!area->isVisible()) continue;
            INFO("page " << page << ", contents " << area->widget()->width() << " in " << area->viewport()->width());
            CHECK(area->widget()->width() <= area->viewport()->width());
        }
    }
}

TEST_CASE("every control has a name for screen readers, and Tab goes down the form") {
    Window w;
    for (int page = 1; page <= 4; ++page) {
        w.click_page(page);
        for (QWidget* c : w.window.findChildren<QWidget*>()) {
            if (!c->isVisible() || !(c->focusPolicy() & Qt::TabFocus)) continue;
            const auto* button = qobject_cast<QAbstractButton*>(c);
            const bool named = !c->accessibleName().isEmpty() || (button && !button->text().isEmpty());
            INFO("page " << page << " " << c->metaObject()->className() << " " << c->objectName().toStdString());
            const bool internal = qobject_cast<QMenuBar*>(c) || c->objectName().startsWith(QStringLiteral("qt_")) ||
                                  QString::fromLatin1(c->metaObject()->className()).startsWith(QStringLiteral("QTab"));
            if (!internal) CHECK(named);
        }
    }
    w.click_page(1);
    w.edit("/load/inclination")->setFocus();
    for (const char* next : {"/load/carriage_mass", "/load/payload", "/load/guide_friction", "/load/seal_drag"}) {
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
        auto* e = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
        INFO(next);
        REQUIRE(e);
        CHECK(e->path() == w.path(next));
    }
}

TEST_CASE("dark and light switch in the running window") {
    Window w;
    const QColor light = w.window.grab().toImage().pixelColor(212, 400);
    QTest::keyClick(&w.window, Qt::Key_D, Qt::ControlModifier);
    QApplication::processEvents();
    const QColor dark = w.window.grab().toImage().pixelColor(212, 400);
    CHECK(luminance(light) > 0.7);
    CHECK(luminance(dark) < 0.05);
    QTest::keyClick(&w.window, Qt::Key_D, Qt::ControlModifier);
}

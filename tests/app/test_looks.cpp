// What can be measured of the looks: contrast, clipping, keyboard order.
#include "app/bricks/padded.h"
#include "app/forms/mechanism_gallery.h"
#include "app/outline.h"
#include "app/pages/registry.h"
#include "app/parts/part_cards.h"
#include "app/plots/plot.h"
#include "app/quick_report.h"
#include "app/results/inertia_view.h"
#include "core/files/project.h"
#include "core/model/walk.h"
#include "core/quantity/visible.h"
#include "tests/app/window.h"
#include "tests/demo.h"
#include "tests/mechanism_texts.h"
#include "tests/mechanisms.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QDialog>
#include <QFile>
#include <QHeaderView>
#include <QLabel>
#include <QMenuBar>
#include <QScrollArea>
#include <QTableView>
#include <algorithm>
#include <cmath>
#include <functional>

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

// Each page and each tab that the axis has.
void for_each_page(Window& w, const std::function<void(const char*, QWidget&)>& look) {
    for (const PageEntry& page : page_registry()) {
        std::vector<std::string> tabs;
        for (const TabEntry& tab : page.tabs)
            if (!tab.card || has_card(w.document().axis(), *tab.card)) tabs.push_back(tab.key);
        if (tabs.empty()) tabs.push_back("");
        for (const std::string& tab : tabs) {
            REQUIRE(w.window.open_page(page.key, QString::fromStdString(tab)));
            w.settle();
            look((std::string(page.key) + " " + tab).c_str(), w.window);
        }
        w.window.open_page(page.key, QString::fromStdString(tabs.front()));
    }
}

// The same and the policy editor: what a user can bring to the front.
void for_each_view(Window& w, const std::function<void(const char*, QWidget&)>& look) {
    for_each_page(w, look);
    w.window.edit_policies();
    auto* policies = w.child<QDialog>("policies");
    w.settle();
    look("policy editor", *policies);
    policies->close();
}

// A number in a table is whole, a word that is not can be read in the tip of its cell.
void expect_cells_whole(const char* view, QWidget& shown) {
    for (QTableView* t : shown.findChildren<QTableView*>()) {
        if (!t->isVisible() || !t->model()) continue;
        const std::string name = t->objectName().toStdString();
        QStyleOptionViewItem option;
        option.initFrom(t);
        option.font = t->font();
        for (int c = 0; c < t->model()->columnCount(); ++c) {
            if (t->isColumnHidden(c)) continue;
            const QHeaderView* header = t->horizontalHeader();
            const QString head = t->model()->headerData(c, Qt::Horizontal).toString();
            if (header->isVisible()) {
                INFO(view << ", " << name << ": head \"" << head.toStdString() << "\"");
                for (const QString& line : head.split(QLatin1Char('\n')))
                    CHECK(header->fontMetrics().horizontalAdvance(line) <= t->columnWidth(c) + 1);
            }
            for (int r = 0; r < std::min(400, t->model()->rowCount()); ++r) {
                const QModelIndex at = t->model()->index(r, c);
                const QString text = at.data().toString();
                if (text.isEmpty() || t->indexWidget(at) || t->isRowHidden(r)) continue;
                const int need = t->itemDelegateForIndex(at)->sizeHint(option, at).width();
                if (need <= t->columnWidth(c) + 1) continue;
                const bool number = at.data(Qt::TextAlignmentRole).toInt() & Qt::AlignRight;
                INFO(view << ", " << name << ", " << head.toStdString() << ", row " << r << ": \"" << text.toStdString()
                          << "\" needs " << need << " of " << t->columnWidth(c));
                CHECK(!number);
                // the delegate of a cell that is cut off tells the whole text
                CHECK(dynamic_cast<PaddedDelegate*>(t->itemDelegateForIndex(at)));
            }
        }
    }
}

// Whatever is cut off, does not fit or lies over its neighbour.
void expect_whole(const char* view, QWidget& shown) {
    for (QLabel* l : shown.findChildren<QLabel*>()) {
        if (dynamic_cast<Aside*>(l)) { // says less where there is less room, and all of it in its tip
            if (l->isVisible() && !l->text().isEmpty() && l->fontMetrics().horizontalAdvance(l->text()) > l->width())
                CHECK(l->toolTip().contains(l->text().toHtmlEscaped()));
            continue;
        }
        if (!l->isVisible() || l->wordWrap() || l->textFormat() == Qt::RichText || l->text().isEmpty()) continue;
        const int need = l->fontMetrics().horizontalAdvance(l->text());
        INFO(view << ": \"" << l->text().toStdString() << "\" needs " << need << " of " << l->contentsRect().width());
        CHECK(need <= l->contentsRect().width() + 1);
    }
    for (QScrollArea* area : shown.findChildren<QScrollArea*>()) {
        if (!area->isVisible()) continue;
        INFO(view << ", contents " << area->widget()->width() << " in " << area->viewport()->width());
        CHECK(area->widget()->width() <= area->viewport()->width());
    }
    for (InertiaView* v : shown.findChildren<InertiaView*>()) {
        if (!v->isVisible()) continue;
        INFO(view << ", inertia statement of " << v->parentWidget()->height() << " " << v->height() << " of "
                  << v->minimumSizeHint().height());
        CHECK(v->height() >= v->minimumSizeHint().height() - 2); // a layout that goes by width rounds
    }
    for (QPushButton* b : shown.findChildren<QPushButton*>()) {
        if (!b->isVisible() || b->text().isEmpty() || qobject_cast<OutlineItem*>(b)) continue;
        INFO(view << ": button \"" << b->text().toStdString() << "\", " << b->sizeHint().width() << " of "
                  << b->width());
        CHECK(b->width() >= b->sizeHint().width() - 1);
    }
    for (QLineEdit* e : shown.findChildren<QLineEdit*>()) {
        if (!e->isVisible() || e->placeholderText().isEmpty() || !e->text().isEmpty()) continue;
        const int need = e->fontMetrics().horizontalAdvance(e->placeholderText());
        INFO(view << ": field \"" << e->placeholderText().toStdString() << "\" " << need << " of " << e->width());
        CHECK(need + 14 <= e->width());
    }
    expect_cells_whole(view, shown);
}

// Numbers along an axis, and the names of axes above one another, keep clear.
void expect_axes_clear(const char* view, QWidget& shown) {
    for (QCustomPlot* plot : shown.findChildren<QCustomPlot*>()) {
        if (!plot->isVisible()) continue;
        const auto* own = dynamic_cast<Plot*>(plot);
        if (own && !own->missing().isEmpty()) continue; // covered
        std::vector<std::pair<std::string, QRectF>> names;
        for (QCPAxisRect* rect : plot->axisRects())
            for (QCPAxis* axis : rect->axes()) {
                if (!axis->visible()) continue;
                const bool along = QCPAxis::orientation(axis->axisType()) == Qt::Horizontal;
                const QFontMetricsF of_name(axis->labelFont()), of_number(axis->tickLabelFont());
                INFO(view << ": axis \"" << axis->label().toStdString() << "\"");
                if (!axis->label().isEmpty()) {
                    const QStringList lines = axis->label().split(QLatin1Char('\n'));
                    double length = 0;
                    for (const QString& line : lines) length = std::max(length, of_name.horizontalAdvance(line));
                    const double half = of_name.height() / 2 * static_cast<double>(lines.size());
                    const QPointF middle = QRectF(rect->rect()).center();
                    if (along) {
                        CHECK(middle.x() - length / 2 >= -1);
                        CHECK(middle.x() + length / 2 <= plot->width() + 1);
                    } else {
                        const double x = axis->axisType() == QCPAxis::atLeft ? rect->outerRect().left() + half
                                                                             : rect->outerRect().right() - half;
                        names.emplace_back(
                            axis->label().toStdString(), QRectF(x - half, middle.y() - length / 2, 2 * half, length));
                    }
                }
                if (!axis->tickLabels()) continue;
                QVector<double> ticks;
                QVector<QString> labels;
                axis->ticker()->generate(axis->range(), plot->locale(), axis->numberFormat().at(0).toLatin1(),
                    axis->numberPrecision(), ticks, nullptr, &labels);
                std::vector<std::pair<double, double>> spans;
                for (qsizetype i = 0; i < std::min(ticks.size(), labels.size()); ++i) {
                    if (!axis->range().contains(ticks[i]) || labels[i].isEmpty()) continue;
                    const double at = axis->coordToPixel(ticks[i]);
                    const double half = (along ? of_number.horizontalAdvance(labels[i]) : of_number.capHeight()) / 2;
                    spans.emplace_back(at - half, at + half);
                }
                std::sort(spans.begin(), spans.end());
                for (std::size_t i = 1; i < spans.size(); ++i) CHECK(spans[i].first >= spans[i - 1].second);
            }
        for (std::size_t i = 0; i < names.size(); ++i) {
            INFO(view << ": axis \"" << names[i].first << "\"");
            CHECK(names[i].second.top() >= -1);
            CHECK(names[i].second.bottom() <= plot->height() + 1);
            for (std::size_t k = 0; k < i; ++k) {
                INFO("and \"" << names[k].first << "\"");
                CHECK(!names[i].second.intersects(names[k].second));
            }
        }
    }
}

// Counts the words in the plots; none is cut off or lies over another.
int expect_words_clear(const char* view, QWidget& shown) {
    int count = 0;
    for (QCustomPlot* plot : shown.findChildren<QCustomPlot*>()) {
        if (!plot->isVisible()) continue;
        plot->replot(QCustomPlot::rpImmediateRefresh);
        std::vector<std::pair<std::string, QRectF>> words;
        for (int i = 0; i < plot->itemCount(); ++i)
            if (const auto* text = qobject_cast<QCPItemText*>(plot->item(i)); text && text->visible())
                words.emplace_back(text->text().toStdString(),
                    QRectF(text->topLeft->pixelPosition(), text->bottomRight->pixelPosition()));
        const QRectF room = QRectF(plot->rect()).adjusted(plot->axisRect()->left() - 1, 0, 0, 0);
        for (std::size_t i = 0; i < words.size(); ++i) {
            INFO(view << ": \"" << words[i].first << "\"");
            CHECK(room.contains(words[i].second));
            for (std::size_t k = 0; k < i; ++k) {
                INFO("and \"" << words[k].first << "\"");
                CHECK(!words[i].second.intersects(words[k].second));
            }
        }
        count += static_cast<int>(words.size());
    }
    expect_axes_clear(view, shown);
    return count;
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

TEST_CASE("after every page was shown a change of colours asks only what is visible, and the pages look as if built in "
          "them") {
    const auto views = [](Window& w) {
        std::map<std::string, QImage> out;
        for_each_view(w, [&](const char* view, QWidget& shown) {
            out[std::to_string(out.size()) + " " + view] = shown.grab().toImage();
        });
        return out;
    };
    std::map<std::string, QImage> built;
    {
        apply_theme(*qApp, true);
        Window w;
        w.window.set_dark(true);
        for_each_view(w, [](const char*, QWidget&) {}); // as below
        w.click_page(4);
        w.window.activateWindow();
        REQUIRE(QTest::qWaitForWindowActive(&w.window));
        built = views(w);
        w.window.set_dark(false);
    }
    Window w;
    for_each_view(w, [](const char*, QWidget&) {});
    w.click_page(4);
    w.window.activateWindow(); // the policy editor was closed
    REQUIRE(QTest::qWaitForWindowActive(&w.window));
    QTest::keyClick(&w.window, Qt::Key_D, Qt::ControlModifier);
    CHECK(theme().dark);
    int hidden = 0, visible = 0;
    for (const QWidget* each : QApplication::allWidgets())
        if (each->testAttribute(Qt::WA_WState_Polished)) ++(each->isVisible() ? visible : hidden);
    CHECK(visible > 100);
    CHECK(hidden < visible / 4); // those beside the first to be asked for their size
    const auto changed = views(w);
    CHECK(changed.size() == built.size());
    for (const auto& [view, picture] : built) {
        INFO(view);
        REQUIRE(changed.contains(view));
        CHECK(changed.at(view) == picture);
    }
    w.window.set_dark(false);
}

TEST_CASE("names that would turn the text around them are shown with codes, on every page and in the report") {
    const auto turns = [](const QString& text) {
        return std::any_of(text.begin(), text.end(), [](QChar c) {
            const ushort u = c.unicode();
            return (u >= 0x202a && u <= 0x202e) || (u >= 0x2066 && u <= 0x2069) || u == 0x1b || u == 7;
        });
    };
    Window w;
    const std::string evil = "\xE2\x80\xAE"
                             "evil\xE2\x81\xA6\x1b[2J\x07";
    Machine m = demo();
    for (const FieldRef& f : walk(m))
        if (f.type == FieldRef::Type::text && f.active) *f.text = evil + *f.text;
    for (std::size_t i = 0; i < m.axes.size(); ++i) m.axes[i].policy = m.policies[i % m.policies.size()].name;
    for (Axis& a : m.axes)
        for (Body& b : a.bodies) b.material = m.materials.front().name;
    const QString file = w.folder.filePath(QStringLiteral("\u202efile.fulmox"));
    QFile out(file);
    REQUIRE(out.open(QIODevice::WriteOnly));
    out.write(QByteArray::fromStdString(write_project(m)));
    out.close();
    REQUIRE(w.window.open_file(file));
    CHECK(w.document().machine().name.starts_with(evil)); // the file's text is as it was
    int seen = 0;
    const auto look = [&](const QWidget* at, const char* what, const QString& text) {
        if (turns(text)) // a message for each of the many that do not would take most of the time
            FAIL_CHECK(what << " of " << at->metaObject()->className() << " " << at->objectName().toStdString() << ": "
                            << visible(text.toStdString()));
        seen += text.contains(QStringLiteral("\\u{202e}")) ? 1 : 0;
    };
    for (int axis = 0; axis < static_cast<int>(m.axes.size()); ++axis) {
        w.document().select_axis(axis);
        for_each_view(w, [&](const char*, QWidget& view) {
            look(&view, "title", view.windowTitle());
            for (const QWidget* c : view.findChildren<QWidget*>()) {
                if (!c->isVisible()) continue;
                look(c, "tooltip", c->toolTip());
                look(c, "name", c->accessibleName());
                if (const auto* l = qobject_cast<const QLabel*>(c)) look(c, "text", l->text());
                if (const auto* b = qobject_cast<const QAbstractButton*>(c)) look(c, "text", b->text());
                if (const auto* b = qobject_cast<const QComboBox*>(c))
                    for (int i = 0; i < b->count(); ++i) look(c, "entry", b->itemText(i));
                if (const auto* t = qobject_cast<const QAbstractItemView*>(c); t && t->model())
                    for (int r = 0; r < std::min(20, t->model()->rowCount()); ++r)
                        for (int k = 0; k < t->model()->columnCount(); ++k)
                            look(c, "cell", t->model()->index(r, k).data().toString());
                if (const auto* p = qobject_cast<const QCustomPlot*>(c))
                    for (int i = 0; i < p->itemCount(); ++i)
                        if (const auto* text = qobject_cast<QCPItemText*>(p->item(i))) look(c, "word", text->text());
            }
        });
    }
    CHECK(seen > 100);
    const QString report = report_html(w.document());
    CHECK(report.contains(QStringLiteral("\\u{202e}")));
    CHECK(!turns(report));
}

TEST_CASE("no label is clipped and nothing is cut off at 1280 by 800, on every page, its tabs and the policy editor") {
    Window w;
    for_each_view(w, expect_whole);
}

TEST_CASE("nothing is cut off at 1024 by 700, and no page scrolls over what scrolls itself") {
    Window w;
    w.window.resize(1024, 700);
    // a screw with all parts, a crank that is over, a winder, an open-loop stepper and a linear motor
    for (const int axis : {0, 3, 5, 6, 7}) {
        w.document().select_axis(axis);
        const std::string name = w.document().axis().name;
        for_each_page(w, [&](const char* view, QWidget& shown) {
            const std::string at = name + ", " + view;
            expect_whole(at.c_str(), shown);
            expect_words_clear(at.c_str(), shown);
            auto* room = w.child<QScrollArea>("room");
            const QList<QAbstractScrollArea*> inside = room->widget()->findChildren<QAbstractScrollArea*>();
            const bool scrolls_itself = std::any_of(inside.begin(), inside.end(), [](QAbstractScrollArea* a) {
                return a->isVisible() && a->verticalScrollBarPolicy() != Qt::ScrollBarAlwaysOff && a->height() > 60;
            });
            if (!scrolls_itself) return;
            INFO(at << ": " << room->widget()->height() << " in " << room->viewport()->height());
            CHECK(room->widget()->height() <= room->viewport()->height());
        });
    }
}

TEST_CASE("page 4 of every mechanism is whole at 1024 by 700, card by card") {
    Window w;
    w.window.resize(1024, 700);
    int views = 0;
    for (const Option& kind : mechanism_kinds()) {
        const QString file = w.folder.filePath(QString::fromUtf8(kind.key) + QStringLiteral(".fulmox"));
        QFile out(file);
        REQUIRE(out.open(QIODevice::WriteOnly));
        out.write(QByteArray::fromStdString(write_project(machine_with(kind.key))));
        out.close();
        REQUIRE(w.window.open_file(file));
        w.click_page(4);
        auto* cards = w.window.findChild<PartCards*>();
        for (const CardOf card : {CardOf::motor, CardOf::gearhead, CardOf::coupling, CardOf::brake, CardOf::drive,
                 CardOf::screw, CardOf::precision}) {
            if (!cards->card(card)) continue;
            QTest::mouseClick(cards->card(card), Qt::LeftButton);
            w.settle();
            const std::string at = std::string(kind.key) + ", card " + std::to_string(static_cast<int>(card));
            expect_whole(at.c_str(), w.window);
            expect_words_clear(at.c_str(), w.window);
            ++views;
        }
    }
    CHECK(views > 60);
}

TEST_CASE("the words in a plot stand inside it and clear of one another, on every axis of the demo") {
    Window w;
    int count = 0;
    for (int axis = 0; axis < static_cast<int>(w.document().machine().axes.size()); ++axis) {
        w.document().select_axis(axis);
        INFO(w.document().axis().name);
        for_each_view(w, [&](const char* view, QWidget& shown) { count += expect_words_clear(view, shown); });
    }
    CHECK(count >= 50);
}

TEST_CASE("the form of every mechanism fits at 1280 by 800, light and dark") {
    Window w;
    w.click_page(1);
    int forms = 0;
    for (const bool dark : {false, true}) {
        apply_theme(*qApp, dark);
        const auto kinds = all_mechanisms();
        for (std::size_t k = 0; k < kinds.size(); ++k) {
            w.document().set_choice(w.path("/mechanism"), static_cast<int>(k));
            REQUIRE(w.document().axis().mechanism.index() == k);
            const std::string key =
                std::visit([](const auto& held) { return std::decay_t<decltype(held)>::kind_key; }, kinds[k]);
            for (const auto& [name, text] : mechanism_texts(key))
                if (const QString at = w.path(("/mechanism/" + name).c_str()); text == "screw")
                    w.document().set_choice(at, 1);
                else
                    REQUIRE(!w.document().set_quantity(at, QString::fromStdString(text)));
            w.settle();
            expect_whole(key.c_str(), w.window);
            // what an empty field stands for is said in full, in the folded lines too
            const QWidget* aside = nullptr;
            for (const Aside* a : w.window.findChildren<Aside*>())
                if (a->isVisible() && (!aside || a->width() > aside->width())) aside = a;
            REQUIRE(aside);
            Machine machine = w.document().machine();
            for (const FieldRef& f : walk(machine)) {
                if (!f.quantity || f.path.find("/mechanism/") == std::string::npos) continue;
                INFO(f.path << ": " << f.quantity_spec.if_empty.words);
                CHECK(
                    QFontMetrics(type_face(12)).horizontalAdvance(QString::fromUtf8(f.quantity_spec.if_empty.words)) <=
                    aside->contentsRect().width());
            }
            // no line of the form lies over another
            std::vector<std::pair<QRect, std::string>> lines;
            for (QuantityEdit* e : w.window.findChildren<QuantityEdit*>()) {
                if (!e->isVisible()) continue;
                const QRect r(e->mapTo(&w.window, QPoint()), e->size());
                for (const auto& [other, name] : lines) {
                    INFO(key << ": " << e->path().toStdString() << " over " << name);
                    CHECK(!r.intersects(other));
                }
                lines.emplace_back(r, e->path().toStdString());
            }
            CHECK(lines.size() >= 3);
            ++forms;
        }
    }
    apply_theme(*qApp, false);
    CHECK(forms >= 28);
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

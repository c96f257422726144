#include "app/results/figures.h"

#include "app/bricks/missing_label.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"
#include "core/report/axis_report.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QStyle>
#include <QVBoxLayout>
#include <QWhatsThis>
#include <algorithm>
#include <cmath>

namespace fulmox::app {

namespace {

const Figure* find_figure(Document& d, const QString& key) {
    return d.has_axis() ? d.assessment().figure(key.toStdString()) : nullptr;
}

// "A 1.4 N·m, now 12 % less"; empty without a pin or where nothing changed.
QString beside_a(Document& d, const Figure& now) {
    const Assessment* a = d.pinned_assessment();
    const Figure* was = a ? a->figure(now.key) : nullptr;
    if (!was || std::isnan(was->si) || std::isnan(now.si) || was->si == now.si) return {};
    QString text = QObject::tr("A %1").arg(qs(figure_text(*was, d.machine().unit_system)));
    if (was->si != 0 && (was->si > 0) == (now.si > 0)) {
        const double change = 100 * (now.si / was->si - 1);
        text +=
            QObject::tr(", now %1 %")
                .arg((change > 0 ? QStringLiteral("+") : QStringLiteral("−")) + qs(format_number(std::abs(change), 2)));
    }
    return text;
}

void show_text(QLabel* label, const QString& text) {
    if (label->text() != text) label->setText(text);
}

} // namespace

QString working_html(const Working& working) {
    QString s;
    for (const WorkingLine& w : working)
        s += QStringLiteral("<p style='white-space:pre-wrap;margin:0 0 4px 0'>%1 = %2<br>= %3<br>= <b>%4</b>%5</p>")
                 .arg(qs(w.symbol).toHtmlEscaped(), qs(w.formula).toHtmlEscaped(), qs(w.substituted()).toHtmlEscaped(),
                     qs(format_quantity(w.result, si_unit(w.kind), 5)).toHtmlEscaped(),
                     w.source.empty() ? QString() : QStringLiteral("<br><i>%1</i>").arg(qs(w.source).toHtmlEscaped()));
    return s;
}

namespace {

QString not_known(Document& d, const QString& why) {
    return d.has_axis() && d.assessment().pending ? QCoreApplication::translate("Figures", "being calculated…") : why;
}

QString read_html(const Figure& f) {
    return f.read_from.empty()
               ? QString()
               : QStringLiteral("<p>%1</p>")
                     .arg(QCoreApplication::translate("Figures", "read from %1").arg(qs(f.read_from)).toHtmlEscaped());
}

} // namespace

FigureGroup::FigureGroup(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    setFocusPolicy(Qt::TabFocus);
}

Table FigureGroup::as_table() const {
    if (!document_.has_axis()) return {};
    std::vector<std::string> keys;
    for (const Place& each : places()) keys.push_back(each.key.toStdString());
    return figures_table(document_.assessment(), document_.machine().unit_system, keys);
}

bool FigureGroup::open_working(int figure) {
    const auto all = places();
    if (figure < 0 || figure >= static_cast<int>(all.size())) return false;
    const Place& at = all[static_cast<std::size_t>(figure)];
    const Figure* f = find_figure(document_, at.key);
    if (!f || at.where.isEmpty()) return false;
    if (f->waits && !f->waits_for.empty()) {
        ask_to_go(this, qs(f->waits_for.front().path));
        return true;
    }
    const QString said =
        QStringLiteral("<b>%1</b>").arg(qs(f->label).toHtmlEscaped()) +
        QStringLiteral("<p>%1</p>").arg(qs(f->note.in(document_.machine().unit_system)).toHtmlEscaped()) +
        working_html(f->working) + read_html(*f);
    QWhatsThis::showText(mapToGlobal(at.where.bottomLeft()), said, this);
    return true;
}

QString FigureGroup::current_key() const {
    const auto all = places();
    return current_ < 0 || current_ >= static_cast<int>(all.size()) ? QString()
                                                                    : all[static_cast<std::size_t>(current_)].key;
}

// A group says of which figure it speaks, and how that came to be.
void FigureGroup::describe() {
    const auto all = places();
    const Figure* f = current_ >= 0 ? find_figure(document_, all[static_cast<std::size_t>(current_)].key) : nullptr;
    QString said;
    if (f) {
        said = qs(f->label) + QStringLiteral(" ") + qs(figure_text(*f, document_.machine().unit_system));
        for (const WorkingLine& w : f->working)
            said += QStringLiteral("; %1 = %2 = %3").arg(qs(w.symbol), qs(w.formula), qs(w.substituted()));
    }
    setAccessibleDescription(said);
    mark(hasFocus() ? current_ : -1);
}

void FigureGroup::go(int step) {
    const auto all = places();
    const int n = static_cast<int>(all.size());
    for (int at = current_ + step; at >= 0 && at < n; at += step)
        if (!all[static_cast<std::size_t>(at)].where.isEmpty()) {
            current_ = at;
            break;
        }
    describe();
}

void FigureGroup::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Down:
    case Qt::Key_Right:
        return go(1);
    case Qt::Key_Up:
    case Qt::Key_Left:
        return go(-1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
    case Qt::Key_Space:
        if (open_working(current_)) return;
        break;
    default:
        break;
    }
    QWidget::keyPressEvent(event);
}

bool FigureGroup::click(QPoint at) {
    const auto all = places();
    const auto hit = std::find_if(all.begin(), all.end(), [&](const Place& p) { return p.where.contains(at); });
    if (hit == all.end()) return false;
    current_ = static_cast<int>(hit - all.begin());
    describe();
    return open_working(current_);
}

void FigureGroup::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !click(event->position().toPoint())) QWidget::mouseReleaseEvent(event);
}

// A value can be selected with the mouse; a click that selects nothing is a click on the figure.
bool FigureGroup::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::MouseButtonRelease)
        if (auto* value = qobject_cast<QLabel*>(watched); value && !value->hasSelectedText()) {
            auto* mouse = static_cast<QMouseEvent*>(event);
            if (mouse->button() == Qt::LeftButton) click(value->mapTo(this, mouse->position().toPoint()));
        }
    return QWidget::eventFilter(watched, event);
}

void FigureGroup::focusInEvent(QFocusEvent* event) {
    const auto all = places();
    const bool gone = current_ < 0 || current_ >= static_cast<int>(all.size()) ||
                      all[static_cast<std::size_t>(current_)].where.isEmpty();
    if (gone) {
        current_ = -1;
        go(1);
    }
    describe();
    QWidget::focusInEvent(event);
}

void FigureGroup::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    mark(-1);
}

void FigureList::paintEvent(QPaintEvent* event) {
    QWidget::paintEvent(event);
    if (!hasFocus()) return;
    const auto all = places();
    if (current() < 0 || current() >= static_cast<int>(all.size())) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(theme().accent, 2));
    p.setBrush(theme().accent_ground);
    p.drawRoundedRect(all[static_cast<std::size_t>(current())].where.adjusted(1, 1, -1, -1), 4, 4);
}

std::vector<FigureGroup::Place> FigureTiles::places() const {
    std::vector<Place> out;
    for (const Tile& t : tiles_) out.push_back({t.key, t.frame->geometry()});
    return out;
}

void FigureTiles::mark(int figure) {
    for (std::size_t i = 0; i < tiles_.size(); ++i) {
        QFrame* frame = tiles_[i].frame;
        const bool now = static_cast<int>(i) == figure;
        if (frame->property("current").toBool() == now) continue;
        frame->setProperty("current", now);
        frame->style()->unpolish(frame);
        frame->style()->polish(frame);
    }
}

std::vector<FigureGroup::Place> FigureList::places() const {
    std::vector<Place> out;
    for (const Line& l : lines_)
        out.push_back({l.key,
            l.label->isHidden() ? QRect() : l.label->geometry().united(l.value->geometry()).adjusted(-3, -1, 3, 1)});
    return out;
}

namespace {

// A value that can be marked and copied. QLabel lays out a document for that whenever a layout asks how wide it is.
class ValueLabel : public QLabel {
  public:
    ValueLabel() {
        setTextFormat(Qt::PlainText);
        setTextInteractionFlags(Qt::TextSelectableByMouse);
        setContextMenuPolicy(Qt::NoContextMenu); // that of the window copies the figures
    }
    QSize sizeHint() const override {
        const QMargins m = contentsMargins();
        return {fontMetrics().horizontalAdvance(text()) + m.left() + m.right() + 1,
            fontMetrics().height() + m.top() + m.bottom()};
    }
    QSize minimumSizeHint() const override { return sizeHint(); }
};

} // namespace

FigureTiles::FigureTiles(Document& document, const std::vector<std::pair<QString, QString>>& keys, QWidget* parent)
    : FigureGroup(document, parent) {
    setAccessibleName(tr("Figures with their workings"));
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(8);
    for (const auto& [key, unknown] : keys) {
        Tile t;
        t.key = key;
        t.unknown = unknown;
        t.frame = new QFrame;
        t.frame->setObjectName(QStringLiteral("card"));
        auto* box = new QVBoxLayout(t.frame);
        box->setContentsMargins(12, 8, 10, 8);
        box->setSpacing(1);
        t.label = new QLabel;
        t.label->setObjectName(QStringLiteral("second"));
        t.label->setFont(type_face(12));
        t.value = new ValueLabel;
        t.value->setFont(type_face(17, Weight::strong));
        t.value->installEventFilter(this);
        t.note = new QLabel;
        t.note->setObjectName(QStringLiteral("second"));
        t.note->setFont(type_face(11));
        t.note->setWordWrap(true);
        for (QLabel* l : {t.label, t.value, t.note}) {
            l->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
            box->addWidget(l);
        }
        box->addStretch(1);
        line->addWidget(t.frame, 1);
        tiles_.push_back(t);
    }
    refresh();
}

void FigureTiles::refresh() {
    for (const Tile& t : tiles_) {
        const Figure* f = find_figure(document_, t.key);
        show_text(t.label, f ? qs(f->label) : t.unknown);
        show_text(t.value, f ? qs(figure_text(*f, document_.machine().unit_system)) : QStringLiteral("–"));
        const QString a = f ? beside_a(document_, *f) : QString();
        show_text(t.note, !a.isEmpty() ? a
                          : f          ? qs(f->note.in(document_.machine().unit_system))
                                       : not_known(document_, tr("not known yet")));
        t.frame->setToolTip(f ? working_html(f->working) + read_html(*f) : QString());
    }
}

FigureList::FigureList(Document& document, QStringList keys, int columns, bool alone, QWidget* parent)
    : FigureGroup(document, parent) {
    setAccessibleName(tr("Figures with their workings"));
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(3);
    const int rows = (static_cast<int>(keys.size()) + columns - 1) / columns;
    int place = 0;
    for (const QString& key : keys) {
        const int row = place % rows;
        const int column = 3 * (place / rows);
        Line l{key, new QLabel, new ValueLabel};
        l.label->setObjectName(QStringLiteral("second"));
        l.value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        l.value->installEventFilter(this);
        grid->addWidget(l.label, row, column);
        grid->addWidget(l.value, row, column + 1);
        if (column > 0) grid->setColumnMinimumWidth(column - 1, 12);
        grid->setColumnStretch(column, 1);
        lines_.push_back(l);
        ++place;
    }
    if (alone) {
        nothing_ = new QLabel(tr("Nothing yet; the ledger lists what is missing."));
        nothing_->setObjectName(QStringLiteral("second"));
        nothing_->setWordWrap(true);
        grid->addWidget(nothing_, rows, 0, 1, 3 * columns - 1);
    }
    refresh();
}

void FigureList::refresh() {
    bool nothing = true;
    for (const Line& l : lines_) {
        const Figure* f = find_figure(document_, l.key);
        nothing = nothing && (!f || f->waits);
    }
    for (const Line& l : lines_) {
        const Figure* f = find_figure(document_, l.key);
        if (nothing && nothing_) f = nullptr; // one sentence in place of a column of dashes
        l.label->setVisible(f);
        l.value->setVisible(f);
        if (!f) continue;
        show_text(l.label, qs(f->label));
        const QString a = beside_a(document_, *f);
        const QString value = qs(figure_text(*f, document_.machine().unit_system));
        show_text(l.value, a.isEmpty() ? value : value + QStringLiteral("   ") + a.section(QLatin1Char(','), 0, 0));
        const QString tip =
            (a.isEmpty() ? QString() : QStringLiteral("<p>%1</p>").arg(a.toHtmlEscaped())) +
            (f->note.empty() ? QString()
                             : QStringLiteral("<p>%1</p>")
                                   .arg(qs(f->note.in(document_.machine().unit_system)).toHtmlEscaped())) +
            working_html(f->working) + read_html(*f);
        l.label->setToolTip(tip);
        l.value->setToolTip(tip);
    }
    if (!nothing_) return;
    nothing_->setVisible(nothing);
    QString why;
    for (const Line& l : lines_)
        if (const Figure* f = find_figure(document_, l.key); f && f->waits && why.isEmpty())
            why = qs(f->note.in(document_.machine().unit_system));
    show_text(
        nothing_, why.isEmpty() ? not_known(document_, tr("Nothing yet; the ledger lists what is missing.")) : why);
}

} // namespace fulmox::app

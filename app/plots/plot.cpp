#include "app/plots/plot.h"

#include "app/clip.h"
#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QBuffer>
#include <QFileDialog>
#include <QMenu>
#include <QPageSize>
#include <QPdfWriter>
#include <QScopedValueRollback>
#include <QSet>
#include <QSvgGenerator>
#include <QTimer>
#include <algorithm>
#include <cmath>

namespace fulmox::app {

Plot::Plot(QWidget* parent) : QCustomPlot(parent) {
    setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    setAttribute(Qt::WA_NoMousePropagation, false); // a wheel it ignores is the page's
    setNoAntialiasingOnDrag(true);
    setPlottingHint(QCP::phImmediateRefresh, false); // painted with the rest of the window, not once more by itself
    setMinimumSize(200, 140);
    setFocusPolicy(Qt::ClickFocus);
    connect(this, &QCustomPlot::afterLayout, this, &Plot::fit_words);
    bubble_ = new QLabel(this);
    bubble_->setTextFormat(Qt::PlainText);
    bubble_->setAttribute(Qt::WA_TransparentForMouseEvents);
    bubble_->setContentsMargins(6, 3, 6, 3);
    bubble_->hide();
    missing_ = new MissingLabel(this);
    missing_->keep_colour();
    missing_->setObjectName(QStringLiteral("missing"));
    missing_->setAlignment(Qt::AlignCenter);
    missing_->setContentsMargins(24, 8, 24, 8);
    missing_->hide();
    setToolTip({});
}

void Plot::say_missing(const QString& text, bool beside, const QString& path) {
    beside_ = beside;
    missing_->setContentsMargins(24, beside ? 0 : 8, 24, beside ? 0 : 8);
    missing_->say(text, path);
    if (text.isEmpty()) return place_missing();
    missing_->setFont(type_face(13));
    missing_->setStyleSheet(QStringLiteral("background:%1;color:%2")
                                .arg(theme().panel.name(), (path.isEmpty() ? theme().second : theme().accent).name()));
    place_missing();
    missing_->raise();
    if (!beside) bubble_->hide();
}

void Plot::place_missing() {
    const bool above = beside_ && !missing_->text().isEmpty();
    const int high = above ? std::max(20, missing_->heightForWidth(width())) : 0;
    if (const QMargins room(0, above ? high + 2 : 0, 0, 0); plotLayout()->margins() != room)
        plotLayout()->setMargins(room);
    missing_->setGeometry(above ? QRect(0, 0, width(), high) : rect());
}

// Where a picture is low the name of an axis stands in two lines, and of words that meet the later ones stay away.
void Plot::fit_words() {
    if (fitting_) return;
    const QScopedValueRollback<bool> once(fitting_, true);
    bool changed = false;
    for (QCPAxisRect* rect : axisRects())
        for (QCPAxis* axis : rect->axes(QCPAxis::atLeft | QCPAxis::atRight)) {
            const QString whole = axis_name(*axis);
            const bool low = QFontMetricsF(axis->labelFont()).horizontalAdvance(whole) > rect->height();
            const QString wanted = low ? QString(whole).replace(QStringLiteral(", "), QStringLiteral(",\n")) : whole;
            if (wanted == axis->label()) continue;
            axis->setLabel(wanted);
            changed = true;
        }
    if (changed) updateLayout();
    std::vector<QRectF> taken;
    for (int i = 0; i < itemCount(); ++i)
        if (auto* text = qobject_cast<QCPItemText*>(item(i))) {
            const QRectF place(text->topLeft->pixelPosition(), text->bottomRight->pixelPosition());
            const bool clear =
                std::none_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.intersects(place); });
            text->setVisible(clear);
            if (clear) taken.push_back(place);
        }
}

QString Plot::axis_name(const QCPAxis& axis) {
    return QString(axis.label()).replace(QStringLiteral(",\n"), QStringLiteral(", "));
}

void Plot::resizeEvent(QResizeEvent* event) {
    QCustomPlot::resizeEvent(event);
    place_missing();
    // the room that words take beyond a curve is a share of the height
    if (event->oldSize().height() != height() && isVisible()) QTimer::singleShot(0, this, &Plot::draw_again);
}

QCPAxisRect* Plot::add_rect(int row, const QString& y_label, bool time_axis, int column) {
    auto* rect = new QCPAxisRect(this, true);
    plotLayout()->addElement(row, column, rect);
    rect->setRangeDrag(Qt::Horizontal);
    rect->setRangeZoom(Qt::Horizontal);
    rect->axis(QCPAxis::atLeft)->setLabel(y_label);
    if (time_axis) rect->axis(QCPAxis::atBottom)->setLabel(tr("time, s"));
    rect->setMinimumMargins(QMargins(4, 6, 10, 2));
    return rect;
}

void Plot::restyle() {
    const Theme& t = theme();
    bubble_->hide(); // it told of what was drawn before
    qsizetype axes = 0;
    for (QCPAxisRect* rect : axisRects()) axes += rect->axes().size();
    if (std::exchange(styled_, {t.dark, axes}) == std::pair(t.dark, axes)) return; // asked at every keystroke
    setBackground(QBrush(t.panel));
    for (QCPAxisRect* rect : axisRects()) {
        for (QCPAxis* a : rect->axes()) {
            a->setBasePen(QPen(t.line));
            a->setTickPen(QPen(t.line));
            a->setSubTickPen(Qt::NoPen);
            a->setTickLabelColor(t.second);
            a->setLabelColor(t.second);
            a->setTickLabelFont(type_face(11));
            a->setLabelFont(type_face(11));
            a->setLabelPadding(2);
            a->setTickLengthIn(0);
            a->setTickLengthOut(3);
            a->grid()->setPen(QPen(t.line, 1, Qt::DotLine));
            a->grid()->setZeroLinePen(QPen(t.second, 1));
        }
        rect->axis(QCPAxis::atBottom)->grid()->setZeroLinePen(Qt::NoPen);
        rect->axis(QCPAxis::atTop)->setVisible(false);
        rect->axis(QCPAxis::atRight)->setVisible(false);
        rect->axis(QCPAxis::atLeft)->ticker()->setTickCount(4);
    }
    bubble_->setFont(type_face(12));
    bubble_->setStyleSheet(QStringLiteral("background:%1;border:1px solid %2;border-radius:5px;color:%3")
                               .arg(t.panel.name(), t.line.name(), t.ink.name()));
}

QCPItemText* Plot::note(
    QCPAxisRect* rect, double x, double y, const QString& text, const QColor& colour, Qt::Alignment alignment) {
    auto* item = new QCPItemText(this);
    item->setClipAxisRect(rect);
    item->position->setAxes(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atLeft));
    item->position->setCoords(x, y);
    item->setText(text);
    item->setFont(type_face(11));
    item->setColor(colour);
    item->setPositionAlignment(alignment);
    item->setPadding(QMargins(3, 1, 3, 1));
    QColor ground = theme().panel;
    ground.setAlpha(190);
    item->setBrush(ground);
    return item;
}

QCPScatterStyle Plot::mark_of(LimitState state, double size) {
    static constexpr QCPScatterStyle::ScatterShape shapes[] = {
        QCPScatterStyle::ssDisc, QCPScatterStyle::ssDiamond, QCPScatterStyle::ssCrossSquare, QCPScatterStyle::ssCircle};
    const QColor colour = theme().state(state);
    const bool filled = state == LimitState::fits || state == LimitState::tight;
    return QCPScatterStyle(
        shapes[static_cast<std::size_t>(state)], QPen(colour, 1.2), filled ? QBrush(colour) : QBrush(), size);
}

QCPItemStraightLine* Plot::straight_line(
    QCPAxisRect* rect, double x1, double y1, double x2, double y2, const QPen& pen) {
    auto* line = new QCPItemStraightLine(this);
    line->setClipAxisRect(rect);
    for (QCPItemPosition* p : {line->point1, line->point2})
        p->setAxes(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atLeft));
    line->point1->setCoords(x1, y1);
    line->point2->setCoords(x2, y2);
    line->setPen(pen);
    return line;
}

void Plot::mouseMoveEvent(QMouseEvent* event) {
    QCustomPlot::mouseMoveEvent(event);
    QCPAxisRect* rect = axisRectAt(event->position());
    if (!rect) {
        bubble_->hide();
        emit left();
        return;
    }
    const double x = rect->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x());
    const double y = rect->axis(QCPAxis::atLeft)->pixelToCoord(event->position().y());
    const QString text = readout(x, y, rect);
    bubble_->setVisible(!text.isEmpty());
    if (!text.isEmpty()) {
        bubble_->setText(text);
        bubble_->adjustSize();
        int bx = static_cast<int>(event->position().x()) + 14;
        if (bx + bubble_->width() > width()) bx = static_cast<int>(event->position().x()) - bubble_->width() - 10;
        bubble_->move(std::max(0, bx), std::clamp(static_cast<int>(event->position().y()) - bubble_->height() - 6, 0,
                                           std::max(0, height() - bubble_->height())));
    }
    emit hovered(x, y);
}

void Plot::leaveEvent(QEvent* event) {
    bubble_->hide();
    emit left();
    QCustomPlot::leaveEvent(event);
}

// a wheel that passes over it scrolls the page; it zooms once the plot was clicked, or with Ctrl
void Plot::wheelEvent(QWheelEvent* event) {
    if (hasFocus() || (event->modifiers() & Qt::ControlModifier))
        QCustomPlot::wheelEvent(event);
    else
        event->ignore();
}

void Plot::mouseDoubleClickEvent(QMouseEvent* event) {
    reset_view();
    QCustomPlot::mouseDoubleClickEvent(event);
}

Table Plot::table(const QStringList& heads, const std::vector<std::vector<double>>& rows) {
    Table t;
    for (const QString& h : heads) t.head.push_back(h.toStdString());
    t.right.assign(t.head.size(), true);
    for (const std::vector<double>& row : rows) {
        t.rows.emplace_back();
        for (const double each : row) t.rows.back().push_back(format_exact(each));
    }
    return t;
}

Table Plot::as_table() const {
    Table t;
    std::vector<QCPGraph*> graphs;
    std::size_t rows = 0;
    // graphs may have samples of their own, so each keeps its own key column
    for (int i = 0; i < graphCount(); ++i) {
        QCPGraph* g = graph(i);
        if (g->name().isEmpty() || !g->visible() || g->data()->isEmpty()) continue;
        graphs.push_back(g);
        rows = std::max(rows, static_cast<std::size_t>(g->dataCount()));
        t.head.push_back((g->keyAxis()->label().isEmpty() ? tr("time, s") : g->keyAxis()->label()).toStdString());
        t.head.push_back(g->name().toStdString());
    }
    t.right.assign(t.head.size(), true);
    t.rows.assign(rows, std::vector<std::string>(t.head.size()));
    for (std::size_t i = 0; i < graphs.size(); ++i)
        for (int r = 0; r < graphs[i]->dataCount(); ++r) {
            const auto d = graphs[i]->data()->at(r);
            t.rows[static_cast<std::size_t>(r)][2 * i] = format_exact(d->key);
            t.rows[static_cast<std::size_t>(r)][2 * i + 1] = format_exact(d->value);
        }
    return t;
}

QString Plot::csv() const {
    const Table t = as_table();
    QString out;
    const auto line = [&out](const std::vector<std::string>& cells, const QString& quote) {
        for (std::size_t i = 0; i < cells.size(); ++i)
            out += (i > 0 ? QStringLiteral(",") : QString()) + quote + qs(cells[i]) + quote;
        out += QLatin1Char('\n');
    };
    if (!t.head.empty()) line(t.head, QStringLiteral("\"")); // units stand behind commas in heads
    for (const auto& row : t.rows) line(row, QString());
    return out;
}

void Plot::thin(QVector<double>& x, QVector<double>& y) {
    constexpr qsizetype few = 20'000;
    constexpr double cells = 1500; // finer than a screen
    if (x.size() <= few) return;
    const auto [left, right] = std::minmax_element(x.begin(), x.end());
    const auto [low, high] = std::minmax_element(y.begin(), y.end());
    const double wide = std::max(*right - *left, 1e-300), tall = std::max(*high - *low, 1e-300), x0 = *left, y0 = *low;
    const auto cell = [&](qsizetype i) {
        return static_cast<quint32>((x[i] - x0) / wide * cells) << 16 |
               static_cast<quint32>((y[i] - y0) / tall * cells);
    };
    QSet<quint64> drawn;
    QVector<double> kept_x, kept_y;
    bool gap = true;
    quint32 before = cell(0);
    for (qsizetype i = 1; i < x.size(); ++i) {
        const quint32 now = cell(i);
        const quint64 stroke = quint64{before} << 32 | now;
        before = now;
        if (drawn.contains(stroke)) {
            gap = true;
            continue;
        }
        drawn.insert(stroke);
        if (gap) {
            kept_x << std::nan("") << x[i - 1];
            kept_y << std::nan("") << y[i - 1];
            gap = false;
        }
        kept_x << x[i];
        kept_y << y[i];
    }
    x = kept_x;
    y = kept_y;
}

double Plot::room_beyond(const QCPAxisRect& rect, double bottom, double top) {
    constexpr double line = 24; // px
    const double high = rect.height() - 2 * line;
    const double share = high > line ? line / high : 0; // not laid out yet: as for a large picture
    return (top - bottom) * std::max(0.1, share) + 1e-12;
}

bool Plot::saw_toothed(const QVector<double>& y) {
    constexpr int most = 600;
    int turns = 0;
    double before = 0;
    for (qsizetype i = 1; i < y.size() && turns <= most; ++i) {
        const double now = y[i] - y[i - 1];
        if (!(now < 0 || now > 0)) continue;
        if ((now < 0) != (before < 0)) ++turns;
        before = now;
    }
    return turns > most;
}

void Plot::draw_in(QCPAbstractPlottable& curve, const QPen& pen, bool teeth) {
    curve.setPen(teeth ? QPen(pen.color(), 1) : pen);
    curve.setAntialiased(!teeth);
    curve.setAntialiasedFill(!teeth);
}

QString Plot::export_to(const QString& file) {
    const QString ending = file.section(QLatin1Char('.'), -1).toLower();
    QByteArray bytes;
    QBuffer out(&bytes);
    out.open(QIODevice::WriteOnly);
    const auto draw = [&](QPaintDevice& on) {
        QCPPainter painter;
        if (!painter.begin(&on)) return;
        painter.setMode(QCPPainter::pmVectorized);
        painter.setMode(QCPPainter::pmNoCaching);
        toPainter(&painter, width(), height());
        painter.end();
    };
    if (ending == QLatin1String("png")) {
        toPixmap(width(), height(), 2).save(&out, "PNG");
    } else if (ending == QLatin1String("pdf")) {
        QPdfWriter pdf(&out);
        pdf.setPageSize(QPageSize(QSizeF(width(), height()), QPageSize::Point, {}, QPageSize::ExactMatch));
        pdf.setPageMargins({});
        pdf.setResolution(72);
        draw(pdf);
    } else if (ending == QLatin1String("svg")) {
        QSvgGenerator svg;
        svg.setOutputDevice(&out);
        svg.setSize(size());
        svg.setViewBox(rect());
        draw(svg);
    } else if (ending == QLatin1String("csv")) {
        out.write(csv().toUtf8());
    } else {
        return tr("\"%1\" is not a picture or table this program writes; allowed are .png, .svg, .pdf and .csv")
            .arg(ending);
    }
    out.close();
    if (bytes.isEmpty()) return tr("%1 could not be drawn").arg(file);
    return write_atomically(file, bytes);
}

void Plot::contextMenuEvent(QContextMenuEvent* event) {
    QMenu menu(this);
    menu.addAction(tr("Whole view"), this, [this] { reset_view(); });
    menu.addAction(tr("Copy picture"), this, [this] { copy_picture(*this); });
    menu.addAction(tr("Copy table"), this, [this] { copy_table(table_of(*this)); });
    menu.addAction(tr("Save as SVG, PDF, PNG or CSV…"), this, [this] {
        const QString file = QFileDialog::getSaveFileName(
            this, tr("Save plot"), stem_ + QStringLiteral(".svg"), tr("Pictures and tables (*.svg *.pdf *.png *.csv)"));
        if (file.isEmpty()) return;
        if (const QString why = export_to(file); !why.isEmpty()) QMessageBox::warning(this, tr("Save plot"), why);
    });
    menu.exec(event->globalPos());
}

} // namespace fulmox::app

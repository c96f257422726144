#include "app/parts/map_pane.h"

#include "app/bricks/choice.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/match/candidates.h"
#include "core/quantity/format.h"

#include <QAbstractProxyModel>
#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QSignalBlocker>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace fulmox::app {

namespace {

constexpr double near_pixels = 8;
constexpr std::size_t unjudged = 4; // place of its marks
constexpr QLatin1String percent("%");

QString head_of(const MapColumn& c) { return c.unit.isEmpty() ? c.name : QStringLiteral("%1, %2").arg(c.name, c.unit); }

// From and to of an axis, logarithmic where it spans decades. A use many times over tells no more.
struct Reach {
    double low = 0, high = 1;
    bool decades = false;
};
Reach reach_of(std::vector<double> values, bool shares) {
    Reach out;
    if (values.empty()) return out;
    std::sort(values.begin(), values.end());
    double low = values.front(), high = values.back();
    if (shares) return {0, std::clamp(1.06 * high, 110.0, 250.0), false};
    out.decades = low > 0 && high > 40 * low;
    if (out.decades) return {low / 1.3, high * 1.3, true};
    if (low >= 0 && low < 0.5 * high) low = 0;
    const double room = high > low ? 0.06 * (high - low) : std::max(std::abs(high), 1.0) * 0.1;
    return {low == 0 ? -room * 0.3 : low - room, high + room, false};
}

// Where a number is drawn: what lies beyond the picture a little within its border.
double at_border(const QCPAxis& axis, double value) {
    if (axis.range().contains(value)) return value;
    const QCPRange r = axis.range();
    const auto inside = [&](double end, double other) {
        const double pixels = axis.coordToPixel(end);
        return axis.pixelToCoord(pixels + (axis.coordToPixel(other) > pixels ? 5 : -5));
    };
    return value > r.upper ? inside(r.upper, r.lower) : inside(r.lower, r.upper);
}

} // namespace

CandidateMap::CandidateMap(QWidget* parent) : Plot(parent) {
    set_file_stem(QStringLiteral("candidates"));
    setObjectName(QStringLiteral("map"));
    setFocusPolicy(Qt::StrongFocus);
    plotLayout()->clear();
    rect_ = add_rect(0, {}, false);
    rect_->setRangeDrag(Qt::Horizontal | Qt::Vertical);
    rect_->setRangeZoom(Qt::Horizontal | Qt::Vertical);
    const auto graph = [&] {
        QCPGraph* g = addGraph(rect_->axis(QCPAxis::atBottom), rect_->axis(QCPAxis::atLeft));
        g->setLineStyle(QCPGraph::lsNone);
        return g;
    };
    front_ = graph();
    front_->setLineStyle(QCPGraph::lsLine);
    front_->setName(tr("front"));
    for (std::size_t i = 0; i <= unjudged; ++i) marks_.push_back(graph());
    ring_ = graph();
}

void CandidateMap::show_points(
    const MapSource& source, const std::vector<int>& rows, const MapColumn& x, const MapColumn& y) {
    points_.clear();
    names_.clear();
    in_use_ = -1;
    x_ = {x.name, x.unit};
    y_ = {y.name, y.unit};
    for (const int row : rows) {
        const double a = x.value(row), b = y.value(row);
        if (std::isnan(a) || std::isnan(b)) continue;
        points_.push_back({row, a, b, source.map_state(row)});
        names_.push_back(source.map_name(row));
        if (source.map_in_use(row)) in_use_ = row;
    }
    // only what carries the axis is a choice
    if (x.less && y.less) {
        std::vector<double> across, up;
        std::vector<std::size_t> which;
        for (std::size_t i = 0; i < points_.size(); ++i)
            if (points_[i].state && carries(*points_[i].state)) {
                across.push_back(points_[i].x);
                up.push_back(points_[i].y);
                which.push_back(i);
            }
        for (const std::size_t i : pareto_front(across, up)) points_[which[i]].front = true;
    }
    say_missing(source.map_waits() ? tr("being judged…")
                : points_.empty()  ? tr("no row of the table has both %1 and %2").arg(x.name, y.name)
                                   : QString());
    setAccessibleName(tr("Map of %n candidates, %1 against %2; arrows go from one to the next, Enter takes it", nullptr,
        static_cast<int>(points_.size()))
                          .arg(head_of(y_), head_of(x_)));
    draw_all();
}

void CandidateMap::choose(int row) {
    chosen_ = row;
    draw_all();
}

void CandidateMap::draw_all() {
    for (QCPAbstractItem* n : notes_) removeItem(n);
    notes_.clear();
    restyle();
    const Theme& t = theme();
    std::vector<double> xs, ys;
    for (const Point& p : points_) { // what is infinite has no say in the reach
        if (std::isfinite(p.x)) xs.push_back(p.x);
        if (std::isfinite(p.y)) ys.push_back(p.y);
    }
    QCPAxis *across = rect_->axis(QCPAxis::atBottom), *up = rect_->axis(QCPAxis::atLeft);
    const auto lay = [](QCPAxis* axis, const std::vector<double>& values, const MapColumn& column) {
        const Reach r = reach_of(values, column.unit == percent);
        axis->setScaleType(r.decades ? QCPAxis::stLogarithmic : QCPAxis::stLinear);
        if (r.decades) {
            axis->setTicker(QSharedPointer<QCPAxisTickerLog>(new QCPAxisTickerLog));
        } else {
            axis->setTicker(QSharedPointer<QCPAxisTicker>(new QCPAxisTicker));
        }
        axis->setNumberFormat(r.decades ? QStringLiteral("g") : QStringLiteral("gb"));
        axis->setNumberPrecision(5);
        axis->ticker()->setTickCount(5);
        axis->setRange(r.low, r.high);
        axis->setLabel(head_of(column));
    };
    lay(across, xs, x_);
    lay(up, ys, y_);
    beyond_ = 0;
    for (Point& p : points_) {
        p.at_x = at_border(*across, p.x);
        p.at_y = at_border(*up, p.y);
        if (p.at_x != p.x || p.at_y != p.y) ++beyond_;
    }
    for (std::size_t s = 0; s < marks_.size(); ++s) {
        QVector<double> x, y;
        for (const Point& p : points_)
            if (p.state ? static_cast<std::size_t>(*p.state) == s : s == unjudged) {
                x.push_back(p.at_x);
                y.push_back(p.at_y);
            }
        marks_[s]->setData(x, y);
        marks_[s]->setScatterStyle(s == unjudged
                                       ? QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(t.second, 1.2), QBrush(), 6)
                                       : mark_of(static_cast<LimitState>(s), s < 2 ? 8 : 6));
    }
    QVector<double> fx, fy, cx, cy;
    for (const Point& p : points_) {
        if (p.front) {
            fx.push_back(p.at_x);
            fy.push_back(p.at_y);
        }
        if (p.row == chosen_) {
            cx.push_back(p.at_x);
            cy.push_back(p.at_y);
        }
        const auto name = [&](const QString& text, const QColor& colour, bool above) {
            const bool right = across->coordToPixel(p.at_x) > rect_->left() + 0.6 * rect_->width();
            const double aside = across->pixelToCoord(across->coordToPixel(p.at_x) + (right ? -9 : 9));
            const double level = up->pixelToCoord(up->coordToPixel(p.at_y) + (above ? -3 : 3));
            notes_.push_back(note(rect_, aside, level, text, colour,
                (right ? Qt::AlignRight : Qt::AlignLeft) | (above ? Qt::AlignBottom : Qt::AlignTop)));
        };
        const std::size_t i = static_cast<std::size_t>(&p - points_.data());
        if (p.row == in_use_) name(tr("in use: %1").arg(names_[i]), t.accent, true);
        if (p.row == chosen_ && p.row != in_use_) name(names_[i], t.ink, false);
    }
    has_front_ = fx.size() > 1; // one alone makes no line
    front_->setData(fx, fy);
    front_->setPen(QPen(t.fits, 1.4, Qt::DashLine));
    ring_->setData(cx, cy);
    ring_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(t.accent, 2), QBrush(), 14));
    if (x_.unit == percent)
        notes_.push_back(straight_line(rect_, 100, up->range().lower, 100, up->range().upper, QPen(t.second, 1)));
    if (y_.unit == percent)
        notes_.push_back(
            straight_line(rect_, across->range().lower, 100, across->range().upper, 100, QPen(t.second, 1)));
    replot(QCustomPlot::rpQueuedReplot);
}

QPointF CandidateMap::place_of(const Point& p) {
    return {rect_->axis(QCPAxis::atBottom)->coordToPixel(p.at_x), rect_->axis(QCPAxis::atLeft)->coordToPixel(p.at_y)};
}

const CandidateMap::Point* CandidateMap::at(QPointF place) {
    const Point* best = nullptr;
    double nearest = near_pixels;
    for (const Point& p : points_) {
        const QPointF d = place_of(p) - place;
        // of those that lie on one another the one that carries the axis
        const double away = std::hypot(d.x(), d.y()) + (p.state && carries(*p.state) ? 0 : 1);
        if (away < nearest) {
            nearest = away;
            best = &p;
        }
    }
    return best;
}

QString CandidateMap::words(const Point& p) const {
    const std::size_t i = static_cast<std::size_t>(&p - points_.data());
    const auto said = [](const MapColumn& column, double value) {
        if (std::isinf(value)) return tr("%1 without bound").arg(column.name);
        return QStringLiteral("%1 %2 %3").arg(column.name, qs(format_number(value, 4)), column.unit).trimmed();
    };
    return tr("%1: %2, %3%4")
        .arg(names_[i], said(x_, p.x), said(y_, p.y),
            p.state ? QStringLiteral("; ") + QString::fromUtf8(state_words(*p.state)) : QString());
}

QString CandidateMap::readout(double x, double y, QCPAxisRect* rect) {
    const Point* p = at({rect->axis(QCPAxis::atBottom)->coordToPixel(x), rect->axis(QCPAxis::atLeft)->coordToPixel(y)});
    return p ? words(*p) : QString();
}

void CandidateMap::mousePressEvent(QMouseEvent* event) {
    pressed_ = event->position();
    Plot::mousePressEvent(event);
}

void CandidateMap::mouseReleaseEvent(QMouseEvent* event) {
    Plot::mouseReleaseEvent(event);
    if (event->button() != Qt::LeftButton || (event->position() - pressed_).manhattanLength() > 3) return;
    if (const Point* p = at(event->position())) emit picked(p->row);
}

void CandidateMap::mouseDoubleClickEvent(QMouseEvent* event) {
    const Point* p = event->button() == Qt::LeftButton ? at(event->position()) : nullptr;
    if (!p) return Plot::mouseDoubleClickEvent(event);
    emit taken(p->row);
}

void CandidateMap::keyPressEvent(QKeyEvent* event) {
    const bool forth = event->key() == Qt::Key_Right || event->key() == Qt::Key_Down,
               back = event->key() == Qt::Key_Left || event->key() == Qt::Key_Up;
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && chosen_ >= 0) {
        emit taken(chosen_);
        return;
    }
    if ((!forth && !back) || points_.empty()) return Plot::keyPressEvent(event);
    std::vector<std::size_t> order(points_.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(), [this](std::size_t a, std::size_t b) {
        return std::pair(points_[a].x, points_[a].y) < std::pair(points_[b].x, points_[b].y);
    });
    const auto now =
        std::find_if(order.begin(), order.end(), [this](std::size_t i) { return points_[i].row == chosen_; });
    std::size_t place = 0;
    if (now != order.end()) {
        const auto i = static_cast<std::size_t>(now - order.begin());
        place = forth ? std::min(i + 1, order.size() - 1) : i > 0 ? i - 1 : 0;
    }
    emit picked(points_[order[place]].row);
}

Table CandidateMap::as_table() const {
    Table t;
    t.head = {
        tr("candidate").toStdString(), head_of(x_).toStdString(), head_of(y_).toStdString(), tr("state").toStdString()};
    t.right = {false, true, true, false};
    const auto number = [](double v) { return std::isinf(v) ? tr("without bound").toStdString() : format_exact(v); };
    for (std::size_t i = 0; i < points_.size(); ++i)
        t.rows.push_back({names_[i].toStdString(), number(points_[i].x), number(points_[i].y),
            points_[i].state ? state_words(*points_[i].state) : ""});
    return t;
}

MapPane::MapPane(QTableView& table, const QString& key, QWidget* parent)
    : QWidget(parent), table_(table), key_(QStringLiteral("map-%1").arg(key)) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(4);
    auto* line = new QHBoxLayout;
    line->setSpacing(6);
    const auto choice = [&](const QString& label, const QString& name) {
        auto* word = new QLabel(label);
        word->setObjectName(QStringLiteral("second"));
        line->addWidget(word);
        auto* c = new Choice;
        c->setObjectName(name);
        c->setAccessibleName(label);
        c->setFocusPolicy(Qt::StrongFocus);
        connect(c, &QComboBox::activated, this, [this] {
            QSettings().setValue(key_, QStringList{x_->currentText(), y_->currentText()});
            refresh();
        });
        line->addWidget(c);
        return c;
    };
    y_ = choice(tr("Up"), QStringLiteral("map-up"));
    x_ = choice(tr("Across"), QStringLiteral("map-across"));
    said_ = new QLabel;
    said_->setObjectName(QStringLiteral("second"));
    said_->setFont(type_face(12));
    said_->setTextFormat(Qt::PlainText);
    line->addWidget(said_, 1);
    box->addLayout(line);
    map_ = new CandidateMap;
    box->addWidget(map_, 1);
    connect(map_, &CandidateMap::picked, this, &MapPane::make_current);
    connect(map_, &CandidateMap::taken, this, [this](int row) {
        make_current(row);
        emit taken();
    });
    const auto refill = [this] {
        if (isVisible()) refresh();
    };
    connect(table_.model(), &QAbstractItemModel::modelReset, this, refill);
    connect(table_.model(), &QAbstractItemModel::layoutChanged, this, refill);
    connect(table_.model(), &QAbstractItemModel::rowsInserted, this, refill);
    connect(table_.model(), &QAbstractItemModel::rowsRemoved, this, refill);
    connect(table_.model(), &QAbstractItemModel::dataChanged, this, refill);
    connect(table_.selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& now) {
        if (!isVisible()) return;
        const auto* order = static_cast<QAbstractProxyModel*>(table_.model());
        map_->choose(now.isValid() ? order->mapToSource(now).row() : -1);
    });
}

TableOrMap::TableOrMap(QTableView& table, const QString& key, const QString& accessible, QWidget* parent)
    : QStackedWidget(parent), button_(new QPushButton(tr("Map"))) {
    button_->setObjectName(QStringLiteral("link"));
    button_->setCheckable(true);
    button_->setAccessibleName(accessible);
    button_->setToolTip(tr("One column against another, in place of the table"));
    auto* map = new MapPane(table, key);
    addWidget(&table);
    addWidget(map);
    connect(map, &MapPane::taken, this, &TableOrMap::taken);
    connect(button_, &QPushButton::toggled, this, [this](bool on) {
        setCurrentIndex(on ? 1 : 0);
        button_->setText(on ? tr("Table") : tr("Map"));
        emit turned(on);
    });
}

const MapSource& MapPane::source() const {
    const auto* order = static_cast<QAbstractProxyModel*>(table_.model());
    return dynamic_cast<const MapSource&>(*order->sourceModel());
}

void MapPane::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void MapPane::offer_columns() {
    const std::vector<MapColumn> columns = source().map_columns();
    QStringList names;
    for (const MapColumn& c : columns) names << c.name;
    QStringList kept = QSettings().value(key_).toStringList();
    if (kept.size() != 2) kept = {tr("Tightest"), tr("Price")};
    for (const auto& [box, which] : {std::pair(x_, 0), std::pair(y_, 1)}) {
        const QSignalBlocker quiet(box);
        const QString now = box->count() > 0 ? box->currentText() : kept[which];
        if (box->count() != names.size()) {
            box->clear();
            box->addItems(names);
        }
        // of a column that is none here another one each
        const qsizetype at = names.indexOf(now), other = std::min<qsizetype>(which == 0 ? 1 : 0, names.size() - 1);
        box->setCurrentIndex(static_cast<int>(at >= 0 ? at : other));
    }
}

void MapPane::refresh() {
    offer_columns();
    const std::vector<MapColumn> columns = source().map_columns();
    if (columns.empty()) return;
    const auto* order = static_cast<QAbstractProxyModel*>(table_.model());
    std::vector<int> rows;
    for (int r = 0; r < order->rowCount(); ++r) rows.push_back(order->mapToSource(order->index(r, 0)).row());
    const MapColumn &x = columns[static_cast<std::size_t>(x_->currentIndex())],
                    &y = columns[static_cast<std::size_t>(y_->currentIndex())];
    map_->show_points(source(), rows, x, y);
    const QModelIndex now = table_.currentIndex();
    map_->choose(now.isValid() ? order->mapToSource(now).row() : -1);
    const std::size_t drawn = map_->points().size();
    QStringList words{tr("%1 of %2 drawn").arg(drawn).arg(rows.size())};
    if (drawn < rows.size()) words << tr("%1 without such a number").arg(rows.size() - drawn);
    if (map_->beyond() > 0) words << tr("%1 of them beyond its border").arg(map_->beyond());
    if (map_->has_front()) words << tr("dashed: the best in both");
    said_->setText(words.join(QStringLiteral("; ")));
}

void MapPane::make_current(int row) {
    const auto* order = static_cast<QAbstractProxyModel*>(table_.model());
    const QModelIndex at = order->mapFromSource(order->sourceModel()->index(row, 0));
    if (at.isValid()) table_.setCurrentIndex(at);
}

} // namespace fulmox::app

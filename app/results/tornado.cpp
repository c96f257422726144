#include "app/results/tornado.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr int row_height = 24;
constexpr int head = 22;
} // namespace

Tornado::Tornado(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    missing_ = cover_with_missing(this);
    setObjectName(QStringLiteral("tornado"));
    setAccessibleName(tr("Inputs by how much they move the torque"));
    setMouseTracking(true);
    later_.setSingleShot(true);
    later_.setInterval(120);
    connect(&later_, &QTimer::timeout, this, &Tornado::refresh);
}

Table Tornado::as_table() const {
    const Kind kind = document_.has_axis() && motion_of(document_.axis().mechanism).direct ? Kind::force : Kind::torque;
    const UnitSystem units = document_.machine().unit_system;
    Table t{"",
        {tr("input").toStdString(), tr("moved by").toStdString(), tr("moved down").toStdString(),
            tr("moved up").toStdString()},
        {}, {false, true, true, true}};
    for (const Influence& i : rows_)
        t.rows.push_back({i.label, i.moved, format_quantity(i.low, kind, units), format_quantity(i.high, kind, units)});
    return t;
}

void Tornado::set_measure(Measure m) {
    measure_ = m;
    if (isVisible())
        refresh();
    else
        set_stale();
}

void Tornado::refresh() {
    rows_.clear();
    if (document_.has_axis())
        work_.run(
            this,
            [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()),
                measure = measure_](const StopToken& go_on) { return influences(*machine, axis, measure, go_on); },
            [this](std::vector<Influence> rows) {
                rows_ = std::move(rows);
                say_missing();
                update();
            });
    say_missing();
    update();
}

void Tornado::say_missing() {
    const bool shown = !rows_.empty() && document_.has_axis() && document_.assessment().demand;
    if (work_.running())
        missing_->say(tr("The bars are being calculated…"));
    else
        missing_->say(shown ? QString() : waiting_for(document_, "demand.peak_torque"),
            waiting_path(document_, "demand.peak_torque"));
}

void Tornado::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.setFont(type_face(12));
    if (rows_.empty() || !document_.has_axis() || !document_.assessment().demand) return;
    const Demand& d = *document_.assessment().demand;
    const double now = measure_ == Measure::rms_torque ? d.rms_torque : std::abs(d.peak.torque);
    const Kind kind = motion_of(document_.axis().mechanism).direct ? Kind::force : Kind::torque;
    const UnitSystem system = document_.machine().unit_system;
    double reach = 0;
    for (const Influence& i : rows_) reach = std::max({reach, std::abs(i.low - now), std::abs(i.high - now)});
    const int names = 190, moved = 92, values = 64;
    const double left = names + moved + values, right = width() - values;
    const double middle = (left + right) / 2;
    const double scale = (right - left) / 2 / std::max(reach, 1e-12);
    p.setPen(t.second);
    p.drawText(QRectF(0, 0, names, head - 4), Qt::AlignVCenter, tr("input"));
    p.drawText(QRectF(names, 0, moved, head - 4), Qt::AlignVCenter, tr("moved by"));
    p.drawText(QRectF(middle - 120, 0, 240, head - 4), Qt::AlignCenter,
        tr("now %1").arg(qs(format_quantity(now, kind, system))));
    const int fit = std::max(1, (height() - head) / row_height);
    const int shown = std::min(static_cast<int>(rows_.size()), fit);
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(middle, head - 2), QPointF(middle, head + shown * row_height));
    for (int k = 0; k < shown; ++k) {
        const Influence& i = rows_[static_cast<std::size_t>(k)];
        const double y = head + k * row_height;
        // a body or stage stands before its label already
        const bool owned = i.path.find("/bodies/") != std::string::npos || i.path.find("/stages/") != std::string::npos;
        const QString name = owned ? qs(i.label) : field_name(i.label, qs(i.path));
        p.setPen(t.ink);
        p.drawText(QRectF(0, y, names - 6, row_height), Qt::AlignVCenter,
            p.fontMetrics().elidedText(name, Qt::ElideRight, names - 6));
        p.setPen(t.second);
        p.drawText(QRectF(names, y, moved, row_height), Qt::AlignVCenter, qs(i.moved));
        // the side the input goes down to is drawn light, the side it goes up to dark
        const auto bar = [&](double value, const QColor& colour) {
            const double x = middle + (value - now) * scale;
            p.setPen(Qt::NoPen);
            p.setBrush(colour);
            p.drawRect(QRectF(std::min(x, middle), y + 5, std::abs(x - middle), row_height - 10));
        };
        bar(i.low, t.cause[1]);
        bar(i.high, t.cause[0]);
        p.setPen(t.ink);
        const double low = std::min(i.low, i.high), high = std::max(i.low, i.high);
        const Unit& unit = display_unit(kind, system);
        p.drawText(QRectF(std::min(middle, middle + (low - now) * scale) - values - 4, y, values, row_height),
            Qt::AlignVCenter | Qt::AlignRight, qs(format_number(from_si(low, unit), 3)));
        p.drawText(QRectF(std::max(middle, middle + (high - now) * scale) + 4, y, values, row_height), Qt::AlignVCenter,
            qs(format_number(from_si(high, unit), 3)));
    }
}

int Tornado::row_at(QPointF place) const {
    const int k = static_cast<int>((place.y() - head) / row_height);
    const int fit = std::max(1, (height() - head) / row_height);
    return place.y() >= head && k < std::min(static_cast<int>(rows_.size()), fit) ? k : -1;
}

void Tornado::mousePressEvent(QMouseEvent* event) {
    const int k = row_at(event->position());
    if (k >= 0) emit go_to(qs(rows_[static_cast<std::size_t>(k)].path));
}

void Tornado::mouseMoveEvent(QMouseEvent* event) {
    setCursor(row_at(event->position()) >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
}

} // namespace fulmox::app

#include "app/plots/path_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <cmath>

namespace fulmox::app {

namespace {

bool direct(const Document& d) { return d.has_axis() && motion_of(d.axis().mechanism).direct; }
const Unit& speed_unit(const Document& d) {
    return display_unit(direct(d) ? Kind::speed : Kind::angular_speed, d.machine().unit_system);
}
const Unit& torque_unit(const Document& d) {
    return display_unit(direct(d) ? Kind::force : Kind::torque, d.machine().unit_system);
}

// Rows of time, speed, torque.
std::vector<std::vector<double>> path_of(const Demand& d, const Unit& speed, const Unit& torque) {
    std::vector<std::vector<double>> out;
    const std::size_t every = 1 + d.spans.size() / 4000;
    for (std::size_t i = 0; i < d.spans.size(); i += every) {
        const Span& s = d.spans[i];
        if (s.regime == Regime::braked) continue;
        const int n = s.piece.uniform() && !d.load.position_dependent() ? 1 : 8;
        for (int j = 0; j <= n; ++j) {
            const double at = s.start + s.duration * j / n;
            const ShaftState e = evaluate(d.load, s, at);
            out.push_back({at, from_si(e.speed, speed), from_si(e.torque, torque)});
        }
    }
    return out;
}

} // namespace

PathPlot::PathPlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("path"));
    setAccessibleName(tr("Path of the cycle in the plane of speed and torque"));
    plotLayout()->clear();
    rect_ = add_rect(0, {}, false);
    rect_->setRangeZoom(Qt::Horizontal | Qt::Vertical);
    rect_->setRangeDrag(Qt::Horizontal | Qt::Vertical);
    path_ = new QCPCurve(rect_->axis(QCPAxis::atBottom), rect_->axis(QCPAxis::atLeft));
    pinned_ = new QCPCurve(rect_->axis(QCPAxis::atBottom), rect_->axis(QCPAxis::atLeft));
    points_ = addGraph(rect_->axis(QCPAxis::atBottom), rect_->axis(QCPAxis::atLeft));
    points_->setLineStyle(QCPGraph::lsNone);
}

void PathPlot::refresh() {
    restyle();
    for (QCPAbstractItem* n : notes_) removeItem(n);
    notes_.clear();
    const Theme& t = theme();
    const Unit& speed = speed_unit(document_);
    const Unit& torque = torque_unit(document_);
    QCPAxis* x = rect_->axis(QCPAxis::atBottom);
    QCPAxis* y = rect_->axis(QCPAxis::atLeft);
    x->setLabel(tr("speed at the motor, %1").arg(symbol(speed)));
    y->setLabel((direct(document_) ? tr("force, %1") : tr("torque, %1")).arg(symbol(torque)));
    x->grid()->setZeroLinePen(QPen(t.second, 1));
    points_->setName(axis_name(*y));
    path_->setPen(QPen(t.ink, 1.5));
    points_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, 8));
    if (!document_.has_axis() || !document_.assessment().demand) {
        path_->data()->clear();
        pinned_->data()->clear();
        points_->data()->clear();
        say_missing(waiting_for(document_, "demand.peak_torque"), false, waiting_path(document_, "demand.peak_torque"));
        replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    say_missing({});
    const Demand& d = *document_.assessment().demand;
    const auto draw = [&](QCPCurve* curve, const Demand& demand) {
        QVector<double> at, across, along;
        for (const std::vector<double>& row : path_of(demand, speed, torque)) {
            across.push_back(row[1]);
            along.push_back(row[2]);
        }
        thin(across, along);
        for (qsizetype i = 0; i < across.size(); ++i) at.push_back(static_cast<double>(i));
        curve->setData(at, across, along, true);
    };
    draw(path_, d);
    const Assessment* was = document_.pinned_assessment();
    pinned_->setPen(QPen(t.over, 1.2, Qt::DashLine));
    if (was && was->demand)
        draw(pinned_, *was->demand);
    else
        pinned_->data()->clear();
    const double px = from_si(d.peak.speed, speed), py = from_si(d.peak.torque, torque);
    points_->setData({px}, {py}, true);
    x->rescale();
    y->rescale();
    for (QCPAxis* a : {x, y}) {
        QCPRange r = a->range();
        r.expand(0);
        const double room = (a == y ? 0.22 : 0.12) * r.size() + 1e-9; // for the peak and the words of the quadrants
        a->setRange(r.lower - room, r.upper + room);
    }
    notes_.push_back(note(rect_, px, py,
        tr("peak %1 at %2 s").arg(qs(format_quantity(d.peak.torque, torque)), qs(format_number(d.peak.time, 3))), t.ink,
        (px > x->range().center() ? Qt::AlignRight : Qt::AlignLeft) | (py > 0 ? Qt::AlignBottom : Qt::AlignTop)));
    const auto quadrant = [&](double sx, double sy, const QString& text) {
        auto* words = new QCPItemText(this);
        words->position->setType(QCPItemPosition::ptAxisRectRatio);
        words->position->setAxisRect(rect_);
        words->position->setCoords(sx, sy);
        words->setText(text);
        words->setColor(t.second);
        words->setFont(type_face(11));
        words->setPositionAlignment(
            (sx > 0.5 ? Qt::AlignRight : Qt::AlignLeft) | (sy > 0.5 ? Qt::AlignBottom : Qt::AlignTop));
        notes_.push_back(words);
    };
    quadrant(0.99, 0.01, tr("driving forward"));
    quadrant(0.01, 0.01, tr("braking backward"));
    quadrant(0.01, 0.99, tr("driving backward"));
    quadrant(0.99, 0.99, tr("braking forward"));
    replot(QCustomPlot::rpQueuedReplot);
}

Table PathPlot::as_table() const {
    if (!document_.has_axis() || !document_.assessment().demand) return {};
    const Unit& speed = speed_unit(document_);
    const Unit& torque = torque_unit(document_);
    return table({tr("time, s"), axis_name(*rect_->axis(QCPAxis::atBottom)), axis_name(*rect_->axis(QCPAxis::atLeft))},
        path_of(*document_.assessment().demand, speed, torque));
}

QString PathPlot::readout(double px, double py, QCPAxisRect*) {
    if (!document_.has_axis() || !document_.assessment().demand) return {};
    const Demand& d = *document_.assessment().demand;
    const Unit& speed = speed_unit(document_);
    const Unit& torque = torque_unit(document_);
    const double wx = rect_->axis(QCPAxis::atBottom)->range().size(), wy = rect_->axis(QCPAxis::atLeft)->range().size();
    double best = 0.03 * 0.03;
    QString text;
    for (std::size_t i = 0; i < d.spans.size() && i < 4000; ++i) {
        const Span& s = d.spans[i];
        if (s.regime == Regime::braked) continue;
        for (int j = 0; j <= 8; ++j) {
            const double when = s.start + s.duration * j / 8;
            const ShaftState e = evaluate(d.load, s, when);
            const double far =
                std::pow((from_si(e.speed, speed) - px) / wx, 2) + std::pow((from_si(e.torque, torque) - py) / wy, 2);
            if (far >= best) continue;
            best = far;
            text = tr("%1 s, segment %2\n%3\n%4\n%5")
                       .arg(qs(format_number(when, 4)))
                       .arg(s.piece.segment + 1)
                       .arg(qs(format_quantity(e.speed, speed)), qs(format_quantity(e.torque, torque)),
                           qs(format_quantity(e.torque * e.speed, Kind::power, document_.machine().unit_system)));
        }
    }
    return text;
}

} // namespace fulmox::app

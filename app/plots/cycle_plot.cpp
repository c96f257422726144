#include "app/plots/cycle_plot.h"

#include "app/theme.h"
#include "core/quantity/format.h"

namespace fulmox::app {

namespace {

QString qs(const std::string& s) { return QString::fromStdString(s); }

struct Channel {
    Kind kind;
    const char* name;
};
constexpr std::array<Channel, 3> channels{
    {{Kind::length, "position"}, {Kind::speed, "velocity"}, {Kind::acceleration, "acceleration"}}};

double value(const Piece& p, std::size_t channel, double tau) {
    return channel == 0 ? p.position(tau) : channel == 1 ? p.velocity(tau) : p.acceleration(tau);
}

} // namespace

CyclePlot::CyclePlot(Document& document, QWidget* parent) : Plot(parent), document_(document) {
    set_file_stem(QStringLiteral("cycle"));
    setAccessibleName(tr("Position, velocity and acceleration over the cycle"));
    plotLayout()->clear();
    auto* margins = new QCPMarginGroup(this);
    for (std::size_t i = 0; i < channels.size(); ++i) {
        rects_[i] = add_rect(static_cast<int>(i), {}, i == 2);
        rects_[i]->setMarginGroup(QCP::msLeft | QCP::msRight, margins);
        QCPAxis* x = rects_[i]->axis(QCPAxis::atBottom);
        x->setTickLabels(i == 2);
        graphs_[i] = addGraph(x, rects_[i]->axis(QCPAxis::atLeft));
        marks_[i] = new QCPItemRect(this);
        marks_[i]->setClipAxisRect(rects_[i]);
        marks_[i]->setLayer(QStringLiteral("background"));
        for (QCPItemPosition* p : {marks_[i]->topLeft, marks_[i]->bottomRight}) {
            p->setTypeX(QCPItemPosition::ptPlotCoords);
            p->setAxes(x, rects_[i]->axis(QCPAxis::atLeft));
            p->setTypeY(QCPItemPosition::ptAxisRectRatio);
            p->setAxisRect(rects_[i]);
        }
        for (std::size_t j = 0; j < i; ++j) {
            QCPAxis* other = rects_[j]->axis(QCPAxis::atBottom);
            connect(x, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), other,
                qOverload<const QCPRange&>(&QCPAxis::setRange));
            connect(other, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), x,
                qOverload<const QCPRange&>(&QCPAxis::setRange));
        }
    }
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) refresh();
    });
}

void CyclePlot::refresh() {
    restyle();
    for (QCPAbstractItem* b : borders_) removeItem(b);
    borders_.clear();
    const Theme& t = theme();
    const bool any = document_.has_axis() && document_.assessment().motion.has_value();
    for (std::size_t i = 0; i < channels.size(); ++i) {
        const UnitSystem system = document_.machine().unit_system;
        const Unit& unit = display_unit(channels[i].kind, system);
        const QString label = QStringLiteral("%1, %2").arg(QLatin1String(channels[i].name),
            QString::fromUtf8(unit.symbol.data(), static_cast<qsizetype>(unit.symbol.size())));
        rects_[i]->axis(QCPAxis::atLeft)->setLabel(label);
        graphs_[i]->setName(label);
        graphs_[i]->setPen(QPen(t.accent, 1.8));
        QColor fill = t.accent;
        fill.setAlpha(28);
        graphs_[i]->setBrush(i > 0 ? QBrush(fill) : Qt::NoBrush);
        marks_[i]->setVisible(any && marked_ >= 0);
        marks_[i]->setPen(Qt::NoPen);
        QColor ground = t.accent_ground;
        ground.setAlpha(150);
        marks_[i]->setBrush(ground);
        if (!any) {
            graphs_[i]->data()->clear();
            continue;
        }
        const Trajectory& motion = *document_.assessment().motion;
        QVector<double> x, y;
        for (const Piece& p : motion.pieces) {
            const int n = p.at_rest() || i == 2 ? 1 : 24;
            for (int k = 0; k <= n; ++k) {
                const double tau = p.duration * k / n;
                x.push_back(p.start + tau);
                y.push_back(from_si(value(p, i, tau), unit));
            }
        }
        graphs_[i]->setData(x, y, true);
        rects_[i]->axis(QCPAxis::atLeft)->rescale();
        QCPRange r = rects_[i]->axis(QCPAxis::atLeft)->range();
        const double pad = std::max(r.size() * 0.09, 1e-9);
        rects_[i]->axis(QCPAxis::atLeft)->setRange(r.lower - pad, r.upper + pad);
        for (std::size_t s = 1; s < motion.phases.size() && motion.phases.size() <= 400; ++s) {
            auto* line = new QCPItemStraightLine(this);
            line->setClipAxisRect(rects_[i]);
            for (QCPItemPosition* p : {line->point1, line->point2})
                p->setAxes(rects_[i]->axis(QCPAxis::atBottom), rects_[i]->axis(QCPAxis::atLeft));
            line->point1->setCoords(motion.phases[s].start, 0);
            line->point2->setCoords(motion.phases[s].start, 1);
            line->setPen(QPen(t.line, 1));
            borders_.push_back(line);
        }
        const auto mark = std::find_if(motion.phases.begin(), motion.phases.end(),
            [this](const Phase& f) { return static_cast<int>(f.segment) == marked_; });
        if (mark != motion.phases.end()) {
            marks_[i]->topLeft->setCoords(mark->start, 0);
            marks_[i]->bottomRight->setCoords(mark->start + mark->duration, 1);
        } else {
            marks_[i]->setVisible(false);
        }
    }
    if (any && document_.assessment().motion->duration != shown_duration_) {
        shown_duration_ = document_.assessment().motion->duration;
        rects_[0]->axis(QCPAxis::atBottom)->setRange(0, shown_duration_);
    }
    replot(QCustomPlot::rpQueuedReplot);
}

void CyclePlot::reset_view() {
    shown_duration_ = -1;
    refresh();
}

void CyclePlot::mark_segment(int segment) {
    marked_ = segment;
    if (isVisible()) refresh();
}

int CyclePlot::segment_at(double t) {
    const Trajectory& motion = *document_.assessment().motion;
    for (const Phase& f : motion.phases)
        if (t >= f.start && t < f.start + f.duration) return static_cast<int>(f.segment);
    return -1;
}

void CyclePlot::mousePressEvent(QMouseEvent* event) {
    Plot::mousePressEvent(event);
    QCPAxisRect* rect = axisRectAt(event->position());
    if (!rect || !document_.has_axis() || !document_.assessment().motion || event->button() != Qt::LeftButton) return;
    const int s = segment_at(rect->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x()));
    if (s >= 0) emit segment_clicked(s);
}

QString CyclePlot::readout(double x, double, QCPAxisRect*) {
    if (!document_.has_axis() || !document_.assessment().motion) return {};
    const Trajectory& motion = *document_.assessment().motion;
    if (x < 0 || x > motion.duration) return {};
    const Piece& p = motion.at(x);
    const UnitSystem system = document_.machine().unit_system;
    QString text = QStringLiteral("%1 s, segment %2").arg(qs(format_number(x, 4))).arg(p.segment + 1);
    for (std::size_t i = 0; i < channels.size(); ++i)
        text +=
            QLatin1Char('\n') + qs(format_quantity(value(p, i, x - p.start), display_unit(channels[i].kind, system)));
    return text;
}

} // namespace fulmox::app

#include "app/plots/cycle_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/match/stepping.h"
#include "core/quantity/format.h"

#include <cmath>
#include <optional>

namespace fulmox::app {

namespace {

constexpr std::array<Order, 4> channels{Order::position, Order::speed, Order::acceleration, Order::jerk};
const char* name_of(std::size_t channel, bool rotary) {
    static constexpr std::array<const char*, 4> names{"position", "velocity", "accel.", "jerk"};
    return channel == 0 && rotary ? "angle" : names[channel];
}

double value(const Piece& p, std::size_t channel, double tau) {
    return channel == 0   ? p.position(tau)
           : channel == 1 ? p.velocity(tau)
           : channel == 2 ? p.acceleration(tau)
                          : p.jerk(tau);
}

// Duration and distance of a segment, where dragging may change them.
std::optional<double> own_time(const Segment& s) {
    const auto given = [](const auto& q) { return q.given() ? std::optional(q.si) : std::nullopt; };
    if (const auto* m = std::get_if<MoveInTime>(&s.what)) return given(m->duration);
    if (const auto* m = std::get_if<SpeedChange>(&s.what)) return given(m->duration);
    if (const auto* m = std::get_if<ConstantSpeed>(&s.what)) return given(m->duration);
    if (const auto* m = std::get_if<Jog>(&s.what)) return given(m->duration);
    if (const auto* m = std::get_if<Dwell>(&s.what)) return given(m->duration);
    return std::nullopt;
}
std::optional<double> own_distance(const Segment& s) {
    const auto given = [](const auto& q) { return q.given() ? std::optional(q.si) : std::nullopt; };
    if (const auto* m = std::get_if<MoveInTime>(&s.what)) return given(m->distance);
    if (const auto* m = std::get_if<MoveByLimits>(&s.what)) return given(m->distance);
    if (const auto* m = std::get_if<ConstantSpeed>(&s.what)) return given(m->distance);
    return std::nullopt;
}

} // namespace

CyclePlot::CyclePlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("cycle"));
    setAccessibleName(tr("Position, velocity, acceleration and jerk over the cycle"));
    plotLayout()->clear();
    auto* margins = new QCPMarginGroup(this);
    for (std::size_t i = 0; i < channels.size(); ++i) {
        rects_[i] = add_rect(static_cast<int>(i), {}, i + 1 == count);
        rects_[i]->setMarginGroup(QCP::msLeft | QCP::msRight, margins);
        QCPAxis* x = rects_[i]->axis(QCPAxis::atBottom);
        x->setTickLabels(i + 1 == count);
        graphs_[i] = addGraph(x, rects_[i]->axis(QCPAxis::atLeft));
        pinned_[i] = addGraph(x, rects_[i]->axis(QCPAxis::atLeft));
        pinned_[i]->setName({});
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
    for (std::size_t i = 0; i < raw_.size(); ++i) {
        raw_[i] = addGraph(rects_[i]->axis(QCPAxis::atBottom), rects_[i]->axis(QCPAxis::atLeft));
        raw_[i]->setLineStyle(QCPGraph::lsNone);
        raw_[i]->setName({});
    }
}

const Unit& CyclePlot::unit(std::size_t channel) const {
    const bool rotary = document_.has_axis() && motion_of(document_.axis().mechanism).rotary;
    return display_unit(motion_kind(channels[channel], rotary), document_.machine().unit_system);
}

// Whether it has saw teeth.
bool CyclePlot::lay_over(
    QCPGraph& graph, const Trajectory& motion, std::size_t channel, const Unit& unit, const QPen& pen) {
    QVector<double> x, y;
    // of a long recording each stretch keeps its first, its least and its largest value
    const std::size_t many = motion.pieces.size(), every = 1 + many / 4000;
    for (std::size_t first = 0; first < many; first += every) {
        if (every == 1) {
            const Piece& p = motion.pieces[first];
            const int n = p.at_rest() || (channel >= 2 && p.uniform()) || many > 2000 ? 1 : 24;
            for (int k = 0; k <= n; ++k) {
                const double tau = p.duration * k / n;
                x.push_back(p.start + tau);
                y.push_back(from_si(value(p, channel, tau), unit));
            }
            continue;
        }
        std::array<std::pair<double, double>, 3> kept{};
        for (std::size_t i = first; i < std::min(first + every, many); ++i) {
            const Piece& p = motion.pieces[i];
            const std::pair<double, double> here{p.start, value(p, channel, 0)};
            if (i == first) kept.fill(here);
            if (here.second < kept[1].second) kept[1] = here;
            if (here.second > kept[2].second) kept[2] = here;
        }
        std::sort(kept.begin(), kept.end());
        for (const auto& [t, v] : kept) {
            x.push_back(t);
            y.push_back(from_si(v, unit));
        }
    }
    graph.setData(x, y, true);
    const bool teeth = saw_toothed(y);
    draw_in(graph, pen, teeth);
    return teeth;
}

const Trajectory* CyclePlot::planned_now() const {
    return document_.has_axis() ? document_.assessment().known_motion() : nullptr;
}

void CyclePlot::refresh() {
    restyle();
    for (QCPAbstractItem* b : borders_) removeItem(b);
    borders_.clear();
    const Theme& t = theme();
    const Trajectory* planned = planned_now();
    const bool any = planned != nullptr;
    say_missing(waiting_for(document_, "motion.cycle_time"), any, waiting_path(document_, "motion.cycle_time"));
    const bool rotary = document_.has_axis() && motion_of(document_.axis().mechanism).rotary;
    // jerk is drawn where it is finite: an acceleration that jumps has none to show
    const bool jerk = any && std::isfinite(planned->peak_jerk);
    if (jerk != jerk_shown_) {
        jerk_shown_ = jerk;
        if (jerk)
            plotLayout()->addElement(3, 0, rects_[3]);
        else {
            plotLayout()->take(rects_[3]);
            plotLayout()->simplify();
        }
        rects_[3]->setVisible(jerk);
        for (QCPAxis* a : rects_[3]->axes())
            a->setVisible(jerk && (a->axisType() == QCPAxis::atLeft || a->axisType() == QCPAxis::atBottom));
        graphs_[3]->setVisible(jerk);
        rects_[2]->axis(QCPAxis::atBottom)->setTickLabels(!jerk);
        rects_[2]->axis(QCPAxis::atBottom)->setLabel(jerk ? QString() : tr("time, s"));
    }
    for (std::size_t i = 0; i < channels.size(); ++i) {
        const Unit& own = unit(i);
        const QString label = QStringLiteral("%1, %2").arg(QLatin1String(name_of(i, rotary)),
            QString::fromUtf8(own.symbol.data(), static_cast<qsizetype>(own.symbol.size())));
        rects_[i]->axis(QCPAxis::atLeft)->setLabel(label);
        graphs_[i]->setName(label);
        marks_[i]->setVisible(any && marked_ >= 0 && (i < 3 || jerk));
        marks_[i]->setPen(Qt::NoPen);
        QColor ground = t.accent_ground;
        ground.setAlpha(150);
        marks_[i]->setBrush(ground);
        if (!any) {
            graphs_[i]->data()->clear();
            pinned_[i]->data()->clear();
            if (i < raw_.size()) raw_[i]->data()->clear();
            shown_duration_ = -1;
            continue;
        }
        const Trajectory& motion = *planned;
        QColor fill = t.accent;
        fill.setAlpha(28);
        const bool teeth = lay_over(*graphs_[i], motion, i, own, QPen(t.accent, 1.8));
        graphs_[i]->setBrush(i > 0 && !teeth ? QBrush(fill) : Qt::NoBrush);
        const Assessment* a = document_.pinned_assessment();
        pinned_[i]->setVisible(i < 3 || jerk);
        // a cycle of another kind, along a line against about an axis, cannot be laid over this one
        if (a && a->motion && motion_of(document_.pinned_axis()->mechanism).rotary == rotary &&
            (i < 3 || std::isfinite(a->motion->peak_jerk)))
            lay_over(*pinned_[i], *a->motion, i, own, QPen(t.over, 1.2, Qt::DashLine));
        else
            pinned_[i]->data()->clear();
        if (i < raw_.size()) {
            QVector<double> rx, ry;
            for (const Phase& f : motion.phases) {
                const auto* trace = std::get_if<Trace>(&document_.axis().cycle.segments[f.segment].what);
                if (!trace || (trace->of == TraceOf::position) != (i == 0)) continue;
                const double shift = i == 0 ? motion.at(f.start).position(0) - trace->samples.at(0, 1) : 0;
                const std::size_t rows = trace->samples.rows();
                for (std::size_t k = 0; k < rows; k += 1 + rows / 3000) {
                    rx.push_back(f.start + trace->samples.at(k, 0));
                    ry.push_back(from_si(trace->samples.at(k, 1) + shift, own));
                }
            }
            raw_[i]->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.tight, 3));
            raw_[i]->setData(rx, ry, true);
        }
        rects_[i]->axis(QCPAxis::atLeft)->rescale();
        QCPRange r = rects_[i]->axis(QCPAxis::atLeft)->range();
        const double pad = std::max(r.size() * 0.09, 1e-9);
        rects_[i]->axis(QCPAxis::atLeft)->setRange(r.lower - pad, r.upper + pad);
        if (i == 3 && !jerk) continue;
        for (std::size_t s = 1; s < motion.phases.size() && motion.phases.size() <= 400; ++s) {
            const double at = motion.phases[s].start;
            borders_.push_back(straight_line(rects_[i], at, 0, at, 1, QPen(t.line, 1)));
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
    show_resonance();
    // while a border is dragged the time axis stands still
    if (any && grip_.of == Grip::Of::nothing && planned->duration != shown_duration_) {
        shown_duration_ = planned->duration;
        rects_[0]->axis(QCPAxis::atBottom)->setRange(0, shown_duration_);
    }
    replot(QCustomPlot::rpQueuedReplot);
}

// Where a stepper swings: its band of speed, and when the cycle is in it.
void CyclePlot::show_resonance() {
    resonance_stays_ = 0;
    if (!document_.has_axis()) return;
    const Axis& axis = document_.axis();
    const Assessment& a = document_.assessment();
    if (!open_loop(axis) || !a.demand || !a.inertia || !a.inertia->load_known || !a.can || !a.can->model) return;
    const SteppingResonance r = stepping_resonance(*a.can->model, a.inertia->load + a.inertia->rotor, &*a.demand);
    const Theme& t = theme();
    QColor pale = t.tight;
    pale.setAlpha(46);
    const auto strip = [&](double left, double right, double low, double high) {
        auto* band = new QCPItemRect(this);
        band->setClipAxisRect(rects_[1]);
        band->setLayer(QStringLiteral("background"));
        for (QCPItemPosition* p : {band->topLeft, band->bottomRight})
            p->setAxes(rects_[1]->axis(QCPAxis::atBottom), rects_[1]->axis(QCPAxis::atLeft));
        band->topLeft->setCoords(left, high);
        band->bottomRight->setCoords(right, low);
        band->setPen(Qt::NoPen);
        band->setBrush(pale);
        borders_.push_back(band);
    };
    const QCPRange speeds = rects_[1]->axis(QCPAxis::atLeft)->range();
    const double end = a.demand->cycle_time;
    resonance_stays_ = static_cast<int>(r.stays.size());
    for (const Stay& s : r.stays) {
        if (r.stays.size() > 400) break; // more would be one area, and take seconds to draw
        strip(s.from, std::min(end, s.from + s.lasts), speeds.lower, speeds.upper);
        if (s.from + s.lasts > end) strip(0, s.from + s.lasts - end, speeds.lower, speeds.upper);
    }
    // the band itself where speed of load and motor go together
    const LoadModel& load = a.demand->load;
    if (load.path != LoadModel::Path::straight || load.radius == 0) return;
    const double scale = std::abs(load.radius / load.ratio);
    const double low = from_si(r.low * scale, unit(1)), high = from_si(r.high * scale, unit(1));
    if (low < speeds.upper) strip(0, end, low, high);
    if (-low > speeds.lower) strip(0, end, -high, -low);
    if (low < speeds.upper)
        borders_.push_back(
            note(rects_[1], end * 0.995, high, r.stays.empty() ? tr("resonance, never in it") : tr("resonance"),
                t.tight, Qt::AlignRight | Qt::AlignBottom));
}

void CyclePlot::reset_view() {
    shown_duration_ = -1;
    refresh();
}

void CyclePlot::mark_segment(int segment) {
    if (std::exchange(marked_, segment) == segment) return;
    if (isVisible()) refresh();
}

int CyclePlot::segment_at(double t) {
    const Trajectory& motion = *planned_now();
    for (const Phase& f : motion.phases)
        if (t >= f.start && t < f.start + f.duration) return static_cast<int>(f.segment);
    return -1;
}

CyclePlot::Grip CyclePlot::grip_at(QPointF place) {
    Grip g;
    QCPAxisRect* rect = axisRectAt(place);
    if (!rect || !planned_now()) return g;
    const Trajectory& motion = *planned_now();
    const QCPAxis* x = rect->axis(QCPAxis::atBottom);
    constexpr double near = 5;
    for (const Phase& f : motion.phases) {
        const double end = f.start + f.duration;
        if (std::abs(x->coordToPixel(end) - place.x()) > near) continue;
        const Segment& s = document_.axis().cycle.segments[f.segment];
        const auto time = own_time(s);
        const auto distance = own_distance(s);
        g.segment = static_cast<int>(f.segment);
        const double position =
            motion.at(end - 1e-9 * f.duration).position(motion.at(end - 1e-9 * f.duration).duration);
        const double y = rects_[0]->axis(QCPAxis::atLeft)->coordToPixel(from_si(position, unit(0)));
        if (rect == rects_[0] && distance && std::abs(y - place.y()) <= 8) {
            g.of = Grip::Of::distance;
            g.start = position;
            g.value = *distance;
            return g;
        }
        if (time) {
            g.of = Grip::Of::time;
            g.start = end;
            g.value = *time;
            return g;
        }
    }
    return g;
}

QPointF CyclePlot::end_of_segment(int segment) {
    const Trajectory& motion = *planned_now();
    for (const Phase& f : motion.phases)
        if (static_cast<int>(f.segment) == segment) {
            const Piece& last = motion.at(f.start + f.duration * (1 - 1e-9));
            return {rects_[0]->axis(QCPAxis::atBottom)->coordToPixel(f.start + f.duration),
                rects_[0]->axis(QCPAxis::atLeft)->coordToPixel(from_si(last.position(last.duration), unit(0)))};
        }
    return {};
}

// The new value is rounded to what can be aimed at, and written in the unit of the field.
void CyclePlot::drag(QPointF place) {
    const QString base = document_.axis_path() + QStringLiteral("/cycle/segments/%1/what/").arg(grip_.segment);
    if (grip_.of == Grip::Of::time) {
        const QCPAxis* x = rects_[0]->axis(QCPAxis::atBottom);
        const double per_pixel = std::abs(x->pixelToCoord(1) - x->pixelToCoord(0));
        const double step = std::pow(10, std::ceil(std::log10(std::max(per_pixel, 1e-9)) - 0.3));
        double t = grip_.value + x->pixelToCoord(place.x()) - grip_.start;
        t = std::max(step, std::round(t / step) * step);
        document_.set_quantity(base + QStringLiteral("duration"), qs(format_number(t, 6)) + QStringLiteral(" s"));
    } else {
        const QCPAxis* y = rects_[0]->axis(QCPAxis::atLeft);
        const Unit& own = unit(0);
        const double per_pixel = std::abs(y->pixelToCoord(1) - y->pixelToCoord(0));
        const double step = std::pow(10, std::ceil(std::log10(std::max(per_pixel, 1e-9)) - 0.3));
        const double moved = y->pixelToCoord(place.y()) - from_si(grip_.start, own);
        const double d = std::round((from_si(grip_.value, own) + moved) / step) * step;
        document_.set_quantity(base + QStringLiteral("distance"),
            qs(format_number(d, 6)) + QLatin1Char(' ') +
                QString::fromUtf8(own.symbol.data(), static_cast<qsizetype>(own.symbol.size())));
    }
}

void CyclePlot::mousePressEvent(QMouseEvent* event) {
    grip_ = event->button() == Qt::LeftButton ? grip_at(event->position()) : Grip{};
    if (grip_.of != Grip::Of::nothing) {
        document_.end_typing();
        emit segment_clicked(grip_.segment);
        return;
    }
    Plot::mousePressEvent(event);
    QCPAxisRect* rect = axisRectAt(event->position());
    if (!rect || !planned_now() || event->button() != Qt::LeftButton) return;
    const int s = segment_at(rect->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x()));
    if (s >= 0) emit segment_clicked(s);
}

void CyclePlot::mouseMoveEvent(QMouseEvent* event) {
    if (grip_.of != Grip::Of::nothing) return drag(event->position());
    Plot::mouseMoveEvent(event);
    const Grip::Of over = event->buttons() ? Grip::Of::nothing : grip_at(event->position()).of;
    setCursor(over == Grip::Of::time       ? Qt::SizeHorCursor
              : over == Grip::Of::distance ? Qt::SizeVerCursor
                                           : Qt::ArrowCursor);
}

void CyclePlot::mouseReleaseEvent(QMouseEvent* event) {
    if (grip_.of != Grip::Of::nothing) {
        grip_ = {};
        document_.end_typing();
        reset_view();
        return;
    }
    Plot::mouseReleaseEvent(event);
}

QString CyclePlot::readout(double x, double, QCPAxisRect*) {
    if (!planned_now()) return {};
    const Trajectory& motion = *planned_now();
    if (x < 0 || x > motion.duration) return {};
    const Piece& p = motion.at(x);
    QString text = QStringLiteral("%1 s, segment %2").arg(qs(format_number(x, 4))).arg(p.segment + 1);
    for (std::size_t i = 0; i < (jerk_shown_ ? count : count - 1); ++i)
        text += QLatin1Char('\n') + qs(format_quantity(value(p, i, x - p.start), unit(i)));
    return text;
}

} // namespace fulmox::app

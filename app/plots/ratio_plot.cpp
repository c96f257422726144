#include "app/plots/ratio_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr double highest_share = 1.6; // what is far over tells no more

// Offers stand in a row of their own, below the curves.
constexpr double offer_height = -0.08;

} // namespace

RatioPlot::RatioPlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("ratio"));
    setAccessibleName(tr("Speed, peak torque and heat of the motor, of what is allowed, over the ratio of the stage"));
    plotLayout()->clear();
    shares_ = add_rect(0, tr("of allowed, %"), false);
    torques_ = add_rect(1, tr("torque"), false);
    plotLayout()->setRowStretchFactor(0, 3);
    plotLayout()->setRowStretchFactor(1, 2);
    const auto graph = [&](QCPAxisRect* rect, const QString& name) {
        QCPGraph* g = addGraph(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atLeft));
        g->setName(name);
        return g;
    };
    for (QCPAxisRect* r : {shares_, torques_}) {
        QCPAxis* x = r->axis(QCPAxis::atBottom);
        x->setScaleType(QCPAxis::stLogarithmic);
        x->setTicker(QSharedPointer<QCPAxisTickerLog>(new QCPAxisTickerLog));
        x->setNumberFormat(QStringLiteral("gb"));
        x->setNumberPrecision(3);
    }
    torques_->axis(QCPAxis::atBottom)->setLabel(tr("ratio of the stage, input speed over output speed"));
    speed_ = graph(shares_, tr("speed"));
    peak_ = graph(shares_, tr("peak torque"));
    heat_ = graph(shares_, tr("heat"));
    peak_torque_ = graph(torques_, tr("peak torque"));
    rms_torque_ = graph(torques_, tr("RMS torque"));
    for (int s = 0; s < 4; ++s) {
        QCPGraph* g = graph(shares_, tr("gearheads on offer"));
        g->setLineStyle(QCPGraph::lsNone);
        marks_.push_back(g);
    }
    // the curves cross: their names stand in a row above them
    names_ = new QCPLegend;
    plotLayout()->insertRow(0);
    plotLayout()->addElement(0, 0, names_);
    plotLayout()->setRowStretchFactor(0, 0.001);
    plotLayout()->setRowStretchFactor(1, 3);
    plotLayout()->setRowStretchFactor(2, 2);
    names_->setLayer(QStringLiteral("legend"));
    names_->setFillOrder(QCPLegend::foColumnsFirst);
    names_->setWrap(0);
    names_->setBorderPen(Qt::NoPen);
    names_->setBrush(Qt::NoBrush);
    names_->setMargins(QMargins(60, 0, 8, 0));
    names_->setMaximumSize(QWIDGETSIZE_MAX, 20);
    for (QCPGraph* g : {speed_, peak_, heat_}) names_->addItem(new QCPPlottableLegendItem(names_, g));
    auto* margins = new QCPMarginGroup(this);
    for (QCPAxisRect* r : {shares_, torques_}) r->setMarginGroup(QCP::msLeft, margins);
}

void RatioPlot::set_stage(std::size_t stage) {
    if (stage == stage_) return;
    stage_ = stage;
    if (isVisible()) refresh();
}

void RatioPlot::offer(std::vector<Offer> offers) {
    offers_ = std::move(offers);
    if (isVisible()) draw_all();
}

void RatioPlot::refresh() {
    if (!document_.has_axis() || (motion_of(document_.axis().mechanism).has & Motion::shaft) == 0) {
        curve_ = {};
        work_.drop();
        draw_all();
        return;
    }
    work_.run(
        this,
        [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()), stage = stage_](
            const StopToken& go_on) {
            const Axis& a = machine->axes[axis];
            const double now = stage < a.stages.size() && a.stages[stage].ratio.given() ? a.stages[stage].ratio.si : 1;
            const double low = std::min(0.5, now / 4), high = std::max(50.0, now * 4);
            return ratio_curve(*machine, axis, stage, low, high, 72, [&] { return go_on(); });
        },
        [this](RatioCurve c) {
            curve_ = std::move(c);
            draw_all();
        });
    if (!work_.running()) return;
    curve_ = {}; // what was said of another state of the axis does not stay
    draw_all();
}

void RatioPlot::draw_all() {
    for (QCPAbstractItem* n : notes_) removeItem(n);
    notes_.clear();
    restyle();
    const Theme& t = theme();
    const UnitSystem units = document_.machine().unit_system;
    const Unit& torque = display_unit(Kind::torque, units);
    QVector<double> x, speed, peak, heat, peak_torque, rms_torque;
    double top = 1.1, most = 0;
    for (const RatioPoint& p : curve_.points) {
        x.push_back(p.ratio);
        const auto share = [&](double v) { return std::isfinite(v) && v <= highest_share ? 100 * v : std::nan(""); };
        speed.push_back(share(p.speed));
        peak.push_back(share(p.peak));
        heat.push_back(share(p.heat));
        peak_torque.push_back(from_si(p.peak_torque, torque));
        rms_torque.push_back(from_si(p.rms_torque, torque));
        for (const double v : {p.speed, p.peak, p.heat})
            if (v <= highest_share) top = std::max(top, v);
    }
    speed_->setData(x, speed, true);
    peak_->setData(x, peak, true);
    heat_->setData(x, heat, true);
    peak_torque_->setData(x, peak_torque, true);
    rms_torque_->setData(x, rms_torque, true);
    const bool any = std::any_of(curve_.points.begin(), curve_.points.end(),
        [](const RatioPoint& p) { return std::isfinite(p.speed) || std::isfinite(p.peak_torque); });
    say_missing(work_.running()         ? tr("being calculated…")
                : !document_.has_axis() ? tr("no axis is selected")
                : any                   ? QString()
                : waiting_for(document_, "demand.peak_torque").isEmpty()
                    ? tr("nothing turns here that a stage could change")
                    : waiting_for(document_, "demand.peak_torque"),
        false, any || work_.running() ? QString() : waiting_path(document_, "demand.peak_torque"));
    if (!any) {
        replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    names_->setFont(type_face(11));
    names_->setTextColor(t.second);
    for (int i = 0; i < names_->itemCount(); ++i) {
        names_->item(i)->setFont(type_face(11));
        names_->item(i)->setTextColor(t.second);
    }
    speed_->setPen(QPen(t.cause[0], 1.6));
    peak_->setPen(QPen(t.cause[3], 1.6, Qt::DashLine));
    heat_->setPen(QPen(t.cause[2], 1.8, Qt::DotLine));
    peak_torque_->setPen(QPen(t.cause[3], 1.6, Qt::DashLine));
    rms_torque_->setPen(QPen(t.cause[2], 1.8, Qt::DotLine));
    const double low = x.front(), high = x.back();
    // torque grows without bound towards small ratios: what is near the present and the best is told apart
    double anchor = std::isfinite(curve_.present) ? curve_.present : curve_.best ? curve_.best->ratio : 1;
    for (qsizetype i = 0; i < x.size(); ++i)
        if (x[i] >= anchor / 4 && std::isfinite(peak_torque[i])) most = std::max(most, peak_torque[i]);
    for (QCPAxisRect* r : {shares_, torques_}) r->axis(QCPAxis::atBottom)->setRange(low, high);
    shares_->axis(QCPAxis::atLeft)->setRange(-16, 100 * top * 1.06);
    torques_->axis(QCPAxis::atLeft)->setLabel(tr("motor, %1").arg(symbol(torque)));
    torques_->axis(QCPAxis::atLeft)->setRange(0, most > 0 ? 1.15 * most : 1);
    notes_.push_back(straight_line(shares_, low, 100, high, 100, QPen(t.second, 1)));
    struct Word {
        double at;
        QString text;
        QColor colour;
    };
    std::vector<Word> words;
    const auto upright = [&](double at, const QString& text, const QColor& colour, Qt::PenStyle style) {
        if (!std::isfinite(at) || at < low || at > high) return;
        for (QCPAxisRect* r : {shares_, torques_})
            notes_.push_back(straight_line(r, at, 0, at, 1, QPen(colour, 1, style)));
        words.push_back({at, text, colour});
    };
    upright(curve_.present, tr(" as it is, %1 ").arg(qs(format_number(curve_.present, 4))), t.accent, Qt::SolidLine);
    upright(curve_.speed_limit, tr(" too fast beyond %1 ").arg(qs(format_number(curve_.speed_limit, 3))), t.over,
        Qt::DashLine);
    if (curve_.best)
        upright(curve_.best->ratio, tr(" lowest motor load: %1 ").arg(qs(format_number(curve_.best->ratio, 3))), t.fits,
            Qt::DashDotLine);
    // Above every line, each hung below the one before it: rows keep clear of each other at any height of the plot.
    const QCPItemText* above = nullptr;
    for (const Word& word : words) {
        QCPItemText* text = note(shares_, word.at, 100 * top * 1.05, word.text, word.colour,
            (word.at > std::sqrt(low * high) ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop);
        if (above) {
            text->position->setTypeY(QCPItemPosition::ptAbsolute);
            text->position->setParentAnchorY(above->bottom);
            text->position->setCoords(word.at, 1);
        }
        above = text;
        notes_.push_back(text);
    }
    // where the torques end, why: a sheet that fits the ratio as it is may contradict another
    for (const bool last : {false, true}) {
        const RatioPoint& end = last ? curve_.points.back() : curve_.points.front();
        if (!std::isfinite(end.peak_torque) && !end.waits.empty())
            notes_.push_back(note(torques_, last ? high : low, 1.15 * (most > 0 ? most : 1),
                tr("torque %1").arg(qs(end.waits.in(units))), t.second,
                (last ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop));
    }
    for (std::size_t place = 0; place < marks_.size(); ++place) {
        // what carries the axis lies on top
        static constexpr std::size_t order[] = {2, 3, 1, 0};
        const std::size_t s = order[place];
        QVector<double> at, height;
        for (const Offer& o : offers_)
            if (static_cast<std::size_t>(o.state) == s) {
                at.push_back(o.ratio);
                height.push_back(100 * offer_height);
            }
        marks_[place]->setData(at, height);
        marks_[place]->setScatterStyle(mark_of(static_cast<LimitState>(s), 7));
    }
    replot(QCustomPlot::rpQueuedReplot);
}

QPointF RatioPlot::place_of(const Offer& o) {
    return {shares_->axis(QCPAxis::atBottom)->coordToPixel(o.ratio),
        shares_->axis(QCPAxis::atLeft)->coordToPixel(100 * offer_height)};
}

int RatioPlot::offer_at(QPointF place) {
    int best = -1;
    double nearest = 7;
    for (std::size_t i = 0; i < offers_.size(); ++i) {
        const QPointF at = place_of(offers_[i]);
        if (std::abs(at.y() - place.y()) > 9) continue;
        const double d = std::abs(at.x() - place.x());
        // of those that stand in one place the first, which is the cheapest that carries the axis
        if (d < nearest - 1e-6) {
            nearest = d;
            best = static_cast<int>(i);
        }
    }
    return best;
}

void RatioPlot::mousePressEvent(QMouseEvent* event) {
    pressed_ = event->position();
    Plot::mousePressEvent(event);
}

void RatioPlot::mouseReleaseEvent(QMouseEvent* event) {
    Plot::mouseReleaseEvent(event);
    if (event->button() != Qt::LeftButton || (event->position() - pressed_).manhattanLength() > 3) return;
    if (const int i = offer_at(event->position()); i >= 0) emit taken(offers_[static_cast<std::size_t>(i)].row);
}

QString RatioPlot::readout(double x, double y, QCPAxisRect* rect) {
    if (rect == shares_) {
        const QPointF at(
            shares_->axis(QCPAxis::atBottom)->coordToPixel(x), shares_->axis(QCPAxis::atLeft)->coordToPixel(y));
        if (const int i = offer_at(at); i >= 0) {
            const Offer& o = offers_[static_cast<std::size_t>(i)];
            return tr("%1, ratio %2: %3; a click takes it")
                .arg(qs(o.name), qs(format_number(o.ratio, 4)), QString::fromUtf8(state_words(o.state)));
        }
    }
    const RatioPoint* nearest = nullptr;
    for (const RatioPoint& p : curve_.points)
        if (!nearest || std::abs(std::log(p.ratio / x)) < std::abs(std::log(nearest->ratio / x))) nearest = &p;
    if (!nearest || !(x > 0)) return {};
    const UnitSystem units = document_.machine().unit_system;
    const auto value = [&](double v, Kind kind) {
        return std::isfinite(v) ? qs(format_quantity(v, kind, units, 3)) : QStringLiteral("–");
    };
    const bool rotary = motion_of(document_.axis().mechanism).rotary;
    return tr("ratio %1: motor %2, %3 peak, %4 RMS; inertia ratio %5; %6 mean power; ± %7 at the load")
        .arg(qs(format_number(nearest->ratio, 3)), value(nearest->motor_speed, Kind::angular_speed),
            value(nearest->peak_torque, Kind::torque), value(nearest->rms_torque, Kind::torque),
            std::isfinite(nearest->inertia_ratio) ? qs(format_number(nearest->inertia_ratio, 3)) : QStringLiteral("–"),
            value(nearest->power, Kind::power), value(nearest->precision, rotary ? Kind::angle : Kind::length));
}

Table RatioPlot::as_table() const {
    std::vector<std::vector<double>> rows;
    for (const RatioPoint& p : curve_.points)
        rows.push_back({p.ratio, p.motor_speed, p.peak_torque, p.rms_torque, p.inertia_ratio, p.speed, p.peak, p.heat,
            p.power, p.precision});
    const bool rotary = document_.has_axis() && motion_of(document_.axis().mechanism).rotary;
    return table(
        {tr("ratio"), tr("motor speed [rad/s]"), tr("peak torque [N·m]"), tr("RMS torque [N·m]"), tr("inertia ratio"),
            tr("speed, of allowed"), tr("peak torque, of allowed"), tr("heat, of allowed"), tr("mean power [W]"),
            rotary ? tr("precision [rad]") : tr("precision [m]")},
        rows);
}

} // namespace fulmox::app

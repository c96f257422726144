#include "app/plots/speed_torque_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/match/stepping.h"
#include "core/model/validate.h"
#include "core/quantity/format.h"

namespace fulmox::app {

namespace {

// Torque in the direction of motion; at rest its amount.
double folded(const ShaftState& e, double direction) {
    return direction == 0 ? std::abs(e.torque) : e.torque * direction;
}

int last_above_zero(const QVector<double>& values) {
    int at = static_cast<int>(values.size()) - 1;
    while (at > 0 && !(values[at] > 0)) --at;
    return at;
}

} // namespace

SpeedTorquePlot::SpeedTorquePlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("speed-torque"));
    setAccessibleName(tr("Speed-torque picture of the motor with the path of the cycle"));
    plotLayout()->clear();
    rect_ = add_rect(0, {}, false);
    rect_->setRangeZoom(Qt::Horizontal | Qt::Vertical);
    rect_->setRangeDrag(Qt::Horizontal | Qt::Vertical);
}

QCPGraph* SpeedTorquePlot::curve(const QPen& pen, const QColor& fill, QCPGraph* to) {
    QCPGraph* g = addGraph(rect_->axis(QCPAxis::atBottom), rect_->axis(QCPAxis::atLeft));
    g->setPen(pen);
    g->setBrush(fill.isValid() ? QBrush(fill) : QBrush(Qt::NoBrush));
    if (to) g->setChannelFillGraph(to);
    return g;
}

void SpeedTorquePlot::refresh() {
    clearPlottables();
    for (QCPAbstractItem* n : notes_) removeItem(n);
    notes_.clear();
    const Theme& t = theme();
    const UnitSystem system = document_.machine().unit_system;
    const bool along = document_.has_axis() && motion_of(document_.axis().mechanism).direct;
    const Unit& speed = along ? display_unit(Kind::speed, system) : *find_unit("rpm");
    const Kind force = along ? Kind::force : Kind::torque;
    const Unit& torque = display_unit(force, system);
    QCPAxis* x = rect_->axis(QCPAxis::atBottom);
    QCPAxis* y = rect_->axis(QCPAxis::atLeft);
    x->setLabel(tr("speed, %1").arg(symbol(speed)));
    y->setLabel((along ? tr("force, %1") : tr("torque, %1")).arg(symbol(torque)));
    double top = 0;
    double bottom = 0;
    double end = 0;
    if (document_.has_axis() && document_.assessment().can) {
        const Assessment& a = document_.assessment();
        const Capability& can = *a.can;
        const int n = 120;
        const bool steps = open_loop(document_.axis());
        QVector<double> sx, peak, low, hot, cold;
        const Policy* policy = find_policy(document_.machine(), document_.axis().policy);
        const double over_share = pull_out_shares(policy ? *policy : Policy{}).over;
        // a curve that goes on far beyond what the motor is rated for would press all that counts to one side
        const double last = std::min(can.peak.end(), 1.12 * can.mechanical_speed);
        for (int i = 0; i <= n; ++i) {
            const double w = last * i / n;
            sx.push_back(from_si(w, speed));
            peak.push_back(from_si(can.peak.at(w), torque));
            low.push_back(-from_si(can.peak_at(w, true), torque));
            // open loop a share of the pull-out torque counts, not its heat
            hot.push_back(from_si(steps ? over_share * can.peak.at(w) : can.continuous_at(w), torque));
            cold.push_back(-hot.back());
        }
        QColor pale = t.accent;
        pale.setAlpha(26);
        QColor deep = t.accent;
        deep.setAlpha(52);
        QCPGraph* bottom_curve = curve(QPen(t.accent, 1.6), {}, nullptr);
        bottom_curve->setData(sx, low, true);
        QCPGraph* peak_curve = curve(QPen(t.accent, 1.6), pale, bottom_curve);
        peak_curve->setData(sx, peak, true);
        peak_curve->setName((steps ? tr("pull-out curve, %1") : tr("peak curve, %1")).arg(symbol(torque)));
        QCPGraph* cold_curve = curve(QPen(t.accent, 1.2, Qt::DashLine), {}, nullptr);
        cold_curve->setData(sx, cold, true);
        QCPGraph* hot_curve = curve(QPen(t.accent, 1.2, Qt::DashLine), deep, cold_curve);
        hot_curve->setData(sx, hot, true);
        hot_curve->setName((steps ? tr("share of the pull-out, %1") : tr("continuous curve, %1")).arg(symbol(torque)));
        top = from_si(can.peak.stall(), torque);
        bottom = -top;
        end = sx.back();
        // what bounds the peak, in the order of speed
        QStringList bounds;
        for (int i = 0; can.peak_by_model && i < n; ++i) {
            const BoundBy by = can.peak_bound(last * i / n, false);
            const QString words = QString::fromUtf8(bound_words(by));
            if (by != BoundBy::unknown && !bounds.contains(words)) bounds << words;
        }
        const QString what = steps ? tr("pull-out") : tr("peak");
        const bool two = can.model && can.model->numbers().contradicts();
        const QString peak_words = bounds.isEmpty() ? what
                                   : steps          ? tr("pull-out by the model: %1").arg(bounds.join(tr(", then ")))
                                   : two ? tr("peak by the tighter constants: %1").arg(bounds.join(tr(", then ")))
                                         : tr("peak, by %1").arg(bounds.join(tr(", then ")));
        notes_.push_back(note(rect_, end * 0.015, top, peak_words, t.accent, Qt::AlignLeft | Qt::AlignBottom));
        // on the side without the worst point, and away from the RMS point
        const bool below = !a.motor || a.motor->worst_peak.torque * a.motor->worst_peak.speed >= 0;
        const bool left = !below && from_si(a.demand->rms_speed, speed) > 0.4 * end;
        const int ends = last_above_zero(hot);
        notes_.push_back(note(rect_, left ? end * 0.015 : sx[ends] - end * 0.015,
            below  ? cold[ends]
            : left ? hot.front()
                   : hot[ends],
            steps ? tr("%1 % of it, over above").arg(qs(format_number(100 * over_share, 3))) : tr("continuous"),
            t.accent, (left ? Qt::AlignLeft : Qt::AlignRight) | (below ? Qt::AlignTop : Qt::AlignBottom)));
        if (can.model && !can.peak_by_model) {
            // the model beside the sheet's own curve
            QVector<double> modelled;
            for (int i = 0; i <= n; ++i)
                modelled.push_back(from_si(can.model->peak(last * i / n, Quadrant::motoring).torque, torque));
            QCPGraph* model = curve(QPen(t.second, 1, Qt::DotLine), {}, nullptr);
            model->setName(tr("peak by the constants, %1").arg(symbol(torque)));
            model->setData(sx, modelled, true);
            // away from the worst point
            const bool slow = a.motor && from_si(std::abs(a.motor->worst_peak.speed), speed) < 0.35 * end;
            const int at = slow ? std::min(n / 2, last_above_zero(modelled)) : 0;
            notes_.push_back(note(rect_, slow ? sx[at] : end * 0.015, modelled[at],
                two ? tr("by its tighter constants, hot") : tr("by its constants, hot"), t.second,
                Qt::AlignLeft | Qt::AlignTop));
        }
        // A, as it was pinned, and the motors that are compared
        const auto beside = [&](const Capability& other, const QPen& pen, const QString& name, double place) {
            QVector<double> ox, oy;
            for (int i = 0; i <= n; ++i) {
                const double w = std::min(other.peak.end(), 1.12 * other.mechanical_speed) * i / n;
                ox.push_back(from_si(w, speed));
                oy.push_back(from_si(other.peak.at(w), torque));
                top = std::max(top, oy.back());
            }
            QCPGraph* g = curve(pen, {}, nullptr);
            g->setName(tr("peak of %1, %2").arg(name, symbol(torque)));
            g->setData(ox, oy, true);
            end = std::max(end, ox.back());
            // each at another place along its curve, so that their names do not lie on one another
            const int at = static_cast<int>(place * n);
            notes_.push_back(note(rect_, ox[at], oy[at], name, pen.color(),
                (place > 0.75 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignBottom));
        };
        if (document_.pinned())
            if (const Assessment* was = document_.pinned_assessment(); was && was->can)
                beside(*was->can, QPen(t.over, 1.2, Qt::DashLine), tr("A"), 0.9);
        constexpr double places[] = {0.04, 0.34, 0.62, 0.95}; // a name is about a quarter wide
        for (std::size_t k = 0; k < others_.size(); ++k)
            if (others_[k])
                beside(others_[k]->can, QPen(compared_colour(static_cast<int>(k)), 1.6), others_[k]->name,
                    places[std::min(k, std::size(places) - 1)]);
        if (can.mechanical_speed < last) {
            const double at = from_si(can.mechanical_speed, speed);
            notes_.push_back(straight_line(rect_, at, 0, at, 1, QPen(t.tight, 1.2, Qt::DashLine)));
        }
    }
    if (document_.has_axis() && document_.assessment().demand) {
        const Assessment& a = document_.assessment();
        const Demand& d = *a.demand;
        auto* path = new QCPCurve(x, y);
        path->setName(tr("path"));
        QVector<double> px, py;
        for (const Span& s : d.spans) {
            if (s.regime == Regime::braked) continue;
            for (int k = 0; k <= 6; ++k) {
                const ShaftState e = evaluate(d.load, s, s.start + s.duration * k / 6);
                px.push_back(from_si(std::abs(e.speed), speed));
                py.push_back(from_si(folded(e, s.direction), torque));
                top = std::max(top, py.back());
                bottom = std::min(bottom, py.back());
            }
        }
        thin(px, py);
        draw_in(*path, QPen(t.ink, 1.8), saw_toothed(py));
        path->setData(px, py);
        end = std::max(end, from_si(d.peak_speed, speed));
        const auto point = [&](double w, double value, LimitState state, const QString& text, double room,
                               Qt::Alignment where) {
            QCPGraph* g = curve(Qt::NoPen, {}, nullptr);
            g->setLineStyle(QCPGraph::lsNone);
            g->setScatterStyle(mark_of(state, 10));
            g->setData(QVector<double>{w}, QVector<double>{value}, true);
            const bool fits = w < end * (1 - room); // to the right of the point
            notes_.push_back(note(rect_, w, value, fits ? QStringLiteral("  ") + text : text + QStringLiteral("  "),
                t.ink, (fits ? Qt::AlignLeft : Qt::AlignRight) | where));
        };
        const Limit* peak = a.limit("peak_torque");
        const Limit* heat = a.limit("continuous_point");
        if (a.motor && peak) {
            const ShaftPoint& w = a.motor->worst_peak;
            point(from_si(std::abs(w.speed), speed),
                from_si(std::abs(w.torque) * (w.torque * w.speed < 0 ? -1 : 1), torque), peak->state,
                tr("worst, %1 at %2 s")
                    .arg(qs(format_quantity(std::abs(w.torque), force, system)), qs(format_number(w.time, 3))),
                0.5, Qt::AlignBottom);
            if (heat)
                point(from_si(d.rms_speed, speed), from_si(d.rms_torque, torque), heat->state,
                    tr("RMS %1").arg(qs(format_quantity(d.rms_torque, force, system))), 0.35, Qt::AlignTop);
        }
    }
    restyle();
    const bool any = document_.has_axis() && document_.assessment().demand;
    const bool curves = document_.has_axis() && document_.assessment().can;
    const char* waits = "demand.peak_torque";
    if (any)
        for (const char* key : {"motor.continuous_stall", "motor.max_speed"})
            if (!waiting_for(document_, key).isEmpty()) waits = key;
    say_missing(waiting_for(document_, waits), curves || any, waiting_path(document_, waits));
    if (end <= 0) end = along ? from_si(1, speed) : 3000;
    if (top <= 0) top = 1;
    const double pad = room_beyond(*rect_, bottom, top);
    x->setRange(0, end * 1.05);
    y->setRange(bottom - pad, top + pad);
    replot(QCustomPlot::rpQueuedReplot);
}

void SpeedTorquePlot::compare(const std::vector<Compared>& others) {
    if (others.empty() && others_.empty()) return; // of a long cycle it takes its time to draw
    others_.clear();
    for (const Compared& c : others) {
        others_.emplace_back();
        // what is compared with itself is drawn once
        if (c.is && c.is->can && !(document_.has_axis() && c.motor == document_.axis().motor))
            others_.back() = Other{qs(c.motor.name), *c.is->can};
    }
    if (isVisible()) refresh();
}

void SpeedTorquePlot::reset_view() { refresh(); }

QString SpeedTorquePlot::readout(double rpm, double, QCPAxisRect*) {
    if (!document_.has_axis() || !document_.assessment().can || rpm < 0) return {};
    const Capability& can = *document_.assessment().can;
    const UnitSystem system = document_.machine().unit_system;
    const bool along = motion_of(document_.axis().mechanism).direct;
    const Kind force = along ? Kind::force : Kind::torque, moves = along ? Kind::speed : Kind::angular_speed;
    const double w = to_si(rpm, along ? display_unit(Kind::speed, system) : *find_unit("rpm"));
    const bool steps = open_loop(document_.axis());
    QString text = (steps ? QStringLiteral("%1\npull-out %2") : QStringLiteral("%1\npeak %2, continuous %3"))
                       .arg(qs(format_quantity(w, moves, system)), qs(format_quantity(can.peak.at(w), force, system)));
    if (!steps) text = text.arg(qs(format_quantity(can.continuous_at(w), force, system)));
    if (!document_.assessment().demand) return text;
    const Demand& d = *document_.assessment().demand;
    // the highest demand of the cycle at about this speed
    double best = -1;
    double when = 0;
    std::size_t segment = 0;
    for (const Span& s : d.spans) {
        for (int k = 0; k <= 20; ++k) {
            const double at = s.start + s.duration * k / 20;
            const ShaftState e = evaluate(d.load, s, at);
            if (std::abs(std::abs(e.speed) - w) > 0.03 * std::max(d.peak_speed, 1e-9) || std::abs(e.torque) <= best)
                continue;
            best = std::abs(e.torque);
            when = at;
            segment = s.piece.segment;
        }
    }
    if (best >= 0)
        text += tr("\ncycle wants %1 at %2 s, segment %3")
                    .arg(qs(format_quantity(best, force, system)), qs(format_number(when, 3)))
                    .arg(segment + 1);
    return text;
}

} // namespace fulmox::app

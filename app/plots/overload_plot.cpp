#include "app/plots/overload_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <cmath>

namespace fulmox::app {

namespace {

constexpr double most = 6; // times the continuous torque

// Share of the permitted rise that the cycle keeps the winding at.
double prior_of(const CycleHeat& h) {
    return (h.heat.mean.winding - h.motor.ambient) / (h.motor.limit - h.motor.ambient);
}

} // namespace

OverloadPlot::OverloadPlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("overload"));
    setAccessibleName(tr("Time until the winding limit over the torque as a multiple of the continuous one"));
    plotLayout()->clear();
    rect_ = add_rect(0, {}, false);
    QCPAxis *x = rect_->axis(QCPAxis::atBottom), *y = rect_->axis(QCPAxis::atLeft);
    x->setLabel(tr("torque or current, times continuous"));
    y->setLabel(tr("time to the limit, s"));
    y->setScaleType(QCPAxis::stLogarithmic);
    y->setTicker(QSharedPointer<QCPAxisTickerLog>(new QCPAxisTickerLog));
    y->setNumberFormat(QStringLiteral("gb"));
    y->setNumberPrecision(1);
    cold_ = addGraph(x, y);
    cold_->setName(tr("from cold, s"));
    warm_ = addGraph(x, y);
    warm_->setName(tr("after this cycle, s"));
}

void OverloadPlot::refresh() {
    for (QCPAbstractItem* n : notes_) removeItem(n);
    notes_.clear();
    restyle();
    const Theme& t = theme();
    const Assessment* a = document_.has_axis() ? &document_.assessment() : nullptr;
    const CycleHeat* h = a && a->heat ? &*a->heat : nullptr;
    cold_->data()->clear();
    warm_->data()->clear();
    QString missing;
    if (!h)
        missing = document_.has_axis() && document_.axis().driven() ? waiting_for(document_, "heat.winding_mean")
                                                                    : tr("no motor selected");
    else if (!h->missing.empty())
        missing = tr("waits for %1").arg(qs(h->missing));
    else if (!h->motor.knows_times())
        missing = tr("waits for a time constant: that of the winding, or of the motor");
    const QString path = document_.has_axis() && !document_.axis().driven()
                             ? document_.axis_path() + QStringLiteral("/motor")
                             : waiting_path(document_, "heat.winding_mean");
    say_missing(missing.isEmpty() && !h ? tr("nothing is known yet") : missing, false, path);
    if (!missing.isEmpty() || !h) {
        replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    const bool upper = !h->motor.knows_winding(); // an upper bound, several times too long
    const double prior = h->heat.settles ? std::min(prior_of(*h), 1.0) : 1;
    QVector<double> x, cold, warm;
    for (int i = 1; i <= 200; ++i) {
        const double r = 1 + (most - 1) * i / 200;
        x.push_back(r);
        cold.push_back(overload_time(h->motor, r, 0));
        warm.push_back(prior < 1 ? overload_time(h->motor, r, prior) : std::nan(""));
    }
    cold_->setData(x, cold, true);
    warm_->setData(x, warm, true);
    cold_->setPen(QPen(t.accent, 1.6, upper ? Qt::DashLine : Qt::SolidLine));
    warm_->setPen(QPen(t.tight, 1.6, upper ? Qt::DashLine : Qt::SolidLine));
    rect_->axis(QCPAxis::atBottom)->setRange(1, most);
    QCPAxis* y = rect_->axis(QCPAxis::atLeft);
    const double low = prior < 1 ? warm.back() : cold.back();
    y->setRange(low / 2, 2 * cold.front());
    const auto word = [&](double at, double value, const QString& text, const QColor& colour, Qt::Alignment where) {
        notes_.push_back(note(rect_, at, value, text, colour, where));
    };
    word(x[60], cold[60], upper ? tr("from cold, at the most") : tr("from cold"), t.accent,
        Qt::AlignLeft | Qt::AlignBottom);
    if (prior < 1)
        word(x[90], warm[90], upper ? tr("after this cycle, at the most") : tr("after this cycle"), t.tight,
            Qt::AlignRight | Qt::AlignTop);
    replot(QCustomPlot::rpQueuedReplot);
}

QString OverloadPlot::readout(double x, double, QCPAxisRect*) {
    const Assessment* a = document_.has_axis() ? &document_.assessment() : nullptr;
    if (!a || !a->heat || !a->heat->missing.empty() || x <= 1) return {};
    const CycleHeat& h = *a->heat;
    const double cold = overload_time(h.motor, x, 0), warm = overload_time(h.motor, x, std::min(1.0, prior_of(h)));
    if (!std::isfinite(cold)) return {};
    return tr("%1 times: %2 s from cold, %3 s after this cycle")
        .arg(qs(format_number(x, 3)), qs(format_number(cold, 3)), qs(format_number(warm, 3)));
}

} // namespace fulmox::app

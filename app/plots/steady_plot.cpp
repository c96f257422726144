#include "app/plots/steady_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr int samples = 80;
constexpr Qt::PenStyle styles[] = {Qt::DotLine, Qt::DashLine, Qt::SolidLine};

} // namespace

SteadyPlot::SteadyPlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("side-by-side"));
    setAccessibleName(tr("Supply current, torque left and winding temperature over speed, motors side by side"));
    plotLayout()->clear();
    for (int i = 0; i < 3; ++i) rects_[static_cast<std::size_t>(i)] = add_rect(0, {}, false, i);
}

void SteadyPlot::compare(const std::vector<Compared>& others) {
    others_ = others;
    if (isVisible()) refresh();
}

std::vector<double> SteadyPlot::loads() const {
    if (!document_.has_axis() || !document_.assessment().demand) return {};
    const double most = std::abs(document_.assessment().demand->peak_running.torque);
    if (!(most > 0)) return {};
    return {0, most / 2, most};
}

void SteadyPlot::gather() {
    shown_.clear();
    if (!document_.has_axis()) return;
    const Axis& axis = document_.axis();
    const Site& site = document_.machine().site;
    const auto add = [&](const Motor& motor, const Assessment* a, const QColor& colour) {
        if (a && a->can) shown_.push_back({qs(motor.name), SteadyMotor(motor, axis.drive, site, *a->can), colour});
    };
    add(axis.motor, &document_.assessment(), theme().accent);
    for (std::size_t i = 0; i < others_.size(); ++i)
        if (!(others_[i].motor == axis.motor))
            add(others_[i].motor, others_[i].is.get(), compared_colour(static_cast<int>(i)));
}

QString SteadyPlot::legend() const {
    QStringList names;
    for (const Shown& s : shown_)
        names << QStringLiteral("<span style=\"color:%1\">━ %2</span>").arg(s.colour.name(), s.name.toHtmlEscaped());
    const auto l = loads();
    if (!shown_.empty() && l.size() == 3) {
        const UnitSystem system = document_.machine().unit_system;
        const Kind kind = document_.axis().motor.linear() ? Kind::force : Kind::torque;
        names << tr("dotted: no load, dashed: %1, full: %2, the cycle's peak; a line ends where it cannot go on or "
                    "would heat without end")
                     .arg(qs(format_quantity(l[1], kind, system, 3)), qs(format_quantity(l[2], kind, system, 3)));
    }
    return names.join(QStringLiteral("&nbsp;&nbsp; "));
}

void SteadyPlot::refresh() {
    clearPlottables();
    gather();
    restyle();
    const auto l = loads();
    say_missing(shown_.empty() ? tr("no motor selected, or its curve is not known")
                : l.empty()    ? tr("waits for the torque of the cycle")
                               : QString());
    if (shown_.empty() || l.empty()) {
        replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    const UnitSystem system = document_.machine().unit_system;
    const bool along = document_.axis().motor.linear();
    const Unit& speed = along ? display_unit(Kind::speed, system) : *find_unit("rpm");
    const Unit& torque = display_unit(along ? Kind::force : Kind::torque, system);
    const QString titles[] = {tr("supply current, A"),
        (along ? tr("force left, %1") : tr("torque left, %1")).arg(qs(std::string(torque.symbol))), tr("winding, °C")};
    double last = 0;
    for (const Shown& s : shown_) last = std::max(last, s.motor.can().max_speed);
    for (std::size_t r = 0; r < rects_.size(); ++r) {
        QCPAxis *x = rects_[r]->axis(QCPAxis::atBottom), *y = rects_[r]->axis(QCPAxis::atLeft);
        x->setLabel(tr("speed, %1").arg(qs(std::string(speed.symbol))));
        y->setLabel(titles[r]);
        double low = 0, high = 0;
        for (const Shown& s : shown_)
            for (std::size_t k = 0; k < l.size(); ++k) {
                QVector<double> sx, sy;
                for (int i = 0; i <= samples; ++i) {
                    const double w = s.motor.can().max_speed * i / samples;
                    const SteadyPoint p = s.motor.at(w, l[k]);
                    const double value = r == 0 ? p.supply_current : r == 1 ? from_si(p.left, torque) : p.winding;
                    sx.push_back(from_si(w, speed));
                    sy.push_back(p.possible ? value : std::nan(""));
                    if (std::isfinite(sy.back())) {
                        low = std::min(low, sy.back());
                        high = std::max(high, sy.back());
                    }
                }
                QCPGraph* g = addGraph(x, y);
                g->setPen(QPen(s.colour, 1.5, styles[k]));
                g->setName(tr("%1, %2 of the load, %3").arg(s.name).arg(static_cast<double>(k) / 2).arg(titles[r]));
                g->setData(sx, sy, true);
            }
        x->setRange(0, from_si(last, speed) * 1.02);
        if (!(high > low)) high = low + 1;
        y->setRange(low - (low < 0 ? 0.05 * (high - low) : 0), high + 0.06 * (high - low));
        rects_[r]->axis(QCPAxis::atBottom)->ticker()->setTickCount(4);
    }
    replot(QCustomPlot::rpQueuedReplot);
}

QString SteadyPlot::readout(double x, double, QCPAxisRect*) {
    const auto l = loads();
    if (shown_.empty() || l.empty() || x < 0) return {};
    const UnitSystem system = document_.machine().unit_system;
    const bool along = document_.axis().motor.linear();
    const double w = to_si(x, along ? display_unit(Kind::speed, system) : *find_unit("rpm"));
    QString text = qs(format_quantity(w, along ? Kind::speed : Kind::angular_speed, system));
    const auto words = [](double v, int digits) { return std::isfinite(v) ? qs(format_number(v, digits)) : tr("?"); };
    for (const Shown& s : shown_) {
        const SteadyPoint p = s.motor.at(w, l.back());
        text += p.possible ? tr("\n%1 at the peak: %2 A, %3 left, %4")
                                 .arg(s.name, words(p.supply_current, 3),
                                     qs(format_quantity(p.left, along ? Kind::force : Kind::torque, system, 3)),
                                     !p.settles ? tr("heats without end")
                                     : p.winding > s.motor.winding_limit()
                                         ? tr("%1 °C, over its limit of %2 °C")
                                               .arg(words(p.winding, 3), words(s.motor.winding_limit(), 3))
                                         : tr("%1 °C").arg(words(p.winding, 3)))
                           : tr("\n%1 at the peak: cannot").arg(s.name);
    }
    return text;
}

} // namespace fulmox::app

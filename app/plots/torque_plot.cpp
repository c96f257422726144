#include "app/plots/torque_plot.h"

#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <utility>

namespace fulmox::app {

namespace {

// Calls f(time in the cycle, state) along the cycle, at so many points after the first of each span that moves. Turns
// that are alike are gone through one by one as long as they are few; of many, instants spread over all of them fill
// the band they make.
template <class F> void along(const Demand& d, int points, F&& f) {
    constexpr double few = 200;
    constexpr int spread = 1200;
    for (std::size_t i = 0; i < d.spans.size();) {
        const Span& s = d.spans[i];
        std::size_t end = i + 1;
        while (s.times > 1 && end < d.spans.size() && d.spans[end].times == s.times &&
               d.spans[end].first_turn == s.first_turn)
            ++end;
        if (s.times > few) {
            for (int k = 0; k <= spread; ++k) {
                // shares of the golden section never fall into step with the turns
                const double off = k == 0 || k == spread ? 0 : std::fmod(k * 0.6180339887498949, 1.0) - 0.5;
                const double t = s.first_turn + s.times * s.turn * (k + off) / spread;
                f(t, d.at(k == spread ? s.first_turn : t));
            }
        } else {
            for (double turn = 0; turn < s.times; ++turn)
                for (std::size_t j = i; j < end; ++j) {
                    const Span& part = d.spans[j];
                    const bool rest = part.regime == Regime::standstill || part.regime == Regime::braked;
                    const int n = rest ? 1 : points;
                    for (int k = 0; k <= n; ++k) {
                        const double at = part.start + part.duration * k / n;
                        f(at + turn * s.turn, evaluate(d.load, part, at));
                    }
                }
        }
        i = end;
    }
}

// The same for the eye: of a long cycle, what lies between the first and the last, the least and the largest torque of
// each of so many stretches is left out.
constexpr std::size_t few_spans = 1500;

template <class F> void along_thinned(const Demand& d, F&& f) {
    constexpr double stretches = 800;
    if (d.spans.size() <= few_spans) return along(d, 8, f);
    std::vector<std::pair<double, ShaftState>> held;
    double stretch = -1;
    const auto give = [&] {
        if (held.empty()) return;
        const auto by_torque = [](const auto& a, const auto& b) { return a.second.torque < b.second.torque; };
        const auto [least, most] = std::minmax_element(held.begin(), held.end(), by_torque);
        std::set<std::size_t> told{0, static_cast<std::size_t>(least - held.begin()),
            static_cast<std::size_t>(most - held.begin()), held.size() - 1};
        for (const std::size_t i : told) f(held[i].first, held[i].second);
        held.clear();
    };
    along(d, d.spans.size() > 4000 ? 1 : 4, [&](double at, const ShaftState& e) {
        if (const double now = std::floor(at / d.cycle_time * stretches); now != stretch) {
            give();
            stretch = now;
        }
        held.emplace_back(at, e);
    });
    give();
}
} // namespace

TorquePlot::TorquePlot(Document& document, QWidget* parent) : Live(document, parent) {
    set_file_stem(QStringLiteral("torque"));
    setAccessibleName(tr("Torque by cause and shaft power over the cycle"));
    plotLayout()->clear();
    torque_rect_ = add_rect(0, {}, false);
    power_rect_ = add_rect(1, {}, true);
    plotLayout()->setRowStretchFactor(0, 2.4);
    auto* margins = new QCPMarginGroup(this);
    torque_rect_->setMarginGroup(QCP::msLeft | QCP::msRight, margins);
    power_rect_->setMarginGroup(QCP::msLeft | QCP::msRight, margins);
    QCPAxis* x = torque_rect_->axis(QCPAxis::atBottom);
    QCPAxis* y = torque_rect_->axis(QCPAxis::atLeft);
    x->setTickLabels(false);
    QCPAxis* x2 = power_rect_->axis(QCPAxis::atBottom);
    connect(x, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), x2, qOverload<const QCPRange&>(&QCPAxis::setRange));
    connect(x2, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), x, qOverload<const QCPRange&>(&QCPAxis::setRange));
    for (std::size_t i = 0; i < above_.size(); ++i) {
        above_[i] = addGraph(x, y);
        below_[i] = addGraph(x, y);
        // stacked sums are for the eye, not for the table
        above_[i]->setName({});
        below_[i]->setName({});
        if (i > 0) {
            above_[i]->setChannelFillGraph(above_[i - 1]);
            below_[i]->setChannelFillGraph(below_[i - 1]);
        }
    }
    total_ = addGraph(x, y);
    total_low_ = addGraph(x, y);
    total_low_->setName({});
    pinned_ = addGraph(x, y);
    pinned_->setName({});
    power_ = addGraph(x2, power_rect_->axis(QCPAxis::atLeft));
}

void TorquePlot::refresh() {
    restyle();
    for (QCPAbstractItem* n : notes_) removeItem(n);
    notes_.clear();
    const Theme& t = theme();
    const UnitSystem system = document_.machine().unit_system;
    const bool direct = document_.has_axis() && motion_of(document_.axis().mechanism).direct;
    const Kind kind = direct ? Kind::force : Kind::torque;
    const Unit& torque = display_unit(kind, system);
    const Unit& power = display_unit(Kind::power, system);
    torque_rect_->axis(QCPAxis::atLeft)->setLabel((direct ? tr("force, %1") : tr("torque, %1")).arg(symbol(torque)));
    power_rect_->axis(QCPAxis::atLeft)->setLabel(tr("power, %1").arg(symbol(power)));
    total_->setName((direct ? tr("force, %1") : tr("torque, %1")).arg(symbol(torque)));
    power_->setName(tr("power, %1").arg(symbol(power)));
    for (std::size_t i = 0; i < above_.size(); ++i)
        for (QCPGraph* g : {above_[i], below_[i]}) {
            QColor c = t.cause[i];
            c.setAlpha(t.dark ? 170 : 190);
            g->setPen(Qt::NoPen);
            g->setBrush(c);
        }
    if (!document_.has_axis() || !document_.assessment().demand) {
        for (int i = 0; i < graphCount(); ++i) graph(i)->data()->clear();
        say_missing(waiting_for(document_, "demand.peak_torque"), false, waiting_path(document_, "demand.peak_torque"));
        replot(QCustomPlot::rpQueuedReplot);
        return;
    }
    say_missing({});
    const Demand& d = *document_.assessment().demand;
    QVector<double> x, all, watts;
    std::array<QVector<double>, cause_count> up, down;
    double top = 0;
    double bottom = 0;
    along_thinned(d, [&](double at, const ShaftState& e) {
        x.push_back(at);
        all.push_back(from_si(e.torque, torque));
        watts.push_back(from_si(e.torque * e.speed, power));
        double high = 0;
        double low = 0;
        for (std::size_t c = 0; c < e.part.size(); ++c) {
            (e.part[c] > 0 ? high : low) += from_si(e.part[c], torque);
            up[c].push_back(high);
            down[c].push_back(low);
        }
        top = std::max({top, high, all.back()});
        bottom = std::min({bottom, low, all.back()});
    });
    // filling saw teeth takes seconds: of each four that stand for a stretch the heap with the highest top is drawn,
    // and the total from its highest to its lowest
    QVector<double> fill_x = x, low_end;
    const bool teeth = saw_toothed(all);
    for (QCPGraph* g : {total_, total_low_}) g->setPen(QPen(t.ink, 1.8));
    draw_in(*power_, QPen(t.accent, 1.6), teeth);
    QColor fill = t.accent;
    fill.setAlpha(40);
    power_->setBrush(teeth ? QBrush(Qt::NoBrush) : QBrush(fill));
    if (teeth && d.spans.size() > few_spans) {
        fill_x.clear();
        const auto first_up = up, first_down = down;
        const QVector<double> together_there = std::exchange(all, {});
        for (std::size_t c = 0; c < up.size(); ++c) up[c].clear(), down[c].clear();
        constexpr qsizetype together = 4;
        for (qsizetype i = 0; i < x.size(); i += together) {
            const auto extreme = [&](const QVector<double>& heap, auto better) {
                qsizetype best = i;
                for (qsizetype k = i; k < std::min(i + together, x.size()); ++k)
                    if (better(heap[k], heap[best])) best = k;
                return best;
            };
            const qsizetype high = extreme(first_up.back(), std::greater<>()),
                            low = extreme(first_down.back(), std::less<>());
            fill_x.push_back(x[i]);
            all.push_back(together_there[extreme(together_there, std::greater<>())]);
            low_end.push_back(together_there[extreme(together_there, std::less<>())]);
            for (std::size_t c = 0; c < up.size(); ++c) {
                up[c].push_back(first_up[c][high]);
                down[c].push_back(first_down[c][low]);
            }
        }
    }
    for (std::size_t c = 0; c < up.size(); ++c) {
        above_[c]->setData(fill_x, up[c], true);
        below_[c]->setData(fill_x, down[c], true);
    }
    total_->setData(fill_x, all, true);
    total_low_->setData(low_end.empty() ? QVector<double>() : fill_x, low_end, true);
    QVector<double> ax, ay;
    if (const Assessment* a = document_.pinned_assessment(); a && a->demand)
        along_thinned(*a->demand, [&](double at, const ShaftState& e) {
            ax.push_back(at);
            ay.push_back(from_si(e.torque, torque));
        });
    pinned_->setData(ax, ay, true);
    draw_in(*pinned_, QPen(t.over, 1.4, Qt::DashLine), saw_toothed(ay));
    power_->setData(x, watts, true);
    const double pad = room_beyond(*torque_rect_, bottom, top);
    torque_rect_->axis(QCPAxis::atLeft)->setRange(bottom - pad, top + pad);
    power_rect_->axis(QCPAxis::atLeft)->rescale();
    QCPRange r = power_rect_->axis(QCPAxis::atLeft)->range();
    power_rect_->axis(QCPAxis::atLeft)->setRange(r.lower - r.size() * 0.1, r.upper + r.size() * 0.1);
    const double peak = from_si(d.peak.torque, torque);
    notes_.push_back(note(torque_rect_, d.peak.time, peak,
        tr("peak %1").arg(qs(format_quantity(d.peak.torque, kind, system))), t.ink,
        (d.peak.time > d.cycle_time / 2 ? Qt::AlignRight : Qt::AlignLeft) |
            (peak > 0 ? Qt::AlignBottom : Qt::AlignTop)));
    const double rms = from_si(d.rms_torque, torque);
    notes_.push_back(straight_line(torque_rect_, 0, rms, 1, rms, QPen(t.second, 1, Qt::DashLine)));
    auto* rms_note = note(torque_rect_, d.cycle_time, rms,
        tr("RMS %1").arg(qs(format_quantity(d.rms_torque, kind, system))), t.ink, Qt::AlignRight | Qt::AlignBottom);
    notes_.push_back(rms_note);
    if (d.cycle_time != shown_duration_) {
        shown_duration_ = d.cycle_time;
        torque_rect_->axis(QCPAxis::atBottom)->setRange(0, shown_duration_);
    }
    replot(QCustomPlot::rpQueuedReplot);
}

Table TorquePlot::as_table() const {
    if (!document_.has_axis() || !document_.assessment().demand) return {};
    const UnitSystem system = document_.machine().unit_system;
    const bool direct = motion_of(document_.axis().mechanism).direct;
    const Unit& torque = display_unit(direct ? Kind::force : Kind::torque, system);
    const Unit& speed = display_unit(direct ? Kind::speed : Kind::angular_speed, system);
    const Unit& power = display_unit(Kind::power, system);
    QStringList heads{tr("time, s")};
    for (int c = 0; c < cause_count; ++c)
        heads << QStringLiteral("%1, %2").arg(
            QString::fromUtf8(cause_label(static_cast<Cause>(c))).toLower(), symbol(torque));
    heads << axis_name(*torque_rect_->axis(QCPAxis::atLeft)) << tr("shaft speed, %1").arg(symbol(speed))
          << axis_name(*power_rect_->axis(QCPAxis::atLeft));
    std::vector<std::vector<double>> rows;
    along(*document_.assessment().demand, 8, [&](double at, const ShaftState& e) {
        std::vector<double> row{at};
        for (const double part : e.part) row.push_back(from_si(part, torque));
        row.insert(row.end(), {from_si(e.torque, torque), from_si(e.speed, speed), from_si(e.torque * e.speed, power)});
        rows.push_back(std::move(row));
    });
    return table(heads, rows);
}

void TorquePlot::reset_view() {
    shown_duration_ = -1;
    refresh();
}

QString TorquePlot::readout(double x, double, QCPAxisRect*) {
    if (!document_.has_axis() || !document_.assessment().demand) return {};
    const Demand& d = *document_.assessment().demand;
    if (x < 0 || x > d.cycle_time) return {};
    const ShaftState e = d.at(x);
    const UnitSystem system = document_.machine().unit_system;
    const bool direct = motion_of(document_.axis().mechanism).direct;
    const Kind kind = direct ? Kind::force : Kind::torque;
    QString text = QStringLiteral("%1 s, %2\n%3, %4")
                       .arg(qs(format_number(x, 4)),
                           qs(format_quantity(e.speed, direct ? Kind::speed : Kind::angular_speed, system)),
                           qs(format_quantity(e.torque, kind, system)),
                           qs(format_quantity(e.torque * e.speed, Kind::power, system)));
    for (std::size_t c = 0; c < e.part.size(); ++c)
        if (e.part[c] != 0)
            text += QStringLiteral("\n%1 %2").arg(
                QString::fromUtf8(cause_label(static_cast<Cause>(c))), qs(format_quantity(e.part[c], kind, system)));
    return text;
}

} // namespace fulmox::app

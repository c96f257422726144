#include "app/results/share_bars.h"

#include "app/theme.h"
#include "core/quantity/format.h"
#include "core/report/axis_report.h"

#include <QPainter>

namespace fulmox::app {

ShareBars::ShareBars(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    missing_ = cover_with_missing(this);
    setAccessibleName(tr("Share of each cause in peak torque and in heat"));
}

void ShareBars::refresh() {
    const bool shown = document_.has_axis() && document_.assessment().demand;
    missing_->say(shown ? QString() : waiting_for(document_, "demand.peak_torque"),
        waiting_path(document_, "demand.peak_torque"));
    update();
}

Table ShareBars::as_table() const {
    if (!document_.has_axis() || !document_.assessment().demand) return {};
    return causes_table(*document_.assessment().demand, document_.machine().unit_system);
}

void ShareBars::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    if (!document_.has_axis() || !document_.assessment().demand) return;
    const Demand& d = *document_.assessment().demand;
    const UnitSystem system = document_.machine().unit_system;
    const Kind kind = motion_of(document_.axis().mechanism).direct ? Kind::force : Kind::torque;
    const int name = 96;
    const int torque_right = name + 82;
    const int heat_left = torque_right + 14;
    p.setFont(type_face(11));
    p.setPen(t.second);
    p.drawText(QRect(name, 0, 82, 16), Qt::AlignRight, tr("at the peak"));
    p.drawText(QRect(heat_left, 0, width() - heat_left, 16), Qt::AlignRight, tr("share of heat"));
    int y = 20;
    double together = 0;
    for (std::size_t c = 0; c < d.rms_share.size(); ++c) {
        const Cause cause = static_cast<Cause>(c);
        p.setPen(Qt::NoPen);
        p.setBrush(t.cause_colour(cause));
        p.drawRoundedRect(QRectF(0, y + 5, 10, 10), 2, 2);
        p.setPen(t.ink);
        p.setFont(type_face(13));
        p.drawText(QRect(16, y, name - 16, 20), Qt::AlignVCenter, QString::fromUtf8(cause_label(cause)));
        p.drawText(QRect(name, y, 82, 20), Qt::AlignVCenter | Qt::AlignRight,
            QString::fromStdString(format_quantity(d.peak.state.part[c], kind, system, 3)));
        const double share = d.rms_share[c];
        together += share;
        const QString percent = QString::fromStdString(format_number(100 * share, 3)) + QStringLiteral(" %");
        const int text = 52;
        const double room = width() - heat_left - text - 6;
        p.setPen(Qt::NoPen);
        p.setBrush(t.rail);
        p.drawRoundedRect(QRectF(heat_left, y + 8, room, 5), 2.5, 2.5);
        p.setBrush(t.cause_colour(cause));
        p.drawRoundedRect(QRectF(heat_left, y + 8, room * std::clamp(std::abs(share), 0.0, 1.0), 5), 2.5, 2.5);
        p.setPen(t.ink);
        p.drawText(QRect(width() - text, y, text, 20), Qt::AlignVCenter | Qt::AlignRight, percent);
        y += 24;
    }
    p.setPen(t.line);
    p.drawLine(0, y + 1, width(), y + 1);
    p.setPen(t.ink);
    p.setFont(type_face(13, Weight::strong));
    p.drawText(QRect(16, y + 4, name, 20), Qt::AlignVCenter, tr("Together"));
    p.drawText(QRect(name, y + 4, 82, 20), Qt::AlignVCenter | Qt::AlignRight,
        QString::fromStdString(format_quantity(d.peak.torque, kind, system, 3)));
    p.drawText(QRect(width() - 120, y + 4, 120, 20), Qt::AlignVCenter | Qt::AlignRight,
        QString::fromStdString(format_number(100 * together, 3)) + QStringLiteral(" %"));
}

} // namespace fulmox::app

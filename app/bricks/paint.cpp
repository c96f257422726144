#include "app/bricks/paint.h"

#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

void draw_state(QPainter& p, const QRectF& box, LimitState state) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QColor c = theme().state(state);
    const QPointF m = box.center();
    const double r = std::min(box.width(), box.height()) / 2;
    switch (state) {
    case LimitState::fits:
        p.setPen(Qt::NoPen);
        p.setBrush(c);
        p.drawEllipse(m, r * 0.85, r * 0.85);
        break;
    case LimitState::tight: {
        p.setPen(Qt::NoPen);
        p.setBrush(c);
        const QPointF points[] = {{m.x(), m.y() - r}, {m.x() + r, m.y()}, {m.x(), m.y() + r}, {m.x() - r, m.y()}};
        p.drawPolygon(points, 4);
        break;
    }
    case LimitState::over: {
        p.setPen(Qt::NoPen);
        p.setBrush(c);
        p.drawRoundedRect(QRectF(m.x() - r * 0.9, m.y() - r * 0.9, r * 1.8, r * 1.8), 1.5, 1.5);
        p.setPen(QPen(theme().panel, 1.5));
        const double d = r * 0.42;
        p.drawLine(QPointF(m.x() - d, m.y() - d), QPointF(m.x() + d, m.y() + d));
        p.drawLine(QPointF(m.x() - d, m.y() + d), QPointF(m.x() + d, m.y() - d));
        break;
    }
    case LimitState::cannot_say:
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c, 1.5, Qt::DotLine));
        p.drawEllipse(m, r * 0.8, r * 0.8);
        break;
    }
    p.restore();
}

void draw_bar(QPainter& p, const QRectF& box, double used, double share, const QColor& colour) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(theme().rail);
    p.drawRoundedRect(box, 2.5, 2.5);
    if (std::isfinite(used) || used > 0) {
        const double part = std::clamp(std::isfinite(used) ? used : 1.0, 0.0, 1.0);
        p.setBrush(colour);
        p.drawRoundedRect(
            QRectF(box.x(), box.y(), std::max(part * box.width(), part > 0 ? 2.0 : 0.0), box.height()), 2.5, 2.5);
    }
    if (share > 0 && share < 1) {
        p.setBrush(theme().ink);
        p.drawRect(QRectF(box.x() + share * box.width() - 0.75, box.y() - 3, 1.5, box.height() + 6));
    }
    p.restore();
}

QVBoxLayout* make_card(QFrame* frame, const QString& heading, QLabel** note) {
    frame->setObjectName(QStringLiteral("card"));
    auto* box = new QVBoxLayout(frame);
    box->setContentsMargins(14, 10, 14, 12);
    box->setSpacing(6);
    auto* line = new QHBoxLayout;
    auto* title = new QLabel(heading);
    title->setFont(type_face(13, Weight::strong));
    title->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed); // room that is left belongs to the contents
    line->addWidget(title);
    line->addStretch(1);
    if (note) {
        *note = new QLabel;
        (*note)->setObjectName(QStringLiteral("second"));
        (*note)->setFont(type_face(12));
        line->addWidget(*note);
    }
    box->addLayout(line);
    return box;
}

} // namespace fulmox::app

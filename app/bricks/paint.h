// Small things drawn by hand: the state signs and the bars.
#pragma once

#include "app/theme.h"

#include <QRectF>

class QPainter;
class QLabel;
class QFrame;
class QVBoxLayout;

namespace fulmox::app {

/// Round fits, diamond tight, crossed square over, open dashed circle cannot say.
void draw_state(QPainter& p, const QRectF& box, LimitState state);

/// 5 px bar of `used` (1 = all that is allowed) with a tick at `share`.
void draw_bar(QPainter& p, const QRectF& box, double used, double share, const QColor& colour);

/// A card with a heading; contents go into the returned layout.
QVBoxLayout* make_card(QFrame* frame, const QString& heading, QLabel** note = nullptr);

} // namespace fulmox::app

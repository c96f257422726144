#include "app/bricks/note_line.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QPainter>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr int margin = 6;

} // namespace

NoteLine::NoteLine(QWidget* parent) : QWidget(parent) {
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void NoteLine::show_note(const QString& field, const QString& message, const QString& path) {
    const QString text = message.isEmpty() ? field : field + QStringLiteral(": ") + message;
    if (path != path_) {
        path_ = path;
        setFocusPolicy(path.isEmpty() ? Qt::NoFocus : Qt::StrongFocus);
        setCursor(path.isEmpty() ? Qt::ArrowCursor : Qt::PointingHandCursor);
    }
    if (text == text_ && link_length_ == field.size()) return;
    text_ = text;
    link_length_ = static_cast<int>(field.size());
    laid_out_for_ = -1;
    heights_.clear();
    setAccessibleName(text_);
    updateGeometry();
    update();
}

void NoteLine::lay_out(int width) const {
    if (width == laid_out_for_) return;
    laid_out_for_ = width;
    layout_.setText(text_);
    layout_.setFont(type_face(12));
    layout_.beginLayout();
    double y = 0;
    for (QTextLine line = layout_.createLine(); line.isValid(); line = layout_.createLine()) {
        line.setLineWidth(std::max(20, width - 2 * margin));
        line.setPosition(QPointF(0, y));
        y += line.height();
    }
    layout_.endLayout();
    height_ = static_cast<int>(std::ceil(y)) + 4;
}

int NoteLine::heightForWidth(int width) const {
    int& known = heights_[width];
    if (known == 0) {
        lay_out(width);
        known = height_;
    }
    return known;
}

void NoteLine::paintEvent(QPaintEvent*) {
    lay_out(width());
    QPainter p(this);
    const Theme& t = theme();
    p.setPen(t.ink);
    QTextLayout::FormatRange link;
    link.start = 0;
    link.length = link_length_;
    link.format.setForeground(t.accent);
    layout_.draw(&p, QPointF(margin, 2), {link});
    if (!hasFocus()) return;
    p.setPen(QPen(t.accent, 1.5));
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 4, 4);
}

void NoteLine::mousePressEvent(QMouseEvent*) { emit activated(path_); }

void NoteLine::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        emit activated(path_);
    else
        QWidget::keyPressEvent(event);
}

} // namespace fulmox::app

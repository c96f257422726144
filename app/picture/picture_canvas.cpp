#include "app/picture/picture_canvas.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr double reach = 8;         // pixels of the screen within which a mark is meant
constexpr double least_drag = 4;    // less is a click
constexpr int magnified = 9;        // times
constexpr int magnifier_side = 153; // pixels of the screen, an odd number of magnified ones
constexpr double deepest_zoom = 32;

// Readable on white paper and on a dark scan alike.
void stroke(QPainter& p, const QColor& colour, double width, const auto& draw) {
    p.setPen(QPen(QColor(255, 255, 255, 200), width + 2));
    draw();
    p.setPen(QPen(colour, width));
    draw();
}

} // namespace

PictureCanvas::PictureCanvas(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAttribute(Qt::WA_OpaquePaintEvent);
    setAccessibleName(tr("Picture of the curves"));
    setAccessibleDescription(tr(
        "Arrows move the cross by a pixel, with Control by ten, with Shift by a tenth; Enter sets the mark or point, "
        "Page Up and Page Down go from mark to mark, Delete takes one away, plus, minus and 0 zoom."));
}

void PictureCanvas::show_picture(const QImage& full, const QImage& reduced) {
    full_ = full;
    reduced_ = reduced;
    chosen_ = -1;
    press_.reset();
    cursor_ = QPointF(full.width() / 2.0, full.height() / 2.0);
    cursor_shown_ = false;
    fit();
}

void PictureCanvas::say(const QString& words) {
    words_ = words;
    update();
}

void PictureCanvas::set_marks(std::vector<Mark> marks, int curve) {
    const std::optional<Mark> before = chosen_ >= 0 && chosen_ < static_cast<int>(marks_.size())
                                           ? std::optional(marks_[static_cast<std::size_t>(chosen_)])
                                           : std::nullopt;
    marks_ = std::move(marks);
    curve_ = curve;
    chosen_ = -1;
    if (before) choose(before->curve, before->index);
    update();
}

void PictureCanvas::set_lines(std::vector<QPolygonF> lines) {
    lines_ = std::move(lines);
    update();
}

void PictureCanvas::choose(int curve, int index) {
    chosen_ = -1;
    for (std::size_t i = 0; i < marks_.size(); ++i)
        if (marks_[i].curve == curve && marks_[i].index == index) chosen_ = static_cast<int>(i);
}

void PictureCanvas::select(int curve, int index) {
    choose(curve, index);
    if (chosen_ >= 0) move_cursor(marks_[static_cast<std::size_t>(chosen_)].at);
    update();
}

void PictureCanvas::set_aim(std::optional<Aim> aim) {
    aim_ = aim;
    setCursor(aim && has_picture() ? Qt::CrossCursor : Qt::OpenHandCursor);
}

QPointF PictureCanvas::to_picture(QPointF w) const { return origin_ + w / scale_; }
QPointF PictureCanvas::to_widget(QPointF p) const { return (p - origin_) * scale_; }

void PictureCanvas::fit() {
    fitted_ = true;
    if (has_picture()) {
        scale_ = std::min(
            {width() / static_cast<double>(full_.width()), height() / static_cast<double>(full_.height()), 4.0});
        scale_ = std::max(scale_, 1e-3);
        origin_ = QPointF(full_.width() - width() / scale_, full_.height() - height() / scale_) / 2;
    }
    update();
}

void PictureCanvas::zoom(double factor) {
    zoom_at(factor, cursor_shown_ ? to_widget(cursor_) : QPointF(width() / 2.0, height() / 2.0));
}

void PictureCanvas::zoom_at(double factor, QPointF at) {
    if (!has_picture()) return;
    const QPointF stays = to_picture(at);
    const double whole =
        std::min(width() / static_cast<double>(full_.width()), height() / static_cast<double>(full_.height()));
    scale_ = std::clamp(scale_ * factor, std::min(whole, 1.0) / 2, deepest_zoom);
    origin_ = stays - at / scale_;
    fitted_ = false;
    update();
}

int PictureCanvas::hit(QPointF w) const {
    int nearest = -1;
    double best = reach;
    for (std::size_t i = 0; i < marks_.size(); ++i) {
        if (marks_[i].curve >= 0 && marks_[i].curve != curve_) continue;
        const QPointF d = to_widget(marks_[i].at) - w;
        if (const double far = std::hypot(d.x(), d.y()); far < best) {
            best = far;
            nearest = static_cast<int>(i);
        }
    }
    return nearest;
}

void PictureCanvas::move_cursor(QPointF at) {
    cursor_ = QPointF(std::clamp(at.x(), 0.0, static_cast<double>(full_.width())),
        std::clamp(at.y(), 0.0, static_cast<double>(full_.height())));
    cursor_shown_ = true;
    emit cursor_moved(cursor_);
    update();
}

void PictureCanvas::bring_into_view(QPointF at) {
    const QPointF w = to_widget(at);
    constexpr double edge = 24;
    if (w.x() < edge || w.x() > width() - edge) origin_.rx() = at.x() - width() / scale_ / 2;
    if (w.y() < edge || w.y() > height() - edge) origin_.ry() = at.y() - height() / scale_ / 2;
}

void PictureCanvas::mousePressEvent(QMouseEvent* e) {
    if (!has_picture() || (e->button() != Qt::LeftButton && e->button() != Qt::MiddleButton)) return;
    const int mark = e->button() == Qt::LeftButton ? hit(e->position()) : -1;
    press_ = Press{e->position(), origin_, mark, e->button() == Qt::MiddleButton};
    if (mark >= 0) {
        chosen_ = mark;
        dragged_to_ = marks_[static_cast<std::size_t>(mark)].at;
        emit selected(marks_[static_cast<std::size_t>(mark)].curve, marks_[static_cast<std::size_t>(mark)].index);
    }
    update();
}

void PictureCanvas::mouseMoveEvent(QMouseEvent* e) {
    if (!has_picture()) return;
    if (press_) {
        const QPointF d = e->position() - press_->at;
        if (std::hypot(d.x(), d.y()) >= least_drag) press_->dragged = true;
        if (press_->dragged && press_->mark >= 0) {
            dragged_to_ = marks_[static_cast<std::size_t>(press_->mark)].at + d / scale_;
        } else if (press_->dragged) {
            origin_ = press_->origin - d / scale_;
            fitted_ = false;
        }
    }
    move_cursor(press_ && press_->mark >= 0 && press_->dragged ? dragged_to_ : to_picture(e->position()));
}

void PictureCanvas::mouseReleaseEvent(QMouseEvent* e) {
    if (!press_) return;
    const Press was = *press_;
    press_.reset();
    const Mark* mark = was.mark >= 0 && was.mark < static_cast<int>(marks_.size())
                           ? &marks_[static_cast<std::size_t>(was.mark)]
                           : nullptr;
    if (was.dragged) {
        if (mark) emit moved(mark->curve, mark->index, dragged_to_, false);
    } else if (aim_ && !(mark && mark->curve == aim_->curve && (mark->curve >= 0 || mark->index == aim_->index))) {
        const QPointF at = to_picture(e->position());
        if (at.x() >= 0 && at.y() >= 0 && at.x() <= full_.width() && at.y() <= full_.height()) emit placed(at, false);
    }
    update();
}

// a wheel that passes over it scrolls the page; only one that was gone to zooms
void PictureCanvas::wheelEvent(QWheelEvent* e) {
    if (!has_picture() || (!hasFocus() && !(e->modifiers() & Qt::ControlModifier))) return e->ignore();
    zoom_at(std::pow(1.2, e->angleDelta().y() / 120.0), e->position());
    e->accept();
}

void PictureCanvas::step_to_mark(int by) {
    std::vector<int> own;
    for (std::size_t i = 0; i < marks_.size(); ++i)
        if (marks_[i].curve < 0 || marks_[i].curve == curve_) own.push_back(static_cast<int>(i));
    if (own.empty()) return;
    const auto at = std::find(own.begin(), own.end(), chosen_);
    const int n = static_cast<int>(own.size());
    const int now = at == own.end() ? (by > 0 ? -1 : 0) : static_cast<int>(at - own.begin());
    chosen_ = own[static_cast<std::size_t>((now + by + n) % n)];
    const Mark& m = marks_[static_cast<std::size_t>(chosen_)];
    bring_into_view(m.at);
    move_cursor(m.at);
    emit selected(m.curve, m.index);
}

void PictureCanvas::keyPressEvent(QKeyEvent* e) {
    if (!has_picture()) return QWidget::keyPressEvent(e);
    const double step = e->modifiers() & Qt::ShiftModifier ? 0.1 : e->modifiers() & Qt::ControlModifier ? 10 : 1;
    const auto go = [&](double dx, double dy) {
        const QPointF d(dx * step, dy * step);
        if (chosen_ >= 0) {
            const Mark m = marks_[static_cast<std::size_t>(chosen_)];
            bring_into_view(m.at + d);
            move_cursor(m.at + d);
            emit moved(m.curve, m.index, cursor_, true);
        } else {
            bring_into_view(cursor_ + d);
            move_cursor(cursor_ + d);
        }
    };
    switch (e->key()) {
    case Qt::Key_Left:
        return go(-1, 0);
    case Qt::Key_Right:
        return go(1, 0);
    case Qt::Key_Up:
        return go(0, -1);
    case Qt::Key_Down:
        return go(0, 1);
    case Qt::Key_PageDown:
        return step_to_mark(1);
    case Qt::Key_PageUp:
        return step_to_mark(-1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        cursor_shown_ = true;
        if (aim_) emit placed(cursor_, true);
        return;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (chosen_ >= 0) {
            const Mark m = marks_[static_cast<std::size_t>(chosen_)];
            emit removed(m.curve, m.index);
        }
        return;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoom(1.5);
    case Qt::Key_Minus:
        return zoom(1 / 1.5);
    case Qt::Key_0:
        return fit();
    case Qt::Key_Escape:
        if (press_ || chosen_ >= 0) {
            press_.reset();
            chosen_ = -1;
            emit selected(-1, -1);
            return update();
        }
        break;
    default:
        break;
    }
    QWidget::keyPressEvent(e);
}

void PictureCanvas::resizeEvent(QResizeEvent* e) {
    if (fitted_) fit();
    QWidget::resizeEvent(e);
}

void PictureCanvas::leaveEvent(QEvent* e) {
    cursor_shown_ = hasFocus();
    update();
    QWidget::leaveEvent(e);
}

void PictureCanvas::focusInEvent(QFocusEvent* e) {
    if (e->reason() == Qt::TabFocusReason || e->reason() == Qt::BacktabFocusReason) cursor_shown_ = true;
    QWidget::focusInEvent(e);
    update();
}

void PictureCanvas::focusOutEvent(QFocusEvent* e) {
    cursor_shown_ = false;
    QWidget::focusOutEvent(e);
    update();
}

void PictureCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Theme& t = theme();
    p.fillRect(rect(), t.rail);
    if (!has_picture()) {
        p.setPen(t.second);
        p.setFont(type_face(13));
        p.drawText(rect().adjusted(24, 24, -24, -24), Qt::AlignCenter | Qt::TextWordWrap, words_);
    } else {
        // only the part that is seen, from the reduced picture while its pixels are finer than those of the screen
        const double coarse = reduced_.isNull() ? 1 : reduced_.width() / static_cast<double>(full_.width());
        const bool use_reduced = !reduced_.isNull() && scale_ <= coarse;
        const QImage& image = use_reduced ? reduced_ : full_;
        const double to_image = use_reduced ? coarse : 1;
        QRectF seen = QRectF(to_picture({0, 0}), to_picture(QPointF(width(), height())))
                          .intersected(QRectF(0, 0, full_.width(), full_.height()));
        // whole pixels, so that none is drawn beside its place
        const QRectF source = QRectF(QRect(QPoint(static_cast<int>(std::floor(seen.left() * to_image)),
                                               static_cast<int>(std::floor(seen.top() * to_image))),
            QPoint(static_cast<int>(std::ceil(seen.right() * to_image)) - 1,
                static_cast<int>(std::ceil(seen.bottom() * to_image)) - 1)));
        seen = QRectF(source.topLeft() / to_image, source.size() / to_image);
        p.setRenderHint(QPainter::SmoothPixmapTransform, scale_ < 1);
        p.drawImage(QRectF(to_widget(seen.topLeft()), seen.size() * scale_), image, source);

        p.setRenderHint(QPainter::Antialiasing);
        for (const QPolygonF& line : lines_) {
            QPolygonF w;
            for (const QPointF& at : line) w << to_widget(at);
            QPen pen(QColor(255, 255, 255, 200), 3.5);
            p.setPen(pen);
            p.drawPolyline(w);
            p.setPen(QPen(t.tight, 1.5, Qt::DashLine));
            p.drawPolyline(w);
        }
        QPolygonF through;
        p.setFont(type_face(12, Weight::medium));
        const auto place = [&](std::size_t i) {
            const bool moving = press_ && press_->dragged && press_->mark == static_cast<int>(i);
            return to_widget(moving ? dragged_to_ : marks_[i].at);
        };
        std::vector<QRectF> taken; // by words
        for (std::size_t i = 0; i < marks_.size(); ++i) {
            const Mark& m = marks_[i];
            const QPointF w = place(i);
            const bool own = m.curve < 0 || m.curve == curve_;
            const QColor colour = m.curve < 0 ? t.over : own ? t.accent : t.third;
            if (m.curve < 0) {
                // a long stroke along the grid line of its value, a short one along the axis
                const bool upright = m.on_speed;
                stroke(p, colour, 1.4, [&] {
                    p.drawLine(w - QPointF(upright ? 5 : 14, 0), w + QPointF(upright ? 5 : 14, 0));
                    p.drawLine(w - QPointF(0, upright ? 14 : 5), w + QPointF(0, upright ? 14 : 5));
                });
            } else {
                stroke(p, colour, 1.4, [&] {
                    p.setBrush(Qt::NoBrush);
                    p.drawEllipse(w, 4, 4);
                    p.drawPoint(w);
                });
            }
            if (static_cast<int>(i) == chosen_)
                stroke(p, colour, 1.4, [&] {
                    p.setBrush(Qt::NoBrush);
                    p.drawEllipse(w, 9, 9);
                });
            if (!m.words.isEmpty()) {
                const QFontMetricsF f(p.font());
                QRectF box(w + QPointF(10, -10 - f.height()), QSizeF(f.horizontalAdvance(m.words) + 8, f.height() + 2));
                if (box.right() > width()) box.moveRight(w.x() - 10);
                if (box.top() < 0) box.moveTop(w.y() + 10);
                for (const QRectF& other : taken)
                    if (box.intersects(other)) box.moveTop(other.bottom() + 1);
                taken.push_back(box);
                p.setPen(Qt::NoPen);
                p.setBrush(QColor(255, 255, 255, 225));
                p.drawRoundedRect(box, 3, 3);
                p.setPen(QColor(0x1c, 0x1e, 0x21));
                p.drawText(box, Qt::AlignCenter, m.words);
            }
        }
        if (cursor_shown_ && hasFocus()) {
            const QPointF w = to_widget(cursor_);
            p.setRenderHint(QPainter::Antialiasing, false);
            p.setPen(QPen(t.accent, 1, Qt::DotLine));
            p.drawLine(QPointF(0, w.y()), QPointF(width(), w.y()));
            p.drawLine(QPointF(w.x(), 0), QPointF(w.x(), height()));
        }
        if (cursor_shown_ || underMouse()) draw_magnifier(p);
    }
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(hasFocus() ? t.accent : t.line, hasFocus() ? 2 : 1));
    p.drawRect(rect().adjusted(hasFocus() ? 1 : 0, hasFocus() ? 1 : 0, -1, -1));
}

// The pixels about the cursor in the corner that is farthest from it.
void PictureCanvas::draw_magnifier(QPainter& p) const {
    if (width() < 2 * magnifier_side || height() < 1.5 * magnifier_side || scale_ >= magnified) return;
    const QPointF w = to_widget(cursor_);
    constexpr double gap = 10;
    const QRectF box(w.x() < width() / 2.0 ? width() - magnifier_side - gap : gap, gap, magnifier_side, magnifier_side);
    constexpr int across = magnifier_side / magnified;
    const QPoint first(
        static_cast<int>(std::floor(cursor_.x())) - across / 2, static_cast<int>(std::floor(cursor_.y())) - across / 2);
    p.save();
    p.setClipRect(box);
    p.fillRect(box, theme().rail);
    p.setRenderHint(QPainter::SmoothPixmapTransform, false);
    p.drawImage(box, full_, QRectF(first, QSizeF(across, across)));
    // where the cursor is within its pixel
    const QPointF at = box.topLeft() + (cursor_ - QPointF(first)) * magnified;
    p.setRenderHint(QPainter::Antialiasing);
    stroke(p, theme().accent, 1, [&] {
        p.drawLine(QPointF(box.left(), at.y()), QPointF(box.right(), at.y()));
        p.drawLine(QPointF(at.x(), box.top()), QPointF(at.x(), box.bottom()));
    });
    p.setClipping(false);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().line, 1));
    p.drawRect(box);
    p.restore();
}

} // namespace fulmox::app

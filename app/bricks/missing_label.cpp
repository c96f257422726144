#include "app/bricks/missing_label.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace fulmox::app {

void ask_to_go(QWidget* from, const QString& path) {
    if (!path.isEmpty()) QMetaObject::invokeMethod(from->window(), "go_to", Q_ARG(QString, path));
}

MissingLabel::MissingLabel(QWidget* parent) : QLabel(parent) {
    setTextFormat(Qt::PlainText);
    setWordWrap(true);
    hide();
}

void MissingLabel::say(const QString& text, const QString& path) {
    path_ = path;
    if (text != this->text()) setText(text);
    const bool leads = !path.isEmpty();
    setFocusPolicy(leads ? Qt::StrongFocus : Qt::NoFocus);
    setCursor(leads ? Qt::PointingHandCursor : Qt::ArrowCursor);
    setToolTip(leads ? tr("Goes to the first of these") : QString());
    // another colour, as links have it; a style of its own only where it is one
    const QString style = leads && text_colour_ ? QStringLiteral("color:%1").arg(theme().accent.name()) : QString();
    if (text_colour_ && styleSheet() != style) setStyleSheet(style);
    if (covers_) fill_width();
    setVisible(!text.isEmpty());
}

MissingLabel* cover_with_missing(QWidget* picture) {
    // no layout: with one the picture would be as high as the words
    auto* label = new MissingLabel(picture);
    label->setObjectName(QStringLiteral("second"));
    label->covers_ = true;
    picture->installEventFilter(label);
    return label;
}

bool MissingLabel::eventFilter(QObject* watched, QEvent* event) {
    if (watched == parent() && event->type() == QEvent::Resize) fill_width();
    return QLabel::eventFilter(watched, event);
}

void MissingLabel::fill_width() {
    const int wide = parentWidget()->width();
    setGeometry(0, 0, wide, std::min(parentWidget()->height(), heightForWidth(wide)));
}

void MissingLabel::paintEvent(QPaintEvent* event) {
    QLabel::paintEvent(event);
    if (!hasFocus()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(theme().accent, 1.5));
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 4, 4);
}

void MissingLabel::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && rect().contains(event->position().toPoint())) ask_to_go(this, path_);
    QLabel::mouseReleaseEvent(event);
}

void MissingLabel::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        ask_to_go(this, path_);
    else
        QLabel::keyPressEvent(event);
}

} // namespace fulmox::app

#include "app/bricks/missing_label.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>

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
    setVisible(!text.isEmpty());
}

MissingLabel* cover_with_missing(QWidget* picture) {
    auto* box = new QVBoxLayout(picture);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSizeConstraint(QLayout::SetNoConstraint); // the picture says how large it is
    auto* label = new MissingLabel;
    label->setObjectName(QStringLiteral("second"));
    box->addWidget(label, 0, Qt::AlignTop);
    return label;
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

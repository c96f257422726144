#pragma once
// A drop-down list that makes its pop-up when it is first opened: QComboBox makes it on every change of style,
// which costs a start with many fields several milliseconds.

#include "app/theme.h"

#include <QComboBox>
#include <QEvent>
#include <QPainter>

namespace fulmox::app {

class Choice : public QComboBox {
  public:
    void showPopup() override {
        opened_ = true;
        QComboBox::showPopup();
    }

  protected:
    // the arrow is two strokes; as a picture of the style sheet it would be decoded for every list of a start
    void paintEvent(QPaintEvent* event) override {
        QComboBox::paintEvent(event);
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(isEnabled() ? theme().second : theme().third, 1.3));
        const QPointF m(width() - 12.0, height() / 2.0 + 1);
        p.drawPolyline(QPolygonF{m + QPointF(-3.5, -2), m + QPointF(0, 1.5), m + QPointF(3.5, -2)});
    }
    void changeEvent(QEvent* event) override {
        if (event->type() != QEvent::StyleChange || opened_) return QComboBox::changeEvent(event);
        updateGeometry();
        QWidget::changeEvent(event);
    }

  private:
    bool opened_ = false;
};

} // namespace fulmox::app

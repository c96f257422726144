#pragma once
// A drop-down list that makes its pop-up when it is first opened: QComboBox makes it on every change of style,
// which costs a start with many fields several milliseconds.

#include "app/theme.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QEvent>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>

namespace fulmox::app {

class Choice : public QComboBox {
  public:
    explicit Choice(QWidget* parent = nullptr) : QComboBox(parent) { setFocusPolicy(Qt::StrongFocus); }

    void showPopup() override {
        opened_ = true;
        // entries may be longer than the field is wide
        view()->setMinimumWidth(std::max(width(), view()->sizeHintForColumn(0) + 24));
        QComboBox::showPopup();
    }

  protected:
    // a wheel that passes over it scrolls the page; only a list one has gone to turns with it
    void wheelEvent(QWheelEvent* event) override {
        if (hasFocus())
            QComboBox::wheelEvent(event);
        else
            event->ignore();
    }
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

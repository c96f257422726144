#pragma once
// A drop-down list that makes its pop-up when it is first opened: QComboBox makes it on every change of style,
// which costs a start with many fields several milliseconds.

#include <QComboBox>
#include <QEvent>

namespace fulmox::app {

class Choice : public QComboBox {
  public:
    void showPopup() override {
        opened_ = true;
        QComboBox::showPopup();
    }

  protected:
    void changeEvent(QEvent* event) override {
        if (event->type() != QEvent::StyleChange || opened_) return QComboBox::changeEvent(event);
        updateGeometry();
        QWidget::changeEvent(event);
    }

  private:
    bool opened_ = false;
};

} // namespace fulmox::app

// The axis' motor beside up to four others, in numbers.
#pragma once

#include "app/document.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace fulmox::app {

class MotorTable;

class CompareView : public QWidget {
    Q_OBJECT

  public:
    CompareView(Document& document, MotorTable& motors, QWidget* parent = nullptr);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void refresh();

    Document& document_;
    MotorTable& motors_;
    QTableWidget* table_;
    QLabel* hint_;
};

} // namespace fulmox::app

// The axis' motor beside up to four others, in numbers and over speed.
#pragma once

#include "app/document.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTableWidget;

namespace fulmox::app {

class MotorTable;
class SteadyPlot;

class CompareView : public QWidget {
    Q_OBJECT

  public:
    CompareView(Document& document, MotorTable& motors, QWidget* parent = nullptr);

    /// Curves side by side are to be seen whole.
    void over_speed(bool on);
    bool wants_room() const { return over_speed_; }

  signals:
    void room_changed();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void refresh();

    Document& document_;
    MotorTable& motors_;
    void beside_other_kind();

    bool over_speed_ = false;
    QTableWidget* table_;
    SteadyPlot* plot_;
    QLabel* legend_;
    QPushButton *numbers_, *speeds_, *other_;
    QLabel* hint_;
};

} // namespace fulmox::app

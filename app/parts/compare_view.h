// The axis' motor beside up to four others, in numbers and over speed.
#pragma once

#include "app/live.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTableWidget;

namespace fulmox::app {

class MotorTable;
class SteadyPlot;

class CompareView : public LiveWidget {
    Q_OBJECT

  public:
    CompareView(Document& document, MotorTable& motors, QWidget* parent = nullptr);

    /// Curves side by side are to be seen whole.
    void over_speed(bool on);
    bool wants_room() const { return over_speed_; }

    void refresh() override;

  signals:
    void room_changed();

  private:
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

// Windings of the motor's frame: which fits this bus and this drive?
#pragma once

#include "app/live.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTableWidget;

namespace fulmox::app {

class WindingsView : public LiveWidget {
    Q_OBJECT

  public:
    explicit WindingsView(Document& document, QWidget* parent = nullptr);
    /// The axis' motor with the turns of the chosen row, as one of the user's own.
    void take();
    void refresh_connections();

  private:
    void refresh() override;

    QTableWidget* table_;
    QLabel* words_;
    QPushButton* take_;
    bool connecting_ = false; ///< a stepper: its connections, not its turns
};

} // namespace fulmox::app

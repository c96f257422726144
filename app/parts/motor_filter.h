// What a user asks of the catalogue: one line of small fields over the table.
#pragma once

#include "core/match/candidates.h"

#include <QWidget>
#include <vector>

class QComboBox;
class QLineEdit;

namespace fulmox::app {

class FilterBar : public QWidget {
    Q_OBJECT

  public:
    explicit FilterBar(QWidget* parent = nullptr);
    /// What the lists offer: the series, frames and voltages of these.
    void offer(const std::vector<const Motor*>& motors);
    const MotorFilter& filter() const { return filter_; }
    void clear();

  signals:
    void changed();
    void left(); ///< by Enter: what was filtered is looked at

  private:
    QLineEdit* words_;
    QComboBox *kind_, *series_, *frame_, *brake_, *volts_;
    QLineEdit *price_, *mass_;
    MotorFilter filter_;

    void read();
    QComboBox* list(const QString& any, const QString& accessible, int width);
    QLineEdit* most(const QString& what, const QString& accessible);
};

} // namespace fulmox::app

// Torque at the motor shaft over the cycle, stacked by cause.
#pragma once

#include "app/live.h"
#include "app/plots/plot.h"

#include <array>

namespace fulmox::app {

class TorquePlot : public Live<Plot> {
    Q_OBJECT

  public:
    explicit TorquePlot(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    /// Time, the causes, their sum, shaft speed and power.
    Table as_table() const override;

  protected:
    void reset_view() override;
    void draw_again() override { refresh(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;

  private:
    QCPAxisRect* torque_rect_;
    QCPAxisRect* power_rect_;
    std::array<QCPGraph*, cause_count> above_{};
    std::array<QCPGraph*, cause_count> below_{};
    QCPGraph* total_;
    QCPGraph* total_low_; ///< of saw teeth, whose lower points are a line of their own
    QCPGraph* pinned_;    ///< the torque of A
    QCPGraph* power_;
    QList<QCPAbstractItem*> notes_;
    double shown_duration_ = -1;
};

} // namespace fulmox::app

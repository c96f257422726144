// How long the motor may exceed its continuous torque.
#pragma once

#include "app/live.h"
#include "app/plots/plot.h"

namespace fulmox::app {

class OverloadPlot : public Live<Plot> {
    Q_OBJECT

  public:
    explicit OverloadPlot(Document& document, QWidget* parent = nullptr);
    void refresh() override;

  protected:
    void reset_view() override { refresh(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;

  private:
    QCPAxisRect* rect_;
    QCPGraph *cold_, *warm_;
    std::vector<QCPAbstractItem*> notes_;
};

} // namespace fulmox::app

// The path of the cycle in the plane of speed and torque, signs kept.
#pragma once

#include "app/live.h"
#include "app/plots/plot.h"

namespace fulmox::app {

class PathPlot : public Live<Plot> {
    Q_OBJECT

  public:
    explicit PathPlot(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    /// Time, speed and torque along the path.
    Table as_table() const override;

  protected:
    void reset_view() override { refresh(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;

  private:
    QCPAxisRect* rect_;
    QCPCurve* path_;
    QCPCurve* pinned_; ///< the path of A
    QCPGraph* points_;
    QList<QCPAbstractItem*> notes_;
};

} // namespace fulmox::app

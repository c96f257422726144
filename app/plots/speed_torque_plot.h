// The motor's curves at the actual bus voltage with the cycle's path through them.
#pragma once

#include "app/compared.h"
#include "app/live.h"
#include "app/plots/plot.h"

#include <optional>
#include <vector>

namespace fulmox::app {

/// Torque is drawn in the direction of motion: driving above, braking below.
class SpeedTorquePlot : public Live<Plot> {
    Q_OBJECT

  public:
    explicit SpeedTorquePlot(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    /// Motors whose curves are drawn beside that of the axis.
    void compare(const std::vector<Compared>& others);

  protected:
    void reset_view() override;
    QString readout(double x, double y, QCPAxisRect* rect) override;

  private:
    QCPGraph* curve(const QPen& pen, const QColor& fill, QCPGraph* to);

    QCPAxisRect* rect_;
    QList<QCPAbstractItem*> notes_;
    struct Other {
        QString name;
        Capability can;
    };
    std::vector<std::optional<Other>> others_; ///< in their order; nothing while one is being assessed
};

} // namespace fulmox::app

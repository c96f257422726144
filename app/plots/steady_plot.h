// Motors side by side over speed and load: what each takes from the bus, has left, and how hot it gets.
#pragma once

#include "app/compared.h"
#include "app/live.h"
#include "app/plots/plot.h"

namespace fulmox::app {

class SteadyPlot : public Live<Plot> {
    Q_OBJECT

  public:
    explicit SteadyPlot(Document& document, QWidget* parent = nullptr);
    /// Motors beside that of the axis.
    void compare(const std::vector<Compared>& others);
    void refresh() override;
    /// Torques, N·m, against which they turn; none where nothing tells them.
    std::vector<double> loads() const;
    /// What the lines mean, as HTML with their colours.
    QString legend() const;

  protected:
    void reset_view() override { refresh(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;

  private:
    struct Shown {
        QString name;
        SteadyMotor motor;
        QColor colour;
    };
    void gather();

    std::vector<Compared> others_;
    std::vector<Shown> shown_;
    std::array<QCPAxisRect*, 3> rects_{};
};

} // namespace fulmox::app

// Position, velocity and acceleration over the cycle on one time axis.
#pragma once

#include "app/document.h"
#include "app/plots/plot.h"

#include <array>

namespace fulmox::app {

class CyclePlot : public Plot {
    Q_OBJECT

  public:
    explicit CyclePlot(Document& document, QWidget* parent = nullptr);
    void refresh();
    void mark_segment(int segment);

  signals:
    void segment_clicked(int segment);

  protected:
    void reset_view() override;
    QString readout(double x, double y, QCPAxisRect* rect) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    int segment_at(double t);

    Document& document_;
    std::array<QCPAxisRect*, 3> rects_{};
    std::array<QCPGraph*, 3> graphs_{};
    std::array<QCPItemRect*, 3> marks_{};
    QList<QCPAbstractItem*> borders_;
    int marked_ = -1;
    double shown_duration_ = -1;
};

} // namespace fulmox::app

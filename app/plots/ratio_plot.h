// What the motor would have to do over the ratio of a stage, and the ratios that gearheads are offered in.
#pragma once

#include "app/background.h"
#include "app/live.h"
#include "app/plots/plot.h"
#include "core/match/candidates.h"
#include "core/match/ratio_curve.h"

#include <string>
#include <vector>

namespace fulmox::app {

class RatioPlot : public Live<Plot> {
    Q_OBJECT

  public:
    /// A gearhead that can be had.
    struct Offer {
        std::string name;
        double ratio;
        LimitState state;
        int row; ///< of whoever offers it
    };
    explicit RatioPlot(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    void offer(std::vector<Offer> offers);
    void set_stage(std::size_t stage);
    const RatioCurve& curve() const { return curve_; }
    bool calculating() const { return work_.running(); }
    /// Where an offer is drawn, in pixels of this widget.
    QPointF place_of(const Offer& offer);
    const std::vector<Offer>& offers() const { return offers_; }
    Table as_table() const override;

  signals:
    void taken(int row);

  protected:
    void reset_view() override { draw_all(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    QCPAxisRect *shares_, *torques_;
    QCPGraph *speed_, *peak_, *heat_, *peak_torque_, *rms_torque_;
    QCPLegend* names_;
    std::vector<QCPAbstractItem*> notes_;
    std::vector<QCPGraph*> marks_; ///< of the offers, by state
    std::vector<Offer> offers_;
    std::size_t stage_ = 0;
    RatioCurve curve_;
    QPointF pressed_;
    Background<RatioCurve> work_;

    void draw_all();
    int offer_at(QPointF place);
};

} // namespace fulmox::app

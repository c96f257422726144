// Position, velocity, acceleration and jerk over the cycle on one time axis; segments are dragged by their ends.
#pragma once

#include "app/live.h"
#include "app/plots/plot.h"

#include <array>

namespace fulmox::app {

class CyclePlot : public Live<Plot> {
    Q_OBJECT

  public:
    explicit CyclePlot(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    void mark_segment(int segment);
    /// Where the end of a segment is drawn, in pixels of this widget: its instant, and its position in the upper plot.
    QPointF end_of_segment(int segment);
    /// How often the cycle is in the resonance of its stepper, as drawn.
    int resonance_stays() const { return resonance_stays_; }

  signals:
    void segment_clicked(int segment);

  protected:
    void reset_view() override;
    void draw_again() override { refresh(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

  private:
    const Trajectory* planned_now() const;
    static bool lay_over(
        QCPGraph& graph, const Trajectory& motion, std::size_t channel, const Unit& unit, const QPen& pen);
    /// What the mouse would change: the time of a segment by its border, or its distance by its end position.
    struct Grip {
        enum class Of { nothing, time, distance } of = Of::nothing;
        int segment = -1;
        double start = 0; ///< s or position at the press
        double value = 0; ///< SI, duration or distance at the press
    };
    static constexpr std::size_t count = 4;
    int segment_at(double t);
    Grip grip_at(QPointF place);
    void drag(QPointF place);
    Unit const& unit(std::size_t channel) const;

    std::array<QCPAxisRect*, count> rects_{};
    std::array<QCPGraph*, count> graphs_{};
    std::array<QCPItemRect*, count> marks_{};
    std::array<QCPGraph*, 2> raw_{};        ///< samples of a trace, as recorded
    std::array<QCPGraph*, count> pinned_{}; ///< the motion of A
    void show_resonance();
    int resonance_stays_ = 0;
    QList<QCPAbstractItem*> borders_;
    Grip grip_;
    bool jerk_shown_ = true;
    int marked_ = -1;
    double shown_duration_ = -1;
};

} // namespace fulmox::app

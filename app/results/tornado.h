// Which input moves the demand most: bars to either side of what it is now.
#pragma once

#include "app/background.h"
#include "app/bricks/missing_label.h"
#include "app/clip.h"
#include "app/live.h"
#include "core/match/sensitivity.h"

#include <QTimer>
#include <QWidget>
#include <vector>

namespace fulmox::app {

/// Calculated a moment after the last change, not at every keystroke. A click on a bar leads to the field.
class Tornado : public LiveWidget, public Copyable {
    Q_OBJECT

  public:
    explicit Tornado(Document& document, QWidget* parent = nullptr);
    void set_measure(Measure m);
    const std::vector<Influence>& rows() const { return rows_; }
    Table as_table() const override;
    bool calculating() const { return work_.running(); }
    QSize minimumSizeHint() const override { return {300, 150}; }

    void refresh() override;

  signals:
    void go_to(const QString& path);

  protected:
    void follow() override { later_.start(); }
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    int row_at(QPointF place) const;
    void say_missing();

    MissingLabel* missing_;
    Measure measure_ = Measure::rms_torque;
    std::vector<Influence> rows_;
    QTimer later_{this};
    Background<std::vector<Influence>> work_;
};

} // namespace fulmox::app

// Page 3: what does it take?
#pragma once

#include "app/pages/page.h"
#include "app/plots/torque_plot.h"
#include "app/widgets/figures.h"

namespace fulmox::app {

class WhatTakes : public Page {
    Q_OBJECT

  public:
    static constexpr const char* question = "What does it take?";
    static constexpr const char* brief = QT_TR_NOOP("Demand"); ///< where the outline is folded
    explicit WhatTakes(Document& document, QWidget* parent = nullptr);
    void activate() override;
    QSize least() const override { return {760, 720}; }

  protected:
    QString sentence() const override;

  private:
    TorquePlot* plot_;
};

} // namespace fulmox::app

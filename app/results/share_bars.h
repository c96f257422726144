// How much each cause has in the peak and in the heat.
#pragma once

#include "app/bricks/missing_label.h"
#include "app/clip.h"
#include "app/live.h"

#include <QWidget>

namespace fulmox::app {

class ShareBars : public LiveWidget, public Copyable {
    Q_OBJECT

  public:
    explicit ShareBars(Document& document, QWidget* parent = nullptr);
    Table as_table() const override;
    void refresh() override;
    QSize sizeHint() const override { return {260, 20 + 24 * cause_count + 26}; }
    QSize minimumSizeHint() const override { return {220, 20 + 24 * cause_count + 26}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    MissingLabel* missing_;
};

} // namespace fulmox::app

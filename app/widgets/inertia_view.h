// The inertia statement as bars, with what each school says about the ratio.
#pragma once

#include "app/clip.h"
#include "app/document.h"

#include <QWidget>

namespace fulmox::app {

class InertiaView : public QWidget, public Copyable {
    Q_OBJECT

  public:
    InertiaView(Document& document, bool with_schools, QWidget* parent = nullptr);
    QSize sizeHint() const override;
    Table as_table() const override;
    QSize minimumSizeHint() const override { return {240, sizeHint().height()}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Document& document_;
    bool with_schools_;
};

} // namespace fulmox::app

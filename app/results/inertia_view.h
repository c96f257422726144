// The inertia statement as bars, with what each school says about the ratio.
#pragma once

#include "app/bricks/missing_label.h"
#include "app/clip.h"
#include "app/live.h"

#include <QWidget>

class QFrame;
class QLabel;

namespace fulmox::app {

class InertiaView : public LiveWidget, public Copyable {
    Q_OBJECT

  public:
    InertiaView(Document& document, bool with_schools, QWidget* parent = nullptr);
    QSize sizeHint() const override;
    Table as_table() const override;
    void refresh() override;
    QSize minimumSizeHint() const override; ///< with its lines closer together

    /// Of an axis along a line it is masses that are shown, not inertias.
    static const Unit& unit_of(const Document& document);
    /// Keeps the heading of the card it stands in and the unit beside it what they are of this axis.
    static void name_card(Document& document, QFrame& card, QLabel& unit);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    bool with_schools_;
    MissingLabel* missing_;
};

} // namespace fulmox::app

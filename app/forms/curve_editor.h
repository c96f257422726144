// Points of a datasheet curve, edited in place.
#pragma once

#include "app/forms/quantity_edit.h"
#include "app/live.h"

#include <QWidget>
#include <vector>

class QGridLayout;
class QLabel;

namespace fulmox::app {

/// Takes rows of two columns, speed and torque, or of three, speed, continuous and peak, over the points of the curve
/// at `place` from `row` on, as one step of undo; `whole`: in place of all of them. What could not be read, or nothing.
QString take_curves(Document& document, const QString& place, int row, const QString& text, bool whole);

class CurveEditor : public LiveWidget {
    Q_OBJECT

  public:
    /// `place` is the list's JSON pointer relative to the axis.
    CurveEditor(Document& document, QString heading, QString place, QWidget* parent = nullptr);
    void refresh() override;
    void set_title(const QString& title);

  signals:
    void focused(const QString& path);

  public:
    /// Takes rows of two columns, speed and torque, over the points from `row` on; adds points where there are too few.
    /// Rows that cannot be read are named and left out.
    void paste(int row, const QString& text);

  private:
    void rebuild(std::size_t count);
    void edit_list(const QString& name, int from, int to, const std::function<void(FieldRef&)>& change);

    QString place_;
    QGridLayout* grid_;
    QLabel* title_;
    QLabel* said_;
    std::vector<QuantityEdit*> edits_;
    QString built_for_;
};

} // namespace fulmox::app

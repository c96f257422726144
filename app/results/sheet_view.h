// A motor's datasheet looked through: its constants under every convention, and what it says twice.
#pragma once

#include "app/live.h"
#include "core/motor/sheet.h"

#include <QWidget>
#include <vector>

class QLabel;
class QPushButton;
class QTableWidget;

namespace fulmox::app {

/// Nothing is put right in silence: one press (Enter, a double click, the button) takes the reading of the selected
/// row, and that is undone like any edit.
class SheetView : public LiveWidget {
    Q_OBJECT

  public:
    explicit SheetView(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    void take();
    void offer(); ///< to take the reading of the selected row, or why it cannot be taken
    const SheetReading* selected() const;
    /// Contradictions of the sheet, for the tab.
    int contradictions() const;

  private:
    QTableWidget* constants_;
    QTableWidget* pairs_;
    QLabel* nothing_;
    QPushButton* take_;
    QLabel* why_not_;
    std::vector<SheetPair> found_;
    std::vector<const SheetReading*> rows_; ///< of the table of pairs; null: a pair
    Motor shown_;
    UnitSystem units_ = UnitSystem::si;
};

} // namespace fulmox::app

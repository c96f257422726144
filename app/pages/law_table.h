// The same move under every law, side by side; a click takes one.
#pragma once

#include "app/background.h"
#include "app/document.h"
#include "core/match/sensitivity.h"

#include <QTableWidget>
#include <QTimer>

namespace fulmox::app {

class LawTable : public QTableWidget {
    Q_OBJECT

  public:
    explicit LawTable(Document& document, QWidget* parent = nullptr);
    /// Compares the laws for this segment; hides itself where it is no move in a time.
    void show_segment(int segment);
    QSize sizeHint() const override { return {420, 8 * 23 + 30}; }
    QSize minimumSizeHint() const override { return {300, 8 * 21 + 26}; }

    /// Gives the segment the law of the current row.
    void take();

  signals:
    void shown(bool any);

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void calculate();
    void fill(const std::vector<LawRow>& rows);
    void share_width();

    QTimer later_{this}; ///< calculated a moment after the last change, not at every keystroke
    Document& document_;
    int segment_ = -1;
    Background<std::vector<LawRow>> work_;
};

} // namespace fulmox::app

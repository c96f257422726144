// The segments of the cycle, a row each; distances, times and payloads are typed into their cells.
#pragma once

#include "app/document.h"

#include <QTableWidget>

namespace fulmox::app {

/// A cell takes arithmetic and units like any field; what follows from limits is shown in the second colour and not
/// typed. Enter or F2, a double click, or just typing opens a cell; Tab goes to the next; Escape brings the old text
/// back.
class SegmentTable : public QTableWidget {
    Q_OBJECT

  public:
    enum Column { number, what, distance, time, carried, columns };

    explicit SegmentTable(Document& document, QWidget* parent = nullptr);

    void refresh();
    void select(int row);
    int selected() const { return currentRow(); }

  signals:
    void row_changed(int row);
    /// Why what was typed into a cell is not in use; empty once it is.
    void refused(const QString& why);

  private:
    const QuantityBase* behind(int row, int column) const; ///< the field of a cell; nothing where there is none
    QString path_of(int row, int column) const;
    void fill(int row);
    void put(int row, int column, const QString& text, bool typed, const QString& tip, const QColor& wrong = {});

    friend class SegmentDelegate;
    Document& document_;
    std::vector<int> played_; // phase of each segment's first playing, −1 where it is not played
};

/// "move 850 mm in 0.72 s", "dwell 0.6 s, from here 26 kg"
QString segment_sentence(const Segment& s);

} // namespace fulmox::app

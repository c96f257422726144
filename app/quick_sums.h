// The sums people do first: rpm for a feed, feed for an rpm, moves per hour.
#pragma once

#include "app/document.h"

#include <QDialog>
#include <QLabel>
#include <QLineEdit>

namespace fulmox::app {

/// Stays open beside the window; travel per turn and ratio follow the axis until something else is typed.
class QuickSums : public QDialog {
    Q_OBJECT

  public:
    explicit QuickSums(Document& document, QWidget* parent = nullptr);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    QLineEdit* field(const QString& label, const QString& name, class QGridLayout* grid, int row, int column);
    void take_axis();
    void compute(bool from_feed);
    void per_hour(bool from_time);

    Document& document_;
    QLineEdit *travel_, *ratio_, *feed_, *speed_, *time_, *moves_;
    QLabel* says_;
    bool from_feed_ = true;
};

} // namespace fulmox::app

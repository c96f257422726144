// What makes the load stand elsewhere, term by term, and what gives way between motor and load.
#pragma once

#include "app/document.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace fulmox::app {

class PrecisionView : public QWidget {
    Q_OBJECT

  public:
    explicit PrecisionView(Document& document, QWidget* parent = nullptr);
    void refresh();
    QTableWidget& terms() { return *terms_; }
    QTableWidget& springs() { return *springs_; }

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    Document& document_;
    QTableWidget *terms_, *springs_;
    QLabel *terms_say_, *springs_say_;
};

} // namespace fulmox::app

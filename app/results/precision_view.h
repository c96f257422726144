// What makes the load stand elsewhere, term by term, and what gives way between motor and load.
#pragma once

#include "app/bricks/missing_label.h"
#include "app/live.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace fulmox::app {

class PrecisionView : public LiveWidget {
    Q_OBJECT

  public:
    explicit PrecisionView(Document& document, QWidget* parent = nullptr);
    void refresh() override;
    QTableWidget& terms() { return *terms_; }
    QTableWidget& springs() { return *springs_; }

  private:
    QTableWidget *terms_, *springs_;
    MissingLabel *terms_say_, *springs_say_;
};

} // namespace fulmox::app

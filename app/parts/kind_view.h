// Which kind of motor: the questions, the advice with its reasons, and what would change it.
#pragma once

#include "app/live.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace fulmox::app {

class Form;

class KindView : public LiveWidget {
    Q_OBJECT

  public:
    explicit KindView(Document& document, QWidget* parent = nullptr);
    void refresh() override;

  signals:
    void focused(const QString& path);

  private:
    QTableWidget* kinds_;
    QTableWidget* questions_;
    QLabel* words_;
    Form* form_;
};

} // namespace fulmox::app

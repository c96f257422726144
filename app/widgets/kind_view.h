// Which kind of motor: the questions, the advice with its reasons, and what would change it.
#pragma once

#include "app/document.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace fulmox::app {

class Form;

class KindView : public QWidget {
    Q_OBJECT

  public:
    explicit KindView(Document& document, QWidget* parent = nullptr);
    void refresh();

  signals:
    void focused(const QString& path);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    Document& document_;
    QTableWidget* kinds_;
    QTableWidget* questions_;
    QLabel* words_;
    Form* form_;
};

} // namespace fulmox::app

// What else could stand in the place of a part: catalogues of one kind judged on the axis while somebody types, as a
// table, up to four of them side by side.
#pragma once

#include "app/live.h"
#include "app/parts/shelf_model.h"

#include <QTableView>
#include <QTemporaryDir>
#include <QTimer>
#include <QWidget>

class QLineEdit;
class QPushButton;
class QSpinBox;
class QTableWidget;
#include <memory>

namespace fulmox::app {

class ShelfView : public LiveWidget {
    Q_OBJECT

  public:
    ShelfView(Document& document, const char* kind, QWidget* parent = nullptr);
    ShelfModel& model() { return *model_; }
    QTableView& table() { return *table_; }
    /// Of a gearhead: which stage it replaces, from 0; the end of the stages: it is added.
    std::size_t place() const;
    void take_current();
    void show_row(int row); ///< of the model: makes it the current one
    /// In what the part of the axis is not as the catalogue that knows its name; empty: it is.
    QString differs() const;

    void refresh() override { judge_now(); }

  signals:
    void refused(const QString& why);
    void import_requested();
    void dropped(const QString& file);
    void sheet_requested();

  protected:
    void follow() override { later_.start(); }
    void showEvent(QShowEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    ShelfModel* model_;
    class Order;
    Order* order_;
    QTableView* table_;
    QTableWidget* beside_;
    QLineEdit* words_;
    QLabel *count_, *note_;
    QSpinBox* place_ = nullptr;
    QPushButton *use_, *keep_;
    QTimer later_{this}, progress_{this};
    std::string was_; ///< the current part, while the rows are read again

    void judge_now();
    void say();
    void lay_beside();
    void keep_in_project();
    void keep_in_library();
    int current_row() const;
    bool says_something(const Axis& axis, std::size_t place) const; ///< there is such a part
    std::unique_ptr<QTemporaryDir> pasted_;
};

} // namespace fulmox::app

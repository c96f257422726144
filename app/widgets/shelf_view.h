// What else could stand in the place of a part: catalogues of one kind judged on the axis while somebody types, as a
// table, up to four of them side by side.
#pragma once

#include "app/document.h"
#include "core/files/part_table.h"
#include "core/match/candidates.h"
#include "core/model/part.h"

#include <QAbstractTableModel>
#include <QTableView>
#include <QTimer>
#include <QWidget>
#include <memory>
#include <set>
#include <string>
#include <vector>

class QLineEdit;
class QPushButton;
class QSpinBox;
class QTableWidget;

namespace fulmox::app {

/// Parts of one kind from every catalogue and the project.
class ShelfModel : public QAbstractTableModel {
    Q_OBJECT

  public:
    enum Column { name, rank, price, mass, tightest, limit, first_field };
    enum Role { state_role = Qt::UserRole + 1, sort_role, mark_role };

    ShelfModel(Document& document, const PartKind& kind, QObject* parent);

    const PartKind& kind() const { return kind_; }
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

    /// Reads what there is anew, where it is not as it was.
    void follow();
    /// Judges all of them at this place of the axis; `judged` says when it is done.
    void judge(std::size_t place);
    bool judging() const { return work_.running(); }
    const PartLists& parts() const { return *parts_; }
    const std::string& part_name(int row) const;
    QString from(int row) const { return origins_[static_cast<std::size_t>(row)]; }
    bool of_project(int row) const; ///< one of the project's own
    const Candidate* candidate(int row) const;
    int carrying() const;
    std::size_t rank_of(int row) const {
        return static_cast<std::size_t>(row) < ranks_.size() ? ranks_[static_cast<std::size_t>(row)] : 0;
    }
    const std::vector<std::string>& marked() const { return marked_; }
    void toggle_mark(int row);

  signals:
    void judged();

  private:
    Document& document_;
    const PartKind& kind_;
    std::shared_ptr<const PartLists> parts_ = std::make_shared<PartLists>();
    std::vector<QString> origins_;
    std::size_t project_from_ = 0; ///< row of the first of the project's own
    std::vector<Candidate> judged_;
    std::vector<std::size_t> ranks_; ///< by row, from 1
    std::vector<std::string> marked_;
    std::vector<PartField> fields_;
    struct Shown {
        QString text;
        double value;
    };
    std::vector<std::vector<Shown>> cells_; ///< of the fields, by row
    struct Result {
        std::vector<Candidate> judged;
        std::vector<std::size_t> ranks;
    };
    std::size_t place_ = 0;
    std::shared_ptr<const Machine> seen_; ///< with the project's own parts as they are listed
    int revision_ = -1;                   ///< of the shelf
    Background<Result> work_;

    void read();
    bool in_use(int row) const; ///< the axis has a part of this name there
    QString provenance(int row) const;
};

class ShelfView : public QWidget {
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

  signals:
    void refused(const QString& why);
    void import_requested();
    void dropped(const QString& file);
    void sheet_requested();

  protected:
    void showEvent(QShowEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    Document& document_;
    ShelfModel* model_;
    class Order;
    Order* order_;
    QTableView* table_;
    QTableWidget* beside_;
    QLineEdit* words_;
    QLabel *count_, *note_;
    QSpinBox* place_ = nullptr;
    QPushButton *use_, *keep_, *library_;
    QTimer later_;

    void judge_now();
    void say();
    void lay_beside();
    void keep_in_project();
    void keep_in_library();
    int current_row() const;
    bool says_something(const Axis& axis, std::size_t place) const; ///< there is such a part
};

} // namespace fulmox::app

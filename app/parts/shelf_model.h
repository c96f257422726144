// Parts of one kind that could stand in the place of that of the axis, judged on it.
#pragma once

#include "app/document.h"
#include "app/parts/map_pane.h"
#include "core/files/part_table.h"
#include "core/match/candidates.h"
#include "core/model/part.h"

#include <QAbstractTableModel>
#include <memory>
#include <string>
#include <vector>

namespace fulmox::app {

/// Parts of one kind from every catalogue and the project.
class ShelfModel : public QAbstractTableModel, public MapSource {
    Q_OBJECT

  public:
    enum Column { name, rank, price, mass, tightest, limit, first_field };
    static constexpr std::size_t most_marked = 4; ///< side by side
    static constexpr std::size_t few = 2000;      ///< rows that are soon gathered and filtered
    enum Role { state_role = Qt::UserRole + 1, mark_role };

    ShelfModel(Document& document, const PartKind& kind, QObject* parent);

    const PartKind& kind() const { return kind_; }
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

    /// Reads what there is again, where it is not as it was. Many parts are gathered beside the window,
    /// `looked_through` says when they are there; until then it stays as it was.
    void follow();
    /// Judges all of them at this place of the axis; `judged` says when it is done.
    void judge(std::size_t place);
    /// What was said is of another state of the project or another axis, and is not shown.
    bool judging() const { return work_.running() || !present(); }
    bool present() const;
    double judged_share() const { return work_.done(); } ///< 0 to 1
    bool gathering() const { return gathering_.running(); }
    /// All words of a row that a filter looks through, in lower case.
    const QString& words(int row) const;
    /// What a column is ordered by, where that is a number; NaN stands last.
    std::optional<double> order_value(int row, int column) const;
    const PartLists& parts() const { return *rows_.parts; }
    const std::string& part_name(int row) const;
    QString from(int row) const { return rows_.origins[static_cast<std::size_t>(row)]; }
    bool of_project(int row) const; ///< one of the project's own
    const Candidate* candidate(int row) const;
    CandidateCount counts() const;
    std::vector<MapColumn> map_columns() const override;
    std::optional<LimitState> map_state(int row) const override;
    QString map_name(int row) const override;
    bool map_in_use(int row) const override { return in_use(row); }
    bool map_waits() const override { return judging(); }
    std::size_t rank_of(int row) const {
        return static_cast<std::size_t>(row) < ranks_.size() ? ranks_[static_cast<std::size_t>(row)] : 0;
    }
    const std::vector<std::string>& marked() const { return marked_; }
    void toggle_mark(int row);

  signals:
    void judged();
    void looked_through();

  private:
    Document& document_;
    const PartKind& kind_;
    std::vector<Candidate> judged_;
    std::vector<std::size_t> ranks_; ///< by row, from 1
    std::vector<std::string> marked_;
    std::vector<PartField> fields_;
    struct Shown {
        QString text;
        double value;
    };
    /// Of one row, with the words a filter looks through.
    struct Looked {
        std::vector<Shown> cells; ///< by field
        QString words;            ///< empty: not looked at yet
    };
    /// All that can be had, and from where.
    struct Rows {
        std::shared_ptr<const PartLists> parts = std::make_shared<PartLists>();
        std::vector<QString> origins;
        std::size_t project_from = 0;       ///< row of the first of the project's own
        mutable std::vector<Looked> looked; ///< by row
    };
    Rows rows_;
    static Looked look(const PartKind& kind, const PartLists& parts, const std::vector<PartField>& fields,
        UnitSystem units, std::size_t row, const QString& origin);
    const Looked& looked(std::size_t row) const;
    const std::vector<Shown>& cells(std::size_t row) const { return looked(row).cells; }
    struct Result {
        std::vector<Candidate> judged;
        std::vector<std::size_t> ranks;
    };
    std::size_t place_ = 0;
    std::shared_ptr<const Machine> of_; ///< what they were judged on
    int of_axis_ = -1;
    bool told_ = false;                   ///< that they are of another state
    std::shared_ptr<const Machine> seen_; ///< with the project's own parts as they are listed
    int revision_ = -1;                   ///< of the shelf
    Background<Result> work_;
    Background<Rows> gathering_{std::chrono::milliseconds(0)};

    void show(Rows rows);
    bool in_use(int row) const; ///< the axis has a part of this name there
    QString provenance(int row) const;
};

} // namespace fulmox::app

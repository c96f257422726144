// Every motor that can be had, judged on the present axis.
#pragma once

#include "app/background.h"
#include "app/document.h"
#include "app/parts/map_pane.h"
#include "core/match/candidates.h"

#include <QAbstractTableModel>
#include <QColor>
#include <string>
#include <vector>

namespace fulmox::app {

/// Roles beside those of Qt: what a cell is sorted by, the state of the motor, its place among those compared.
inline constexpr int motor_sort_role = Qt::UserRole + 1, motor_state_role = Qt::UserRole + 2,
                     motor_mark_role = Qt::UserRole + 3;

/// One row per motor of the catalogue, the user's library and the project, assessed with the present axis.
class MotorModel : public QAbstractTableModel, public MapSource {
    Q_OBJECT

  public:
    explicit MotorModel(Document& document, QObject* parent = nullptr);

    enum Column {
        name,
        rank, ///< place by `cheapest_first`
        price,
        mass,
        ratio,
        speed,
        peak,
        heat,
        tightest,
        // shown when they are asked for
        kind,
        series,
        frame,
        length,
        brake,
        volts,
        continuous,
        top_torque,
        top_speed,
        acceleration,
        from,
        columns
    };
    static bool usual(int column) { return column <= tightest; }
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

    /// Those of the catalogue, then of the library, then the project's own.
    const Motor& motor(int row) const;
    bool own(int row) const { return row >= static_cast<int>(motors_.size() + library_.size()); }
    bool of_library(int row) const { return !own(row) && row >= static_cast<int>(motors_.size()); }
    /// Assesses every motor with the present axis; a long cycle takes a while, and `judged` says when it is done.
    void judge();
    /// What was said is of another state of the project or another axis, and is not shown.
    bool judging() const { return work_.running() || !present(); }
    bool present() const;
    double judged_share() const { return work_.done(); } ///< 0 to 1
    std::vector<MapColumn> map_columns() const override;
    std::optional<LimitState> map_state(int row) const override {
        return judging() ? std::nullopt : std::optional(state(row));
    }
    QString map_name(int row) const override;
    bool map_in_use(int row) const override;
    bool map_waits() const override { return judging(); }
    CandidateCount counts() const;
    LimitState state(int row) const { return row_at(row).state; }
    /// Whether the mechanism of the axis can have the motor of this row.
    bool suits(int row) const;
    int suiting() const; ///< rows that it can have
    /// Names of the motors that are compared, for the marks beside them.
    void mark(std::vector<std::string> names);

  signals:
    void judged();
    void listed(); ///< motors have come or gone

  private:
    struct Row {
        double ratio = 0, speed = 0, peak = 0, heat = 0, acceleration = 0, tightest = 0;
        std::size_t rank = 0;
        LimitState state = LimitState::cannot_say;
        QString why;
    };
    struct ColumnSpec;
    static const ColumnSpec& spec(int column);
    Document& document_;
    std::vector<Motor> motors_, library_;
    std::vector<Row> rows_; ///< as they were judged last
    const Row& row_at(int row) const;
    std::shared_ptr<const Machine> of_; ///< what they were judged on
    int of_axis_ = -1;
    bool told_ = false; ///< that they are of another state
    std::vector<std::string> marked_;
    std::size_t own_count_ = 0; ///< own motors the views know of

    Background<std::vector<Row>> work_;

    void follow();
};

} // namespace fulmox::app

// The catalogue, every motor judged on this axis.
#pragma once

#include "app/background.h"
#include "app/document.h"

#include <QAbstractTableModel>
#include <QSortFilterProxyModel>
#include <QTableView>
#include <QTimer>
#include <vector>

namespace fulmox::app {

/// One row per catalogue motor, assessed with the present axis.
class MotorModel : public QAbstractTableModel {
    Q_OBJECT

  public:
    explicit MotorModel(Document& document, QObject* parent = nullptr);

    enum Column { name, price, mass, ratio, speed, peak, heat, tightest, columns };
    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

    /// Those of the catalogue, then the project's own.
    const Motor& motor(int row) const;
    bool own(int row) const { return row >= static_cast<int>(motors_.size()); }
    /// A motor that stands neither in the catalogue nor among the project's own is added to these.
    void keep(Machine& machine, const Motor& motor) const;
    QString catalogue_name() const { return catalogue_name_; }
    /// Assesses every motor with the present axis; a long cycle takes a while, and `judged` says when it is done.
    void judge();
    bool judging() const { return work_.running(); }
    double judged_share() const { return work_.done(); } ///< 0 to 1
    int fitting() const;
    /// Whether the mechanism of the axis can have the motor of this row: a linear one along a line, else one that
    /// turns.
    bool suits(int row) const;
    int suiting() const; ///< rows that it can have

  signals:
    void judged();

  private:
    struct Row {
        double ratio = 0, speed = 0, peak = 0, heat = 0, tightest = 0;
        LimitState state = LimitState::cannot_say;
        QString why;
    };
    Document& document_;
    QString catalogue_name_;
    std::vector<Motor> motors_;
    std::vector<Row> rows_;
    std::size_t own_count_ = 0; ///< own motors the views know of

    Background<std::vector<Row>> work_;

    void follow();
};

/// The catalogue that ships with the program.
const std::vector<Motor>& shipped_motors();
/// Whether the motor of the axis is one of the catalogue and the field at this path below it ("/rotor_inertia") is as
/// the catalogue has it.
bool as_in_catalogue(const Motor& motor, const std::string& field, const std::string& text);

class MotorTable : public QTableView {
    Q_OBJECT

  public:
    explicit MotorTable(Document& document, QWidget* parent = nullptr);
    MotorModel& model_of_motors() { return *motors_; }
    void judge_now();
    void choose_current();
    /// Makes its row the current one and takes the focus; Enter then takes it.
    void show_motor(const QString& name);
    /// No motor for the axis; one typed by hand stays among the project's own.
    void take_out();

  signals:
    void judged();

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    Document& document_;
    MotorModel* motors_;
    QSortFilterProxyModel* order_;
    bool along_ = false; ///< the axis whose motors are shown has a linear drive
    QTimer later_;
    QTimer progress_; ///< says how far the judging has come
};

} // namespace fulmox::app

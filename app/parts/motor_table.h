// The catalogue as a table: filtered, sorted, compared.
#pragma once

#include "app/compared.h"
#include "app/parts/motor_model.h"

#include <QColor>
#include <QTableView>
#include <QTimer>
#include <memory>
#include <string>
#include <vector>

namespace fulmox::app {

class MotorTable : public QTableView {
    Q_OBJECT

  public:
    explicit MotorTable(Document& document, QWidget* parent = nullptr);
    MotorModel& model_of_motors() { return *motors_; }
    void judge_now();
    void show_now(); ///< judges where what was judged is of another state
    void choose_current();
    /// Brings the table to the front, makes the motor's row the current one and takes the focus; Enter then takes it.
    /// Filters that hide it are cleared; where the axis cannot have it `refused` says so, and no row is current.
    void show_motor(const QString& name);
    /// No motor for the axis; one typed by hand stays among the project's own.
    void take_out();
    void set_filter(const MotorFilter& filter);
    int shown() const; ///< rows that pass the filter
    CandidateCount shown_counts() const;
    /// Those that are compared, in the order they were chosen.
    const std::vector<Compared>& compared() const { return compared_; }
    /// Puts the current row among those compared, or takes it out; at most `most_compared`.
    void toggle_compared();
    /// The same for any motor.
    void compare_with(const Motor& motor);

  signals:
    void judged();
    void compared_changed();
    void suiting_changed(); ///< other motors can be had: the axis or its mechanism is another
    void refused(const QString& why);
    void wanted();           ///< it is to come to the front
    void hidden_by_filter(); ///< a motor that is to be shown

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    Document& document_;
    MotorModel* motors_;
    class Order;
    Order* order_;
    std::vector<Compared> compared_;
    Background<std::vector<std::shared_ptr<const Assessment>>> comparing_;
    void compare_now();
    bool along_ = false; ///< the axis whose motors are shown has a linear drive
    QTimer later_{this};
    QTimer progress_; ///< says how far the judging has come
};

} // namespace fulmox::app

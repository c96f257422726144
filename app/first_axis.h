// A first axis, step by step: a strip over the page says what comes next, and a mark shows where.
#pragma once

#include "app/live.h"

#include <QFrame>
#include <QPointer>

class QLabel;
class QPushButton;

namespace fulmox::app {

/// One step: what to do, and the field it is done in.
struct FirstStep {
    QString words;
    QString path;              ///< JSON pointer; empty: there is nothing to point at
    bool done_by_hand = false; ///< ends with *Next*, else once its value is there
};

/// The next step of this axis: its mechanism, each missing value in the order of the pages, a move, the demand, a
/// motor. `passed` counts the steps that ended with *Next*.
FirstStep next_step(Document& document, int passed);

/// A frame over the widget that has the marked field; the mouse goes through it.
class FieldMark : public QWidget {
  public:
    explicit FieldMark(QWidget* window);
    void show_on(QWidget* field);
    QWidget* field() const { return field_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void place();
    QPointer<QWidget> field_;
};

class FirstAxis : public Live<QFrame> {
    Q_OBJECT

  public:
    explicit FirstAxis(Document& document, QWidget* parent = nullptr);
    void begin();
    void end();
    bool running() const { return running_; }
    void refresh() override;
    FirstStep step() const { return step_; }
    /// The field that the frame is on; null: none is on screen.
    const QWidget* marked() const { return mark_ && mark_->isVisible() ? mark_->field() : nullptr; }

  signals:
    void go_to(const QString& path);

  private:
    void show_step();
    void mark_field();

    QLabel* says_;
    QPushButton *show_, *next_;
    FieldMark* mark_ = nullptr;
    FirstStep step_;
    int passed_ = 0;
    bool running_ = false;
};

} // namespace fulmox::app

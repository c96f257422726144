#include "app/parts/motor_table.h"

#include "app/bricks/padded.h"
#include "app/bricks/paint.h"
#include "app/bricks/table_columns.h"
#include "app/library.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"

#include <QContextMenuEvent>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QSortFilterProxyModel>
#include <algorithm>
#include <utility>

namespace fulmox::app {

namespace {

// What the heads keep free on either side, on the right for the mark of sorting too.
constexpr int left_pad = 6, right_pad = 13;

class StateDelegate : public PaddedDelegate {
  public:
    explicit StateDelegate(QObject* parent) : PaddedDelegate(left_pad, right_pad, parent) {}
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        PaddedDelegate::paint(p, option, index);
        draw_state(*p, QRectF(option.rect.left() + 8, option.rect.center().y() - 5, 10, 10),
            static_cast<LimitState>(index.data(motor_state_role).toInt()));
    }
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        return PaddedDelegate::sizeHint(option, index) + QSize(16, 0); // for the mark
    }
};

// A bar in the colour of its curve before a motor that is compared.
class NameDelegate : public PaddedDelegate {
  public:
    explicit NameDelegate(QObject* parent) : PaddedDelegate(left_pad, 2, parent) {}
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        PaddedDelegate::paint(p, option, index);
        const QVariant mark = index.data(motor_mark_role);
        if (mark.isValid())
            p->fillRect(QRect(option.rect.left(), option.rect.top() + 3, 4, option.rect.height() - 6),
                compared_colour(mark.toInt()));
    }
};

} // namespace

// Only motors that the mechanism of the axis can have, and that pass the filter.
class MotorTable::Order : public QSortFilterProxyModel {
  public:
    Order(const MotorModel& motors, QObject* parent) : QSortFilterProxyModel(parent), motors_(motors) {}
    void set(const MotorFilter& filter) {
        filter_ = filter;
        invalidateFilter();
    }

  protected:
    bool filterAcceptsRow(int row, const QModelIndex&) const override {
        return motors_.suits(row) && passes(motors_.motor(row), filter_);
    }
    bool lessThan(const QModelIndex& left, const QModelIndex& right) const override {
        const QVariant a = left.data(motor_sort_role), b = right.data(motor_sort_role);
        if (a.typeId() != QMetaType::Double) return QSortFilterProxyModel::lessThan(left, right);
        return comes_before(a.toDouble(), b.toDouble(), sortOrder());
    }

  private:
    const MotorModel& motors_;
    MotorFilter filter_;
};

MotorTable::MotorTable(Document& document, QWidget* parent)
    : QTableView(parent), document_(document), motors_(new MotorModel(document, this)),
      order_(new Order(*motors_, this)) {
    setObjectName(QStringLiteral("catalogue"));
    setAccessibleName(tr("Catalogue of motors, judged on this axis"));
    order_->setSourceModel(motors_);
    order_->setSortRole(motor_sort_role);
    setModel(order_);
    setSortingEnabled(true);
    sortByColumn(MotorModel::rank, Qt::AscendingOrder);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setShowGrid(false);
    setTabKeyNavigation(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(23);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->moveSection(MotorModel::rank, 0);
    choose_columns(*this, QStringLiteral("catalogue-columns"), MotorModel::name, &MotorModel::usual);
    auto* cells = new PaddedDelegate(left_pad, right_pad, this);
    cells->numbers = true;
    setItemDelegate(cells);
    setItemDelegateForColumn(MotorModel::tightest, new StateDelegate(this));
    setItemDelegateForColumn(MotorModel::name, new NameDelegate(this));
    fit_columns(*this);
    later_.setSingleShot(true);
    later_.setInterval(120);
    connect(&later_, &QTimer::timeout, this, &MotorTable::judge_now);
    connect(motors_, &MotorModel::judged, this, [this] {
        viewport()->update();
        emit judged();
    });
    progress_.setInterval(100);
    connect(&progress_, &QTimer::timeout, this, [this] {
        if (motors_->judging())
            emit judged();
        else
            progress_.stop();
    });
    connect(&document_, &Document::changed, this, [this] {
        later_.start();
        if (compared_.empty()) return;
        for (Compared& c : compared_) c.is = nullptr; // what was said of another state of the axis does not stay
        emit compared_changed();
    });
    connect(this, &QTableView::doubleClicked, this, [this] { choose_current(); });
}

void MotorTable::show_now() {
    if (!motors_->present() || progress_.isActive()) judge_now();
}

void MotorTable::judge_now() {
    compare_now();                            // their curves and numbers are seen where the table is not
    if (!parentWidget()->isVisible()) return; // its map may stand in its place
    const bool along = document_.has_axis() && motion_of(document_.axis().mechanism).direct;
    if (std::exchange(along_, along) != along) {
        order_->invalidate();
        emit suiting_changed();
    }
    motors_->judge();
    if (!motors_->judging()) return;
    emit judged(); // so that no number of before stays
    progress_.start();
}

void MotorTable::choose_current() {
    const QModelIndex at = currentIndex();
    if (!at.isValid()) return;
    const Motor motor = motors_->motor(order_->mapToSource(at).row());
    document_.edit(tr("motor %1").arg(qs(motor.name)), [&](Machine& m) {
        Motor& here = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
        keep_motor(m, here);
        here = motor;
    });
}

void MotorTable::set_filter(const MotorFilter& filter) { order_->set(filter); }

int MotorTable::shown() const { return order_->rowCount(); }

CandidateCount MotorTable::shown_counts() const {
    CandidateCount n;
    for (int row = 0; row < order_->rowCount(); ++row)
        n.add(motors_->state(order_->mapToSource(order_->index(row, 0)).row()));
    return n;
}

void MotorTable::toggle_compared() {
    const QModelIndex at = currentIndex();
    if (!at.isValid()) return;
    compare_with(motors_->motor(order_->mapToSource(at).row()));
}

void MotorTable::compare_with(const Motor& motor) {
    const auto it =
        std::find_if(compared_.begin(), compared_.end(), [&](const Compared& c) { return c.motor.name == motor.name; });
    if (it != compared_.end()) {
        compared_.erase(it);
    } else if (compared_.size() < most_compared) {
        compared_.push_back({motor, nullptr});
    } else {
        emit refused(tr("%1 motors are compared already; Space on one of them takes it out").arg(most_compared));
        return;
    }
    std::vector<std::string> names;
    for (const Compared& c : compared_) names.push_back(c.motor.name);
    motors_->mark(std::move(names));
    compare_now();
}

void MotorTable::compare_now() {
    if (compared_.empty()) comparing_.drop();
    if (compared_.empty() || !document_.has_axis()) {
        emit compared_changed();
        return;
    }
    std::vector<Motor> motors;
    for (Compared& c : compared_) {
        c.is = nullptr; // what was said of another state of the axis does not stay
        motors.push_back(c.motor);
    }
    using Results = std::vector<std::shared_ptr<const Assessment>>;
    comparing_.run(
        this,
        [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()), motors](
            const StopToken& go_on) {
            Results out;
            for (const Motor& m : motors) {
                Axis with = machine->axes[axis];
                with.motor = m;
                out.push_back(std::make_shared<Assessment>(assess(*machine, with, "/axes/" + std::to_string(axis),
                    {.workings = false, .go_on = [&] { return go_on(); }})));
            }
            return out;
        },
        [this](Results results) {
            for (std::size_t i = 0; i < results.size() && i < compared_.size(); ++i) compared_[i].is = results[i];
            emit compared_changed();
        });
    if (comparing_.running()) emit compared_changed();
}

void MotorTable::contextMenuEvent(QContextMenuEvent* event) {
    QMenu menu(this);
    const QModelIndex at = currentIndex();
    const bool any = at.isValid();
    const int row = any ? order_->mapToSource(at).row() : -1;
    QAction* use = menu.addAction(tr("Use this motor"), this, &MotorTable::choose_current);
    QAction* compare = menu.addAction(tr("Compare, or not"), this, &MotorTable::toggle_compared);
    QAction* keep = menu.addAction(tr("Keep in my library"), this, [this, row] {
        const QString wrong = motor_library().add(motors_->motor(row));
        if (!wrong.isEmpty()) emit refused(wrong);
    });
    for (QAction* a : {use, compare, keep}) a->setEnabled(any);
    if (any && motors_->of_library(row)) keep->setEnabled(false);
    menu.addSeparator();
    QMenu* columns = menu.addMenu(tr("Columns"));
    columns->addActions(horizontalHeader()->actions());
    menu.exec(event->globalPos());
}

void MotorTable::show_motor(const QString& name) {
    emit wanted();
    setFocus();
    int row = 0;
    while (row < motors_->rowCount() && qs(motors_->motor(row).name) != name) ++row;
    const auto place = [&] { return order_->mapFromSource(motors_->index(row, 0)); };
    if (row < motors_->rowCount() && motors_->suits(row) && !place().isValid()) emit hidden_by_filter();
    setCurrentIndex(row < motors_->rowCount() ? place() : QModelIndex());
    if (!currentIndex().isValid())
        emit refused(tr("%1 cannot drive this axis: a linear drive takes linear motors, all others take rotary motors")
                         .arg(name));
}

void MotorTable::take_out() {
    document_.edit(tr("no motor"), [this](Machine& m) {
        Motor& here = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
        keep_motor(m, here);
        here = Motor{};
    });
}

void MotorTable::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        // nobody has chosen a row: the first of a list that is in order, wherever the row went that was first before
        const bool chosen = selectionModel()->hasSelection();
        if (!chosen && motors_->judging()) return;
        if (!chosen && currentIndex().isValid()) setCurrentIndex(model()->index(0, MotorModel::name));
        choose_current();
    } else if (event->key() == Qt::Key_Space)
        toggle_compared();
    else if (event->key() == Qt::Key_Delete && currentIndex().isValid() &&
             motors_->of_library(order_->mapToSource(currentIndex()).row())) {
        const std::string name = motors_->motor(order_->mapToSource(currentIndex()).row()).name;
        const auto& kept = motor_library().motors();
        if (std::none_of(kept.begin(), kept.end(), [&](const Motor& m) { return m.name == name; })) {
            emit refused(tr("%1 stands in a catalogue of your data folder, and goes with its file").arg(qs(name)));
            return;
        }
        const QString wrong = motor_library().remove(name);
        if (!wrong.isEmpty()) emit refused(wrong);
    } else if (event->key() == Qt::Key_Delete && currentIndex().isValid() &&
               motors_->own(order_->mapToSource(currentIndex()).row())) {
        const Motor gone = motors_->motor(order_->mapToSource(currentIndex()).row());
        document_.edit(
            tr("take %1 out of the project").arg(qs(gone.name)), [&](Machine& m) { std::erase(m.motors, gone); });
    } else
        QTableView::keyPressEvent(event);
}

} // namespace fulmox::app

#include "app/widgets/motor_table.h"

#include "app/theme.h"
#include "app/widgets/padded.h"
#include "app/widgets/paint.h"
#include "app/words.h"
#include "core/match/candidates.h"
#include "core/quantity/format.h"

#include <QFile>
#include <QHeaderView>
#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace fulmox::app {

namespace {

constexpr int sort_role = Qt::UserRole + 1;
constexpr int state_role = Qt::UserRole + 2;

QString percent(double x) {
    return std::isnan(x)   ? QStringLiteral("–")
           : std::isinf(x) ? QStringLiteral("> max.")
                           : qs(format_number(100 * x, 3)) + QStringLiteral(" %");
}

// What the heads keep free on either side, on the right for the mark of sorting too.
constexpr int left_pad = 6, right_pad = 15;

class StateDelegate : public PaddedDelegate {
  public:
    explicit StateDelegate(QObject* parent) : PaddedDelegate(left_pad, right_pad, parent) {}
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        PaddedDelegate::paint(p, option, index);
        draw_state(*p, QRectF(option.rect.left() + 8, option.rect.center().y() - 5, 10, 10),
            static_cast<LimitState>(index.data(state_role).toInt()));
    }
};

} // namespace

namespace {

const MotorCatalogue& shipped() {
    static const MotorCatalogue once = [] {
        need_resources();
        QFile file(QStringLiteral(":/catalogue/motors.json"));
        if (!file.open(QIODevice::ReadOnly)) return MotorCatalogue{};
        const QByteArray bytes = file.readAll();
        auto read = read_motors(std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
        return read ? std::move(*read) : MotorCatalogue{};
    }();
    return once;
}

} // namespace

const std::vector<Motor>& shipped_motors() { return shipped().motors; }

bool as_in_catalogue(const Motor& motor, const std::string& field, const std::string& text) {
    static std::map<std::string, std::map<std::string, std::string>>
        texts; // by motor and field; asked for at every key
    if (motor.name.empty()) return false;
    const auto [known, added] = texts.try_emplace(motor.name);
    if (added)
        for (const Motor& m : shipped_motors())
            if (m.name == motor.name) {
                Motor copy = m;
                for (const FieldRef& f : walk(copy))
                    if (f.quantity) known->second[f.path] = f.quantity->text;
            }
    const auto it = known->second.find(field);
    return it != known->second.end() && !text.empty() && it->second == text;
}

MotorModel::MotorModel(Document& document, QObject* parent) : QAbstractTableModel(parent), document_(document) {
    catalogue_name_ = qs(shipped().name);
    motors_ = shipped().motors;
    follow();
    connect(&document_, &Document::changed, this, &MotorModel::follow);
}

void MotorModel::follow() {
    const std::size_t own = document_.machine().motors.size();
    if (own == own_count_ && rows_.size() == motors_.size() + own) return;
    beginResetModel();
    own_count_ = own;
    rows_.assign(motors_.size() + own, Row{});
    endResetModel();
}

const Motor& MotorModel::motor(int row) const {
    const auto i = static_cast<std::size_t>(row);
    return i < motors_.size() ? motors_[i] : document_.machine().motors.at(i - motors_.size());
}

void MotorModel::keep(Machine& machine, const Motor& motor) const {
    if (motor.empty()) return;
    const auto stands_in = [&](const std::vector<Motor>& list) {
        return std::find(list.begin(), list.end(), motor) != list.end();
    };
    Motor kept = motor;
    if (kept.name.empty()) kept.name = "Typed by hand";
    if (stands_in(motors_) || stands_in(machine.motors)) return;
    if (std::find(machine.motors.begin(), machine.motors.end(), kept) == machine.motors.end())
        machine.motors.push_back(std::move(kept));
}

int MotorModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(motors_.size() + own_count_);
}
int MotorModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : columns; }

void MotorModel::judge() {
    if (!document_.has_axis()) return;
    const auto judge_each = [machine = document_.snapshot(), index = static_cast<std::size_t>(document_.axis_index()),
                                catalogue = motors_](const GoOn& go_on) {
        std::vector<const Motor*> motors;
        for (const auto* list : {&catalogue, &machine->motors})
            for (const Motor& m : *list) motors.push_back(&m);
        std::vector<Row> rows;
        for (const Candidate& c :
            judge_motors(*machine, index, motors, go_on, [&](double share) { go_on.done(share); }))
            rows.push_back({c.ratio, c.speed, c.peak, c.heat, c.tightest, c.state,
                c.limit.empty() ? QString()
                                : qs(c.limit) + QStringLiteral(": ") + qs(c.reason.in(machine->unit_system))});
        return rows;
    };
    const auto changed = [this] { emit dataChanged(index(0, 0), index(rowCount() - 1, columns - 1)); };
    work_.run(this, judge_each, [this, changed](std::vector<Row> rows) {
        if (rows.size() != rows_.size()) return; // the list has changed meanwhile, and is judged again
        rows_ = std::move(rows);
        changed();
        emit judged();
    });
    if (!work_.running()) return;
    const double nan = std::nan("");
    for (Row& r : rows_) r = {nan, nan, nan, nan, nan, LimitState::cannot_say, tr("being judged…")};
    changed();
}

int MotorModel::fitting() const {
    int n = 0;
    for (const Row& r : rows_) n += r.state == LimitState::fits || r.state == LimitState::tight;
    return n;
}

QVariant MotorModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    static const char* names[] = {"Motor", "Price", "Mass", "J ratio", "Speed", "Peak", "Heat", "Tightest"};
    static const char* tips[] = {"B: with holding brake", "In the currency of the machine page; nothing is converted",
        "", "Load inertia over rotor inertia", "Top speed used of allowed", "Peak torque used of the curve",
        "Continuous heat used of allowed, loss method", "The tightest of all limits; hover for why"};
    if (role == Qt::DisplayRole) return tr(names[section]);
    if (role == Qt::ToolTipRole) return tr(tips[section]);
    if (role == Qt::TextAlignmentRole)
        return int((section == name ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    return {};
}

QVariant MotorModel::data(const QModelIndex& index, int role) const {
    const Motor& m = motor(index.row());
    const Row& r = rows_[static_cast<std::size_t>(index.row())];
    const bool chosen = document_.has_axis() && document_.axis().motor.name == m.name;
    if (role == Qt::TextAlignmentRole)
        return int((index.column() == name ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    if (role == Qt::FontRole) return type_face(13, chosen ? Weight::strong : Weight::regular);
    if (role == Qt::BackgroundRole && chosen) return theme().accent_ground;
    if (role == state_role) return static_cast<int>(r.state);
    if (role == Qt::ToolTipRole && index.column() == tightest) return plain_tip(r.why);
    if (role == Qt::ToolTipRole && index.column() == name && own(index.row()))
        return tr("One of this project's own motors; Delete takes it out of the project");
    const auto sortable = [](double x) { return std::isnan(x) ? 1e300 : x; };
    switch (index.column()) {
    case name:
        if (role == sort_role) return qs(m.name);
        return role == Qt::DisplayRole ? QVariant(own(index.row()) ? tr("%1 · own").arg(qs(m.name)) : qs(m.name))
                                       : QVariant();
    case price:
        return role == Qt::DisplayRole ? QVariant(qs(format_number(m.price.si)))
               : role == sort_role     ? QVariant(sortable(m.price.si))
                                       : QVariant();
    case mass:
        return role == Qt::DisplayRole
                   ? QVariant(qs(format_quantity(m.mass.si, Kind::mass, document_.machine().unit_system, 3)))
               : role == sort_role ? QVariant(sortable(m.mass.si))
                                   : QVariant();
    case ratio:
        return role == Qt::DisplayRole
                   ? QVariant(std::isnan(r.ratio) ? QStringLiteral("–") : qs(format_number(r.ratio, 3)))
               : role == sort_role ? QVariant(sortable(r.ratio))
                                   : QVariant();
    case speed:
        return role == Qt::DisplayRole ? QVariant(percent(r.speed))
               : role == sort_role     ? QVariant(sortable(r.speed))
                                       : QVariant();
    case peak:
        return role == Qt::DisplayRole ? QVariant(percent(r.peak))
               : role == sort_role     ? QVariant(sortable(r.peak))
                                       : QVariant();
    case heat:
        return role == Qt::DisplayRole ? QVariant(percent(r.heat))
               : role == sort_role     ? QVariant(sortable(r.heat))
                                       : QVariant();
    case tightest:
        if (role == Qt::DisplayRole && judging()) return tr("being judged…");
        if (role == Qt::DisplayRole)
            return QStringLiteral("%1  %2").arg(QString::fromUtf8(state_words(r.state)), percent(r.tightest));
        if (role == sort_role)
            return static_cast<double>(static_cast<int>(r.state)) * 1e6 + std::min(sortable(r.tightest), 1e5);
        if (role == Qt::AccessibleTextRole) return QString::fromUtf8(state_words(r.state));
        return {};
    default:
        return {};
    }
}

bool MotorModel::suits(int row) const {
    const bool along = document_.has_axis() && motion_of(document_.axis().mechanism).direct;
    return motor(row).linear() == along;
}

int MotorModel::suiting() const {
    int n = 0;
    for (int row = 0; row < rowCount(); ++row) n += suits(row);
    return n;
}

namespace {

// Only motors that the mechanism of the axis can have.
class Suited : public QSortFilterProxyModel {
  public:
    Suited(const MotorModel& motors, QObject* parent) : QSortFilterProxyModel(parent), motors_(motors) {}

  protected:
    bool filterAcceptsRow(int row, const QModelIndex&) const override { return motors_.suits(row); }

  private:
    const MotorModel& motors_;
};

} // namespace

MotorTable::MotorTable(Document& document, QWidget* parent)
    : QTableView(parent), document_(document), motors_(new MotorModel(document, this)),
      order_(new Suited(*motors_, this)) {
    setObjectName(QStringLiteral("catalogue"));
    setAccessibleName(tr("Catalogue of motors, judged on this axis"));
    order_->setSourceModel(motors_);
    order_->setSortRole(sort_role);
    setModel(order_);
    setSortingEnabled(true);
    sortByColumn(MotorModel::tightest, Qt::AscendingOrder);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setShowGrid(false);
    setTabKeyNavigation(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(23);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    for (const auto& [column, width] : {std::pair(MotorModel::name, 128), std::pair(MotorModel::tightest, 148)}) {
        horizontalHeader()->setSectionResizeMode(column, QHeaderView::Fixed);
        setColumnWidth(column, width);
    }
    auto* cells = new PaddedDelegate(left_pad, right_pad, this);
    cells->numbers = true;
    setItemDelegate(cells);
    setItemDelegateForColumn(MotorModel::tightest, new StateDelegate(this));
    later_.setSingleShot(true);
    later_.setInterval(120);
    connect(&later_, &QTimer::timeout, this, &MotorTable::judge_now);
    connect(motors_, &MotorModel::judged, this, &MotorTable::judged);
    progress_.setInterval(100);
    connect(&progress_, &QTimer::timeout, this, [this] {
        if (motors_->judging())
            emit judged();
        else
            progress_.stop();
    });
    connect(&document_, &Document::changed, this, [this] { later_.start(); });
    connect(this, &QTableView::doubleClicked, this, [this] { choose_current(); });
}

void MotorTable::judge_now() {
    if (!isVisible()) return;
    const bool along = document_.has_axis() && motion_of(document_.axis().mechanism).direct;
    if (std::exchange(along_, along) != along) order_->invalidate();
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
        motors_->keep(m, here);
        here = motor;
    });
}

void MotorTable::show_motor(const QString& name) {
    for (int row = 0; row < order_->rowCount(); ++row)
        if (order_->index(row, MotorModel::name).data().toString().startsWith(name))
            setCurrentIndex(order_->index(row, 0));
    setFocus();
}

void MotorTable::take_out() {
    document_.edit(tr("no motor"), [this](Machine& m) {
        Motor& here = m.axes[static_cast<std::size_t>(document_.axis_index())].motor;
        motors_->keep(m, here);
        here = Motor{};
    });
}

void MotorTable::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        choose_current();
    else if (event->key() == Qt::Key_Delete && currentIndex().isValid() &&
             motors_->own(order_->mapToSource(currentIndex()).row())) {
        const Motor gone = motors_->motor(order_->mapToSource(currentIndex()).row());
        document_.edit(
            tr("take %1 out of the project").arg(qs(gone.name)), [&](Machine& m) { std::erase(m.motors, gone); });
    } else
        QTableView::keyPressEvent(event);
}

} // namespace fulmox::app

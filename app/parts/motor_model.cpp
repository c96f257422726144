#include "app/parts/motor_model.h"

#include "app/bricks/table_columns.h"
#include "app/library.h"
#include "app/part_shelf.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/motor/sheet.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox::app {

namespace {

QString percent(double x) { return qs(use_text(x)); }

// Of the library, and of the catalogues in the data folder.
std::vector<Motor> motors_of_ones_own() {
    std::vector<Motor> out = motor_library().motors();
    for (const UserCatalogue& c : part_shelf().own())
        out.insert(out.end(), c.parts->motors.begin(), c.parts->motors.end());
    return out;
}

} // namespace

MotorModel::MotorModel(Document& document, QObject* parent) : QAbstractTableModel(parent), document_(document) {
    motors_ = shipped_motors();
    library_ = motors_of_ones_own();
    follow();
    connect(&document_, &Document::changed, this, [this] {
        follow();
        if (const bool other = !present(); std::exchange(told_, other) != other) emit judged();
    });
    const auto refill = [this] {
        beginResetModel();
        library_ = motors_of_ones_own();
        rows_.assign(motors_.size() + library_.size() + own_count_, Row{});
        endResetModel();
        emit listed();
        judge();
    };
    connect(&motor_library(), &MotorLibrary::changed, this, refill);
    connect(&part_shelf(), &PartShelf::changed, this, refill);
}

bool MotorModel::present() const {
    return !document_.has_axis() || (of_.get() == &document_.machine() && of_axis_ == document_.axis_index());
}

const MotorModel::Row& MotorModel::row_at(int row) const {
    constexpr double nan = std::numeric_limits<double>::quiet_NaN();
    static const Row unknown{nan, nan, nan, nan, nan, nan, 0, LimitState::cannot_say, tr("being judged…")};
    return judging() ? unknown : rows_[static_cast<std::size_t>(row)];
}

void MotorModel::follow() {
    const std::size_t own = document_.machine().motors.size(), all = motors_.size() + library_.size() + own;
    if (own == own_count_ && rows_.size() == all) return;
    beginResetModel();
    own_count_ = own;
    rows_.assign(all, Row{});
    endResetModel();
    emit listed();
}

const Motor& MotorModel::motor(int row) const {
    auto i = static_cast<std::size_t>(row);
    if (i < motors_.size()) return motors_[i];
    i -= motors_.size();
    return i < library_.size() ? library_[i] : document_.machine().motors.at(i - library_.size());
}

int MotorModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(motors_.size() + library_.size() + own_count_);
}
int MotorModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : columns; }

void MotorModel::judge() {
    if (!document_.has_axis()) return;
    const auto judge_each = [machine = document_.snapshot(), index = static_cast<std::size_t>(document_.axis_index()),
                                catalogue = motors_, library = library_](const StopToken& go_on) {
        std::vector<const Motor*> motors;
        for (const auto* list : {&catalogue, &library})
            for (const Motor& m : *list) motors.push_back(&m);
        for (const Motor& m : machine->motors) motors.push_back(&m);
        const std::vector<Candidate> judged =
            judge_motors(*machine, index, motors, go_on, [&](double share) { go_on.done(share); });
        std::vector<Row> rows;
        if (judged.empty()) return rows;
        for (const Candidate& c : judged)
            rows.push_back({c.ratio, c.speed, c.peak, c.heat, c.acceleration, c.tightest, 0, c.state,
                c.limit.empty() ? QString()
                                : qs(c.limit) + QStringLiteral(": ") + qs(c.reason.in(machine->unit_system))});
        // the rank counts those that the mechanism can have
        std::size_t place = 0;
        for (const std::size_t i : cheapest_first(motors, judged))
            if (fulmox::suits(*motors[i], machine->axes[index])) rows[i].rank = ++place;
        return rows;
    };
    const auto changed = [this] { emit dataChanged(index(0, 0), index(rowCount() - 1, columns - 1)); };
    work_.run(this, judge_each,
        [this, changed, of = document_.snapshot(), axis = document_.axis_index()](std::vector<Row> rows) {
            if (rows.size() != rows_.size()) return; // the list has changed meanwhile, and is judged again
            rows_ = std::move(rows);
            of_ = of;
            of_axis_ = axis;
            told_ = !present();
            changed();
            emit judged();
        });
    if (work_.running()) changed(); // the cells say so until then
}

CandidateCount MotorModel::counts() const {
    CandidateCount n;
    for (int row = 0; row < rowCount(); ++row)
        if (suits(row)) n.add(state(row));
    return n;
}

void MotorModel::mark(std::vector<std::string> names) {
    marked_ = std::move(names);
    emit dataChanged(index(0, name), index(rowCount() - 1, name));
}

// What a column says of a motor, and what it is sorted by.
struct MotorModel::ColumnSpec {
    const char* head;
    const char* tip;
    QString (*text)(const Motor&, const Row&, const Machine&);
    double (*value)(const Motor&, const Row&);
};

namespace {

double known(const QuantityBase& q) { return q.given() ? q.si : std::nan(""); }
QString shown(double v, Kind kind, const Machine& machine) {
    return std::isfinite(v) ? qs(format_quantity(v, kind, machine.unit_system, 3)) : QStringLiteral("–");
}

} // namespace

const MotorModel::ColumnSpec& MotorModel::spec(int column) {
    static const ColumnSpec all[columns] = {
        {"Motor", "B: with holding brake. A bar before it: compared (Space)",
            [](const Motor& m, const Row&, const Machine&) { return qs(m.name); }, nullptr},
        {"#", "Cheapest suitable first",
            [](const Motor&, const Row& r, const Machine&) {
                return r.rank > 0 ? QString::number(r.rank) : QStringLiteral("–");
            },
            [](const Motor&, const Row& r) { return r.rank > 0 ? static_cast<double>(r.rank) : std::nan(""); }},
        {"Price", "In the currency of the machine page; nothing is converted",
            [](const Motor& m, const Row&, const Machine&) {
                return m.price.given() ? qs(format_number(m.price.si)) : QStringLiteral("–");
            },
            [](const Motor& m, const Row&) { return known(m.price); }},
        {"Mass", "", [](const Motor& m, const Row&, const Machine& x) { return shown(known(m.mass), Kind::mass, x); },
            [](const Motor& m, const Row&) { return known(m.mass); }},
        {"J ratio", "Load inertia over rotor inertia",
            [](const Motor&, const Row& r, const Machine&) {
                return std::isnan(r.ratio) ? QStringLiteral("–") : qs(format_number(r.ratio, 3));
            },
            [](const Motor&, const Row& r) { return r.ratio; }},
        {"Speed", "Top speed used of allowed",
            [](const Motor&, const Row& r, const Machine&) { return percent(r.speed); },
            [](const Motor&, const Row& r) { return r.speed; }},
        {"Peak", "Peak torque used of the curve",
            [](const Motor&, const Row& r, const Machine&) { return percent(r.peak); },
            [](const Motor&, const Row& r) { return r.peak; }},
        {"Heat", "Continuous heat used of allowed, loss method",
            [](const Motor&, const Row& r, const Machine&) { return percent(r.heat); },
            [](const Motor&, const Row& r) { return r.heat; }},
        {"Tightest", "The tightest of all limits; hover for why",
            [](const Motor&, const Row& r, const Machine&) {
                const QString state = QString::fromUtf8(state_words(r.state));
                return std::isnan(r.tightest) ? state : QStringLiteral("%1  %2").arg(state, percent(r.tightest));
            },
            [](const Motor&, const Row& r) {
                return static_cast<double>(static_cast<int>(r.state)) * 1e6 +
                       (std::isnan(r.tightest) ? 1e5 : std::min(r.tightest, 1e5));
            }},
        {"Kind", "", [](const Motor& m, const Row&, const Machine&) { return QString::fromUtf8(m.kind_label()); },
            nullptr},
        {"Series", "", [](const Motor& m, const Row&, const Machine&) { return qs(m.series); }, nullptr},
        {"Frame", "Side of the flange",
            [](const Motor& m, const Row&, const Machine& x) { return shown(known(m.frame), Kind::length, x); },
            [](const Motor& m, const Row&) { return known(m.frame); }},
        {"Length", "Behind the flange",
            [](const Motor& m, const Row&, const Machine& x) { return shown(known(m.length), Kind::length, x); },
            [](const Motor& m, const Row&) { return known(m.length); }},
        {"Brake", "Holding torque of the brake",
            [](const Motor& m, const Row&, const Machine& x) { return shown(known(m.brake_torque), Kind::torque, x); },
            [](const Motor& m, const Row&) { return known(m.brake_torque); }},
        {"Volts", "Of its curves, or of its ratings",
            [](const Motor& m, const Row&, const Machine& x) { return shown(motor_voltage(m), Kind::voltage, x); },
            [](const Motor& m, const Row&) { return motor_voltage(m); }},
        {"Continuous", "Continuous torque, or force",
            [](const Motor& m, const Row&, const Machine& x) {
                return shown(quoted_ratings(m).continuous, m.linear() ? Kind::force : Kind::torque, x);
            },
            [](const Motor& m, const Row&) { return quoted_ratings(m).continuous; }},
        {"Peak torque", "Peak torque, or force",
            [](const Motor& m, const Row&, const Machine& x) {
                return shown(quoted_ratings(m).peak, m.linear() ? Kind::force : Kind::torque, x);
            },
            [](const Motor& m, const Row&) { return quoted_ratings(m).peak; }},
        {"Top speed", "Mechanical limit",
            [](const Motor& m, const Row&, const Machine& x) {
                return shown(quoted_ratings(m).speed, m.linear() ? Kind::speed : Kind::angular_speed, x);
            },
            [](const Motor& m, const Row&) { return quoted_ratings(m).speed; }},
        {"Acceleration", "What its torque at the cycle's top speed gives rotor and load; a larger rotor may be slower",
            [](const Motor& m, const Row& r, const Machine& x) {
                return m.linear() ? QStringLiteral("–") : shown(r.acceleration, Kind::angular_acceleration, x);
            },
            [](const Motor&, const Row& r) { return r.acceleration; }},
        {"From", "Catalogue or datasheet", [](const Motor& m, const Row&, const Machine&) { return qs(m.origin); },
            nullptr},
    };
    return all[column];
}

std::vector<MapColumn> MotorModel::map_columns() const {
    const bool along = document_.has_axis() && motion_of(document_.axis().mechanism).direct;
    const UnitSystem units = document_.machine().unit_system;
    // what a column is measured in, and whether less of it is better whatever the axis
    struct Of {
        Column column;
        Kind kind;
        bool less;
    };
    const Of of[] = {{tightest, Kind::number, true}, {price, Kind::illegal, true}, {mass, Kind::mass, true},
        {ratio, Kind::illegal, true}, {speed, Kind::number, true}, {peak, Kind::number, true},
        {heat, Kind::number, true}, {frame, Kind::length, true}, {length, Kind::length, true},
        {volts, Kind::voltage, false}, {continuous, along ? Kind::force : Kind::torque, false},
        {top_torque, along ? Kind::force : Kind::torque, false},
        {top_speed, along ? Kind::speed : Kind::angular_speed, false},
        {acceleration, along ? Kind::illegal : Kind::angular_acceleration, false}};
    std::vector<MapColumn> out;
    for (const Of& each : of) {
        const auto value =
            each.column == tightest
                ? [](const Motor&, const Row& r) { // over by a yes or no stands beyond the border
                      return std::isnan(r.tightest) && r.state == LimitState::over ? std::numeric_limits<double>::infinity()
                                                                                  : r.tightest;
                  }
                : spec(each.column).value;
        const QString head = tr(spec(each.column).head);
        const auto read = [this, value](int row) { return value(motor(row), row_at(row)); };
        if (each.kind == Kind::number) {
            out.push_back({head, QStringLiteral("%"), each.less, [read](int row) { return 100 * read(row); }});
        } else if (each.kind == Kind::illegal) {
            out.push_back({head, each.column == price ? qs(document_.machine().currency) : QString(), each.less, read});
        } else {
            const Unit& unit = display_unit(each.kind, units);
            out.push_back({head, symbol(unit), each.less, [read, &unit](int row) { return from_si(read(row), unit); }});
        }
    }
    return out;
}
QString MotorModel::map_name(int row) const { return qs(motor(row).name); }
bool MotorModel::map_in_use(int row) const {
    return document_.has_axis() && !motor(row).name.empty() && document_.axis().motor.name == motor(row).name;
}

QVariant MotorModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    const ColumnSpec& s = spec(section);
    if (role == Qt::DisplayRole && section == price) return price_head(document_.machine().currency, tr(s.head));
    if (role == Qt::DisplayRole || role == Qt::AccessibleTextRole) return tr(s.head);
    if (role == Qt::ToolTipRole) return tr(s.tip);
    if (role == Qt::TextAlignmentRole) return int((s.value ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    return {};
}

QVariant MotorModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {}; // the order in between asks for it where it has no row
    const Motor& m = motor(index.row());
    const Row& r = row_at(index.row());
    const ColumnSpec& s = spec(index.column());
    const bool chosen = document_.has_axis() && document_.axis().motor.name == m.name;
    switch (role) {
    case Qt::DisplayRole:
        if (index.column() == tightest && judging()) return tr("being judged…");
        if (index.column() == name && own(index.row())) return tr("%1 · own").arg(qs(m.name));
        if (index.column() == name && of_library(index.row())) return tr("%1 · library").arg(qs(m.name));
        return s.text(m, r, document_.machine());
    case motor_sort_role:
        // while they are judged they stay where they are
        return s.value ? QVariant(s.value(m, rows_[static_cast<std::size_t>(index.row())]))
                       : QVariant(s.text(m, r, document_.machine()));
    case Qt::TextAlignmentRole:
        return int((s.value ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::FontRole:
        return type_face(13, chosen ? Weight::strong : Weight::regular);
    case Qt::BackgroundRole:
        return chosen ? QVariant(theme().accent_ground) : QVariant();
    case motor_state_role:
        return static_cast<int>(r.state);
    case motor_mark_role: {
        const auto at = std::find(marked_.begin(), marked_.end(), m.name);
        return at == marked_.end() ? QVariant() : QVariant(static_cast<int>(at - marked_.begin()));
    }
    case Qt::ToolTipRole:
        if (index.column() == tightest) return plain_tip(r.why);
        if (index.column() == name && own(index.row()))
            return tr("One of this project's own motors; Delete takes it out of the project");
        if (index.column() == name && of_library(index.row()))
            return tr("One of your library; Delete takes it out of the library");
        return {};
    case Qt::AccessibleTextRole:
        if (index.column() == name && index.data(motor_mark_role).isValid()) return tr("%1, compared").arg(qs(m.name));
        return index.column() == tightest ? QVariant(QString::fromUtf8(state_words(r.state))) : QVariant();
    default:
        return {};
    }
}

bool MotorModel::suits(int row) const { return document_.has_axis() && fulmox::suits(motor(row), document_.axis()); }

int MotorModel::suiting() const {
    int n = 0;
    for (int row = 0; row < rowCount(); ++row) n += suits(row);
    return n;
}

} // namespace fulmox::app

#include "app/forms/segment_table.h"

#include "app/bricks/padded.h"
#include "app/forms/quantity_edit.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QHeaderView>
#include <QKeyEvent>

namespace fulmox::app {

namespace {

QString or_question(const QuantityBase& q) { return q.given() ? qs(q.text) : QStringLiteral("?"); }
QString target(Reference r) { return r == Reference::target ? QObject::tr("to ") : QString(); }

struct Sentence {
    QString operator()(const MoveInTime& m) const {
        const QString law =
            m.law == Law::trapezoid
                ? QString()
                : QStringLiteral(", ") + QString::fromUtf8(laws[static_cast<std::size_t>(m.law)].label).toLower();
        return QObject::tr("move %1%2 in %3%4")
            .arg(target(m.reference), or_question(m.distance), or_question(m.duration), law);
    }
    QString operator()(const MoveByLimits& m) const {
        return QObject::tr("move %1%2 at up to %3")
            .arg(target(m.reference), or_question(m.distance), or_question(m.speed));
    }
    QString operator()(const SpeedChange& c) const {
        return QObject::tr("change to %1 in %2").arg(or_question(c.speed), or_question(c.duration));
    }
    QString operator()(const ConstantSpeed& c) const {
        return QObject::tr("onwards for %1")
            .arg(or_question(c.distance.given() ? static_cast<const QuantityBase&>(c.distance) : c.duration));
    }
    QString operator()(const Jog& j) const {
        return QObject::tr("jog at %1 for %2").arg(or_question(j.speed), or_question(j.duration));
    }
    QString operator()(const Dwell& d) const {
        return QObject::tr("dwell %1").arg(or_question(d.duration)) +
               (d.brake_holds ? QObject::tr(", brake holds") : QString());
    }
    QString operator()(const Repeat& r) const {
        return QObject::tr("the %1 before, %2 times in all").arg(or_question(r.segments), or_question(r.times));
    }
    QString operator()(const Trace& t) const {
        return QObject::tr("trace %1, %2 samples").arg(qs(t.name)).arg(t.samples.rows());
    }
    QString operator()(const PlannedPath& p) const {
        return QObject::tr("path of %1, %2 knots").arg(qs(p.name)).arg(p.knots.rows());
    }
};

// What fits into a column.
struct ShortName {
    QString operator()(const MoveInTime& m) const {
        return m.reference == Reference::target ? QObject::tr("move to") : QObject::tr("move");
    }
    QString operator()(const MoveByLimits& m) const {
        return m.reference == Reference::target ? QObject::tr("move to, limits") : QObject::tr("move, limits");
    }
    QString operator()(const SpeedChange& c) const { return QObject::tr("to %1").arg(or_question(c.speed)); }
    QString operator()(const ConstantSpeed&) const { return QObject::tr("onwards"); }
    QString operator()(const Jog& j) const { return QObject::tr("jog %1").arg(or_question(j.speed)); }
    QString operator()(const Dwell& d) const {
        return d.brake_holds ? QObject::tr("dwell, brake") : QObject::tr("dwell");
    }
    QString operator()(const Repeat& r) const {
        return QObject::tr("%1 before × %2").arg(or_question(r.segments), or_question(r.times));
    }
    QString operator()(const Trace& t) const { return QObject::tr("trace %1").arg(qs(t.name)); }
    QString operator()(const PlannedPath& p) const { return QObject::tr("path %1").arg(qs(p.name)); }
};

// The quantities behind the cells; nothing where a kind of segment has none.
const QuantityBase* own_distance(const Segment& s) {
    return std::visit(
        [](const auto& held) -> const QuantityBase* {
            if constexpr (requires { held.distance; })
                return &held.distance;
            else
                return nullptr;
        },
        s.what);
}
const QuantityBase* own_time(const Segment& s) {
    return std::visit(
        [](const auto& held) -> const QuantityBase* {
            if constexpr (requires { held.duration; })
                return &held.duration;
            else
                return nullptr;
        },
        s.what);
}

} // namespace

QString segment_sentence(const Segment& s) {
    QString text = std::visit(Sentence{}, s.what);
    if (s.payload.given()) text += QObject::tr(", from here %1").arg(qs(s.payload.text));
    if (s.process_force_end.given())
        text += QObject::tr(", pushing %1 to %2")
                    .arg(s.process_force.given() ? qs(s.process_force.text) : QStringLiteral("0"),
                        qs(s.process_force_end.text));
    else if (s.process_force.given())
        text += QObject::tr(", pushing %1").arg(qs(s.process_force.text));
    return text;
}

// The line of a cell is the line of a form: it writes to the document while one types.
class SegmentDelegate : public PaddedDelegate {
  public:
    explicit SegmentDelegate(SegmentTable& table) : PaddedDelegate(4, 6, &table), table_(table) {}

    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex& index) const override {
        auto* e = new QuantityEdit(table_.document_, table_.path_of(index.row(), index.column()), parent);
        e->setObjectName(QStringLiteral("cell-edit"));
        e->setAccessibleName(table_.horizontalHeaderItem(index.column())->text());
        if (!e->show_draft()) e->setText(index.data(Qt::UserRole).toString());
        e->setStyleSheet(QStringLiteral("padding: 0 3px; border-radius: 3px; min-height: 0;"));
        connect(e, &QuantityEdit::problem_changed, &table_, [this, e] {
            emit table_.refused(e->wrong() ? QObject::tr("\"%1\": %2").arg(e->text(), e->problem()) : QString());
        });
        return e;
    }
    void setEditorData(QWidget*, const QModelIndex&) const override {} // the line keeps what is typed
    void setModelData(QWidget* editor, QAbstractItemModel*, const QModelIndex&) const override {
        auto* e = static_cast<QuantityEdit*>(editor);
        table_.document_.end_typing();
        if (e->wrong()) emit table_.refused(QObject::tr("\"%1\" is not in use: %2").arg(e->text(), e->problem()));
    }

  protected:
    bool eventFilter(QObject* object, QEvent* event) override {
        if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape)
            static_cast<QuantityEdit*>(object)->restore();
        return PaddedDelegate::eventFilter(object, event);
    }

  private:
    SegmentTable& table_;
};

SegmentTable::SegmentTable(Document& document, QWidget* parent) : QTableWidget(parent), document_(document) {
    setObjectName(QStringLiteral("segments"));
    setAccessibleName(tr("Segments of the cycle"));
    setColumnCount(columns);
    setItemDelegate(new SegmentDelegate(*this));
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setEditTriggers(
        QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed | QAbstractItemView::AnyKeyPressed);
    setTabKeyNavigation(false);
    setShowGrid(false);
    setWordWrap(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(23);
    verticalHeader()->setMinimumSectionSize(20);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setMinimumSectionSize(20);
    horizontalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    horizontalHeader()->setSectionResizeMode(what, QHeaderView::Stretch);
    setColumnWidth(number, 30);
    setColumnWidth(distance, 80);
    setColumnWidth(time, 66);
    setColumnWidth(carried, 68);
    horizontalHeader()->setFont(type_face(11));
    setStyleSheet(QStringLiteral("QHeaderView::section { padding: 1px 2px; }"));
    connect(this, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row != before) emit row_changed(row);
    });
}

const QuantityBase* SegmentTable::behind(int row, int column) const {
    const auto& segments = document_.axis().cycle.segments;
    if (row < 0 || row >= static_cast<int>(segments.size())) return nullptr;
    const Segment& s = segments[static_cast<std::size_t>(row)];
    if (column == distance) return own_distance(s);
    if (column == time) return own_time(s);
    if (column != carried || std::holds_alternative<Repeat>(s.what)) return nullptr;
    if (motion_of(document_.axis().mechanism).has & Motion::payload) return &s.payload;
    return &s.process_force;
}

QString SegmentTable::path_of(int row, int column) const {
    if (!behind(row, column)) return {};
    const bool payload = motion_of(document_.axis().mechanism).has & Motion::payload;
    const char* field = column == distance ? "what/distance"
                        : column == time   ? "what/duration"
                        : payload          ? "payload"
                                           : "process_force";
    return document_.axis_path() + QStringLiteral("/cycle/segments/%1/").arg(row) + QLatin1String(field);
}

void SegmentTable::refresh() {
    if (!document_.has_axis()) return setRowCount(0);
    const Axis& axis = document_.axis();
    const Motion motion = motion_of(axis.mechanism);
    const QStringList heads{QString(), tr("segment"), motion.rotary ? tr("angle") : tr("distance"), tr("time"),
        motion.has & Motion::payload            ? tr("payload")
        : motion.rotary && !motion.linear_force ? tr("torque")
                                                : tr("force")};
    const QSignalBlocker quiet(this);
    for (int c = 0; c < columns; ++c) {
        if (!horizontalHeaderItem(c)) setHorizontalHeaderItem(c, new QTableWidgetItem);
        horizontalHeaderItem(c)->setText(heads[c]);
        horizontalHeaderItem(c)->setTextAlignment(
            c == number || c >= distance ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignLeft | Qt::AlignVCenter);
    }
    const auto& segments = axis.cycle.segments;
    played_.assign(segments.size(), -1);
    if (const Trajectory* planned = document_.assessment().known_motion())
        for (std::size_t k = planned->phases.size(); k-- > 0;)
            played_[planned->phases[k].segment] = static_cast<int>(k);
    setRowCount(static_cast<int>(segments.size()));
    for (int row = 0; row < rowCount(); ++row) fill(row);
}

void SegmentTable::fill(int row) {
    const Segment& s = document_.axis().cycle.segments[static_cast<std::size_t>(row)];
    QString tip = segment_sentence(s);
    if (!s.note.empty()) tip += QLatin1Char('\n') + qs(s.note);
    const QString name = std::visit(ShortName{}, s.what);
    put(row, number, QString::number(row + 1), true, tip);
    put(row, what, s.note.empty() ? name : QStringLiteral("%1 · %2").arg(name, qs(s.note)), true, tip);
    const Trajectory* planned = document_.assessment().known_motion();
    const int phase = played_[static_cast<std::size_t>(row)];
    const UnitSystem system = document_.machine().unit_system;
    const bool rotary = motion_of(document_.axis().mechanism).rotary;
    for (const int column : {distance, time, carried}) {
        const QuantityBase* q = behind(row, column);
        const QString text = q ? qs(q->text) : QString();
        if (const Draft* draft = document_.drafts().at(path_of(row, column))) {
            put(row, column, draft->text, true, qs(draft->problem.message), theme().over);
            continue;
        }
        if (!text.isEmpty() || !planned || phase < 0 || column == carried) {
            put(row, column, text, true, tip);
            continue;
        }
        // what follows from the rest
        const Phase& f = planned->phases[static_cast<std::size_t>(phase)];
        const Piece& last = planned->at(f.start + f.duration * (1 - 1e-9));
        const double moved = last.position(last.duration) - planned->at(f.start + f.duration * 1e-9).position(0);
        if (std::holds_alternative<Dwell>(s.what) && column == distance)
            put(row, column, QString(), true, tip);
        else if (column == time)
            put(row, column, qs(format_quantity(f.duration, Kind::time, system)), false, tip);
        else
            put(row, column, qs(format_quantity(moved, motion_kind(Order::position, rotary), system)), false, tip);
    }
}

void SegmentTable::put(int row, int column, const QString& text, bool typed, const QString& tip, const QColor& wrong) {
    QTableWidgetItem* i = item(row, column);
    if (!i) {
        i = new QTableWidgetItem;
        if (column == number || column >= distance) i->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        setItem(row, column, i);
    }
    // a tolerance is read in the form; the cell has no room for it
    const QString shown = column >= distance
                              ? text.section(QStringLiteral("±"), 0, 0).section(QStringLiteral("+/-"), 0, 0).trimmed()
                              : text;
    if (i->text() != shown) i->setText(shown);
    if (i->data(Qt::UserRole).toString() != (typed ? text : QString()))
        i->setData(Qt::UserRole, typed ? text : QString());
    const QColor colour = wrong.isValid() ? wrong : typed && column != number ? theme().ink : theme().second;
    if (i->foreground().color() != colour) i->setForeground(colour);
    if (i->font().strikeOut() != wrong.isValid()) { // not by colour alone
        QFont face = font();
        face.setStrikeOut(wrong.isValid());
        i->setFont(face);
    }
    if (const QString plain = plain_tip(tip); i->toolTip() != plain) i->setToolTip(plain);
    const bool editable = !path_of(row, column).isEmpty();
    const Qt::ItemFlags flags =
        Qt::ItemIsSelectable | Qt::ItemIsEnabled | (editable ? Qt::ItemIsEditable : Qt::NoItemFlags);
    if (i->flags() != flags) i->setFlags(flags);
}

void SegmentTable::select(int row) {
    setCurrentCell(row, currentColumn() < 0 ? static_cast<int>(what) : currentColumn());
}

} // namespace fulmox::app

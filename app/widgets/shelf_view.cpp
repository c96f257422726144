#include "app/widgets/shelf_view.h"

#include "app/part_shelf.h"
#include "app/theme.h"
#include "app/widgets/padded.h"
#include "app/widgets/paint.h"
#include "app/words.h"
#include "core/files/part_table.h"
#include "core/quantity/columns.h"
#include "core/quantity/format.h"

#include <QApplication>
#include <QClipboard>
#include <QDir>
#include <QDragEnterEvent>
#include <QFile>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMimeData>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSortFilterProxyModel>
#include <QSpinBox>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <numeric>
#include <sstream>

namespace fulmox::app {

namespace {

constexpr std::size_t most_beside = 4;

// What a table shows of a part of this kind beside price and mass.
std::vector<std::string> shown_fields(const PartKind& kind) {
    const std::string_view of = kind.key;
    if (of == "gearhead")
        return {"/type", "/ratio", "/rated_torque", "/peak_torque", "/top_speed", "/backlash", "/efficiency"};
    if (of == "coupling")
        return {"/type", "/allowable_torque", "/smallest_bore", "/largest_bore", "/stiffness", "/top_speed"};
    if (of == "brake") return {"/static_torque", "/dynamic_torque", "/apply_time", "/stop_energy", "/inertia"};
    if (of == "drive")
        return {"/continuous_current", "/peak_current", "/peak_time", "/most_current", "/lowest_voltage",
            "/highest_voltage"};
    if (of == "supply") return {"/type", "/voltage", "/current", "/peak_current", "/power", "/capacitance"};
    return {};
}

QString value_text(const FieldRef& f, UnitSystem units) {
    if (!f.active) return {};
    if (f.quantity)
        return !f.quantity->given()     ? QString()
               : f.kind == Kind::number ? qs(f.quantity->text)
                                        : qs(format_quantity(f.quantity->si, f.kind, units, 3));
    if (f.type == FieldRef::Type::choice)
        return QString::fromUtf8(f.choice_spec.options[static_cast<std::size_t>(f.chosen())].label);
    if (f.variant) return QString::fromUtf8(f.variant.kinds()[static_cast<std::size_t>(f.chosen())].label);
    if (f.text) return qs(*f.text);
    if (f.flag) return *f.flag ? QObject::tr("yes") : QString();
    return {};
}

class StateCells : public PaddedDelegate {
  public:
    explicit StateCells(QObject* parent) : PaddedDelegate(6, 15, parent) {}
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        PaddedDelegate::paint(p, option, index);
        const QVariant state = index.data(ShelfModel::state_role);
        if (state.isValid())
            draw_state(*p, QRectF(option.rect.left() + 8, option.rect.center().y() - 5, 10, 10),
                static_cast<LimitState>(state.toInt()));
    }
};

class NameCells : public PaddedDelegate {
  public:
    explicit NameCells(QObject* parent) : PaddedDelegate(6, 2, parent) {}
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        PaddedDelegate::paint(p, option, index);
        if (index.data(ShelfModel::mark_role).toBool())
            p->fillRect(QRect(option.rect.left(), option.rect.top() + 3, 4, option.rect.height() - 6), theme().accent);
    }
};

} // namespace

ShelfModel::ShelfModel(Document& document, const PartKind& kind, QObject* parent)
    : QAbstractTableModel(parent), document_(document), kind_(kind) {
    const std::vector<PartField> all = part_fields(kind);
    for (const std::string& path : shown_fields(kind)) {
        const auto it = std::find_if(all.begin(), all.end(), [&](const PartField& f) { return f.path == path; });
        if (it != all.end()) fields_.push_back(*it);
    }
}

void ShelfModel::read() {
    auto parts = std::make_shared<PartLists>();
    std::vector<QString> origins;
    const auto add = [&](const PartLists& from, const QString& origin) {
        const std::size_t count = kind_.own(const_cast<PartLists&>(from)).size(); // only looked at
        for (std::size_t i = 0; i < count; ++i) kind_.keep(*parts, from, i);
        origins.insert(origins.end(), count, origin);
    };
    add(part_shelf().shipped(), tr("Aviary catalogue"));
    for (const UserCatalogue& c : part_shelf().own()) add(c.parts, c.name);
    project_from_ = origins.size();
    add(document_.machine(), tr("this project"));
    parts_ = std::move(parts);
    origins_ = std::move(origins);
    const UnitSystem units = document_.machine().unit_system;
    cells_.assign(origins_.size(), {});
    for (std::size_t i = 0; i < cells_.size(); ++i) {
        const FieldRefs all = walk(kind_.own(const_cast<PartLists&>(*parts_)).shared_entry(i));
        for (const PartField& f : fields_) {
            const auto it = std::find_if(all.begin(), all.end(), [&](const FieldRef& x) { return x.path == f.path; });
            cells_[i].push_back(it == all.end()
                                    ? Shown{{}, std::nan("")}
                                    : Shown{value_text(*it, units),
                                          it->quantity && it->quantity->given() ? it->quantity->si : std::nan("")});
        }
    }
}

void ShelfModel::follow() {
    const Machine& m = document_.machine();
    const bool same = seen_ && revision_ == part_shelf().revision() && seen_->unit_system == m.unit_system &&
                      static_cast<const PartLists&>(*seen_) == static_cast<const PartLists&>(m);
    seen_ = document_.snapshot();
    if (same) return;
    revision_ = part_shelf().revision();
    beginResetModel();
    read();
    judged_.clear();
    ranks_.clear();
    endResetModel();
}

const std::string& ShelfModel::part_name(int row) const {
    return kind_.name(const_cast<PartLists&>(*parts_), static_cast<std::size_t>(row)); // only looked at
}
bool ShelfModel::of_project(int row) const { return static_cast<std::size_t>(row) >= project_from_; }

const Candidate* ShelfModel::candidate(int row) const {
    return static_cast<std::size_t>(row) < judged_.size() ? &judged_[static_cast<std::size_t>(row)] : nullptr;
}

int ShelfModel::carrying() const {
    return static_cast<int>(
        std::count_if(judged_.begin(), judged_.end(), [](const Candidate& c) { return carries(c.state); }));
}

void ShelfModel::judge(std::size_t place) {
    place_ = place;
    if (!document_.has_axis() || !*kind_.at || origins_.empty()) return;
    const auto changed = [this] { emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1)); };
    work_.run(
        this,
        [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()), parts = parts_,
            count = origins_.size(), &kind = kind_, place](const GoOn& go_on) {
            std::vector<std::size_t> which(count);
            std::iota(which.begin(), which.end(), std::size_t{0});
            Result out;
            out.judged =
                judge_parts(*machine, axis, kind, place, *parts, which, go_on, [&](double s) { go_on.done(s); });
            if (out.judged.empty()) return out;
            std::vector<double> prices;
            for (const std::size_t i : which)
                prices.push_back(kind.price(*parts, i).given() ? kind.price(*parts, i).si : std::nan(""));
            out.ranks.resize(count);
            std::size_t next = 0;
            for (const std::size_t i : cheapest_first(prices, out.judged)) out.ranks[i] = ++next;
            return out;
        },
        [this, changed](Result r) {
            if (r.judged.size() != origins_.size()) return; // the shelf has changed meanwhile, and is judged again
            judged_ = std::move(r.judged);
            ranks_ = std::move(r.ranks);
            changed();
            emit judged();
        });
    if (!work_.running()) return;
    judged_.clear(); // what was said of another state of the axis does not stay
    ranks_.clear();
    changed();
    emit judged();
}

bool ShelfModel::in_use(int row) const {
    if (!document_.has_axis() || place_ >= kind_.places(document_.axis())) return false;
    return !part_name(row).empty() && kind_.chosen_name(const_cast<Axis&>(document_.axis()), place_) == part_name(row);
}

QString ShelfModel::provenance(int row) const {
    const Provenance& p =
        kind_.provenance(const_cast<PartLists&>(*parts_), static_cast<std::size_t>(row)); // only looked at
    QStringList words{from(row)};
    if (!p.file.empty() && qs(p.file) != from(row)) words << qs(p.file);
    if (!p.line.empty()) words << tr("line %1").arg(qs(p.line));
    if (!p.date.empty()) words << tr("read on %1").arg(qs(p.date));
    if (!p.note.empty()) words << qs(p.note);
    return words.join(QStringLiteral(", "));
}

void ShelfModel::toggle_mark(int row) {
    const std::string& part = part_name(row);
    if (const auto it = std::find(marked_.begin(), marked_.end(), part); it != marked_.end())
        marked_.erase(it);
    else if (marked_.size() < most_beside)
        marked_.push_back(part);
    emit dataChanged(index(row, 0), index(row, 0));
}

int ShelfModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(origins_.size());
}
int ShelfModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : first_field + static_cast<int>(fields_.size()) + 1;
}

QVariant ShelfModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    static constexpr const char* heads[] = {"", "#", "Price", "Mass", "Tightest", "Limit"};
    const int field = section - first_field;
    const bool text = section == name || section == limit || section == columnCount() - 1 ||
                      (field >= 0 && field < static_cast<int>(fields_.size()) &&
                          fields_[static_cast<std::size_t>(field)].kind == Kind::illegal);
    if (role == Qt::TextAlignmentRole) return int((text ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    if (role == Qt::ToolTipRole) {
        if (section == rank) return tr("Cheapest that carries the axis first");
        if (section == tightest) return tr("The tightest of the limits that such a part decides; hover for why");
        if (section == name) return tr("A bar before it: side by side (Space)");
        return {};
    }
    if (role != Qt::DisplayRole) return {};
    if (section == name) return tr(kind_.label);
    if (section < first_field) return tr(heads[section]);
    if (field < static_cast<int>(fields_.size())) return qs(fields_[static_cast<std::size_t>(field)].label);
    return tr("From");
}

QVariant ShelfModel::data(const QModelIndex& at, int role) const {
    if (!at.isValid()) return {};
    const auto row = static_cast<std::size_t>(at.row());
    const int column = at.column(), field = column - first_field;
    const Candidate* c = candidate(at.row());
    const auto number = [](const QuantityBase& q) { return q.given() ? q.si : std::nan(""); };
    const bool is_field = field >= 0 && field < static_cast<int>(fields_.size());
    switch (role) {
    case Qt::DisplayRole:
        if (column == name) return qs(part_name(at.row()));
        if (column == rank) return row < ranks_.size() ? QString::number(ranks_[row]) : QStringLiteral("–");
        if (column == price) {
            const double v = number(kind_.price(*parts_, row));
            return std::isnan(v) ? QStringLiteral("–") : qs(format_number(v));
        }
        if (column == mass) {
            const double v = number(kind_.mass(*parts_, row));
            return std::isnan(v) ? QStringLiteral("–")
                                 : qs(format_quantity(v, Kind::mass, document_.machine().unit_system, 3));
        }
        if (column == tightest) {
            if (!*kind_.at) return tr("judged later");
            if (!c) return judging() ? tr("being judged…") : QStringLiteral("–");
            return QStringLiteral("%1  %2").arg(QString::fromUtf8(state_words(c->state)), qs(use_text(c->tightest)));
        }
        if (column == limit) return c ? qs(c->limit) : QString();
        if (is_field) {
            const QString& text = cells_[row][static_cast<std::size_t>(field)].text;
            return text.isEmpty() ? QStringLiteral("–") : text;
        }
        return origins_[row];
    case sort_role: {
        const double last = 1e300;
        double v = std::nan("");
        if (column == rank)
            v = row < ranks_.size() ? static_cast<double>(ranks_[row]) : last;
        else if (column == price)
            v = number(kind_.price(*parts_, row));
        else if (column == mass)
            v = number(kind_.mass(*parts_, row));
        else if (column == tightest)
            v = c ? static_cast<int>(c->state) * 1e6 + (std::isnan(c->tightest) ? 1e5 : std::min(c->tightest, 1e5))
                  : last;
        else if (is_field && fields_[static_cast<std::size_t>(field)].kind != Kind::illegal)
            v = cells_[row][static_cast<std::size_t>(field)].value;
        else
            return data(at, Qt::DisplayRole);
        return std::isnan(v) ? last : v;
    }
    case Qt::TextAlignmentRole:
        return headerData(column, Qt::Horizontal, Qt::TextAlignmentRole);
    case Qt::FontRole:
        return column == name && in_use(at.row()) ? QVariant(type_face(13, Weight::strong)) : QVariant();
    case Qt::BackgroundRole:
        return in_use(at.row()) ? QVariant(theme().accent_ground) : QVariant();
    case state_role:
        return column == tightest && c ? QVariant(static_cast<int>(c->state)) : QVariant();
    case mark_role:
        return std::find(marked_.begin(), marked_.end(), part_name(at.row())) != marked_.end();
    case Qt::ToolTipRole:
        if (column == tightest && c)
            return plain_tip((c->limit.empty() ? QString() : qs(c->limit) + QStringLiteral(": ")) +
                             qs(c->reason.in(document_.machine().unit_system)));
        if (column == name) return plain_tip(provenance(at.row()));
        return {};
    case Qt::AccessibleTextRole:
        return column == tightest && c ? QVariant(QString::fromUtf8(state_words(c->state))) : QVariant();
    default:
        return {};
    }
}

// Rows that have every word of the filter in name, series, type or origin.
class ShelfView::Order : public QSortFilterProxyModel {
  public:
    Order(const ShelfModel& model, QObject* parent) : QSortFilterProxyModel(parent), model_(model) {}
    void set(const QString& words) {
        words_ = words.toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
        invalidateFilter();
    }

  protected:
    bool filterAcceptsRow(int row, const QModelIndex&) const override {
        QString all;
        for (int c = 0; c < model_.columnCount(); ++c)
            if (c == ShelfModel::name || c >= ShelfModel::first_field)
                all += model_.data(model_.index(row, c), Qt::DisplayRole).toString().toLower() + QLatin1Char(' ');
        return std::all_of(words_.begin(), words_.end(), [&](const QString& w) { return all.contains(w); });
    }

  private:
    const ShelfModel& model_;
    QStringList words_;
};

ShelfView::ShelfView(Document& document, const char* kind, QWidget* parent)
    : QWidget(parent), document_(document), model_(new ShelfModel(document, part_kind(kind), this)),
      order_(new Order(*model_, this)) {
    setAcceptDrops(true);
    const QString things = QString::fromUtf8(model_->kind().lists).toLower();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 4, 0, 0);
    box->setSpacing(4);
    auto* line = new QHBoxLayout;
    line->setSpacing(8);
    count_ = new QLabel;
    count_->setObjectName(QStringLiteral("second"));
    count_->setFont(type_face(12));
    line->addWidget(count_);
    words_ = new QLineEdit;
    words_->setObjectName(QStringLiteral("shelf-words-%1").arg(QString::fromUtf8(kind)));
    words_->setPlaceholderText(tr("Filter"));
    words_->setAccessibleName(tr("Words in name, series, type or source of %1").arg(things));
    words_->setClearButtonEnabled(true);
    connect(words_, &QLineEdit::textChanged, this, [this] {
        order_->set(words_->text());
        say();
    });
    line->addWidget(words_, 1);
    if (model_->kind().key == std::string_view("gearhead")) {
        place_ = new QSpinBox;
        place_->setAccessibleName(tr("Stage"));
        place_->setToolTip(tr("Which stage it takes the place of, the motor side first; the last one adds a stage"));
        place_->setPrefix(tr("stage "));
        place_->setRange(1, 1);
        place_->setFocusPolicy(Qt::StrongFocus);
        place_->installEventFilter(this); // a wheel that rolls over it is not meant
        connect(place_, &QSpinBox::valueChanged, this, [this] { judge_now(); });
        line->addWidget(place_);
    }
    const auto link = [&](const QString& text, const QString& tip, auto act) {
        auto* b = new QPushButton(text);
        b->setObjectName(QStringLiteral("link"));
        b->setToolTip(tip);
        connect(b, &QPushButton::clicked, this, act);
        line->addWidget(b);
        return b;
    };
    link(tr("Import…"), tr("Takes in a parts list, CSV or JSON"), [this] { emit import_requested(); });
    if (place_)
        link(tr("Sheet"), tr("The sheet of this stage, on page 1"), [this] {
            if (document_.has_axis() && place() < document_.axis().stages.size()) emit sheet_requested();
        });
    keep_ = link(tr("Keep in project"), tr("Keeps the part of this axis among the project's own"),
        [this] { keep_in_project(); });
    library_ = link(
        tr("Keep in my library"), tr("Keeps the part of this axis for other projects"), [this] { keep_in_library(); });
    use_ = new QPushButton(tr("Use it"));
    use_->setObjectName(QStringLiteral("primary"));
    use_->setAccessibleName(tr("Use the chosen %1").arg(QString::fromUtf8(model_->kind().label).toLower()));
    connect(use_, &QPushButton::clicked, this, &ShelfView::take_current);
    line->addWidget(use_);
    const bool of_axis = *model_->kind().at;
    box->addLayout(line);
    if (!of_axis)
        for (QPushButton* b : {keep_, library_, use_}) b->hide();
    note_ = new QLabel;
    note_->setObjectName(QStringLiteral("second"));
    note_->setFont(type_face(12));
    note_->setWordWrap(true);
    note_->setTextFormat(Qt::PlainText);
    note_->hide();
    box->addWidget(note_);
    table_ = new QTableView;
    table_->setObjectName(QStringLiteral("shelf-%1").arg(QString::fromUtf8(kind)));
    table_->setAccessibleName(
        of_axis ? tr("Catalogue of %1, judged on this axis").arg(things) : tr("Catalogue of %1").arg(things));
    order_->setSourceModel(model_);
    order_->setSortRole(ShelfModel::sort_role);
    table_->setModel(order_);
    table_->setSortingEnabled(true);
    table_->sortByColumn(ShelfModel::rank, Qt::AscendingOrder);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setShowGrid(false);
    table_->setTabKeyNavigation(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(23);
    table_->horizontalHeader()->setHighlightSections(false);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    table_->horizontalHeader()->setStretchLastSection(true);
    auto* cells = new PaddedDelegate(6, 15, table_);
    cells->numbers = true;
    table_->setItemDelegate(cells);
    table_->setItemDelegateForColumn(ShelfModel::name, new NameCells(table_));
    table_->setItemDelegateForColumn(ShelfModel::tightest, new StateCells(table_));
    table_->setToolTip(tr("Enter or a double click takes a part; Space lays it beside the others."));
    table_->installEventFilter(this);
    for (const auto& [column, width] :
        {std::pair(ShelfModel::name, 140), std::pair(ShelfModel::rank, 40), std::pair(ShelfModel::price, 62),
            std::pair(ShelfModel::mass, 76), std::pair(ShelfModel::tightest, 132), std::pair(ShelfModel::limit, 160)})
        table_->setColumnWidth(column, width);
    for (int c = ShelfModel::first_field; c < model_->columnCount(); ++c) table_->setColumnWidth(c, 112);
    box->addWidget(table_, 2);
    beside_ = new QTableWidget;
    beside_->setObjectName(QStringLiteral("beside-%1").arg(QString::fromUtf8(kind)));
    beside_->setAccessibleName(tr("%1 side by side").arg(QString::fromUtf8(model_->kind().lists)));
    beside_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    beside_->setSelectionMode(QAbstractItemView::NoSelection);
    beside_->setShowGrid(false);
    beside_->verticalHeader()->hide();
    beside_->verticalHeader()->setDefaultSectionSize(21);
    beside_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    beside_->setTabKeyNavigation(false);
    beside_->hide();
    box->addWidget(beside_, 3);
    later_.setSingleShot(true);
    later_.setInterval(120);
    connect(&later_, &QTimer::timeout, this, &ShelfView::judge_now);
    connect(table_, &QTableView::doubleClicked, this, [this] { take_current(); });
    connect(model_, &ShelfModel::judged, this, [this] {
        say();
        lay_beside();
    });
    connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this,
        [this] { use_->setEnabled(table_->currentIndex().isValid()); });
    use_->setEnabled(false);
    connect(&document_, &Document::changed, this, [this] {
        if (isVisible()) later_.start();
    });
}

std::size_t ShelfView::place() const { return place_ ? static_cast<std::size_t>(place_->value() - 1) : 0; }

int ShelfView::current_row() const {
    const QModelIndex at = table_->currentIndex();
    return at.isValid() ? order_->mapToSource(at).row() : -1;
}

void ShelfView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    connect(&part_shelf(), &PartShelf::changed, this, &ShelfView::judge_now, Qt::UniqueConnection);
    part_shelf().reload();
    judge_now();
}

void ShelfView::judge_now() {
    if (!isVisible()) return;
    if (place_ && document_.has_axis()) {
        const QSignalBlocker quiet(place_);
        place_->setRange(1, static_cast<int>(document_.axis().stages.size()) + 1);
    }
    const int row = current_row();
    const std::string was = row >= 0 ? model_->part_name(row) : std::string();
    model_->follow();
    for (int r = 0; !was.empty() && r < order_->rowCount(); ++r)
        if (model_->part_name(order_->mapToSource(order_->index(r, 0)).row()) == was) {
            table_->setCurrentIndex(order_->index(r, 0));
            break;
        }
    model_->judge(place());
    say();
    lay_beside();
}

void ShelfView::show_row(int row) {
    const QModelIndex at = order_->mapFromSource(model_->index(row, 0));
    if (!at.isValid()) { // filtered out
        words_->clear();
        return table_->setCurrentIndex(order_->mapFromSource(model_->index(row, 0)));
    }
    table_->setCurrentIndex(at);
}

void ShelfView::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() && event->mimeData()->urls().front().isLocalFile()) event->acceptProposedAction();
}

void ShelfView::dropEvent(QDropEvent* event) {
    if (event->mimeData()->hasUrls()) emit dropped(event->mimeData()->urls().front().toLocalFile());
}

void ShelfView::say() {
    QStringList problems;
    for (const UserCatalogue& c : part_shelf().own())
        if (!c.problem.isEmpty()) problems << tr("%1: %2").arg(c.name, c.problem);
    const QString other = differs();
    if (!other.isEmpty()) problems.prepend(other);
    note_->setText(problems.join(QLatin1Char('\n')));
    note_->setVisible(!problems.isEmpty());
    const int all = model_->rowCount(), shown = order_->rowCount();
    const QString of = shown < all ? tr("%1 of %2 shown").arg(shown).arg(all) : QString();
    if (!*model_->kind().at)
        count_->setText(of.isEmpty() ? tr("%1 in all").arg(all) : of);
    else if (model_->judging())
        count_->setText(tr("being judged…"));
    else
        count_->setText(tr("%1 of %2 carry it").arg(model_->carrying()).arg(all) +
                        (of.isEmpty() ? QString() : QStringLiteral(", ") + of));
}

QString ShelfView::differs() const {
    const PartKind& kind = model_->kind();
    if (!document_.has_axis() || place() >= kind.places(document_.axis())) return {};
    const std::string& name = kind.chosen_name(const_cast<Axis&>(document_.axis()), place()); // only looked at
    if (name.empty()) return {};
    const auto i = find_part(kind, model_->parts(), name);
    if (!i) return {};
    const auto differences = part_differences(kind, document_.axis(), place(), model_->parts(), *i);
    if (differences.empty()) return {};
    QStringList words;
    for (std::size_t k = 0; k < std::min<std::size_t>(differences.size(), 3); ++k)
        words << tr("%1 %2 here, %3 there")
                     .arg(qs(differences[k].field), qs(differences[k].here), qs(differences[k].there));
    if (differences.size() > 3) words << tr("and %1 more").arg(differences.size() - 3);
    return tr("%1 is not as in %2: %3. Nothing is swapped; Enter on its row takes that of the catalogue.")
        .arg(qs(name), model_->from(static_cast<int>(*i)), words.join(QStringLiteral("; ")));
}

bool ShelfView::says_something(const Axis& axis, std::size_t at) const {
    const PartKind& kind = model_->kind();
    if (at >= kind.places(axis)) return false;
    if (!kind.chosen_name(const_cast<Axis&>(axis), at).empty()) return true; // only looked at
    PartLists blank;
    kind.own(blank).insert(0);
    return !part_differences(kind, axis, at, blank, 0).empty();
}

void ShelfView::take_current() {
    const int row = current_row();
    const PartKind& kind = model_->kind();
    if (row < 0 || !*kind.at || !document_.has_axis()) return;
    const std::size_t at = place(), axis = static_cast<std::size_t>(document_.axis_index());
    const PartLists& parts = model_->parts();
    const auto i = static_cast<std::size_t>(row);
    const auto take = [&](Machine& m) {
        Axis& a = m.axes[axis];
        // what was typed by hand stays among the project's own
        if (says_something(a, at)) {
            const auto known = find_part(kind, parts, kind.chosen_name(a, at));
            if (!known || !part_differences(kind, a, at, parts, *known).empty()) {
                kind.keep_chosen(m, a, at);
                std::string& name = kind.name(m, kind.own(m).size() - 1);
                if (name.empty()) name = "Typed by hand";
                const std::string wanted = name;
                for (int n = 2; find_part(kind, parts, name); ++n) name = wanted + " (" + std::to_string(n) + ")";
            }
        }
        kind.put(a, at, parts, i);
    };
    const QString words = tr("%1 %2").arg(QString::fromUtf8(kind.label).toLower(), qs(model_->part_name(row)));
    if (kind.key == std::string_view("gearhead") && at >= document_.axis().stages.size())
        document_.edit_list(words, {document_.axis_path() + QStringLiteral("/stages"), -1, static_cast<int>(at)}, take);
    else
        document_.edit(words, take);
}

void ShelfView::keep_in_project() {
    const PartKind& kind = model_->kind();
    if (!document_.has_axis()) return;
    if (!says_something(document_.axis(), place())) {
        emit refused(tr("this axis has no %1 yet that could be kept").arg(QString::fromUtf8(kind.label).toLower()));
        return;
    }
    document_.edit(tr("keep the %1 in the project").arg(QString::fromUtf8(kind.label).toLower()), [&](Machine& m) {
        kind.keep_chosen(m, m.axes[static_cast<std::size_t>(document_.axis_index())], place());
        std::string& name = kind.name(m, kind.own(m).size() - 1);
        const std::string wanted = name.empty() ? "Typed by hand" : name;
        name = wanted;
        for (int n = 2; find_part(kind, model_->parts(), name); ++n) name = wanted + " (" + std::to_string(n) + ")";
    });
}

void ShelfView::keep_in_library() {
    const PartKind& kind = model_->kind();
    if (!document_.has_axis()) return;
    if (!says_something(document_.axis(), place())) {
        emit refused(tr("this axis has no %1 yet that could be kept").arg(QString::fromUtf8(kind.label).toLower()));
        return;
    }
    PartLists one;
    kind.keep_chosen(one, document_.axis(), place());
    const QString wrong = part_shelf().keep(tr("My parts"), one);
    if (!wrong.isEmpty()) emit refused(wrong);
}

void ShelfView::lay_beside() {
    const std::vector<std::string>& marked = model_->marked();
    beside_->setVisible(!marked.empty());
    if (marked.empty()) return;
    const PartKind& kind = model_->kind();
    PartLists& parts = const_cast<PartLists&>(model_->parts()); // only looked at
    const UnitSystem units = document_.machine().unit_system;
    struct Beside {
        QString name;
        FieldRefs fields;
        const Candidate* is;
    };
    std::vector<Beside> columns;
    for (const std::string& name : marked)
        if (const auto i = find_part(kind, parts, name))
            columns.push_back(
                {qs(name), walk(kind.own(parts).shared_entry(*i)), model_->candidate(static_cast<int>(*i))});
    std::vector<QStringList> rows;
    const auto row = [&](const QString& label, auto text) {
        QStringList cells{label};
        bool any = false;
        for (const Beside& c : columns) {
            const QString t = text(c);
            any = any || !t.isEmpty();
            cells << (t.isEmpty() ? QStringLiteral("–") : t);
        }
        if (any) rows.push_back(cells);
    };
    row(tr("Tightest"), [&](const Beside& c) {
        return c.is ? QStringLiteral("%1  %2  %3")
                          .arg(QString::fromUtf8(state_words(c.is->state)), qs(use_text(c.is->tightest)),
                              qs(c.is->limit))
                    : QString();
    });
    row(tr("Inertia ratio"), [&](const Beside& c) {
        return c.is && std::isfinite(c.is->ratio) ? qs(format_number(c.is->ratio, 3)) : QString();
    });
    row(tr("Peak torque of the motor"),
        [&](const Beside& c) { return c.is && std::isfinite(c.is->peak) ? qs(use_text(c.is->peak)) : QString(); });
    std::vector<std::string> paths;
    for (const Beside& c : columns)
        for (const FieldRef& f : c.fields)
            if (f.path != "/name" && !is_placed(kind, f.path.substr(f.path.rfind('/') + 1)) &&
                std::find(paths.begin(), paths.end(), f.path) == paths.end())
                paths.push_back(f.path);
    for (const std::string& path : paths) {
        QString label;
        for (const Beside& c : columns)
            for (const FieldRef& f : c.fields)
                if (f.path == path) label = qs(f.label());
        row(label, [&](const Beside& c) {
            for (const FieldRef& f : c.fields)
                if (f.path == path) return value_text(f, units);
            return QString();
        });
    }
    beside_->setColumnCount(static_cast<int>(columns.size()) + 1);
    beside_->setRowCount(static_cast<int>(rows.size()));
    QStringList heads{QString()};
    for (const Beside& c : columns) heads << c.name;
    beside_->setHorizontalHeaderLabels(heads);
    for (int r = 0; r < static_cast<int>(rows.size()); ++r)
        for (int c = 0; c < rows[static_cast<std::size_t>(r)].size(); ++c)
            beside_->setItem(r, c, new QTableWidgetItem(rows[static_cast<std::size_t>(r)][c]));
}

bool ShelfView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == place_ && event->type() == QEvent::Wheel && !place_->hasFocus()) {
        event->ignore();
        return true;
    }
    if (watched != table_ || event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
    const auto* key = static_cast<QKeyEvent*>(event);
    const int row = current_row();
    if (key->matches(QKeySequence::Paste)) {
        // what is pasted is read as a file is
        const QString text = QApplication::clipboard()->text();
        if (text.trimmed().isEmpty()) return true;
        const QString folder =
            QDir::temp().filePath(QStringLiteral("fulmox-%1").arg(QCoreApplication::applicationPid()));
        const QByteArray bytes = text.toUtf8();
        QFile file(folder + QStringLiteral("/pasted.csv"));
        if (QDir().mkpath(folder) && file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size() &&
            file.flush()) {
            file.close();
            emit dropped(file.fileName());
        } else {
            emit refused(tr("what was pasted could not be laid down: %1").arg(file.errorString()));
        }
        return true;
    }
    if (row < 0) return false;
    if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
        take_current();
        return true;
    }
    if (key->key() == Qt::Key_Space) {
        const bool full = model_->marked().size() >= most_beside;
        model_->toggle_mark(row);
        if (full && model_->marked().size() >= most_beside)
            emit refused(tr("%1 parts stand side by side already; Space on one of them takes it out").arg(most_beside));
        lay_beside();
        return true;
    }
    if (key->key() == Qt::Key_Delete && model_->of_project(row)) {
        const PartKind& kind = model_->kind();
        const std::string name = model_->part_name(row);
        document_.edit(tr("take %1 out of the project").arg(qs(name)), [&](Machine& m) {
            if (const auto i = find_part(kind, m, name)) kind.own(m).erase(*i);
        });
        return true;
    }
    return false;
}

} // namespace fulmox::app

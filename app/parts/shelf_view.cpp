#include "app/parts/shelf_view.h"

#include "app/bricks/padded.h"
#include "app/bricks/paint.h"
#include "app/bricks/plain_table.h"
#include "app/bricks/table_columns.h"
#include "app/part_shelf.h"
#include "app/storage.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/files/shelf_report.h"
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
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QPointer>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSortFilterProxyModel>
#include <QSpinBox>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace fulmox::app {

namespace {

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
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        return PaddedDelegate::sizeHint(option, index) + QSize(16, 0); // for the mark
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

// Rows that have every word of the filter in name, series, type or origin.
class ShelfView::Order : public QSortFilterProxyModel {
  public:
    Order(const ShelfModel& model, QObject* parent) : QSortFilterProxyModel(parent), model_(model) {}
    void set(const QString& words) {
        words_ = words.toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
        // row by row it takes seconds to take thousands out
        if (static_cast<std::size_t>(model_.rowCount()) > ShelfModel::few)
            invalidate();
        else
            invalidateFilter();
    }

  protected:
    bool filterAcceptsRow(int row, const QModelIndex&) const override {
        if (words_.isEmpty()) return true;
        const QString& all = model_.words(row);
        return std::all_of(words_.begin(), words_.end(), [&](const QString& w) { return all.contains(w); });
    }
    bool lessThan(const QModelIndex& left, const QModelIndex& right) const override {
        const auto a = model_.order_value(left.row(), left.column()),
                   b = model_.order_value(right.row(), right.column());
        if (!a || !b) return QSortFilterProxyModel::lessThan(left, right);
        return comes_before(*a, *b, sortOrder());
    }

  private:
    const ShelfModel& model_;
    QStringList words_;
};

ShelfView::ShelfView(Document& document, const char* kind, QWidget* parent)
    : LiveWidget(document, parent), model_(new ShelfModel(document, part_kind(kind), this)),
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
    words_->setProperty("searches", true);
    connect(words_, &QLineEdit::returnPressed, this, [this] { table_->setFocus(); });
    words_->setPlaceholderText(tr("Filter"));
    words_->setAccessibleName(tr("Words in name, series, type or source of %1").arg(things));
    words_->setClearButtonEnabled(true);
    connect(words_, &QLineEdit::textChanged, this, [this] {
        // `looked_through` does it, once they are there
        if (model_->gathering()) return;
        order_->set(words_->text());
        say();
    });
    connect(model_, &ShelfModel::looked_through, this, [this] {
        order_->set(words_->text());
        judge_now();
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
    const int columns_at = line->count();
    keep_ = link(tr("Keep…"), tr("Keeps the part of this axis, for this project or for others"), [] {});
    auto* keep = new QMenu(keep_);
    keep->addAction(tr("Keep in this project"), this, &ShelfView::keep_in_project);
    keep->addAction(tr("Keep in my library"), this, &ShelfView::keep_in_library);
    connect(keep_, &QPushButton::clicked, keep,
        [this, keep] { keep->popup(keep_->mapToGlobal(QPoint(0, keep_->height()))); });
    use_ = new QPushButton(tr("Use it"));
    use_->setObjectName(QStringLiteral("primary"));
    use_->setAccessibleName(tr("Use the chosen %1").arg(QString::fromUtf8(model_->kind().label).toLower()));
    connect(use_, &QPushButton::clicked, this, &ShelfView::take_current);
    line->addWidget(use_);
    const bool of_axis = *model_->kind().at;
    box->addLayout(line);
    if (!of_axis)
        for (QPushButton* b : {keep_, use_}) b->hide();
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
    // who is current stays so: asked before the order forgets, and sought after it has the new rows
    connect(model_, &QAbstractItemModel::modelAboutToBeReset, this, [this] {
        if (const int row = current_row(); row >= 0) was_ = model_->part_name(row);
    });
    order_->setSourceModel(model_);
    connect(model_, &QAbstractItemModel::modelReset, this, [this] {
        const std::string was = std::exchange(was_, {});
        for (int row = 0; !was.empty() && row < order_->rowCount(); ++row)
            if (model_->part_name(order_->mapToSource(order_->index(row, 0)).row()) == was)
                return table_->setCurrentIndex(order_->index(row, 0));
    });
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
    auto* cells = new PaddedDelegate(6, 15, table_);
    cells->numbers = true;
    table_->setItemDelegate(cells);
    table_->setItemDelegateForColumn(ShelfModel::name, new NameCells(table_));
    table_->setItemDelegateForColumn(ShelfModel::tightest, new StateCells(table_));
    table_->setToolTip(tr("Enter or a double click takes a part; Space adds it to the comparison."));
    table_->installEventFilter(this);
    choose_columns(*table_, QStringLiteral("shelf-columns-%1").arg(QString::fromUtf8(kind)), ShelfModel::name,
        [](int) { return true; });
    fit_columns(*table_);
    QPushButton* columns = columns_button(*table_, tr("Columns of the catalogue of %1").arg(things));
    line->insertWidget(columns_at, columns);
    auto* places = new TableOrMap(*table_, QString::fromUtf8(kind), tr("Map of %1").arg(things));
    connect(places, &TableOrMap::taken, this, &ShelfView::take_current);
    line->insertWidget(columns_at, places->button());
    setTabOrder(keep_->previousInFocusChain(), places->button());
    setTabOrder(places->button(), columns);
    setTabOrder(columns, keep_);
    box->addWidget(places, 2);
    beside_ = plain_table(QStringLiteral("beside-%1").arg(QString::fromUtf8(kind)),
        tr("%1 side by side").arg(QString::fromUtf8(model_->kind().lists)), false);
    beside_->hide();
    box->addWidget(beside_, 3);
    later_.setSingleShot(true);
    later_.setInterval(120);
    connect(&later_, &QTimer::timeout, this, &ShelfView::judge_now);
    connect(table_, &QTableView::doubleClicked, this, [this] { take_current(); });
    progress_.setInterval(100);
    connect(&progress_, &QTimer::timeout, this, &ShelfView::say);
    connect(model_, &ShelfModel::judged, this, [this] {
        if (!isVisible()) return progress_.stop();
        if (model_->judging())
            progress_.start();
        else
            progress_.stop();
        table_->viewport()->update();
        say();
        lay_beside();
    });
    connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this,
        [this] { use_->setEnabled(table_->currentIndex().isValid()); });
    use_->setEnabled(false);
    connect(&document_, &Document::opened, words_, &QLineEdit::clear); // filters are those of one project
}

std::size_t ShelfView::place() const { return place_ ? static_cast<std::size_t>(place_->value() - 1) : 0; }

int ShelfView::current_row() const {
    const QModelIndex at = table_->currentIndex();
    return at.isValid() ? order_->mapToSource(at).row() : -1;
}

void ShelfView::showEvent(QShowEvent* event) {
    LiveWidget::showEvent(event);
    connect(&part_shelf(), &PartShelf::changed, this, &ShelfView::judge_now, Qt::UniqueConnection);
    part_shelf().reload();
    judge_now(); // the library may be another, the document the same
}

void ShelfView::judge_now() {
    if (!isVisible()) return;
    if (place_ && document_.has_axis()) {
        const QSignalBlocker quiet(place_);
        place_->setRange(1, static_cast<int>(document_.axis().stages.size()) + 1);
    }
    model_->follow();
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
    if (event->mimeData()->hasUrls() && event->mimeData()->urls().front().isLocalFile())
        emit dropped(event->mimeData()->urls().front().toLocalFile());
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
    else if (model_->gathering())
        count_->setText(tr("being looked through…"));
    else if (model_->judging())
        count_->setText(tr("being judged, %1 %").arg(std::lround(100 * model_->judged_share())));
    else
        count_->setText(counted(model_->counts()) + (of.isEmpty() ? QString() : QStringLiteral(", ") + of));
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
                name = free_name(kind, parts, name);
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
        name = free_name(kind, model_->parts(), name);
    });
}

void ShelfView::keep_in_library() {
    const PartKind& kind = model_->kind();
    if (!document_.has_axis()) return;
    if (!says_something(document_.axis(), place())) {
        emit refused(tr("this axis has no %1 yet that could be kept").arg(QString::fromUtf8(kind.label).toLower()));
        return;
    }
    auto one = std::make_shared<PartLists>();
    kind.keep_chosen(*one, document_.axis(), place());
    part_shelf().keep_beside(tr("My parts"), one, [self = QPointer<ShelfView>(this)](const QString& wrong) {
        if (self && !wrong.isEmpty()) emit self->refused(wrong);
    });
}

void ShelfView::lay_beside() {
    const PartKind& kind = model_->kind();
    std::vector<BesidePart> which;
    for (const std::string& name : model_->marked())
        if (const auto i = find_part(kind, model_->parts(), name))
            which.push_back({*i, model_->candidate(static_cast<int>(*i))});
    beside_->setVisible(!which.empty());
    if (!which.empty()) fill(*beside_, parts_beside(kind, model_->parts(), which, document_.machine().unit_system), 0);
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
        if (!pasted_) pasted_ = std::make_unique<QTemporaryDir>(); // the user's alone, and gone with this view
        const QString file = pasted_->filePath(QStringLiteral("pasted.csv"));
        const QString wrong = pasted_->isValid() ? write_atomically(file, text.toUtf8()) : pasted_->errorString();
        if (wrong.isEmpty())
            emit dropped(file);
        else
            emit refused(tr("what was pasted could not be laid down: %1").arg(wrong));
        return true;
    }
    if (row < 0) return false;
    if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
        // nobody has chosen a row: the first of a list that is in order, wherever the row went that was first before
        const bool chosen = table_->selectionModel()->hasSelection();
        if (!chosen && model_->judging()) return true;
        if (!chosen) table_->setCurrentIndex(table_->model()->index(0, 0));
        take_current();
        return true;
    }
    if (key->key() == Qt::Key_Space) {
        const bool full = model_->marked().size() >= ShelfModel::most_marked;
        model_->toggle_mark(row);
        if (full && model_->marked().size() >= ShelfModel::most_marked)
            emit refused(tr("%1 parts stand side by side already; Space on one of them takes it out")
                             .arg(ShelfModel::most_marked));
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

#include "app/bricks/table_columns.h"

#include "app/words.h"

#include <QAction>
#include <QCoreApplication>
#include <QHeaderView>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <QTimer>
#include <algorithm>
#include <cmath>
#include <set>
#include <utility>
#include <vector>

namespace fulmox::app {

namespace {

QString head(const QTableView& table, int column) {
    // its name, where what is shown is something else
    const QVariant name = table.model()->headerData(column, Qt::Horizontal, Qt::AccessibleTextRole);
    return (name.isValid() ? name : table.model()->headerData(column, Qt::Horizontal, Qt::DisplayRole)).toString();
}

class ColumnFit : public QObject {
  public:
    ColumnFit(QTableView& table, int widest) : QObject(&table), table_(table), widest_(widest) {
        soon_.setSingleShot(true);
        soon_.setInterval(0);
        connect(&soon_, &QTimer::timeout, this, [this] { fit(); });
        const auto again = [this] { soon_.start(); };
        const QAbstractItemModel* model = table.model();
        connect(model, &QAbstractItemModel::modelReset, this, again);
        connect(model, &QAbstractItemModel::layoutChanged, this, again);
        connect(model, &QAbstractItemModel::dataChanged, this, again);
        connect(model, &QAbstractItemModel::headerDataChanged, this, again);
        connect(model, &QAbstractItemModel::rowsInserted, this, again);
        connect(table.horizontalHeader(), &QHeaderView::sectionResized, this, [this](int column, int from, int to) {
            if (fitting_) return;
            if (from == 0 || to == 0)
                soon_.start(); // shown or hidden
            else
                dragged_.insert(column);
        });
        table.horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
        table.horizontalHeader()->setStretchLastSection(false);
        table.viewport()->installEventFilter(this);
    }

    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() == QEvent::Show || event->type() == QEvent::UpdateRequest) soon_.start();
        if (event->type() == QEvent::Resize) fit();
        return false;
    }

    void fit() {
        if (!table_.isVisible()) return;
        fitting_ = true;
        std::vector<std::pair<int, int>> needs;
        int sum = 0;
        for (int c = 0; c < table_.model()->columnCount(); ++c) {
            if (table_.isColumnHidden(c)) continue;
            const int need = dragged_.count(c) ? table_.columnWidth(c) : needed(c);
            needs.emplace_back(c, need);
            sum += need;
        }
        int left = std::max(0, table_.viewport()->width() - sum);
        for (std::size_t i = 0; i < needs.size(); ++i) {
            const int share = left / static_cast<int>(needs.size() - i);
            left -= share;
            table_.setColumnWidth(needs[i].first, needs[i].second + share);
        }
        fitting_ = false;
    }

  private:
    int needed(int column) const {
        constexpr int most_rows = 1000; // beyond, what is longer says so by its ellipsis
        const QAbstractItemModel& model = *table_.model();
        QStyleOptionViewItem option;
        option.initFrom(&table_);
        option.font = table_.font();
        // with its paddings and room for the mark of sorting, which one column has at a time
        int need = 21 + table_.horizontalHeader()->fontMetrics().horizontalAdvance(
                            model.headerData(column, Qt::Horizontal).toString());
        qsizetype longest = 0;
        for (int row = 0; row < std::min(most_rows, model.rowCount()); ++row) {
            const QModelIndex at = model.index(row, column);
            const qsizetype length = at.data().toString().size();
            // to measure a text takes longer than to count its letters
            if (length + 1 < longest && !at.data(Qt::FontRole).isValid()) continue;
            longest = std::max(longest, length);
            const int here = table_.itemDelegateForIndex(at)->sizeHint(option, at).width();
            const bool number = at.data(Qt::TextAlignmentRole).toInt() & Qt::AlignRight;
            need = std::max(need, number ? here : std::min(here, widest_));
        }
        return need;
    }

    QTableView& table_;
    int widest_;
    QTimer soon_;
    std::set<int> dragged_;
    bool fitting_ = false;
};

} // namespace

void fit_columns(QTableView& table, int widest) { new ColumnFit(table, widest); }

void choose_columns(QTableView& table, const QString& key, int always, const std::function<bool(int)>& usual) {
    const QStringList chosen = QSettings().value(key).toStringList();
    const int count = table.model()->columnCount();
    QHeaderView* header = table.horizontalHeader();
    header->setContextMenuPolicy(Qt::ActionsContextMenu);
    for (int c = 0; c < count; ++c) {
        const bool shown = c == always || (chosen.isEmpty() ? usual(c) : chosen.contains(head(table, c)));
        table.setColumnHidden(c, !shown);
        if (c == always) continue;
        auto* action = new QAction(head(table, c), &table);
        action->setCheckable(true);
        action->setChecked(shown);
        QObject::connect(action, &QAction::toggled, &table, [&table, key, c, count](bool on) {
            table.setColumnHidden(c, !on);
            QStringList now;
            for (int k = 0; k < count; ++k)
                if (!table.isColumnHidden(k)) now << head(table, k);
            QSettings().setValue(key, now);
        });
        header->addAction(action);
    }
}

QPushButton* columns_button(QTableView& table, const QString& accessible) {
    auto* button = new QPushButton(QCoreApplication::translate("Tables", "Columns"));
    button->setObjectName(QStringLiteral("link"));
    button->setAccessibleName(accessible);
    auto* menu = new QMenu(button);
    menu->addActions(table.horizontalHeader()->actions());
    QObject::connect(button, &QPushButton::clicked, button,
        [button, menu] { menu->popup(button->mapToGlobal(QPoint(0, button->height()))); });
    return button;
}

QString price_head(const std::string& currency, const QString& name) {
    const QString text = qs(currency);
    return !text.isEmpty() && text.size() <= 4 ? text : name;
}

bool comes_before(double a, double b, Qt::SortOrder order) {
    if (std::isnan(a) || std::isnan(b))
        return std::isnan(order == Qt::AscendingOrder ? b : a) && !(std::isnan(a) && std::isnan(b));
    return a < b;
}

} // namespace fulmox::app

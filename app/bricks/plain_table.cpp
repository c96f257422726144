#include "app/bricks/plain_table.h"

#include "app/bricks/padded.h"
#include "app/theme.h"
#include "app/words.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QTableWidget>
#include <utility>

namespace fulmox::app {

QTableWidget* plain_table(const QString& name, const QString& accessible, bool numbers) {
    auto* t = new QTableWidget;
    t->setObjectName(name);
    t->setAccessibleName(accessible);
    t->setEditTriggers(QAbstractItemView::NoEditTriggers);
    t->setSelectionBehavior(QAbstractItemView::SelectRows);
    t->setSelectionMode(QAbstractItemView::SingleSelection);
    t->setTabKeyNavigation(false);
    auto* cells = new PaddedDelegate(3, 5, t);
    cells->numbers = numbers;
    t->setItemDelegate(cells);
    t->setShowGrid(false);
    t->setWordWrap(false);
    t->verticalHeader()->hide();
    t->verticalHeader()->setDefaultSectionSize(22);
    t->verticalHeader()->setMinimumSectionSize(20);
    t->horizontalHeader()->setHighlightSections(false);
    t->setStyleSheet(QStringLiteral("QHeaderView::section { padding: 1px 0px 1px 3px; font-size: 11px; }"));
    return t;
}

namespace {

class OnEnter : public QObject {
  public:
    OnEnter(QTableWidget& view, std::function<void()> take) : QObject(&view), take_(std::move(take)) {
        view.installEventFilter(this);
    }
    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() != QEvent::KeyPress) return false;
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key != Qt::Key_Return && key != Qt::Key_Enter) return false;
        take_();
        return true;
    }

  private:
    std::function<void()> take_;
};

} // namespace

void take_on_enter(QTableWidget& view, std::function<void()> take) {
    QObject::connect(&view, &QTableWidget::cellDoubleClicked, &view, [take] { take(); });
    new OnEnter(view, std::move(take));
}

void fill(QTableWidget& view, const Table& table, int stretched) {
    view.setColumnCount(static_cast<int>(table.head.size()));
    QStringList head;
    for (const std::string& h : table.head) head << qs(h);
    view.setHorizontalHeaderLabels(head);
    const auto at_right = [&](int c) {
        return static_cast<std::size_t>(c) < table.right.size() && table.right[static_cast<std::size_t>(c)];
    };
    const auto alignment = [&](int c) { return (at_right(c) ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter; };
    for (int c = 0; c < view.columnCount(); ++c) view.horizontalHeaderItem(c)->setTextAlignment(alignment(c));
    view.setRowCount(static_cast<int>(table.rows.size()));
    for (int r = 0; r < view.rowCount(); ++r)
        for (int c = 0; c < view.columnCount(); ++c) {
            const auto& row = table.rows[static_cast<std::size_t>(r)];
            auto* item = new QTableWidgetItem(
                static_cast<std::size_t>(c) < row.size() ? qs(row[static_cast<std::size_t>(c)]) : QString());
            item->setTextAlignment(alignment(c));
            item->setToolTip(plain_tip(item->text()));
            view.setItem(r, c, item);
        }
    view.horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    view.horizontalHeader()->setSectionResizeMode(stretched, QHeaderView::Stretch);
}

} // namespace fulmox::app

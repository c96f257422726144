#include "app/widgets/table_columns.h"

#include "app/words.h"

#include <QAction>
#include <QCoreApplication>
#include <QHeaderView>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <cmath>

namespace fulmox::app {

namespace {

QString head(const QTableView& table, int column) {
    // its name, where what is shown is something else
    const QVariant name = table.model()->headerData(column, Qt::Horizontal, Qt::AccessibleTextRole);
    return (name.isValid() ? name : table.model()->headerData(column, Qt::Horizontal, Qt::DisplayRole)).toString();
}

} // namespace

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

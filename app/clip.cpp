#include "app/clip.h"

#include <QAbstractItemView>
#include <QClipboard>
#include <QGuiApplication>
#include <QHeaderView>
#include <QMimeData>
#include <QTableView>
#include <QWidget>
#include <set>

namespace fulmox::app {

namespace {

constexpr std::size_t most_html_rows = 5000; // beyond, HTML is slow everywhere and read by nobody

Table table_of_view(const QAbstractItemView& view) {
    Table t;
    const QAbstractItemModel* model = view.model();
    if (!model) return t;
    const auto* as_view = qobject_cast<const QTableView*>(&view);
    std::vector<int> columns;
    for (int c = 0; c < model->columnCount(); ++c)
        if (!as_view || !as_view->isColumnHidden(c)) columns.push_back(c);
    for (const int c : columns) {
        t.head.push_back(model->headerData(c, Qt::Horizontal).toString().toStdString());
        const QVariant side = model->rowCount() > 0 ? model->index(0, c).data(Qt::TextAlignmentRole) : QVariant();
        t.right.push_back(side.isValid() && (side.toInt() & Qt::AlignRight));
    }
    std::set<int> chosen;
    if (view.selectionModel())
        for (const QModelIndex& i : view.selectionModel()->selectedIndexes()) chosen.insert(i.row());
    for (int r = 0; r < model->rowCount(); ++r) {
        if (chosen.size() > 1 && !chosen.count(r)) continue;
        if (as_view && as_view->isRowHidden(r)) continue;
        std::vector<std::string> row;
        for (const int c : columns) row.push_back(model->index(r, c).data().toString().toStdString());
        t.rows.push_back(std::move(row));
    }
    return t;
}

QPixmap picture_of(QWidget& part) {
    auto* own = dynamic_cast<Copyable*>(&part);
    const QPixmap drawn = own ? own->as_picture() : QPixmap();
    return drawn.isNull() ? part.grab() : drawn;
}

} // namespace

QWidget* copyable_around(QWidget* widget) {
    for (; widget && !widget->isWindow(); widget = widget->parentWidget())
        if (dynamic_cast<Copyable*>(widget) || qobject_cast<QAbstractItemView*>(widget)) return widget;
    return nullptr;
}

Table table_of(QWidget& part) {
    if (const auto* own = dynamic_cast<Copyable*>(&part)) return own->as_table();
    if (const auto* view = qobject_cast<QAbstractItemView*>(&part)) return table_of_view(*view);
    return {};
}

QMimeData* mime_of(const Table& table, const QPixmap& picture) {
    auto* out = new QMimeData;
    if (!table.empty()) {
        out->setText(QString::fromStdString(to_tsv(table)));
        if (table.rows.size() <= most_html_rows) out->setHtml(QString::fromStdString(to_html(table)));
    }
    if (!picture.isNull()) out->setImageData(picture.toImage());
    return out;
}

void copy_part(QWidget& part) { QGuiApplication::clipboard()->setMimeData(mime_of(table_of(part), picture_of(part))); }

void copy_picture(QWidget& part) { QGuiApplication::clipboard()->setPixmap(picture_of(part)); }

void copy_table(const Table& table) { QGuiApplication::clipboard()->setMimeData(mime_of(table)); }

} // namespace fulmox::app

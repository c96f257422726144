// Which columns of a table are shown: chosen by whoever reads it, and remembered.
#pragma once

#include <QString>
#include <functional>

class QPushButton;
class QTableView;

namespace fulmox::app {

/// Hides what was not chosen the last time, by the heads kept under `key`; never the column `always`. The header's menu
/// has an action for each.
void choose_columns(QTableView& table, const QString& key, int always, const std::function<bool(int)>& usual);

/// A button that opens the same menu.
QPushButton* columns_button(QTableView& table, const QString& accessible);

} // namespace fulmox::app

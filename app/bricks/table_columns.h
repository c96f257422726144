// Which columns of a table are shown: chosen by whoever reads it, and remembered.
#pragma once

#include <QString>
#include <Qt>
#include <functional>
#include <string>

class QPushButton;
class QTableView;

namespace fulmox::app {

/// Hides what was not chosen the last time, by the heads kept under `key`; never the column `always`. The header's menu
/// has an action for each.
void choose_columns(QTableView& table, const QString& key, int always, const std::function<bool(int)>& usual);

/// A button that opens the same menu.
QPushButton* columns_button(QTableView& table, const QString& accessible);

/// Keeps the columns as wide as what they hold, in place of widths that somebody guessed: a number is never cut off, a
/// text not below `widest` px. What room is left is shared by all. A column that somebody dragged stays as it is.
void fit_columns(QTableView& table, int widest = 190);

/// What heads a column of prices: the currency where it is short, else its name.
QString price_head(const std::string& currency, const QString& name);

/// Whether a row of the number `a` stands before one of `b`, as an order that may be turned round asks it: what is not
/// known (NaN) comes last either way.
bool comes_before(double a, double b, Qt::SortOrder order);

} // namespace fulmox::app

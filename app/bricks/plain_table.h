// A table of words on a page: nothing in it is edited.
#pragma once

#include "core/report/table.h"

#include <QString>
#include <functional>

class QTableWidget;

namespace fulmox::app {

/// `numbers`: what stands at the right is numbers, which are never shortened as words are.
QTableWidget* plain_table(const QString& name, const QString& accessible, bool numbers = true);
/// Enter and a double click on a row do what its button does.
void take_on_enter(QTableWidget& view, std::function<void()> take);
/// Fills it; the column `stretched` takes the room that is left.
void fill(QTableWidget& view, const Table& table, int stretched);

} // namespace fulmox::app

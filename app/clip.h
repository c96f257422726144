// Carrying a part of a page elsewhere: as text for a spreadsheet, as a table for a letter, as a picture.
#pragma once

#include "core/report/table.h"

#include <QPixmap>
#include <QString>

class QMimeData;
class QWidget;

namespace fulmox::app {

/// A widget that can say in words and numbers what it shows.
class Copyable {
  public:
    virtual ~Copyable() = default;
    virtual Table as_table() const = 0;
    /// Of what is shown, where a grab of the widget is not it; null: it is.
    virtual QPixmap as_picture() { return {}; }
};

/// The innermost part of the page around this widget that can be copied: one that says so, a table, a plot; or null.
QWidget* copyable_around(QWidget* widget);

/// What such a part shows; of a table the selected rows, or all where none or one is selected.
Table table_of(QWidget& part);

/// Tab-separated text and HTML of the table, and the picture where there is one: whoever pastes takes what it can.
QMimeData* mime_of(const Table& table, const QPixmap& picture = {});

/// Onto the clipboard, with a picture of it.
void copy_part(QWidget& part);
void copy_picture(QWidget& part);
void copy_table(const Table& table);

} // namespace fulmox::app

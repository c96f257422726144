// Figures as tiles and as a list; each opens its working on hover.
#pragma once

#include "app/clip.h"
#include "app/document.h"

#include <QFrame>
#include <QLabel>
#include <utility>
#include <vector>

class QGridLayout;

namespace fulmox::app {

/// A row of tiles, one per figure key, each with the words for a figure that is not known yet.
class FigureTiles : public QWidget, public Copyable {
    Q_OBJECT

  public:
    FigureTiles(Document& document, const std::vector<std::pair<QString, QString>>& keys, QWidget* parent = nullptr);
    void refresh();
    Table as_table() const override;

  private:
    struct Tile {
        QString key, unknown;
        QLabel* label;
        QLabel* value;
        QLabel* note;
        QFrame* frame;
    };
    Document& document_;
    std::vector<Tile> tiles_;
};

/// Label and value in two columns, for the lesser figures.
class FigureList : public QWidget, public Copyable {
    Q_OBJECT

  public:
    /// `alone` in its card it says where there is nothing to list yet.
    FigureList(Document& document, QStringList keys, int columns = 1, bool alone = true, QWidget* parent = nullptr);
    void refresh();
    Table as_table() const override;

  private:
    struct Line {
        QString key;
        QLabel* label;
        QLabel* value;
    };
    Document& document_;
    std::vector<Line> lines_;
    QLabel* nothing_ = nullptr;
};

/// The working of a figure as rich text, empty if it has none.
QString working_html(const Working& working);

} // namespace fulmox::app

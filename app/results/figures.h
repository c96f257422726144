// Figures as tiles and as a list; each opens its working at a click, with Enter, or on hover.
#pragma once

#include "app/clip.h"
#include "app/live.h"

#include <QFrame>
#include <QLabel>
#include <utility>
#include <vector>

class QGridLayout;

namespace fulmox::app {

/// Figures that are asked for their working: by a click on one, or by keys. A group is one stop of the Tab key; the
/// arrows go from figure to figure, Enter or Space opens the working.
class FigureGroup : public LiveWidget, public Copyable {
    Q_OBJECT

  public:
    explicit FigureGroup(Document& document, QWidget* parent = nullptr);
    Table as_table() const override;
    /// Which figure has the keys, −1 where there is none.
    int current() const { return current_; }
    /// Its key; empty: none has them.
    QString current_key() const;
    /// Opens its working; false where it has none.
    bool open_working(int figure);

  protected:
    struct Place {
        QString key;
        QRect where; ///< empty: not shown
    };
    virtual std::vector<Place> places() const = 0;
    /// Shows which figure has the keys; −1: none.
    virtual void mark(int figure) = 0;
    void keyPressEvent(QKeyEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void go(int step);
    void describe();
    bool click(QPoint at);

    int current_ = -1;
};

/// A row of tiles, one per figure key, each with the words for a figure that is not known yet.
class FigureTiles : public FigureGroup {
    Q_OBJECT

  public:
    FigureTiles(Document& document, const std::vector<std::pair<QString, QString>>& keys, QWidget* parent = nullptr);
    void refresh() override;

  protected:
    std::vector<Place> places() const override;
    void mark(int figure) override;

  private:
    struct Tile {
        QString key, unknown;
        QLabel* label;
        QLabel* value;
        QLabel* note;
        QFrame* frame;
    };
    std::vector<Tile> tiles_;
};

/// Label and value in two columns, for the lesser figures.
class FigureList : public FigureGroup {
    Q_OBJECT

  public:
    /// `alone` in its card it says where there is nothing to list yet.
    FigureList(Document& document, QStringList keys, int columns = 1, bool alone = true, QWidget* parent = nullptr);
    void refresh() override;

  protected:
    std::vector<Place> places() const override;
    void mark(int) override { update(); }
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Line {
        QString key;
        QLabel* label;
        QLabel* value;
    };
    std::vector<Line> lines_;
    QLabel* nothing_ = nullptr;
};

/// The working of a figure as rich text, empty if it has none.
QString working_html(const Working& working);

} // namespace fulmox::app

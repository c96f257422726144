// What could stand in a place, as a map: any two columns of its table against each other.
#pragma once

#include "app/plots/plot.h"
#include "core/match/limit.h"

#include <QStackedWidget>
#include <QString>
#include <functional>
#include <optional>
#include <vector>

class QComboBox;
class QLabel;
class QPushButton;
class QTableView;

namespace fulmox::app {

/// Numbers of one column; NaN where there is none.
struct MapColumn {
    QString name, unit;
    bool less = false; ///< less of it is better, whatever the axis
    std::function<double(int row)> value;
};

/// What a model of candidates tells a map.
class MapSource {
  public:
    virtual ~MapSource() = default;
    virtual std::vector<MapColumn> map_columns() const = 0;
    virtual std::optional<LimitState> map_state(int row) const = 0; ///< nothing: not judged
    virtual QString map_name(int row) const = 0;
    virtual bool map_in_use(int row) const = 0;
    virtual bool map_waits() const = 0; ///< being judged
};

class CandidateMap : public Plot {
    Q_OBJECT

  public:
    struct Point {
        int row;
        double x, y;
        std::optional<LimitState> state;
        bool front = false;
        double at_x = 0, at_y = 0; ///< where it is drawn: at the border what lies beyond it
    };

    explicit CandidateMap(QWidget* parent = nullptr);
    void show_points(const MapSource& source, const std::vector<int>& rows, const MapColumn& x, const MapColumn& y);
    void choose(int row); ///< −1: none
    int chosen() const { return chosen_; }
    const std::vector<Point>& points() const { return points_; }
    std::size_t beyond() const { return beyond_; } ///< points that are drawn at the border
    bool has_front() const { return has_front_; }  ///< a line of those that none betters in both is drawn
    /// In pixels of this widget.
    QPointF place_of(const Point& p);
    Table as_table() const override;

  signals:
    void picked(int row);
    void taken(int row);

  protected:
    void reset_view() override { draw_all(); }
    QString readout(double x, double y, QCPAxisRect* rect) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QCPAxisRect* rect_;
    std::vector<QCPGraph*> marks_; ///< by state, then those that are not judged
    QCPGraph *front_, *ring_;
    std::vector<QCPAbstractItem*> notes_;
    std::vector<Point> points_;
    std::vector<QString> names_; ///< of the points
    MapColumn x_, y_;            ///< name and unit alone
    int chosen_ = -1, in_use_ = -1;
    std::size_t beyond_ = 0;
    bool has_front_ = false;
    QPointF pressed_;

    void draw_all();
    const Point* at(QPointF place);
    QString words(const Point& p) const;
};

/// The map of a table with the choice of its columns. It shows the rows that the table shows, and shares its current
/// row.
class MapPane : public QWidget {
    Q_OBJECT

  public:
    /// The model under the table's order is a `MapSource`. `key`: of what is remembered.
    MapPane(QTableView& table, const QString& key, QWidget* parent = nullptr);
    CandidateMap& map() { return *map_; }
    void refresh();

  signals:
    void taken(); ///< the current row of the table

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    QTableView& table_;
    QString key_;
    QComboBox *x_, *y_;
    QLabel* said_;
    CandidateMap* map_;

    const MapSource& source() const;
    void offer_columns();
    void make_current(int row);
};

/// A table of candidates, or its map in the same place.
class TableOrMap : public QStackedWidget {
    Q_OBJECT

  public:
    /// `accessible`: name of the button.
    TableOrMap(QTableView& table, const QString& key, const QString& accessible, QWidget* parent = nullptr);
    /// Turns from one to the other; it stands where its owner puts it.
    QPushButton* button() const { return button_; }

  signals:
    void taken(); ///< the current row of the table
    void turned(bool to_map);

  private:
    QPushButton* button_;
};

} // namespace fulmox::app

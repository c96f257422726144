// What every plot of the program has in common: the look, zoom and pan, readout, copy and export.
#pragma once

#include "app/bricks/missing_label.h"
#include "app/clip.h"
#include "core/match/limit.h"

#include <QLabel>
#include <functional>
#include <qcustomplot.h>
#include <utility>
#include <vector>

namespace fulmox::app {

class Plot : public QCustomPlot, public Copyable {
    Q_OBJECT

  public:
    explicit Plot(QWidget* parent = nullptr);

    /// Colours and fonts of the present theme on every axis rect.
    void restyle();
    QCPAxisRect* add_rect(int row, const QString& y_label, bool time_axis, int column = 0);
    /// Covers the plot with words on what is missing for it; empty uncovers it.
    /// In place of the picture, or above it where there is something to draw all the same.
    /// `path`: the field it waits for.
    void say_missing(const QString& text, bool beside = false, const QString& path = {});
    QString missing() const { return missing_->isHidden() ? QString() : missing_->text(); }
    void set_file_stem(const QString& stem) { stem_ = stem; }

    /// The samples of every curve; heads with units as the axis labels have them.
    Table as_table() const override;
    QPixmap as_picture() override { return toPixmap(width(), height(), 2); }
    QString csv() const;
    /// By the ending: .png .svg .pdf .csv. Empty on success, else what went wrong.
    QString export_to(const QString& file);

  signals:
    void hovered(double key, double value);
    void left();

  protected:
    void contextMenuEvent(QContextMenuEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    virtual void reset_view() = 0;
    /// Of an axis in one line: "velocity, mm/s".
    static QString axis_name(const QCPAxis& axis);
    /// The same for another height: the view stays where it is.
    virtual void draw_again() { reset_view(); }
    /// Text of the readout at a position, empty for none; `x` in the coordinate of the bottom axis.
    virtual QString readout(double x, double y, QCPAxisRect* rect) = 0;

    QCPItemText* note(
        QCPAxisRect* rect, double x, double y, const QString& text, const QColor& colour, Qt::Alignment alignment);

    /// How a state is marked wherever candidates are drawn: by shape and colour.
    static QCPScatterStyle mark_of(LimitState state, double size);
    /// Through two points, from border to border.
    QCPItemStraightLine* straight_line(QCPAxisRect* rect, double x1, double y1, double x2, double y2, const QPen& pen);

    /// Leaves out of a long curve what would be drawn where it has been drawn already, with a gap in its place.
    static void thin(QVector<double>& x, QVector<double>& y);
    /// Room above and below a curve that reaches from `bottom` to `top`, with a line of text beyond either end.
    static double room_beyond(const QCPAxisRect& rect, double bottom, double top);
    /// Whether it goes up and down too often to be told apart on a screen.
    static bool saw_toothed(const QVector<double>& y);
    /// The pen of a curve. Saw teeth are drawn fine and plain, which looks the same and takes milliseconds in place of
    /// seconds.
    static void draw_in(QCPAbstractPlottable& curve, const QPen& pen, bool teeth);
    /// A header row and rows of numbers, in full.
    static Table table(const QStringList& heads, const std::vector<std::vector<double>>& rows);

  private:
    QString stem_ = QStringLiteral("plot");
    QLabel* bubble_;
    void fit_words();
    bool fitting_ = false;
    std::pair<bool, qsizetype> styled_{false, -1}; ///< for which colours, and how many axes
    MissingLabel* missing_;
    bool beside_ = false;
    void place_missing();
};

} // namespace fulmox::app

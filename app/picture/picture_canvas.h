// A picture with marks on it that are set, dragged and taken away, by mouse and by keys.
#pragma once

#include <QImage>
#include <QPolygonF>
#include <QWidget>
#include <optional>
#include <vector>

namespace fulmox::app {

/// Places are pixels of the picture; the middle of the first is 0.5.
class PictureCanvas : public QWidget {
    Q_OBJECT

  public:
    struct Mark {
        QPointF at;
        QString words;  ///< beside it
        int curve = -1; ///< −1: of the scale
        int index = 0;
        bool on_speed = false; ///< a mark of the scale on the axis of speed
    };

    explicit PictureCanvas(QWidget* parent = nullptr);

    /// Null: none, `words` stand in its place.
    void show_picture(const QImage& full, const QImage& reduced);
    void say(const QString& words);
    QString said() const { return words_; }
    bool has_picture() const { return !full_.isNull(); }
    void set_marks(std::vector<Mark> marks, int curve);
    /// Lines that are drawn over it and not touched.
    void set_lines(std::vector<QPolygonF> lines);
    void select(int curve, int index);
    /// What a click sets: −1 and a mark of the scale, a curve, or nothing. On a mark of another kind it sets one all
    /// the same: both axes may begin in one place, and a curve may run through a mark.
    struct Aim {
        int curve = -1;
        int index = 0;
    };
    void set_aim(std::optional<Aim> aim);

    void fit();
    void zoom(double factor);
    void zoom_at(double factor, QPointF in_widget);
    double scale() const { return scale_; }
    QPointF to_picture(QPointF in_widget) const;
    QPointF to_widget(QPointF in_picture) const;
    QPointF cursor() const { return cursor_; }
    /// Somebody points at something.
    bool shows_cursor() const { return cursor_shown_; }

    QSize sizeHint() const override { return {480, 360}; }
    QSize minimumSizeHint() const override { return {220, 180}; }

  signals:
    void placed(QPointF at, bool by_keys);
    void moved(int curve, int index, QPointF at, bool by_keys);
    void removed(int curve, int index);
    void cursor_moved(QPointF at);
    void selected(int curve, int index); ///< −1, −1: none

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    int hit(QPointF in_widget) const; ///< mark, or −1
    void choose(int curve, int index);
    void step_to_mark(int by);
    void bring_into_view(QPointF at);
    void move_cursor(QPointF at);
    void draw_magnifier(QPainter& p) const;

    QImage full_, reduced_;
    QString words_;
    std::vector<Mark> marks_;
    std::vector<QPolygonF> lines_;
    int curve_ = -1;
    int chosen_ = -1; ///< of marks_
    std::optional<Aim> aim_;
    bool fitted_ = true;
    double scale_ = 1; ///< pixels of the screen to one of the picture
    QPointF origin_;   ///< of the picture, in the upper left corner of the widget
    QPointF cursor_;
    bool cursor_shown_ = false;
    struct Press {
        QPointF at;
        QPointF origin;
        int mark = -1;
        bool dragged = false;
    };
    std::optional<Press> press_;
    QPointF dragged_to_;
};

} // namespace fulmox::app

// What the drawings of all mechanisms share: pens, labels that lead to fields, dimension lines, loads, motor, gravity.
#pragma once

#include "app/theme.h"
#include "core/match/assess.h"

#include <QPainter>
#include <QString>
#include <vector>

namespace fulmox::app {

struct Hit {
    QRectF box;
    QString path;
};

class Canvas {
  public:
    /// `bare` draws no words: for small pictures. `stroke` in m or rad, 0 where unknown.
    Canvas(QPainter& painter, QSizeF size, bool bare, double stroke, UnitSystem system, QString axis_path);

    QPainter& p;
    const Theme& t;
    const double width, height;
    const bool bare;
    const double stroke;
    const UnitSystem system;
    std::vector<Hit> hits;
    QStringList said; ///< what the labels say, in the order of drawing

    /// As typed, without its tolerance; "?" where nothing is.
    static QString written(const QuantityBase& q);
    /// `words` and the value as typed, at a place of the present transform; a click leads to `path` ("/load/payload").
    void label(QPointF at, const QString& words, const QuantityBase& q, const char* path,
        Qt::Alignment where = Qt::AlignCenter);
    /// Plain text that leads nowhere, or to `path`.
    void note(QPointF at, const QString& text, const QColor& colour, Qt::Alignment where = Qt::AlignCenter,
        const char* path = "");
    /// Labels that would lie over one another are moved; call once, when all is drawn, to paint them.
    void place_labels();

    void body(const QRectF& box); ///< solid part
    void wheel(QPointF centre, double radius, bool driven = false);
    void load(const QRectF& box, bool ghost = false); ///< what moves
    void rail(QPointF from, QPointF to);              ///< guide under a load
    void dimension(QPointF from, QPointF to);
    void arrow(QPointF from, QPointF to, const QColor& colour, bool both = false);
    void turning(QPointF centre, double radius, double from_degrees, double span_degrees);
    /// Motor, and a box for each stage, ending with a shaft at `shaft`; the motor stands on the side `direction` (±1).
    void drive(const Axis& axis, QPointF shaft, double direction);
    /// Face of a motor whose shaft points at the viewer.
    void drive_face(const Axis& axis, QPointF centre);
    void gravity();
    /// Corner picture of the inclination; turns the drawing about its middle for what follows until end_incline().
    void begin_incline(const Load& load);
    void end_incline();

  private:
    struct Label {
        QPointF at;
        QString text, path;
        QColor colour;
        Qt::Alignment where;
    };
    std::vector<Label> labels_;
    QString axis_path_;
    double angle_ = 0;
    QString angle_text_;
};

} // namespace fulmox::app

#include "app/schematic/schematic.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QPainterPath>
#include <cmath>

namespace fulmox::app {

// The drawing is made along a horizontal axis (x along the travel, y across) and turned by the inclination. The axial
// direction is to scale; diameters are enlarged where they would be hairlines.
void draw(Canvas& canvas, const Axis& axis, const Screw& own) {
    const Screw* screw = &own;
    const Theme& t = canvas.t;
    QPainter& p = canvas.p;
    const auto width = [&] { return canvas.width; };
    const auto height = [&] { return canvas.height; };

    const double gamma = axis.load.inclination.value_or(0);
    const double length = screw->length.value_or(0.5);
    const double free_length = std::min(screw->free_length.value_or(length * 0.85), length);
    const double stroke = canvas.bare ? 0.5 * length : canvas.stroke;
    const double c = std::abs(std::cos(gamma));
    const double s = std::abs(std::sin(gamma));
    // labels stand beside a steep axis, above and below a flat one
    const bool steep = s > 0.7;
    const double room_x = width() - (steep ? 130.0 : 20.0);
    const double room_y = height() - (steep ? 26.0 : 110.0);
    // motor and coupling take a fixed 84 px before the screw
    const double along = std::min(c > 1e-6 ? (room_x - 60 * s) / c : 1e9, s > 1e-6 ? (room_y - 60 * c) / s : 1e9);
    const double pixels = std::max(60.0, along - 84);
    const double scale = pixels / length;
    const double d = std::clamp(1.6 * screw->diameter.value_or(0.02) * scale, 9.0, 26.0);

    const QPointF middle(width() / 2.0 + 6 * s + 4 * c, height() / 2.0 + 4 * c);
    p.save();
    p.translate(middle);
    p.rotate(-gamma * 180 / M_PI);
    const double x0 = -(pixels + 84) / 2 + 84; // where the screw begins

    // guide rail
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.rail);
    p.drawRect(QRectF(x0 + 8, 16 + d / 2, pixels - 16, 6));

    // screw with thread marks at the lead, where they can be told apart
    p.setPen(QPen(t.second, 1));
    p.setBrush(t.accent_ground);
    p.drawRect(QRectF(x0, -d / 2, pixels, d));
    const double lead = screw->lead.value_or(0) * scale;
    if (lead >= 3)
        for (double x = x0 + lead; x < x0 + pixels; x += lead)
            p.drawLine(QPointF(x, -d / 2), QPointF(x - std::min(lead * 0.6, d), d / 2));

    // end bearings by fixity
    const bool fixed_near = screw->fixity != EndFixity::supported_supported;
    const bool far_support = screw->fixity != EndFixity::fixed_free;
    const bool fixed_far = screw->fixity == EndFixity::fixed_fixed;
    const double near_x = x0 + (pixels - free_length * scale) / 2;
    const double far_x = near_x + free_length * scale;
    const auto bearing = [&](double x, bool fixed) {
        p.setPen(QPen(t.ink, 1.2));
        p.setBrush(t.panel);
        const double w = fixed ? 12 : 6;
        for (const double side : {-1.0, 1.0}) {
            const QRectF box(x - w / 2, side > 0 ? d / 2 : -d / 2 - 9, w, 9);
            p.drawRect(box);
            p.drawLine(box.topLeft(), box.bottomRight());
            p.drawLine(box.topRight(), box.bottomLeft());
        }
    };
    bearing(near_x, fixed_near);
    if (far_support) bearing(far_x, fixed_far);

    // coupling and motor
    p.setPen(QPen(t.second, 1));
    p.setBrush(t.panel);
    p.drawRect(QRectF(x0 - 24, -d / 2 - 4, 20, d + 8));
    p.drawLine(QPointF(x0 - 14, -d / 2 - 4), QPointF(x0 - 14, d / 2 + 4));
    p.drawRect(QRectF(x0 - 4, -3, 4, 6));
    const bool motor = !axis.motor.empty();
    p.setPen(QPen(motor ? t.ink : t.second, 1, motor ? Qt::SolidLine : Qt::DashLine));
    p.setBrush(motor ? t.rail : t.panel);
    p.drawRoundedRect(QRectF(x0 - 84, -20, 56, 40), 3, 3);
    p.drawRect(QRectF(x0 - 28, -4, 4, 8));
    if (axis.motor.brake_torque.given()) {
        p.setBrush(t.line);
        p.drawRect(QRectF(x0 - 84, -20, 12, 40));
    }

    // carriage at the lower end of its stroke, its far position dashed
    const double carriage_length = std::clamp(0.16 * pixels, 34.0, 60.0);
    const double travel = std::min(stroke * scale, pixels - carriage_length - 24);
    const double cx = (near_x + far_x) / 2 - travel / 2;
    const auto carriage = [&](double x) {
        return QRectF(x - carriage_length / 2, -d / 2 - 24, carriage_length, d + 44);
    };
    if (travel > 4) {
        p.setPen(QPen(t.third, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(carriage(cx + travel));
    }
    p.setPen(QPen(t.accent, 1.5));
    QColor fill = t.accent_ground;
    fill.setAlpha(225);
    p.setBrush(fill);
    p.drawRect(carriage(cx));
    p.drawRect(QRectF(cx - carriage_length * 0.3, -d / 2 - 5, carriage_length * 0.6, d + 10));
    const QPointF load_at(cx, -d / 2 - 24);
    // stroke arrow
    const double ay = -d / 2 - 34;
    if (travel > 20) {
        p.setPen(QPen(t.ink, 1.2));
        p.drawLine(QPointF(cx, ay), QPointF(cx + travel, ay));
        for (const double side : {0.0, 1.0}) {
            const double x = cx + side * travel;
            const double k = side > 0 ? -1 : 1;
            p.drawLine(QPointF(x, ay), QPointF(x + k * 6, ay - 3.5));
            p.drawLine(QPointF(x, ay), QPointF(x + k * 6, ay + 3.5));
        }
    }
    // length of the screw and free length as dimension lines on the other side
    const auto dimension = [&](double from, double to, double y) {
        p.setPen(QPen(t.second, 1));
        p.drawLine(QPointF(from, y), QPointF(to, y));
        for (const double x : {from, to}) {
            p.drawLine(QPointF(x, y - 4), QPointF(x, y + 4));
        }
    };
    const double y1 = d / 2 + 34;
    dimension(x0, x0 + pixels, y1);
    const bool room_for_free = screw->free_length.given();
    if (room_for_free) dimension(near_x, far_x, d / 2 + 52);
    const QTransform turn = p.transform();
    p.restore();

    if (canvas.bare) return;
    const auto label = [&](QPointF at, const QString& text, const char* path, const QColor& colour,
                           Qt::Alignment where = Qt::AlignCenter) {
        p.save();
        p.setTransform(turn);
        canvas.note(at, text, colour, where, path);
        p.restore();
    };
    const Qt::Alignment beside = steep ? Qt::AlignLeft : Qt::AlignHCenter;
    const Qt::Alignment other = steep ? Qt::AlignRight : Qt::AlignHCenter;
    const double sign = gamma < 0 ? -1 : 1;
    const Qt::Alignment right = sign > 0 ? beside : other;
    const Qt::Alignment left = sign > 0 ? other : beside;
    label({x0 + pixels / 2, y1}, QObject::tr("L %1").arg(Canvas::written(screw->length)), "/mechanism/length", t.accent,
        right);
    if (room_for_free)
        label({x0 + pixels / 2 + 22 * (steep ? 1 : 0), d / 2 + 52},
            QObject::tr("free %1").arg(Canvas::written(screw->free_length)), "/mechanism/free_length", t.accent, right);
    label({x0 + pixels * 0.93, d / 2 + (steep ? 12 : 16)}, QObject::tr("⌀ %1").arg(Canvas::written(screw->diameter)),
        "/mechanism/diameter", t.accent, right);
    label({x0 + pixels * (steep ? 0.06 : 0.10), -d / 2 - (steep ? 12 : 14)},
        QObject::tr("lead %1").arg(Canvas::written(screw->lead)), "/mechanism/lead", t.accent, left);
    label({load_at.x() - (steep ? 0 : 26), load_at.y() - (steep ? (travel > 20 ? 22 : 12) : 32)},
        QObject::tr("payload %1").arg(Canvas::written(axis.load.payload)), "/load/payload", t.accent, left);
    label({load_at.x() + (steep ? -18 : -26), load_at.y() - (steep ? 22 : 50)},
        QObject::tr("carriage %1").arg(Canvas::written(axis.load.carriage_mass)), "/load/carriage_mass", t.accent,
        left);
    if (travel > 20)
        label({cx + travel * (steep ? 0.5 : 0.85) + (steep ? 16 : 0), -d / 2 - (steep ? 40 : 46)},
            QObject::tr("stroke %1").arg(qs(format_quantity(stroke, Kind::length, canvas.system))), "", t.ink, left);
    label({x0 - 56, 0}, motor ? qs(axis.motor.name) : QObject::tr("no motor"), "/motor/name", motor ? t.ink : t.second);

    // inclination and gravity in the corner
    const QPointF corner(20, height() - 18.0);
    p.setPen(QPen(t.second, 1));
    p.drawLine(corner, corner + QPointF(44, 0));
    p.drawLine(corner, corner + QPointF(44 * std::cos(gamma), -44 * std::sin(gamma)));
    p.drawArc(QRectF(corner.x() - 18, corner.y() - 18, 36, 36), 0, static_cast<int>(gamma * 180 / M_PI * 16));
    canvas.note(corner + QPointF(30, -17), Canvas::written(axis.load.inclination), t.accent, Qt::AlignLeft,
        "/load/inclination");
    canvas.gravity();
}

} // namespace fulmox::app

// Rack and pinion, belt and chain, linear motor, free form.
#include "app/schematic/schematic.h"
#include "core/quantity/format.h"

#include <cmath>

namespace fulmox::app {

namespace {

// What a linear drawing has along its travel: pixels per metre so that stroke and carriage fit.
struct Along {
    double half = 0;   ///< half the drawn travel, px
    double travel = 0; ///< stroke, px
    double scale = 1;  ///< px per m
};

Along along(const Canvas& c, const Load& load, double stroke, double extra) {
    const double gamma = load.inclination.value_or(0);
    const double k = std::abs(std::cos(gamma)), s = std::abs(std::sin(gamma));
    const double room = std::min(k > 1e-6 ? (c.width - 70) / k : 1e9, s > 1e-6 ? (c.height - 60) / s : 1e9);
    Along a;
    a.half = std::max(60.0, room / 2);
    a.scale = (2 * a.half - extra) / std::max(stroke, 1e-6);
    a.travel = 2 * a.half - extra;
    return a;
}

void carriage_labels(Canvas& c, const Axis& axis, QPointF top) {
    c.label(top - QPointF(0, 12), QObject::tr("payload"), axis.load.payload, "/load/payload");
    c.label(top - QPointF(0, 30), QObject::tr("carriage"), axis.load.carriage_mass, "/load/carriage_mass");
}

void stroke_arrow(Canvas& c, double from, double to, double y) {
    c.arrow({from, y}, {to, y}, c.t.ink, true);
    c.note({(from + to) / 2, y + 12},
        QObject::tr("stroke %1").arg(QString::fromStdString(format_quantity(c.stroke, Kind::length, c.system))),
        c.t.ink);
}

} // namespace

void draw(Canvas& c, const Axis& axis, const RackPinion& r) {
    const double beta = r.cut == Teeth::helical ? r.helix.value_or(0.34) : 0;
    const double pitch = r.teeth.value_or(20) * r.module.value_or(0.003) / std::cos(beta);
    const double stroke = c.stroke > 0 ? c.stroke : 0.4;
    c.begin_incline(axis.load);
    const Along a = along(c, axis.load, stroke, 80);
    const double radius = std::clamp(pitch / 2 * a.scale, 14.0, 46.0);
    c.body(QRectF(-a.half, 0, 2 * a.half, 10));
    c.p.setPen(QPen(c.t.second, 1));
    const double lean = beta > 0 ? 3 : 0;
    for (double x = -a.half; x < a.half; x += 7) c.p.drawLine(QPointF(x, 0), QPointF(x + 3 + lean, 5));
    const double x = -a.travel / 2;
    c.load(QRectF(x + a.travel - 32, -radius - 34, 64, 30), true);
    c.load(QRectF(x - 32, -radius - 34, 64, 30));
    c.wheel({x, -radius}, radius, true);
    for (int k = 0; k < 12; ++k) {
        const double f = k * M_PI / 6;
        c.p.setPen(QPen(c.t.second, 1));
        c.p.drawLine(QPointF(x, -radius) + (radius - 4) * QPointF(std::cos(f), std::sin(f)),
            QPointF(x, -radius) + radius * QPointF(std::cos(f), std::sin(f)));
    }
    c.drive_face(axis, {x, -radius});
    c.label({x + radius + 30, -radius - 2}, QStringLiteral("z"), r.teeth, "/mechanism/teeth", Qt::AlignLeft);
    c.label({x + radius + 30, -radius + 16}, QStringLiteral("m"), r.module, "/mechanism/module", Qt::AlignLeft);
    if (beta > 0)
        c.label({x + radius + 92, -radius - 2}, QStringLiteral("β"), r.helix, "/mechanism/helix", Qt::AlignLeft);
    carriage_labels(c, axis, {x, -radius - 34});
    if (c.stroke > 0) stroke_arrow(c, x, x + a.travel, 26);
    c.end_incline();
}

void draw(Canvas& c, const Axis& axis, const BeltDrive& b) {
    const double pitch = b.teeth.value_or(30) * b.pitch.value_or(0.005) / M_PI;
    const double stroke = c.stroke > 0 ? c.stroke : 0.5;
    c.begin_incline(axis.load);
    const Along a = along(c, axis.load, stroke, 150);
    const double r1 = std::clamp(pitch / 2 * a.scale, 12.0, 34.0);
    const double r2 = b.idler_diameter.given() ? std::clamp(b.idler_diameter.si / 2 * a.scale, 9.0, 34.0) : r1;
    const double left = -a.half + r1 + 6, right = a.half - r2 - 6;
    const bool rides = b.motor_seat == MotorSeat::rides;
    c.p.setPen(QPen(c.t.ink, b.loop == Loop::chain ? 2.5 : 1.6, b.loop == Loop::chain ? Qt::DotLine : Qt::SolidLine));
    c.p.setBrush(Qt::NoBrush);
    c.p.drawLine(QPointF(left, -r1), QPointF(right, -r2));
    c.p.drawLine(QPointF(left, r1), QPointF(right, r2));
    c.wheel({left, 0}, r1, !rides);
    c.wheel({right, 0}, r2);
    const double x = -a.travel / 2;
    const double top = -std::max(r1, r2) - 30;
    c.load(QRectF(x + a.travel - 30, top, 60, 26), true);
    c.load(QRectF(x - 30, top, 60, 26));
    c.p.setPen(QPen(c.t.accent, 1.5));
    c.p.drawLine(QPointF(x, top + 26), QPointF(x, -r1));
    c.rail({-a.half + 20, std::max(r1, r2) + 14}, {a.half - 20, 0});
    if (rides)
        c.drive_face(axis, {x, top + 13});
    else
        c.drive_face(axis, {left, 0});
    const double below = std::max(r1, r2) + 34;
    c.label({right + r2, below}, QStringLiteral("z"), b.teeth, "/mechanism/teeth", Qt::AlignRight);
    c.label({right + r2, below + 18}, QObject::tr("pitch"), b.pitch, "/mechanism/pitch", Qt::AlignRight);
    if (b.idler_diameter.given())
        c.label(
            {right - r2 - 8, 0}, QStringLiteral("⌀"), b.idler_diameter, "/mechanism/idler_diameter", Qt::AlignRight);
    carriage_labels(c, axis, {x, top});
    if (c.stroke > 0) stroke_arrow(c, x, x + a.travel, top - 46);
    c.end_incline();
}

void draw(Canvas& c, const Axis& axis, const LinearMotor&) {
    const double stroke = c.stroke > 0 ? c.stroke : 0.4;
    c.begin_incline(axis.load);
    const Along a = along(c, axis.load, stroke, 90);
    for (double x = -a.half; x + 18 <= a.half; x += 20) {
        c.p.setPen(QPen(c.t.line, 1));
        c.p.setBrush(static_cast<int>(std::lround((x + a.half) / 20)) % 2 ? c.t.rail : c.t.line);
        c.p.drawRect(QRectF(x, 10, 18, 9));
    }
    c.rail({-a.half, 22}, {a.half, 0});
    const double x = -a.travel / 2;
    c.load(QRectF(x + a.travel - 36, -30, 72, 36), true);
    c.load(QRectF(x - 36, -30, 72, 36));
    c.arrow({x - 14, -12}, {x + 22, -12}, c.t.accent);
    c.note({x + 4, -22}, QStringLiteral("F"), c.t.accent);
    carriage_labels(c, axis, {x, -30});
    if (c.stroke > 0) stroke_arrow(c, x, x + a.travel, 40);
    c.end_incline();
}

void draw(Canvas& c, const Axis& axis, const FreeForm& f) {
    const QPointF m(c.width / 2, c.height / 2);
    c.body(QRectF(m.x() - 42, m.y() - 30, 84, 60));
    c.note(m, QStringLiteral("r, J, T"), c.t.second);
    c.drive(axis, m - QPointF(42, 0), -1);
    if (f.moves == FreeMotion::linear) {
        c.arrow(m + QPointF(46, 0), m + QPointF(100, 0), c.t.accent, true);
        c.label(m + QPointF(72, -14), QObject::tr("per turn"), f.travel, "/mechanism/travel");
    } else {
        c.turning(m + QPointF(66, 0), 22, -60, 240);
    }
    if (f.inertia.given()) c.label(m + QPointF(0, 44), QStringLiteral("J"), f.inertia, "/mechanism/inertia");
    if (f.friction_torque.given())
        c.label(m + QPointF(0, 62), QStringLiteral("T_f"), f.friction_torque, "/mechanism/friction_torque");
    if (f.constant_torque.given())
        c.label(m + QPointF(0, 80), QStringLiteral("T_0"), f.constant_torque, "/mechanism/constant_torque");
}

// A table of speeds and torques stands for the load.
void draw(Canvas& c, const Axis& axis, const GivenDemand& g) {
    const QPointF m(c.width / 2, c.height / 2);
    const QRectF sheet(m.x() - 42, m.y() - 34, 84, 68);
    c.body(sheet);
    const bool screw = g.at == DemandAt::screw;
    c.note(m - QPointF(0, 12), screw ? QStringLiteral("v, F") : QStringLiteral("n, T"), c.t.second);
    c.note(m + QPointF(0, 12), QObject::tr("table"), c.t.second);
    c.drive(axis, m - QPointF(42, 0), -1);
    if (screw) {
        c.arrow(m + QPointF(46, 0), m + QPointF(100, 0), c.t.accent, true);
        c.label(m + QPointF(72, -14), QStringLiteral("l"), g.lead, "/mechanism/lead");
    } else {
        c.turning(m + QPointF(66, 0), 22, -60, 240);
    }
    if (g.inertia.given()) c.label(m + QPointF(0, 48), QStringLiteral("J"), g.inertia, "/mechanism/inertia");
}

} // namespace fulmox::app

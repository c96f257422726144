// Conveyor, rolls, winder, hoist.
#include "app/schematic/schematic.h"
#include "core/quantity/format.h"

#include <cmath>

namespace fulmox::app {

void draw(Canvas& c, const Axis& axis, const Conveyor& v) {
    c.begin_incline(axis.load);
    const double gamma = axis.load.inclination.value_or(0);
    const double k = std::abs(std::cos(gamma)), s = std::abs(std::sin(gamma));
    const double half =
        std::max(60.0, std::min(k > 1e-6 ? (c.width - 70) / k : 1e9, s > 1e-6 ? (c.height - 60) / s : 1e9) / 2);
    const double r = 26;
    const double left = -half + r, right = half - r;
    c.p.setPen(QPen(c.t.ink, 2));
    c.p.drawLine(QPointF(left, -r), QPointF(right, -r));
    c.p.drawLine(QPointF(left, r), QPointF(right, r));
    const double small = v.roller_diameter.given() && v.pulley_diameter.given()
                             ? std::clamp(r * v.roller_diameter.si / v.pulley_diameter.si, 4.0, 14.0)
                             : 7;
    const int rollers = std::clamp(static_cast<int>(v.rollers.value_or(0)), 0, 10);
    for (int i = 0; i < rollers; ++i) c.wheel({left + (right - left) * (i + 1) / (rollers + 1), -r + small + 1}, small);
    if (rollers == 0) c.rail({left + r + 6, -r + 3}, {right - r - 6, 0});
    c.wheel({left, 0}, r);
    c.wheel({right, 0}, r, true);
    for (int i = 0; i < 3; ++i) c.load(QRectF(left + 30 + i * (right - left - 100) / 3, -r - 26, 40, 24), i > 0);
    c.arrow({left + 20, -r - 42}, {left + 90, -r - 42}, c.t.ink);
    c.label({left + 50, -r - 56}, QObject::tr("items"), axis.load.payload, "/load/payload");
    c.label({right - r - 8, 4}, QStringLiteral("⌀"), v.pulley_diameter, "/mechanism/pulley_diameter", Qt::AlignRight);
    if (v.belt_mass.given()) c.label({0, r + 14}, QObject::tr("belt"), v.belt_mass, "/mechanism/belt_mass");
    if (v.belt_drag.given()) c.label({0, r + 32}, QObject::tr("drag"), v.belt_drag, "/mechanism/belt_drag");
    c.drive_face(axis, {right, 0});
    c.end_incline();
}

void draw(Canvas& c, const Axis& axis, const FeedRolls& f) {
    const double d1 = f.roll_diameter.value_or(0.06), d2 = f.follower_diameter.value_or(d1);
    const double scale = std::min(c.height - 90, 190.0) / (d1 + d2);
    const double r1 = std::clamp(d1 / 2 * scale, 16.0, 80.0), r2 = std::clamp(d2 / 2 * scale, 14.0, 80.0);
    const QPointF m(c.width / 2, c.height / 2 + (r2 - r1) / 2);
    c.p.setPen(QPen(c.t.accent, 2.2));
    c.p.drawLine(QPointF(24, m.y()), QPointF(c.width - 24, m.y()));
    c.wheel(m + QPointF(0, r1), r1, true);
    c.wheel(m - QPointF(0, r2), r2);
    c.turning(m + QPointF(0, r1), r1 + 7, 200, 120);
    c.arrow({c.width - 70, m.y() - 14}, {c.width - 26, m.y() - 14}, c.t.ink);
    c.arrow({62, m.y() - 14}, {26, m.y() - 14}, c.t.ink);
    c.label({50, m.y() - 28}, QStringLiteral("F"), f.tension, "/mechanism/tension");
    c.label(m + QPointF(r1 + 12, r1), QStringLiteral("⌀"), f.roll_diameter, "/mechanism/roll_diameter", Qt::AlignLeft);
    if (f.follower_diameter.given())
        c.label(m + QPointF(r2 + 12, -r2), QStringLiteral("⌀"), f.follower_diameter, "/mechanism/follower_diameter",
            Qt::AlignLeft);
    c.label({c.width - 60, m.y() + 18}, QObject::tr("strip"), axis.load.payload, "/load/payload");
    c.drive_face(axis, m + QPointF(0, r1));
}

void draw(Canvas& c, const Axis& axis, const Winder& w) {
    const double full = w.roll_diameter.value_or(0.4), core = w.core_diameter.value_or(0.08);
    const double r = std::min(c.height - 60, c.width - 160) / 2;
    const double scale = r / (full / 2);
    const QPointF m(c.width / 2 - 46, c.height / 2);
    c.p.setPen(QPen(c.t.accent, 1.5));
    c.p.setBrush(c.t.accent_ground);
    c.p.drawEllipse(m, r, r);
    c.p.setPen(QPen(c.t.third, 1, Qt::DashLine));
    c.p.setBrush(Qt::NoBrush);
    const double half = std::sqrt((full * full + core * core) / 2) / 2 * scale; // half of the web
    c.p.drawEllipse(m, half, half);
    const double rc = std::clamp(core / 2 * scale, 6.0, r * 0.95);
    c.p.setPen(QPen(c.t.ink, 1.2));
    c.p.setBrush(c.t.panel);
    c.p.drawEllipse(m, rc, rc);
    c.p.setPen(QPen(c.t.accent, 2));
    c.p.drawLine(m + QPointF(0, -r), QPointF(c.width - 16, m.y() - r));
    const bool winds = w.winds == WindsTo::winds;
    c.arrow({c.width - 60, m.y() - r + 12}, {c.width - 18, m.y() - r + 12}, c.t.ink);
    c.turning(m, rc + 8, winds ? 60 : 140, winds ? 100 : -100);
    c.label({c.width - 40, m.y() - r + 26}, QStringLiteral("F"), w.tension, "/mechanism/tension", Qt::AlignRight);
    c.label(m + QPointF(r + 8, 0), QStringLiteral("⌀"), w.roll_diameter, "/mechanism/roll_diameter", Qt::AlignLeft);
    c.label(m + QPointF(r + 8, 18), QObject::tr("core ⌀"), w.core_diameter, "/mechanism/core_diameter", Qt::AlignLeft);
    c.label(m + QPointF(r + 8, 36), QStringLiteral("h"), w.web_thickness, "/mechanism/web_thickness", Qt::AlignLeft);
    c.label(m + QPointF(r + 8, 54), QObject::tr("width"), w.web_width, "/mechanism/web_width", Qt::AlignLeft);
    c.note(m + QPointF(0, -half - 8), QObject::tr("half of the web"), c.t.second);
    c.drive_face(axis, m);
}

void draw(Canvas& c, const Axis& axis, const Hoist& h) {
    const double r = 34;
    const QPointF drum(c.width / 2, 54);
    c.wheel(drum, r, true);
    const int falls = std::clamp(static_cast<int>(h.falls.value_or(1)), 1, 6);
    const double top = drum.y(), low = c.height - 74;
    const double left = drum.x() - r;
    c.p.setPen(QPen(c.t.ink, 1.4));
    if (falls > 1) c.wheel({left + 13.0 * (falls - 1) / 2, low - 20}, 7.0 * (falls - 1) + 4);
    c.p.setPen(QPen(c.t.ink, 1.4));
    for (int i = 0; i < falls; ++i) {
        const double x = left + 13.0 * i;
        c.p.drawLine(QPointF(x, i == 0 ? top : top + r + 8), QPointF(x, low - (falls > 1 ? 20 : 0)));
    }
    const QRectF load(left + 13.0 * (falls - 1) / 2 - 34, low, 68, 38);
    c.load(load);
    c.arrow({load.left() - 14, load.bottom()}, {load.left() - 14, load.top() - 40}, c.t.ink, true);
    c.label({load.center().x() + 40, load.center().y() - 8}, QObject::tr("payload"), axis.load.payload, "/load/payload",
        Qt::AlignLeft);
    c.label({load.center().x() + 40, load.center().y() + 10}, QObject::tr("hook"), axis.load.carriage_mass,
        "/load/carriage_mass", Qt::AlignLeft);
    if (axis.load.counterweight.value_or(0) > 0) {
        const double x = drum.x() + r;
        c.p.setPen(QPen(c.t.ink, 1.4));
        c.p.drawLine(QPointF(x, top), QPointF(x, low - 60));
        c.body(QRectF(x - 12, low - 60, 24, 40));
        c.label({x + 18, low - 46}, QObject::tr("counterweight"), axis.load.counterweight, "/load/counterweight",
            Qt::AlignLeft);
    }
    c.label(
        drum + QPointF(r + 10, -16), QStringLiteral("⌀"), h.drum_diameter, "/mechanism/drum_diameter", Qt::AlignLeft);
    c.label({left - 10, (top + low) / 2}, QObject::tr("falls"), h.falls, "/mechanism/falls", Qt::AlignRight);
    c.drive_face(axis, drum);
    c.gravity();
}

} // namespace fulmox::app

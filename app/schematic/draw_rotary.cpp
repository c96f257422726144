// Tables, arms, cranks, fans.
#include "app/schematic/schematic.h"
#include "core/load/load_model.h"
#include "core/quantity/format.h"

#include <QPainterPath>
#include <cmath>

namespace fulmox::app {

namespace {

QPointF around(QPointF m, double r, double angle) { return m + r * QPointF(std::cos(angle), -std::sin(angle)); }

QString degrees(const Canvas& c) {
    return QString::fromStdString(format_quantity(c.stroke, *find_unit("deg", Kind::angle), 4));
}

// Half of the largest size of a body across the axis, m.
double extent(const Body& b) {
    if (const auto* s = std::get_if<SolidCylinder>(&b.shape)) return s->diameter.value_or(0) / 2;
    if (const auto* s = std::get_if<HollowCylinder>(&b.shape)) return s->outer_diameter.value_or(0) / 2;
    if (const auto* s = std::get_if<ThinRing>(&b.shape)) return s->diameter.value_or(0) / 2;
    if (const auto* s = std::get_if<Sphere>(&b.shape)) return s->diameter.value_or(0) / 2;
    if (const auto* s = std::get_if<Cone>(&b.shape)) return s->diameter.value_or(0) / 2;
    if (const auto* s = std::get_if<Rod>(&b.shape)) return s->length.value_or(0) / 2;
    if (const auto* s = std::get_if<CrossCylinder>(&b.shape)) return s->length.value_or(0) / 2;
    if (const auto* s = std::get_if<Block>(&b.shape))
        return std::hypot(s->length.value_or(0), s->width.value_or(0)) / 2;
    return 0;
}

// A body as it looks along the axis, every one of its number.
void draw_body(Canvas& c, const Body& b, QPointF m, double scale, double turned = 0) {
    const int n = std::clamp(static_cast<int>(b.count.value_or(1)), 1, 48);
    const double size = std::max(extent(b) * scale, 3.0);
    for (int i = 0; i < n; ++i) {
        const double angle = turned + b.offset_angle.value_or(0) + 2 * M_PI * i / n;
        c.p.save();
        c.p.translate(around(m, b.offset.value_or(0) * scale, angle));
        c.p.rotate(-angle * 180 / M_PI);
        c.p.setPen(QPen(b.hole                       ? c.t.third
                        : b.place == BodyPlace::load ? c.t.accent
                                                     : c.t.second,
            1, b.hole ? Qt::DashLine : Qt::SolidLine));
        QColor fill = b.place == BodyPlace::load ? c.t.accent_ground : c.t.panel;
        fill.setAlpha(150);
        c.p.setBrush(b.hole ? QBrush(Qt::NoBrush) : QBrush(fill));
        if (const auto* block = std::get_if<Block>(&b.shape)) {
            const double w = block->length.value_or(0) * scale, h = block->width.value_or(0) * scale;
            c.p.drawRect(QRectF(-w / 2, -h / 2, w, h));
        } else if (std::holds_alternative<Rod>(b.shape) || std::holds_alternative<CrossCylinder>(b.shape)) {
            c.p.drawRect(QRectF(-size, -3, 2 * size, 6));
        } else {
            c.p.drawEllipse(QPointF(0, 0), size, size);
            if (const auto* tube = std::get_if<HollowCylinder>(&b.shape)) {
                const double bore = tube->inner_diameter.value_or(0) / 2 * scale;
                c.p.drawEllipse(QPointF(0, 0), bore, bore);
            }
        }
        c.p.restore();
    }
}

void slider_labels(Canvas& c, const Axis& axis, QPointF at) {
    c.label(at - QPointF(0, 10), QObject::tr("slider"), axis.load.carriage_mass, "/load/carriage_mass");
    if (axis.load.payload.value_or(0) > 0)
        c.label(at - QPointF(0, 28), QObject::tr("payload"), axis.load.payload, "/load/payload");
}

} // namespace

void draw(Canvas& c, const Axis& axis, const RotaryTable& t) {
    const double tilt = t.tilt.value_or(0);
    const bool upright = std::abs(tilt) > 0.02;
    const QPointF m(c.width / 2 - (upright ? 40 : 0), c.height / 2);
    const double r = std::min(c.height - 70, c.width - 120) / 2;
    // from above: the payload on its radius, every body at its offset
    double reach = t.payload_radius.value_or(0);
    for (const Body& b : axis.bodies) reach = std::max(reach, b.offset.value_or(0) + extent(b));
    const double scale = reach > 0 ? 0.97 * r / reach : 0;
    c.wheel(m, r);
    const double payload = t.payload_radius.value_or(0) * scale;
    const QPointF at = around(m, c.bare ? 0.6 * r : payload, 0.6);
    const bool carries = c.bare || axis.load.payload.value_or(0) > 0 || axis.bodies.empty();
    for (const Body& b : axis.bodies) draw_body(c, b, m, scale);
    if (carries) c.load(QRectF(at.x() - 15, at.y() - 12, 30, 24));
    c.turning(m, r + 10, 20, 70);
    if (c.stroke > 0) c.note(around(m, r + 20, 0.95), degrees(c), c.t.ink, Qt::AlignLeft);
    if (payload > 0) {
        c.p.setPen(QPen(c.t.second, 1));
        c.p.drawLine(m, at);
    }
    if (t.payload_radius.given())
        c.label((m + at) / 2 + QPointF(0, 14), QStringLiteral("r"), t.payload_radius, "/mechanism/payload_radius");
    if (carries) c.label(at - QPointF(0, 22), QObject::tr("payload"), axis.load.payload, "/load/payload");
    c.drive_face(axis, m);
    if (!upright || c.bare) return;
    // from the side: how the axis leans
    const QPointF side(c.width - 56, c.height / 2 + 10);
    c.p.save();
    c.p.translate(side);
    c.p.rotate(tilt * 180 / M_PI);
    c.body(QRectF(-34, -4, 68, 8));
    c.p.drawLine(QPointF(0, 4), QPointF(0, 40));
    c.p.restore();
    c.p.setPen(QPen(c.t.third, 1, Qt::DashLine));
    c.p.drawLine(side - QPointF(0, 46), side + QPointF(0, 46));
    c.label(side - QPointF(0, 60), QStringLiteral("δ"), t.tilt, "/mechanism/tilt");
    c.gravity();
}

void draw(Canvas& c, const Axis& axis, const Arm& a) {
    double reach = std::max({a.payload_radius.value_or(0.5), 2 * a.arm_centre.value_or(0), 1e-6});
    for (const Body& b : axis.bodies) reach = std::max(reach, b.offset.value_or(0) + extent(b));
    const QPointF m(c.width / 2 - 30, c.height / 2 + 20);
    const double scale = std::min(c.width / 2 - 40, c.height - 110) / reach;
    const double level = a.horizontal_at.value_or(0);
    const double start = axis.cycle.start_position.value_or(0);
    const double from = start - level, swing = c.bare ? 0.9 : std::min(c.stroke, 2 * M_PI);
    const auto arm = [&](double angle, bool ghost) {
        const double length = std::max(a.payload_radius.value_or(reach), 2 * a.arm_centre.value_or(0));
        const QPointF tip = around(m, length * scale, angle);
        c.p.setPen(
            QPen(ghost ? c.t.third : c.t.second, ghost ? 1 : 6, ghost ? Qt::DashLine : Qt::SolidLine, Qt::RoundCap));
        c.p.drawLine(m, tip);
        const QPointF load = around(m, a.payload_radius.value_or(reach) * scale, angle);
        c.load(QRectF(load.x() - 13, load.y() - 13, 26, 26), ghost);
        return load;
    };
    if (swing > 0.05) arm(from + swing, true);
    const QPointF load = arm(from, false);
    for (const Body& b : axis.bodies) draw_body(c, b, m, scale, from);
    c.p.setPen(QPen(c.t.third, 1, Qt::DashLine));
    c.p.drawLine(m, m + QPointF(reach * scale * 0.9, 0));
    c.note(m + QPointF(reach * scale * 0.9, 10), QObject::tr("level"), c.t.second);
    if (a.arm_centre.given()) {
        const QPointF centre = around(m, a.arm_centre.si * scale, from);
        c.p.setPen(QPen(c.t.ink, 1.4));
        c.p.setBrush(c.t.panel);
        c.p.drawEllipse(centre, 4.5, 4.5);
        c.label(centre + QPointF(0, 16), QObject::tr("arm"), a.arm_mass, "/mechanism/arm_mass");
    }
    if (swing > 0.05 && !c.bare) {
        c.turning(m, 34, from * 180 / M_PI, swing * 180 / M_PI);
        c.note(around(m, 52, from + swing / 2), degrees(c), c.t.ink);
    }
    c.label(load - QPointF(0, 22), QObject::tr("payload"), axis.load.payload, "/load/payload");
    c.label(load + QPointF(18, 8), QStringLiteral("r"), a.payload_radius, "/mechanism/payload_radius", Qt::AlignLeft);
    c.wheel(m, 9, true);
    c.drive_face(axis, m);
    c.gravity();
}

namespace {

QString stroke_words(const Canvas& c, const Quantity<Kind::length>& crank) {
    return QObject::tr("stroke %1")
        .arg(crank.given() ? QString::fromStdString(format_quantity(2 * crank.si, Kind::length, c.system))
                           : QStringLiteral("?"));
}

} // namespace

void draw(Canvas& c, const Axis& axis, const SliderCrank& s) {
    // lengths that cannot be are drawn as the nearest that can; the field says what is wrong with them
    const double crank = std::max(1e-9, std::abs(s.crank.value_or(0.04)));
    const double rod = std::max(1.001 * crank, std::abs(s.rod.value_or(0.15)));
    const double whole = 2 * crank + rod + 0.02 * rod;
    c.begin_incline(axis.load);
    const double gamma = axis.load.inclination.value_or(0);
    const double k = std::abs(std::cos(gamma)), sn = std::abs(std::sin(gamma));
    const double room = std::min(k > 1e-6 ? (c.width - 60) / k : 1e9, sn > 1e-6 ? (c.height - 50) / sn : 1e9);
    const double scale = std::max(40.0, room - 70) / whole;
    const double r = crank * scale, l = rod * scale;
    const QPointF m(-(whole * scale) / 2 - 20 + r, 0);
    const double angle = 0.9;
    const QPointF pin = around(m, r, angle);
    const double x = r * std::cos(angle) + std::sqrt(l * l - r * r * std::sin(angle) * std::sin(angle));
    const QPointF slider = m + QPointF(x, 0);
    c.rail({slider.x() - r - 40, 19}, {m.x() + r + l + 36, 0});
    c.wheel(m, r);
    c.load(QRectF(m.x() + l + r - 24, -18, 48, 36), true);
    c.load(QRectF(m.x() + l - r - 24, -18, 48, 36), true);
    c.load(QRectF(slider.x() - 24, -18, 48, 36));
    c.p.setPen(QPen(c.t.second, 5, Qt::SolidLine, Qt::RoundCap));
    c.p.drawLine(pin, slider);
    c.p.setPen(QPen(c.t.ink, 6, Qt::SolidLine, Qt::RoundCap));
    c.p.drawLine(m, pin);
    for (const QPointF& at : {m, pin, slider}) {
        c.p.setPen(QPen(c.t.ink, 1.2));
        c.p.setBrush(c.t.panel);
        c.p.drawEllipse(at, 4.0, 4.0);
    }
    c.turning(m, r + 8, 100, 80);
    c.label((m + pin) / 2 - QPointF(6, 4), QStringLiteral("c"), s.crank, "/mechanism/crank", Qt::AlignRight);
    c.label((pin + slider) / 2 - QPointF(0, 14), QStringLiteral("l"), s.rod, "/mechanism/rod", Qt::AlignLeft);
    slider_labels(c, axis, slider - QPointF(0, 18));
    c.dimension(m + QPointF(l - r, 40), m + QPointF(l + r, 40));
    c.note(m + QPointF(l, 52), stroke_words(c, s.crank), c.t.ink);
    c.drive_face(axis, m);
    c.end_incline();
}

void draw(Canvas& c, const Axis& axis, const ScotchYoke& s) {
    c.begin_incline(axis.load);
    const double r = std::min(c.height - 110, c.width - 240) / 2;
    const QPointF m(-50, 0);
    const double angle = 0.7;
    const QPointF pin = around(m, r, angle);
    // positive travel is sin θ of the crank: drawn along the travel
    c.wheel(m, r);
    c.load(QRectF(pin.x() - 9, -r - 12, 18, 2 * r + 24));
    c.load(QRectF(pin.x() + 9, -8, r + 50, 16));
    c.load(QRectF(pin.x() + r + 59, -22, 40, 44));
    c.p.setPen(QPen(c.t.ink, 6, Qt::SolidLine, Qt::RoundCap));
    c.p.drawLine(m, pin);
    c.p.setPen(QPen(c.t.ink, 1.2));
    c.p.setBrush(c.t.panel);
    c.p.drawRect(QRectF(pin.x() - 8, pin.y() - 8, 16, 16));
    c.p.drawEllipse(m, 4.0, 4.0);
    c.turning(m, r + 8, 100, 80);
    c.label((m + pin) / 2 - QPointF(8, 6), QStringLiteral("c"), s.crank, "/mechanism/crank", Qt::AlignRight);
    slider_labels(c, axis, {pin.x() + r + 79, -22});
    c.note({pin.x() + r / 2 + 40, 26}, stroke_words(c, s.crank), c.t.ink);
    c.drive_face(axis, m);
    c.end_incline();
}

void draw(Canvas& c, const Axis& axis, const Fan& f) {
    const QPointF m(c.width / 2 + 30, c.height / 2);
    const double r = std::min(c.height - 90, c.width - 180) / 2;
    c.p.setPen(QPen(c.t.third, 1, Qt::DashLine));
    c.p.setBrush(Qt::NoBrush);
    c.p.drawEllipse(m, r, r);
    for (int i = 0; i < 4; ++i) {
        c.p.save();
        c.p.translate(m);
        c.p.rotate(i * 90.0 + 20);
        QPainterPath blade;
        blade.moveTo(8, -4);
        blade.cubicTo(r * 0.5, -r * 0.36, r * 0.9, -r * 0.26, r * 0.96, 0);
        blade.cubicTo(r * 0.7, r * 0.08, r * 0.4, r * 0.06, 8, 5);
        c.p.setPen(QPen(c.t.accent, 1.3));
        c.p.setBrush(c.t.accent_ground);
        c.p.drawPath(blade);
        c.p.restore();
    }
    c.wheel(m, 11, true);
    c.turning(m, r + 9, 30, 70);
    c.drive_face(axis, m);
    c.label(m + QPointF(-r - 16, -14), QStringLiteral("T_ref"), f.reference_torque, "/mechanism/reference_torque",
        Qt::AlignRight);
    c.label(
        m + QPointF(-r - 16, 6), QObject::tr("at"), f.reference_speed, "/mechanism/reference_speed", Qt::AlignRight);
    if (f.rotor_inertia.given())
        c.label(
            m + QPointF(-r - 16, 26), QStringLiteral("J"), f.rotor_inertia, "/mechanism/rotor_inertia", Qt::AlignRight);
}

} // namespace fulmox::app

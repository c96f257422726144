#include "app/schematic/canvas.h"
#include "app/words.h"

#include "core/quantity/format.h"

#include <cmath>

namespace fulmox::app {

Canvas::Canvas(QPainter& painter, QSizeF size, bool without_words, double s, UnitSystem units, QString path)
    : p(painter), t(theme()), width(size.width()), height(size.height()), bare(without_words), stroke(s), system(units),
      axis_path_(std::move(path)) {
    p.setRenderHint(QPainter::Antialiasing);
}

QString Canvas::written(const QuantityBase& q) {
    if (!q.given()) return QStringLiteral("?");
    return QString::fromStdString(q.text)
        .section(QStringLiteral("±"), 0, 0)
        .section(QStringLiteral("+/-"), 0, 0)
        .trimmed();
}

void Canvas::label(QPointF at, const QString& words, const QuantityBase& q, const char* path, Qt::Alignment where) {
    const QString text = words.isEmpty() ? written(q) : words + QLatin1Char(' ') + written(q);
    labels_.push_back({p.transform().map(at), text, axis_path_ + QLatin1String(path), t.accent, where});
}

void Canvas::note(QPointF at, const QString& text, const QColor& colour, Qt::Alignment where, const char* path) {
    labels_.push_back(
        {p.transform().map(at), text, *path ? axis_path_ + QLatin1String(path) : QString(), colour, where});
}

void Canvas::place_labels() {
    if (bare) return;
    p.setFont(type_face(12));
    const QFontMetricsF m(p.font());
    std::vector<QRectF> taken;
    for (const Label& l : labels_) {
        QRectF box(0, 0, m.horizontalAdvance(l.text) + 8, m.height() + 2);
        box.moveCenter(l.at);
        if (l.where & Qt::AlignLeft) box.moveLeft(l.at.x());
        if (l.where & Qt::AlignRight) box.moveRight(l.at.x());
        const auto inside = [&] {
            box.moveLeft(std::clamp(box.left(), 2.0, std::max(2.0, width - box.width() - 2)));
            box.moveTop(std::clamp(box.top(), 2.0, std::max(2.0, height - box.height() - 2)));
        };
        inside();
        const auto free_place = [&] {
            for (const QRectF& other : taken)
                if (other.intersects(box)) return false;
            return true;
        };
        // the nearest free line above or below
        const double y = box.top();
        for (int step = 1; step < 12 && !free_place(); ++step) {
            box.moveTop(y + (step % 2 ? 1 : -1) * ((step + 1) / 2) * (box.height() + 1));
            inside();
        }
        taken.push_back(box);
        said << l.text;
        QColor ground = t.panel;
        ground.setAlpha(225);
        p.setPen(Qt::NoPen);
        p.setBrush(ground);
        p.drawRoundedRect(box, 3, 3);
        p.setPen(l.colour);
        p.drawText(box, Qt::AlignCenter, l.text);
        if (!l.path.isEmpty()) hits.push_back({box, l.path});
    }
    labels_.clear();
}

void Canvas::body(const QRectF& box) {
    p.setPen(QPen(t.second, 1));
    p.setBrush(t.panel);
    p.drawRect(box);
}

void Canvas::wheel(QPointF centre, double radius, bool driven) {
    p.setPen(QPen(driven ? t.ink : t.second, driven ? 1.5 : 1));
    p.setBrush(driven ? t.accent_ground : t.panel);
    p.drawEllipse(centre, radius, radius);
    p.setBrush(t.ink);
    p.setPen(Qt::NoPen);
    p.drawEllipse(centre, 2.0, 2.0);
}

void Canvas::load(const QRectF& box, bool ghost) {
    QColor fill = t.accent_ground;
    fill.setAlpha(225);
    p.setPen(ghost ? QPen(t.third, 1, Qt::DashLine) : QPen(t.accent, 1.5));
    p.setBrush(ghost ? QBrush(Qt::NoBrush) : QBrush(fill));
    p.drawRect(box);
}

void Canvas::rail(QPointF from, QPointF to) {
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.rail);
    p.drawRect(QRectF(from, QSizeF(to.x() - from.x(), 6)));
}

void Canvas::dimension(QPointF from, QPointF to) {
    if (bare) return;
    p.setPen(QPen(t.second, 1));
    p.drawLine(from, to);
    const QPointF along = to - from;
    const double n = std::hypot(along.x(), along.y());
    if (n <= 0) return;
    const QPointF across(-along.y() / n * 4, along.x() / n * 4);
    for (const QPointF& end : {from, to}) p.drawLine(end - across, end + across);
}

void Canvas::arrow(QPointF from, QPointF to, const QColor& colour, bool both) {
    p.setPen(QPen(colour, 1.3));
    p.drawLine(from, to);
    const double angle = std::atan2(to.y() - from.y(), to.x() - from.x());
    const auto head = [&](QPointF at, double turn) {
        for (const double side : {-0.45, 0.45})
            p.drawLine(at, at - 7 * QPointF(std::cos(turn + side), std::sin(turn + side)));
    };
    head(to, angle);
    if (both) head(from, angle + M_PI);
}

void Canvas::turning(QPointF centre, double radius, double from, double span) {
    p.setPen(QPen(t.ink, 1.3));
    p.setBrush(Qt::NoBrush);
    p.drawArc(QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius), static_cast<int>(from * 16),
        static_cast<int>(span * 16));
    const double end = (from + span) * M_PI / 180;
    const QPointF tip = centre + radius * QPointF(std::cos(end), -std::sin(end));
    const double way = std::atan2(-std::cos(end), -std::sin(end)) + (span < 0 ? M_PI : 0);
    for (const double side : {-0.45, 0.45})
        p.drawLine(tip, tip - 7 * QPointF(std::cos(way + side), std::sin(way + side)));
}

void Canvas::drive(const Axis& axis, QPointF shaft, double direction) {
    double x = shaft.x();
    const auto box = [&](double w, double h) {
        const QRectF r(direction > 0 ? x : x - w, shaft.y() - h / 2, w, h);
        x += direction * w;
        return r;
    };
    body(box(8, 6));
    for (std::size_t i = 0; i < axis.stages.size() && i < 3; ++i) {
        const QRectF r = box(22, 30);
        body(r);
        note(QPointF(r.center().x(), shaft.y() + 24), QStringLiteral("i ") + written(axis.stages[i].ratio), t.accent);
        body(box(4, 6));
    }
    const bool motor = !axis.motor.empty();
    const QRectF r = box(52, 38);
    p.setPen(QPen(motor ? t.ink : t.second, 1, motor ? Qt::SolidLine : Qt::DashLine));
    p.setBrush(motor ? t.rail : t.panel);
    p.drawRoundedRect(r, 3, 3);
    if (axis.motor.brake_torque.given()) {
        p.setBrush(t.line);
        p.drawRect(direction > 0 ? QRectF(r.right() - 12, r.top(), 12, r.height())
                                 : QRectF(r.left(), r.top(), 12, r.height()));
    }
    note(r.center() - QPointF(0, 30), motor ? qs(axis.motor.name) : QObject::tr("no motor selected"),
        motor ? t.ink : t.second, Qt::AlignCenter, "/motor/name");
}

void Canvas::drive_face(const Axis& axis, QPointF centre) {
    const bool motor = !axis.motor.empty();
    p.setPen(QPen(motor ? t.second : t.third, 1, motor ? Qt::SolidLine : Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(QRectF(centre.x() - 15, centre.y() - 15, 30, 30), 3, 3);
    QString text = motor ? qs(axis.motor.name) : QObject::tr("no motor selected");
    for (const Stage& s : axis.stages) text += QStringLiteral(" · i ") + written(s.ratio);
    // below it on the screen, however the axis leans
    labels_.push_back({p.transform().map(centre) + QPointF(0, 27), text, axis_path_ + QStringLiteral("/motor/name"),
        motor ? t.ink : t.second, Qt::AlignCenter});
}

void Canvas::gravity() {
    if (bare) return;
    const QPointF g(width - 20.0, height - 42.0);
    p.setPen(QPen(t.second, 1.2));
    p.drawLine(g, g + QPointF(0, 30));
    p.drawLine(g + QPointF(0, 30), g + QPointF(-4, 23));
    p.drawLine(g + QPointF(0, 30), g + QPointF(4, 23));
    p.setFont(type_face(12));
    p.drawText(QRectF(g.x() - 18, g.y() + 4, 14, 16), Qt::AlignCenter, QStringLiteral("g"));
}

void Canvas::begin_incline(const Load& load) {
    angle_ = load.inclination.value_or(0);
    angle_text_ = written(load.inclination);
    p.save();
    p.translate(width / 2, height / 2);
    p.rotate(-angle_ * 180 / M_PI);
}

void Canvas::end_incline() {
    p.restore();
    if (bare) return;
    const QPointF corner(20, height - 16.0);
    p.setPen(QPen(t.second, 1));
    p.drawLine(corner, corner + QPointF(44, 0));
    p.drawLine(corner, corner + QPointF(44 * std::cos(angle_), -44 * std::sin(angle_)));
    note(corner + QPointF(50, -10), angle_text_, t.accent, Qt::AlignLeft, "/load/inclination");
    gravity();
}

} // namespace fulmox::app

#include "app/forms/body_picture.h"

#include "app/bricks/paint.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/load/bodies.h"
#include "core/quantity/format.h"

#include <QPainter>
#include <cmath>

namespace fulmox::app {

namespace {

// What a body looks like: across is seen along the axis it turns about, from the side the axis stands upright. Metres.
struct Outline2 {
    enum class Form { round, tube, box, wedge, dot } form = Form::dot;
    double across_width = 0, across_height = 0; // seen along the axis
    double side_width = 0, side_height = 0;     // from the side
    double bore = 0;
};

Outline2 outline_of(const BodyShape& shape) {
    using F = Outline2::Form;
    const auto v = [](const QuantityBase& q) { return q.given() ? q.si : 0.0; };
    if (const auto* s = std::get_if<SolidCylinder>(&shape))
        return {F::round, v(s->diameter), v(s->diameter), v(s->diameter), v(s->length)};
    if (const auto* s = std::get_if<HollowCylinder>(&shape))
        return {F::tube, v(s->outer_diameter), v(s->outer_diameter), v(s->outer_diameter), v(s->length),
            v(s->inner_diameter)};
    if (const auto* s = std::get_if<ThinRing>(&shape)) {
        const double d = v(s->diameter);
        return {F::tube, d, d, d, 0.06 * d, 0.94 * d};
    }
    if (const auto* s = std::get_if<CrossCylinder>(&shape))
        return {F::box, v(s->length), v(s->diameter), v(s->length), v(s->diameter)};
    if (const auto* s = std::get_if<Block>(&shape))
        return {F::box, v(s->length), v(s->width), v(s->length), v(s->height)};
    if (const auto* s = std::get_if<Rod>(&shape))
        return {F::box, v(s->length), 0.03 * v(s->length), v(s->length), 0.03 * v(s->length)};
    if (const auto* s = std::get_if<Sphere>(&shape))
        return {F::round, v(s->diameter), v(s->diameter), v(s->diameter), v(s->diameter)};
    if (const auto* s = std::get_if<Cone>(&shape))
        return {F::wedge, v(s->diameter), v(s->diameter), v(s->diameter), v(s->height)};
    return {};
}

} // namespace

BodyPicture::BodyPicture(Document& document, std::function<int()> which, QWidget* parent)
    : LiveWidget(document, parent), which_(std::move(which)) {
    setObjectName(QStringLiteral("body-picture"));
    setFixedHeight(112);
}

const Body* BodyPicture::body() const {
    if (!document_.has_axis()) return nullptr;
    const auto& bodies = document_.axis().bodies;
    const int i = which_();
    return i >= 0 && i < static_cast<int>(bodies.size()) ? &bodies[static_cast<std::size_t>(i)] : nullptr;
}

QStringList BodyPicture::words() const {
    const Body* b = body();
    if (!b) return {};
    const Assessment& a = document_.assessment();
    const InertiaShare* share = nullptr;
    if (a.inertia)
        for (const InertiaShare& s : a.inertia->shares)
            if (s.key == "body_" + std::to_string(which_() + 1)) share = &s;
    if (!share) return {tr("Its mass and share appear when its fields are complete.")};
    const UnitSystem system = document_.machine().unit_system;
    const BodyValue value = body_value(*b, document_.machine().materials, false);
    QStringList out;
    const double n = b->count.value_or(1);
    if (value.mass != 0)
        out << qs(format_quantity(value.mass, Kind::mass, system)) +
                   (n > 1 ? tr(", %1 together").arg(qs(format_number(n))) : QString());
    if (share->travels)
        out << tr("travels with the load");
    else
        out << tr("J %1").arg(qs(format_quantity(value.inertia, Kind::inertia, system)));
    out << tr("%1 at motor").arg(qs(format_quantity(share->at_shaft, Kind::inertia, system, 3)));
    if (a.inertia->load > 0)
        out << tr("%1 % of the load side").arg(qs(format_number(100 * share->at_shaft / a.inertia->load, 3)));
    return out;
}

void BodyPicture::paintEvent(QPaintEvent*) {
    const Body* b = body();
    if (!b) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const Motion motion = motion_of(document_.axis().mechanism);
    const bool turns = (motion.rotary && !motion.linear_force) || b->place == BodyPlace::shaft ||
                       std::holds_alternative<Winder>(document_.axis().mechanism);
    const Outline2 o = outline_of(b->shape);
    const double offset = turns ? b->offset.value_or(0) : 0;
    // both views to one scale, the axis included where the body stands off it
    const double wide = std::max(
        {o.across_width + (offset > 0 ? 2 * std::max(0.0, offset - o.across_width / 2) : 0), o.side_width, 1e-9});
    const double high = std::max({o.across_height, o.side_height, 1e-9});
    const double room = 92, scale = std::min(room / wide, 78 / high);
    QColor fill = b->place == BodyPlace::load ? t.accent_ground : t.rail;
    const QPen line(b->hole                       ? t.third
                    : b->place == BodyPlace::load ? t.accent
                                                  : t.second,
        1.3, b->hole ? Qt::DashLine : Qt::SolidLine);
    const auto shape = [&] {
        p.setPen(line);
        p.setBrush(b->hole ? QBrush(Qt::NoBrush) : QBrush(fill));
    };
    p.setFont(type_face(11));
    const auto view = [&](double middle, const QString& caption, bool along) {
        const double w = (along ? o.across_width : o.side_width) * scale;
        const double h = (along ? o.across_height : o.side_height) * scale;
        const double shift = offset > 0 && o.form != Outline2::Form::dot ? std::min(offset * scale, room / 2) / 2 : 0;
        const QPointF axis(middle - shift, 46), centre(middle + shift, 46);
        shape();
        const QRectF box(centre.x() - w / 2, centre.y() - h / 2, w, h);
        if (o.form == Outline2::Form::dot) {
            p.setBrush(line.color());
            p.drawEllipse(QPointF(middle, 46), 4.0, 4.0);
        } else if (along && o.form != Outline2::Form::box) {
            p.drawEllipse(box);
            if (o.bore > 0) {
                p.setBrush(t.paper);
                p.drawEllipse(centre, o.bore * scale / 2, o.bore * scale / 2);
            }
        } else if (!along && o.form == Outline2::Form::wedge) {
            p.drawPolygon(QPolygonF{box.bottomLeft(), box.bottomRight(), QPointF(box.center().x(), box.top())});
        } else if (!along && o.form == Outline2::Form::round && std::holds_alternative<Sphere>(b->shape)) {
            p.drawEllipse(box);
        } else {
            p.drawRect(box);
            if (o.bore > 0) {
                p.setPen(QPen(t.third, 1, Qt::DashLine));
                for (const double side : {-0.5, 0.5})
                    p.drawLine(QPointF(centre.x() + side * o.bore * scale, box.top()),
                        QPointF(centre.x() + side * o.bore * scale, box.bottom()));
            }
        }
        if (turns) {
            p.setPen(QPen(t.ink, 1.1, along ? Qt::SolidLine : Qt::DashDotLine));
            if (along) {
                p.drawLine(axis - QPointF(5, 0), axis + QPointF(5, 0));
                p.drawLine(axis - QPointF(0, 5), axis + QPointF(0, 5));
            } else {
                p.drawLine(axis - QPointF(0, 42), axis + QPointF(0, 42));
            }
        }
        p.setPen(t.second);
        p.drawText(QRectF(middle - 52, 94, 104, 16), Qt::AlignCenter, caption);
    };
    view(50, turns ? tr("along the axis") : tr("from above"), true);
    view(152, tr("from the side"), false);
    const QStringList lines = words();
    p.setFont(type_face(12));
    double y = 8;
    for (const QString& text : lines) {
        p.setPen(&text == &lines.last() ? t.ink : t.second);
        const QRectF place(words_left, y, width() - words_left, lines.size() == 1 ? 60 : 18);
        p.drawText(place, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, text);
        y += 19;
    }
    const Assessment& a = document_.assessment();
    if (lines.size() > 1 && a.inertia && a.inertia->load > 0)
        for (const InertiaShare& s : a.inertia->shares)
            if (s.key == "body_" + std::to_string(which_() + 1))
                draw_bar(p, QRectF(words_left, y + 2, width() - words_left - 8, 5),
                    std::abs(s.at_shaft) / a.inertia->load, 0, s.at_shaft < 0 ? t.third : t.cause[0]);
}

} // namespace fulmox::app

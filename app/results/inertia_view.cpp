#include "app/results/inertia_view.h"

#include "app/bricks/paint.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"
#include "core/report/axis_report.h"

#include <QFrame>
#include <QLabel>
#include <QPainter>
#include <cmath>

namespace fulmox::app {

namespace {

// Heights, px: of a share with its bar, of a sum, and of what a policy says of the ratio.
struct Pitch {
    int text, bar, share, sum, school;
};
constexpr Pitch roomy{18, 5, 27, 19, 18}, dense{15, 3, 20, 17, 16};

int needed(const Document& document, const Assessment& a, bool with_schools, const Pitch& pitch) {
    const bool rotor = a.inertia->rotor > 0;
    const int sums = rotor ? 3 : motion_of(document.axis().mechanism).direct ? 1 : 2;
    const int schools = with_schools && rotor ? static_cast<int>(a.schools.size()) * pitch.school + 12 : 0;
    return static_cast<int>(a.inertia->shares.size()) * pitch.share + 6 + sums * pitch.sum + schools;
}

} // namespace

InertiaView::InertiaView(Document& document, bool with_schools, QWidget* parent)
    : LiveWidget(document, parent), with_schools_(with_schools) {
    missing_ = cover_with_missing(this);
    setAccessibleName(tr("Inertia statement at the motor shaft"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Preferred);
}

void InertiaView::refresh() {
    const bool shown = document_.has_axis() && document_.assessment().inertia;
    missing_->say(shown ? QString() : waiting_for(document_, "load.inertia"), waiting_path(document_, "load.inertia"));
    updateGeometry();
    update();
}

Table InertiaView::as_table() const {
    if (!document_.has_axis() || !document_.assessment().inertia) return {};
    return inertia_table(
        *document_.assessment().inertia, motion_of(document_.axis().mechanism).direct, document_.machine().unit_system);
}

const Unit& InertiaView::unit_of(const Document& document) {
    const bool along = document.has_axis() && motion_of(document.axis().mechanism).direct;
    return display_unit(along ? Kind::mass : Kind::inertia, document.machine().unit_system);
}

void InertiaView::name_card(Document& document, QFrame& card, QLabel& unit) {
    auto* heading = card.findChild<QLabel*>(); // the first is the heading
    const auto name = [&document, heading, &unit] {
        const bool along = document.has_axis() && motion_of(document.axis().mechanism).direct;
        heading->setText(along ? tr("Moving mass") : tr("Inertia at the motor shaft"));
        unit.setText(symbol(unit_of(document)));
    };
    keep_up_to_date(document, &unit, name);
}

QSize InertiaView::sizeHint() const {
    if (!document_.has_axis() || !document_.assessment().inertia) return {280, 60};
    return {280, needed(document_, document_.assessment(), with_schools_, roomy)};
}

QSize InertiaView::minimumSizeHint() const {
    if (!document_.has_axis() || !document_.assessment().inertia) return {200, 60};
    return {200, needed(document_, document_.assessment(), with_schools_, dense)};
}

void InertiaView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Theme& t = theme();
    if (!document_.has_axis() || !document_.assessment().inertia) return;
    const Assessment& a = document_.assessment();
    const InertiaStatement& s = *a.inertia;
    const Unit& unit = unit_of(document_);
    const auto figure = [&](double j) { return qs(format_number(from_si(j, unit), 4)); };
    Pitch pitch = roomy;
    if (height() < needed(document_, a, with_schools_, roomy)) { // as far apart as there is room
        pitch = dense;
        const int spare = height() - needed(document_, a, with_schools_, dense);
        if (!s.shares.empty())
            pitch.share = std::clamp(dense.share + spare / static_cast<int>(s.shares.size()), dense.share, roomy.share);
    }
    double largest = s.rotor;
    for (const InertiaShare& i : s.shares) largest = std::max(largest, i.at_shaft);
    int y = 0;
    const auto line = [&](const QString& name, const QString& value, bool strong, double bar, const QColor& colour) {
        p.setFont(type_face(13, strong ? Weight::strong : Weight::regular));
        p.setPen(t.ink);
        const QRect box(0, y, width(), pitch.text);
        p.drawText(box, Qt::AlignRight | Qt::AlignVCenter, value);
        const int used = p.fontMetrics().horizontalAdvance(value) + 10;
        p.drawText(box.adjusted(0, 0, -used, 0), Qt::AlignVCenter,
            p.fontMetrics().elidedText(name, Qt::ElideRight, width() - used));
        if (bar >= 0) draw_bar(p, QRectF(0, y + pitch.text, width(), pitch.bar), bar, 0, colour);
        y += bar >= 0 ? pitch.share : pitch.sum;
    };
    for (const InertiaShare& i : s.shares) {
        const double of = i.rotor_side ? 0 : s.load > 0 ? i.at_shaft / s.load : 0;
        QString name = qs(i.label);
        if (!i.detail.empty() && i.detail != "given") name += QStringLiteral("  ") + qs(i.detail);
        QString value = figure(i.at_shaft);
        if (!i.rotor_side)
            value = !s.load_known ? value
                                  : QStringLiteral("%1 %   %2")
                                        .arg(qs(format_number(100 * of, std::abs(of) < 0.0995 ? 2 : 3)), value);
        const QColor& colour = i.rotor_side ? t.cause[1] : i.at_shaft < 0 ? t.third : t.cause[0]; // a hole takes away
        line(name, value, false, largest > 0 ? std::abs(i.at_shaft) / largest : 0, colour);
    }
    p.setPen(t.line);
    p.drawLine(0, y + 1, width(), y + 1);
    y += 4;
    line(tr("Load side"), s.load_known ? figure(s.load) : tr("not given"), true, -1, {});
    if (s.rotor > 0) {
        line(tr("Rotor side"), figure(s.rotor), false, -1, {});
        line(tr("Inertia ratio"),
            s.load_known ? qs(format_number(s.ratio(), 3)) + QStringLiteral(" : 1") : QStringLiteral("–"), true, -1,
            {});
    } else if (!motion_of(document_.axis().mechanism).direct) {
        line(tr("Rotor"),
            document_.axis().motor.empty() ? tr("no motor selected") : waiting_for(document_, "load.rotor_inertia"),
            false, -1, {});
    }
    if (!with_schools_ || s.rotor <= 0) return;
    y += 4;
    p.setPen(Qt::NoPen);
    p.setBrush(t.accent_ground);
    p.setRenderHint(QPainter::Antialiasing);
    p.drawRoundedRect(QRectF(0, y, width(), static_cast<double>(a.schools.size()) * pitch.school + 6), 6, 6);
    y += 3;
    for (const SchoolView& v : a.schools) {
        const auto& policies = document_.machine().policies;
        const auto policy =
            std::find_if(policies.begin(), policies.end(), [&](const Policy& each) { return each.name == v.policy; });
        const bool judges = policy == policies.end() || policy->inertia_ratio_over.given();
        if (judges) draw_state(p, QRectF(8, y + (pitch.school - 10) / 2 + 1, 10, 10), v.state);
        p.setFont(type_face(12, v.chosen ? Weight::strong : Weight::regular));
        p.setPen(t.ink);
        p.drawText(QRect(25, y, width() - 30, pitch.school), Qt::AlignVCenter, qs(v.policy));
        p.setPen(t.second);
        p.setFont(type_face(12));
        const QString words = judges ? QString::fromUtf8(state_words(v.state)) : tr("not judged");
        p.drawText(QRect(25, y, width() - 33, pitch.school), Qt::AlignVCenter | Qt::AlignRight, words);
        y += pitch.school;
    }
}

} // namespace fulmox::app

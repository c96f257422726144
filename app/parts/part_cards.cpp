#include "app/parts/part_cards.h"

#include "app/bricks/paint.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/match/candidates.h"
#include "core/quantity/format.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <utility>

namespace fulmox::app {

CardOf card_of(std::string_view key) {
    static constexpr std::pair<std::string_view, CardOf> cards[] = {{"gearhead", CardOf::gearhead},
        {"coupling", CardOf::coupling}, {"brake", CardOf::brake}, {"drive", CardOf::drive}, {"screw", CardOf::screw},
        {"precision", CardOf::precision}};
    for (const auto& [part, card] : cards)
        if (part_of_limit(key) == part) return card;
    return CardOf::motor;
}

PartCard::PartCard(CardOf of, const QString& title, QWidget* parent) : QAbstractButton(parent), of_(of), title_(title) {
    setCheckable(true);
    setAutoExclusive(true);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
}

void PartCard::set(const QString& name, const QString& brief, const QString& says, std::optional<LimitState> state) {
    short_ = brief;
    if (name == name_ && says == says_ && state == state_) return;
    name_ = name;
    says_ = says;
    state_ = state;
    setAccessibleName(
        title_ + QStringLiteral(": ") + name + (says.isEmpty() ? QString() : QStringLiteral(", ") + says));
    setToolTip(plain_tip(name + (says.isEmpty() ? QString() : QLatin1Char('\n') + says)));
    update();
}

void PartCard::keyPressEvent(QKeyEvent* event) {
    // like the tabs below: the arrows go along the row, Enter and Space select
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        click(), emit opened();
    else
        QAbstractButton::keyPressEvent(event);
}

void PartCard::mouseReleaseEvent(QMouseEvent* event) {
    const bool on_it = isDown() && hitButton(event->pos());
    QAbstractButton::mouseReleaseEvent(event);
    if (on_it) emit opened();
}

void PartCard::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF frame = QRectF(rect()).adjusted(1, 1, -1, -1);
    p.setPen(QPen(isChecked() || hasFocus() ? t.accent : t.line, hasFocus() ? 2 : 1));
    p.setBrush(isChecked() ? t.accent_ground : t.panel);
    p.drawRoundedRect(frame, 8, 8);
    const QRectF room = frame.adjusted(8, 5, -6, -5);
    const auto line = [&](double top, const QString& text, const QFont& font, const QColor& colour, double left) {
        p.setFont(font);
        p.setPen(colour);
        const QRectF place(room.left() + left, room.top() + top, room.width() - left, 16);
        p.drawText(place, Qt::AlignLeft | Qt::AlignVCenter,
            QFontMetrics(font).elidedText(text, Qt::ElideRight, static_cast<int>(place.width())));
    };
    line(0, title_, type_face(11), t.second, 0);
    int size = 13; // a long name is set smaller before it is cut
    while (size > 11 && QFontMetrics(type_face(size, Weight::strong)).horizontalAdvance(name_) > room.width()) --size;
    line(15, name_, type_face(size, Weight::strong), t.ink, 0);
    if (state_) draw_state(p, QRectF(room.left(), room.top() + 34, 10, 10), *state_);
    const double left = state_ ? 15 : 0;
    const bool whole = QFontMetrics(type_face(11)).horizontalAdvance(says_) <= room.width() - left;
    line(31, whole ? says_ : short_, type_face(11), t.second, left);
}

bool has_card(const Axis& axis, CardOf card) {
    switch (card) {
    case CardOf::gearhead:
    case CardOf::coupling:
    case CardOf::brake:
        return (motion_of(axis.mechanism).has & Motion::shaft) != 0;
    case CardOf::screw:
        return std::holds_alternative<Screw>(axis.mechanism);
    default:
        return true;
    }
}

PartCards::PartCards(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    setAccessibleName(tr("Parts of the axis"));
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(6);
    for (const CardEntry& entry : card_entries) {
        auto* card = new PartCard(entry.of, tr(entry.title));
        line->addWidget(card);
        cards_.push_back(card);
        connect(card, &QAbstractButton::clicked, this, [this, card] { select(card->of()); });
        connect(card, &PartCard::opened, this, &PartCards::opened);
    }
    cards_.front()->setChecked(true);
    refresh();
}

PartCard* PartCards::card(CardOf of) const {
    for (PartCard* c : cards_)
        if (c->of() == of && !c->isHidden()) return c;
    return nullptr;
}

void PartCards::select(CardOf of) {
    PartCard* c = card(of);
    if (!c) return;
    c->setChecked(true);
    if (current_ == of) return;
    current_ = of;
    emit selected();
}

void PartCards::refresh() {
    if (!document_.has_axis()) return;
    const Axis& axis = document_.axis();
    const Assessment& a = document_.assessment();
    for (PartCard* c : cards_) {
        QString name;
        const bool there = has_card(axis, c->of());
        switch (c->of()) {
        case CardOf::motor:
            name = axis.motor.empty()        ? QString()
                   : axis.motor.name.empty() ? tr("without a name")
                                             : qs(axis.motor.name);
            break;
        case CardOf::gearhead:
            for (const Stage& s : axis.stages)
                name +=
                    (name.isEmpty() ? QString() : QStringLiteral(" + ")) +
                    (s.name.empty() ? s.ratio.given() ? tr("%1 : 1").arg(qs(format_number(s.ratio.si, 4))) : tr("stage")
                                    : qs(s.name));
            break;
        case CardOf::coupling:
            name = !axis.coupling.name.empty() ? qs(axis.coupling.name)
                   : axis.coupling.there()     ? tr("without a name")
                                               : QString();
            break;
        case CardOf::brake:
            name = !axis.brake.name.empty()                           ? qs(axis.brake.name)
                   : axis.brake.there()                               ? tr("without a name")
                   : axis.motor.brake_torque.given() && axis.driven() ? tr("in the motor")
                                                                      : QString();
            break;
        case CardOf::drive:
            name = !axis.drive.name.empty()                ? qs(axis.drive.name)
                   : axis.drive.continuous_current.given() ? tr("without a name")
                   : axis.drive.bus_voltage.given()        ? tr("bus of %1").arg(qs(axis.drive.bus_voltage.text))
                                                           : QString();
            break;
        case CardOf::screw:
            if (there) {
                const Screw& s = std::get<Screw>(axis.mechanism);
                name = s.diameter.given() && s.lead.given()
                           ? tr("%1 × %2").arg(qs(format_number(from_si(s.diameter.si, *find_unit("mm")), 4)),
                                 qs(format_quantity(s.lead.si, *find_unit("mm"), 4)))
                           : tr("not known");
            }
            break;
        case CardOf::precision:
            name = axis.accuracy.asked.given() ? tr("± %1").arg(qs(axis.accuracy.asked.text)) : tr("not asked");
            break;
        }
        if (!there && c->of() == current_) {
            current_ = CardOf::motor;
            cards_.front()->setChecked(true);
            emit selected();
        }
        c->setVisible(there);
        if (!there) continue;
        std::vector<Limit> its; // in the order in which candidates are judged
        for (const Limit& l : a.limits)
            if (card_of(l.key) == c->of()) its.push_back(l);
        const auto first = deciding(its);
        if (!first) {
            c->set(name.isEmpty() ? tr("none") : name, {}, {}, std::nullopt);
            continue;
        }
        const Limit& l = its[*first];
        const QString words =
            QStringLiteral("%1 %2")
                .arg(l.accepted ? tr("accepted") : QString::fromUtf8(state_words(l.state)), qs(use_text(l)))
                .trimmed();
        c->set(name.isEmpty() ? tr("none") : name, words, QStringLiteral("%1, %2").arg(words, qs(l.label)), l.state);
    }
}

} // namespace fulmox::app

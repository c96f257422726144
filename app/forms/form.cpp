#include "app/forms/form.h"

#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/quantity/format.h"

#include <QAction>
#include <QApplication>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QScopedValueRollback>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>

namespace fulmox::app {

namespace {

struct StandingText {
    const char* chip;
    const char* words;
};
constexpr std::array<StandingText, 4> standing_texts{
    {{"assumed", "Assumed"}, {"sheet", "From a datasheet"}, {"calc.", "Calculated"}, {"meas.", "Measured"}}};

// The value in other units than the one typed, or what an empty field means.
QString converted_text(const FieldRef& f, UnitSystem system) {
    const QuantityBase& q = *f.quantity;
    if (q.text.empty())
        return f.quantity_spec.required ? QObject::tr("missing") : QString::fromUtf8(f.quantity_spec.if_empty.words);
    if (!q.given()) return {};
    const Unit& shown = display_unit(f.kind, system);
    const bool plain =
        q.unit && q.text == format_number(from_si(q.si, *q.unit), 12) + " " + std::string(q.unit->symbol);
    if (f.kind == Kind::number) {
        const bool number = q.text.find_first_not_of("0123456789.-") == std::string::npos;
        return number ? QString() : QStringLiteral("= ") + qs(format_number(q.si));
    }
    if ((plain || q.tolerance > 0) && q.unit == &shown) return {};
    std::string other = format_quantity(q.si, f.kind, system);
    if (plain && qs(other) == qs(q.text)) return {};
    return QStringLiteral("= ") + qs(other);
}

} // namespace

// Where room is short the sign goes before the unit does.
void Aside::paintEvent(QPaintEvent* event) {
    const int room = contentsRect().width();
    if (fontMetrics().horizontalAdvance(text()) <= room) return QLabel::paintEvent(event);
    QPainter p(this);
    p.setPen(palette().color(foregroundRole()));
    if (room < 30) return; // the tool tip says it
    const QString bare = text().startsWith(QLatin1String("= ")) ? text().mid(2) : text();
    p.drawText(contentsRect(), Qt::AlignVCenter, fontMetrics().elidedText(bare, Qt::ElideRight, room));
}

Form::Form(Document& document, QStringList places, int label_width, QWidget* parent)
    : LiveWidget(document, parent), places_(std::move(places)), label_width_(label_width) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(2);
    refresh();
    connect(&document, &Document::drafts_changed, this, [this] {
        if (isVisible())
            refresh();
        else
            set_stale();
    });
}

void Form::set_places(const QStringList& places) {
    if (places == places_ && !stale()) return; // it follows the document by itself
    places_ = places;
    refresh();
}

QString Form::absolute(const QString& place) const {
    return place.startsWith(QLatin1String("//")) ? place.mid(1) : document_.axis_path() + place;
}

FieldRefs Form::own_fields(Machine& copy, const FieldRefs& of_axis) const {
    FieldRefs out;
    // only the parts that are shown are walked: this runs at every keystroke
    FieldRefs shared;
    const auto take = [&](FieldRefs more) { std::move(more.begin(), more.end(), std::back_inserter(shared)); };
    const auto entries = [&](auto& items, const std::string& list) {
        for (std::size_t i = 0; i < items.size(); ++i) {
            const std::string at = list + "/" + std::to_string(i);
            if (places_.contains(QLatin1Char('/') + qs(at))) take(walk(items[i], at));
        }
    };
    const auto any = [&](const char* head) {
        return std::any_of(
            places_.begin(), places_.end(), [&](const QString& p) { return p.startsWith(QLatin1String(head)); });
    };
    if (any("//site")) take(walk(copy.site, "/site"));
    if (any("//operation")) take(walk(copy.operation, "/operation"));
    if (any("//surroundings")) take(walk(copy.surroundings, "/surroundings"));
    if (any("//policies")) entries(copy.policies, "/policies");
    if (any("//materials")) entries(copy.materials, "/materials");
    for (const char* own : {"/name", "/notes", "/currency"})
        if (places_.contains(QLatin1Char('/') + QLatin1String(own)))
            if (auto f = find_field(copy, own)) shared.push_back(std::move(*f));
    std::vector<std::string> left_out;
    for (const QString& p : places_)
        if (p.startsWith(QLatin1Char('!'))) left_out.push_back(absolute(p.mid(1)).toStdString());
    for (const QString& place : places_) {
        const std::string at = absolute(place).toStdString(), below = at + "/";
        std::string inner_list;
        for (const FieldRef& f : place.startsWith(QLatin1String("//")) ? shared : of_axis) {
            if (!f.path.starts_with(at) || (f.path.size() > at.size() && !f.path.starts_with(below))) continue;
            if (std::any_of(left_out.begin(), left_out.end(),
                    [&](const std::string& head) { return f.path.starts_with(head); }))
                continue;
            if (!inner_list.empty() && f.path.starts_with(inner_list)) continue;
            if (f.type == FieldRef::Type::list) {
                inner_list = f.path + "/";
                continue;
            }
            out.push_back(f);
        }
    }
    return out;
}

QString Form::signature(const FieldRefs& fields) {
    QString s;
    for (const FieldRef& f : fields) {
        s += qs(f.path) + (f.active ? QLatin1Char('+') : QLatin1Char('-')) + qs(f.label());
        if (f.type == FieldRef::Type::variant) s += QString::number(f.chosen());
    }
    return s;
}

void Form::refresh() {
    if (refreshing_) return; // a field that hears of its problem while all are looked at
    const QScopedValueRollback<bool> once(refreshing_, true);
    Machine copy = document_.machine();
    const auto walked = document_.axis_fields();
    const FieldRefs fields = own_fields(copy, walked->all);
    const QString now = signature(fields);
    if (now != signature_) {
        signature_ = now;
        arrange(static_cast<QVBoxLayout*>(layout()), widgets_, entries_of(fields));
        put_rows_in_order();
    }
    std::map<std::string_view, const FieldRef*> by_path;
    for (const FieldRef& f : fields) by_path[f.path] = &f;
    std::map<std::string_view, const Problem*> errors;
    if (document_.has_axis())
        for (const Problem& p : document_.assessment().problems)
            if (p.severity == Severity::error) errors[p.path] = &p;
    for (Row& row : rows_) {
        const std::string path = row.path.toStdString();
        const auto it = by_path.find(path);
        if (it == by_path.end()) continue;
        const FieldRef& f = *it->second;
        if (row.edit) {
            row.edit->refresh(f);
            const QString converted = converted_text(f, document_.machine().unit_system);
            if (row.converted->text() != converted) {
                row.converted->setText(converted);
                row.converted->setToolTip(converted);
            }
            const StandingText& s = standing_texts.at(static_cast<std::size_t>(f.quantity->standing));
            const std::string motor = document_.axis_path().toStdString() + "/motor";
            const bool catalogue = f.quantity->standing == InputSource::assumed && path.starts_with(motor + "/") &&
                                   as_in_catalogue(document_.axis().motor, path.substr(motor.size()), f.quantity->text);
            row.standing->setText(f.quantity->text.empty() ? QString()
                                  : catalogue              ? tr("catalogue")
                                                           : QString::fromUtf8(s.chip));
            row.standing->setVisible(!f.quantity->text.empty());
            row.standing->setToolTip(
                plain_tip(tr("Where this value comes from: %1")
                              .arg(catalogue ? qs(document_.axis().motor.origin) : QString::fromUtf8(s.words)) +
                          (f.quantity->note.empty() ? QString() : QStringLiteral(" (%1)").arg(qs(f.quantity->note)))));
            const auto error = errors.find(path);
            const bool missing = f.quantity->text.empty() && f.quantity_spec.required; // said beside the field
            row.across = error == errors.end() || missing ? QString() : qs(error->second->message);
            show_problem(row);
        } else if (row.choice) {
            const QSignalBlocker quiet(row.choice);
            row.choice->setCurrentIndex(f.chosen());
        } else if (row.flag) {
            const QSignalBlocker quiet(row.flag);
            row.flag->setChecked(*f.flag);
        } else if (row.text && !row.text->hasFocus()) {
            row.text->setText(raw(*f.text));
            row.text->setCursorPosition(0); // a long text is read from its beginning
        } else if (row.lines && !row.lines->hasFocus() && row.lines->toPlainText() != raw(*f.text)) {
            const QSignalBlocker quiet(row.lines);
            row.lines->setPlainText(raw(*f.text));
        }
    }
}

void Form::show_problem(Row& row) {
    const bool wrong = row.edit->wrong(), said = wrong || !row.across.isEmpty();
    if (row.problem) row.problem->setVisible(said);
    if (!said) return;
    if (!row.problem) {
        row.problem = new QLabel;
        row.problem->setObjectName(QStringLiteral("problem"));
        row.problem->setFont(type_face(12));
        row.problem->setWordWrap(true);
        row.problem->setContentsMargins(label_width_ + 6, 0, 0, 2);
        row.whole->layout()->addWidget(row.problem);
    }
    if (!wrong) return row.problem->setText(row.across);
    QString text = row.edit->problem();
    const Draft* draft = document_.drafts().at(row.path);
    if (draft && !draft->stored.empty()) text += tr(" — the last good value stays in use.");
    row.problem->setText(text);
    row.converted->setText(draft && !draft->stored.empty() ? tr("%1 in use").arg(qs(draft->stored)) : QString());
    row.converted->setToolTip(row.converted->text());
    if (draft) row.standing->hide(); // it tells of the value, not of the text
}

std::vector<Form::Entry> Form::entries_of(const FieldRefs& fields) const {
    std::vector<Entry> out;
    QString section = QStringLiteral("form");
    FieldRefs rare;
    const auto end_section = [&] {
        if (!rare.empty()) out.push_back({QStringLiteral("more ") + section, {}, nullptr, std::move(rare)});
        rare.clear();
    };
    QString pending;
    const auto head = [&] {
        if (!pending.isEmpty()) out.push_back({QStringLiteral("heading ") + section, pending, nullptr, {}});
        pending.clear();
    };
    bool whole_folded = false; // what is rarely looked at as a whole: where a part comes from
    for (const FieldRef& f : fields) {
        if (f.type == FieldRef::Type::group || f.type == FieldRef::Type::variant) {
            end_section();
            section = qs(f.path);
            whole_folded = f.type == FieldRef::Type::group && f.group_spec.sparse && f.group_spec.rare;
            pending = qs(f.label()); // a group none of whose fields apply gets no heading
            if (f.type == FieldRef::Type::variant) head();
            if (f.type == FieldRef::Type::variant && f.variant.kinds().size() > 1) out.push_back(entry_of(f));
            continue;
        }
        if (!f.active || f.type == FieldRef::Type::samples || f.type == FieldRef::Type::attachment) continue;
        head();
        if (whole_folded || (f.type == FieldRef::Type::quantity && f.quantity_spec.rare))
            rare.push_back(f);
        else
            out.push_back(entry_of(f));
    }
    end_section();
    return out;
}

Form::Entry Form::entry_of(const FieldRef& f) {
    const bool lines = f.type == FieldRef::Type::text && f.text_spec.many_lines;
    return {QString::number(static_cast<int>(f.type)) + (lines ? QLatin1Char('l') : QLatin1Char(' ')) + qs(f.path), {},
        &f, {}};
}

void Form::arrange(QVBoxLayout* box, Widgets& there, const std::vector<Entry>& entries) {
    Widgets now;
    int at = 0;
    for (const Entry& e : entries) {
        const auto old = there.find(e.key);
        QWidget* w = old == there.end() ? make(e) : old->second;
        if (!w) continue;
        if (old != there.end()) there.erase(old);
        describe(e, w);
        if (box->indexOf(w) != at) box->insertWidget(at, w);
        // now, not with the next event: a key that is in the queue already finds it
        if (!w->testAttribute(Qt::WA_WState_ExplicitShowHide)) w->show();
        if (!e.heading.isEmpty()) w->setContentsMargins(0, at == 0 ? 0 : 8, 0, 2);
        now[e.key] = w;
        ++at;
    }
    for (const auto& [key, gone] : there) {
        if (key.startsWith(QLatin1String("more "))) folded_.erase(key.mid(5));
        take_away(gone);
    }
    there = std::move(now);
}

QWidget* Form::make(const Entry& e) {
    if (e.field) return add_row(*e.field);
    if (!e.folded.empty()) return add_folded(e.key.mid(5));
    auto* heading = new QLabel;
    heading->setFont(type_face(13, Weight::strong));
    return heading;
}

void Form::take_away(QWidget* gone) {
    // keys that are still to come shall not land in whatever would be next
    QWidget* focus = QApplication::focusWidget();
    const auto inside = [&](const Row& r) { return r.whole == gone || gone->isAncestorOf(r.whole); };
    if (focus && (focus == gone || gone->isAncestorOf(focus))) {
        const auto lost = std::find_if(rows_.begin(), rows_.end(), inside);
        QWidget* nearest = nullptr;
        for (auto r = rows_.begin(); r != lost; ++r)
            if (r->whole->isVisible()) nearest = field_of(*r);
        if (nearest)
            nearest->setFocus(Qt::OtherFocusReason);
        else
            focus->clearFocus();
    }
    std::erase_if(rows_, inside);
    gone->hide();
    if (QWidget* parent = gone->parentWidget(); parent && parent->layout()) parent->layout()->removeWidget(gone);
    gone->deleteLater();
}

void Form::fill_folded(Folded& folded) {
    std::vector<Entry> entries;
    for (const FieldRef& f : folded.fields) entries.push_back(entry_of(f));
    arrange(static_cast<QVBoxLayout*>(folded.content->layout()), folded.rows, entries);
}

// Rows, and the order of the Tab key, from above to below.
void Form::put_rows_in_order() {
    std::map<const QWidget*, Row*> by_widget;
    for (Row& r : rows_) by_widget[r.whole] = &r;
    std::vector<Row> in_order;
    QWidget* last = this;
    const auto next = [&](QWidget* w) {
        if (w->focusPolicy() == Qt::NoFocus) return;
        setTabOrder(last, w);
        last = w;
    };
    const auto go_through = [&](QLayout* box, const auto& again) -> void {
        for (int i = 0; i < box->count(); ++i) {
            QWidget* w = box->itemAt(i)->widget();
            if (const auto row = by_widget.find(w); row != by_widget.end()) {
                in_order.push_back(*row->second);
                next(field_of(*row->second));
                continue;
            }
            for (auto& [section, f] : folded_)
                if (f.content->parentWidget() == w) {
                    next(f.more);
                    again(f.content->layout(), again);
                }
        }
    };
    go_through(layout(), go_through);
    rows_ = std::move(in_order);
}

QWidget* Form::add_folded(const QString& section) {
    auto* whole = new QWidget;
    auto* box = new QVBoxLayout(whole);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(2);
    auto* more = new QPushButton;
    more->setObjectName(QStringLiteral("link"));
    more->setCheckable(true);
    more->setAccessibleName(tr("Rarely needed fields"));
    auto* content = new QWidget;
    auto* content_box = new QVBoxLayout(content);
    content_box->setContentsMargins(0, 0, 0, 0);
    content_box->setSpacing(2);
    box->addWidget(more, 0, Qt::AlignLeft);
    box->addWidget(content);
    const bool open = unfolded_.contains(section);
    folded_[section] = {more, content, {}, {}, open};
    more->setChecked(open);
    unfold(section, open);
    connect(more, &QPushButton::toggled, this, [this, section](bool on) {
        unfold(section, on);
        refresh();
    });
    return whole;
}

void Form::unfold(const QString& section, bool on) {
    Folded& f = folded_.at(section);
    if (on && !f.built) {
        f.built = true;
        fill_folded(f);
        put_rows_in_order();
    }
    f.content->setVisible(on);
    f.more->setText(on ? tr("Less") : tr("More…"));
    if (on)
        unfolded_.insert(section);
    else
        unfolded_.erase(section);
}

void Form::ask_standing(QToolButton* at, const QString& path) {
    standing_path_ = path;
    if (!standing_menu_) {
        standing_menu_ = new QMenu(this);
        standing_menu_->setObjectName(QStringLiteral("standing-menu"));
        for (std::size_t i = 0; i < standing_texts.size(); ++i)
            standing_menu_->addAction(QString::fromUtf8(standing_texts[i].words), this,
                [this, i] { document_.set_standing(standing_path_, static_cast<InputSource>(i)); });
    }
    standing_menu_->popup(at->mapToGlobal(QPoint(0, at->height())));
}

bool Form::focus_first() {
    refresh();
    for (const Row& row : rows_)
        if (row.edit && row.whole && !row.whole->isHidden()) {
            row.edit->setFocus(Qt::OtherFocusReason);
            row.edit->selectAll();
            return true;
        }
    return false;
}

bool Form::go_to(const QString& path) {
    for (auto& [section, f] : folded_)
        for (const FieldRef& field : f.fields)
            if (qs(field.path) == path) f.more->setChecked(true);
    for (const Row& row : rows_) {
        if (row.path != path) continue;
        QWidget* target = field_of(row);
        target->setFocus(Qt::ShortcutFocusReason);
        if (row.edit) row.edit->selectAll();
        return true;
    }
    return false;
}

HelpStrip::HelpStrip(Document& document, QWidget* parent) : QLabel(parent), document_(document) {
    setObjectName(QStringLiteral("second"));
    setFont(type_face(12));
    setWordWrap(true);
    setMinimumHeight(50);
    setAlignment(Qt::AlignLeft | Qt::AlignTop);
    setTextFormat(Qt::PlainText);
    connect(&document_, &Document::opened, this, &HelpStrip::greet);
    greet();
}

void HelpStrip::greet() {
    setText(tr("Every field takes arithmetic and any unit: 2*35 mm + 1 in. A tolerance goes into the same field: 12 kg "
               "± 10 %. "
               "Up and Down nudge, Escape restores."));
}

void HelpStrip::show_field(const QString& path) {
    Machine copy = document_.machine();
    const auto field = find_field(copy, path.toStdString());
    if (!field || field->type != FieldRef::Type::quantity) return;
    const QuantitySpec& s = field->quantity_spec;
    QString text = QString::fromUtf8(s.label) + QStringLiteral(": ") + QString::fromUtf8(s.help) + tr(" Permitted: ") +
                   qs(range_text(s, false)) + QStringLiteral(".");
    if (std::isfinite(s.typical.min) && std::isfinite(s.typical.max))
        text += tr(" Typical: %1 to %2%3.")
                    .arg(qs(format_number(s.typical.min)), qs(format_number(s.typical.max)),
                        std::string_view(s.unit) == "1" ? QString() : QLatin1Char(' ') + QString::fromUtf8(s.unit));
    if (*s.source) text += tr(" Source: %1.").arg(QString::fromUtf8(s.source).remove(QStringLiteral(", no source")));
    const QuantityBase& q = *field->quantity;
    if (q.tolerance > 0 && q.unit) {
        const QString number = qs(format_number(q.tolerance / q.unit->factor));
        text +=
            tr(" Tolerance ± %1.").arg(q.unit->symbol == "1" ? number : number + QLatin1Char(' ') + symbol(*q.unit));
    }
    setText(text);
}

} // namespace fulmox::app

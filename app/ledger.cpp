#include "app/ledger.h"

#include "app/bricks/note_line.h"
#include "app/bricks/paint.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/match/candidates.h"
#include "core/match/headroom.h"
#include "core/quantity/format.h"
#include "core/report/axis_report.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>
#include <cmath>

namespace fulmox::app {

namespace {

constexpr int strip = 104, narrowest = 250, widest = 560; // widths of the ledger

QString value_text(const Limit& l, UnitSystem units) {
    if (l.state == LimitState::cannot_say) return l.accepted ? QObject::tr("accepted") : QObject::tr("cannot say");
    if (l.key == "inertia_ratio") return qs(format_number(l.used, 3)) + QStringLiteral(" : 1");
    if (l.key == "brake" && l.allowed == 0) return QObject::tr("no brake");
    if (l.yes_or_no)
        return qs(format_quantity(l.used, l.kind, units)) + QObject::tr(" of ") +
               qs(format_quantity(l.allowed, l.kind, units));
    const double u = 100 * l.utilisation();
    return std::isfinite(u) ? qs(format_number(u, 3)) + QStringLiteral(" %") : QObject::tr("none allowed");
}

QString html(const QString& s) { return s.toHtmlEscaped(); }

// "Efficiency back, stage 1: 2 − 1/η"; of many the first few.
QStringList stand_in_lines(const Assessment& a, const Limit& limit) {
    constexpr int most = 4;
    QStringList out;
    auto all = stand_ins_of(a, limit);
    // what a segment leaves as it is says nothing new
    std::erase_if(all, [](const StandIn* s) { return s->path.find("/segments/") != std::string::npos; });
    for (const StandIn* s : all) {
        if (out.size() == most) {
            out << QObject::tr("%1 more").arg(static_cast<int>(all.size()) - most);
            break;
        }
        out << QStringLiteral("%1: %2").arg(field_name(s->label, qs(s->path)), qs(s->words));
    }
    return out;
}

} // namespace

LimitRow::LimitRow(QWidget* parent) : QFrame(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(26, 38, 8, 6);
    settled_.setSingleShot(true);
    settled_.setInterval(120);
    connect(&settled_, &QTimer::timeout, this, &LimitRow::look_for_headroom);
}

// What a row shows when it is open; most never are.
void LimitRow::make_details() {
    auto* box = static_cast<QVBoxLayout*>(layout());
    details_ = new QLabel;
    details_->setWordWrap(true);
    details_->setTextFormat(Qt::RichText);
    details_->setFont(type_face(12));
    details_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    details_->setFocusPolicy(Qt::NoFocus);
    details_->hide();
    box->addWidget(details_);
    const auto press = [&](const char* name, bool all) {
        auto* button = new QPushButton;
        button->setObjectName(QLatin1String(name));
        button->setCursor(Qt::PointingHandCursor);
        button->hide();
        button->setMinimumWidth(1); // it never makes the ledger wider than it is
        box->addWidget(button, 0, Qt::AlignLeft);
        connect(button, &QPushButton::clicked, this, [this, all] { emit accepted(key_, !limit_.accepted, all); });
        return button;
    };
    missing_box_ = new QVBoxLayout;
    missing_box_->setSpacing(0);
    box->addLayout(missing_box_);
    accept_ = press("accept", false);
    accept_all_ = press("accept all", true);
    change_ = new QPushButton;
    change_->setObjectName(QStringLiteral("link"));
    change_->setProperty("action", QStringLiteral("change"));
    change_->setToolTip(tr(
        "Checked: with these changes the limit is kept, and no other is exceeded by them. One undo takes them back"));
    change_->hide();
    change_->setMinimumWidth(1);
    box->addWidget(change_, 0, Qt::AlignLeft);
    connect(change_, &QPushButton::clicked, this, [this] {
        if (found_.remedy) emit change_wanted(found_.remedy->changes);
    });
    order_tabs();
}

// The Tab key goes down the row.
void LimitRow::order_tabs() {
    QWidget* last = this;
    for (QWidget* link : missing_) {
        setTabOrder(last, link);
        last = link;
    }
    for (QWidget* next : {accept_, accept_all_, change_}) {
        setTabOrder(last, next);
        last = next;
    }
}

// Each thing it waits for is a link to its field.
void LimitRow::offer_missing() {
    constexpr std::size_t most = 6;
    const bool offered = open_ && !folded_ && limit_.state == LimitState::cannot_say;
    const std::size_t count = offered ? std::min(most, limit_.waits_for.size()) : 0;
    const std::size_t before = missing_.size();
    while (missing_.size() < count) {
        missing_.push_back(new NoteLine);
        missing_.back()->setProperty("action", QStringLiteral("missing"));
        missing_box_->addWidget(missing_.back());
        connect(missing_.back(), &NoteLine::activated, this, &LimitRow::go_to);
    }
    for (std::size_t i = 0; i < missing_.size(); ++i) {
        missing_[i]->setVisible(i < count);
        if (i >= count) continue;
        const QString name = qs(limit_.waits_for[i].name);
        missing_[i]->show_note(tr("→ %1").arg(name), {}, qs(limit_.waits_for[i].path));
        missing_[i]->setAccessibleName(tr("Go to %1").arg(name));
    }
    if (missing_.size() > before) order_tabs(); // a line takes the keyboard once it leads somewhere
}

void LimitRow::show_limit(const Limit& limit, UnitSystem units) {
    limit_ = limit;
    units_ = units;
    key_ = qs(limit.key);
    if (objectName().isEmpty()) setObjectName(QStringLiteral("limit/") + key_);
    const QString name = QStringLiteral("%1: %2, %3")
                             .arg(qs(limit.label),
                                 QString::fromUtf8(state_words(limit.state)) + (limit.accepted ? tr(", accepted") : ""),
                                 value_text(limit, units));
    if (name != accessibleName()) setAccessibleName(name);
    if (const QString tip = plain_tip(qs(limit.reason.in(units_))); tip != toolTip()) setToolTip(tip);
    update();
}

Table LimitRow::as_table() const {
    Assessment one;
    one.limits = {limit_};
    Table t = limits_table(one, units_);
    for (const WorkingLine& w : limit_.working)
        t.rows.push_back({w.symbol + " = " + w.formula, "", format_quantity(w.result, si_unit(w.kind), 5), "", "",
            w.substituted() + (w.source.empty() ? "" : "; " + w.source)});
    return t;
}

Table Ledger::as_table() const {
    return document_.has_axis() ? limits_table(document_.assessment(), document_.machine().unit_system) : Table();
}

void LimitRow::set_open(bool open, const std::function<Found(const StopToken&)>& headroom) {
    // what was found before stays in its place, told apart, until it is found again: nothing jumps while somebody types
    if (!open || !open_) found_ = {};
    const bool opened = open && !open_;
    if (open && !details_) make_details();
    open_ = open;
    headroom_of_ = open ? headroom : nullptr;
    work_.drop();
    if (opened) {
        look_for_headroom();
    } else if (open) {
        settled_.start();
        fill_details();
    } else {
        settled_.stop();
    }
    update();
    if (!details_) return;
    details_->setVisible(open && !folded_);
    if (!open) offer_change(false);
    offer_missing();
    offer_to_accept();
}

void LimitRow::offer_to_accept() {
    const bool offered = open_ && !folded_ && limit_.state == LimitState::cannot_say && !limit_.missing.empty();
    const QString all = QString::fromUtf8(part_name(part_of_limit(limit_.key)));
    accept_->setText(limit_.accepted ? tr("No longer accept") : tr("Accept as unknown"));
    accept_->setToolTip(tr("It stays \"cannot say\", and is no reason against the axis or a part"));
    accept_all_->setText(limit_.accepted ? tr("Accept none of the %1").arg(all) : tr("Accept all of the %1").arg(all));
    accept_->setVisible(offered);
    accept_all_->setVisible(offered);
}

void LimitRow::set_folded(bool on) {
    folded_ = on;
    layout()->setContentsMargins(on ? QMargins(0, 38, 0, 0) : QMargins(26, 38, 8, 6));
    update();
    if (!details_) return;
    details_->setVisible(open_ && !on);
    offer_change(work_.running() || settled_.isActive());
    offer_missing();
    offer_to_accept();
}

void LimitRow::look_for_headroom() {
    if (!open_) return;
    work_.run(this, headroom_of_, [this](Found found) {
        found_ = std::move(found);
        if (open_) fill_details();
    });
    fill_details();
}

void LimitRow::fill_details() {
    QString s = QStringLiteral("<p style='margin:0 0 4px 0'>%1.</p>").arg(html(qs(limit_.reason.in(units_))));
    for (const WorkingLine& w : limit_.working) {
        if (w.symbol == "use") { // in the units of the project
            s += QStringLiteral("<p style='margin:0 0 5px 0'>%1 / %2 = <b>%3</b></p>")
                     .arg(html(qs(format_quantity(limit_.used, limit_.kind, units_))),
                         html(qs(format_quantity(limit_.allowed, limit_.kind, units_))),
                         html(value_text(limit_, units_)));
            continue;
        }
        s += QStringLiteral("<p style='margin:0 0 5px 0'><span style='color:%1'>%2 = %3</span><br>= %4<br>= <b>%5</b>")
                 .arg(theme().second.name(), html(qs(w.symbol)), html(qs(w.formula)),
                     html(breakable(qs(w.substituted()))), html(qs(format_quantity(w.result, si_unit(w.kind), 5))));
        if (w.kind == Kind::angular_speed)
            s += QStringLiteral(" (%1)").arg(html(qs(format_quantity(w.result, *find_unit("rpm")))));
        if (!w.source.empty())
            s += QStringLiteral("<br><i style='color:%1'>%2</i>").arg(theme().second.name(), html(qs(w.source)));
        s += QStringLiteral("</p>");
    }
    if (!limit_.working.empty())
        s += QStringLiteral("<p style='margin:0 0 5px 0;color:%1'>Numbers put in are in SI units.</p>")
                 .arg(theme().second.name());
    if (!limit_.remedy.empty())
        s += QStringLiteral("<p style='margin:0 0 5px 0'>%1</p>").arg(html(qs(limit_.remedy.in(units_))));
    if (!stand_ins_.isEmpty() && limit_.state != LimitState::cannot_say)
        s += QStringLiteral("<p style='margin:0 0 5px 0;color:%1'>%2</p>")
                 .arg(theme().second.name(), html(tr("Stand-ins: %1").arg(stand_ins_.join(QStringLiteral("; ")))));
    const bool coming = work_.running() || settled_.isActive();
    if (coming)
        s += QStringLiteral("<p style='margin:2px 0 0 0;color:%1'>%2</p>")
                 .arg(theme().second.name(), tr("how far inputs may go is being calculated…"));
    if (!found_.room.empty()) {
        const bool beyond = limit_.state != LimitState::fits;
        if (!coming)
            s += QStringLiteral("<p style='margin:2px 0 0 0;color:%1'>%2</p>")
                     .arg(theme().second.name(), beyond ? tr("back inside the policy's share with one of")
                                                        : tr("until the policy's share, one of"));
        const QString line =
            coming ? QStringLiteral("<p style='margin:0;color:%1'><s>%2</s></p>").arg(theme().third.name())
                   : QStringLiteral("<p style='margin:0;color:%1'><b>%2</b></p>").arg(theme().accent.name());
        for (const QString& h : found_.room) s += line.arg(html(h));
    }
    if (s != details_->text()) details_->setText(s);
    offer_change(coming);
}

// What brings the limit back with several changes at once; of another state it is not offered.
void LimitRow::offer_change(bool coming) {
    const bool offered = open_ && !folded_ && !coming && found_.remedy;
    if (offered) {
        QStringList lines;
        for (const Change& c : found_.remedy->changes) {
            const bool limit = c.path == "/drive/torque_limit";
            if (!c.text.empty()) lines << (limit ? tr("Torque limit %1") : tr("Emergency stop in %1")).arg(qs(c.text));
        }
        change_->setText(tr("Set: %1").arg(lines.join(tr(",\n"))));
        change_->setAccessibleName(tr("Set %1").arg(lines.join(tr(" and "))));
    }
    change_->setVisible(offered);
}

void LimitRow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    if (folded_) {
        p.setRenderHint(QPainter::Antialiasing);
        if (hasFocus()) {
            p.setPen(QPen(theme().accent, 1.5));
            p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
        }
        draw_state(p, QRectF(5, 5, 11, 11), limit_.state);
        p.setPen(theme().ink);
        p.setFont(type_face(11));
        QString value = limit_.state == LimitState::cannot_say ? QStringLiteral("?") : value_text(limit_, units_);
        if (p.fontMetrics().horizontalAdvance(value) > width() - 24) value = QString::fromUtf8("–");
        p.drawText(QRect(21, 2, width() - 24, 17), Qt::AlignLeft | Qt::AlignVCenter, value);
        p.setPen(theme().second);
        p.drawText(QRect(5, 19, width() - 8, 17), Qt::AlignLeft | Qt::AlignVCenter,
            p.fontMetrics().elidedText(qs(limit_.label), Qt::ElideRight, width() - 8));
        return;
    }
    if (open_ || hasFocus()) {
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(hasFocus() ? QPen(theme().accent, 1.5) : QPen(theme().line, 1));
        p.setBrush(open_ ? theme().paper : QBrush(Qt::NoBrush));
        p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
    }
    draw_state(p, QRectF(8, 9, 11, 11), limit_.state);
    p.setFont(type_face(13,
        limit_.state == LimitState::fits || limit_.state == LimitState::cannot_say ? Weight::regular : Weight::medium));
    p.setPen(theme().ink);
    const QString value = value_text(limit_, units_);
    const QRect line(26, 4, width() - 34, 20);
    p.drawText(line, Qt::AlignRight | Qt::AlignVCenter, value);
    const int used = p.fontMetrics().horizontalAdvance(value) + 8;
    p.drawText(line.adjusted(0, 0, -used, 0), Qt::AlignLeft | Qt::AlignVCenter,
        p.fontMetrics().elidedText(qs(limit_.label), Qt::ElideRight, line.width() - used));
    const bool known = limit_.state != LimitState::cannot_say && !limit_.yes_or_no;
    draw_bar(p, QRectF(26, 27, width() - 34, 5), known ? limit_.utilisation() : 0, known ? limit_.share : 0,
        theme().state(limit_.state));
}

void LimitRow::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    emit toggled(key_);
    QFrame::mousePressEvent(event);
}

void LimitRow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        emit toggled(key_);
    else if (event->key() == Qt::Key_Down)
        focusNextChild();
    else if (event->key() == Qt::Key_Up)
        focusPreviousChild();
    else
        QFrame::keyPressEvent(event);
}

void LimitRow::focusInEvent(QFocusEvent* event) {
    QFrame::focusInEvent(event);
    update();
}
void LimitRow::focusOutEvent(QFocusEvent* event) {
    QFrame::focusOutEvent(event);
    update();
}

Ledger::Ledger(Document& document, QWidget* parent) : Live(document, parent) {
    setObjectName(QStringLiteral("ledger"));
    setMinimumWidth(narrowest);
    setMaximumWidth(widest);
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(10, 12, 6, 8);
    box->setSpacing(4);
    auto* head = new QHBoxLayout;
    auto* title = title_ = new QLabel(tr("Limits"));
    title->setFont(type_face(13, Weight::strong));
    title->setContentsMargins(6, 0, 0, 0);
    order_ = new QPushButton(tr("tightest first"));
    order_->setObjectName(QStringLiteral("link"));
    order_->setToolTip(tr("Sort by tightness or in working order"));
    head->addWidget(title);
    head->addStretch(1);
    head->addWidget(order_);
    box->addLayout(head);
    counts_ = new CountLine;
    box->addWidget(counts_);
    auto* scroll = scroll_ = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget;
    auto* inner_box = new QVBoxLayout(inner);
    inner_box->setContentsMargins(0, 0, 4, 0);
    inner_box->setSpacing(3);
    rows_box_ = new QVBoxLayout;
    rows_box_->setSpacing(3);
    problems_ = new QWidget;
    auto* problems_box = new QVBoxLayout(problems_);
    problems_box->setContentsMargins(0, 0, 0, 0);
    problems_box->setSpacing(6);
    for (ProblemGroup& g : groups_) {
        g.box = new QVBoxLayout;
        g.box->setSpacing(6);
        g.heading = new QLabel;
        g.heading->setFont(type_face(12, Weight::strong));
        g.heading->setContentsMargins(6, 10, 0, 0);
        g.heading->hide();
        g.box->addWidget(g.heading);
        problems_box->addLayout(g.box);
    }
    inner_box->addLayout(rows_box_);
    inner_box->addWidget(problems_);
    inner_box->addStretch(1);
    inner->setObjectName(QStringLiteral("clear"));
    scroll->setWidget(inner);
    box->addWidget(scroll, 1);
    connect(&document_, &Document::opened, this, [this, scroll] {
        open_.clear();
        scroll->verticalScrollBar()->setValue(0);
        refresh();
    });
    connect(order_, &QPushButton::clicked, this, [this] {
        by_kind_ = !by_kind_;
        order_->setText(by_kind_ ? tr("working order") : tr("tightest first"));
        refresh();
    });
    connect(&document_, &Document::drafts_changed, this, [this] {
        if (all_ && document_.has_axis()) show_problems(document_.assessment().problems);
    });
    refresh();
}

CountLine::CountLine(QWidget* parent) : QWidget(parent) { setFixedHeight(20); }

void CountLine::show_count(const LimitCount& n) {
    count_ = n;
    text_.clear();
    setAccessibleName(
        tr("%1 fit, %2 tight, %3 over, %4 cannot say").arg(n.fits).arg(n.tight).arg(n.over).arg(n.cannot_say) +
        (n.accepted > 0 ? tr(", %1 of them accepted").arg(n.accepted) : QString()));
    update();
}

void CountLine::show_text(const QString& text) {
    text_ = text;
    setAccessibleName(text);
    update();
}

void CountLine::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Theme& t = theme();
    p.setFont(type_face(12));
    if (!text_.isEmpty()) {
        p.setPen(t.second);
        p.drawText(rect().adjusted(6, 0, 0, 0), Qt::AlignVCenter, text_);
        return;
    }
    const std::pair<int, LimitState> parts[] = {{count_.fits, LimitState::fits}, {count_.tight, LimitState::tight},
        {count_.over, LimitState::over}, {count_.cannot_say, LimitState::cannot_say}};
    double x = 6;
    for (const auto& [n, state] : parts) {
        p.setOpacity(n > 0 ? 1 : 0.45);
        draw_state(p, QRectF(x, height() / 2.0 - 4.5, 9, 9), state);
        p.setOpacity(1);
        p.setFont(type_face(12, n > 0 ? Weight::strong : Weight::regular));
        p.setPen(n > 0 ? t.ink : t.second);
        const QString words =
            QStringLiteral("%1 %2").arg(n).arg(state == LimitState::fits ? tr("fit") : tr(state_words(state)));
        p.drawText(QRectF(x + 13, 0, width() - x - 13, height()), Qt::AlignVCenter, words);
        x += 13 + p.fontMetrics().horizontalAdvance(words) + 12;
    }
}

void Ledger::change(const std::vector<Change>& changes) {
    document_.edit(tr("remedy"), [&](Machine& m) {
        for (const Change& c : changes)
            if (auto field = find_field(m, document_.axis_path().toStdString() + c.path); field && field->quantity) {
                if (c.text.empty())
                    *field->quantity = {};
                else
                    assign(*field, c.text);
                field->quantity->standing = InputSource::assumed;
            }
    });
}

void Ledger::accept(const QString& key, bool on, bool all) {
    std::vector<Missing> unknowns;
    const std::string_view part = part_of_limit(key.toStdString());
    for (const Limit& l : document_.assessment().limits)
        if (l.state == LimitState::cannot_say && (all ? part_of_limit(l.key) == part : l.key == key.toStdString()))
            unknowns.insert(unknowns.end(), l.missing.begin(), l.missing.end());
    document_.accept(unknowns, on);
}

void Ledger::open_row(const QString& key) {
    open_ = open_ == key ? QString() : key;
    refresh();
}

void Ledger::show_row(const QString& key) {
    const auto row = rows_.find(key.toStdString());
    if (row == rows_.end()) return;
    if (open_ != key) open_row(key);
    row->second->setFocus();
    // what has only just been opened has its height after the next layout
    QTimer::singleShot(0, row->second, [this, shown = row->second] { scroll_->ensureWidgetVisible(shown, 0, 12); });
}

void Ledger::set_folded(bool on) {
    if (folded_ == on) return;
    folded_ = on;
    setMinimumWidth(on ? strip : narrowest);
    setMaximumWidth(on ? strip : widest);
    layout()->setContentsMargins(on ? QMargins(2, 12, 0, 8) : QMargins(10, 12, 6, 8));
    for (QWidget* w : std::initializer_list<QWidget*>{title_, order_, counts_, problems_}) w->setVisible(!on);
    for (auto& [key, row] : rows_) row->set_folded(on);
}

void Ledger::show_all() {
    all_ = true;
    refresh();
}

void Ledger::refresh() {
    if (!document_.has_axis()) {
        for (auto& [key, row] : rows_) row->hide();
        counts_->show_text(tr("No axis yet."));
        return;
    }
    const Assessment& a = document_.assessment();
    counts_->show_count(count(a.limits));
    for (auto& [key, row] : rows_)
        if (!a.limit(key)) row->hide();
    std::vector<std::size_t> order = by_tightness(a.limits);
    if (by_kind_) std::sort(order.begin(), order.end());
    int place = 0;
    bool moved = false;
    for (const std::size_t i : order) {
        const Limit& l = a.limits[i];
        LimitRow*& row = rows_[l.key];
        if (!row) {
            row = new LimitRow;
            row->set_folded(folded_);
            connect(row, &LimitRow::toggled, this, [this](const QString& key) {
                if (folded_) {
                    open_ = key;
                    emit unfold_wanted();
                    refresh();
                } else {
                    open_row(key);
                }
            });
            connect(row, &LimitRow::accepted, this, &Ledger::accept);
            connect(row, &LimitRow::change_wanted, this, &Ledger::change);
            connect(row, &LimitRow::go_to, this, &Ledger::go_to);
        }
        if (rows_box_->indexOf(row) != place) {
            rows_box_->removeWidget(row);
            rows_box_->insertWidget(place, row);
            moved = true;
        }
        ++place;
        row->show_limit(l, document_.machine().unit_system);
        row->setVisible(true);
        const bool open = open_ == row->key();
        if (open) row->name_stand_ins(stand_in_lines(a, l));
        if (open || row->is_open())
            row->set_open(
                open, [machine = document_.snapshot(), axis = static_cast<std::size_t>(document_.axis_index()),
                          key = l.key, over = l.state == LimitState::over](const StopToken& go_on) {
                    LimitRow::Found out;
                    for (const Headroom& h : headroom(*machine, axis, key, go_on)) out.room.push_back(qs(h.text));
                    if (out.room.size() > 5) out.room.resize(5);
                    if (over) out.remedy = torque_limit_remedy(*machine, axis, key, go_on);
                    return out;
                });
    }
    // tab order follows the order on screen
    if (moved)
        for (int i = 1; i < place; ++i) setTabOrder(rows_box_->itemAt(i - 1)->widget(), rows_box_->itemAt(i)->widget());
    if (all_) show_problems(a.problems);
}

// With the drafts of this axis and of what all axes share; a draft says more than what is missing in its place.
Problems Ledger::with_drafts(const Problems& found) const {
    Problems out;
    for (const auto& [path, draft] : document_.drafts().all()) {
        if (path.startsWith(QLatin1String("/axes/")) && !path.startsWith(document_.axis_path() + QLatin1Char('/')))
            continue;
        Problem p = draft.problem;
        p.path = path.toStdString();
        p.message = tr("\"%1\" is not in use: %2").arg(draft.text, qs(p.message)).toStdString();
        if (!draft.stored.empty()) p.message += tr("; %1 stays in use").arg(qs(draft.stored)).toStdString();
        out.push_back(std::move(p));
    }
    const auto drafts = static_cast<std::ptrdiff_t>(out.size());
    std::copy_if(found.begin(), found.end(), std::back_inserter(out), [&](const Problem& p) {
        return std::none_of(out.begin(), out.begin() + drafts, [&](const Problem& d) { return d.path == p.path; });
    });
    return out;
}

void Ledger::show_problems(const Problems& found) {
    const bool drafts = !document_.drafts().all().empty();
    const Problems merged = drafts ? with_drafts(found) : Problems();
    const Problems& problems = drafts ? merged : found;
    QString shown = theme().dark ? QStringLiteral("d") : QStringLiteral("l");
    for (const Problem& p : problems) shown += qs(to_text(p));
    if (shown == problems_shown_) return;
    problems_shown_ = shown;
    // lines are used again: this happens while somebody types
    bool more = false;
    const auto group = [&](ProblemGroup& g, Severity severity, const QString& heading, const QColor& colour) {
        std::size_t used = 0;
        for (const Problem& p : problems) {
            if (p.severity != severity) continue;
            if (used == g.lines.size()) {
                g.lines.push_back(new NoteLine);
                connect(g.lines.back(), &NoteLine::activated, this, &Ledger::go_to);
                g.box->addWidget(g.lines.back());
                more = true;
            }
            g.lines[used]->show_note(field_name(p.field, qs(p.path)), qs(p.message), qs(p.path));
            g.lines[used++]->show();
        }
        for (std::size_t i = used; i < g.lines.size(); ++i) g.lines[i]->hide();
        g.heading->setText(heading);
        if (g.colour != colour) g.heading->setStyleSheet(QStringLiteral("color:%1").arg(colour.name()));
        g.colour = colour;
        g.heading->setVisible(used > 0);
    };
    group(groups_[0], Severity::error, tr("To be given or put right"), theme().over);
    group(groups_[1], Severity::suspicious, tr("Worth a second look"), theme().tight);
    group(groups_[2], Severity::caution, tr("Cautions"), theme().second);
    if (!more) return;
    QWidget* last = nullptr; // the Tab key goes down the screen
    for (const ProblemGroup& g : groups_)
        for (NoteLine* line : g.lines) {
            if (last) setTabOrder(last, line);
            last = line;
        }
}

} // namespace fulmox::app

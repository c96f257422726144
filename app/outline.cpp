#include "app/outline.h"
#include "app/words.h"

#include "app/bricks/paint.h"
#include "app/pages/registry.h"
#include "app/theme.h"
#include "core/quantity/format.h"

#include <QAction>
#include <QApplication>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox::app {

OutlineItem::OutlineItem(const QString& text, QWidget* parent) : QPushButton(text, parent) {
    setCheckable(true);
    setFlat(true);
    setFixedHeight(30);
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // the name is elided, the list never scrolls sideways
    setCursor(Qt::PointingHandCursor);
}

void OutlineItem::set_folded(bool on) {
    folded_ = on;
    update();
}

void OutlineItem::mousePressEvent(QMouseEvent* event) {
    pressed_ = event->pos();
    QPushButton::mousePressEvent(event);
}

void OutlineItem::mouseMoveEvent(QMouseEvent* event) {
    if (movable_ && (event->buttons() & Qt::LeftButton) &&
        std::abs(event->pos().y() - pressed_.y()) >= QApplication::startDragDistance())
        dragging_ = true;
    if (dragging_)
        emit dragged(mapToParent(event->pos()).y(), false);
    else
        QPushButton::mouseMoveEvent(event);
}

void OutlineItem::mouseReleaseEvent(QMouseEvent* event) {
    if (!std::exchange(dragging_, false)) return QPushButton::mouseReleaseEvent(event);
    setDown(false);
    emit dragged(mapToParent(event->pos()).y(), true);
}

void OutlineItem::keyPressEvent(QKeyEvent* event) {
    const bool alt = event->modifiers() & Qt::AltModifier;
    const int which = event->key();
    if (movable_ &&
        (which == Qt::Key_F2 || which == Qt::Key_Delete || (alt && (which == Qt::Key_Up || which == Qt::Key_Down))))
        emit key(which);
    else
        QPushButton::keyPressEvent(event);
}

void OutlineItem::set_state(LimitState state, const QString& figure) {
    const QString name =
        text() + QStringLiteral(", ") + QString::fromUtf8(state_words(state)) + QLatin1Char(' ') + figure;
    if (state_ == state && figure_ == figure && accessibleName() == name) return;
    state_ = state;
    figure_ = figure;
    setAccessibleName(name);
    update();
}

void OutlineItem::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
    const bool full = isChecked() && accented_;
    if (isChecked()) {
        p.setPen(full ? Qt::NoPen : QPen(t.line));
        p.setBrush(full ? t.accent : t.panel);
        p.drawRoundedRect(box, 6, 6);
    } else if (underMouse()) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.accent_ground);
        p.drawRoundedRect(box, 6, 6);
    }
    if (hasFocus()) {
        p.setPen(QPen(full ? t.accent_ink : t.accent, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(full ? box.adjusted(2, 2, -2, -2) : box, 6, 6);
    }
    const QColor ink = full ? t.accent_ink : t.ink;
    QRect line = rect().adjusted(10, 0, -8, 0);
    p.setFont(type_face(13, isChecked() ? Weight::strong : Weight::regular));
    if (folded_) {
        p.setPen(ink);
        p.setFont(type_face(12, isChecked() ? Weight::strong : Weight::regular));
        QRect room = rect().adjusted(6, 0, -3, 0);
        if (state_) {
            draw_state(p, QRectF(5, height() / 2.0 - 5, 10, 10), *state_);
            room.setLeft(19);
        } else if (number_ > 0) {
            p.drawText(room, Qt::AlignVCenter, QString::number(number_));
            room.setLeft(room.left() + 14);
        }
        p.drawText(room, Qt::AlignVCenter,
            p.fontMetrics().elidedText(brief_.isEmpty() ? text() : brief_, Qt::ElideRight, room.width()));
        return;
    }
    if (number_ > 0) {
        p.setPen(full ? t.accent_ink : t.second);
        p.drawText(line, Qt::AlignVCenter, QString::number(number_));
        line.setLeft(line.left() + 18);
    }
    if (state_) {
        p.setPen(full ? t.accent_ink : t.second);
        p.drawText(line, Qt::AlignVCenter | Qt::AlignRight, figure_);
        const int w = std::max(36, p.fontMetrics().horizontalAdvance(figure_) + 4);
        draw_state(p, QRectF(line.right() - w - 10, height() / 2.0 - 5, 10, 10), *state_);
        line.setRight(line.right() - w - 13);
    }
    p.setPen(ink);
    p.drawText(line, Qt::AlignVCenter, p.fontMetrics().elidedText(text(), Qt::ElideRight, line.width()));
}

namespace {

QLabel* heading(const QString& text) {
    auto* l = new QLabel(text);
    l->setObjectName(QStringLiteral("second"));
    l->setFont(type_face(12, Weight::strong));
    l->setContentsMargins(10, 10, 0, 3);
    return l;
}

} // namespace

Outline::Outline(Document& document, QWidget* parent) : Live(document, parent) {
    setObjectName(QStringLiteral("rail"));
    setFixedWidth(206);
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(8, 8, 8, 8);
    box->setSpacing(1);
    machine_ = new OutlineItem(tr("Machine"));
    machine_->setObjectName(QStringLiteral("page/machine"));
    machine_->set_accented(true);
    connect(machine_, &QPushButton::clicked, this, [this] {
        set_page(machine_page);
        emit page_chosen(machine_page);
    });
    box->addWidget(machine_);
    headings_.push_back(heading(tr("Axes")));
    box->addWidget(headings_.back());
    // the list scrolls, the pages stay
    scroll_ = new QScrollArea;
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    axes_inner_ = new QWidget;
    axes_inner_->setObjectName(QStringLiteral("clear"));
    auto* inner = new QVBoxLayout(axes_inner_);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(0);
    axes_box_ = new QVBoxLayout;
    axes_box_->setSpacing(1);
    inner->addLayout(axes_box_);
    inner->addStretch(1);
    scroll_->setWidget(axes_inner_);
    scroll_->setMinimumHeight(62);
    box->addWidget(scroll_, 1000); // all of the room that it needs, the rest stays below
    mark_ = new QFrame(axes_inner_);
    mark_->setObjectName(QStringLiteral("drop-mark"));
    mark_->hide();
    add_ = new QPushButton(tr("+ axis"));
    add_->setObjectName(QStringLiteral("link"));
    add_->setAccessibleName(tr("Add an axis"));
    add_->setContentsMargins(10, 0, 0, 0);
    connect(add_, &QPushButton::clicked, this, &Outline::add_axis);
    inner->insertWidget(1, add_, 0, Qt::AlignLeft);
    headings_.push_back(heading(tr("This axis")));
    box->addWidget(headings_.back());
    for (const PageEntry& entry : page_registry()) {
        auto* item = new OutlineItem(tr(entry.question));
        const int number = static_cast<int>(pages_.size()) + 1;
        item->set_number(number);
        item->set_brief(tr(entry.brief));
        item->set_accented(true);
        item->setObjectName(QStringLiteral("page/%1").arg(number));
        connect(item, &QPushButton::clicked, this, [this, page = number - 1] {
            set_page(page);
            emit page_chosen(page);
        });
        pages_.push_back(item);
        item->setToolTip(tr(entry.question));
        box->addWidget(item);
    }
    box->addStretch(1);
    set_page(0);
    setFocusProxy(pages_.front());
    refresh();
}

void Outline::set_page(int page) {
    page_ = page;
    for (std::size_t i = 0; i < pages_.size(); ++i) {
        // the focus goes along with the page, it does not stay on another one
        if (static_cast<int>(i) != page && pages_[i]->hasFocus())
            (page < 0 ? machine_ : pages_[static_cast<std::size_t>(page)])->setFocus();
        pages_[i]->setChecked(static_cast<int>(i) == page);
    }
    if (page != machine_page && machine_->hasFocus()) pages_[static_cast<std::size_t>(page)]->setFocus();
    machine_->setChecked(page == machine_page);
}

void Outline::set_folded(bool on) {
    if (folded_ == on) return;
    end_renaming(true);
    folded_ = on;
    setFixedWidth(on ? 118 : 206);
    for (QLabel* h : headings_) h->setVisible(!on);
    add_->setText(on ? QStringLiteral("+") : tr("+ axis"));
    machine_->set_folded(on);
    for (auto* list : {&axes_, &pages_})
        for (OutlineItem* each : *list) each->set_folded(on);
    refresh();
}

void Outline::add_axis() {
    const int at = static_cast<int>(document_.machine().axes.size());
    document_.edit_list(tr("new axis"), {QStringLiteral("/axes"), -1, at}, [](Machine& m) {
        Axis a;
        a.name = "Axis " + std::to_string(m.axes.size() + 1);
        a.cycle.segments.emplace_back();
        m.axes.push_back(std::move(a));
    });
    if (document_.read_only()) return;
    document_.select_axis(static_cast<int>(document_.machine().axes.size()) - 1);
    emit page_chosen(0);
}

void Outline::duplicate_axis() {
    if (!document_.has_axis()) return;
    const int index = document_.axis_index();
    document_.edit_list(tr("duplicate axis"), {QStringLiteral("/axes"), -1, index + 1}, [index](Machine& m) {
        Axis copy = m.axes.at(static_cast<std::size_t>(index));
        copy.name += " copy";
        m.axes.insert(m.axes.begin() + index + 1, std::move(copy));
    });
    if (!document_.read_only()) document_.select_axis(index + 1);
}

void Outline::delete_axis() {
    if (document_.machine().axes.size() < 2) {
        emit document_.refused(tr("a machine keeps one axis at least; what it holds can be changed."));
        return;
    }
    const int index = document_.axis_index();
    const bool had_focus = axes_[static_cast<std::size_t>(index)]->hasFocus();
    document_.edit_list(tr("delete axis"), {QStringLiteral("/axes"), index, -1},
        [index](Machine& m) { m.axes.erase(m.axes.begin() + index); });
    if (had_focus && document_.has_axis()) axes_[static_cast<std::size_t>(document_.axis_index())]->setFocus();
}

void Outline::move_axis(int by) { move_to(document_.axis_index(), document_.axis_index() + by); }

void Outline::move_to(int from, int to) {
    const int count = static_cast<int>(document_.machine().axes.size());
    to = std::clamp(to, 0, count - 1);
    if (from == to || from < 0 || from >= count) return;
    const bool had_focus = axes_[static_cast<std::size_t>(from)]->hasFocus();
    document_.edit_list(tr("move axis"), {QStringLiteral("/axes"), from, to}, [from, to](Machine& m) {
        Axis moved = std::as_const(m.axes).at(static_cast<std::size_t>(from));
        m.axes.erase(m.axes.begin() + from);
        m.axes.insert(m.axes.begin() + to, std::move(moved));
    });
    if (document_.read_only()) return;
    document_.select_axis(to);
    if (had_focus) axes_[static_cast<std::size_t>(document_.axis_index())]->setFocus();
}

// Above which axis the pointer is; half an item decides.
void Outline::drag(int index, int y, bool dropped) {
    int place = 0;
    while (
        place < static_cast<int>(axes_.size()) && y > axes_[static_cast<std::size_t>(place)]->geometry().center().y())
        ++place;
    if (!dropped) {
        const int line = place < static_cast<int>(axes_.size()) ? axes_[static_cast<std::size_t>(place)]->y() - 1
                                                                : axes_.back()->geometry().bottom() + 1;
        mark_->setGeometry(4, line, axes_inner_->width() - 8, 2);
        mark_->raise();
        mark_->show();
        scroll_->ensureVisible(0, y, 0, 20);
        return;
    }
    mark_->hide();
    move_to(index, place > index ? place - 1 : place);
}

void Outline::rename_axis() {
    if (!document_.has_axis() || document_.read_only()) return;
    if (folded_) return;
    end_renaming(true);
    OutlineItem* item = axes_[static_cast<std::size_t>(document_.axis_index())];
    scroll_->ensureWidgetVisible(item);
    renamed_ = document_.axis_index();
    rename_ = new QLineEdit(QString::fromStdString(document_.axis().name), axes_inner_);
    rename_->setObjectName(QStringLiteral("rename"));
    rename_->setAccessibleName(tr("Name of the axis"));
    rename_->setGeometry(item->geometry());
    rename_->installEventFilter(this);
    connect(rename_, &QLineEdit::returnPressed, this, [this] { end_renaming(true); });
    rename_->selectAll();
    rename_->show();
    rename_->setFocus();
}

void Outline::end_renaming(bool keep, bool focus) {
    QLineEdit* edit = std::exchange(rename_, nullptr);
    if (!edit) return;
    const QString name = edit->text().trimmed();
    edit->removeEventFilter(this);
    edit->hide();
    edit->deleteLater();
    const auto& axes = document_.machine().axes;
    if (renamed_ >= static_cast<int>(axes.size())) return;
    const auto index = static_cast<std::size_t>(renamed_);
    if (keep && !name.isEmpty() && name.toStdString() != axes[index].name) {
        document_.set_text(QStringLiteral("/axes/%1/name").arg(renamed_), name);
        document_.end_typing();
    }
    if (focus) axes_[index]->setFocus();
}

bool Outline::eventFilter(QObject* watched, QEvent* event) {
    if (watched == rename_ && rename_) {
        if (event->type() == QEvent::FocusOut && static_cast<QFocusEvent*>(event)->reason() != Qt::PopupFocusReason)
            end_renaming(true, false); // whoever has taken the focus keeps it
        else if (event->type() == QEvent::ShortcutOverride)
            event->accept(); // Escape and Delete are of the name, not of the window
        else if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
            end_renaming(false);
            return true;
        }
    }
    return QFrame::eventFilter(watched, event);
}

OutlineItem* Outline::make_item(int index) {
    auto* item = new OutlineItem({});
    item->setObjectName(QStringLiteral("axis/%1").arg(index));
    item->set_movable(true);
    item->set_folded(folded_);
    item->setContextMenuPolicy(Qt::ActionsContextMenu);
    const auto action = [&](const QString& text, void (Outline::*what)()) {
        auto* a = new QAction(text, item);
        connect(a, &QAction::triggered, this, [this, index, what] {
            document_.select_axis(index);
            (this->*what)();
        });
        item->addAction(a);
    };
    action(tr("Rename axis"), &Outline::rename_axis);
    action(tr("Duplicate axis"), &Outline::duplicate_axis);
    action(tr("Delete axis"), &Outline::delete_axis);
    connect(item, &QPushButton::clicked, this, [this, index] {
        document_.select_axis(index);
        refresh();
        if (page_ == machine_page) emit page_chosen(0);
    });
    connect(item, &OutlineItem::dragged, this, [this, index](int y, bool dropped) { drag(index, y, dropped); });
    connect(item, &OutlineItem::key, this, [this, index](int which) {
        document_.select_axis(index);
        if (which == Qt::Key_F2) rename_axis();
        if (which == Qt::Key_Delete) delete_axis();
        if (which == Qt::Key_Up) move_axis(-1);
        if (which == Qt::Key_Down) move_axis(1);
    });
    return item;
}

// The selected axis is in view when another is selected, not at every key.
void Outline::show_current() {
    if (!document_.has_axis() || shown_axis_ == document_.axis_index()) return;
    shown_axis_ = document_.axis_index();
    QTimer::singleShot(0, this, [this] {
        if (shown_axis_ >= static_cast<int>(axes_.size())) return;
        // up and down alone: before the first layout the items are wider than what is seen of them
        const QWidget* item = axes_[static_cast<std::size_t>(shown_axis_)];
        scroll_->ensureVisible(0, item->y() + item->height() / 2, 0, item->height() / 2 + 8);
    });
}

void Outline::refresh() {
    // another axis, or another list of them: what was typed was for the one it was opened on
    if (rename_ && (renamed_ != document_.axis_index() || axes_.size() != document_.machine().axes.size()))
        end_renaming(axes_.size() == document_.machine().axes.size(), false);
    const auto& axes = document_.machine().axes;
    while (axes_.size() > axes.size()) {
        axes_.back()->deleteLater();
        axes_.pop_back();
    }
    while (axes_.size() < axes.size()) {
        OutlineItem* item = make_item(static_cast<int>(axes_.size()));
        axes_box_->addWidget(item);
        axes_.push_back(item);
    }
    for (std::size_t i = 0; i < axes.size(); ++i) {
        if (const QString name = qs(axes[i].name); name != axes_[i]->text()) {
            axes_[i]->setText(name);
            axes_[i]->setShortcut({}); // "&" in a name is a letter
        }
        axes_[i]->setChecked(static_cast<int>(i) == document_.axis_index());
        if (!all_ && static_cast<int>(i) != document_.axis_index()) continue; // not before the first picture
        const Assessment& a = document_.assessment(static_cast<int>(i));
        if (a.limits.empty()) continue;
        const Limit& worst = a.limits[*deciding(a.limits)];
        const double u = worst.yes_or_no ? std::nan("") : 100 * worst.utilisation();
        const QString figure = a.pending                               ? QStringLiteral("…")
                               : worst.state == LimitState::cannot_say ? QStringLiteral("?")
                               : std::isfinite(u) ? QStringLiteral("%1 %").arg(std::lround(std::min(u, 9999.0)))
                                                  : tr("over");
        axes_[i]->set_state(worst.state, figure);
        if (const QString tip = plain_tip(tr("%1. Tightest: %2").arg(qs(axes[i].name), qs(worst.label)));
            tip != axes_[i]->toolTip())
            axes_[i]->setToolTip(tip);
    }
    scroll_->setMaximumHeight(static_cast<int>(axes.size()) * 31 + add_->sizeHint().height() + 4);
    show_current();
}

} // namespace fulmox::app

#include "app/forms/quantity_edit.h"
#include "app/words.h"

#include "core/quantity/format.h"

#include <QClipboard>
#include <QContextMenuEvent>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QRegularExpression>
#include <QScopedValueRollback>
#include <QStyle>
#include <QStyleOptionFrame>
#include <cmath>
#include <utility>

namespace fulmox::app {

QuantityEdit::QuantityEdit(Document& document, QString path, QWidget* parent)
    : QLineEdit(parent), document_(document), path_(std::move(path)) {
    setMaxLength(400);
    connect(this, &QLineEdit::textEdited, this, &QuantityEdit::typed);
}

void QuantityEdit::refresh(const FieldRef& field) {
    if (typing_ || show_draft()) return;
    const QString stored = QString::fromStdString(field.quantity->text);
    // "10" is stored as "10 mm": leave the typed text alone while it means the same
    if (!hasFocus() || (stored != text() && !stored.startsWith(text().trimmed() + QLatin1Char(' ')) &&
                           !stored.contains(QLatin1Char('(') + text().trimmed()))) {
        if (text() != stored) setText(stored);
        // what a file brought in can be wrong without anybody typing; said once, since who hears of it refreshes too
        const auto p = field.quantity->text.empty() ? std::nullopt : check(field);
        set_problem(p && p->severity == Severity::error ? qs(p->message) : QString());
    }
}

bool QuantityEdit::show_draft() {
    const Draft* draft = document_.drafts().at(path_);
    if (!draft) return false;
    if (text() != draft->text) setText(draft->text);
    set_problem(qs(draft->problem.message));
    return true;
}

void QuantityEdit::typed(const QString& text) {
    const QScopedValueRollback<bool> typing(typing_, true); // what is being typed is not written over
    const auto problem = document_.type_quantity(path_, text);
    set_problem(problem ? qs(problem->message) : QString());
}

void QuantityEdit::set_problem(const QString& problem) {
    if (problem == problem_) return;
    problem_ = problem;
    setProperty("wrong", wrong());
    style()->unpolish(this);
    style()->polish(this);
    setAccessibleDescription(problem);
    emit problem_changed();
}

void QuantityEdit::nudge(int steps, double size) {
    Machine copy = document_.machine();
    const auto field = find_field(copy, path_.toStdString());
    if (!field || !field->quantity->given() || !field->quantity->unit) return;
    const Unit& unit = *field->quantity->unit;
    const double now = from_si(field->quantity->si, unit);
    // one in the second significant digit
    const double step = now == 0 ? 1 : std::pow(10, std::floor(std::log10(std::abs(now)) + 1e-9) - 1);
    const double next = (std::round(now / (step * size)) + steps) * step * size;
    QString text = QString::fromStdString(format_number(next, 8));
    if (unit.symbol != "1")
        text += QLatin1Char(' ') + QString::fromUtf8(unit.symbol.data(), static_cast<qsizetype>(unit.symbol.size()));
    setText(text);
    typed(text);
}

void QuantityEdit::restore() {
    if (text() == before_) return;
    setText(before_);
    typed(before_);
}

// A text too long for the field shows its beginning, and that it goes on: never digits without those before them.
void QuantityEdit::paintEvent(QPaintEvent* event) {
    QStyleOptionFrame frame;
    initStyleOption(&frame);
    const QRect room = style()->subElementRect(QStyle::SE_LineEditContents, &frame, this).adjusted(2, 0, -2, 0);
    if (hasFocus() || text().isEmpty() || fontMetrics().horizontalAdvance(text()) <= room.width())
        return QLineEdit::paintEvent(event);
    QPainter p(this);
    style()->drawPrimitive(QStyle::PE_PanelLineEdit, &frame, &p, this);
    p.setPen(palette().color(QPalette::Text));
    p.setFont(font());
    p.drawText(room, Qt::AlignLeft | Qt::AlignVCenter, fontMetrics().elidedText(text(), Qt::ElideRight, room.width()));
}

// A click into the field selects all, as Tab does; a second one sets the cursor.
void QuantityEdit::mouseReleaseEvent(QMouseEvent* event) {
    QLineEdit::mouseReleaseEvent(event);
    if (std::exchange(clicked_in_, false) && !hasSelectedText()) selectAll();
}

bool QuantityEdit::paste_table() {
    const QString text = QGuiApplication::clipboard()->text();
    if (!wants_tables_ || !text.trimmed().contains(QRegularExpression(QStringLiteral("[\\n\\t]")))) return false;
    emit table_pasted(text);
    return true;
}

void QuantityEdit::contextMenuEvent(QContextMenuEvent* event) {
    QMenu* menu = createStandardContextMenu();
    menu->setAttribute(Qt::WA_DeleteOnClose);
    if (auto* paste = menu->findChild<QAction*>(QStringLiteral("edit-paste"))) {
        paste->disconnect(this);
        connect(paste, &QAction::triggered, this, [this] {
            if (!paste_table()) QLineEdit::paste();
        });
    }
    menu->popup(event->globalPos());
}

void QuantityEdit::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste) && paste_table()) return;
    const double size = event->modifiers() & Qt::ShiftModifier     ? 10
                        : event->modifiers() & Qt::ControlModifier ? 0.1
                                                                   : 1;
    switch (event->key()) {
    case Qt::Key_Up:
        nudge(1, size);
        return;
    case Qt::Key_Down:
        nudge(-1, size);
        return;
    case Qt::Key_Escape:
        if (text() == before_) break;
        restore();
        return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (!wrong()) {
            document_.end_typing();
            Machine copy = document_.machine();
            if (const auto field = find_field(copy, path_.toStdString()))
                setText(QString::fromStdString(field->quantity->text));
            before_ = text();
            selectAll();
            emit entered();
        }
        return;
    default:
        break;
    }
    QLineEdit::keyPressEvent(event);
}

void QuantityEdit::focusInEvent(QFocusEvent* event) {
    const Draft* draft = document_.drafts().at(path_);
    before_ = draft ? QString::fromStdString(draft->stored) : text();
    clicked_in_ = event->reason() == Qt::MouseFocusReason;
    emit focused(path_);
    QLineEdit::focusInEvent(event);
}

void QuantityEdit::focusOutEvent(QFocusEvent* event) {
    QLineEdit::focusOutEvent(event);
    document_.end_typing();
    if (!wrong()) {
        Machine copy = document_.machine();
        if (const auto field = find_field(copy, path_.toStdString()); field && field->quantity)
            setText(QString::fromStdString(field->quantity->text));
    }
    emit left();
}

} // namespace fulmox::app

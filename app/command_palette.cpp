#include "app/command_palette.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QListWidget>

namespace fulmox::app {

CommandPalette::CommandPalette(Document& document, QWidget* parent) : QLineEdit(parent), document_(document) {
    setObjectName(QStringLiteral("palette"));
    setPlaceholderText(tr("Find a field or command    Ctrl K"));
    setAccessibleName(tr("Find a field or command"));
    setFixedWidth(250);
    installEventFilter(this);
    connect(this, &QLineEdit::textEdited, this, &CommandPalette::search);
}

int CommandPalette::matches() const { return static_cast<int>(found_.size()); }

void CommandPalette::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    selectAll();
}

void CommandPalette::search() {
    found_.clear();
    const QStringList words = text().toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    const auto fits = [&](const QString& s) {
        const QString low = s.toLower();
        return std::all_of(words.begin(), words.end(), [&](const QString& w) { return low.contains(w); });
    };
    if (!words.isEmpty()) {
        for (const Command& c : fixed_)
            if (fits(c.text)) found_.push_back(c);
        if (document_.has_axis()) {
            Machine copy = document_.machine();
            QString group;
            for (const FieldRef& f : walk(copy.axes[static_cast<std::size_t>(document_.axis_index())],
                     document_.axis_path().toStdString())) {
                if (f.type == FieldRef::Type::group || f.type == FieldRef::Type::variant)
                    group = QString::fromStdString(f.label());
                if ((f.type != FieldRef::Type::quantity && f.type != FieldRef::Type::choice) || !f.active) continue;
                const QString label = QString::fromStdString(f.label());
                if (!fits(label + QLatin1Char(' ') + group) || found_.size() > 40) continue;
                const QString value = f.quantity ? QString::fromStdString(f.quantity->text) : QString();
                found_.push_back({label, value.isEmpty() ? group : group + QStringLiteral(", ") + value,
                    [this, path = QString::fromStdString(f.path)] { emit go_to(path); }});
            }
        }
    }
    if (!list_) {
        // a child of the window, not a window of its own: the line keeps the keyboard
        list_ = new QListWidget(window());
        list_->setFocusPolicy(Qt::NoFocus);
        list_->setObjectName(QStringLiteral("palette-list"));
        connect(list_, &QListWidget::itemClicked, this, &CommandPalette::run_current);
    }
    list_->clear();
    for (const Command& c : found_)
        list_->addItem(c.hint.isEmpty() ? c.text : QStringLiteral("%1   —   %2").arg(c.text, c.hint));
    if (found_.empty()) {
        close_list();
        return;
    }
    list_->setCurrentRow(0);
    const QPoint at = mapTo(window(), QPoint(0, height() + 2));
    list_->setGeometry(at.x(), at.y(), 420, std::min(320, 30 * static_cast<int>(found_.size()) + 8));
    list_->raise();
    list_->show();
}

void CommandPalette::close_list() {
    if (list_) list_->hide();
}

void CommandPalette::run_current() {
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(found_.size())) return;
    const auto run = found_[static_cast<std::size_t>(row)].run;
    clear();
    close_list();
    run();
}

bool CommandPalette::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusOut) close_list();
    if (event->type() == QEvent::KeyPress && list_ && list_->isVisible()) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int rows = list_->count();
        if (key == Qt::Key_Down)
            list_->setCurrentRow((list_->currentRow() + 1) % rows);
        else if (key == Qt::Key_Up)
            list_->setCurrentRow((list_->currentRow() + rows - 1) % rows);
        else if (key == Qt::Key_Return || key == Qt::Key_Enter)
            run_current();
        else if (key == Qt::Key_Escape) {
            clear();
            close_list();
        } else
            return QLineEdit::eventFilter(watched, event);
        return true;
    }
    return QLineEdit::eventFilter(watched, event);
}

} // namespace fulmox::app

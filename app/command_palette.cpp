#include "app/command_palette.h"

#include "app/theme.h"
#include "app/words.h"

#include <QKeyEvent>
#include <QListWidget>
#include <QRegularExpression>
#include <algorithm>

namespace fulmox::app {

namespace {

struct Synonym {
    const char* label; ///< as on screen, lower case; a part of it will do
    const char* words;
};

// Common practice of workshops and datasheets, no source.
constexpr Synonym synonyms[] = {{"lead", "pitch per turn, travel per turn"}, {"pitch", "thread pitch"},
    {"payload", "load, workpiece, mass"}, {"carriage", "slide, table, mass"},
    {"guide friction", "mu, coefficient of friction, rail"}, {"seal drag", "wiper, friction"},
    {"inclination", "angle, slope, vertical, tilt"}, {"inertia", "gd2, flywheel, j"},
    {"ratio", "gear, gearbox, reduction, transmission"}, {"efficiency", "eta, losses"}, {"backlash", "play"},
    {"angular", "misalignment"}, {"parallel", "misalignment"}, {"axial", "misalignment"},
    {"torque constant", "kt, nm/a"}, {"resistance", "ohm, winding, r"}, {"bus voltage", "supply, dc link, rail"},
    {"emergency stop", "e-stop, stop time, braking"}, {"brake", "holding, safety"},
    {"stages", "gearbox, gearhead, reducer"}, {"rated torque", "continuous, nominal"},
    {"allowable torque", "coupling, nominal"}, {"ambient", "temperature, room"}, {"altitude", "height, sea level"},
    {"gravity", "g"}, {"distance", "stroke, travel, move"}, {"time", "duration, cycle, seconds"},
    {"law", "profile, s-curve, cam"}, {"acceleration", "ramp"}, {"rounding", "jerk, s-curve"}, {"dwell", "pause, wait"},
    {"counterweight", "balance"}, {"counterbalance", "balance, gas spring"}, {"diameter", "radius, size"},
    {"critical speed", "whip, whirling"}, {"buckling", "column, euler"}, {"density", "material, steel"},
    {"service factor", "safety"}, {"price", "cost"}, {"speed", "rpm, velocity, feed"},
    {"process force", "cutting, load force, thrust"}, {"report", "pdf, print, export"},
    {"policies", "rules, margins, school"}, {"import trace", "recording, csv, measured motion"},
    {"g-code", "nc program, cnc"}, {"export the motion", "csv, save profile"},
    {"copy", "clipboard, table, spreadsheet"}};

} // namespace

QString synonyms_of(const QString& label) {
    QStringList out;
    const QString low = label.toLower();
    for (const Synonym& s : synonyms)
        if (low.contains(QLatin1String(s.label))) out << QString::fromUtf8(s.words);
    return out.join(QStringLiteral(", "));
}

CommandPalette::CommandPalette(Document& document, QWidget* parent) : QLineEdit(parent), document_(document) {
    setObjectName(QStringLiteral("palette"));
    setPlaceholderText(tr("Find a field or command    Ctrl K"));
    setAccessibleName(tr("Find a field or command"));
    setMinimumWidth(110);
    setMaximumWidth(250);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    installEventFilter(this);
    connect(this, &QLineEdit::textEdited, this, &CommandPalette::search);
}

int CommandPalette::matches() const { return static_cast<int>(found_.size()); }

void CommandPalette::ask() {
    if (!hasFocus()) return setFocus(Qt::ShortcutFocusReason);
    selectAll();
    search();
}

void CommandPalette::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    selectAll();
    if (event->reason() == Qt::ShortcutFocusReason || event->reason() == Qt::MouseFocusReason) search();
}

void CommandPalette::offer(int rank, Command command) {
    if (rank >= 0) ranked_.emplace_back(rank, std::move(command));
}

// Where a field stands: "Mechanism", "peak curve, point 2", "segment 3".
void CommandPalette::search_fields(const std::function<int(const QString&, const QString&)>& rank) {
    Machine copy = document_.machine();
    const auto over = [&](const FieldRefs& fields) {
        QString group;
        for (const FieldRef& f : fields) {
            if (f.type == FieldRef::Type::group || f.type == FieldRef::Type::variant) {
                group = qs(f.label());
                // a heading leads to the first field below it
                if (f.active && !group.isEmpty())
                    offer(rank(group, group + QLatin1Char(' ') + synonyms_of(group)),
                        {group, tr("heading"), [this, path = qs(f.path)] { emit go_to(path); }});
            }
            const bool text = f.type == FieldRef::Type::text;
            if ((f.type != FieldRef::Type::quantity && f.type != FieldRef::Type::choice && !text) || !f.active)
                continue;
            const QString label = qs(f.label()), named = field_name(f.label(), qs(f.path));
            const QString place =
                named == label ? group : named.mid(label.size()).remove(QRegularExpression(QStringLiteral("^[, ]+")));
            const QString names =
                label + QLatin1Char(' ') + place + QLatin1Char(' ') + group + QLatin1Char(' ') + synonyms_of(label);
            int r = rank(label, names);
            if (r < 0 && f.type == FieldRef::Type::choice) // by what it may be: "trapezoidal"
                for (const Option& option : f.choice_spec.options)
                    if (r < 0 && rank(label, names + QLatin1Char(' ') + QString::fromUtf8(option.label)) >= 0) r = 25;
            if (r < 0 && f.type == FieldRef::Type::quantity &&
                rank(label, names + QLatin1Char(' ') + QString::fromUtf8(f.quantity_spec.help)) >= 0)
                r = 30;
            if (r < 0) continue;
            const QString value =
                f.quantity ? qs(f.quantity->text)
                : text     ? qs(*f.text).left(40)
                           : QString::fromUtf8(f.choice_spec.options[static_cast<std::size_t>(f.chosen())].label);
            offer(r + 1, {place.isEmpty() ? label : label + QStringLiteral(" · ") + place, value,
                             [this, path = qs(f.path)] { emit go_to(path); }});
        }
    };
    if (document_.has_axis())
        over(walk(copy.axes[static_cast<std::size_t>(document_.axis_index())], document_.axis_path().toStdString()));
    over(walk(copy.site, "/site"));
}

// What this axis has not, but another mechanism or kind of motor has: it leads to where that is chosen.
void CommandPalette::search_other_kinds(const std::function<int(const QString&, const QString&)>& rank) {
    if (!document_.has_axis()) return;
    const std::string path = document_.axis_path().toStdString();
    const Axis axis = document_.axis();
    for (const char* place : {"/mechanism", "/motor/electric"}) {
        int kinds = 1;
        for (int i = 0; i < kinds; ++i) {
            Axis other = axis;
            for (FieldRef& f : walk(other, path))
                if (f.type == FieldRef::Type::variant && f.path == path + place) {
                    kinds = static_cast<int>(f.variant.kinds().size());
                    f.choose(i);
                    break;
                }
            const QString kind = [&] {
                for (const FieldRef& f : walk(other, path))
                    if (f.type == FieldRef::Type::variant && f.path == path + place)
                        return QString::fromUtf8(f.variant.kinds()[static_cast<std::size_t>(i)].label);
                return QString();
            }();
            for (const FieldRef& f : walk(other, path)) {
                if (!f.path.starts_with(path + place + "/") || !f.active || f.type != FieldRef::Type::quantity)
                    continue;
                const QString label = qs(f.label());
                const int r = rank(label, label + QLatin1Char(' ') + kind + QLatin1Char(' ') + synonyms_of(label));
                if (r < 0) continue;
                offer(r + 40, {label, tr("of another kind: %1").arg(kind),
                                  [this, to = qs(path) + QLatin1String(place)] { emit go_to(to); }});
            }
        }
    }
}

void CommandPalette::search() {
    found_.clear();
    ranked_.clear();
    const QStringList words = text().toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    // 0: begins with what was typed, 10: has it in its name, 20: has it beside its name; −1: has it not
    const auto rank = [&](const QString& name, const QString& all) {
        const QString low = name.toLower(), whole = all.toLower();
        if (!std::all_of(words.begin(), words.end(), [&](const QString& w) { return whole.contains(w); })) return -1;
        if (low.startsWith(words.join(QLatin1Char(' ')))) return 0;
        return std::all_of(words.begin(), words.end(), [&](const QString& w) { return low.contains(w); }) ? 10 : 20;
    };
    const std::vector<Command> recent = recent_ ? recent_() : std::vector<Command>();
    if (words.isEmpty()) {
        // what people do next
        for (const Command& c : recent) offer(0, c);
        for (const Command& c : fixed_)
            if (!c.hint.isEmpty()) offer(1, c);
    } else {
        for (const Command& c : fixed_) offer(rank(c.text, c.text + QLatin1Char(' ') + synonyms_of(c.text)), c);
        if (actions_)
            for (const Command& c : actions_())
                offer(rank(c.text, c.text + QLatin1Char(' ') + c.hint + QLatin1Char(' ') + c.words + QLatin1Char(' ') +
                                       synonyms_of(c.text)),
                    c);
        const auto& axes = document_.machine().axes;
        for (std::size_t i = 0; i < axes.size(); ++i) {
            const QString name = qs(axes[i].name);
            offer(rank(name, name + tr(" axis")),
                {name, tr("axis %1").arg(i + 1), [this, i] { emit axis_chosen(static_cast<int>(i)); }});
        }
        search_fields(rank);
        for (const Command& c : recent) offer(rank(c.text, c.text + QLatin1Char(' ') + c.hint), c);
        if (parts_ && words.join(QString()).size() >= 3)
            for (const Command& c : parts_()) {
                const int r = rank(c.text, c.text + QLatin1Char(' ') + c.hint);
                offer(r < 0 ? r : r + 5, c);
            }
        if (ranked_.empty()) search_other_kinds(rank);
    }
    std::stable_sort(ranked_.begin(), ranked_.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (auto& [r, command] : ranked_)
        if (found_.size() < 60) found_.push_back(std::move(command));
    show_found();
}

void CommandPalette::show_found() {
    if (!list_) {
        // a child of the window, not a window of its own: the line keeps the keyboard
        list_ = new QListWidget(window());
        list_->setFocusPolicy(Qt::NoFocus);
        list_->setObjectName(QStringLiteral("palette-list"));
        list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        list_->setTextElideMode(Qt::ElideMiddle);
        connect(list_, &QListWidget::itemClicked, this, &CommandPalette::run_current);
    }
    list_->clear();
    for (const Command& c : found_)
        list_->addItem(c.hint.isEmpty() ? c.text : QStringLiteral("%1   —   %2").arg(c.text, c.hint));
    if (found_.empty()) {
        auto* nothing = new QListWidgetItem(tr("nothing found"), list_);
        nothing->setFlags(Qt::NoItemFlags);
    } else {
        list_->setCurrentRow(0);
    }
    const int wide = std::min(460, window()->width() - 24), rows = std::max(1, static_cast<int>(found_.size()));
    const QPoint at = mapTo(window(), QPoint(0, height() + 2));
    list_->setGeometry(std::min(at.x(), window()->width() - wide - 12), at.y(), wide, std::min(340, 30 * rows + 8));
    list_->raise();
    list_->show();
}

void CommandPalette::close_list() {
    if (list_) list_->hide();
}

void CommandPalette::give_back() {
    close_list();
    if (before_ && before_->isVisible())
        before_->setFocus(Qt::OtherFocusReason);
    else
        window()->setFocus();
}

void CommandPalette::run_current() {
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(found_.size())) return;
    const auto run = found_[static_cast<std::size_t>(row)].run;
    clear();
    give_back(); // a command acts where the focus was
    run();
}

bool CommandPalette::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusOut) close_list();
    if (event->type() == QEvent::FocusAboutToChange || event->type() == QEvent::ShortcutOverride)
        return QLineEdit::eventFilter(watched, event);
    if (event->type() != QEvent::KeyPress) return QLineEdit::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Escape) {
        if (text().isEmpty())
            give_back();
        else {
            clear();
            search();
        }
        return true;
    }
    if (!list_ || !list_->isVisible()) {
        if (key == Qt::Key_Down) search();
        return QLineEdit::eventFilter(watched, event);
    }
    const int rows = static_cast<int>(found_.size());
    if (rows > 0 && key == Qt::Key_Down)
        list_->setCurrentRow((list_->currentRow() + 1) % rows);
    else if (rows > 0 && key == Qt::Key_Up)
        list_->setCurrentRow((list_->currentRow() + rows - 1) % rows);
    else if (key == Qt::Key_Return || key == Qt::Key_Enter)
        run_current();
    else
        return QLineEdit::eventFilter(watched, event);
    return true;
}

} // namespace fulmox::app

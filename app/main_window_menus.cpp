// The top bar: menus, their keys, and what stands beside them.
#include "app/bricks/choice.h"
#include "app/command_palette.h"
#include "app/ledger.h"
#include "app/main_window.h"
#include "app/outline.h"
#include "app/pages/page.h"
#include "app/theme.h"
#include "app/words.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>

namespace fulmox::app {

QWidget* MainWindow::build_top_bar() {
    auto* bar = new QFrame;
    bar->setObjectName(QStringLiteral("topbar"));
    bar->setFixedHeight(46);
    auto* line = new QHBoxLayout(bar);
    line->setContentsMargins(8, 0, 12, 0);
    line->setSpacing(8);
    auto* menus = new QMenuBar;
    menus->setObjectName(QStringLiteral("menus"));
    menus->setNativeMenuBar(false);
    menus->setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Preferred);
    menus->setFixedHeight(28);
    line->addWidget(menus, 0, Qt::AlignVCenter);
    title_ = new QLabel;
    title_->setTextFormat(Qt::PlainText);
    title_->setFont(type_face(13, Weight::strong));
    title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    line->addWidget(title_, 1);
    palette_ = new CommandPalette(document_);
    line->addWidget(palette_, 20); // up to its full width before the title gets more than it needs
    units_ = new Choice;
    units_->setObjectName(QStringLiteral("units"));
    units_->setAccessibleName(tr("Units of results"));
    units_->setToolTip(tr("Units in which results are shown; what you type keeps its own unit"));
    for (const Option& o : Machine::unit_systems) units_->addItem(QString::fromUtf8(o.label));
    connect(units_, &QComboBox::activated, this, [this](int i) {
        document_.edit(tr("units"), [i](Machine& m) { m.unit_system = static_cast<UnitSystem>(i); });
    });
    line->addWidget(units_);
    policy_ = new Choice;
    policy_->setObjectName(QStringLiteral("policy"));
    policy_->setAccessibleName(tr("Policy the axis is judged by"));
    connect(policy_, &QComboBox::activated, this, [this](int i) {
        const auto& all = document_.machine().policies;
        if (i < 0 || static_cast<std::size_t>(i) >= all.size()) return;
        const std::string name = all[static_cast<std::size_t>(i)].name; // what is shown may have codes in it
        document_.edit(tr("policy %1").arg(policy_->itemText(i)),
            [&](Machine& m) { m.axes[static_cast<std::size_t>(document_.axis_index())].policy = name; });
    });
    line->addWidget(policy_);
    saved_ = new QLabel;
    saved_->setObjectName(QStringLiteral("second"));
    saved_->setFont(type_face(12));
    saved_->setMinimumWidth(62);
    line->addWidget(saved_);
    return bar;
}

void MainWindow::build_menus() {
    auto* bar = findChild<QMenuBar*>(QStringLiteral("menus"));
    const auto action = [this](QMenu* menu, const QString& text, const QKeySequence& keys, std::function<void()> run) {
        QAction* a = menu->addAction(text);
        a->setShortcut(keys);
        a->setShortcutContext(Qt::WindowShortcut);
        connect(a, &QAction::triggered, this, run);
        addAction(a);
        palette_->add({QString(text).remove(QLatin1Char('&')).remove(QStringLiteral("…")),
            keys.toString(QKeySequence::NativeText), std::move(run)});
        return a;
    };
    QMenu* file = bar->addMenu(tr("&File"));
    action(file, tr("&New"), QKeySequence::New, [this] {
        if (!may_leave()) return;
        document_.start_new();
        go_to(document_.axis_path() + QStringLiteral("/mechanism")); // the first that is chosen
    });
    action(file, tr("&Open…"), QKeySequence::Open, [this] {
        const QString f =
            QFileDialog::getOpenFileName(this, tr("Open project"), {}, tr("Fulmox projects (*.fulmox);;All files (*)"));
        if (!f.isEmpty() && may_leave()) open_file(f);
    });
    QMenu* recent = file->addMenu(tr("Open re&cent"));
    connect(recent, &QMenu::aboutToShow, this, [this, recent] { fill_recent(recent); });
    action(file, tr("Open the &demo project"), {}, [this] {
        if (may_leave()) open_demo();
    });
    file->addSeparator();
    action(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
    action(file, tr("Save &as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { save_as(); });
    file->addSeparator();
    QAction* report = action(file, tr("&Report as PDF…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_R), [this] {
        const QString f = QFileDialog::getSaveFileName(this, tr("Report as PDF"),
            (document_.has_axis() ? qs(document_.axis().name) : document_.title())
                    .replace(QLatin1Char('/'), QLatin1Char('-')) +
                QStringLiteral(".pdf"),
            tr("PDF (*.pdf)"));
        if (!f.isEmpty()) save_report(QFileInfo(f).suffix().isEmpty() ? f + QStringLiteral(".pdf") : f);
    });
    report->setObjectName(QStringLiteral("report"));
    action(file, tr("Results as &JSON…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_J), [this] {
        const QString f = QFileDialog::getSaveFileName(this, tr("Results as JSON"),
            document_.title().replace(QLatin1Char('/'), QLatin1Char('-')) + QStringLiteral(".json"),
            tr("JSON (*.json)"));
        if (!f.isEmpty()) save_results(QFileInfo(f).suffix().isEmpty() ? f + QStringLiteral(".json") : f);
    });
    action(file, tr("&Print report…"), QKeySequence::Print, [this] { print_report(); });
    file->addSeparator();
    action(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });

    QMenu* edit = bar->addMenu(tr("&Edit"));
    QUndoStack& stack = document_.undo_stack();
    QAction* undo = action(edit, tr("&Undo"), QKeySequence::Undo, [&stack] { stack.undo(); });
    QAction* redo =
        action(edit, tr("&Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [&stack] { stack.redo(); });
    const auto texts = [&stack, undo, redo] {
        undo->setEnabled(stack.canUndo());
        redo->setEnabled(stack.canRedo());
        undo->setText(stack.canUndo() ? tr("&Undo %1").arg(stack.undoText()) : tr("&Undo"));
        redo->setText(stack.canRedo() ? tr("&Redo %1").arg(stack.redoText()) : tr("&Redo"));
    };
    connect(&stack, &QUndoStack::indexChanged, this, texts);
    texts();
    edit->addSeparator();
    QMenu* axis = edit->addMenu(tr("A&xis"));
    action(axis, tr("&Add an axis"), {}, [this] { outline_->add_axis(); });
    action(axis, tr("&Rename axis"), {}, [this] { outline_->rename_axis(); });
    action(axis, tr("&Duplicate axis"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D),
        [this] { outline_->duplicate_axis(); });
    action(axis, tr("D&elete axis"), {}, [this] { outline_->delete_axis(); });
    action(
        axis, tr("Move axis &up"), QKeySequence(Qt::ALT | Qt::SHIFT | Qt::Key_Up), [this] { outline_->move_axis(-1); });
    action(axis, tr("Move axis do&wn"), QKeySequence(Qt::ALT | Qt::SHIFT | Qt::Key_Down),
        [this] { outline_->move_axis(1); });
    edit->addSeparator();
    action(edit, tr("&Copy this"), QKeySequence::Copy, [this] { copy_here(); });
    action(edit, tr("Copy the &limits"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C),
        [this] { copy_section("limits"); });
    QMenu* copies = edit->addMenu(tr("Copy of this ax&is"));
    connect(copies, &QMenu::aboutToShow, this, [this, copies] { fill_copies(copies); });
    edit->addSeparator();
    action(edit, tr("&Find a field or command"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { palette_->ask(); });

    action(edit, tr("Find in this lis&t"), QKeySequence::Find, [this] {
        auto* here = qobject_cast<Page*>(stack_->currentWidget());
        if (!here || !here->search()) palette_->ask();
    });
    action(edit, tr("Pin this state as &A"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P), [this] {
        document_.pin();
        show_message(tr("This state is pinned as A. What changes from here is shown beside it; A is taken up again "
                        "from the Edit menu."));
    });
    action(edit, tr("&Back to A"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B), [this] {
        if (document_.pinned())
            document_.take_pinned();
        else
            show_message(tr("Nothing is pinned yet: pin a state as A first."));
    });
    action(edit, tr("U&npin A"), {}, [this] { document_.unpin(); });
    edit->addSeparator();
    action(edit, tr("&Materials…"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] { edit_materials(); });
    action(edit, tr("&Policies…"), QKeySequence(Qt::CTRL | Qt::Key_L), [this] { edit_policies(); });

    QMenu* view = bar->addMenu(tr("&View"));
    action(view, tr("&Quick sums"), QKeySequence(Qt::CTRL | Qt::Key_R), [this] { show_quick_sums(); });
    for (int i = 0; i < static_cast<int>(page_registry().size()); ++i)
        action(view, tr("Page &%1: %2").arg(i + 1).arg(tr(page_registry()[static_cast<std::size_t>(i)].question)),
            QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + i)), [this, i] { focus_page(i); });
    action(view, tr("Page &0: The machine"), QKeySequence(Qt::CTRL | Qt::Key_0),
        [this] { focus_page(Outline::machine_page); });
    view->addSeparator();
    const char* ledgers[] = {
        QT_TR_NOOP("&Limits in full"), QT_TR_NOOP("Limits as &marks"), QT_TR_NOOP("Limits &hidden")};
    for (int i = 0; i < 3; ++i) {
        QAction*& a = ledger_actions_[static_cast<std::size_t>(i)];
        a = action(view, tr(ledgers[i]), {}, [this, i] { show_ledger(static_cast<LedgerShown>(i)); });
        a->setCheckable(true);
    }
    action(view, tr("&Next way to show the limits"), QKeySequence(Qt::Key_F9), [this] {
        const int now = ledger_->isHidden() ? 2 : ledger_->folded() ? 1 : 0;
        show_ledger(static_cast<LedgerShown>((now + 1) % 3));
    });
    view->addSeparator();
    dark_ = action(view, tr("&Dark colours"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] { set_dark(!theme().dark); });
    dark_->setCheckable(true);
    dark_->setAutoRepeat(false); // a key held down is one change
    dark_->setChecked(theme().dark);

    QMenu* help = bar->addMenu(tr("&Help"));
    action(help, tr("&Guide to this page"), QKeySequence(Qt::Key_F1), [this] { open_guide(); });
    action(help, tr("&First axis, step by step"), {}, [this] {
        if (may_leave()) begin_first_axis();
    });
    action(help, tr("&How to type values"), {}, [this] {
        QMessageBox::information(this, tr("How to type values"),
            tr("Any field takes arithmetic and any unit of its kind:\n\n    2*35 mm + 1 in        7/8 in        12 lb  "
               "      1.5 kW\n\n"
               "A tolerance goes into the same field:  12 kg ± 10 %   or   12 kg +/- 500 g\n\n"
               "Torque oz·in, lb·in, kg·cm and inertia oz·in², lb·in², lb·in·s², kg·cm² are told apart.\n"
               "A comma is not read: write 1.5.\n\n"
               "Up and Down nudge the value, with Shift by ten times as much, with Ctrl by a tenth.\n"
               "Escape brings the old text back. Ctrl K finds any field."));
    });
    action(help, tr("&About Fulmox"), {}, [this] {
        QMessageBox::about(this, tr("About Fulmox"),
            tr("Fulmox %1\n\nSizes servo axes from the load to the motor and shows the working.\n\n"
               "An engineering aid: the maker's data, local code and a qualified person decide.\n\n"
               "Free software under the GNU General Public License, version 3 or later. Built with Qt and QCustomPlot; "
               "the font is Inter under the SIL Open Font License.")
                .arg(QStringLiteral(FULMOX_VERSION)));
    });
}

} // namespace fulmox::app

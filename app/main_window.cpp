#include "app/main_window.h"

#include "app/bricks/choice.h"
#include "app/bricks/note_line.h"
#include "app/command_palette.h"
#include "app/first_axis.h"
#include "app/forms/list_editor.h"
#include "app/guide.h"
#include "app/guide_chapters.h"
#include "app/ledger.h"
#include "app/library.h"
#include "app/pages/machine_page.h"
#include "app/pages/page.h"
#include "app/parts/motor_table.h"
#include "app/parts/part_cards.h"
#include "app/policy_editor.h"
#include "app/quick_sums.h"
#include "app/results/figures.h"
#include "app/shipped_motors.h"
#include "app/theme.h"
#include "app/words.h"
#include "core/model/validate.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QResizeEvent>
#include <QScrollArea>
#include <QScrollBar>
#include <QSettings>
#include <QSplitter>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <utility>

namespace fulmox::app {

namespace {

constexpr int small = 1200;      // a window narrower than this has room for a page or for the ledger
constexpr int least_title = 130; // pixels of the top bar for the name of the axis
constexpr int very_wide = 1700;  // one wider has room for both and the guide

// Gives its child all of its room. A layout would ask for the preferred height of the page, and have it scrolled where
// it could well be a little less.
class Filled : public QWidget {
  public:
    explicit Filled(QWidget* child) : child_(child) { child->setParent(this); }

  protected:
    void resizeEvent(QResizeEvent*) override { child_->setGeometry(rect()); }

  private:
    QWidget* child_;
};

// Rows of our own that are pressed like buttons say so to screen readers, and groups of figures that they are groups.
QAccessibleInterface* rows_are_buttons(const QString& kind, QObject* object) {
    if (kind == QLatin1String(FigureGroup::staticMetaObject.className()))
        return new QAccessibleWidget(static_cast<QWidget*>(object), QAccessible::Grouping);
    if (kind != QLatin1String(LimitRow::staticMetaObject.className()) &&
        kind != QLatin1String(NoteLine::staticMetaObject.className()))
        return nullptr;
    return new QAccessibleWidget(static_cast<QWidget*>(object), QAccessible::Button);
}

} // namespace

MainWindow::MainWindow(const QString& recovery_folder, QWidget* parent, std::optional<Opening> first)
    : QMainWindow(parent), recovery_(recovery_folder) {
    ProjectRead opened; // what it had to say, once there is a window to say it in
    const bool begun = first && first->project;
    if (begun) {
        opened.warning = first->project->warning;
        opened.problems = first->project->problems;
        document_.open(std::move(*first->project), first->file);
        if (!first->file.isEmpty()) remember_file(first->file);
    }
    QAccessible::installFactory(rows_are_buttons); // once, however many windows
    resize(1280, 800);
    setMinimumSize(800, 560);
    setAcceptDrops(true);
    auto* central = new QWidget;
    central->setObjectName(QStringLiteral("paper"));
    auto* box = new QVBoxLayout(central);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(0);
    box->addWidget(build_top_bar());
    banner_ = new Banner;
    box->addWidget(banner_);
    first_axis_ = new FirstAxis(document_);
    box->addWidget(first_axis_);
    auto* line = new QHBoxLayout;
    line->setSpacing(0);
    outline_ = new Outline(document_);
    stack_ = new QStackedWidget;
    ledger_ = new Ledger(document_);
    line->addWidget(outline_);
    // where a window is smaller than a page can be read in, the page scrolls, and nothing of it is cut off
    room_ = new QScrollArea;
    room_->setObjectName(QStringLiteral("room"));
    room_->setWidgetResizable(true);
    room_->setFocusPolicy(Qt::NoFocus);
    room_->setWidget(new Filled(stack_));
    split_ = new QSplitter;
    split_->setObjectName(QStringLiteral("split"));
    split_->setChildrenCollapsible(false);
    split_->setHandleWidth(3);
    split_->addWidget(room_);
    split_->addWidget(ledger_);
    split_->setStretchFactor(0, 1);
    split_->setStretchFactor(1, 0);
    line->addWidget(split_, 1);
    box->addLayout(line, 1);
    setCentralWidget(central);
    build_menus();

    // whatever gets the focus comes into view
    connect(qApp, &QApplication::focusChanged, this, [this](QWidget* before, QWidget* now) {
        if (!now || !isAncestorOf(now)) return;
        if (now == palette_) palette_->came_from(before);
        // a press of the mouse moves nothing: the second of a double click would meet something else
        if (QGuiApplication::mouseButtons() == Qt::NoButton) bring_into_view(now);
    });
    connect(outline_, &Outline::page_chosen, this, &MainWindow::show_page);
    connect(ledger_, &Ledger::go_to, this, &MainWindow::go_to);
    connect(ledger_, &Ledger::unfold_wanted, this, [this] { show_ledger(LedgerShown::whole); });
    connect(split_, &QSplitter::splitterMoved, this, [this] {
        if (!ledger_->folded()) QSettings().setValue(QStringLiteral("ledger-width"), ledger_->width());
    });
    connect(first_axis_, &FirstAxis::go_to, this, &MainWindow::go_to);
    connect(palette_, &CommandPalette::go_to, this, &MainWindow::go_to);
    connect(palette_, &CommandPalette::axis_chosen, this, [this](int axis) { document_.select_axis(axis); });
    palette_->set_recent([this] {
        std::vector<CommandPalette::Command> out;
        for (const QString& f : recent_files())
            out.push_back(
                {QFileInfo(f).fileName(), tr("recent file in %1").arg(QFileInfo(f).absolutePath()), [this, f] {
                     if (may_leave()) open_file(f);
                 }});
        return out;
    });
    palette_->set_parts([this] {
        std::vector<CommandPalette::Command> out;
        if (!document_.has_axis()) return out;
        const auto offer = [&](const auto& motors, const QString& from) {
            for (const Motor& m : motors)
                if (!m.name.empty())
                    out.push_back({qs(m.name), from, [this, name = qs(m.name)] {
                                       open_page("parts");
                                       findChild<MotorTable*>()->show_motor(name);
                                   }});
        };
        offer(shipped_motors(), tr("motor of the catalogue"));
        offer(document_.machine().motors, tr("motor of this project"));
        offer(motor_library().motors(), tr("motor of my library"));
        return out;
    });
    palette_->set_actions([this] { return page_actions(); });
    connect(&document_, &Document::changed, this, [this] {
        refresh_status();
        refresh_policies();
        if (!autosave_.isActive()) autosave_.start(); // a firm rhythm, also while somebody types without a pause
    });
    connect(&document_, &Document::status_changed, this, &MainWindow::refresh_status);
    connect(&document_, &Document::refused, this,
        [this](const QString& why) { show_message(tr("Nothing was changed: %1").arg(why)); });
    autosave_.setSingleShot(true);
    autosave_.setInterval(1500);
    connect(&autosave_, &QTimer::timeout, this, &MainWindow::keep_now);
    confirm_leave = [this] {
        const auto pressed = QMessageBox::question(this, tr("Unsaved work"),
            document_.modified() ? tr("%1 has changes that are not saved.").arg(document_.title())
                                 : tr("%1 has fields with text that cannot be read.").arg(document_.title()),
            QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, QMessageBox::Save);
        return pressed == QMessageBox::Save      ? Leave::save
               : pressed == QMessageBox::Discard ? Leave::discard
                                                 : Leave::stay;
    };
    confirm_overwrite = [this](const QString& file) {
        return QMessageBox::question(this, tr("Save project"),
                   tr("%1 is there already. Write over it?").arg(QFileInfo(file).fileName())) == QMessageBox::Yes;
    };
    confirm_changed = [this](const QString& file) {
        QMessageBox asks(QMessageBox::Warning, tr("Save project"),
            tr("%1 was changed by another program since it was opened here.").arg(QFileInfo(file).fileName()),
            QMessageBox::Cancel, this);
        asks.setInformativeText(tr("Saving over it loses those changes."));
        const auto* elsewhere = asks.addButton(tr("Save elsewhere…"), QMessageBox::AcceptRole);
        const auto* over = asks.addButton(tr("Save over it"), QMessageBox::DestructiveRole);
        asks.exec();
        return asks.clickedButton() == over        ? Overwrite::over
               : asks.clickedButton() == elsewhere ? Overwrite::elsewhere
                                                   : Overwrite::stay;
    };
    look_.setSingleShot(true);
    look_.setInterval(200); // programs write in steps
    connect(&look_, &QTimer::timeout, this, &MainWindow::look_at_file);
    const auto look_soon = [this] {
        if (!look_.isActive()) look_.start(); // a folder in which something always changes is looked at all the same
    };
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, look_soon);
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, look_soon);
    connect(&document_, &Document::opened, this, [this] {
        hide_message();
        show_page(0);
        for (QScrollArea* area : room_->findChildren<QScrollArea*>()) area->verticalScrollBar()->setValue(0);
        room_->verticalScrollBar()->setValue(0);
        watch_file();
    });
    show_page(0);
    refresh_status();
    refresh_policies();
    outline_->setFocus();
    if (begun) {
        watch_file();
        say_what_was_found(opened);
        claim_file();
    } else if (first) {
        show_message(first->project.error());
    }
}

// The widgets look at the document to the last, and members go before child widgets.
MainWindow::~MainWindow() {
    disconnect(&document_, nullptr, nullptr, nullptr);
    disconnect(&document_.undo_stack(), nullptr, this, nullptr);
    delete policies_;
    delete materials_;
    delete sums_;
    delete takeCentralWidget();
}

Page* MainWindow::page(int index) {
    Page*& p = pages_.at(static_cast<std::size_t>(index));
    if (!p) {
        p = page_registry().at(static_cast<std::size_t>(index)).make(document_);
        connect(p, &Page::least_changed, this, [this, p] {
            if (p == stack_->currentWidget()) room_->widget()->setMinimumSize(p->least());
        });
        connect(p, &Page::go_to_requested, this, &MainWindow::go_to);
        connect(p, &Page::quick_sums_requested, this, &MainWindow::show_quick_sums);
        stack_->addWidget(p);
    }
    return p;
}

MachinePage* MainWindow::machine_page() {
    if (!machine_) {
        machine_ = new MachinePage(document_);
        connect(machine_, &MachinePage::axis_chosen, this, [this](int axis) {
            document_.select_axis(axis);
            show_page(0);
        });
        connect(machine_, &MachinePage::policies_requested, this, &MainWindow::edit_policies);
        connect(machine_, &MachinePage::materials_requested, this, &MainWindow::edit_materials);
        stack_->addWidget(machine_);
    }
    return machine_;
}

void MainWindow::show_ledger(LedgerShown how) {
    ledger_wanted_ = how;
    place_ledger();
}

// As somebody wants it; where nobody has said, as the window has room.
void MainWindow::place_ledger() {
    const LedgerShown how = ledger_wanted_    ? *ledger_wanted_
                            : width() < small ? LedgerShown::marks
                                              : LedgerShown::whole;
    ledger_->set_folded(how == LedgerShown::marks);
    ledger_->setVisible(how != LedgerShown::hidden && (!guide_open() || width() >= very_wide));
    outline_->set_folded(width() < small);
    for (int i = 0; i < 3; ++i) ledger_actions_[static_cast<std::size_t>(i)]->setChecked(static_cast<int>(how) == i);
    const int wide = how == LedgerShown::whole ? QSettings().value(QStringLiteral("ledger-width"), 296).toInt()
                                               : ledger_->maximumWidth();
    QList<int> sizes{split_->width(), ledger_->isHidden() ? 0 : wide};
    if (guide_) sizes << (guide_open() ? guide_->maximumWidth() : 0);
    split_->setSizes(sizes);
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    const int before = event->oldSize().width();
    // what somebody chose holds until the window becomes small, or large again
    if (before > 0 && (before < small) != (width() < small)) ledger_wanted_.reset();
    place_ledger();
    refresh_status();
}

void MainWindow::offer_start() {
    if (!message().isEmpty()) return; // work to recover comes first
    show_message(
        tr("Start with the demo, with this empty axis, or step by step through a first axis."), tr("Open the demo"),
        [this] { open_demo(); }, tr("First axis, step by step"), [this] { begin_first_axis(); });
}

void MainWindow::begin_first_axis() {
    document_.start_new();
    first_axis_->begin();
}

// Of what has the keyboard, else of the page.
QString MainWindow::chapter() const {
    if (const QString own = chapter_of_widget(before_guide_); !own.isEmpty()) return own;
    if (stack_->currentWidget() == machine_) return QString::fromUtf8(MachinePage::question);
    if (const auto* cards = stack_->currentWidget()->findChild<PartCards*>())
        for (const CardEntry& card : card_entries)
            if (card.of == cards->current() && card.of != CardOf::motor)
                return chapter_of_place(QString::fromUtf8(card.place));
    return QString::fromUtf8(page_registry().at(static_cast<std::size_t>(page_index_)).question);
}

void MainWindow::open_guide() {
    before_guide_ = QApplication::focusWidget();
    if (!guide_) {
        guide_ = new Guide;
        split_->addWidget(guide_);
        split_->setStretchFactor(2, 0);
        connect(guide_, &Guide::closed, this, &MainWindow::close_guide);
    }
    guide_->show();
    place_ledger();
    guide_->open_at(chapter());
}

bool MainWindow::guide_open() const { return guide_ && !guide_->isHidden(); }

void MainWindow::close_guide() {
    if (!guide_) return;
    guide_->hide();
    place_ledger();
    if (before_guide_ && before_guide_->isVisible())
        before_guide_->setFocus();
    else
        outline_->setFocus();
}

void MainWindow::show_page(int index) {
    if (index == Outline::machine_page) {
        stack_->setCurrentWidget(machine_page());
        room_->widget()->setMinimumSize(machine_->least());
        outline_->set_page(index);
        return;
    }
    page_index_ = index;
    Page* p = page(index);
    stack_->setCurrentWidget(p);
    room_->widget()->setMinimumSize(p->least());
    outline_->set_page(index);
}

void MainWindow::bring_into_view(QWidget* widget) {
    for (QWidget* up = widget->parentWidget(); up && up != this; up = up->parentWidget())
        if (auto* area = qobject_cast<QScrollArea*>(up)) area->ensureWidgetVisible(widget, 8, 12);
}

void MainWindow::go_to(const QString& path) {
    if (path.startsWith(QStringLiteral("/axes/"))) document_.select_axis(path.section(QLatin1Char('/'), 2, 2).toInt());
    if (!path.startsWith(QStringLiteral("/axes"))) {
        show_page(Outline::machine_page);
        machine_->go_to(path);
        return;
    }
    const QString rest = QLatin1Char('/') + path.section(QLatin1Char('/'), 3);
    if (rest.startsWith(QStringLiteral("/policy"))) {
        policy_->setFocus();
        return;
    }
    const int index = page_of(rest);
    show_page(index);
    page(index)->go_to(path);
    // what has only just been unfolded has its place after the next layout
    QTimer::singleShot(0, this, [this, there = QPointer<QWidget>(focusWidget())] {
        if (there && there == focusWidget() && isAncestorOf(there)) bring_into_view(there);
    });
}

void MainWindow::focus_page(int index) {
    show_page(index);
    if (index != Outline::machine_page) return page(index)->begin();
    focus_first(*machine_);
}

void MainWindow::edit_materials() {
    if (!materials_) {
        materials_ = new QDialog(this);
        materials_->setObjectName(QStringLiteral("materials"));
        materials_->setWindowTitle(tr("Materials of this project"));
        materials_->resize(460, 420);
        auto* box = new QVBoxLayout(materials_);
        auto* list = new ListEditor(
            document_, QStringLiteral("//materials"), tr("Materials"), tr("+ material"),
            [this] { return document_.machine().materials.size(); },
            [this](std::size_t i) {
                const Material& m = document_.machine().materials[i];
                return QStringLiteral("%1   %2").arg(qs(m.name), qs(m.density.text));
            });
        box->addWidget(list);
        auto* help = new HelpStrip(document_);
        connect(list, &ListEditor::focused, help, &HelpStrip::show_field);
        box->addWidget(help);
        box->addStretch(1);
    }
    materials_->show();
    materials_->raise();
    materials_->activateWindow();
}

void MainWindow::show_quick_sums() {
    if (!sums_) sums_ = new QuickSums(document_, this);
    sums_->show();
    sums_->raise();
    sums_->activateWindow();
}

void MainWindow::edit_policies() {
    if (!policies_) policies_ = new PolicyEditor(document_, this);
    policies_->show();
    policies_->raise();
    policies_->activateWindow();
}

void MainWindow::set_dark(bool dark) {
    apply_theme(*qApp, dark);
    dark_->setChecked(dark);
    QSettings().setValue(QStringLiteral("dark"), dark);
    emit document_.changed();
}

void MainWindow::refresh_status() {
    const QString axis = document_.has_axis() ? qs(document_.axis().name) : QString();
    const QString title = QStringLiteral("%1  /  %2").arg(document_.title(), axis);
    // where there is little room the axis matters more: the window's own title has the project
    const bool little = width() < 1100;
    title_->setText(little ? title_->fontMetrics().elidedText(axis, Qt::ElideRight, least_title) : title);
    title_->setMinimumWidth(little ? std::min(least_title, title_->fontMetrics().horizontalAdvance(axis) + 2) : 0);
    title_->setToolTip(plain_tip(document_.file().isEmpty() ? title : document_.file()));
    setWindowTitle(QStringLiteral("%1%2 – Fulmox")
                       .arg(document_.title(), document_.modified() ? QStringLiteral(" *") : QString()));
    saved_->setText(document_.read_only()        ? tr("read only")
                    : document_.modified()       ? tr("not saved")
                    : document_.file().isEmpty() ? tr("new")
                                                 : tr("saved"));
    const QSignalBlocker quiet(units_);
    units_->setCurrentIndex(static_cast<int>(document_.machine().unit_system));
}

void MainWindow::refresh_policies() {
    const QSignalBlocker quiet(policy_);
    QStringList names;
    for (const Policy& p : document_.machine().policies) names << qs(p.name);
    QStringList shown;
    for (int i = 0; i < policy_->count(); ++i) shown << policy_->itemText(i);
    if (names != shown) {
        policy_->clear();
        policy_->addItems(names);
        for (int i = 0; i < names.size(); ++i)
            policy_->setItemData(
                i, plain_tip(qs(document_.machine().policies[static_cast<std::size_t>(i)].reason)), Qt::ToolTipRole);
    }
    policy_->setEnabled(document_.has_axis());
    if (!document_.has_axis()) return;
    policy_->setCurrentIndex(static_cast<int>(names.indexOf(qs(document_.axis().policy))));
    const Policy* p = find_policy(document_.machine(), document_.axis().policy);
    policy_->setToolTip(p ? plain_tip(qs(p->reason)) : QString());
}

void MainWindow::show_message(const QString& text, const QString& action, std::function<void()> act,
    const QString& other, std::function<void()> act_other) {
    banner_->show_message(text, {action, std::move(act)}, {other, std::move(act_other)});
}

void MainWindow::hide_message() { banner_->hide(); }

QString MainWindow::message() const { return banner_->message(); }

void MainWindow::paintEvent(QPaintEvent* event) {
    QMainWindow::paintEvent(event);
    if (std::exchange(painted_, true)) return;
    // what the first picture can do without
    QTimer::singleShot(0, this, [this] {
        load_remaining_fonts();
        ledger_->show_all();
        outline_->show_all();
        for (Page* p : findChildren<Page*>()) p->complete();
        if (message().isEmpty()) offer_recovery(); // what opening a file had to say comes first
        setWindowIcon(QIcon(QStringLiteral(":/icons/fulmox.svg")));
    });
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!may_leave()) {
        event->ignore();
        return;
    }
    recovery_.forget();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() && event->mimeData()->urls().first().isLocalFile()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    if (!event->mimeData()->hasUrls() || !event->mimeData()->urls().first().isLocalFile()) return;
    const QString f = event->mimeData()->urls().first().toLocalFile();
    if (may_leave()) open_file(f);
}

} // namespace fulmox::app

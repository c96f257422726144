// The window: top bar, outline, page, ledger.
#pragma once

#include "app/background.h"
#include "app/banner.h"
#include "app/command_palette.h"
#include "app/document.h"
#include "app/outline.h"
#include "app/pages/registry.h"
#include "app/storage.h"

#include <QFileSystemWatcher>
#include <QMainWindow>
#include <QPointer>
#include <QTimer>
#include <array>

class QComboBox;
class QDialog;
class QLabel;
class QLineEdit;
class QMenu;
class QPushButton;
class QStackedWidget;
class QFrame;
class QScrollArea;
class QSplitter;
class QHBoxLayout;

namespace fulmox::app {

class CommandPalette;
class FirstAxis;
class Guide;
class Ledger;
class MachinePage;
class Page;
class PolicyEditor;

/// A project that has been read, or why it could not be; `file` empty: it has none.
struct Opening {
    Result<ProjectRead, QString> project;
    QString file;
};

class MainWindow : public QMainWindow {
    Q_OBJECT

  public:
    /// `recovery_folder` empty: the user's data folder. With a `first` project the window is built on it at once.
    explicit MainWindow(
        const QString& recovery_folder = {}, QWidget* parent = nullptr, std::optional<Opening> first = std::nullopt);
    ~MainWindow() override;

    Document& document() { return document_; }
    /// Opens a file, shows an error in the window if it cannot. True on success.
    bool open_file(const QString& file);
    bool open_project(Opening opening);
    void open_demo();
    /// Under the name somebody chose; without an ending it gets that of a project, and asks before it writes over one.
    bool save_under(QString file);
    bool save_to(const QString& file);
    void show_page(int page);
    /// A page and a tab of it, by their keys; false where the axis has none of this name.
    bool open_page(const char* page, const QString& tab = {});
    /// The same, and the focus goes into it.
    void focus_page(int page);
    enum class LedgerShown { whole, marks, hidden };
    void show_ledger(LedgerShown how);
    /// The guide at the page that is shown; Escape or its button closes it and gives the focus back.
    /// Offers the demo, an empty axis, or a first axis step by step, where somebody starts without a file.
    void offer_start();
    /// A new project, and the strip that leads through its axis.
    void begin_first_axis();
    void open_guide();
    void close_guide();
    /// Focus into the field at this JSON pointer, on whichever page it is.
    Q_INVOKABLE void go_to(const QString& path);
    void set_dark(bool dark);
    /// Opens the editor of the project's policies.
    void edit_policies();
    /// Opens the table of materials, and the quick sums.
    void edit_materials();
    void show_quick_sums();
    /// The quick report of the axis: as a PDF into this file, and on a printer that the dialog asks for.
    bool save_report(const QString& file);
    void print_report();
    /// All results and limits of every axis, as `assess --json` of the command line gives them; written beside the
    /// window, which then says where it is or what went wrong.
    void save_results(const QString& file);
    /// Copies the part of the page around the focus, or else the figures of the axis.
    void copy_here();
    /// Autosave now, rather than a moment after the last change.
    bool keep_now();
    enum class Leave { save, discard, stay };
    /// Asks what becomes of unsaved work; a test can answer for the user.
    std::function<Leave()> confirm_leave;
    /// Asks before a file that the file dialog did not ask about is written over.
    std::function<bool(const QString& file)> confirm_overwrite;
    /// Asks what becomes of a file that another program changed since it was opened.
    enum class Overwrite { over, elsewhere, stay };
    std::function<Overwrite(const QString& file)> confirm_changed;
    QString message() const;
    /// Looks whether another program has changed the open file, and says so.
    void look_at_file();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    void bring_into_view(QWidget* widget);
    void build_menus();
    QWidget* build_top_bar();
    void offer_recovery();
    void refresh_status();
    void refresh_policies();
    void show_message(const QString& text, const QString& action = {}, std::function<void()> act = {},
        const QString& other = {}, std::function<void()> act_other = {});
    void hide_message();
    void say_done(const QString& text);
    bool may_leave();
    void watch_file();
    void tell_of_file(const QString& file, const std::optional<QByteArray>& now);
    void claim_file();
    void say_what_was_found(const ProjectRead& project);
    bool save();
    bool save_as();
    void fill_recent(QMenu* menu);
    void fill_copies(QMenu* menu);
    void copy_section(const std::string& key);
    /// What the pages do and what can be copied, for the palette.
    std::vector<CommandPalette::Command> page_actions();
    Page* page(int index);
    MachinePage* machine_page();
    void place_ledger();
    bool guide_open() const;
    QString chapter() const;

    Document document_;
    Recovery recovery_;
    QTimer autosave_;
    QFileSystemWatcher watcher_;
    QTimer look_{this};
    std::optional<QByteArray> mark_; // what the open file held when it was opened, saved, or kept in spite of a change
    std::optional<QByteArray> told_; // what it held when that was last said
    QLabel* title_;
    QLabel* saved_;
    QComboBox* units_;
    QComboBox* policy_;
    CommandPalette* palette_;
    Banner* banner_;
    FirstAxis* first_axis_;
    QLabel* done_ = nullptr;
    QTimer done_timer_;
    Outline* outline_;
    QStackedWidget* stack_;
    QScrollArea* room_;
    QSplitter* split_;
    Guide* guide_ = nullptr; ///< made when it is first asked for
    MachinePage* machine_ = nullptr;
    QPointer<QWidget> before_guide_;
    std::optional<LedgerShown> ledger_wanted_;
    std::array<QAction*, 3> ledger_actions_{};
    int page_index_ = 0;
    std::vector<Page*> pages_{page_registry().size()};
    Ledger* ledger_;
    bool painted_ = false;
    QAction* dark_;
    PolicyEditor* policies_ = nullptr;
    QDialog* materials_ = nullptr;
    QDialog* sums_ = nullptr;
    Background<QByteArray> results_;
    Background<std::optional<QByteArray>> looking_;
};

} // namespace fulmox::app

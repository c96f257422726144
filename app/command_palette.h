// One line that finds any field, page, axis, part, file or command.
#pragma once

#include "app/document.h"

#include <QLineEdit>
#include <QPointer>
#include <functional>
#include <vector>

class QListWidget;

namespace fulmox::app {

/// Fields are found by the words on screen and by synonyms of the trade, and told apart by their place. Escape first
/// clears, then gives the focus back to where it came from.
class CommandPalette : public QLineEdit {
    Q_OBJECT

  public:
    struct Command {
        QString text;
        QString hint;
        std::function<void()> run;
        QString words{}; ///< of the trade, by which it is looked for besides
    };
    explicit CommandPalette(Document& document, QWidget* parent = nullptr);
    void add(Command command) { fixed_.push_back(std::move(command)); }
    /// Files that were open lately; a command opens one.
    void set_recent(std::function<std::vector<Command>()> recent) { recent_ = std::move(recent); }
    /// What can be put into the axis: motors of the catalogue.
    void set_parts(std::function<std::vector<Command>()> parts) { parts_ = std::move(parts); }
    /// What the pages do and what can be copied of the axis as it is now.
    void set_actions(std::function<std::vector<Command>()> actions) { actions_ = std::move(actions); }
    /// Where the focus was; Escape gives it back.
    void came_from(QWidget* widget) { before_ = widget; }
    /// Takes the keyboard, whatever stands there is typed over.
    void ask();
    int matches() const;
    const std::vector<Command>& found() const { return found_; }

  signals:
    void go_to(const QString& path);
    void axis_chosen(int axis);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;

  private:
    void search();
    void search_fields(const std::function<int(const QString&, const QString&)>& rank);
    void search_other_kinds(const std::function<int(const QString&, const QString&)>& rank);
    void offer(int rank, Command command);
    void show_found();
    void run_current();
    void close_list();
    void give_back();

    Document& document_;
    QListWidget* list_ = nullptr;
    QPointer<QWidget> before_; ///< had the focus
    std::vector<Command> fixed_;
    std::vector<Command> found_;
    std::vector<std::pair<int, Command>> ranked_;
    std::function<std::vector<Command>()> recent_, parts_, actions_;
};

/// Words by which people of the trade look for what is called `label` on screen; empty: none beside the label.
QString synonyms_of(const QString& label);

} // namespace fulmox::app

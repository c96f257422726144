// One line that finds any field, page or command.
#pragma once

#include "app/document.h"

#include <QLineEdit>
#include <functional>
#include <vector>

class QListWidget;

namespace fulmox::app {

class CommandPalette : public QLineEdit {
    Q_OBJECT

  public:
    struct Command {
        QString text;
        QString hint;
        std::function<void()> run;
    };
    explicit CommandPalette(Document& document, QWidget* parent = nullptr);
    void add(Command command) { fixed_.push_back(std::move(command)); }
    int matches() const;

  signals:
    void go_to(const QString& path);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;

  private:
    void search();
    void run_current();
    void close_list();

    Document& document_;
    QListWidget* list_ = nullptr;
    std::vector<Command> fixed_;
    std::vector<Command> found_;
};

} // namespace fulmox::app

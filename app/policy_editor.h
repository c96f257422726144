// The rules of acceptance of a project: copy one, change its shares, give it a name.
#pragma once

#include "app/document.h"
#include "app/forms/form.h"

#include <QDialog>
#include <QListWidget>
#include <QPushButton>

namespace fulmox::app {

/// Beside the window, not in its way: everything it changes is live and undoable.
class PolicyEditor : public QDialog {
    Q_OBJECT

  public:
    explicit PolicyEditor(Document& document, QWidget* parent = nullptr);
    void select(int index);

  private:
    void refresh();
    QString in_use_by(const std::string& name) const;

    Document& document_;
    QListWidget* list_;
    QPushButton* remove_;
    Form* form_;
    HelpStrip* help_;
};

} // namespace fulmox::app

// Mechanisms to choose from by looking, or by typing part of a name.
#pragma once

#include "app/document.h"

#include <QFrame>
#include <QLineEdit>
#include <QToolButton>
#include <vector>

namespace fulmox::app {

/// A pop-up with a picture of every mechanism; Enter takes the first that is left after typing.
class MechanismGallery : public QFrame {
    Q_OBJECT

  public:
    explicit MechanismGallery(Document& document, QWidget* parent = nullptr);
    void open_at(const QPoint& place);

  private:
    void filter(const QString& text);
    void take(int kind);

    Document& document_;
    QLineEdit* search_;
    std::vector<QToolButton*> buttons_;
};

/// Every mechanism as its plain struct, in the order of the kinds.
std::vector<Mechanism> all_mechanisms();

} // namespace fulmox::app

// A message over the page, with what can be done about it.
#pragma once

#include <QFrame>
#include <functional>

class QHBoxLayout;
class QLabel;

namespace fulmox::app {

class Banner : public QFrame {
    Q_OBJECT

  public:
    explicit Banner(QWidget* parent = nullptr);
    struct Choice {
        QString text;
        std::function<void()> act;
    };
    /// Without a choice it can only be closed.
    void show_message(const QString& text, const Choice& first = {}, const Choice& second = {});
    QString message() const; ///< empty while there is none

  private:
    QLabel* text_;
    QHBoxLayout* buttons_;
};

} // namespace fulmox::app

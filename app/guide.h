// The guide inside the window, at the page one is on, with a search of its own.
#pragma once

#include <QFrame>

class QLabel;
class QLineEdit;
class QTextBrowser;

namespace fulmox::app {

class Guide : public QFrame {
    Q_OBJECT

  public:
    explicit Guide(QWidget* parent = nullptr);
    /// Shows the chapter of this heading, or of none of this name the beginning, and takes the focus.
    void open_at(const QString& heading);
    /// Marks every place of these words and goes to the first, or to the next after the one that is shown.
    void find(const QString& words, bool next);
    int found() const { return found_; }
    QString text_in_view() const; ///< the paragraph at the top

  signals:
    void closed();

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void changeEvent(QEvent* event) override;

  private:
    void load();

    QLineEdit* search_;
    QLabel* count_;
    QTextBrowser* text_;
    int found_ = 0;
    bool loaded_ = false;
};

} // namespace fulmox::app

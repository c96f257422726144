// Why something is not shown, as a link to the field it waits for.
#pragma once

#include <QLabel>

namespace fulmox::app {

/// Asks the window of a widget to lead to a field.
void ask_to_go(QWidget* from, const QString& path);

class MissingLabel;
/// One that lies over a picture from its top on.
MissingLabel* cover_with_missing(QWidget* picture);

class MissingLabel : public QLabel {
    Q_OBJECT

  public:
    explicit MissingLabel(QWidget* parent = nullptr);
    /// `path`: JSON pointer of the field it waits for; empty: it leads nowhere. Hidden without words.
    void say(const QString& text, const QString& path = {});
    const QString& path() const { return path_; }
    /// Its colour is set by whoever shows it.
    void keep_colour() { text_colour_ = false; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    friend MissingLabel* cover_with_missing(QWidget* picture);
    void fill_width();
    bool covers_ = false;     ///< the top of its parent
    bool text_colour_ = true; ///< it says by its colour that it is a link
    QString path_;
};

} // namespace fulmox::app

// Why something is not shown, as a link to the field it waits for.
#pragma once

#include <QLabel>

namespace fulmox::app {

/// Asks the window of a widget to lead to a field.
void ask_to_go(QWidget* from, const QString& path);

class MissingLabel : public QLabel {
    Q_OBJECT

  public:
    explicit MissingLabel(QWidget* parent = nullptr);
    /// `path`: JSON pointer of the field it waits for; empty: it leads nowhere. Hidden without words.
    void say(const QString& text, const QString& path = {});
    const QString& path() const { return path_; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    QString path_;
};

/// One that lies over a picture from its top on.
MissingLabel* cover_with_missing(QWidget* picture);

} // namespace fulmox::app

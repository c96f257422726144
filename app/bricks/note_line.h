// A wrapped line of text with a coloured beginning that leads to a field.
#pragma once

#include <QColor>
#include <QTextLayout>
#include <QWidget>
#include <map>

namespace fulmox::app {

/// Lays its text out once per width; a QLabel with a link does so at every question about its size.
class NoteLine : public QWidget {
    Q_OBJECT

  public:
    explicit NoteLine(QWidget* parent = nullptr);
    /// `path` empty: it leads nowhere. Without a message the field stands alone.
    void show_note(const QString& field, const QString& message, const QString& path);
    const QString& path() const { return path_; }
    QString text() const { return text_; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override { return {200, 16}; } // the height follows the width
    QSize minimumSizeHint() const override { return {80, 16}; }

  signals:
    void activated(const QString& path);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void lay_out(int width) const;

    QString text_;
    QString path_;
    int link_length_ = 0;
    mutable QTextLayout layout_;
    mutable int laid_out_for_ = -1;
    mutable int height_ = 0;
    mutable std::map<int, int> heights_; ///< by width: layouts ask for several in turn
};

} // namespace fulmox::app

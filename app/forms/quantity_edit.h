// A line that takes arithmetic and units for one field of the document.
#pragma once

#include "app/document.h"

#include <QLineEdit>

namespace fulmox::app {

/// Keeps what is typed; wrong text stays until it is put right, is marked, and leaves the last good value in use. Up
/// and Down nudge (Shift ten times as much, Ctrl a tenth), Escape restores the good text from before.
class QuantityEdit : public QLineEdit {
    Q_OBJECT

  public:
    QuantityEdit(Document& document, QString path, QWidget* parent = nullptr);

    const QString& path() const { return path_; }
    void set_path(const QString& path) { path_ = path; }
    bool wrong() const { return !problem_.isEmpty(); }
    QString problem() const { return problem_; }

    /// Brings back the text from before the focus came in.
    void restore();
    /// Shows the document's value, or the text that waits to be put right.
    void refresh(const FieldRef& field);
    /// Shows the text that waits to be put right, if there is any.
    bool show_draft();

  signals:
    void problem_changed();
    void focused(const QString& path);
    void entered(); ///< Enter on a good text
    void left();
    /// Several cells came from the clipboard; only after `want_tables`.
    void table_pasted(const QString& text);

  public:
    /// From now on text of several cells is handed on instead of being typed.
    void want_tables() { wants_tables_ = true; }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void typed(const QString& text);
    void nudge(int steps, double size);
    void set_problem(const QString& problem);

    Document& document_;
    QString path_;
    QString before_; ///< good text when the focus came in
    QString problem_;
    bool typing_ = false;
    bool clicked_in_ = false; ///< the focus came by this press of the mouse
    bool wants_tables_ = false;

    bool paste_table();
};

} // namespace fulmox::app

// A line that takes arithmetic and units for one field of the document.
#pragma once

#include "app/document.h"

#include <QLineEdit>

namespace fulmox::app {

/// Keeps what is typed; wrong text stays, is marked, and leaves the last good value in use. Up and Down nudge (Shift
/// ten times as much, Ctrl a tenth), Escape restores the text from before.
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
    /// Shows the document's value, unless the user is in the middle of a text that cannot be read.
    void refresh(const FieldRef& field);

  signals:
    void problem_changed();
    void focused(const QString& path);
    void left();

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void typed(const QString& text);
    void nudge(int steps, double size);
    void set_problem(const QString& problem);

    Document& document_;
    QString path_;
    QString before_; ///< text when the focus came in
    QString problem_;
};

} // namespace fulmox::app

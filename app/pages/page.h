// A page of the outline: a question, a sentence, and its contents.
#pragma once

#include "app/forms/form.h"
#include "app/live.h"

#include <QWidget>

class QLabel;
class QScrollArea;
class QVBoxLayout;

namespace fulmox::app {

/// Puts the focus on what comes first in the order of the Tab key.
void focus_first(QWidget& within);

class Page : public LiveWidget {
    Q_OBJECT

  public:
    Page(Document& document, const QString& question, QWidget* parent = nullptr);

    void refresh() override;
    /// The size below which the page is scrolled.
    virtual QSize least() const { return {760, 600}; }
    /// What the first picture can do without: what lies below the fold. Called once after it, and by go_to.
    virtual void complete() {}
    /// Brings a tab to the front, by its key; false if the page or the axis has none of this name.
    virtual bool show_tab(const QString&) { return false; }
    /// Puts the focus into a field by its absolute path; false if it is not on this page.
    virtual bool go_to(const QString& path);
    /// Puts the focus where the work goes on: on the first value that is missing or wrong, else on whatever comes
    /// first.
    virtual void begin();
    /// Puts the focus where a list of the page is searched; false if it shows none.
    virtual bool search() { return false; }

  signals:
    void least_changed();
    void go_to_requested(const QString& path);
    void quick_sums_requested();

  protected:
    virtual QString sentence() const = 0;
    /// Inputs on the left, in a scroll area with the help strip below; what they mean on the right.
    void lay_out(const std::vector<QWidget*>& inputs, QWidget* meaning, int input_width = 398);
    void refresh_sentence();

    QVBoxLayout* body_;
    /// Brings a field of the input column into view.
    void show_input(const QString& path);

    HelpStrip* help_ = nullptr;
    QScrollArea* inputs_ = nullptr;
    std::vector<Form*> forms_;

  private:
    QLabel* sentence_;
};

} // namespace fulmox::app

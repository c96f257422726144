// The outline: the machine, its axes with their tightest limit, and the pages of the selected axis.
#pragma once

#include "app/document.h"

#include <QFrame>
#include <QPushButton>
#include <vector>

class QVBoxLayout;

namespace fulmox::app {

/// A line of the outline; draws state sign and figure on the right.
class OutlineItem : public QPushButton {
    Q_OBJECT

  public:
    explicit OutlineItem(const QString& text, QWidget* parent = nullptr);
    void set_state(LimitState state, const QString& figure);
    void set_number(int number) { number_ = number; }
    void set_accented(bool on) { accented_ = on; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<LimitState> state_;
    QString figure_;
    int number_ = 0;
    bool accented_ = false;
};

class Outline : public QFrame {
    Q_OBJECT

  public:
    explicit Outline(Document& document, QWidget* parent = nullptr);
    void set_page(int page);

    /// From now on every axis shows its tightest limit; before the first picture only the selected one does.
    void show_all() {
        all_ = true;
        refresh();
    }

  signals:
    void page_chosen(int page);

  private:
    void refresh();

    Document& document_;
    QVBoxLayout* axes_box_;
    std::vector<OutlineItem*> axes_;
    std::vector<OutlineItem*> pages_;
    int page_ = 0;
    bool all_ = false;
};

} // namespace fulmox::app

// The outline: the machine, its axes with their tightest limit, and the pages of the selected axis.
#pragma once

#include "app/live.h"

#include <QFrame>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <vector>

class QLabel;
class QVBoxLayout;

namespace fulmox::app {

/// A line of the outline; draws state sign and figure on the right, folded its number or sign alone.
class OutlineItem : public QPushButton {
    Q_OBJECT

  public:
    explicit OutlineItem(const QString& text, QWidget* parent = nullptr);
    void set_state(LimitState state, const QString& figure);
    void set_number(int number) { number_ = number; }
    void set_brief(const QString& brief) { brief_ = brief; } ///< shown where it is folded
    void set_accented(bool on) { accented_ = on; }
    void set_folded(bool on);
    /// It can be dragged up and down among its like.
    void set_movable(bool on) { movable_ = on; }

  signals:
    void dragged(int y, bool dropped); ///< in the coordinates of the parent
    void key(int which);               ///< F2, Delete, Alt with Up or Down

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    std::optional<LimitState> state_;
    QString figure_;
    QPoint pressed_;
    int number_ = 0;
    QString brief_;
    bool accented_ = false;
    bool folded_ = false;
    bool movable_ = false;
    bool dragging_ = false;
};

class Outline : public Live<QFrame> {
    Q_OBJECT

  public:
    static constexpr int machine_page = -1;

    explicit Outline(Document& document, QWidget* parent = nullptr);
    void set_page(int page);

    /// From now on every axis shows its tightest limit; before the first picture only the selected one does.
    void show_all() {
        all_ = true;
        refresh();
    }
    /// Numbers and marks alone, for small windows.
    void set_folded(bool on);
    bool folded() const { return folded_; }

    void add_axis();
    void duplicate_axis();
    void delete_axis();
    /// By that many places.
    void move_axis(int by);
    /// Opens the name of the selected axis for typing, where it stands.
    void rename_axis();

  signals:
    void page_chosen(int page);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void refresh() override;
    OutlineItem* make_item(int index);
    void move_to(int from, int to);
    void drag(int index, int y, bool dropped);
    void end_renaming(bool keep, bool focus = true);
    void show_current();

    QVBoxLayout* axes_box_;
    QScrollArea* scroll_;
    QWidget* axes_inner_;
    QFrame* mark_;                ///< where a dragged axis would come to stand
    QLineEdit* rename_ = nullptr; ///< while a name is typed
    int renamed_ = 0;             ///< the axis it is typed for
    OutlineItem* machine_;
    QPushButton* add_;
    std::vector<QLabel*> headings_;
    std::vector<OutlineItem*> axes_;
    std::vector<OutlineItem*> pages_;
    int page_ = 0;
    int shown_axis_ = -1;
    bool all_ = false;
    bool folded_ = false;
};

} // namespace fulmox::app

// The ledger of limits: always beside the page.
#pragma once

#include "app/background.h"
#include "app/clip.h"
#include "app/live.h"
#include "core/match/remedy.h"

#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <array>
#include <map>

class QScrollArea;
class QVBoxLayout;

namespace fulmox::app {

class NoteLine;

/// One limit: sign, name, value, bar with the policy's share marked. Enter, Space or a click opens its working.
class LimitRow : public QFrame, public Copyable {
    Q_OBJECT

  public:
    explicit LimitRow(QWidget* parent = nullptr);
    void show_limit(const Limit& limit, UnitSystem units);
    /// Defaults in place of empty fields that it needs, a line each.
    void name_stand_ins(const QStringList& lines) { stand_ins_ = lines; }
    /// `headroom` tells how far inputs may go; it is asked off the window's thread.
    struct Found {
        std::vector<QString> room;    ///< how far inputs may go
        std::optional<Remedy> remedy; ///< changes that bring it back together
    };
    void set_open(bool open, const std::function<Found(const StopToken&)>& headroom);
    bool is_open() const { return open_; }
    /// The mark alone.
    void set_folded(bool on);
    Table as_table() const override;
    const QString& key() const { return key_; }

  signals:
    void toggled(const QString& key);
    /// What is missing of it, or of `all` limits of its part, is accepted from now on, or no longer.
    void accepted(const QString& key, bool on, bool all);
    void change_wanted(const std::vector<Change>& changes);
    void go_to(const QString& path);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void make_details();
    void fill_details();
    void look_for_headroom();
    void offer_missing();
    void order_tabs();
    void offer_to_accept();
    void offer_change(bool coming);

    Limit limit_;
    QStringList stand_ins_;
    UnitSystem units_ = UnitSystem::si;
    QString key_;
    QLabel* details_ = nullptr; ///< it and the buttons are made when the row is first opened
    QVBoxLayout* missing_box_ = nullptr;
    std::vector<NoteLine*> missing_; ///< links to what is missing
    QPushButton *accept_ = nullptr, *accept_all_ = nullptr;
    QPushButton* change_ = nullptr; ///< makes the changes of the remedy
    std::function<Found(const StopToken&)> headroom_of_;
    Found found_;
    QTimer settled_{this}; // while somebody types the cores belong to what they watch
    bool open_ = false;
    bool folded_ = false;
    Background<Found> work_{std::chrono::milliseconds(3)};
};

/// How many limits fit, are tight, are over, cannot be said: each with its sign.
class CountLine : public QWidget {
  public:
    explicit CountLine(QWidget* parent = nullptr);
    void show_count(const LimitCount& n);
    void show_text(const QString& text); ///< where there is nothing to count

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    LimitCount count_;
    QString text_;
};

class Ledger : public Live<QFrame>, public Copyable {
    Q_OBJECT

  public:
    explicit Ledger(Document& document, QWidget* parent = nullptr);
    Table as_table() const override;
    void refresh() override;
    void open_row(const QString& key);
    /// Opens it, if it is not, and brings it into view with the keyboard.
    void show_row(const QString& key);
    /// A strip of marks and percentages, for small windows; a click asks for the whole.
    void set_folded(bool on);
    bool folded() const { return folded_; }
    /// Lists problems and cautions too; the window asks for them once the limits have been painted.
    void show_all();

  signals:
    void go_to(const QString& path);
    void unfold_wanted();

  private:
    void accept(const QString& key, bool on, bool all);
    void change(const std::vector<Change>& changes);
    void show_problems(const Problems& found);
    Problems with_drafts(const Problems& found) const;

    CountLine* counts_;
    QPushButton* order_;
    QLabel* title_;
    QWidget* problems_;
    QScrollArea* scroll_;
    QVBoxLayout* rows_box_;
    /// Problems of one severity, worst first.
    struct ProblemGroup {
        QVBoxLayout* box = nullptr;
        QLabel* heading = nullptr;
        QColor colour;
        std::vector<NoteLine*> lines;
    };
    std::array<ProblemGroup, 3> groups_;
    std::map<std::string, LimitRow*> rows_;
    QString open_;
    QString problems_shown_;
    bool by_kind_ = false;
    bool folded_ = false;
    bool all_ = false;
};

} // namespace fulmox::app

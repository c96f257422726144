// The parts of an axis as a row of cards; the one that is selected decides what stands below.
#pragma once

#include "app/live.h"

#include <QAbstractButton>
#include <QString>
#include <QWidget>
#include <vector>

namespace fulmox::app {

enum class CardOf { motor, gearhead, coupling, brake, drive, screw, precision };

/// Which card shows a limit.
CardOf card_of(std::string_view limit_key);

/// Whether the axis can have such a part.
bool has_card(const Axis& axis, CardOf card);

class PartCard : public QAbstractButton {
    Q_OBJECT

  public:
    PartCard(CardOf of, const QString& title, QWidget* parent = nullptr);
    CardOf of() const { return of_; }
    /// What it is called, and the tightest of its limits, in short where there is no room; `state` empty: none is
    /// judged.
    void set(const QString& name, const QString& brief, const QString& says, std::optional<LimitState> state);
    QString says() const { return says_; }
    QString part() const { return name_; }
    QSize sizeHint() const override { return {128, 58}; }
    QSize minimumSizeHint() const override { return {84, 58}; }

  signals:
    void opened(); ///< by the mouse or Enter: the work goes on in what it shows, where the arrows only look

  protected:
    void mouseReleaseEvent(QMouseEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    CardOf of_;
    QString title_, name_, says_, short_;
    std::optional<LimitState> state_;
};

class PartCards : public LiveWidget {
    Q_OBJECT

  public:
    explicit PartCards(Document& document, QWidget* parent = nullptr);
    CardOf current() const { return current_; }
    void select(CardOf of);
    /// The card, or null where the axis has no such part.
    PartCard* card(CardOf of) const;
    void refresh() override;

  signals:
    void selected();
    void opened();

  private:
    std::vector<PartCard*> cards_;
    CardOf current_ = CardOf::motor;
};

} // namespace fulmox::app

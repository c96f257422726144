// The parts of an axis as a row of cards; the one that is selected decides what stands below.
#pragma once

#include "app/live.h"

#include <QAbstractButton>
#include <QString>
#include <QWidget>
#include <vector>

namespace fulmox::app {

enum class CardOf { motor, gearhead, coupling, brake, drive, screw, precision };

/// The cards in their order, with words of the trade for them. Common practice, no source.
struct CardEntry {
    CardOf of;
    const char* title;
    const char* place; ///< of its part, below the axis
    const char* synonyms;
};
inline constexpr CardEntry card_entries[] = {
    {CardOf::motor, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Motor"), "/motor", "servo, stepper, catalogue"},
    {CardOf::gearhead, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Gearhead"), "/stages",
        "gearbox, reducer, transmission, planetary, strain wave, worm, bevel, ratio"},
    {CardOf::coupling, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Coupling"), "/coupling",
        "misalignment, bore, hub, alignment"},
    {CardOf::brake, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Brake"), "/brake",
        "holding, emergency, power failure"},
    {CardOf::drive, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Drive"), "/drive",
        "amplifier, inverter, servo drive, bus, overload"},
    {CardOf::screw, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Screw ends"), "/mechanism/ends",
        "bearings, journal, nut, buckling, critical speed"},
    {CardOf::precision, QT_TRANSLATE_NOOP("fulmox::app::PartCards", "Precision"), "/accuracy",
        "accuracy, error, backlash, stiffness, resonance, repeatability"}};

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

// The axis drawn from its numbers; every dimension leads to its field. When adding a mechanism: one `draw` overload.
#pragma once

#include "app/clip.h"
#include "app/live.h"
#include "app/schematic/canvas.h"

#include <QPixmap>
#include <QWidget>
#include <vector>

namespace fulmox::app {

class Schematic : public LiveWidget, public Copyable {
    Q_OBJECT

  public:
    explicit Schematic(Document& document, QWidget* parent = nullptr);
    /// The dimensions that are written on it.
    Table as_table() const override;
    void refresh() override { update(); }
    QSize sizeHint() const override { return {360, 330}; }
    QSize minimumSizeHint() const override { return {270, 190}; }

  signals:
    void go_to(const QString& path);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    std::vector<Hit> hits_;
};

/// A small picture of a kind of mechanism, without words, in the colours of the present theme.
QPixmap mechanism_picture(const Mechanism& mechanism, const QSize& size, double device_ratio);

void draw(Canvas& c, const Axis& axis, const Screw& s);
void draw(Canvas& c, const Axis& axis, const RackPinion& r);
void draw(Canvas& c, const Axis& axis, const BeltDrive& b);
void draw(Canvas& c, const Axis& axis, const LinearMotor& l);
void draw(Canvas& c, const Axis& axis, const FreeForm& f);
void draw(Canvas& c, const Axis& axis, const GivenDemand& g);
void draw(Canvas& c, const Axis& axis, const Conveyor& v);
void draw(Canvas& c, const Axis& axis, const FeedRolls& f);
void draw(Canvas& c, const Axis& axis, const Winder& w);
void draw(Canvas& c, const Axis& axis, const Hoist& h);
void draw(Canvas& c, const Axis& axis, const RotaryTable& t);
void draw(Canvas& c, const Axis& axis, const Arm& a);
void draw(Canvas& c, const Axis& axis, const SliderCrank& s);
void draw(Canvas& c, const Axis& axis, const ScotchYoke& s);
void draw(Canvas& c, const Axis& axis, const Fan& f);

} // namespace fulmox::app

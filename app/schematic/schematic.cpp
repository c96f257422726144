#include "app/schematic/schematic.h"

#include <QMouseEvent>

namespace fulmox::app {

Schematic::Schematic(Document& document, QWidget* parent) : LiveWidget(document, parent) {
    setMouseTracking(true);
    setAccessibleName(tr("Schematic of the axis; its dimensions are fields of the form"));
}

void Schematic::paintEvent(QPaintEvent*) {
    hits_.clear();
    if (!document_.has_axis()) return;
    const Assessment& a = document_.assessment();
    QPainter painter(this);
    Canvas c(painter, size(), false, a.motion ? a.motion->stroke() : 0, document_.machine().unit_system,
        document_.axis_path());
    const Axis& axis = document_.axis();
    std::visit([&](const auto& held) { draw(c, axis, held); }, axis.mechanism);
    c.place_labels();
    hits_ = std::move(c.hits);
    const QString said = c.said.join(QStringLiteral(", "));
    if (accessibleDescription() != said) setAccessibleDescription(said);
}

Table Schematic::as_table() const {
    Table t{"", {tr("dimension").toStdString()}, {}, {}};
    for (const QString& each : accessibleDescription().split(QStringLiteral(", "), Qt::SkipEmptyParts))
        t.rows.push_back({each.toStdString()});
    return t;
}

void Schematic::mousePressEvent(QMouseEvent* event) {
    for (const Hit& h : hits_)
        if (h.box.contains(event->position())) {
            const QString path = h.path; // the places are made again when another page is shown
            emit go_to(path);
            return;
        }
}

void Schematic::mouseMoveEvent(QMouseEvent* event) {
    bool over = false;
    for (const Hit& h : hits_) over = over || h.box.contains(event->position());
    setCursor(over ? Qt::PointingHandCursor : Qt::ArrowCursor);
}

QPixmap mechanism_picture(const Mechanism& mechanism, const QSize& size, double device_ratio) {
    QPixmap picture(size * device_ratio);
    picture.setDevicePixelRatio(device_ratio);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    // drawn at a readable size and shrunk
    constexpr double k = 0.42;
    painter.scale(k, k);
    const QSizeF large = QSizeF(size) / k;
    Canvas c(painter, large, true, 0, UnitSystem::si, {});
    Axis axis;
    axis.motor.name = "m";
    axis.mechanism = mechanism;
    std::visit([&](const auto& held) { draw(c, axis, held); }, mechanism);
    return picture;
}

} // namespace fulmox::app

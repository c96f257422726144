#include "app/sentence.h"

#include "app/words.h"
#include "core/quantity/format.h"

#include <QStringList>
#include <cmath>

namespace fulmox::app {

QString axis_sentence(Document& document) {
    const Axis& a = document.axis();
    const UnitSystem system = document.machine().unit_system;
    const Assessment& now = document.assessment();
    QStringList parts;
    const Motion motion = motion_of(a.mechanism);
    const bool carried = motion.has & Motion::payload;
    if (carried && a.load.payload.given()) {
        const std::vector<double> payloads =
            now.motion ? payloads_of(*now.motion, a.load.payload.si) : std::vector<double>{};
        double least = a.load.payload.si;
        double most = least;
        for (const double m : payloads) {
            least = std::min(least, m);
            most = std::max(most, m);
        }
        const double c = motion.has & Motion::carriage ? a.load.carriage_mass.value_or(0) : 0;
        const QString heavy = qs(format_quantity(c + most, Kind::mass, system));
        if (c + most > 0)
            parts << (least < most
                          ? QObject::tr("%1 to %2")
                                .arg(qs(format_number(from_si(c + least, display_unit(Kind::mass, system)))), heavy)
                          : heavy);
    }
    if (now.motion) {
        const double goes = std::max(now.motion->stroke(), std::abs(now.motion->advance));
        const Unit& unit = display_unit(motion_kind(Order::position, motion.rotary), system, goes);
        parts << QObject::tr("%1 in a cycle of %2")
                     .arg(qs(format_quantity(goes, unit)),
                         qs(format_quantity(now.motion->duration, Kind::time, system)));
    }
    if (const auto* s = std::get_if<Screw>(&a.mechanism); s && s->lead.given())
        parts << QObject::tr("%1 of %2 lead")
                     .arg(s->thread == Thread::ball          ? QObject::tr("ball screw")
                          : s->thread == Thread::trapezoidal ? QObject::tr("trapezoidal screw")
                                                             : QObject::tr("roller screw"),
                         qs(format_quantity(s->lead.si, Kind::length, system)));
    else
        parts << std::visit(
            [](const auto& held) { return QString::fromUtf8(std::decay_t<decltype(held)>::kind_label).toLower(); },
            a.mechanism);
    if ((motion.has & Motion::inclination) && a.load.inclination.given()) {
        const double g = a.load.inclination.si * 180 / 3.14159265358979323846;
        parts << (std::abs(g) < 0.5        ? QObject::tr("horizontal")
                  : std::abs(g - 90) < 0.5 ? QObject::tr("vertical")
                                           : QObject::tr("inclined %1°").arg(qs(format_number(g, 3))));
    }
    return parts.isEmpty() ? QObject::tr("Begin with what it carries: type masses, lead and diameter in any unit.")
                           : parts.join(QStringLiteral(", "));
}

} // namespace fulmox::app

#include "app/guide_chapters.h"

#include "app/bricks/note_line.h"
#include "app/ledger.h"
#include "app/results/figures.h"
#include "core/match/figures.h"
#include "core/match/limits.h"

#include <array>
#include <cstring>

namespace fulmox::app {

namespace {

struct Chapter {
    const char* place; ///< beginning of the place
    const char* heading;
};
// the longest that fits counts
constexpr Chapter chapters[] = {{"/", "What moves?"}, {"/site", "The machine"}, {"/surroundings", "The machine"},
    {"/operation", "The machine"}, {"/policies", "Limits and policies"}, {"/materials", "Bodies and inertia"},
    {"/accepted", "Missing and unknown values"}, {"/mechanism", "What moves?"}, {"/mechanism/ends", "Screw"},
    {"/load", "What moves?"}, {"/bodies", "Bodies and inertia"}, {"/stages", "Gearheads and stages"},
    {"/cycle", "How must it move?"}, {"/further_cycles", "How must it move?"}, {"/motor", "Enter a datasheet"},
    {"/motor/pictures", "Read a curve from a picture"}, {"/motor/housing", "Heat, energy and life"},
    {"/motor/thermal", "Heat, energy and life"}, {"/motor/brake", "Brake"}, {"/drive", "Drive and supply"},
    {"/coupling", "Coupling"}, {"/brake", "Brake"}, {"/accuracy", "Precision and stiffness"},
    {"/policy", "Limits and policies"}};

const char* heading_of(Section section) {
    switch (section) {
    case Section::motion:
        return "How must it move?";
    case Section::load:
        return "Bodies and inertia";
    case Section::demand:
        return "What does it take?";
    case Section::motor:
        return "What can drive it?";
    case Section::stepper:
        return "Steppers";
    case Section::heat:
        return "Heat, energy and life";
    case Section::stage:
        return "Gearheads and stages";
    case Section::coupling:
        return "Coupling";
    case Section::brake:
        return "Brake";
    case Section::drive:
        return "Drive and supply";
    case Section::precision:
        return "Precision and stiffness";
    case Section::screw:
        return "Screw";
    }
    return "Start here";
}

// "/coupling/bore" of "/axes/0/coupling/bore"; of the project's own the whole.
QString below_axis(const QString& path) {
    return path.startsWith(QLatin1String("/axes/")) ? QLatin1Char('/') + path.section(QLatin1Char('/'), 3) : path;
}

} // namespace

QString chapter_of_place(const QString& place) {
    const Chapter* best = nullptr;
    for (const Chapter& c : chapters)
        if (place.startsWith(QLatin1String(c.place)) && (!best || std::strlen(c.place) > std::strlen(best->place)))
            best = &c;
    return best ? QString::fromUtf8(best->heading) : QString();
}

QString chapter_of_key(const std::string& key) {
    if (const auto* row = limit_row(key)) return QString::fromUtf8(heading_of(row->section));
    if (const auto* row = figure_row(key)) return QString::fromUtf8(heading_of(row->section));
    return {};
}

QString chapter_of_widget(const QWidget* focus) {
    for (const QWidget* w = focus; w; w = w->parentWidget()) {
        if (const auto* limit = qobject_cast<const LimitRow*>(w)) return chapter_of_key(limit->key().toStdString());
        if (const auto* note = qobject_cast<const NoteLine*>(w)) return chapter_of_place(below_axis(note->path()));
        if (const auto* figures = qobject_cast<const FigureGroup*>(w))
            return chapter_of_key(figures->current_key().toStdString());
        if (w->objectName().startsWith(QLatin1Char('/'))) return chapter_of_place(below_axis(w->objectName()));
    }
    return {};
}

} // namespace fulmox::app

#include "core/quantity/text.h"

#include "core/quantity/format.h"

namespace fulmox {

std::string Text::in(UnitSystem system) const {
    std::string out;
    for (const Piece& p : pieces_) {
        const char* unit = system == UnitSystem::inch_pound ? p.inch_pound : p.si;
        if (!p.quantity)
            out += p.words;
        else if (*unit)
            out += format_quantity(p.value, *find_unit(unit, p.kind), p.digits);
        else
            out += format_quantity(p.value, p.kind, system, p.digits);
    }
    return out;
}

} // namespace fulmox

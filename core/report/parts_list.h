// The parts of all axes: how many of each, what they cost and weigh, and how many different ones are to be kept as
// spares.
#pragma once

#include "core/model/machine.h"

#include <string>
#include <vector>

namespace fulmox {

struct PartsRow {
    std::string kind; ///< "motor", "gearhead", "coupling", "brake", "drive", "adapter"
    std::string name; ///< empty: nobody named it; each of these stands alone
    std::string type; ///< "Gearhead, planetary"
    std::vector<std::string> axes;
    int count = 0;
    double price = 0;     ///< of one, in the project's currency; NaN where it is not given
    double mass = 0;      ///< kg of one; NaN
    bool differs = false; ///< parts of this name are not all alike
};

struct PartsTotal {
    int parts = 0, different = 0;
    double price = 0; ///< of those whose price is given
    int without_price = 0;
    double mass = 0; ///< kg, of those whose mass is given
    int without_mass = 0;
};

/// By kind, then in the order of the axes. A motor that cannot drive its axis, and parts of a shaft on a linear drive,
/// are left out.
std::vector<PartsRow> parts_list(const Machine& machine);
PartsTotal parts_total(const std::vector<PartsRow>& rows);

std::string parts_text(const Machine& machine);
std::string parts_json(const Machine& machine);
/// RFC 4180, a line of head.
std::string parts_csv(const Machine& machine);

} // namespace fulmox

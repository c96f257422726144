// A power supply as its sheet gives it. It feeds a group of axes, so that no axis holds one.
#pragma once

#include "core/model/provenance.h"

#include <string>

namespace fulmox {

enum class SupplyKind { switching, linear, rectifier };

struct Supply {
    std::string name;
    SupplyKind kind = SupplyKind::switching;
    Quantity<Kind::voltage> input_voltage; ///< RMS, of the mains
    Quantity<Kind::number> phases;         ///< of the mains
    Quantity<Kind::voltage> voltage;       ///< DC, at its output
    Quantity<Kind::number> tolerance;      ///< of the output
    Quantity<Kind::number> droop;          ///< from idle to its rating
    Quantity<Kind::current> current;       ///< DC, continuous
    Quantity<Kind::current> peak_current;
    Quantity<Kind::time> peak_time;
    Quantity<Kind::power> power;
    Quantity<Kind::number> efficiency;
    Quantity<Kind::capacitance> capacitance; ///< at its output
    Quantity<Kind::voltage> trip_voltage;    ///< at its output, beyond which it lets go
    Quantity<Kind::current> inrush_current;
    bool takes_back = false; ///< returns energy to the mains
    Quantity<Kind::mass> mass;
    Quantity<Kind::number> price;
    Listing provenance;
    Extra extra;

    bool operator==(const Supply&) const = default;

    static constexpr Option kinds[] = {{"switching", "Switching, regulated"},
        {"linear", "Transformer and rectifier, unregulated"}, {"rectifier", "Rectifier on the mains"}};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

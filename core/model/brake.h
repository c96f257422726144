// A holding brake on a shaft of the axis, beside one that the motor may have built in.
#pragma once

#include "core/model/coupling.h"
#include "core/model/field.h"
#include "core/model/provenance.h"

#include <string>

namespace fulmox {

/// What a brake does when it has to stop the axis; of a brake of its own and of one in the motor alike.
struct BrakeStopping {
    Quantity<Kind::torque> dynamic_torque; ///< while it slips
    Quantity<Kind::time> apply_time;       ///< from loss of voltage until it engages
    Quantity<Kind::time> release_time;
    Quantity<Kind::energy> stop_energy; ///< of one emergency stop
    bool operator==(const BrakeStopping&) const = default;

    /// Fields under these keys: the motor's carry a prefix.
    struct Keys {
        const char *dynamic_torque, *apply_time, *release_time, *stop_energy;
    };
    void describe(FieldVisitor& v, const Keys& keys, bool applies);
};

struct Brake {
    std::string name;
    bool in_place = false; ///< the axis has one: named, chosen or typed
    CouplingPlace place = CouplingPlace::motor;
    Quantity<Kind::torque> static_torque;
    Quantity<Kind::inertia> inertia;
    BrakeStopping stopping;
    Quantity<Kind::voltage> voltage;
    Quantity<Kind::power> power;
    Quantity<Kind::mass> mass;
    Quantity<Kind::number> price;
    Listing provenance;
    Extra extra;

    bool operator==(const Brake&) const = default;
    /// Set, or something of a brake is typed.
    bool there() const;

    void describe(FieldVisitor& v);
};

} // namespace fulmox

// The coupling between two shafts, and what sits at its ends.
#pragma once

#include "core/model/field.h"
#include "core/model/provenance.h"

#include <string>

namespace fulmox {

enum class CouplingPlace { motor, mechanism };
enum class CouplingKind { unsaid, disc, bellows, jaw, slit, oldham, sleeve };
enum class HubFastening { unsaid, clamp, set_screw };

struct Coupling {
    std::string name;
    bool in_place = false; ///< the axis has one: named, chosen or typed
    CouplingKind kind = CouplingKind::unsaid;
    CouplingPlace place = CouplingPlace::motor;
    Quantity<Kind::inertia> inertia;
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::number> service_factor{"1.5"};
    Quantity<Kind::angular_speed> top_speed;
    Quantity<Kind::torsional_stiffness> stiffness;
    Quantity<Kind::angle> backlash;
    HubFastening fastening = HubFastening::unsaid;
    Quantity<Kind::length> driving_bore;                ///< on the motor's side
    Quantity<Kind::length> driven_bore;                 ///< on the load's side
    Quantity<Kind::length> smallest_bore, largest_bore; ///< that its hubs can have
    Quantity<Kind::length> driven_shaft;                ///< diameter of the shaft on the load's side
    // what it allows, each alone, and what assembly holds
    Quantity<Kind::angle> angular_allowed, angular;
    Quantity<Kind::length> parallel_allowed, parallel;
    Quantity<Kind::length> axial_allowed, axial;
    Quantity<Kind::force> radial_load; ///< on the motor's shaft end
    Quantity<Kind::mass> mass;
    Quantity<Kind::number> price;
    Listing provenance;
    Extra extra;

    bool operator==(const Coupling&) const = default;
    /// Set, or something of a coupling is typed.
    bool there() const;

    static constexpr Option places[] = {{"motor", "motor shaft"}, {"mechanism", "mechanism shaft"}};
    static constexpr Option kinds[] = {{"", "not specified"}, {"disc", "disc"}, {"bellows", "bellows"},
        {"jaw", "jaw with elastomer"}, {"slit", "slit (helical beam)"}, {"oldham", "Oldham"},
        {"sleeve", "rigid sleeve"}};
    static constexpr Option fastenings[] = {{"", "not specified"}, {"clamp", "clamp"}, {"set_screw", "set screw"}};

    void describe(FieldVisitor& v);
};

} // namespace fulmox

// A transmission stage between the motor and the mechanism.
#pragma once

#include "core/model/field.h"
#include "core/model/provenance.h"

namespace fulmox {

enum class StageKind { planetary, belt, gears, strain_wave, worm, bevel, chain };

struct Stage {
    std::string name;
    StageKind kind = StageKind::planetary;
    Quantity<Kind::number> ratio;
    Quantity<Kind::inertia> inertia;
    Quantity<Kind::number> efficiency{"0.95"};
    Quantity<Kind::number> efficiency_back;
    Quantity<Kind::angle> lead_angle;     ///< of a worm; then both efficiencies follow from it
    Quantity<Kind::number> mesh_friction; ///< between worm and wheel
    // of its sheet: torques at the output, speeds at the input
    Quantity<Kind::torque> rated_torque;
    Quantity<Kind::number> exponent; ///< of its fatigue; not given: 3
    Quantity<Kind::torque> peak_torque;
    Quantity<Kind::torque> emergency_torque;
    Quantity<Kind::angular_speed> nominal_speed;
    Quantity<Kind::angular_speed> top_speed;
    Quantity<Kind::time> life;              ///< at rated torque and nominal speed
    Quantity<Kind::torque> no_load_torque;  ///< at the input
    Quantity<Kind::torque> stop_torque;     ///< at the output in an emergency stop, where it is known otherwise
    Quantity<Kind::number> emergency_stops; ///< permitted in its life
    Quantity<Kind::number> peak_share;      ///< of the peak torque left at this number of cycles an hour
    Quantity<Kind::torque> ratchet_torque;  ///< of a strain wave gear
    Quantity<Kind::angle> backlash;
    Quantity<Kind::torsional_stiffness> stiffness;    ///< at the output
    Quantity<Kind::force> radial_rating, radial_load; ///< at the output shaft
    Quantity<Kind::force> axial_rating, axial_load;
    Quantity<Kind::torque> tilting_rating, tilting_moment;
    Quantity<Kind::length> input_bore, output_shaft;
    Quantity<Kind::length> pilot, bolt_circle; ///< of the motor it takes
    std::string adapter;                       ///< between its flange and the motor's
    bool turns_back = false;                   ///< the output turns the other way
    Quantity<Kind::mass> mass;
    Quantity<Kind::number> price;
    Listing provenance;
    Extra extra;
    bool operator==(const Stage&) const = default;

    static constexpr Option kinds[] = {{"gearhead", "Gearhead, planetary"}, {"belt", "Belt reduction"},
        {"gears", "Gear pair"}, {"strain_wave", "Strain wave gear"}, {"worm", "Worm gear"}, {"bevel", "Bevel gear"},
        {"chain", "Chain reduction"}};

    /// The efficiency is that of a worm by its lead angle γ: tan γ/tan(γ + ρ) driving, tan(γ − ρ)/tan γ back, with
    /// tan ρ = μ/cos 20°, the pressure angle of worms. Source: as of screws, Shigley, from memory.
    bool by_lead() const { return kind == StageKind::worm && lead_angle.given(); }
    double driving() const; ///< from the motor to the load, at the rated torque
    double back() const;    ///< of a worm by its lead; needs `by_lead`

    /// Its sheet gives something the cycle is held against.
    bool has_sheet() const {
        return rated_torque.given() || peak_torque.given() || emergency_torque.given() || nominal_speed.given() ||
               top_speed.given() || (kind == StageKind::strain_wave && ratchet_torque.given());
    }

    void describe(FieldVisitor& v);
};

} // namespace fulmox

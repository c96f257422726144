// Screws.
#pragma once

#include "core/model/field.h"
#include "core/model/mechanisms/screw_ends.h"

#include <vector>

namespace fulmox {

enum class Thread { ball, trapezoidal, roller };
enum class ScrewTurns { screw, nut };
/// From where the growth of a warm screw counts: its fixed bearing, or the start of the stroke where it was referenced
/// warm.
enum class GrowthFrom { bearing, reference };
enum class EndFixity { fixed_free, supported_supported, fixed_supported, fixed_fixed };

/// A load of a spectrum.
struct LoadShare {
    Quantity<Kind::force> force;
    Quantity<Kind::angular_speed> speed;
    Quantity<Kind::number> share; ///< of the time
    Extra extra;
    bool operator==(const LoadShare&) const = default;

    void describe(FieldVisitor& v);
};

/// Ball, trapezoidal or planetary roller screw; the screw turns, or the nut does and travels with the carriage.
struct Screw {
    static constexpr const char* kind_key = "screw";
    static constexpr const char* kind_label = "Screw";

    Thread thread = Thread::ball;
    ScrewTurns turns = ScrewTurns::screw;
    Quantity<Kind::inertia> nut_inertia;
    Quantity<Kind::length> lead;
    Quantity<Kind::number> starts;
    Quantity<Kind::length> pitch;
    Quantity<Kind::length> diameter;
    Quantity<Kind::length> root_diameter;
    Quantity<Kind::length> pitch_diameter;
    Quantity<Kind::length> length;
    EndFixity fixity = EndFixity::fixed_supported;
    Quantity<Kind::length> free_length;
    Quantity<Kind::length> loaded_length;
    Quantity<Kind::number> efficiency;
    Quantity<Kind::number> efficiency_back;
    Quantity<Kind::number> thread_friction{"0.005"};
    Quantity<Kind::angle> flank_half_angle{"15 deg"};
    Quantity<Kind::number> collar_friction;
    Quantity<Kind::length> collar_diameter;
    Quantity<Kind::force> nut_preload;
    Quantity<Kind::torque> preload_drag;
    Quantity<Kind::torque> bearing_drag;
    Quantity<Kind::speed> speed_value;
    Quantity<Kind::stiffness> nut_stiffness;                 ///< axial
    Quantity<Kind::stiffness> bearing_stiffness;             ///< axial, of the fixed end
    Quantity<Kind::length> lead_error;                       ///< ±, over 300 mm
    Quantity<Kind::temperature_difference> temperature_rise; ///< over its guide
    GrowthFrom growth_from = GrowthFrom::bearing;
    Quantity<Kind::force> dynamic_rating; ///< C
    Quantity<Kind::force> static_rating;  ///< C_0a
    Quantity<Kind::time> life_asked;
    std::vector<LoadShare> spectrum;         ///< in place of the cycle, for its life
    Quantity<Kind::pressure> yield_strength; ///< for Johnson's parabola
    ScrewEnds ends;
    NutBody nut_body; ///< where the nut turns
    Quantity<Kind::density> density{"7850 kg/m³"};
    Quantity<Kind::pressure> elastic_modulus{"206 GPa"};
    Quantity<Kind::pressure> shear_modulus; ///< not given: E/2.6, steel with Poisson's ratio 0.3
    Extra extra;

    bool operator==(const Screw&) const = default;

    static constexpr Option threads[] = {
        {"ball", "Ball screw"}, {"trapezoidal", "Trapezoidal or Acme"}, {"roller", "Planetary roller"}};
    static constexpr Option growths[] = {{"bearing", "the fixed bearing"}, {"reference", "the reference, warm"}};
    static constexpr Option turning[] = {{"screw", "the screw turns"}, {"nut", "the nut turns"}};
    static constexpr Motion motion{false, false, false,
        Motion::carriage | Motion::guides | Motion::inclination | Motion::payload | Motion::counterweight};
    static constexpr Option fixities[] = {{"fixed_free", "fixed – free"},
        {"supported_supported", "supported – supported"}, {"fixed_supported", "fixed – supported"},
        {"fixed_fixed", "fixed – fixed"}};

    void describe(FieldVisitor& v);
};

/// Pitch of a sliding thread, m: as given, else lead/starts; NaN where neither is known.
inline double thread_pitch(const Screw& s) { return s.pitch.given() ? s.pitch.si : s.lead.si / s.starts.si; }

/// Pitch diameter, m: as given; else of a sliding thread the outer diameter less half a pitch (ISO 2904), NaN where the
/// pitch is not known; else the mean of outer and root, or the outer where no root is given.
inline double pitch_diameter(const Screw& s) {
    if (s.pitch_diameter.given()) return s.pitch_diameter.si;
    if (s.thread == Thread::trapezoidal) return s.diameter.si - thread_pitch(s) / 2;
    return s.root_diameter.given() ? (s.diameter.si + s.root_diameter.si) / 2 : s.diameter.si;
}

} // namespace fulmox

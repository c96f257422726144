#include "core/model/stage.h"

#include "core/model/visitor.h"

#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

double friction_angle(double friction) { return std::atan(friction / std::cos(20 * std::numbers::pi / 180)); }

} // namespace

double Stage::driving() const {
    if (!by_lead()) return efficiency.si;
    return std::tan(lead_angle.si) / std::tan(lead_angle.si + friction_angle(mesh_friction.si));
}

double Stage::back() const {
    return std::tan(lead_angle.si - friction_angle(mesh_friction.si)) / std::tan(lead_angle.si);
}

void Stage::describe(FieldVisitor& v) {
    v.text(name, {"name", "Stage", "What it is."});
    v.choice(kind, {"type", "Type", kinds, "For the drawing and the record; the arithmetic is the same.", true, true,
                       Motion::shaft, need::record});
    v.quantity(ratio, {.key = "ratio",
                          .label = "Ratio",
                          .unit = "1",
                          .range = {0, 1e5, true},
                          .typical = {0.05, 500},
                          .help = "Input speed over output speed; 5 makes the motor turn five times as fast.",
                          .symbol = "i",
                          .needs = Motion::shaft,
                          .serves = need::travel});
    v.quantity(inertia, {.key = "inertia",
                            .label = "Inertia at its input",
                            .unit = "kg·cm²",
                            .range = {0, 1e10},
                            .help = "Gearhead sheets give it there; of a belt stage the sum reflected to the "
                                    "motor side. Counts with the load.",
                            .required = false,
                            .if_empty = left_empty::zero("none"),
                            .symbol = "J_s",
                            .needs = Motion::shaft,
                            .serves = need::inertia});
    v.quantity(efficiency, {.key = "efficiency",
                               .label = "Efficiency, driving",
                               .unit = "1",
                               .range = {0, 1, true},
                               .typical = kind == StageKind::worm          ? Range{0.2, 0.95}
                                          : kind == StageKind::strain_wave ? Range{0.5, 0.9}
                                                                           : Range{0.8, 1},
                               .help = "From the motor to the load.",
                               .symbol = "η_f",
                               .applies = !by_lead(),
                               .needs = Motion::shaft,
                               .serves = need::force});
    v.quantity(efficiency_back,
        {.key = "efficiency_back",
            .label = "Efficiency, back",
            .unit = "1",
            .range = {-5, 1},
            .help = "From the load to the motor. Zero or negative: self-locking, as worm gears can be.",
            .required = false,
            .if_empty = left_empty::stands_in("2 − 1/η"),
            .rare = true,
            .symbol = "η_b",
            .applies = !by_lead(),
            .needs = Motion::shaft,
            .serves = need::force});
    QuantitySpec worm = optional_quantity("lead_angle", "Lead angle of the worm", "deg", 60,
        "Both efficiencies follow from it and from the friction of the mesh.",
        left_empty::stands_in("efficiency as given"), "γ_w", need::force);
    worm.rare = true;
    worm.needs = Motion::shaft;
    worm.applies = kind == StageKind::worm;
    v.quantity(lead_angle, worm);
    worm = optional_quantity("mesh_friction", "Friction of the mesh", "1", 0.5,
        "Steel on bronze 0.02 to 0.1, less the faster it slides.", left_empty::unknown("not known"), "μ_w",
        need::force);
    worm.source = "common practice, no source";
    worm.needs = Motion::shaft;
    worm.required = worm.applies = by_lead();
    worm.typical = {0.01, 0.15};
    v.quantity(mesh_friction, worm);
    // few belts and open gears have a sheet
    const bool rare = kind == StageKind::belt || kind == StageKind::gears || kind == StageKind::chain;
    const auto sheet = [&](const char* key, const char* label, const char* unit, double most, const char* help,
                           const char* symbol) {
        QuantitySpec spec = optional_quantity(
            key, label, unit, most, help, left_empty::unknown("cannot be judged"), symbol, need::stage);
        spec.rare = rare;
        spec.needs = Motion::shaft;
        return spec;
    };
    QuantitySpec q = sheet("rated_torque", "Rated torque", "N·m", 1e8,
        "At the output, for its whole life; held against the equivalent torque of the cycle, since fatigue counts here "
        "and not heat.",
        "T_2N");
    if (no_load_torque.given()) q.serves |= need::force; // the efficiency is that at the rated torque then
    v.quantity(rated_torque, q);
    q = sheet("exponent", "Exponent of fatigue", "1", 20,
        "3 for ball bearings (cubic mean), 10/3 for roller bearings, 6.6 and more for hardened teeth; what the maker "
        "says comes first.",
        "q");
    q.range = {1, 20};
    q.source = "ISO 281 (bearings); teeth: common practice, no source";
    q.if_empty = left_empty::stands_in("3");
    q.rare = true;
    q.applies = rated_torque.given();
    v.quantity(exponent, q);
    v.quantity(peak_torque,
        sheet("peak_torque", "Peak torque", "N·m", 1e8,
            "At the output, as often as the cycle asks for it: acceleration torque of the sheet.", "T_2B"));
    v.quantity(emergency_torque,
        sheet("emergency_torque", "Emergency torque", "N·m", 1e8,
            "At the output in an emergency stop, a permitted number of times in its life, often 1000.", "T_2E"));
    v.quantity(nominal_speed, sheet("nominal_speed", "Nominal input speed", "rpm", 1e6,
                                  "Mean speed at the input that its lubrication and life allow.", "n_1N"));
    v.quantity(top_speed, sheet("top_speed", "Highest input speed", "rpm", 1e6, "For a moment.", "n_1m"));
    q = sheet("life", "Life at its ratings", "h", 1e7,
        "At rated torque and nominal speed; 20 000 h is usual for a planetary gearhead.", "L_N");
    q.if_empty = left_empty::not_asked("not shown");
    q.rare = true;
    q.applies = rated_torque.given() && nominal_speed.given();
    v.quantity(life, q);
    const auto more = [&](const char* key, const char* label, const char* unit, double most, const char* help,
                          const IfEmpty& if_empty, const char* symbol, need::Bits serves) {
        QuantitySpec spec = optional_quantity(key, label, unit, most, help, if_empty, symbol, serves);
        spec.rare = true;
        spec.needs = Motion::shaft;
        return spec;
    };
    q = more("no_load_torque", "No-load torque", "N·m", 1e6,
        "At the input, whatever the load. With a rated torque the efficiency is then that at the rated torque, and "
        "less "
        "below it.",
        left_empty::zero("none"), "T_0", need::force);
    q.range.open_min = false;
    v.quantity(no_load_torque, q);
    q = more("stop_torque", "Emergency stop, as known", "N·m", 1e8,
        "At its output in an emergency stop, where it is measured or told: in place of what the stop comes to.",
        left_empty::stands_in("from the emergency stop"), "T_2S", need::stage);
    q.applies = emergency_torque.given() || ratchet_torque.given();
    v.quantity(stop_torque, q);
    q = more("emergency_stops", "Emergency stops permitted", "1", 1e9, "At the emergency torque, in its life.",
        left_empty::not_asked("not judged"), "N_2E", need::stage);
    q.applies = emergency_torque.given();
    v.quantity(emergency_stops, q);
    q = more("peak_share", "Peak torque left", "%", 100,
        "Share of the peak torque that the sheet leaves at this number of cycles an hour, often less above 1000.",
        left_empty::stands_in("all of it"), "k_c", need::stage);
    q.applies = peak_torque.given();
    v.quantity(peak_share, q);
    q = more("ratchet_torque", "Ratcheting torque", "N·m", 1e8, "At which its teeth jump.",
        left_empty::not_asked("not judged"), "T_r", need::stage);
    q.applies = kind == StageKind::strain_wave;
    v.quantity(ratchet_torque, q);
    q = more("backlash", "Backlash", "arcmin", 1e4, "From stop to stop, at the output.",
        left_empty::unknown("not known"), "φ_2", need::precision);
    q.range.open_min = false;
    v.quantity(backlash, q);
    v.quantity(stiffness, more("stiffness", "Torsional stiffness", "N·m/arcmin", 1e9, "At the output.",
                              left_empty::unknown("rigid"), "C_2", need::stiffness));
    const auto side = [&](const char* key, const char* label, const char* unit, const char* help,
                          const IfEmpty& if_empty, const char* symbol) {
        return more(key, label, unit, 1e8, help, if_empty, symbol, need::stage_load);
    };
    v.quantity(radial_rating, side("radial_rating", "Radial load, allowed", "N", "At the middle of the output shaft.",
                                  left_empty::not_asked("not judged"), "F_2R"));
    q = side("radial_load", "Radial load", "N", "On the output shaft: belt, pinion, weight.",
        left_empty::unknown("not known"), "F_r");
    q.applies = radial_rating.given();
    q.range.open_min = false;
    v.quantity(radial_load, q);
    v.quantity(axial_rating, side("axial_rating", "Axial load, allowed", "N", "On the output shaft.",
                                 left_empty::not_asked("not judged"), "F_2A"));
    q = side("axial_load", "Axial load", "N", "On the output shaft.", left_empty::unknown("not known"), "F_a");
    q.applies = axial_rating.given();
    q.range.open_min = false;
    v.quantity(axial_load, q);
    v.quantity(tilting_rating, side("tilting_rating", "Tilting moment, allowed", "N·m", "Of the output bearing.",
                                   left_empty::not_asked("not judged"), "M_2K"));
    q = side(
        "tilting_moment", "Tilting moment", "N·m", "On the output bearing.", left_empty::unknown("not known"), "M_t");
    q.applies = tilting_rating.given();
    q.range.open_min = false;
    v.quantity(tilting_moment, q);
    const auto fit = [&](const char* key, const char* label, const char* help, const char* symbol,
                         const IfEmpty& if_empty = left_empty::not_asked("not checked")) {
        return more(key, label, "mm", 2000, help, if_empty, symbol, need::coupling_fit);
    };
    v.quantity(input_bore, fit("input_bore", "Input bore", "For the shaft of the motor.", "d_1"));
    v.quantity(
        output_shaft, fit("output_shaft", "Output shaft", "Its diameter.", "d_2", left_empty::unknown("not known")));
    v.quantity(pilot, fit("pilot", "Pilot", "Of the motor flange it takes.", "d_p"));
    v.quantity(bolt_circle, fit("bolt_circle", "Bolt circle", "Of the motor flange it takes.", "d_b"));
    v.text(adapter, {"adapter", "Adapter", "Between its flange and the motor's, where they do not mate."});
    v.flag(turns_back,
        {"turns_back", "Output turns the other way", "As of a gear pair or a strain wave gear.", Motion::shaft});
    describe_trade(v, mass, price, provenance);
}

} // namespace fulmox

#include "core/model/stage.h"

#include "core/model/visitor.h"

namespace fulmox {

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
                            .if_empty = "none",
                            .symbol = "J_s",
                            .needs = Motion::shaft,
                            .serves = need::inertia});
    v.quantity(efficiency, {.key = "efficiency",
                               .label = "Efficiency, driving",
                               .unit = "1",
                               .range = {0, 1, true},
                               .typical = {0.3, 1},
                               .help = "From the motor to the load.",
                               .symbol = "η_f",
                               .needs = Motion::shaft,
                               .serves = need::force});
    v.quantity(efficiency_back,
        {.key = "efficiency_back",
            .label = "Efficiency, back",
            .unit = "1",
            .range = {-5, 1},
            .help = "From the load to the motor. Zero or negative: self-locking, as worm gears can be.",
            .required = false,
            .if_empty = "2 − 1/η",
            .rare = true,
            .symbol = "η_b",
            .needs = Motion::shaft,
            .serves = need::force});
    // few belts and open gears have a sheet
    const bool rare = kind != StageKind::gearhead;
    const auto sheet = [&](const char* key, const char* label, const char* unit, double most, const char* help,
                           const char* symbol) {
        QuantitySpec spec = optional_quantity(key, label, unit, most, help, "cannot be judged", symbol, need::stage);
        spec.rare = rare;
        spec.needs = Motion::shaft;
        return spec;
    };
    v.quantity(rated_torque, sheet("rated_torque", "Rated torque", "N·m", 1e8,
                                 "At the output, for its whole life; held against the equivalent torque of the cycle, "
                                 "since fatigue counts here and not heat.",
                                 "T_2N"));
    QuantitySpec q = sheet("exponent", "Exponent of fatigue", "1", 20,
        "3 for ball bearings (cubic mean), 10/3 for roller bearings, 6.6 and more for hardened teeth; what the maker "
        "says comes first.",
        "q");
    q.range = {1, 20};
    q.source = "ISO 281 (bearings); teeth: common practice, no source";
    q.if_empty = "3";
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
    q.if_empty = "not shown";
    q.rare = true;
    q.applies = rated_torque.given() && nominal_speed.given();
    v.quantity(life, q);
}

} // namespace fulmox

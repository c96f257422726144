#include "core/model/brake.h"

#include "core/model/visitor.h"

namespace fulmox {

void BrakeStopping::describe(FieldVisitor& v, const Keys& keys, bool applies) {
    const auto of_stop = [&](QuantitySpec spec) {
        spec.rare = true;
        spec.applies = applies;
        spec.needs = Motion::shaft;
        return spec;
    };
    v.quantity(dynamic_torque, of_stop(optional_quantity(keys.dynamic_torque, "Brake torque, slipping", "N·m", 1e7,
                                   "What it stops with; often less than what it holds.",
                                   left_empty::stands_in("the holding torque"), "T_Bd", need::brake_stop)));
    QuantitySpec time = of_stop(optional_quantity(keys.apply_time, "Brake applies after", "s", 100,
        "From loss of voltage until it engages; meanwhile the axis runs on or falls.", left_empty::unknown("not known"),
        "t_B", need::brake_stop));
    time.range.open_min = false;
    v.quantity(apply_time, time);
    time.key = keys.release_time;
    time.label = "Brake releases after";
    time.help = "From voltage until it is free; no move before.";
    time.if_empty = left_empty::not_asked("not shown");
    time.symbol = "t_Br";
    time.serves = need::record;
    v.quantity(release_time, time);
    v.quantity(stop_energy, of_stop(optional_quantity(keys.stop_energy, "Brake energy per stop", "J", 1e9,
                                "What it may turn into heat in one emergency stop. A holding brake takes few of them.",
                                left_empty::unknown("cannot be judged"), "W_B", need::brake_stop)));
}

bool Brake::there() const {
    return in_place || !name.empty() ||
           any_typed({&static_torque, &mass, &price}); // the others are asked for once there is one
}

void Brake::describe(FieldVisitor& v) {
    v.text(name, {"name", "Brake", "What it is."});
    v.flag(in_place, in_place_spec);
    v.quantity(static_torque, [] {
        QuantitySpec s = optional_quantity("static_torque", "Brake torque", "N·m", 1e7,
            "Static holding torque, spring-applied; in addition to that of a brake in the motor.",
            left_empty::unknown("cannot be judged"), "T_Bs", need::motor_brake);
        s.needs = Motion::shaft;
        return s;
    }());
    v.choice(place, {"place", "Brake sits on", Coupling::places,
                        "On the mechanism's shaft it holds even where gearhead or coupling break.", true, there(),
                        Motion::shaft, need::motor_brake | need::inertia | need::brake_stop});
    v.quantity(inertia, {.key = "inertia",
                            .label = "Brake inertia",
                            .unit = "kg·cm²",
                            .range = {0, 1e8},
                            .help = "Of its rotor. On the motor's shaft it counts with the rotor, else with the load.",
                            .required = false,
                            .if_empty = left_empty::zero("none"),
                            .symbol = "J_Bs",
                            .applies = there(),
                            .needs = Motion::shaft,
                            .serves = need::inertia | need::rotor});
    stopping.describe(v, {"dynamic_torque", "apply_time", "release_time", "stop_energy"}, there());
    const auto kept = [&](QuantitySpec s) {
        s.rare = true;
        s.applies = there();
        s.needs = Motion::shaft;
        return s;
    };
    v.quantity(voltage, kept(optional_quantity("voltage", "Coil voltage", "V", 1000, "Of its supply.",
                            left_empty::not_asked("not shown"), "U_B", need::record)));
    v.quantity(power, kept(optional_quantity("power", "Coil power", "W", 1e5, "While it is released.",
                          left_empty::not_asked("not shown"), "P_B", need::record)));
    describe_trade(v, mass, price, provenance);
}

} // namespace fulmox

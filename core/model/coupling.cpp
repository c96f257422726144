#include "core/model/coupling.h"

#include "core/model/visitor.h"

namespace fulmox {

bool Coupling::there() const {
    return in_place || !name.empty() || kind != CouplingKind::unsaid || fastening != HubFastening::unsaid ||
           any_typed({&inertia, &rated_torque, &top_speed, &stiffness, &backlash, &driving_bore, &driven_bore,
               &smallest_bore, &largest_bore, &angular_allowed, &parallel_allowed, &axial_allowed, &mass, &price});
}

void Coupling::describe(FieldVisitor& v) {
    const auto at_shaft = [](QuantitySpec spec, bool rare = false) {
        spec.needs = Motion::shaft;
        spec.rare = rare;
        return spec;
    };
    v.text(name, {"name", "Coupling", "What it is."});
    v.flag(in_place, in_place_spec);
    v.choice(kind,
        {"type", "Coupling type", kinds, "Stiff ones want alignment, soft ones wind up. The torque is judged alike.",
            true, true, Motion::shaft, need::record});
    v.choice(place, {"place", "Sits on", places, "With a reduction between them the two turn at different speeds.",
                        true, true, Motion::shaft, need::force | need::coupling | need::coupling_fit});
    v.quantity(inertia, {.key = "inertia",
                            .label = "Coupling inertia",
                            .unit = "kg·cm²",
                            .range = {0, 1e8},
                            .help = "Whole coupling, both hubs. Often 1–2 % of the total; people ask.",
                            .required = false,
                            .if_empty = left_empty::zero("none"),
                            .symbol = "J_k",
                            .needs = Motion::shaft,
                            .serves = need::inertia});
    v.quantity(rated_torque, at_shaft(optional_quantity("allowable_torque", "Allowable torque", "N·m", 1e7,
                                 "The largest torque it may see for an instant. It is held against the "
                                 "instantaneous maximum, never against the rated torque of the motor.",
                                 left_empty::unknown("cannot be judged"), "T_k", need::coupling)));
    v.quantity(service_factor, {.key = "service_factor",
                                   .label = "Service factor",
                                   .unit = "1",
                                   .range = {1, 10},
                                   .typical = {1, 4},
                                   .help = "1 for smooth moves, 1.5 for reversing, 2 and more for shocks.",
                                   .source = "common practice, no source",
                                   .rare = true,
                                   .symbol = "K",
                                   .applies = rated_torque.given(),
                                   .needs = Motion::shaft,
                                   .serves = need::coupling});
    v.quantity(
        top_speed, at_shaft(optional_quantity("top_speed", "Coupling top speed", "rpm", 1e6, "As balanced and bored.",
                       left_empty::unknown("cannot be judged"), "n_k", need::coupling_speed)));
    v.quantity(
        stiffness, at_shaft(optional_quantity("stiffness", "Coupling stiffness", "N·m/rad", 1e9,
                       "Torsional, of the whole coupling.", left_empty::unknown("rigid"), "C_k", need::stiffness)));
    QuantitySpec play = at_shaft(optional_quantity("backlash", "Coupling backlash", "arcmin", 1e4,
                                     "From stop to stop. A jaw under preload has next to none.",
                                     left_empty::unknown("not known"), "φ_k", need::precision),
        true);
    play.range.open_min = false;
    v.quantity(backlash, play);
    v.choice(fastening, {"fastening", "Hubs held by", fastenings, "Clamping holds better and does not mark the shaft.",
                            true, true, Motion::shaft, need::record});
    const auto bore = [&](const char* key, const char* label, const char* help, const char* symbol,
                          const IfEmpty& if_empty = left_empty::unknown("not known")) {
        return at_shaft(optional_quantity(key, label, "mm", 1000, help, if_empty, symbol, need::coupling_fit), true);
    };
    constexpr IfEmpty not_checked = left_empty::not_asked("not checked");
    v.quantity(driving_bore,
        bore("driving_bore", "Bore, motor side", "Of the hub on the side of the motor.", "d_k1", not_checked));
    v.quantity(driven_bore,
        bore("driven_bore", "Bore, load side", "Of the hub on the side of the load.", "d_k2", not_checked));
    v.quantity(smallest_bore, bore("smallest_bore", "Bores from", "The smallest its hubs can have.", "d_k,min"));
    v.quantity(largest_bore, bore("largest_bore", "Bores up to", "The largest its hubs can have.", "d_k,max"));
    v.quantity(driven_shaft, bore("driven_shaft", "Shaft, load side",
                                 "Journal of the screw, input shaft of the gearhead. Equal diameters save a special "
                                 "coupling.",
                                 "d_2"));
    const auto align = [&](const char* key, const char* label, const char* unit, const char* help, const char* symbol) {
        return at_shaft(
            optional_quantity(key, label, unit, 1000, help, left_empty::unknown("not known"), symbol, need::alignment),
            true);
    };
    const auto held = [&](const char* key, const char* label, const char* unit, const char* help, const char* symbol) {
        QuantitySpec s = align(key, label, unit, help, symbol);
        s.range.open_min = false;
        return s;
    };
    v.quantity(angular_allowed,
        align("angular_allowed", "Angular, allowed", "deg", "Permitted when it is the only misalignment.", "α_k"));
    v.quantity(angular, held("angular", "Angular, as assembled", "deg", "What assembly will hold.", "α"));
    v.quantity(parallel_allowed,
        align("parallel_allowed", "Parallel, allowed", "mm", "Permitted when it is the only misalignment.", "r_k"));
    v.quantity(parallel, held("parallel", "Parallel, as assembled", "mm", "What assembly will hold.", "r"));
    v.quantity(axial_allowed,
        align("axial_allowed", "Axial, allowed", "mm", "Permitted when it is the only misalignment.", "a_k"));
    v.quantity(axial, held("axial", "Axial, as assembled", "mm", "Growth of a warm screw with it.", "a"));
    v.quantity(radial_load, {.key = "radial_load",
                                .label = "Radial load on the shaft",
                                .unit = "N",
                                .range = {0, 1e6, true},
                                .help = "On the bearing at the motor's shaft end, as of a belt; for its life.",
                                .required = false,
                                .if_empty = left_empty::unknown("not given"),
                                .rare = true,
                                .symbol = "P_r",
                                .needs = Motion::shaft,
                                .serves = need::life});
    describe_trade(v, mass, price, provenance);
}

} // namespace fulmox

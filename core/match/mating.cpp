#include "core/match/mating.h"

#include "core/quantity/not_finite.h"

#include <cmath>

namespace fulmox {

namespace {

// no coupling stands between the motor and the first stage
bool mates_motor(const Axis& axis) { return !axis.coupling.there() || axis.coupling.place != CouplingPlace::motor; }

} // namespace

Shaft driving_shaft(const Axis& axis) {
    static const Quantity<Kind::length> none;
    if (axis.stages.empty() || axis.coupling.place == CouplingPlace::motor)
        return {axis.driven() ? axis.motor.shaft_diameter : none, {"/motor/shaft_diameter", "shaft of the motor"}};
    const std::size_t last = axis.stages.size() - 1;
    return {axis.stages[last].output_shaft,
        {"/stages/" + std::to_string(last) + "/output_shaft", "output shaft of the last stage"}};
}

Shaft driven_shaft(const Axis& axis) {
    return {axis.coupling.driven_shaft, {"/coupling/driven_shaft", "shaft on the load's side of the coupling"}};
}

double Mating::apart() const { return std::abs(has - wants); }

std::vector<Mating> coupling_fits(const Axis& axis) {
    std::vector<Mating> out;
    const auto add = [&](const char* what, const QuantityBase& bore, const Shaft& shaft) {
        if (bore.given())
            out.push_back({what, bore.si, shaft.diameter.si, shaft.diameter.given() ? Missing{} : shaft.missing});
    };
    add("bore on the motor's side", axis.coupling.driving_bore, driving_shaft(axis));
    add("bore on the load's side", axis.coupling.driven_bore, driven_shaft(axis));
    return out;
}

std::vector<Mating> stage_fits(const Axis& axis) {
    std::vector<Mating> out;
    for (std::size_t k = 0; k < axis.stages.size(); ++k) {
        const Stage& s = axis.stages[k];
        const std::string name = s.name.empty() ? "stage " + std::to_string(k + 1) : s.name;
        const auto add = [&](const char* what, const QuantityBase& has, const QuantityBase* wants, Missing missing) {
            if (!has.given()) return;
            const bool given = wants && wants->given();
            out.push_back(
                {name + ", " + what, has.si, given ? wants->si : no_number, given ? Missing{} : std::move(missing)});
        };
        if (k > 0) {
            add("input bore and shaft before it", s.input_bore, &axis.stages[k - 1].output_shaft,
                {"/stages/" + std::to_string(k - 1) + "/output_shaft", "output shaft of the stage before it"});
            continue;
        }
        if (!mates_motor(axis)) continue;
        const Motor* motor = axis.driven() ? &axis.motor : nullptr;
        add("input bore and shaft of the motor", s.input_bore, motor ? &motor->shaft_diameter : nullptr,
            {"/motor/shaft_diameter", "shaft of the motor"});
        if (!s.adapter.empty()) continue;
        add("pilot", s.pilot, motor ? &motor->pilot : nullptr, {"/motor/pilot", "pilot of the motor"});
        add("bolt circle", s.bolt_circle, motor ? &motor->bolt_circle : nullptr,
            {"/motor/bolt_circle", "bolt circle of the motor"});
    }
    return out;
}

Misalignment misalignment(const Coupling& c) {
    Misalignment out;
    const auto add = [&](const QuantityBase& has, const QuantityBase& may, const std::string& name) {
        if (!may.given())
            out.missing.push_back({"/coupling/" + name + "_allowed", name + " allowance of the coupling"});
        if (!has.given()) out.missing.push_back({"/coupling/" + name, "actual " + name + " misalignment"});
        if (may.given() && has.given()) out.sum += has.si / may.si;
    };
    add(c.angular, c.angular_allowed, "angular");
    add(c.parallel, c.parallel_allowed, "parallel");
    add(c.axial, c.axial_allowed, "axial");
    return out;
}

} // namespace fulmox

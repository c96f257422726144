#include "core/match/rows/axis_facts.h"

#include <algorithm>

namespace fulmox {

bool always(In) { return true; }
bool turns(In in) { return !in.words.direct; }
bool has_motor(In in) { return in.axis.driven(); }
bool has_rotor(In in) { return has_motor(in) && turns(in); }
bool inertia_given(In in) { return load_known(in.axis); }
bool has_servo_drive(In in) { return has_motor(in) && in.axis.has_drive() && !in.axis.motor.stepper(); }

const Capability* known_peak(In in) {
    return in.waiting.blocks(need::peak_curve | need::voltage) ? nullptr : in.results.can.get();
}

const char* motor_missing(In in) {
    if (in.axis.motor.empty()) return "no motor selected";
    return in.words.direct ? "a motor that turns cannot drive it; a linear motor can"
                           : "a linear motor cannot turn a shaft";
}

Missing no_constant(In in) {
    return in.axis.motor.linear()
               ? Missing{"/motor/electric/force_constant", "force or voltage constant of the motor"}
               : Missing{"/motor/electric/torque_constant", "torque or voltage constant of the motor"};
}

std::vector<Missing> lacks_of_model(In in) {
    std::vector<Missing> out;
    if (!in.state.motor || !in.state.motor->can.model) return out;
    for (const char* key : in.state.motor->can.model->left_out()) {
        std::string name = key;
        std::replace(name.begin(), name.end(), '_', ' ');
        out.push_back({std::string("/motor/electric/") + key, name + " of the motor"});
    }
    return out;
}

} // namespace fulmox

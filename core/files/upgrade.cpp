#include "core/files/upgrade.h"

namespace fulmox {

namespace {

// Version 1 kept the bus voltage at the axis and had no stop time, coupling group or dwell brake.
void from_1_to_2(JsonDocument& d) {
    if (!d.root.contains("axes") || !d.root["axes"].is_array()) return;
    std::size_t i = 0;
    for (Json& axis : d.root["axes"]) {
        const std::string path = "/axes/" + std::to_string(i++);
        if (!axis.is_object()) continue;
        if (!axis.contains("drive")) axis["drive"] = Json::object();
        if (!axis["drive"].is_object()) continue;
        if (axis.contains("bus_voltage")) {
            axis["drive"]["bus_voltage"] = axis["bus_voltage"];
            d.lines[path + "/drive/bus_voltage"] = d.line(path + "/bus_voltage");
            axis.erase("bus_voltage");
        }
        if (!axis.contains("coupling")) axis["coupling"] = Json{{"service_factor", "1.5"}};
        if (axis.contains("coupling_inertia")) {
            axis["coupling"]["inertia"] = axis["coupling_inertia"];
            d.lines[path + "/coupling/inertia"] = d.line(path + "/coupling_inertia");
            axis.erase("coupling_inertia");
        }
    }
}

// Until version 5 a motor had its torque constant and resistance beside its curves: per RMS ampere and between two
// terminals, as of a sine-driven motor, which they all were.
void motor_from_5(JsonDocument& d, Json& motor, const std::string& path) {
    if (!motor.is_object() || motor.contains("electric")) return;
    Json electric{{"kind", "sine"}};
    for (const char* key : {"torque_constant", "resistance"}) {
        if (!motor.contains(key)) continue;
        electric[key] = motor[key];
        d.lines[path + "/electric/" + key] = d.line(path + "/" + key);
        motor.erase(key);
    }
    if (electric.size() > 1) motor["electric"] = electric;
}

void from_5_to_6(JsonDocument& d) {
    upgrade_motors(d);
    if (!d.root.contains("axes") || !d.root["axes"].is_array()) return;
    std::size_t i = 0;
    for (Json& axis : d.root["axes"]) {
        const std::string path = "/axes/" + std::to_string(i++);
        if (axis.is_object() && axis.contains("motor")) motor_from_5(d, axis["motor"], path + "/motor");
    }
}

} // namespace

void upgrade_motors(JsonDocument& d) {
    if (!d.root.contains("motors") || !d.root["motors"].is_array()) return;
    std::size_t i = 0;
    for (Json& motor : d.root["motors"]) motor_from_5(d, motor, "/motors/" + std::to_string(i++));
}

void upgrade(JsonDocument& d, int version) {
    if (version < 2) from_1_to_2(d);
    if (version < 6) from_5_to_6(d);
    // version 3 only adds: mechanisms, segment kinds, bodies, stages, materials. So does 4: starts, pitch and pitch
    // diameter of a screw, the speed of the point method, own motors. A trapezoidal thread waits for its starts or its
    // pitch: they stand nowhere in an older file, and taking the lead for the pitch was an error. Version 5 adds
    // further cycles: an older axis has the one. Version 7 adds what is in place, accepted unknowns, the shear modulus
    // of a screw and from where its growth counts; a part of which something is typed is in place in an older file too.
}

} // namespace fulmox

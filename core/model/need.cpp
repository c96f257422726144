#include "core/model/need.h"

#include <utility>

namespace fulmox::need {

std::vector<std::string> names(Bits needs) {
    static constexpr std::pair<Bits, const char*> all[]{{cycle, "cycle"}, {travel, "travel"}, {inertia, "inertia"},
        {force, "force"}, {losses, "losses"}, {thread, "thread"}, {rotor, "rotor"}, {riding_mass, "riding_mass"},
        {peak_curve, "peak_curve"}, {continuous_curve, "continuous_curve"}, {voltage, "voltage"},
        {top_speed, "top_speed"}, {surroundings, "surroundings"}, {temperatures, "temperatures"}, {current, "current"},
        {resistance, "resistance"}, {motor_brake, "motor_brake"}, {coupling, "coupling"}, {bending, "bending"},
        {buckling, "buckling"}, {ball_return, "ball_return"}, {stop, "stop"}, {motor_shaft, "motor_shaft"},
        {ratio_inertia, "ratio_inertia"}, {pulses, "pulses"}, {pull_in, "pull_in"}, {stage, "stage"},
        {thermal, "thermal"}, {energy, "energy"}, {life, "life"}, {coupling_fit, "coupling_fit"},
        {alignment, "alignment"}, {coupling_speed, "coupling_speed"}, {brake_stop, "brake_stop"},
        {drive_overload, "drive_overload"}, {drive_window, "drive_window"}, {stiffness, "stiffness"},
        {precision, "precision"}, {stage_load, "stage_load"}, {interface, "interface"}, {screw_life, "screw_life"}};
    std::vector<std::string> out;
    for (const auto& [bit, name] : all)
        if (needs & bit) out.emplace_back(name);
    return out;
}

} // namespace fulmox::need

// Which input moves the demand most, and what each law would make of a move.
#pragma once

#include "core/model/machine.h"

#include <functional>
#include <string>
#include <vector>

namespace fulmox {

enum class Measure { rms_torque, peak_torque };

/// One input moved down and up: by its own tolerance where it has one, else by a tenth.
struct Influence {
    std::string path;  ///< JSON pointer
    std::string label; ///< "Payload"
    std::string moved; ///< "± 10 %", or the tolerance as a quantity
    double low = 0;    ///< SI, the measure with the input moved down
    double high = 0;   ///< with the input moved up
    double swing() const { return low < high ? high - low : low - high; }
};

/// Every input of load, mechanism, bodies, stages, cycle, site and rotor that changes the measure, largest swing first.
/// A value that would leave its permitted range stays. Empty where the axis has errors.
/// `go_on` is asked between two inputs; told no, it returns what it has.
std::vector<Influence> influences(
    const Machine& machine, std::size_t axis, Measure measure, const std::function<bool()>& go_on = {});

struct LawRow {
    Law law = Law::trapezoid;
    double peak_speed = 0;        ///< m/s or rad/s, within the move
    double peak_acceleration = 0; ///< m/s² or rad/s²
    double jerk = 0;              ///< infinite where the acceleration jumps
    double peak_torque = 0;       ///< N·m over the whole cycle, magnitude
    double rms_torque = 0;        ///< N·m over the whole cycle
    bool chosen = false;
};

/// The same cycle with this segment under every law; empty unless it is a move in a time on an axis free of errors.
/// The trapezoid keeps the shares and the rounding of the segment.
std::vector<LawRow> compare_laws(
    const Machine& machine, std::size_t axis, std::size_t segment, const std::function<bool()>& go_on = {});

} // namespace fulmox

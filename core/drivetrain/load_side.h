// Inertia and static torque of the load at a place of the cycle, seen from a shaft; no friction, no efficiency.
#pragma once

#include "core/demand/demand.h"

namespace fulmox {

class LoadSide {
  public:
    /// From the mechanism's shaft, else from the motor's.
    LoadSide(const LoadModel& m, bool at_mechanism) : m_(m), slower_(at_mechanism ? 1 : m.ratio) {
        if (at_mechanism) return;
        beside_ = m.motor_side;
        double faster = 1;
        for (const StageModel& s : m.stages) {
            beside_ += s.inertia / (faster * faster);
            faster *= s.ratio;
        }
    }
    /// kg·m² of everything but the rotor and, seen from the mechanism, what lies before it.
    double inertia(double q, double payload) const {
        double ring = 0, radius = m_.radius;
        if (m_.path == LoadModel::Path::winder) {
            const double r = m_.roll_radius(m_.web_start + m_.web_sign * q), core = m_.core_radius;
            ring = m_.wound * (r * r * r * r - core * core * core * core);
            radius = 1;
        } else if (m_.path != LoadModel::Path::straight) {
            radius = path_at(m_, q).first;
        }
        const double own =
            (m_.moving_mass + payload * m_.payload_inertia + ring) * radius * radius + m_.own_inertia + m_.told_inertia;
        return own / (slower_ * slower_) + beside_;
    }
    /// N·m it takes to hold the load there, signed.
    double external(double q, double payload, double process) const {
        return holding_torque(m_, q, payload, process, false) * m_.ratio / slower_;
    }

  private:
    const LoadModel& m_;
    double slower_, beside_ = 0;
};

} // namespace fulmox

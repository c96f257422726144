// Fatigue life of a ball or roller screw under the cycle, or under a spectrum of loads that is typed.
#pragma once

#include "core/demand/demand.h"

namespace fulmox {

/// L₁₀ = (C/F_m)³ 10⁶ revolutions with F_m = (∫|F|³|n| dt/∫|n| dt)^(1/3), weighted by revolutions. Source: ISO 3408-5,
/// from memory; that of a nut under preload is that of its two halves, F_1 = F_pr (1 + F/(2√2 F_pr))^(3/2) and
/// F_1 − F up to the load 2√2 F_pr that lifts one half off, with (L_1^(−10/9) + L_2^(−10/9))^(−9/10).
struct ScrewLife {
    double mean_load = 0;   ///< N, F_m of the load alone; 0 where it never turns
    double mean_speed = 0;  ///< rad/s of the nut against the screw, over the whole time, standstill included
    double revolutions = 0; ///< infinite where it never turns or carries nothing; NaN without a dynamic load rating
    double hours = 0;       ///< h
    double travel = 0;      ///< m
    bool preloaded = false;
    bool typed = false; ///< by the spectrum and not by the cycle
};

/// `d` the demand of the axis; not used, and may be null, where a spectrum is typed.
ScrewLife screw_life(const Screw& s, const Demand* d);

} // namespace fulmox

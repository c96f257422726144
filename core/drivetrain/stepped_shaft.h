// First bending speed of a shaft of several diameters on its bearings.
#pragma once

#include <vector>

namespace fulmox {

/// A stretch of one diameter, m.
struct ShaftStretch {
    double length, diameter;
};
/// Where the shaft cannot leave its line, m from its beginning; a clamped place cannot turn out of it either.
struct ShaftSupport {
    double at;
    bool clamped;
};

/// First bending frequency, rad/s, of the whole shaft, overhanging ends included; E in Pa, density in kg/m³.
/// Exact for Euler–Bernoulli beams: dynamic stiffness of each stretch, the root found by the count of Wittrick and
/// Williams, so that none is missed. Infinite without mass; NaN where lengths or diameters are not positive, or
/// where the supports leave the shaft free to move.
/// Source: W. H. Wittrick and F. W. Williams, "A general algorithm for computing natural frequencies of elastic
/// structures", Quarterly Journal of Mechanics and Applied Mathematics 24, 1971.
double bending_frequency(const std::vector<ShaftStretch>& shaft, const std::vector<ShaftSupport>& supports,
    double elastic_modulus, double density);

} // namespace fulmox

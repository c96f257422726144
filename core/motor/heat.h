// How hot a winding gets over a cycle.
//
// One body, or two (winding and housing), against the ambient; copper loss grows with the winding's temperature by
// IEC 60034-1 and with the square of the current that weaker magnets ask for. Over each stretch of the cycle the loss
// is linear in the temperatures, so that it is gone through exactly; the periodic state follows from one turn of the
// cycle. Iron and friction heat the housing where there are two bodies. Magnets are as warm as the housing, or as the
// winding of one body. Source: heat balance of lumped bodies; IEC 60034-1 for copper.
#pragma once

#include <array>
#include <limits>
#include <string>
#include <vector>

namespace fulmox {

/// A motor as bodies that take up heat. Temperatures °C, K/W, s. Losses may be in watts or in any other unit, as long
/// as the resistances go with it.
struct ThermalMotor {
    static constexpr double unknown = std::numeric_limits<double>::quiet_NaN();

    double resistance = unknown;            ///< winding to ambient
    double winding_resistance = 0;          ///< the part of it from winding to housing; 0: one body
    double time_constant = unknown;         ///< of the housing with its part of the resistance, or of the one body
    double winding_time_constant = unknown; ///< of the winding against its housing, or of the one body
    double ambient = 25;
    double limit = 155;    ///< of the winding
    double flux_fall = 0;  ///< per kelvin of the magnets, of a current that follows the load
    double reference = 20; ///< °C of winding and magnets for which copper losses are given

    bool two_bodies() const { return winding_resistance > 0; }
    /// Time constants are there, so that more than means can be said.
    bool knows_times() const;
    /// The winding's own is.
    bool knows_winding() const;
};

/// A stretch of the cycle.
struct HeatStretch {
    double lasts = 0;  ///< s
    double copper = 0; ///< mean loss at the reference temperature
    double other = 0;  ///< mean of iron and friction
};

/// Temperatures of one state, °C.
struct Temperatures {
    double winding = 0, housing = 0;
};

struct SteadyHeat {
    bool settles = true; ///< else loss and temperature drive each other up: runaway
    Temperatures mean;
    double copper = 0, other = 0; ///< mean losses there
    // NaN without time constants
    double highest = ThermalMotor::unknown, lowest = ThermalMotor::unknown; ///< winding, of the steady ripple
    double housing_highest = ThermalMotor::unknown, housing_lowest = ThermalMotor::unknown;
    double after_first = ThermalMotor::unknown;   ///< winding after the first cycle from cold
    double time_to_limit = ThermalMotor::unknown; ///< s from cold; infinite: never
};

/// The periodic steady state of this cycle, from cold.
SteadyHeat steady_heat(const ThermalMotor& m, const std::vector<HeatStretch>& cycle);

/// By what the RMS of the copper losses' cause (torque or current) may be multiplied, and how hot it is then.
struct GreatestLoad {
    double factor = 0;
    double winding = 0; ///< °C
};
/// That still settles; infinite temperature where it is approached and never reached.
GreatestLoad greatest_that_settles(const ThermalMotor& m, double copper, double other);
/// That stays within the winding limit in the mean; factor 0 where speed alone takes all.
GreatestLoad greatest_within_limit(const ThermalMotor& m, double copper, double other);

/// s until the winding is at its limit at `ratio` times the continuous torque, after running at a mean square ratio of
/// `prior`; infinite for ratios up to 1. τ ln((r² − h)/(r² − 1)) of one body; of two by their exact response. Losses
/// are those of the hot motor. NaN without a time constant.
double overload_time(const ThermalMotor& m, double ratio, double prior);

} // namespace fulmox

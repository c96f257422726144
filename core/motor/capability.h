// What the motor can give at the actual bus voltage, ambient and altitude.
#pragma once

#include "core/demand/demand.h"
#include "core/model/machine.h"
#include "core/motor/model.h"

#include <algorithm>
#include <array>
#include <limits>
#include <vector>

namespace fulmox {

/// Torque over speed through datasheet points: monotone cubic (PCHIP of Boost.Math with its end slopes) for four
/// points and more, straight lines for fewer. Never extrapolated: 0 beyond the last point.
class SpeedTorqueCurve {
  public:
    SpeedTorqueCurve() = default;
    /// Speeds rad/s rising from 0, torques N·m; at least two points. The scales stretch the axes.
    SpeedTorqueCurve(const std::vector<CurvePoint>& points, double speed_scale, double torque_scale = 1);
    SpeedTorqueCurve(std::vector<double> speeds, std::vector<double> torques);

    double at(double speed) const { return std::min(cap_, uncapped(speed)); } ///< N·m at |speed|
    double uncapped(double speed) const;                                      ///< without what `limit` takes
    /// Nowhere more than this from now on, N·m.
    void limit(double most) { cap_ = std::min(cap_, most); }
    bool empty() const { return speeds_.empty(); }
    double end() const { return speeds_.empty() ? 0 : speeds_.back(); } ///< last speed, rad/s
    double stall() const { return torques_.empty() ? 0 : std::min(cap_, torques_.front()); }
    const std::vector<double>& speeds() const { return speeds_; }
    /// Least torque between two speeds, 0 ≤ slow ≤ fast; the curve is monotone between its points.
    double least(double slow, double fast) const;
    bool knot_between(double slow, double fast) const;
    /// Speeds between its points at which it passes this torque, rad/s.
    std::vector<double> crossings(double torque) const;

  private:
    void fit();
    std::size_t stretch(double speed) const; // where a speed lies
    std::vector<double> speeds_;
    std::vector<double> torques_;
    double cap_ = std::numeric_limits<double>::infinity();
    std::vector<std::array<double, 4>> cubics_; // from each point on, of the speed beyond it
};

struct Capability {
    SpeedTorqueCurve peak; ///< at the actual bus: the sheet's curve with its speeds scaled (estimate), or the model's
    SpeedTorqueCurve braking;    ///< what the motor may brake with, by the model; empty: as `peak`
    SpeedTorqueCurve continuous; ///< as the sheet has it, or the model's at this heat, bus and drive
    double max_speed = 0;        ///< rad/s: mechanical limit or end of the peak curve, whichever is lower
    double mechanical_speed = 0; ///< rad/s
    double heat_factor = 1;      ///< permitted heat over rated heat, from ambient, altitude and the motor's derating
    double speed_scale = 1;      ///< bus voltage over curve voltage; of a stepper by its current as well
    double torque_scale = 1;     ///< of a stepper's curve: current as set over that of the curve
    double torque_cap = std::numeric_limits<double>::infinity(); ///< N·m (N), what the drive leaves of the peak
    BoundBy capped_by = BoundBy::unknown;
    bool peak_by_model = false, continuous_by_model = false; ///< else by points of the sheet
    std::optional<ElectricModel> model;                      ///< by the constants, where the sheet gives one

    /// T_c'(ω) = √(T_c(ω)² − (1 − f) T_c(0)²), never below zero, never above the peak curve; where the curve lies above
    /// its standstill torque √f T_c(ω), since more is not proven.
    double continuous_at(double speed) const;
    /// Its square as the sheet's curve and ambient and altitude make it, N²·m²; negative where speed alone takes more.
    double copper_heat(double speed) const {
        const double stall = continuous.stall(), now = continuous.at(speed);
        return now * now - (1 - heat_factor) * std::max(stall * stall, now * now);
    }
    /// Continuous torque at standstill, T_c(0) √f.
    double continuous_stall() const;
    /// What the motor may give at this speed in the direction of this torque.
    double peak_at(double speed, bool brakes) const {
        return brakes && !braking.empty() ? braking.at(speed) : peak.at(speed);
    }
    /// The same with what bounds it; by points of the sheet without its currents.
    TorqueBound peak_with_bound(double speed, bool brakes) const;
    /// Why it may not give more.
    BoundBy peak_bound(double speed, bool brakes) const;
};

/// `motor` must be free of errors.
Capability capability(const Motor& motor, const Drive& drive, const Site& site);

/// How the demand uses the motor.
struct MotorUse {
    Capability can;
    ShaftPoint worst_peak;         ///< where |T| over the peak curve is largest
    double worst_peak_allowed = 0; ///< peak curve there, N·m
    double worst_peak_use = 0;     ///< |T|/allowed; infinite beyond the curve
    // the loss method: what heats the copper, and the mean of what may be lost in copper at each instant's speed
    double heat_torque = 0;  ///< N·m, T_rms; by the model the torque at rest that heats the copper as much
    double heat_left = 0;    ///< N²·m², mean of T_c'(ω)²; negative where speed alone takes more than is permitted
    double heat_allowed = 0; ///< N·m, √ of it, not below 0; NaN beyond the continuous curve
    double speed_heat = 0;   ///< N²·m², by a sheet's curve the mean of what T_c(0)² − T_c(ω)² has above 0
    /// heat_torque/heat_allowed; infinite where nothing is left, NaN beyond the curve.
    double heat_use() const;
    double point_at_mean = 0; ///< continuous torque at the mean speed; NaN beyond the curve
    double point_at_rms = 0;  ///< the same at the RMS speed
    double rms_current = 0;   ///< A RMS of the line (A of the DC link), hot; NaN without a constant
    double peak_current = 0;  ///< the largest over the cycle, hot
    double copper_loss = 0;   ///< W mean, hot; NaN without constant and resistance
    double voltage = 0;       ///< V between lines (terminals) the cycle needs at the most, cold or hot, as if it were
                              ///< there without field weakening; NaN without a constant
    /// Copper loss at the nodes of each span, W hot, or without a resistance the square of the current, A²; by a
    /// sheet's curve alone the square of the torque, N²·m².
    std::vector<std::array<double, span_node_count>> copper;
    bool beyond_voltage = false; ///< somewhere the constants do not reach torque and speed at this bus; currents are
                                 ///< then as without the limit of voltage
};

MotorUse motor_use(const Demand& d, Capability can);

} // namespace fulmox

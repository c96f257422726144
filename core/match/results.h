// What is found out about an axis, each result with the inputs it is made from.
#pragma once

#include "core/demand/demand.h"
#include "core/demand/stages.h"
#include "core/drivetrain/brake_stop.h"
#include "core/drivetrain/coupling_bounds.h"
#include "core/drivetrain/precision.h"
#include "core/drivetrain/screw_life.h"
#include "core/drivetrain/stiffness.h"
#include "core/load/statement.h"
#include "core/model/need.h"
#include "core/motion/trajectory.h"
#include "core/motor/capability.h"
#include "core/motor/cycle_heat.h"
#include "core/motor/overload_integral.h"

#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

namespace fulmox {

/// A result and what it needs. While an axis is assessed it is calculated with stand-ins too, for the sake of rows that
/// need less; `Waiting` then hides what waits, so that a reader sees it only where nothing it is made from is missing.
template <class T> class Computed {
  public:
    /// What a part of it needs besides, and how it is left out where that is missing.
    struct Part {
        need::Bits needs;
        void (*leave_out)(T&);
    };

    explicit Computed(need::Bits needs = 0, std::span<const Part> parts = {}) : needs_(needs), parts_(parts) {}

    Computed& operator=(T value) {
        value_ = std::move(value);
        return *this;
    }
    void set(std::optional<T> value) { value_ = std::move(value); }
    void reset() { value_.reset(); }

    explicit operator bool() const { return value_.has_value(); }
    bool has_value() const { return value_.has_value(); }
    const T& operator*() const { return *value_; }
    const T* operator->() const { return &*value_; }
    T& value() { return *value_; }
    const T* get() const { return value_ ? &*value_ : nullptr; }

    need::Bits needs() const { return needs_; }
    void needs_also(need::Bits more) { needs_ |= more; }

    /// Hides it, or the part of it, that waits; `waits` tells of need bits whether one of them is missing.
    template <class Waits> void hide(const Waits& waits) {
        if (!value_) return;
        if (waits(needs_)) return value_.reset();
        for (const Part& part : parts_)
            if (waits(part.needs)) part.leave_out(*value_);
    }

  private:
    std::optional<T> value_;
    need::Bits needs_;
    std::span<const Part> parts_;
};

/// Currents of the cycle and what the drive gives, A RMS of the line or DC; NaN where there is none.
struct DriveCurrents {
    bool rms = true; ///< else DC
    double peak = 0, over_cycle = 0;
    double drive_continuous = 0, drive_peak = 0; ///< as derated; infinite: not limited
};

/// What one fill of a winder asks for.
struct FillUse {
    std::string name;
    double web = 0;                         ///< m
    double rms_torque = 0, peak_torque = 0; ///< N·m; the peak is signed
    double peak_speed = 0;
};

/// Results that rows read and say so; the reports have an object or a table of each.
enum class AxisResult {
    none,
    motion,
    inertia,
    stiffness,
    demand,
    fills,
    currents,
    heat,
    stages,
    coupling,
    brake,
    overload,
    screw_life,
    precision
};

namespace need {
inline constexpr Bits of_inertia = travel | inertia | ratio_inertia;
inline constexpr Bits of_curves = peak_curve | continuous_curve | voltage | top_speed | surroundings;
inline constexpr Bits of_stiffness = travel | inertia | rotor | ratio_inertia | stiffness | bending | buckling;
inline constexpr Bits of_currents = demand | current | temperatures;
inline constexpr Bits of_heat =
    demand | continuous_curve | surroundings | current | resistance | temperatures | thermal;
inline constexpr Bits of_stages = speeds | stage;
inline constexpr Bits of_coupling = load | stop | coupling;
inline constexpr Bits of_brakes = load | motor_brake | brake_stop | rotor | ratio_inertia;
inline constexpr Bits of_overload = demand | current | resistance | temperatures | voltage | drive_overload;
inline constexpr Bits of_precision = load | precision | stiffness | bending | buckling | pulses;
} // namespace need

/// Where torques, or the emergency stop, are not known the rest of a stage is.
std::span<const Computed<std::vector<StageUse>>::Part> parts_of_stage_use();
/// Without a rotor the statement is that of the load.
std::span<const Computed<InertiaStatement>::Part> parts_of_inertia();

/// What is the same in every state of the axis.
struct AxisResults {
    Computed<Trajectory> motion{need::cycle};
    Computed<InertiaStatement> inertia{need::of_inertia, parts_of_inertia()};
    Computed<Capability> can{need::of_curves};                  ///< of the motor, whatever the axis asks of it
    Computed<StiffnessStatement> stiffness{need::of_stiffness}; ///< not of linear motors
    Computed<std::vector<FillUse>> fills{need::demand};         ///< of a winder, empty to full

    template <class Do> void each(const Do& act) {
        act(motion);
        act(inertia);
        act(can);
        act(stiffness);
        act(fills);
    }
};

/// What follows from one state of it, such as a fill of a winder.
struct StateResults {
    Computed<Demand> demand{need::demand};
    Computed<MotorUse> motor{need::demand | need::of_curves};
    Computed<DriveCurrents> currents{need::of_currents};
    Computed<CycleHeat> heat{need::of_heat};                                       ///< of the motor over the cycle
    Computed<std::vector<StageUse>> stages{need::of_stages, parts_of_stage_use()}; ///< from the motor
    Computed<CouplingUse> coupling{need::of_coupling};                             ///< where there is one
    Computed<BrakeStop> brake{need::of_brakes};                                    ///< where there is one
    Computed<OverloadIntegral> overload{need::of_overload};  ///< where the drive's currents are given
    Computed<ScrewLife> screw_life{need::screw_life};        ///< of a screw; see `screw_life_also`
    Computed<PrecisionBudget> precision{need::of_precision}; ///< not of a winder

    template <class Do> void each(const Do& act) {
        act(demand);
        act(motor);
        act(currents);
        act(heat);
        act(stages);
        act(coupling);
        act(brake);
        act(overload);
        act(screw_life);
        act(precision);
    }
};

/// A spectrum of loads stands in for the cycle.
need::Bits screw_life_also(const Axis& axis);
/// An open-loop stepper lags behind its place under its torque.
need::Bits position_error_also(const Axis& axis);

} // namespace fulmox

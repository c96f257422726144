// The figures of an axis, a row each. When adding one: a row in figures.cpp; its key in the documentation of the JSON
// output and what it needs are compared by tests.
#pragma once

#include "core/match/assess.h"
#include "core/match/waiting.h"
#include "core/match/words.h"

#include <vector>

namespace fulmox {

/// What a figure may look at. The axis is that with stand-ins for what is missing; `needs` of its row keep it from what
/// would follow from them. Pointers are null where there is nothing: no motor, no demand.
struct FigureInput {
    const Axis& axis;
    const LoadModel& load;
    const Words& words;
    const Trajectory* motion = nullptr;
    const InertiaStatement* inertia = nullptr;
    const Demand* demand = nullptr;
    const Capability* can = nullptr;
    const MotorUse* motor = nullptr;
    const CycleHeat* heat = nullptr;
    const Machine* machine = nullptr;
    bool workings = true;
    const Policy* policy = nullptr;
    const CouplingUse* coupling = nullptr;
    const BrakeStop* brake = nullptr;
    const OverloadIntegral* overload = nullptr;
    const StiffnessStatement* stiffness = nullptr;
    const PrecisionBudget* precision = nullptr;
};

/// A row: its key, what it needs (`need` bits), whether the axis has such a figure, and how it is filled in.
struct FigureRow {
    const char* key;
    const char* label;
    const char* direct_label; ///< on a linear drive; null: the same
    Kind kind;
    need::Bits needs;
    bool (*applies)(const FigureInput&);
    void (*fill)(Figure&, const FigureInput&);
    need::Bits (*also)(const Mechanism&) = nullptr; ///< what more it needs on some mechanisms
    const char* read_from = "";                     ///< said of a figure without a working
};

/// Adds a line to the working of a figure whose value is known.
void work(Figure& f, const FigureInput& in, const char* symbol, const char* formula, const char* rule,
    const WorkingValues& values, const char* source = "");

/// All rows, in working order.
const std::vector<FigureRow>& figure_rows();

/// What a row needs on this mechanism: of a winder the fill of most heat is shown, and which that is hangs on the whole
/// demand.
need::Bits needs_of(const FigureRow& row, const Mechanism& mechanism);

/// The figures of an axis. One that waits has no number, and its note says for what.
std::vector<Figure> figures(const FigureInput& in, const Waiting& waiting);

} // namespace fulmox

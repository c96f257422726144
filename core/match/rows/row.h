// A row of the registry: a limit or a figure, under a stable key, and everything the program shows of it.
#pragma once

#include "core/match/assess.h"
#include "core/match/waiting.h"
#include "core/match/words.h"

#include <vector>

namespace fulmox {

/// Subjects in working order; limits and figures of a subject stand in one file of `rows/`.
enum class Section { motion, load, demand, motor, stepper, heat, stage, coupling, brake, drive, precision, screw };

/// Everything a row may look at. The axis is that with stand-ins for what is missing; `needs` of a row keep it from
/// what would follow from them.
struct RowInput {
    const Machine& machine;
    const Axis& axis;
    const Policy& policy;
    const AxisResults& results;
    const StateResults& state;
    const LoadModel& load;
    const Waiting& waiting;
    bool workings = true;
    bool waits = false; ///< something the row needs is missing: only the axis and the machine are to be looked at
    Words words = Words(motion_of(axis.mechanism));
};
using In = const RowInput&;

struct LimitRow {
    const char* key;
    const char* label;
    const char* direct_label = nullptr;    ///< on an axis along a line
    const char* open_loop_label = nullptr; ///< with a stepper that notices no lost step
    Kind kind;
    need::Bits needs;
    need::Bits (*more)(const Axis&) = nullptr; ///< what it needs besides on some axes
    need::Bits over_by = 0; ///< what is enough to say that it is over, where the rest is missing; 0: nothing
    AxisResult reads = AxisResult::none;
    const char* part = "motor"; ///< key of the kind of part it decides, "screw" or "precision"
    bool of_motor = false;      ///< without one it cannot be said
    bool yes_or_no = false;     ///< of it a share of what is allowed tells nothing
    bool (*applies)(In);
    void (*judge)(Limit&, In);             ///< asked only where nothing it needs is missing
    std::vector<const char*> allowed_by{}; ///< fields (below the axis) of which more never makes it worse
    std::vector<const char*> asked_by{};   ///< fields of which more never makes it better; "*" stands for any stage
    const char* meaning;                   ///< for docs/formats
    Section section{};                     ///< set by the registry
};

struct FigureRow {
    const char* key;
    const char* label;
    const char* direct_label = nullptr; ///< on a linear drive
    Kind kind;
    need::Bits needs;
    need::Bits (*more)(const Axis&) = nullptr;
    AxisResult reads = AxisResult::none;
    bool (*applies)(In); ///< whether the axis has such a figure
    void (*fill)(Figure&, In);
    const char* read_from; ///< said of a figure without a working
    const char* meaning;
    Section section{};
};

struct Rows {
    Section section;
    std::vector<LimitRow> limits{};
    std::vector<FigureRow> figures{};
};

} // namespace fulmox

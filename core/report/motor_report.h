// What a datasheet comes to, as JSON, text and tables (docs/formats/datasheet.md).
#pragma once

#include "core/model/problem.h"
#include "core/motor/windings.h"
#include "core/report/table.h"

#include <string>
#include <vector>

namespace fulmox {

/// What to ask of a datasheet beside its constants.
struct SheetQuestions {
    struct AtTorque {
        double torque = 0; ///< N·m (N)
        double speed = 0;  ///< rad/s (m/s)
    };
    std::vector<AtTorque> torques;
    std::vector<double> currents; ///< A RMS of the line, A of the DC link
    double cold = 20;             ///< °C
    std::optional<double> hot;    ///< °C; not given: the winding limit of the sheet
};

std::string sheets_json(const std::vector<Motor>& motors, const Problems& problems, const SheetQuestions& ask = {});
std::string sheets_text(const std::vector<Motor>& motors, const SheetQuestions& ask = {});

/// Windings of one frame, with what this axis makes of each.
Table windings_table(const WindingChoice& windings, bool along);
/// A stepper under each connection its leads allow; the connected one's last column says so.
Table connections_table(const Motor& motor);
/// Every constant under every convention, in units of datasheets; empty where none is known.
Table constants_table(const Motor& motor);
/// "contradicts", "differs within tolerance", "agrees"
const char* verdict_words(Verdict v);
/// Datasheet consistency, with its note and the readings under which it would agree in rows of
/// their own.
Table pairs_table(const std::vector<SheetPair>& pairs, UnitSystem units);

} // namespace fulmox

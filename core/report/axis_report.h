// The quick report of an axis: everything known of it in working order, for paper, for a file, for a copy of a part.
#pragma once

#include "core/match/assess.h"
#include "core/report/table.h"

#include <functional>
#include <string>
#include <vector>

namespace fulmox {

/// A heading with what stands under it, in this order: words, picture, table.
struct ReportSection {
    std::string key; ///< "limits", "figures", …
    std::string title;
    std::vector<std::string> words;
    std::string picture; ///< "schematic", "cycle", "torque", "speed_torque"; empty: none
    Table table;
};

/// What the report says beside the numbers.
struct ReportFacts {
    std::string date;     ///< as it shall be printed
    std::string file;     ///< name of the project file, empty: not saved
    int file_version = 0; ///< of the project format
    std::string version;  ///< of the program
    std::string summary;  ///< the axis in one sentence
    /// What is said of an assumed field in place of that: "catalogue"; empty: nothing.
    std::function<std::string(const std::string& path, const std::string& text)> standing{};
};

/// All sections that have something to say. Figures, limits and fields come from their registries. `assessment` is that
/// of the axis, with workings.
std::vector<ReportSection> axis_report(
    const Machine& machine, std::size_t axis, const Assessment& assessment, const ReportFacts& facts);

// Parts of it, for copying.
Table limits_table(const Assessment& a, UnitSystem units);
/// Those with these keys, or all.
Table figures_table(const Assessment& a, UnitSystem units, const std::vector<std::string>& keys = {});
Table inertia_table(const InertiaStatement& s, bool direct, UnitSystem units);
/// What each cause has in the peak and in the heat.
Table causes_table(const Demand& d, UnitSystem units);
/// Every error at the load, and its share of the worst case.
Table precision_table(const PrecisionBudget& p, bool rotary, UnitSystem units);
/// What gives way between motor and load, turned to the motor's shaft, and its share of the give.
Table stiffness_table(const StiffnessStatement& s, UnitSystem units);
Table segments_table(const Machine& machine, std::size_t axis, const Assessment& a);
/// Limits with the lines of their workings below them, in working order.
Table workings_table(const Assessment& a, UnitSystem units);

} // namespace fulmox

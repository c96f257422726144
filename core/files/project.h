// The project file, *.fulmox: JSON, quantities as the user wrote them.
#pragma once

#include "core/files/bounds.h"
#include "core/model/machine.h"
#include "core/model/part.h"
#include "core/model/problem.h"
#include "core/quantity/result.h"

#include <string>
#include <string_view>
#include <unordered_map>

namespace fulmox {

inline constexpr const char* project_format = "fulmox-project";
inline constexpr int project_version = 7;

struct ProjectRead {
    Machine machine;
    Problems problems;                          ///< with pointer and line
    std::unordered_map<std::string, int> lines; ///< of every value of the file, by its pointer
    int version = 0;                            ///< as found in the file
    bool upgraded = false;                      ///< came from an older version
    bool read_only = false; ///< newer version, or parts that could not be kept: saving over it would lose something
    std::string warning;    ///< one sentence for the user, empty if all is well
};

/// Reads a project. A failure means the text is no project at all; anything less is in `problems`, the rest is kept.
/// Unknown members are kept and written back.
Result<ProjectRead, Problem> read_project(std::string_view text);

/// Writes a project with two spaces of indentation, members in the order of their descriptions.
std::string write_project(const Machine& machine);

/// JSON Schema (2020-12) of the project file, generated from the descriptions.
std::string project_schema();

struct CatalogueRead {
    std::string name;
    Problems problems;
};
/// Parts of one kind from a catalogue file, {"format": "fulmox-catalogue", "version": 1, "motors": [ … ]}, into
/// `parts`. What is wrong with one is said by its place and line; every part keeps its place.
Result<CatalogueRead, Problem> read_catalogue(std::string_view text, const PartKind& kind, ListRef parts);

struct PartsRead {
    std::string name;
    PartLists parts;
    Problems problems;
};
/// Every list of parts of a catalogue file; a file may have several kinds. `problems` are those of the file and of
/// `check_parts`, with lines; every part keeps its place.
Result<PartsRead, Problem> read_parts(std::string_view text);
/// A catalogue file of these parts; kinds of which there are none are left out.
std::string write_parts(const std::string& name, const PartLists& parts);

struct MotorCatalogue {
    std::string name;
    std::vector<Motor> motors;
    Problems problems;
};
Result<MotorCatalogue, Problem> read_motors(std::string_view text);
/// A catalogue file of these motors.
std::string write_motors(const std::string& name, const std::vector<Motor>& motors);
/// Datasheets: one motor as a project has it, a list of them, or a catalogue (docs/formats/datasheet.md). Their names
/// need not differ, and what a whole axis would need may be missing.
Result<MotorCatalogue, Problem> read_sheets(std::string_view text);

} // namespace fulmox

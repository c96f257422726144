// What is kept of unsaved work while a session lives: the project, where it came from, and what that file held then.
#pragma once

#include "core/model/problem.h"
#include "core/quantity/result.h"

#include <string>
#include <string_view>

namespace fulmox {

struct RecoveryFile {
    std::string file;    ///< the project's file, empty: never saved
    std::string mark;    ///< of what that file held, as hexadecimal digits; empty: unknown
    std::string project; ///< text of a project file

    bool operator==(const RecoveryFile&) const = default;
};

/// Reads {"file": "…", "mark": "…", "project": "…"}. A failure says with a line what is missing or no text.
Result<RecoveryFile, Problem> read_recovery(std::string_view text);

std::string write_recovery(const RecoveryFile& kept);

} // namespace fulmox

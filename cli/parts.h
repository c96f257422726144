// Commands about parts: lists, catalogues, candidates, the plan of a screw. Each gives the exit code.
#pragma once

#include <cstddef>
#include <string>

namespace fulmox {

struct CandidateOptions {
    std::string axis, kind, catalogue;
    std::size_t place = 1;
};

int show_parts(const std::string& path, bool json, bool csv);
/// Motors of a catalogue on an axis; `catalogue` empty: the one that ships.
int judge_catalogue(
    const std::string& path, const std::string& named, const std::string& catalogue, bool json, bool csv);
int judge_candidates(const std::string& path, const CandidateOptions& options, bool json, bool csv);
/// What a catalogue holds, how its columns are taken, what is wrong. `kind`: key, empty: guessed.
int check_catalogue(const std::string& path, const std::string& kind, bool json);
/// One kind of part of a catalogue as CSV.
int catalogue_as_csv(const std::string& path, const std::string& kind);
/// The plan of a screw, or its drawing.
int plan_screw(const std::string& path, const std::string& named, bool svg, bool dxf);

} // namespace fulmox

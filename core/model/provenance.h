// Where a part comes from; it stays with the part wherever that goes.
#pragma once

#include "core/model/field.h"

#include <string>

namespace fulmox {

struct Provenance {
    std::string file; ///< that it was read from
    std::string line; ///< of that file, "12"
    std::string date; ///< on which it was read, ISO 8601
    std::string note; ///< who said so, anything worth knowing later
    Extra extra;

    bool operator==(const Provenance&) const = default;

    void describe(FieldVisitor& v);
};

/// The same with what else a catalogue says of a part; a motor has both of its own.
struct Listing : Provenance {
    std::string series;
    std::string origin; ///< catalogue or datasheet

    bool operator==(const Listing&) const = default;

    void describe(FieldVisitor& v);
};

inline constexpr GroupSpec provenance_spec{
    "listing", "Listing", "Kept with the part wherever it goes.", true, need::record, false, true};

} // namespace fulmox

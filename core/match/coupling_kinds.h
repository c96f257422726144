// Which kind of coupling would suit the axis, and why not the others.
#pragma once

#include "core/match/assess.h"

#include <vector>

namespace fulmox {

/// Of one kind; traits and reasons are common practice, no source.
struct CouplingAdvice {
    CouplingKind kind = CouplingKind::unsaid;
    const char* label = "";
    const char* traits = "";
    std::vector<Text> against; ///< on this axis; empty: nothing that is known speaks against it
};

/// Of every kind, in the order of their list. What is not known of the axis speaks neither for nor against.
std::vector<CouplingAdvice> coupling_kinds(const Axis& axis, const Assessment& a);

} // namespace fulmox

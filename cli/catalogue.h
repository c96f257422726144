// The catalogues that ship with the program.
#pragma once

#include <string_view>

namespace fulmox {

/// The text of data/catalogue for a list of parts ("motors"), JSON or CSV; empty: there is none.
std::string_view shipped_catalogue(std::string_view list);

} // namespace fulmox

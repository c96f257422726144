// The catalogue that ships with the program.
#pragma once

#include <string_view>

namespace fulmox {

/// The text of data/catalogue/motors.json.
std::string_view shipped_catalogue();

} // namespace fulmox

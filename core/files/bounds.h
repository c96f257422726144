// What no honest file exceeds.
#pragma once

#include <cstddef>

namespace fulmox {

inline constexpr std::size_t largest_file = 80u * 1024 * 1024; ///< bytes
inline constexpr std::size_t most_parts = 100'000;             ///< of one kind in a catalogue
inline constexpr int deepest_json = 48;

} // namespace fulmox

// Spelling of numbers and unit names: the many ways people type the same sign.
#pragma once

#include <string>
#include <string_view>

namespace fulmox::spelling {

/// Typographic signs to the plain ones of the reader: − to -, × · ⋅ to *, ² ³ ⁻¹ to ^2 ^3 ^-1, no-break and
/// thin spaces to a space, Greek mu and ohm to the unit signs. Leaves everything else alone.
std::string plain_signs(std::string_view text);

/// One spelling per unit: "oz-in2", "oz·in²" and "oz in^2" give the same string.
std::string normalise_unit(std::string_view name);

} // namespace fulmox::spelling

// Life of a bearing.
#pragma once

namespace fulmox {

/// h of a deep-groove ball bearing: L10h = 10⁶/(60 n) (C/P)³ at the mean speed; source: ISO 281. `speed` rad/s.
double bearing_hours(double rating, double load, double speed);

} // namespace fulmox

#include "app/compared.h"

#include "app/theme.h"

namespace fulmox::app {

QColor compared_colour(int place) { return theme().cause[(place + 2) % cause_count]; }

} // namespace fulmox::app

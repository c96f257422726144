// An axis in a sentence.
#pragma once

#include "app/document.h"

namespace fulmox::app {

/// "28 to 35 kg, 400 mm, ball screw of 10 mm lead"
QString axis_sentence(Document& document);

} // namespace fulmox::app

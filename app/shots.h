// Pictures of the main views, made from the demo project.
#pragma once

#include <QString>

class QWidget;

namespace fulmox::app {

/// Writes the pictures at 1280×800; 0 on success, as an exit code.
int write_shots(const QString& folder);

/// Ends the program when `window` has been painted once.
void quit_after_first_paint(QWidget& window);

} // namespace fulmox::app

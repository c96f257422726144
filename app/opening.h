// A project file read beside the window: what is large would keep it from answering.
#pragma once

#include "app/storage.h"

class QWidget;

namespace fulmox::app {

/// As `load_project`. What takes longer than a moment shows a dialog over the window that can be stopped; the window
/// takes no input meanwhile. Nothing: it was stopped.
std::optional<Result<ProjectRead, QString>> load_beside(QWidget* window, const QString& file);

/// The same of work that a killed session left behind.
std::optional<Result<ProjectRead, QString>> load_beside(QWidget* window, const Leftover& left);

} // namespace fulmox::app

// Which chapter of the guide a screen, a field, a figure or a limit belongs to.
#pragma once

#include <QString>

class QWidget;

namespace fulmox::app {

/// Heading of the chapter for a place below an axis ("/coupling/top_speed"), or of the project ("/site/ambient").
QString chapter_of_place(const QString& place);

/// Of a limit or figure, by its key.
QString chapter_of_key(const std::string& key);

/// Of what has the keyboard: a field, a limit, a figure; empty: nothing of its own.
QString chapter_of_widget(const QWidget* focus);

} // namespace fulmox::app

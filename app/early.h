// What a start can do on another core while Qt connects to the display: the lists of fonts, and reading the project.
#pragma once

#include "app/main_window.h"

#include <future>
#include <optional>

namespace fulmox::app {

class EarlyWork {
  public:
    /// Begins with what the arguments seem to ask for: some of them may be Qt's own.
    EarlyWork(int argc, char** argv);

    /// Waits until the system's fonts are listed; to be called before the first font is used.
    void fonts_ready();
    /// The project at `file`, or the demo, or nothing; as it was begun, or read now if something else was. Once.
    std::optional<Opening> project(const QString& file, bool demo);

  private:
    std::future<void> fonts_;
    std::future<Opening> project_;
    QString file_; ///< empty: the demo
};

} // namespace fulmox::app

#include "app/early.h"

#include <QFile>
#include <QFileInfo>
#include <QThread>
#include <fontconfig/fontconfig.h>
#include <string_view>

namespace fulmox::app {

namespace {

// An empty name is the demo.
Opening read(const QString& file) {
    if (file.isEmpty()) return {load_demo(), {}};
    return {load_project(file), QFileInfo(file).absoluteFilePath()};
}

} // namespace

EarlyWork::EarlyWork(int argc, char** argv) {
    QThread::currentThread(); // Qt takes the thread it first meets for the main one
    fonts_ = std::async(std::launch::async, [] { FcInit(); });
    bool demo = false;
    for (int i = 1; i < argc; ++i) {
        const std::string_view word = argv[i];
        demo = demo || word == "--demo";
        if (!word.starts_with('-')) file_ = QFile::decodeName(argv[i]);
    }
    if (demo || !file_.isEmpty()) project_ = std::async(std::launch::async, [file = file_] { return read(file); });
}

void EarlyWork::fonts_ready() {
    if (fonts_.valid()) fonts_.get();
}

std::optional<Opening> EarlyWork::project(const QString& file, bool demo) {
    if (file.isEmpty() && !demo) return std::nullopt;
    if (project_.valid() && file == file_) return project_.get();
    return read(file);
}

} // namespace fulmox::app

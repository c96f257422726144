// Files of the application: opening, atomic saving, recovery of unsaved work, recent files.
#pragma once

#include "core/files/project.h"

#include <QDateTime>
#include <QLockFile>
#include <QString>
#include <QStringList>
#include <memory>
#include <vector>

namespace fulmox::app {

/// Reads a project file; the error says what is wrong and what to do. Files over the size limit are refused unread.
Result<ProjectRead, QString> load_project(const QString& file);

/// The demo project that ships with the program.
Result<ProjectRead, QString> load_demo();

/// Writes atomically: the old file stays whole until the new one is. Empty on success, else what went wrong.
QString save_project(const QString& file, const Machine& machine);

QStringList recent_files();
void remember_file(const QString& file);

/// Work that a killed session left behind.
struct Leftover {
    QString recovery_file;
    QString original_file; ///< empty: never saved
    QDateTime when;
};

/// Keeps a copy of unsaved work in the user's data folder while the session lives.
class Recovery {
  public:
    explicit Recovery(QString folder = {}); ///< empty: the user's data folder
    ~Recovery();

    QString keep(const Machine& machine, const QString& original); ///< empty, or why it could not be kept
    void forget();                                                 ///< after a save or a clean close
    std::vector<Leftover> leftovers() const;                       ///< of sessions that no longer run, newest first
    static Result<ProjectRead, QString> load(const Leftover& l);
    static void discard(const Leftover& l);

  private:
    QString folder_;
    QString own_;
    std::unique_ptr<QLockFile> lock_;
};

} // namespace fulmox::app

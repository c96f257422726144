// Files of the application: opening, atomic saving, recovery of unsaved work, recent files.
#pragma once

#include "core/files/project.h"
#include "core/files/recovery.h"

#include <QDateTime>
#include <QString>
#include <QStringList>
#include <optional>
#include <vector>

namespace fulmox::app {

/// Reads a project file; the error says what is wrong and what to do. Files over the size limit are refused unread.
Result<ProjectRead, QString> load_project(const QString& file);

/// The demo project that ships with the program.
Result<ProjectRead, QString> load_demo();

/// Writes atomically: the old file stays whole until the new one is. Empty on success, else what went wrong, a full
/// disk too.
QString write_atomically(const QString& file, const QByteArray& bytes, bool private_to_user = false);
QString save_project(const QString& file, const Machine& machine);

/// What a file held when it was looked at; nothing where it cannot be read.
std::optional<QByteArray> content_mark(const QString& file);

/// A file that only one holder has at a time, as long as it lives; the system gives it free when its process ends,
/// however it ends, and what the file holds does not matter.
class HeldFile {
  public:
    HeldFile() = default;
    ~HeldFile() { release(); }
    HeldFile(const HeldFile&) = delete;
    HeldFile& operator=(const HeldFile&) = delete;
    bool hold(const QString& file); ///< false: somebody else holds it
    void release();                 ///< and removes it
    static bool held_elsewhere(const QString& file);

  private:
    QString file_;
    int handle_ = -1;
};

QStringList recent_files();
void remember_file(const QString& file);

/// Work that a killed session left behind.
struct Leftover {
    QString recovery_file;
    QString original_file; ///< empty: never saved
    QDateTime when;
    QByteArray mark; ///< of the original file as it was opened or saved last
    bool readable = false;
};

/// Keeps a copy of unsaved work in the user's data folder while the window lives, and knows which files are open.
class Recovery {
  public:
    explicit Recovery(QString folder = {}); ///< empty: the user's data folder
    ~Recovery();

    /// Says that this window has the file open; false where another one has. Of one file at a time; empty: of none.
    bool claim(const QString& file);

    /// Empty, or why it could not be kept; `mark` is that of the original file.
    QString keep(const Machine& machine, const QString& original, const QByteArray& mark = {});
    void forget();                           ///< after a save or a clean close
    std::vector<Leftover> leftovers() const; ///< of sessions that no longer run: the readable first, then the newest
    static Result<ProjectRead, QString> load(const Leftover& l);
    static void discard(const Leftover& l);

  private:
    QString folder_;
    QString own_;
    HeldFile session_, file_;

    void clear_up();
    static Result<RecoveryFile, QString> read_kept(const QString& file);
};

} // namespace fulmox::app
